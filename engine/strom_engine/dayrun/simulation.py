"""A plan is run: hands turn, gear answers, time passes between."""

from __future__ import annotations

from bisect import insort
from collections.abc import Sequence
from copy import deepcopy
from dataclasses import replace
from typing import NamedTuple

from strom_engine.dayrun.conditions import Action
from strom_engine.dayrun.discrete_state import DiscreteState, Engine
from strom_engine.dayrun.events import Event, EventKind, StartTry
from strom_engine.dayrun.fuses import Fuses
from strom_engine.dayrun.gear import held_at_rest
from strom_engine.dayrun.hands import Hands
from strom_engine.dayrun.joining import inrushes, load_dumps, unlike_joined
from strom_engine.dayrun.limits import Limits
from strom_engine.dayrun.plan import Plan
from strom_engine.dayrun.recording import Recorder
from strom_engine.dayrun.regulators import charged_banks, first_stage
from strom_engine.dayrun.repeating import Repeats, Step
from strom_engine.dayrun.schedule import Entry, schedule
from strom_engine.dayrun.simulation_context import SimulationContext
from strom_engine.dayrun.stepping import Taken, take_step
from strom_engine.dayrun.tallies import Tallies
from strom_engine.dayrun.timers import Timers
from strom_engine.design import Breaker, Fuse, Relay
from strom_engine.design.fields import PostRef
from strom_engine.errors import DayRunError, NotSettledError
from strom_engine.survey import Survey

__all__ = ["DaySimulation", "LaterFault"]

FIRST_STEP_S = 60.0
SHORTEST_STEP_S = 0.02
LOCATED_S = 0.02  # how closely the moment of a crossing is looked for
BUSY = 400  # so many actions within a second are a ring that has no end
QUIET = 0.02  # of the allowed error: less than this, and little is taken to change


class LaterFault(NamedTuple):
    """A fault that begins within a day: when [s], the boat as it then is, and words for it."""

    at_s: float
    world: SimulationContext
    words: str


class DaySimulation:
    """One day being run; ``run()`` does all of it.

    ``run_until_done`` stops short of that, where another plan parts from this one, and ``parted``
    is then the other plan's day so far.
    """

    def __init__(
        self,
        world: SimulationContext,
        survey: Survey | None,
        plan: Plan,
        limits: Limits | None = None,
        later: LaterFault | None = None,
    ) -> None:
        self.world, self.plan, self.limits = world, plan, limits or Limits()
        self._later = later
        self._queue: list[tuple[float, int, Entry]] = []
        self._pushed = 0
        self.scheduled = schedule(world.design, survey, plan, world.sunlight)
        self._done = 0  # of what is scheduled
        for entry in self.scheduled:
            self.push(entry)
        if later is not None:
            self.push(Entry(later.at_s, "fault"))
        self.at_s, self._end_s = 0.0, plan.hours * 3600
        self.discrete = world.first_discrete
        self.now = world.first_moment()
        self._timers = Timers()
        self._timers.renew(world.conditions(self.discrete), self.now, 0.0)
        self._step_s = FIRST_STEP_S
        self._quiet = False
        self._fuses = Fuses(world.design)
        self._deeds: list[float] = []
        self._hands = Hands(self)
        self.recorder = Recorder(world.design, world.banks)
        self.tallies = Tallies(world.design, world.banks, plan.living)
        self.tallies.book.brief = self.limits.brief
        self.tallies.reached(world.began)
        self._repeats = Repeats(world.banks)
        self.events: list[Event] = []
        self.tries: list[StartTry] = []
        self.steps = 0
        self.note_now()

    def run(self) -> None:
        """Run the whole plan. Raises DayRunError where the circuit finds no rest."""
        self.run_until_done(None)

    def run_until_done(self, count: int | None) -> None:
        """Run until so many entries of the schedule are done, before anything depends on the next.

        Raises DayRunError where the circuit finds no rest.
        """
        try:
            while self.at_s < self._end_s:
                if not self._do_what_is_due(count):
                    return
                self._pass()
                self.limits.progress(self.at_s / self._end_s)
        except NotSettledError as error:
            clock = self.plan.clock_h + self.at_s / 3600
            raise DayRunError(clock, error.parts) from error

    def parted(self, plan: Plan, scheduled: Sequence[Entry], limits: Limits) -> DaySimulation:
        """This day so far, going on by another plan whose schedule began with the same entries."""
        memo = {id(shared): shared for shared in (self.limits, self.plan, self.scheduled)}
        other = deepcopy(self, memo)
        own, others = len(self.scheduled), len(scheduled)
        ahead = [(e.at_s, n, e) for n, e in enumerate(scheduled, 1) if n > self._done]
        # What the day itself has brought about comes after all that was planned for that moment.
        ahead += [(at_s, n + others - own, e) for at_s, n, e in other._queue if n > own]
        other.plan, other.limits, other.scheduled = plan, limits, tuple(scheduled)
        other._queue, other._pushed = (
            sorted(ahead, key=lambda q: q[:2]),
            self._pushed + others - own,
        )
        return other

    # Time passes.

    def _pass(self) -> None:
        next_s = min(self._queue[0][0] if self._queue else self._end_s, self._end_s)
        room = min(next_s, self._timers.next_due_s()) - self.at_s
        if room <= 0:
            return
        room = min(room, max(SHORTEST_STEP_S, self._fuses.room_s(self.now.point)))
        if self.limits.fixed:
            self._accept(self._take(min(room, self.limits.longest_step_s)))
            return
        seconds = min(room, self._step_s, self.limits.longest_step_s)
        taken = self._take(seconds)
        if taken.error > 1.0 and self._quiet:
            self._quiet = False
            taken = self._take(seconds)
        while taken.error > 1.0 and taken.seconds > SHORTEST_STEP_S:
            shorter = taken.seconds * max(0.1, 0.8 * taken.error**-0.5)
            taken = self._take(max(SHORTEST_STEP_S, shorter))
        wanted = taken.seconds * min(4.0, 0.8 * max(taken.error, 1e-4) ** -0.5)
        # A short step that was forced says little about how long the next one may be.
        forced = taken.seconds == seconds < self._step_s and taken.error < 0.1
        self._step_s = max(self._step_s, wanted) if forced else wanted
        if self._timers.crossed(taken.last):
            taken = self._located(taken)
        self._accept(taken)
        self._quiet = taken.error < QUIET

    def _take(self, seconds: float) -> Taken:
        self.steps += 1
        world, discrete = self.world, self.discrete
        banks, around = world.banks_at(discrete.temperature_c), world.around(discrete)
        return take_step(banks, self.at_s, self.now, seconds, around, quiet=self._quiet)

    def _located(self, taken: Taken) -> Taken:
        """The step cut off just after the first condition changes."""
        low_s, high, before, halve = 0.0, taken, self.now, False
        while (width := high.seconds - low_s) > LOCATED_S:
            share = 0.5 if halve else self._timers.soonest(before, high.last)
            # Just past the guess, and never nearer to either end than is looked for.
            guess = low_s + share * width + LOCATED_S / 4
            guess = min(max(guess, low_s + LOCATED_S / 2), high.seconds - LOCATED_S / 2)
            trial = self._take(guess)
            if self._timers.crossed(trial.last):
                high = trial
            else:
                low_s, before = guess, trial.last
            # Where the secant crawls along one end, the middle is tried next.
            halve = high.seconds - low_s > width / 2
        return high

    def _accept(self, taken: Taken) -> None:
        self.at_s += taken.seconds
        if abs(self._end_s - self.at_s) < 1e-6:
            self.at_s = self._end_s
        self.now = taken.last
        self.tallies.add(taken, self.discrete, self.at_s)
        self._repeats.step(Step(taken, self.discrete, self.at_s))
        self._fuses.heat(taken.last.point, taken.seconds)
        self._timers.settle(self.now, self.at_s)
        self.note_now()

    # What is due.

    def _do_what_is_due(self, count: int | None) -> bool:
        """Do it; whether all of it is done, and not so many entries of the schedule before that."""
        while self._done != count:
            if self._queue and self._queue[0][0] <= self.at_s + 1e-9:
                self._repeats.disturbed()
                _, number, entry = self._queue.pop(0)
                self._done += number <= len(self.scheduled)
                self._hands.do(entry)
                continue
            if self._blow_fuses():
                self._repeats.disturbed()
                continue
            watch = self._timers.take(self.at_s)
            if watch is None:
                return True
            self._answer(watch.action)
        return False

    def push(self, entry: Entry) -> None:
        """Let something be done at its moment."""
        self._pushed += 1
        insort(self._queue, (entry.at_s, self._pushed, entry))

    def change(self, **fields: object) -> None:
        """Let things stand otherwise from now on."""
        discrete = replace(self.discrete, **fields)  # type: ignore[arg-type]  # its own fields
        if discrete == self.discrete:
            return
        discrete = self._kept_at_rest(discrete)
        self.discrete, old = discrete, self.now
        self.now = self.world.moment(discrete, self.at_s, old.wells, old.warmth_c, old.kernel)
        self._timers.renew(self.world.conditions(discrete), self.now, self.at_s)
        for news in (
            *inrushes(self.world, old, self.now, discrete),
            *unlike_joined(self.world, old, self.now),
            *load_dumps(self.world, old, self.now),
        ):
            self.tell(*news)
        self.note_now()

    def _kept_at_rest(self, discrete: DiscreteState) -> DiscreteState:
        """Gear whose ignition is dead, or that gives way to a starter, lets go at once."""
        dead = {p.id for p in self.world.automatic if held_at_rest(p, discrete)}
        for name in sorted(dead & discrete.moved):
            self.tell("relay" if self._is_relay(name) else "gear", name, "is let go", "open")
        moved = discrete.moved - dead
        return discrete if moved == discrete.moved else replace(discrete, moved=moved)

    def note_now(self) -> None:
        """Write the present moment down."""
        if not self.limits.brief:
            self.recorder.note(self.at_s, self.now, self.discrete)

    def tell(
        self,
        kind: EventKind,
        part: str,
        words: str,
        to: str = "",
        value: float | None = None,
        unit: str = "",
    ) -> None:
        """Write an event down, and how full the banks are."""
        soc = {n: b.soc(self.now.wells[n]) for n, b in self.world.banks.items()}
        named = self.world.design.by_id.get(part)
        whole = named is None or kind == "start" or named.name in words
        text = words if named is None or whole else f"{named.name} {words}"
        charges = charged_banks(self.now.kernel, part) if kind == "stage" else ()
        self.events.append(Event(self.at_s, kind, part, text, to, value, unit, soc, charges))

    def _is_relay(self, name: str) -> bool:
        return isinstance(self.world.design.by_id[name], Relay)

    # Gear answers.

    def _answer(self, action: Action) -> None:
        self._deeds = [t for t in self._deeds if t > self.at_s - 1.0] + [self.at_s]
        if len(self._deeds) > BUSY:
            raise NotSettledError((action.part,))
        match action.kind:
            case "move":
                moved = self.discrete.moved
                at_rest_open = self.world.design.by_id[action.part].facts.open_at_rest
                closes = (action.to == "moved") == at_rest_open
                kind: EventKind = "relay" if self._is_relay(action.part) else "gear"
                self.tell(kind, action.part, action.words, "closed" if closes else "open")
                there = moved | {action.part} if action.to == "moved" else moved - {action.part}
                # What starts to charge anew begins with bulk.
                holding = self.begun_anew({action.part} if closes else set())
                self.change(moved=frozenset(there), holding=holding)
                self._count_on(action.part, closes=closes)
            case "stage":
                self._repeats.disturbed()
                self.tell("stage", action.part, action.words, action.to)
                self._hold(action.part, action.to)
            case _:
                kind = "hazard" if action.to == "hot" else "load"
                dead = (
                    action.if_dead
                    and self.now.volts(f"{action.part}.pos", f"{action.part}.neg") is None
                )
                self.tell(kind, action.part, action.if_dead if dead else action.words, action.to)

    def _count_on(self, part: str, *, closes: bool) -> None:
        """Where gear goes on in rounds, live as many as may be at once."""
        if self.limits.fixed or self._fuses.warm:
            self._repeats.disturbed()
            return
        next_s = min(self._queue[0][0] if self._queue else self._end_s, self._end_s)
        ahead = self._repeats.moved(
            part,
            self.discrete,
            self.at_s,
            self.now.wells,
            self._timers.left_s(self.at_s),
            next_s - self.at_s,
            closes=closes,
        )
        if ahead is None:
            return
        began_s = self.at_s
        self.at_s += ahead.seconds
        for step in ahead.steps:
            self.tallies.add(step.taken, step.discrete, began_s, ahead.rounds)
        self.tallies.reached(ahead.wells, self.at_s)
        cycling = replace(self.discrete, cycling=frozenset(ahead.closings))
        each = [
            (weight * s.taken.seconds, moment)
            for s in ahead.steps
            for weight, moment in zip(s.taken.weights, (s.taken.first, s.taken.last), strict=True)
        ]
        if not self.limits.brief:
            self.recorder.note_mean(began_s, each, self.now.wells, cycling)
        for name, count in ahead.closings.items():
            self._tell_rounds(name, count, began_s, ahead.seconds)
        self.now = self.world.moment(self.discrete, self.at_s, ahead.wells, self.now.warmth_c)
        self._timers.moved_on(self.at_s, ahead.left_s)
        self._timers.settle(self.now, self.at_s)
        if not self.limits.brief:
            self.recorder.note_mean(self.at_s, each, self.now.wells, cycling)
        self.note_now()
        self._repeats.counted_on(self.discrete, self.at_s, ahead)

    def _tell_rounds(self, name: str, count: int, began_s: float, lasts_s: float) -> None:
        part = self.world.design.by_id[name]
        soc = {n: b.soc(self.now.wells[n]) for n, b in self.world.banks.items()}
        words = f"{part.name} closes and opens {count} times more within {lasts_s / 60:.0f} min"
        kind: EventKind = "relay" if self._is_relay(name) else "gear"
        self.events.append(
            Event(began_s, kind, name, words, "repeats", soc=soc, rounds=count, lasts_s=lasts_s)
        )

    def _hold(self, source: str, stage: str) -> None:
        holding = tuple((n, stage if n == source else s) for n, s in self.discrete.holding)
        self.change(holding=holding)

    def begun_anew(self, sources: set[str]) -> tuple[tuple[str, str], ...]:
        """Stages after some sources have been started: they begin with bulk."""
        first = {n: first_stage(part) for n, part in self.world.staged.items()}
        return tuple((n, first[n] if n in sources else s) for n, s in self.discrete.holding)

    def of_kind(self, kind: str) -> set[str]:
        """Parts of a kind."""
        return {p.id for p in self.world.design.components if p.kind == kind}

    def _blow_fuses(self) -> bool:
        blown = self._fuses.blown()
        for ref in blown:
            name = PostRef(ref).part
            part = self.world.design.by_id[name]
            amps = next((a for at, a, _ in self.now.point.beyond if at == ref), 0.0)
            self.tell("fuse", name, f"opens: {amps:.0f} A", "open", amps, "A")
            if isinstance(part, Breaker):
                self.change(positions=self.turned(name, "off"))
            else:
                far = f"{name}.b" if isinstance(part, Fuse) else ref
                self.change(broken=self.discrete.broken | {far})
        return bool(blown)

    def break_down(self) -> None:
        """The fault begins: the boat is another from now on, with what its banks hold."""
        assert self._later is not None
        self.world, words = self._later.world, self._later.words
        self.tell("fault", "", f"From here on {words}", "begins")
        moved = (self.discrete.moved - set(self.world.stuck)) | {
            name for name, is_moved in self.world.stuck.items() if is_moved
        }
        self.discrete = replace(self.discrete, moved=frozenset(moved))
        old = self.now
        self.now = self.world.moment(self.discrete, self.at_s, old.wells, old.warmth_c, old.kernel)
        self._timers.renew(self.world.conditions(self.discrete), self.now, self.at_s)
        self._fuses, self._repeats = Fuses(self.world.design), Repeats(self.world.banks)
        self.note_now()

    def turned(self, switch: str, position: str) -> tuple[tuple[str, str], ...]:
        """All positions with one switch elsewhere."""
        return tuple((n, position if n == switch else p) for n, p in self.discrete.positions)

    def give_up(self, engine: Engine) -> None:
        """Forget what still waits for a start of an engine."""
        self._queue = [q for q in self._queue if not q[2].waits_for(engine, self.at_s)]
