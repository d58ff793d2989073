"""What this boat should have shown: the recorded plan, run by the computation."""

from __future__ import annotations

from dataclasses import dataclass, replace
from datetime import UTC, datetime
from itertools import pairwise
from zoneinfo import ZoneInfo

import numpy as np

from strom_engine.dayrun import Plan, SchoolId, day_run, with_school
from strom_engine.dayrun.plan import EngineSpan, LivingSpan, ShoreSpan
from strom_engine.errors import ComputationError, DayRunError
from strom_engine.faults import Effects, effects_of
from strom_engine.records.happened import Happened, happened
from strom_engine.records.spells import Shunted
from strom_engine.records.stand_in import Monitor, recorded
from strom_engine.records.trace import Trace
from strom_engine.survey import Survey, SurveyedDesign

__all__ = ["Played", "RecordedPlan", "play", "recorded_plan", "telling_window"]

WINDOW_H = 44.0
MOTORING_RPM = 1800.0
LEAST_SPAN_H = 0.1
NOISELESS = Monitor(noise_v=0.0, noise_a=0.0, missing=0.0, drift=0.0)
MARGIN_S = 10 * 3600.0  # before a spell: what was drawn or charged before tells how much it takes


@dataclass(frozen=True)
class RecordedPlan:
    """A stretch of a trace as a plan: which rows, the plan, and when it begins [s]."""

    trace: Trace
    plan: Plan
    begins_s: float


@dataclass(frozen=True)
class Played:
    """What the monitor would have shown of a plan, and what is found in that."""

    trace: Trace
    told: Happened


def telling_window(trace: Trace, told: Happened, hours: float = WINDOW_H) -> tuple[float, float]:
    """The unbroken stretch in which engine or shore put in most charge, from [s] to [s].

    Args:
        trace: of the bank.
        told: what was found in it.
        hours: how long a stretch [h].
    """
    spells = [s for s in told.spells if s.source in ("engine", "shore")] or list(told.spells)
    best, most = (told.start_s, min(told.end_s, told.start_s + hours * 3600)), -1.0
    for spell in spells:
        start = max(told.start_s, spell.start_s - MARGIN_S)
        start = _after_gap(told, start)
        end = min(told.end_s, start + hours * 3600)
        end = min([end, *(gap.start_s for gap in told.gaps if start < gap.start_s < end)])
        inside = [s for s in spells if s.start_s >= start and s.end_s <= end]
        floats = sum(s.float_s is not None for s in inside)
        put_in = sum(s.put_in_ah for s in inside) * (1 + floats)
        if put_in > most:
            best, most = (start, end), put_in
    return best


def _after_gap(told: Happened, start: float) -> float:
    """A beginning that lies in no gap."""
    for gap in told.gaps:
        if gap.start_s < start < gap.end_s:
            return gap.end_s
    return start


def recorded_plan(
    trace: Trace, told: Happened, design: SurveyedDesign, shunt: Shunted
) -> RecordedPlan:
    """The plan that people followed in the most telling stretch, as far as a trace shows it.

    Args:
        trace: of the bank.
        told: what was found in it.
        design: the boat, as surveyed.
        shunt: where the records come from.
    """
    start, end = telling_window(trace, told)
    part = trace.between(start, end)
    clock = datetime.fromtimestamp(start, UTC).astimezone(ZoneInfo(shunt.zone))
    hours = max((end - start) / 3600, 0.5)

    def spans(source: str) -> list[tuple[float, float]]:
        found = [
            (max(0.0, (s.start_s - start) / 3600), min(hours, (s.end_s - start) / 3600))
            for s in told.spells
            if s.source == source and s.end_s > start and s.start_s < end
        ]
        return [(a, b) for a, b in found if b - a >= LEAST_SPAN_H]

    charge = part.column("charge")
    known = charge[np.isfinite(charge)]
    soc = {shunt.bank: float(np.clip(known[0], 0.05, 1.0))} if len(known) else {}
    plan = Plan(
        name="As recorded",
        hours=hours,
        clock_h=clock.hour + clock.minute / 60,
        month=clock.month,
        engine=tuple(EngineSpan(start_h=a, end_h=b, rpm=MOTORING_RPM) for a, b in spans("engine")),
        shore=tuple(ShoreSpan(start_h=a, end_h=b) for a, b in _apart(spans("shore"))),
        soc=soc,
    )
    return RecordedPlan(part, plan, start)


def _apart(spans: list[tuple[float, float]]) -> list[tuple[float, float]]:
    """Spans that do not overlap, in order."""
    ordered = sorted(spans)
    for one, two in pairwise(list(ordered)):
        if two[0] < one[1]:
            ordered.remove(two)
    return ordered


def play(
    design: SurveyedDesign,
    survey: Survey,
    recorded_one: RecordedPlan,
    shunt: Shunted,
    effects: Effects | None = None,
) -> Played | None:
    """What the monitor would show of a plan with faults, or None where it cannot be run.

    Args:
        design: the boat, as surveyed.
        survey: loads, sun.
        recorded_one: the plan and when it begins.
        shunt: where the records come from.
        effects: of what is supposed to be wrong.
    """
    every_s = recorded_one.trace.every_s or NOISELESS.every_s
    try:
        day = day_run(design, survey, recorded_one.plan, effects or effects_of(design))
    except (DayRunError, ComputationError):
        return None
    trace = recorded(
        day, shunt.of(day.design), replace(NOISELESS, every_s=every_s), recorded_one.begins_s
    )
    # Told apart as in the record: by the boat as designed, not as it is with a fault.
    return Played(trace, happened(trace, design, shunt))


def with_people(
    design: SurveyedDesign,
    survey: Survey,
    recorded_one: RecordedPlan,
    shunt: Shunted,
    school: SchoolId,
) -> tuple[RecordedPlan, Played | None]:
    """The plan with people aboard by a profile or with nobody, whichever draws as was recorded.

    Args:
        design: the boat, as surveyed.
        survey: loads, sun.
        recorded_one: the plan without people.
        shunt: where the records come from.
        school: how the switches are handled.
    """
    hours = recorded_one.plan.hours
    record = happened(recorded_one.trace, design, shunt)
    drawn = _drawn_a(recorded_one.trace, record)
    lived: list[tuple[LivingSpan, ...]] = [()]
    afloat = [p.id for p in design.profiles if not p.shore] or [p.id for p in design.profiles]
    lived += [(LivingSpan(start_h=0, end_h=hours, profile=name),) for name in afloat]
    best: tuple[float, RecordedPlan, Played | None] | None = None
    for living in lived:
        plan = with_school(recorded_one.plan.model_copy(update={"living": living}), design, school)
        one = replace(recorded_one, plan=plan)
        played = play(design, survey, one, shunt)
        if played is None:
            continue
        off = abs(_drawn_a(played.trace, played.told) - drawn)
        off += abs((played.told.usual.base_a or 0.0) - (record.usual.base_a or 0.0))
        if best is None or off < best[0]:
            best = off, one, played
    return (recorded_one, None) if best is None else best[1:]


def _drawn_a(trace: Trace, told: Happened) -> float:
    """Mean amps drawn while nothing charges [A]."""
    amps_a = trace.column("amps_a")
    free = np.isfinite(amps_a)
    for spell in told.spells:
        first, last = np.searchsorted(trace.at_s, (spell.start_s, spell.end_s))
        free[first:last] = False
    return -float(amps_a[free].mean()) if free.any() else 0.0
