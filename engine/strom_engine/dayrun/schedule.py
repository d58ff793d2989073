"""A plan as a list of what is done when."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass
from typing import Literal

from strom_engine.dayrun.discrete_state import Engine
from strom_engine.dayrun.pattern import inverter_spans, load_spans
from strom_engine.dayrun.plan import Plan
from strom_engine.dayrun.sun import Sunlight
from strom_engine.design import Design, Starter
from strom_engine.survey import Survey

__all__ = ["Entry", "schedule"]

Kind = Literal[
    "move",
    "try",
    "cranked",
    "stop",
    "shore",
    "on",
    "off",
    "sky",
    "wind",
    "boat",
    "temperature",
    "living",
    "give",
    "silence",
    "lead",
    "fault",
]
# What happens at the same moment is done in this order: first what ends, then hands, then starts.
ORDER: tuple[Kind, ...] = (
    "stop",
    "off",
    "fault",
    "lead",
    "silence",
    "give",
    "shore",
    "sky",
    "wind",
    "boat",
    "temperature",
    "living",
    "move",
    "on",
    "try",
    "cranked",
)


@dataclass(frozen=True)
class Entry:
    """At a moment [s], something is done: ``what`` is a switch, an item or an engine."""

    at_s: float
    kind: Kind
    what: str = ""
    to: str = ""
    value: float = 0.0
    why: str = ""

    def waits_for(self, engine: Engine, at_s: float) -> bool:
        """Whether it belongs to a start, still to come at a moment [s], that is given up."""
        waits = self.kind == "cranked" or self.why == "again"
        return waits and self.what == engine and self.at_s >= at_s


def schedule(
    design: Design, survey: Survey | None, plan: Plan, sunlight: Sunlight
) -> tuple[Entry, ...]:
    """Everything that a plan does, in order. What begins at the very end is left out."""
    entries = [
        *_hands(plan),
        *_engines(design, plan),
        *(e for s in plan.shore for e in _both(s.start_h, s.end_h, "shore", 1.0)),
        *(e for s in plan.wind for e in _both(s.start_h, s.end_h, "wind", s.wind_kn)),
        *(e for s in plan.boat for e in _both(s.start_h, s.end_h, "boat", s.boat_kn)),
        *_temperatures(plan),
        *(Entry(h * 3600, "living") for s in plan.living for h in (s.start_h, s.end_h)),
        *(Entry(h * 3600, "sky") for h in sunlight.edges_h),
        *_loads(design, survey, plan),
        *_sources(plan),
        *(Entry(m.at_h * 3600, "lead", m.cable, m.to, why=m.end) for m in plan.leads),
    ]
    end_s = plan.hours * 3600
    kept = [e for e in entries if e.at_s < end_s]
    return tuple(sorted(kept, key=lambda e: (e.at_s, ORDER.index(e.kind), e.what)))


def _both(start_h: float, end_h: float, kind: Kind, value: float) -> Iterable[Entry]:
    yield Entry(start_h * 3600, kind, value=value)
    yield Entry(end_h * 3600, kind, value=0.0)


def _hands(plan: Plan) -> Iterable[Entry]:
    for move in plan.moves:
        if move.through is not None:
            # A hand takes about a second to turn on.
            at = max(0.0, move.at_h * 3600 - 1.0)
            yield Entry(at, "move", move.switch, move.through, why=move.occasion)
        yield Entry(move.at_h * 3600, "move", move.switch, move.position, why=move.occasion)


def _engines(design: Design, plan: Plan) -> Iterable[Entry]:
    aboard: list[Engine] = ["first"]
    if any(s.engine == "second" for s in design.of_type(Starter)):
        aboard.append("second")
    for span in plan.engine:
        for engine in aboard:
            if span.engine in (engine, "all"):
                yield Entry(span.start_h * 3600, "try", engine, value=span.rpm)
                yield Entry(span.end_h * 3600, "stop", engine)


def _sources(plan: Plan) -> Iterable[Entry]:
    for span in plan.sources_off:
        yield Entry(span.start_h * 3600, "silence", span.source, why="plan")
        yield Entry(span.end_h * 3600, "give", span.source, why="plan")


def _temperatures(plan: Plan) -> Iterable[Entry]:
    starts = {s.start_h for s in plan.temperature}
    for span in plan.temperature:
        yield Entry(span.start_h * 3600, "temperature", to="set", value=span.temperature_c)
        if span.end_h not in starts:
            yield Entry(span.end_h * 3600, "temperature", to="own")


def _loads(design: Design, survey: Survey | None, plan: Plan) -> Iterable[Entry]:
    for span in load_spans(design, survey, plan):
        yield Entry(span.start_h * 3600, "on", span.item)
        yield Entry(span.end_h * 3600, "off", span.item)
    for part, blocks in inverter_spans(design, survey, plan).items():
        yield Entry(0.0, "move", part, "off", why="pattern")
        for start_h, end_h in blocks:
            yield Entry(start_h * 3600, "move", part, "on", why="pattern")
            yield Entry(end_h * 3600, "move", part, "off", why="pattern")
