"""A boat lives through a plan: hands turn, gear answers, time passes between."""

from __future__ import annotations

from bisect import insort
from dataclasses import replace
from typing import NamedTuple, cast

from strom_engine.dayrun.events import Event, EventKind, StartTry
from strom_engine.dayrun.fuses import Fuses
from strom_engine.dayrun.gear import held_at_rest
from strom_engine.dayrun.joining import inrushes, load_dumps, unlike_joined
from strom_engine.dayrun.limits import Limits
from strom_engine.dayrun.plan import Plan
from strom_engine.dayrun.recording import Recorder
from strom_engine.dayrun.regulators import charged_banks, first_stage
from strom_engine.dayrun.repeating import Repeats, Step
from strom_engine.dayrun.schedule import Entry, schedule
from strom_engine.dayrun.standing import JOINING, Engine, Standing
from strom_engine.dayrun.starting import engine_name, start_try, start_words, starter_v
from strom_engine.dayrun.stepping import Taken, take_step
from strom_engine.dayrun.tallies import Tallies
from strom_engine.dayrun.timers import Timers
from strom_engine.dayrun.watching import Deed
from strom_engine.dayrun.world import World
from strom_engine.design import Alternator, Breaker, Selector, Starter
from strom_engine.design.state import Switch, position_name
from strom_engine.errors import DayRunError, NotSettledError
from strom_engine.survey import Survey

__all__ = ["LaterFault", "Life"]

FIRST_STEP_S = 60.0
SHORTEST_STEP_S = 0.02
LOCATED_S = 0.02  # how closely the moment of a crossing is looked for
BUSY = 400  # so many deeds within a second are a ring that has no end
BREAK_S = 0.3  # a switch that breaks before it makes stands open for as long as a hand takes
RETRY_S = 20.0
QUIET = 0.02  # of the allowed error: less than this, and little is taken to change


class LaterFault(NamedTuple):
    """A fault that begins within a day: when [s], the boat as it then is, and words for it."""

    at_s: float
    world: World
    words: str


class Life:
    """One day being lived; ``live()`` does all of it."""

    def __init__(
        self,
        world: World,
        survey: Survey | None,
        plan: Plan,
        limits: Limits | None = None,
        later: LaterFault | None = None,
    ) -> None:
        self.world, self.plan, self.limits = world, plan, limits or Limits()
        self._later = later
        self._queue: list[tuple[float, int, Entry]] = []
        self._pushed = 0
        for entry in schedule(world.design, survey, plan, world.sunlight):
            self._push(entry)
        if later is not None:
            self._push(Entry(later.at_s, "fault"))
        self.at_s, self._end_s = 0.0, plan.hours * 3600
        self.standing = world.first_standing
        self.now = world.first_moment()
        self._timers = Timers()
        self._timers.renew(world.watches(self.standing), self.now, 0.0)
        self._step_s = FIRST_STEP_S
        self._quiet = False
        self._fuses = Fuses(world.design)
        self._deeds: list[float] = []
        self._cranked: dict[Engine, float | None] = {}
        self._tried: set[Engine] = set()
        self.recorder = Recorder(world.design, world.banks)
        self.tallies = Tallies(world.design, world.banks, plan.living)
        self.tallies.book.brief = self.limits.brief
        self.tallies.reached(world.began)
        self._repeats = Repeats(world.banks)
        self.events: list[Event] = []
        self.tries: list[StartTry] = []
        self.steps = 0

    def live(self) -> None:
        """Live through the whole plan. Raises DayRunError where the circuit finds no rest."""
        self._note_now()
        try:
            while self.at_s < self._end_s:
                self._do_what_is_due()
                self._pass()
                self.limits.progress(self.at_s / self._end_s)
        except NotSettledError as error:
            clock = self.plan.clock_h + self.at_s / 3600
            raise DayRunError(clock, error.parts) from error

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
        world, standing = self.world, self.standing
        banks, around = world.banks_at(standing.temperature_c), world.around(standing)
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
        self.tallies.add(taken, self.standing, self.at_s)
        self._repeats.step(Step(taken, self.standing, self.at_s))
        self._fuses.heat(taken.last.point, taken.seconds)
        self._timers.settle(self.now, self.at_s)
        self._note_now()

    # What is due.

    def _do_what_is_due(self) -> None:
        while True:
            if self._queue and self._queue[0][0] <= self.at_s + 1e-9:
                self._repeats.disturbed()
                self._do(self._queue.pop(0)[2])
                continue
            if self._blow_fuses():
                self._repeats.disturbed()
                continue
            watch = self._timers.take(self.at_s)
            if watch is None:
                return
            self._answer(watch.deed)

    def _push(self, entry: Entry) -> None:
        self._pushed += 1
        insort(self._queue, (entry.at_s, self._pushed, entry))

    def _change(self, **fields: object) -> None:
        """Let things stand otherwise from now on."""
        standing = replace(self.standing, **fields)  # type: ignore[arg-type]  # its own fields
        if standing == self.standing:
            return
        standing = self._kept_at_rest(standing)
        self.standing, old = standing, self.now
        self.now = self.world.moment(standing, self.at_s, old.wells, old.warmth_c, old.kernel)
        self._timers.renew(self.world.watches(standing), self.now, self.at_s)
        for news in (
            *inrushes(self.world, old, self.now, standing),
            *unlike_joined(self.world, old, self.now),
            *load_dumps(self.world, old, self.now),
        ):
            self._tell(*news)
        self._note_now()

    def _kept_at_rest(self, standing: Standing) -> Standing:
        """Gear whose ignition is dead, or that gives way to a starter, lets go at once."""
        dead = {p.id for p in self.world.automatic if held_at_rest(p, standing)}
        for name in sorted(dead & standing.moved):
            self._tell("relay" if self._is_relay(name) else "gear", name, "is let go", "open")
        moved = standing.moved - dead
        return standing if moved == standing.moved else replace(standing, moved=moved)

    def _note_now(self) -> None:
        if not self.limits.brief:
            self.recorder.note(self.at_s, self.now, self.standing)

    def _tell(
        self,
        kind: EventKind,
        part: str,
        words: str,
        to: str = "",
        value: float | None = None,
        unit: str = "",
    ) -> None:
        soc = {n: b.soc(self.now.wells[n]) for n, b in self.world.banks.items()}
        named = self.world.design.by_id.get(part)
        whole = named is None or kind == "start" or named.name in words
        text = words if named is None or whole else f"{named.name} {words}"
        charges = charged_banks(self.now.kernel, part) if kind == "stage" else ()
        self.events.append(Event(self.at_s, kind, part, text, to, value, unit, soc, charges))

    def _is_relay(self, name: str) -> bool:
        return self.world.design.by_id[name].kind == "relay"

    # Gear answers.

    def _answer(self, deed: Deed) -> None:
        self._deeds = [t for t in self._deeds if t > self.at_s - 1.0] + [self.at_s]
        if len(self._deeds) > BUSY:
            raise NotSettledError((deed.part,))
        match deed.kind:
            case "move":
                moved = self.standing.moved
                at_rest_open = self.world.design.by_id[deed.part].kind in JOINING
                closes = (deed.to == "moved") == at_rest_open
                kind: EventKind = "relay" if self._is_relay(deed.part) else "gear"
                self._tell(kind, deed.part, deed.words, "closed" if closes else "open")
                there = moved | {deed.part} if deed.to == "moved" else moved - {deed.part}
                # What starts to charge anew begins with bulk.
                holding = self._begun_anew({deed.part} if closes else set())
                self._change(moved=frozenset(there), holding=holding)
                self._count_on(deed.part, closes=closes)
            case "stage":
                self._repeats.disturbed()
                self._tell("stage", deed.part, deed.words, deed.to)
                self._hold(deed.part, deed.to)
            case _:
                kind = "hazard" if deed.to == "hot" else "load"
                dead = (
                    deed.if_dead and self.now.volts(f"{deed.part}.pos", f"{deed.part}.neg") is None
                )
                self._tell(kind, deed.part, deed.if_dead if dead else deed.words, deed.to)

    def _count_on(self, part: str, *, closes: bool) -> None:
        """Where gear goes on in rounds, live as many as may be at once."""
        if self.limits.fixed or self._fuses.warm:
            self._repeats.disturbed()
            return
        next_s = min(self._queue[0][0] if self._queue else self._end_s, self._end_s)
        ahead = self._repeats.moved(
            part,
            self.standing,
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
            self.tallies.add(step.taken, step.standing, began_s, ahead.rounds)
        self.tallies.reached(ahead.wells, self.at_s)
        cycling = replace(self.standing, cycling=frozenset(ahead.closings))
        each = [
            (weight * s.taken.seconds, moment)
            for s in ahead.steps
            for weight, moment in zip(s.taken.weights, (s.taken.first, s.taken.last), strict=True)
        ]
        if not self.limits.brief:
            self.recorder.note_mean(began_s, each, self.now.wells, cycling)
        for name, count in ahead.closings.items():
            self._tell_rounds(name, count, began_s, ahead.seconds)
        self.now = self.world.moment(self.standing, self.at_s, ahead.wells, self.now.warmth_c)
        self._timers.moved_on(self.at_s, ahead.left_s)
        self._timers.settle(self.now, self.at_s)
        if not self.limits.brief:
            self.recorder.note_mean(self.at_s, each, self.now.wells, cycling)
        self._note_now()
        self._repeats.counted_on(self.standing, self.at_s, ahead)

    def _tell_rounds(self, name: str, count: int, began_s: float, lasts_s: float) -> None:
        part = self.world.design.by_id[name]
        soc = {n: b.soc(self.now.wells[n]) for n, b in self.world.banks.items()}
        words = f"{part.name} closes and opens {count} times more within {lasts_s / 60:.0f} min"
        kind: EventKind = "relay" if self._is_relay(name) else "gear"
        self.events.append(
            Event(began_s, kind, name, words, "repeats", soc=soc, rounds=count, lasts_s=lasts_s)
        )

    def _hold(self, source: str, stage: str) -> None:
        holding = tuple((n, stage if n == source else s) for n, s in self.standing.holding)
        self._change(holding=holding)

    def _begun_anew(self, sources: set[str]) -> tuple[tuple[str, str], ...]:
        """Stages after some sources have been started: they begin with bulk."""
        first = {n: first_stage(part) for n, part in self.world.staged.items()}
        return tuple((n, first[n] if n in sources else s) for n, s in self.standing.holding)

    def _of_kind(self, kind: str) -> set[str]:
        return {p.id for p in self.world.design.components if p.kind == kind}

    def _blow_fuses(self) -> bool:
        blown = self._fuses.blown()
        for ref in blown:
            name = ref.partition(".")[0]
            part = self.world.design.by_id[name]
            amps = next((a for at, a, _ in self.now.point.beyond if at == ref), 0.0)
            self._tell("fuse", name, f"opens: {amps:.0f} A", "open", amps, "A")
            if isinstance(part, Breaker):
                self._change(positions=self._turned(name, "off"))
            else:
                far = f"{name}.b" if part.kind == "fuse" else ref
                self._change(broken=self.standing.broken | {far})
        return bool(blown)

    # Hands and the clock.

    def _do(self, entry: Entry) -> None:
        match entry.kind:
            case "move":
                self._turn(entry)
            case "on":
                self._change(running=self.standing.running | {entry.what})
            case "off":
                self._change(running=self.standing.running - {entry.what})
            case "sky":
                self._look_at_the_sky()
            case "shore":
                self._plug(on=entry.value > 0)
            case "wind":
                self._change(wind_kn=entry.value)
            case "boat":
                self._change(boat_kn=entry.value)
            case "temperature":
                own = entry.to == "own"
                self._change(temperature_c=None if own else entry.value)
            case "give":
                silent = self.standing.silent - {(entry.what, entry.why)}
                self._change(silent=silent, holding=self._begun_anew({entry.what}))
            case "silence":
                self._change(silent=self.standing.silent | {(entry.what, entry.why)})
            case "lead":
                self._move_lead(entry)
            case "fault":
                self._break()
            case "living":
                pass  # a step ends where somebody comes aboard or goes
            case "try":
                self._try(entry)
            case "cranked":
                self._cranking_ends(entry)
            case "stop":
                self._stop(entry)

    def _move_lead(self, entry: Entry) -> None:
        design = self.now.kernel.design
        where = f"to {design.post_name(entry.to)}"
        name = self.world.design.cable_name(self.world.design.cables_by_id[entry.what])
        self._tell("move", "", f"The lead {name} is moved {where}", entry.to)
        kept = tuple(m for m in self.standing.leads if m[:2] != (entry.what, entry.why))
        self._change(leads=(*kept, (entry.what, entry.why, entry.to)))

    def _break(self) -> None:
        """The fault begins: the boat is another from now on, with what its banks hold."""
        assert self._later is not None
        self.world, words = self._later.world, self._later.words
        self._tell("fault", "", f"From here on {words}", "begins")
        moved = (self.standing.moved - set(self.world.stuck)) | {
            name for name, is_moved in self.world.stuck.items() if is_moved
        }
        self.standing = replace(self.standing, moved=frozenset(moved))
        old = self.now
        self.now = self.world.moment(self.standing, self.at_s, old.wells, old.warmth_c, old.kernel)
        self._timers.renew(self.world.watches(self.standing), self.now, self.at_s)
        self._fuses, self._repeats = Fuses(self.world.design), Repeats(self.world.banks)
        self._note_now()

    def _look_at_the_sky(self) -> None:
        lit = self.world.sunlight.at((self.at_s + 1.0) / 3600) > 0
        if lit and not self.standing.lit:
            self._tell("sun", "", "Sunrise", "up")
            self._change(lit=True, holding=self._begun_anew(self._of_kind("solar")))
        elif not lit and self.standing.lit:
            self._tell("sun", "", "Sunset", "down")
            self._change(lit=False)
        else:
            now = self.now
            self.now = self.world.moment(self.standing, self.at_s, now.wells, now.warmth_c)

    def _plug(self, *, on: bool) -> None:
        if on == self.standing.shore:
            return
        self._tell("shore", "", "Shore lead in" if on else "Shore lead out", "in" if on else "out")
        from_shore = self._of_kind("charger") | self._of_kind("inverter")
        self._change(shore=on, holding=self._begun_anew(from_shore if on else set()))

    def _turned(self, switch: str, position: str) -> tuple[tuple[str, str], ...]:
        return tuple((n, position if n == switch else p) for n, p in self.standing.positions)

    def _turn(self, entry: Entry) -> None:
        was = dict(self.standing.positions).get(entry.what)
        if was is None or was == entry.to:
            return
        part = cast(Switch, self.world.design.by_id[entry.what])
        breaks = isinstance(part, Selector) and part.make_before_break is False
        if breaks and "off" not in (was, entry.to):
            self._change(positions=self._turned(entry.what, "off"))
            self._push(replace(entry, at_s=self.at_s + BREAK_S))
            return
        if entry.why != "pattern":
            self._tell("move", entry.what, f"to {position_name(part, entry.to)}", entry.to)
        self._change(positions=self._turned(entry.what, entry.to))

    def _try(self, entry: Entry) -> None:
        engine: Engine = "second" if entry.what == "second" else "first"
        if engine in self.standing.engines:
            return
        if self.standing.cranking:
            self._push(replace(entry, at_s=self.at_s + self.plan.crank_s + 1.0))
            return
        if not any(s.engine == engine for s in self.world.design.of_type(Starter)):
            self._runs(engine, entry.value)  # it starts by hand, or by what nobody drew
            return
        self._change(cranking=frozenset({engine}), rpm=entry.value)
        self._cranked[engine] = starter_v(self.world.design, self.now, engine)
        peak = self.world.first_instant(self.standing, self.at_s, self.now)
        if peak is not None:
            self.tallies.dip(peak, self.standing)
        self._push(replace(entry, kind="cranked", at_s=self.at_s + self.plan.crank_s))

    def _cranking_ends(self, entry: Entry) -> None:
        engine: Engine = "second" if entry.what == "second" else "first"
        tried, first_v = engine in self._tried, self._cranked.get(engine)
        one = start_try(self.world, self.now, self.at_s, engine, first_v, again=tried)
        if one.started and len(one.banks) > 1 and not self.limits.brief:
            one = replace(one, alone_v=self._alone_v(engine, one.banks))
        self.tries.append(one)
        words = start_words(self.world.design, one, engine)
        to = "started" if one.started else "failed"
        self._tell("start", one.starter, words, to, one.volts_v, "V")
        self._change(cranking=frozenset())
        if one.started:
            self._tried.discard(engine)
            self._runs(engine, entry.value)
        elif self.plan.emergency and not tried:
            self._tried.add(engine)
            for switch, position in self.plan.emergency.items():
                self._push(
                    Entry(self.at_s + RETRY_S / 2, "move", switch, position, why="emergency")
                )
            again = replace(entry, kind="try", at_s=self.at_s + RETRY_S, why="again")
            self._push(again)
        else:
            self._tried.discard(engine)

    def _alone_v(self, engine: Engine, banks: tuple[str, ...]) -> dict[str, float | None]:
        """Volts at the starter [V] with each bank by itself, the others off."""
        found = {}
        for name in banks:
            others = {f"{b}.pos" for b in self.world.banks if b != name}
            alone = replace(self.standing, broken=self.standing.broken | others)
            old = self.now
            now = self.world.moment(alone, self.at_s, old.wells, old.warmth_c, old.kernel)
            found[name] = starter_v(self.world.design, now, engine)
        return found

    def _runs(self, engine: Engine, rpm: float) -> None:
        words = f"{engine_name(self.world.design, engine)} runs"
        self._tell("engine", "", words, "on", rpm, "rpm")
        own = [p for p in self.world.design.of_type(Alternator) if p.engine == engine]
        late = [p for p in own if p.start_delay_s is not None]
        for part in late:
            self._push(Entry(self.at_s + (part.start_delay_s or 0.0), "give", part.id, why="start"))
        self._change(
            engines=self.standing.engines | {engine},
            rpm=rpm,
            holding=self._begun_anew({p.id for p in own}),
            silent=self.standing.silent | {(p.id, "start") for p in late},
        )

    def _stop(self, entry: Entry) -> None:
        engine: Engine = "second" if entry.what == "second" else "first"
        self._queue = [q for q in self._queue if not q[2].waits_for(engine, self.at_s)]
        self._change(cranking=self.standing.cranking - {engine})
        if engine in self.standing.engines:
            words = f"{engine_name(self.world.design, engine)} stopped"
            self._tell("engine", "", words, "off")
            self._change(engines=self.standing.engines - {engine})
