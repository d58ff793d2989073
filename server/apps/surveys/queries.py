"""Everything that the stages Survey, Loads and Banks read."""

from __future__ import annotations

from strom_engine.batteries import soc_from_rest
from strom_engine.design import Bank
from strom_engine.interchange import (
    dump_counted,
    dump_loads,
    read_counted,
    read_loads,
)
from strom_engine.reference import cranking_amps
from strom_engine.sizing import bank_plan, load_report
from strom_engine.survey import asked_of, to_find_out

from apps.jobs.documents import document_at, head_design, head_survey, surveyed_design
from apps.jobs.models import Job, Variant
from apps.jobs.queries import saved_fields
from apps.surveys.schemas import (
    BanksOut,
    BankSum,
    CrankingOut,
    LoadsOut,
    RowsOut,
    SurveyedOut,
    SurveyOut,
)

__all__ = ["banks_of", "cranking", "loads_of", "rows_csv", "rows_from", "survey_of", "surveyed_of"]

READERS = {"items": read_loads, "counted": read_counted}
WRITERS = {"items": dump_loads, "counted": dump_counted}


def survey_of(job: Job, loads: Variant | None = None) -> SurveyOut:
    """The survey of a job, and with a variant its audit as well."""
    survey = document_at(job.survey, job.survey.head)
    report = load_report(surveyed_design(loads), survey) if loads else None
    return SurveyOut(**saved_fields(job.survey), job=job.pk, survey=survey, loads=report)


def surveyed_of(variant: Variant) -> SurveyedOut:
    """What to find out aboard, and what the resting volts of the banks tell."""
    design, survey = head_design(variant), head_survey(variant)
    banks = {b.id: b for b in design.of_type(Bank)}
    return SurveyedOut(
        revision=variant.head,
        survey_revision=variant.job.survey.head,
        to_find_out=list(to_find_out(design, survey)),
        banks={
            name: BankSum(
                batteries=bank.series * bank.parallel,
                capacity_ah=bank.capacity_ah,
                nominal_v=bank.nominal_v,
            )
            for name, bank in banks.items()
        },
        rests={
            r.id: soc_from_rest(banks[r.bank], r.volts_v, r.rested_h)
            for r in survey.resting
            if r.bank in banks
        },
        ac_checklist=list(asked_of(design)),
    )


def loads_of(variant: Variant) -> LoadsOut:
    """The audit, the counted way, and what the engine bank carries."""
    return LoadsOut(
        revision=variant.head,
        survey_revision=variant.job.survey.head,
        report=load_report(surveyed_design(variant), head_survey(variant)),
    )


def banks_of(variant: Variant) -> BanksOut:
    """Yields, needs, candidates, start bank."""
    return BanksOut(
        revision=variant.head,
        survey_revision=variant.job.survey.head,
        plan=bank_plan(surveyed_design(variant), head_survey(variant)),
    )


def cranking(power_kw: float, system_v: int) -> CrankingOut:
    """Cranking amps estimated from the starter's power."""
    amps = cranking_amps(power_kw, system_v)
    words = f"{power_kw:g} kW of starter at {system_v} V: about {amps:.0f} A, engine warm."
    return CrankingOut(cranking_a=round(amps), words=words)


def rows_from(job: Job, which: str, text: bytes) -> RowsOut:
    """Rows of a table as they would be kept; nothing is saved."""
    survey = document_at(job.survey, job.survey.head)
    return RowsOut.model_validate(vars(READERS[which](text, survey)))


def rows_csv(job: Job, which: str) -> str:
    """A list of the survey as CSV."""
    return WRITERS[which](document_at(job.survey, job.survey.head))
