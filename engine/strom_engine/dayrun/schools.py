"""Schools of handling: what people turn when they start, run, rest and leave, on this scheme."""

from __future__ import annotations

from collections.abc import Callable, Iterable
from dataclasses import dataclass
from typing import Literal

from strom_engine.circuit.network import Network, network
from strom_engine.dayrun.plan import MAX_MOVES, Move, Occasion, Plan
from strom_engine.design import (
    Bank,
    DcDc,
    Design,
    DualSwitch,
    Isolator,
    OneWayCombiner,
    OnOffSwitch,
    Relay,
    Selector,
    default_positions,
    switch_positions,
)
from strom_engine.design.state import battery_switches, control_switches, switches
from strom_engine.errors import PlanError, Problem

__all__ = ["SCHOOLS", "Handling", "School", "SchoolId", "handling", "with_school"]

SchoolId = Literal["a", "b", "c", "d", "as_drawn"]
Positions = dict[str, str]
AFTER_START_H = 0.01  # half a minute: the engine has been listened to
AFTER_STOP_H = 1 / 60


@dataclass(frozen=True)
class School:
    """A school: its letter, its name, and what it does in a sentence."""

    id: SchoolId
    name: str
    habit: str


SCHOOLS: tuple[School, ...] = (
    School("a", "Both while it runs", "Both banks together whenever the engine runs, house alone."),
    School("b", "One out, one home", "One bank on the way out, the other on the way home."),
    School(
        "c",
        "Engine bank starts",
        "The engine bank alone for every start; what shares charge does the rest.",
    ),
    School(
        "d",
        "On all day",
        "Engine and house circuits on and apart all day; combined only in an emergency.",
    ),
    School("as_drawn", "Nobody turns anything", "Every switch stays as it is drawn."),
)


@dataclass(frozen=True)
class Handling:
    """A school on one scheme: where everything stands at rest, at a start, while the engine runs,
    when the boat is left, and what is turned after a start that failed.

    ``trips`` has, for a school that changes over, what differs from one engine run to the next.
    ``why_not`` says why the scheme has no such handling.
    """

    school: SchoolId
    rest: Positions
    start: Positions
    run: Positions
    away: Positions
    emergency: Positions
    trips: tuple[Positions, ...] = ()
    why_not: str | None = None


def handling(design: Design, school: SchoolId) -> Handling:
    """What a school does with the switches of a design.

    Args:
        design: the boat, as surveyed.
        school: letter or name of the school.

    Returns:
        Positions for starting, under way and at rest; why it cannot be followed where so.
    """
    if school == "as_drawn":
        drawn: Positions = {s.id: s.position for s in battery_switches(design)}
        return Handling(school, drawn, drawn, drawn, drawn, {})
    aboard = _Aboard(design)
    return {"a": _both, "b": _out_and_home, "c": _engine_bank, "d": _all_day}[school](aboard)


def with_school(plan: Plan, design: Design, school: SchoolId) -> Plan:
    """A plan with the moves of a school in place of its own; what a school cannot do is left.

    Raises PlanError where that makes more moves than a plan may have.

    Args:
        plan: the day.
        design: the boat, as surveyed.
        school: letter or name of the school.

    Returns:
        The plan with moves at hours [h] of the plan.
    """
    way = handling(design, school)
    wanted: list[tuple[float, Positions, Occasion]] = []
    aboard = sorted((s.start_h, s.end_h) for s in plan.living)
    at_home = any(a <= 0 for a, _ in aboard)
    wanted.append((0.0, way.rest if at_home else way.away, "aboard" if at_home else "leave"))
    for start_h, end_h in _joined(aboard):
        if start_h > 0:
            wanted.append((start_h, way.rest, "aboard"))
        if end_h < plan.hours:
            wanted.append((end_h, way.away, "leave"))
    for n, span in enumerate(sorted(plan.engine, key=lambda s: s.start_h)):
        trip = way.trips[n % len(way.trips)] if way.trips else {}
        wanted.append((span.start_h, way.start | trip, "start"))
        wanted.append((min(span.end_h, span.start_h + AFTER_START_H), way.run | trip, "run"))
        stop_h = min(plan.hours, span.end_h + AFTER_STOP_H)
        people = any(a <= span.end_h < b for a, b in aboard)
        wanted.append((stop_h, (way.rest | trip) if people else way.away, "stop"))
    moves = tuple(_moves(wanted))
    if len(moves) > MAX_MOVES:
        text = f"handled so, {len(moves)} switches are turned; the longest plan has {MAX_MOVES}"
        raise PlanError([Problem("engine", f"{text}: make it shorter")])
    return plan.model_copy(update={"moves": moves, "emergency": way.emergency})


def _joined(spans: Iterable[tuple[float, float]]) -> list[tuple[float, float]]:
    """Spans that touch, as one."""
    found: list[tuple[float, float]] = []
    for start, end in spans:
        if found and start <= found[-1][1] + 1e-9:
            found[-1] = found[-1][0], max(found[-1][1], end)
        else:
            found.append((start, end))
    return found


def _moves(wanted: list[tuple[float, Positions, Occasion]]) -> Iterable[Move]:
    """Only what really turns; of two wishes at one moment the later one."""
    stands: Positions = {}
    wanted = sorted(wanted, key=lambda w: w[0])
    for i, (at_h, positions, occasion) in enumerate(wanted):
        if i + 1 < len(wanted) and wanted[i + 1][0] <= at_h + 1e-9:
            continue
        for switch, position in positions.items():
            if stands.get(switch) != position:
                stands[switch] = position
                yield Move(at_h=at_h, switch=switch, position=position, occasion=occasion)


class _Aboard:
    """The switches of a design by what they are for, and which bank is behind which post."""

    def __init__(self, design: Design) -> None:
        self.design = design
        self.selectors = design.of_type(Selector)
        self.duals = design.of_type(DualSwitch)
        control = control_switches(design)
        plain = [s for s in design.of_type(OnOffSwitch) if s.id not in control]
        self.isolating = [s for s in plain if s.purpose == "isolate"]
        self.parallel = [s for s in plain if s.purpose == "parallel"]
        sharing = (Relay, Isolator, DcDc, OneWayCombiner)
        self.shares = any(isinstance(p, sharing) for p in design.components)
        off = {s.id: "off" for s in switches(design) if "off" in switch_positions(s)}
        off |= {s.id: "on" for s in switches(design) if s.kind == "breaker"}
        self._net: Network = network(design, default_positions(design) | off, frozenset())

    def position_of(self, selector: Selector, role: str) -> str | None:
        """The position in which a selector takes the bank of a role."""
        for post, position in (("one", "1"), ("two", "2")):
            group = self._net.group(f"{selector.id}.{post}")
            for bank in self.design.of_type(Bank):
                if bank.role == role and self._net.group(f"{bank.id}.pos") == group:
                    return position
        return None

    def stand(self, selector: Callable[[Selector], str], dual: str, parallel: str) -> Positions:
        """Everything on, selectors, dual and parallel switches as told."""
        found = {s.id: selector(s) for s in self.selectors}
        found |= {s.id: dual for s in self.duals}
        found |= {s.id: "on" for s in self.isolating}
        return found | {s.id: parallel for s in self.parallel}

    def house(self, selector: Selector) -> str:
        """Where a selector takes the house bank."""
        return self.position_of(selector, "house") or "2"

    def engine(self, selector: Selector) -> str:
        """Where a selector takes the engine bank."""
        return self.position_of(selector, "engine") or "1"

    def away(self) -> Positions:
        """Everything off."""
        return self.stand(lambda s: "off", "off", "off") | {s.id: "off" for s in self.isolating}

    def together(self) -> Positions:
        """Everything joined."""
        return self.stand(lambda s: "both", "combine", "on")

    @property
    def can_join(self) -> bool:
        """Whether a hand can put banks together."""
        return bool(self.selectors or self.duals or self.parallel)


def _both(aboard: _Aboard) -> Handling:
    rest = aboard.stand(aboard.house, "on", "off")
    both = aboard.together()
    why = None if aboard.can_join else "no switch aboard joins the banks"
    return Handling("a", rest, both, both, aboard.away(), {}, why_not=why)


def _out_and_home(aboard: _Aboard) -> Handling:
    out = aboard.stand(aboard.engine, "on", "off")
    trips = (
        {s.id: aboard.house(s) for s in aboard.selectors},
        {s.id: aboard.engine(s) for s in aboard.selectors},
    )
    why = None if aboard.selectors else "no selector aboard takes one bank or the other"
    rest = aboard.stand(aboard.house, "on", "off")
    return Handling("b", rest, out, out, aboard.away(), aboard.together(), trips, why)


def _engine_bank(aboard: _Aboard) -> Handling:
    start = aboard.stand(aboard.engine, "on", "off")
    rest = aboard.stand(aboard.house, "on", "off")
    why = None if aboard.shares else "nothing aboard shares charge by itself"
    return Handling("c", rest, start, start, aboard.away(), aboard.together(), why_not=why)


def _all_day(aboard: _Aboard) -> Handling:
    on = aboard.stand(aboard.house, "on", "off")
    apart = not aboard.selectors and (aboard.duals or len(aboard.isolating) > 1)
    why = None if apart else "engine and house circuits have no switches of their own"
    return Handling("d", on, on, on, aboard.away(), aboard.together(), why_not=why)
