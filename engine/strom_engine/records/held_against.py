"""A trace held against what the computation expects of this very boat: findings and causes."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import dataclass, replace

import numpy as np

from strom_engine.dayrun import Plan, SchoolId
from strom_engine.dayrun.lines import FULL
from strom_engine.design import Bank
from strom_engine.records.causes import RecordCause, causes_by
from strom_engine.records.expected import recorded_plan, with_people
from strom_engine.records.figures import RecordFigure, figures_of
from strom_engine.records.happened import Happened, happened
from strom_engine.records.spells import Shunted
from strom_engine.records.trace import Trace
from strom_engine.sizing.solar import DEFAULT_LATITUDE_DEG, season_of
from strom_engine.survey import Survey, SurveyedDesign

__all__ = ["FindingFromRecords", "HeldAgainst", "held_against"]

# Doubts from which on record and computation part: alone, three of a thousand by chance; two and
# more of them together by the sum of their squares.
APART, TOGETHER = 3.0, 1.8


@dataclass(frozen=True)
class FindingFromRecords:
    """Something that the records show and the computation does not expect, with its arithmetic."""

    key: str
    title: str
    arithmetic: tuple[str, ...]


@dataclass(frozen=True)
class HeldAgainst:
    """What was found in a trace, what was expected, where they part, and what may be wrong.

    ``played`` is the plan that was run, from ``played_from_s`` on [s]; ``figures`` are recorded
    and expected side by side; ``cannot_tell`` says what keeps the two from being compared.
    """

    told: Happened
    played: Plan | None
    played_from_s: float | None
    figures: tuple[RecordFigure, ...]
    findings: tuple[FindingFromRecords, ...]
    causes: tuple[RecordCause, ...]
    cannot_tell: tuple[str, ...]


def held_against(
    design: SurveyedDesign,
    survey: Survey,
    trace: Trace,
    shunt: Shunted,
    school: SchoolId = "as_drawn",
) -> HeldAgainst:
    """What records of a bank say, held against the boat as designed.

    The most telling stretch is run as a plan; figures of the record and of the run that part by
    more than their doubt are findings, and single faults are weighed by how near each brings the
    run to the record.

    Args:
        design: the boat as built, as surveyed.
        survey: loads, sun, way of use.
        trace: what a monitor on the bank wrote.
        shunt: the bank with the monitor, its zone, what charged it.
        school: how the switches are handled.

    Returns:
        Times in [s] UTC; figures in the unit that each names.
    """
    bank = shunt.of(design)
    if survey.boat.latitude_deg is not None:
        shunt = replace(shunt, latitude_deg=survey.boat.latitude_deg)
    told = happened(trace, design, shunt)
    nothing = HeldAgainst(told, None, None, (), (), (), ())
    if not (trace.has("amps_a") and trace.has("volts_v")):
        return _saying(
            nothing, "Volts and amps of the bank are needed to hold it against the boat."
        )
    if not told.spells:
        return _saying(nothing, "Nothing charged the bank in these records.")
    bare = recorded_plan(trace, told, design, shunt)
    survey = _in_season(survey, bare.plan)
    plan, expected = with_people(design, survey, bare, shunt, school)
    if expected is None:
        return _saying(nothing, "The boat as designed cannot be run through what was recorded.")
    window = happened(plan.trace, design, shunt)
    figures = tuple(figures_of(window, expected.told, bank))
    parting = _parting(figures)
    causes: tuple[RecordCause, ...] = ()
    if parting:
        causes = causes_by(design, survey, plan, shunt, window, figures)
    return HeldAgainst(
        told=told,
        played=plan.plan,
        played_from_s=plan.begins_s,
        figures=figures,
        findings=tuple(_findings(parting, told, bank)),
        causes=causes,
        cannot_tell=_untold(figures),
    )


def _parting(figures: Sequence[RecordFigure]) -> list[RecordFigure]:
    """Figures that part by more than their doubt, alone or several of them together."""
    alone = [f for f in figures if abs(f.doubts_apart) >= APART]
    some = [f for f in figures if abs(f.doubts_apart) >= TOGETHER]
    together = sum(f.doubts_apart**2 for f in some)
    return some if len(some) > 1 and together >= APART**2 else alone


def _in_season(survey: Survey, plan: Plan) -> Survey:
    """The survey with the season of the records: loads differ with it."""
    month = plan.month or 1
    season = season_of(month, survey.boat.latitude_deg or DEFAULT_LATITUDE_DEG)
    return survey.model_copy(update={"use": survey.use.model_copy(update={"season": season})})


def _saying(held: HeldAgainst, words: str) -> HeldAgainst:
    return HeldAgainst(held.told, None, None, (), (), (), (words,))


def _untold(figures: Sequence[RecordFigure]) -> tuple[str, ...]:
    known = {f.key.partition(":")[0] for f in figures}
    found = []
    if not known & {"first_a", "held_v"}:
        found.append("No spell of engine or shore is long enough to compare its amps and volts.")
    if "charge_at_float" not in known:
        found.append("No float was recorded and expected alike: its charge cannot be compared.")
    return tuple(found)


def _findings(
    parting: Sequence[RecordFigure], told: Happened, bank: Bank
) -> Iterator[FindingFromRecords]:
    for figure in parting:
        yield FindingFromRecords(figure.key, figure.title(), figure.arithmetic())
    early = [
        s.charge_at_float
        for s in told.spells
        if s.charge_at_float is not None and s.charge_at_float < FULL
    ]
    if early and any(f.key == "charge_at_float" for f in parting):
        lowest, middle = min(early), float(np.median(early))
        yield FindingFromRecords(
            "floats_early",
            f"Float begins with {bank.name} at {100 * middle:.0f} % in {len(early)} spells",
            (
                f"Float before {100 * FULL:.0f} % leaves the rest unfilled: "
                f"({FULL:.2f} - {middle:.2f}) x {bank.capacity_ah:.0f} Ah = "
                f"{(FULL - middle) * bank.capacity_ah:.0f} Ah each time.",
                f"Lowest of them {100 * lowest:.0f} %, by the monitor's own count.",
            ),
        )
