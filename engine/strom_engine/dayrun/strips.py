"""What stood how and when: switches, gear, stages, engine and shore as strips over time."""

from __future__ import annotations

from collections.abc import Callable, Iterable
from dataclasses import dataclass
from itertools import pairwise
from typing import Literal

from strom_engine.dayrun.day import Day
from strom_engine.dayrun.discrete_state import DiscreteState
from strom_engine.dayrun.regulators import shown_stage
from strom_engine.design import Alternator, Component, Design, Relay
from strom_engine.design.state import switches

__all__ = ["Strip", "StripPiece", "strips"]

CYCLES = "opens and closes"
StripKind = Literal["engine", "shore", "sun", "switch", "relay", "gear", "stage"]


@dataclass(frozen=True)
class StripPiece:
    """From a moment to a moment [s] something stood in a state."""

    start_s: float
    end_s: float
    state: str


@dataclass(frozen=True)
class Strip:
    """One thing over the whole day; ``rest`` is the state in which it mostly stands."""

    kind: StripKind
    part: str
    name: str
    rest: str
    pieces: tuple[StripPiece, ...]


def strips(day: Day) -> tuple[Strip, ...]:
    """Every strip of a day, in the order in which they are shown.

    What never stirs is left out, but for what should join banks: that it never does tells much.
    """
    by_id = day.design.by_id
    found = [
        Strip(kind, part, name, rest, tuple(_pieces(day, state)))
        for kind, part, name, rest, state in _states(day.design)
    ]
    return tuple(
        s
        for s in found
        if (s.part and by_id[s.part].facts.open_at_rest and s.kind != "stage")
        or any(p.state not in (s.rest, "") for p in s.pieces)
    )


State = Callable[[DiscreteState], str]


def _states(design: Design) -> Iterable[tuple[StripKind, str, str, str, State]]:
    yield "engine", "", "Engine", "off", _engine
    yield "shore", "", "Shore lead", "out", lambda s: "in" if s.shore else "out"
    for switch in switches(design):
        if switch.facts.counted == "switches":
            yield "switch", switch.id, switch.name, "off", _position(switch.id)
    for part in design.components:
        if part.moves_itself:
            kind: StripKind = "relay" if isinstance(part, Relay) else "gear"
            rest = part.facts.rest
            yield kind, part.id, part.name, rest, _gear(part.id, rest, part.facts.moved)
    for source in design.components:
        if getattr(source, "float_v", None) is not None:
            yield "stage", source.id, source.name, "", _stage(design, source.id)


def _engine(discrete: DiscreteState) -> str:
    if discrete.cranking:
        return "cranking"
    return "on" if discrete.engines else "off"


def _position(switch: str) -> State:
    return lambda s: dict(s.positions).get(switch, "")


def _gear(part: str, rest: str, moved: str) -> State:
    return lambda s: CYCLES if part in s.cycling else moved if part in s.moved else rest


def _stage(design: Design, source: str) -> State:
    """A source's stage while it can run; nothing while it stands still."""
    part = design.by_id[source]

    def state(discrete: DiscreteState) -> str:
        if source in discrete.silent_sources:
            return ""
        return shown_stage(dict(discrete.holding).get(source, "")) if _runs(part, discrete) else ""

    return state


def _runs(part: Component, discrete: DiscreteState) -> bool:
    """Whether what makes a source charge is there."""
    match part.facts.gives_by:
        case "shore":
            return discrete.shore
        case "sun":
            return discrete.lit
        case "weather":
            return discrete.wind_kn > 0 or discrete.boat_kn > 0
        case "input":
            return part.id in discrete.moved
        case "engine":
            return isinstance(part, Alternator) and part.engine in discrete.engines
        case _:
            return False


def _pieces(day: Day, state: State) -> Iterable[StripPiece]:
    record = day.recording
    words = [state(s) for s in record.standings]
    start, now = 0.0, words[record.discrete[0]]
    for (_, _), (at_s, number) in pairwise(zip(record.at_s, record.discrete, strict=True)):
        if words[number] != now:
            if at_s > start:
                yield StripPiece(start, at_s, now)
            start, now = at_s, words[number]
    yield StripPiece(start, day.plan.hours * 3600, now)
