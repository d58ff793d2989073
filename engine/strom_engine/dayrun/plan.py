"""The plan of a day: what people and the weather do, on one time line."""

from __future__ import annotations

from collections.abc import Iterable, Mapping, Sequence
from itertools import pairwise
from typing import Annotated, Literal

from pydantic import Field, StringConstraints, ValidationError, model_validator

from strom_engine.design import (
    Bank,
    DcDc,
    Design,
    FittedInverter,
    LoadGroup,
    switch_positions,
)
from strom_engine.design.choices import CableEnd, Sky
from strom_engine.design.fields import (
    Frozen,
    Identifier,
    Name,
    PostRef,
    Share,
    Temperature,
    Versioned,
)
from strom_engine.design.state import switches
from strom_engine.design.validation import problems_from_pydantic, suggest
from strom_engine.errors import FaultError, PlanError, Problem
from strom_engine.faults import fault_from_key, possible_faults
from strom_engine.versions import Chain

__all__ = [
    "MAX_DAYS",
    "MAX_MOVES",
    "PLAN_VERSION",
    "BoatSpan",
    "EngineSpan",
    "LeadMove",
    "LivingSpan",
    "LoadSpan",
    "Move",
    "Occasion",
    "Plan",
    "PlannedFault",
    "ShoreSpan",
    "SkySpan",
    "SourceSpan",
    "Span",
    "TemperatureSpan",
    "WindSpan",
    "check_plan",
    "parse_plan",
]

PLAN_CHAIN = Chain()
PLAN_VERSION = PLAN_CHAIN.version
MAX_DAYS = 200
MAX_MOVES = 800
# Longer plans are told of together with all else that is wrong with them.
Hour = Annotated[float, Field(ge=0, le=1e6, allow_inf_nan=False)]
Knots = Annotated[float, Field(ge=0, le=100, allow_inf_nan=False)]
Occasion = Literal["aboard", "start", "run", "stop", "leave", "by_hand"]


class Span(Frozen):
    """From an hour to an hour, both counted from the beginning of the plan [h]."""

    start_h: Hour
    end_h: Hour

    @model_validator(mode="after")
    def _forward(self) -> Span:
        if self.end_h <= self.start_h:
            raise ValueError(f"ends at {self.end_h:g} h, not after it begins, {self.start_h:g} h")
        return self


class EngineSpan(Span):
    """An engine is started at the beginning, and runs to the end if it did start."""

    rpm: Annotated[float, Field(ge=300, le=6000, allow_inf_nan=False)] = 1400.0
    engine: Literal["first", "second", "all"] = "all"


class ShoreSpan(Span):
    """The shore lead is in."""


class LivingSpan(Span):
    """People are aboard and live by a profile; outside of these only what stands on draws."""

    profile: Identifier


class SkySpan(Span):
    """The sky overhead; outside of these it is as the survey says."""

    sky: Sky


class WindSpan(Span):
    """Wind for a wind generator [kn]."""

    wind_kn: Knots


class BoatSpan(Span):
    """Speed of the boat for a towed generator [kn]."""

    boat_kn: Knots


class TemperatureSpan(Span):
    """Temperature aboard, that of the banks [degC]; outside of these as each bank says."""

    temperature_c: Temperature


class LoadSpan(Span):
    """One item, as ``group.item``, runs; its pattern of use then counts nowhere in the plan."""

    item: Annotated[str, StringConstraints(pattern=r"^[a-z][a-z0-9_]{0,39}\.[a-z][a-z0-9_]{0,39}$")]


class SourceSpan(Span):
    """One source is given off, whatever else it could: unplugged, covered, switched off."""

    source: Identifier


class LeadMove(Frozen):
    """An end of a cable is taken off and landed on another post."""

    at_h: Hour
    cable: Identifier
    end: CableEnd
    to: PostRef


class PlannedFault(Frozen):
    """Something fails within the plan: which fault by its key, as a sweep names it, and when."""

    at_h: Hour
    key: Annotated[str, Field(max_length=120)]


class Move(Frozen):
    """A switch is turned to a position, past ``through`` when a hand goes the wrong way round."""

    at_h: Hour
    switch: Identifier
    position: str
    through: str | None = None
    occasion: Occasion = "by_hand"


class Plan(Versioned):
    """What happens to a boat from ``clock_h`` o'clock on, for ``hours``. Immutable.

    ``month`` is for the sun, that of the survey's season unless it says otherwise. ``emergency``
    is what is turned after a start that failed, before the next try. ``soc`` overrides how full
    the banks are at the beginning [-]. The same ``seed`` gives the same day.
    """

    chain = PLAN_CHAIN

    version: int = PLAN_CHAIN.version
    name: Name
    hours: Annotated[float, Field(ge=0.1, le=1e6, allow_inf_nan=False)] = 24.0
    clock_h: Annotated[float, Field(ge=0, lt=24, allow_inf_nan=False)] = 8.0
    month: Annotated[int, Field(ge=1, le=12)] | None = None
    seed: Annotated[int, Field(ge=0, le=10**6)] = 1
    crank_s: Annotated[float, Field(ge=0.5, le=60, allow_inf_nan=False)] = 3.0
    engine: Annotated[tuple[EngineSpan, ...], Field(max_length=400)] = ()
    shore: Annotated[tuple[ShoreSpan, ...], Field(max_length=400)] = ()
    living: Annotated[tuple[LivingSpan, ...], Field(max_length=400)] = ()
    sky: Annotated[tuple[SkySpan, ...], Field(max_length=400)] = ()
    wind: Annotated[tuple[WindSpan, ...], Field(max_length=400)] = ()
    boat: Annotated[tuple[BoatSpan, ...], Field(max_length=400)] = ()
    temperature: Annotated[tuple[TemperatureSpan, ...], Field(max_length=400)] = ()
    loads: Annotated[tuple[LoadSpan, ...], Field(max_length=400)] = ()
    sources_off: Annotated[tuple[SourceSpan, ...], Field(max_length=400)] = ()
    moves: Annotated[tuple[Move, ...], Field(max_length=MAX_MOVES)] = ()
    fault: PlannedFault | None = None
    leads: Annotated[tuple[LeadMove, ...], Field(max_length=100)] = ()
    emergency: dict[Identifier, str] = Field(default_factory=dict)
    soc: dict[Identifier, Share] = Field(default_factory=dict)


LANES = ("engine", "shore", "living", "sky", "wind", "boat", "temperature")
# Lanes of which each item or source has one of its own.
OWN_LANES = {"loads": "item", "sources_off": "source"}


def parse_plan(raw: object, design: Design) -> Plan:
    """Read a plan for a design from JSON data; raises PlanError with all problems at once.

    Args:
        raw: what JSON gave.
        design: the boat, as surveyed.

    Returns:
        The plan, checked.
    """
    if not isinstance(raw, Mapping):
        raise PlanError([Problem("", "must be an object")])
    if later := PLAN_CHAIN.problems(raw):
        raise PlanError(later)
    try:
        plan = Plan.model_validate(raw)
    except ValidationError as error:
        raise PlanError(problems_from_pydantic(error)) from None
    return check_plan(design, plan)


def check_plan(design: Design, plan: Plan) -> Plan:
    """The plan, found to fit a design. Raises PlanError naming everything that does not.

    Args:
        design: the boat, as surveyed.
        plan: hours [h], engine, shore, moves.
    """
    problems = list(dict.fromkeys([*_overlaps(plan), *_beyond(plan), *_unknown(design, plan)]))
    if problems:
        raise PlanError(problems)
    return plan


def _overlaps(plan: Plan) -> Iterable[Problem]:
    for lane in LANES:
        spans: Sequence[tuple[int, Span]] = list(enumerate(getattr(plan, lane)))
        if lane == "engine":
            for engine in ("first", "second"):
                here = (engine, "all")
                own = [(i, plan.engine[i]) for i, _ in spans if plan.engine[i].engine in here]
                yield from _clashes(lane, own)
        else:
            yield from _clashes(lane, spans)
    for lane, of in OWN_LANES.items():
        both = list(enumerate(getattr(plan, lane)))
        for name in dict.fromkeys(getattr(span, of) for _, span in both):
            yield from _clashes(lane, [pair for pair in both if getattr(pair[1], of) == name])


def _clashes(lane: str, spans: Sequence[tuple[int, Span]]) -> Iterable[Problem]:
    ordered = sorted(spans, key=lambda pair: pair[1].start_h)
    for (i, one), (j, two) in pairwise(ordered):
        if two.start_h < one.end_h - 1e-9:
            text = f"begins at {two.start_h:g} h, while {lane}[{i}] lasts until {one.end_h:g} h"
            yield Problem(f"{lane}[{j}]", text)


def _beyond(plan: Plan) -> Iterable[Problem]:
    if plan.hours > 24 * MAX_DAYS:
        text = f"{plan.hours / 24:g} days; the longest plan has {MAX_DAYS}"
        yield Problem("hours", text)
    late = f"after the end of the plan at {plan.hours:g} h"
    for lane in (*LANES, *OWN_LANES):
        for i, span in enumerate(getattr(plan, lane)):
            if span.end_h > plan.hours + 1e-9:
                yield Problem(f"{lane}[{i}].end_h", f"{span.end_h:g} h is {late}")
    if plan.fault is not None and plan.fault.at_h > plan.hours:
        yield Problem("fault.at_h", f"{plan.fault.at_h:g} h is {late}")
    for lane in ("moves", "leads"):
        for i, move in enumerate(getattr(plan, lane)):
            if move.at_h > plan.hours:
                yield Problem(f"{lane}[{i}].at_h", f"{move.at_h:g} h is {late}")


def _unknown(design: Design, plan: Plan) -> Iterable[Problem]:
    known = {part.id: part for part in switches(design)}
    turned = [(f"moves[{i}]", m.switch, m.position) for i, m in enumerate(plan.moves)]
    turned += [(f"moves[{i}]", m.switch, m.through) for i, m in enumerate(plan.moves) if m.through]
    turned += [(f"emergency.{s}", s, position) for s, position in plan.emergency.items()]
    for at, name, position in dict.fromkeys(turned):
        part = known.get(name)
        if part is None:
            yield Problem(at, f"there is no switch {name!r}{suggest(name, known)}")
        elif position not in switch_positions(part):
            words = ", ".join(switch_positions(part))
            yield Problem(at, f"{position!r} is not a position of {part.name}; known: {words}")
    profiles = [p.id for p in design.profiles]
    for i, span in enumerate(plan.living):
        if span.profile not in profiles:
            text = f"there is no profile {span.profile!r}{suggest(span.profile, profiles)}"
            yield Problem(f"living[{i}].profile", text)
    yield from _unknown_lanes(design, plan)
    banks = [b.id for b in design.of_type(Bank)]
    for name in plan.soc:
        if name not in banks:
            yield Problem(f"soc.{name}", f"there is no bank {name!r}{suggest(name, banks)}")


def _unknown_lanes(design: Design, plan: Plan) -> Iterable[Problem]:
    """Items, sources, cables and posts that a plan names and the design does not have."""
    feeds = [p for p in design.components if isinstance(p, LoadGroup | FittedInverter)]
    items = [f"{feed.id}.{item.id}" for feed in feeds for item in feed.items]
    sources = [p.id for p in (*design.sources, *design.of_type(DcDc))]
    if plan.fault is not None:
        try:
            fault_from_key(design, plan.fault.key)
        except FaultError:
            faults = [f.key for f in possible_faults(design)]
            text = f"there is no fault {plan.fault.key!r}{suggest(plan.fault.key, faults)}"
            yield Problem("fault.key", text)
    for i, load in enumerate(plan.loads):
        if load.item not in items:
            text = f"there is no item {load.item!r}{suggest(load.item, items)}"
            yield Problem(f"loads[{i}].item", text)
    for i, off in enumerate(plan.sources_off):
        if off.source not in sources:
            text = f"there is no source {off.source!r}{suggest(off.source, sources)}"
            yield Problem(f"sources_off[{i}].source", text)
    for i, lead in enumerate(plan.leads):
        if lead.cable not in design.cables_by_id:
            text = f"there is no cable {lead.cable!r}{suggest(lead.cable, design.cables_by_id)}"
            yield Problem(f"leads[{i}].cable", text)
        if lead.to not in design.post_polarity:
            text = f"there is no post {lead.to!r}{suggest(lead.to, design.post_polarity)}"
            yield Problem(f"leads[{i}].to", text)
