"""Scenes to practise on this boat, and what the computation answers to every move.

Everyday scenes come from the chosen handling, the others from slips and faults that leave the
engine dead: each begins at the moment of the failed start, with the charge that the banks have
then. A scene is only set where somebody can solve it with the switches of the boat.
"""

from __future__ import annotations

from bisect import bisect_right
from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass, field
from itertools import product
from typing import Annotated, Literal

from pydantic import Field

from strom_engine.circuit import bench
from strom_engine.circuit.bench import BenchResult
from strom_engine.dayrun import Case, Outcome, Plan, consequence, day_of_case, day_run, outcome_of
from strom_engine.dayrun.lines import Rank
from strom_engine.dayrun.plan import EngineSpan, LivingSpan
from strom_engine.dayrun.schools import with_school
from strom_engine.dayrun.slips import plan_of, possible_cases
from strom_engine.design import LoadGroup, Starter, State
from strom_engine.design.fields import Frozen, Name
from strom_engine.design.state import battery_switches, default_positions, switch_positions
from strom_engine.errors import DayRunError, NotSettledError, PlanError
from strom_engine.faults import Fault
from strom_engine.handover.aboard import FIRST_NIGHT_H, MORNING_H, Aboard
from strom_engine.handover.line import Line, SwitchAt
from strom_engine.sizing import turning_v

__all__ = ["Act", "DrillMove", "Played", "Reply", "Scene", "SceneGoal", "Turn", "played", "scenes"]

SceneGoal = Literal["started", "off", "kept", "charging"]
PlayOutcome = Literal["open", "right", "wrong", "harm"]
WARM_C = 20.0
USUAL_SOC = 0.9
MORNINGS = 3
RUN_H = 0.5  # of the engine every morning, so that hands have something to forget
MOST_TROUBLES = 8
MOST_TURNS = 200  # combinations of positions that a way out is looked for in
ORDER: tuple[Rank, ...] = ("hazard", "stranded", "load_lost", "charge_lost", "none")


class Scene(Frozen):
    """A scene: what the owner is told, how everything stands, and what shall be reached.

    ``grade`` is what getting it wrong leads to. ``soc`` is the charge of every bank [0 to 1].
    ``hint`` is what went wrong before it; told when it is over.
    """

    key: Annotated[str, Field(min_length=1, max_length=120)]
    words: str
    number: int = 0
    goal: SceneGoal
    grade: Rank
    engine: Literal["off", "on"] = "off"
    positions: dict[str, str] = Field(default_factory=dict)
    soc: dict[str, float] = Field(default_factory=dict)
    fault: Fault | None = None
    starter: str | None = None
    hint: str = ""


class Turn(Frozen):
    """A switch turned to a position."""

    do: Literal["turn"] = "turn"
    switch: Name
    position: Annotated[str, Field(min_length=1, max_length=40)]


class Act(Frozen):
    """The key turned, the engine stopped, or *this is how I leave it*."""

    do: Literal["start", "stop", "done"]


DrillMove = Annotated[Turn | Act, Field(discriminator="do")]


@dataclass(frozen=True)
class Reply:
    """What follows from a move: words, volts of every bank [V], and whether it harms or helps."""

    line: Line
    outcome: PlayOutcome
    volts_v: Mapping[str, float] = field(default_factory=dict)


@dataclass(frozen=True)
class Played:
    """A scene after some moves: how everything stands, the answers, and how it went."""

    engine: Literal["off", "on"]
    switches: tuple[SwitchAt, ...]
    replies: tuple[Reply, ...]
    outcome: PlayOutcome


def scenes(aboard: Aboard) -> tuple[Scene, ...]:
    """Scenes for a boat and its handling, the gravest first.

    Runs the slip test and the fault sweep of three mornings at anchor: a minute of computing.

    Args:
        aboard: the boat.
    """
    found = [s for s in _everyday(aboard) if not _solved(aboard, s)]
    found += _troubles(aboard)
    return tuple(sorted(found, key=lambda s: ORDER.index(s.grade)))


def _solved(aboard: Aboard, scene: Scene) -> bool:
    """Whether nothing needs to be turned, so that there is nothing to practise."""
    if scene.goal == "started":
        return _starts(aboard, scene, scene.positions)[0]
    return _reached(aboard, scene, scene.positions, scene.engine)


def _everyday(aboard: Aboard) -> Iterator[Scene]:
    way = aboard.way
    trip = dict(way.trips[0]) if way.trips else {}
    charged = {b.id: USUAL_SOC for b in aboard.banks}
    rest, start, run = (default_positions(aboard.design) | dict(p) | trip
                        for p in (way.rest, way.start, way.run))  # fmt: skip
    away = default_positions(aboard.design) | dict(way.away)
    if aboard.starters:
        yield Scene(key="leaving", words="leaving", goal="off", grade="charge_lost", engine="on",
                    positions=run, soc=charged)  # fmt: skip
        yield Scene(key="smoke", words="smoke", goal="off", grade="hazard", engine="on",
                    positions=run, soc=charged)  # fmt: skip
        yield Scene(key="starting", words="starting", goal="started", grade="stranded",
                    positions=away, soc=charged)  # fmt: skip
        yield Scene(key="under_way", words="under_way", goal="charging", grade="charge_lost",
                    engine="on", positions=start, soc=charged)  # fmt: skip
    yield Scene(key="anchor", words="anchor", goal="kept", grade="stranded", engine="off",
                positions=run if aboard.starters else rest, soc=charged)  # fmt: skip


def _troubles(aboard: Aboard) -> list[Scene]:
    """Mornings on which the engine does not turn, after a slip or with a fault."""
    if not aboard.starters:
        return []
    plan = _mornings(aboard)
    try:
        plan = with_school(plan, aboard.design, aboard.school)
        plan = plan.model_copy(update={"emergency": {}})
        planned = outcome_of(day_run(aboard.design, aboard.survey, plan))
        cases = possible_cases(aboard.design, aboard.survey, plan)
    except (DayRunError, PlanError):
        return []
    found: dict[object, tuple[float, Scene]] = {}
    for case in cases:
        made = _trouble(aboard, plan, case, planned)
        if made is None:
            continue
        weight, scene = made
        like = (
            tuple(scene.positions.items()),
            scene.fault and (scene.fault.kind, scene.fault.part),
        )
        if like not in found or found[like][0] < weight:
            found[like] = made
    worst = sorted(found.values(), key=lambda pair: -pair[0])[:MOST_TROUBLES]
    return [scene for _, scene in worst]


def _mornings(aboard: Aboard) -> Plan:
    hours = MORNING_H + 24.0 * (MORNINGS - 1) + 2
    afloat = [p.id for p in aboard.design.profiles if not p.shore]
    living = (LivingSpan(start_h=0, end_h=hours, profile=afloat[0]),) if afloat else ()
    starts = [MORNING_H + 24.0 * n for n in range(MORNINGS)]
    return Plan(
        name="Mornings at anchor", hours=hours, clock_h=FIRST_NIGHT_H, living=living,
        engine=tuple(EngineSpan(start_h=at, end_h=at + RUN_H) for at in starts),
        soc={b.id: USUAL_SOC for b in aboard.banks},
    )  # fmt: skip


def _trouble(
    aboard: Aboard, plan: Plan, case: Case, planned: Outcome
) -> tuple[float, Scene] | None:
    """The scene of a case that leaves the engine dead, where a way out is left."""
    try:
        day = day_of_case(aboard.design, aboard.survey, plan, case)
    except (DayRunError, NotSettledError):
        return None
    failed = next((t for t in day.tries if not t.started), None)
    if failed is None:
        return None
    told = consequence(aboard.design, planned, outcome_of(day))
    if told.rank not in ("stranded", "hazard"):
        return None
    at = max(bisect_right(day.recording.at_s, failed.at_s) - 1, 0)
    soc = {name: round(min(max(column[at], 0.0), 1.0), 3)
           for name, column in day.recording.soc.items()}  # fmt: skip
    positions = default_positions(aboard.design)
    for move in sorted(plan_of(plan, case).moves, key=lambda m: m.at_h):
        if move.at_h * 3600 <= failed.at_s:
            positions[move.switch] = move.position
    morning = int((failed.at_s / 3600 - MORNING_H) // 24) + 1
    scene = Scene(
        key=f"trouble {case.key}", words="trouble", number=morning, goal="started",
        grade="stranded", positions=positions, soc=soc, fault=case.fault, starter=failed.starter,
        hint=case.words,
    )  # fmt: skip
    # What answers moves has no loads running: near the limit it may start what the day could not.
    dead = not _starts(aboard, scene, positions)[0]
    return (told.weight, scene) if dead and _can_be_solved(aboard, scene) else None


def _can_be_solved(aboard: Aboard, scene: Scene) -> bool:
    switches = battery_switches(aboard.design)
    ways = list(product(*(switch_positions(s) for s in switches)))[:MOST_TURNS]
    turned = ({s.id: p for s, p in zip(switches, way, strict=True)} for way in ways)
    return any(_starts(aboard, scene, scene.positions | way)[0] for way in turned)


def _bench(aboard: Aboard, scene: Scene, positions: Mapping[str, str], **state: object
           ) -> BenchResult | None:  # fmt: skip
    told = State.model_validate({"positions": dict(positions), "soc": scene.soc, **state})
    try:
        return bench(aboard.design, told, *((scene.fault,) if scene.fault else ()))
    except NotSettledError:
        return None


def _starts(
    aboard: Aboard, scene: Scene, positions: Mapping[str, str]
) -> tuple[bool, Starter, float, float]:
    """Whether the engine turns; its starter, the volts there, and what it needs [V]."""
    at_all = (s for s in aboard.starters if scene.starter in (None, s.id))
    starter = next(at_all, aboard.starters[0])
    crank = "cranking" if starter.engine == "first" else "second_cranking"
    need_v = turning_v(aboard.design, starter, WARM_C)
    result = _bench(aboard, scene, positions, engine="off", **{crank: True})
    volts = None
    if result is not None:
        volts = result.point.volts_between(f"{starter.id}.pos", f"{starter.id}.neg")
    return (volts or 0.0) >= need_v, starter, volts or 0.0, need_v


def played(aboard: Aboard, scene: Scene, moves: Sequence[DrillMove]) -> Played:
    """A scene with the moves made so far, each answered by the computation.

    Args:
        aboard: the boat.
        scene: one of hers.
        moves: in order; what comes after the end of a scene is left out.
    """
    game = _Game(aboard, scene)
    for move in moves:
        if game.outcome != "open":
            break
        game.make(move)
    return Played(game.engine, aboard.shown(game.positions), tuple(game.replies), game.outcome)


class _Game:
    """A scene under way."""

    def __init__(self, aboard: Aboard, scene: Scene) -> None:
        self.aboard, self.scene = aboard, scene
        self.positions = dict(scene.positions)
        self.engine: Literal["off", "on"] = scene.engine
        self.replies: list[Reply] = []
        self.wrong = 0

    @property
    def outcome(self) -> PlayOutcome:
        """Open until something is harmed or reached; with a wrong move in between it is wrong."""
        return self.replies[-1].outcome if self.replies else "open"

    def make(self, move: Turn | Act) -> None:
        if isinstance(move, Turn):
            self._turn(move)
        elif move.do == "start":
            self._start()
        elif move.do == "stop":
            self.engine = "off"
            self._say("drill.stopped")
        else:
            self._done()

    def _turn(self, move: Turn) -> None:
        self.positions[move.switch] = move.position
        result = _bench(self.aboard, self.scene, self.positions, engine=self.engine)
        switch = next(
            (s for s in self.aboard.shown(self.positions) if s.switch == move.switch), None
        )
        if result is None or switch is None:
            self._say("drill.unknown")
            return
        if self.engine == "on" and result.point.loose_sources:
            source = self.aboard.design.by_id[result.point.loose_sources[0]].name
            self._say("drill.loose", {"switch": switch.name, "position": switch.mark,
                                      "source": source}, "harm", result)  # fmt: skip
            return
        values: dict[str, float | str] = {"switch": switch.name, "position": switch.mark}
        fed = ", ".join(self._feeding(result))
        self._say("drill.turned" if fed else "drill.turned_dark", values | {"fed": fed},
                  result=result)  # fmt: skip

    def _start(self) -> None:
        runs, starter, volts, need_v = _starts(self.aboard, self.scene, self.positions)
        values: dict[str, float | str] = {
            "engine": starter.name, "volts": volts, "need": need_v,
        }  # fmt: skip
        if not runs:
            self.wrong += 1
            self._say("drill.dead" if volts > 0 else "drill.nothing", values)
            return
        self.engine = "on"
        self._end("drill.runs", values) if self.scene.goal == "started" else self._say(
            "drill.runs", values
        )

    def _done(self) -> None:
        if _reached(self.aboard, self.scene, self.positions, self.engine):
            self._end(f"drill.done.{self.scene.goal}")
        else:
            self.wrong += 1
            self._say(f"drill.not_yet.{self.scene.goal}", self._why_not())

    def _why_not(self) -> dict[str, float | str]:
        result = _bench(self.aboard, self.scene, self.positions, engine=self.engine)
        fed = self._feeding(result) if result else []
        alive = _alive(self.aboard, result) if result else []
        return {"fed": ", ".join(fed), "alive": ", ".join(alive) or "–"}

    def _feeding(self, result: BenchResult) -> list[str]:
        """Banks that feed what is not always on."""
        feeding = _feeding(self.aboard, result)
        return [b.name for b in self.aboard.banks if b.id in feeding]

    def _end(self, key: str, values: Mapping[str, float | str] | None = None) -> None:
        self._say(key, values, "wrong" if self.wrong else "right")

    def _say(
        self,
        key: str,
        values: Mapping[str, float | str] | None = None,
        outcome: PlayOutcome = "open",
        result: BenchResult | None = None,
    ) -> None:
        if result is None and self.engine == "off":
            result = _bench(self.aboard, self.scene, self.positions, engine="off")
        volts = {} if result is None else {
            b.name: result.point.banks[b.id].volts_v for b in self.aboard.banks
        }  # fmt: skip
        self.replies.append(Reply(Line(key, values or {}), outcome, volts))


def _feeding(aboard: Aboard, result: BenchResult) -> set[str]:
    groups = aboard.design.of_type(LoadGroup)
    return {
        bank
        for group in groups
        if not all(item.always_on for item in group.items)
        for bank in result.reach.fed_by.get(group.id, ())
    }


def _alive(aboard: Aboard, result: BenchResult) -> list[str]:
    """Load groups that are fed and not always on."""
    return [
        g.name
        for g in aboard.design.of_type(LoadGroup)
        if not all(i.always_on for i in g.items) and result.reach.fed_by.get(g.id)
    ]


def _reached(
    aboard: Aboard, scene: Scene, positions: Mapping[str, str], engine: Literal["off", "on"]
) -> bool:
    """Whether a scene's goal is reached as everything stands."""
    result = _bench(aboard, scene, positions, engine=engine)
    if result is None or scene.goal == "started":
        return False
    if scene.goal == "charging":
        if engine == "off" or result.point.loose_sources:
            return False
        way = _bench(aboard, scene, scene.positions | dict(aboard.way.run), engine="on")
        wanted = _charged(way) if way else set()
        return bool(wanted) and wanted <= _charged(result)
    if engine == "on":
        return False
    feeding = _feeding(aboard, result)
    if scene.goal == "off":
        least = aboard.bench(aboard.way.away)
        return feeding <= (_feeding(aboard, least) if least else set())
    kept = {b.id for b in aboard.banks if b.role == "engine"}
    return bool(feeding) and not feeding & kept


def _charged(result: BenchResult) -> set[str]:
    """Banks that some source charges."""
    return {bank for banks in result.reach.charges.values() for bank in banks}
