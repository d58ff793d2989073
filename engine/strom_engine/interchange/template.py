"""A job as the template of another one: what was learnt of one boat is a guess for the next."""

from __future__ import annotations

from strom_engine.design import Bank, Component, Design
from strom_engine.design.usual import NOT_FIGURES
from strom_engine.interchange.job_file import JobFile, VariantFile
from strom_engine.survey import Survey

__all__ = ["as_template"]


def as_template(file: JobFile, name: str) -> JobFile:
    """A job for another boat of the same sort: every figure is assumed, every length estimated.

    What only the first boat has is left out: readings, measurements, counted days, what its owner
    complains of, its age, waivers, and all entries of work done.

    Args:
        file: the job as it stands.
        name: of the new one.

    Returns:
        A job whose list of things to find out has everything that stood in the first one.
    """
    variants = tuple(
        VariantFile(name=v.name, chosen=v.chosen, design=_design(v.design)) for v in file.variants
    )
    return JobFile(name=name, survey=_survey(file.survey), plans=file.plans, variants=variants)


def _survey(survey: Survey) -> Survey:
    return survey.model_copy(
        update={
            "boat": survey.boat.model_copy(update={"notes": ""}),
            "use": survey.use.model_copy(update={"complaint": ""}),
            "runs": tuple(r.model_copy(update={"measured": False}) for r in survey.runs),
            "items": tuple(i.model_copy(update={"basis": "assumed"}) for i in survey.items),
            "resting": (),
            "measurements": (),
            "counted": (),
            "ac_checks": {},
        }
    )


def _design(design: Design) -> Design:
    return design.model_copy(
        update={
            "components": tuple(_part(part) for part in design.components),
            "cables": tuple(c.model_copy(update={"estimated": True}) for c in design.cables),
        }
    )


def _part(part: Component) -> Component:
    if isinstance(part, Bank):
        part = part.model_copy(update={"age_years": None})
    figures = [one.name for one in part.asked if one.name not in NOT_FIGURES]
    known = [name for name in figures if getattr(part, name) not in (None, ())]
    return part.model_copy(update={"assumed": tuple(dict.fromkeys((*part.assumed, *known)))})
