"""Proof that a document can be worked with: computed and drawn, before it is kept."""

from __future__ import annotations

from strom_engine.circuit import operating_point
from strom_engine.design import Design, State
from strom_engine.drawing import lay_out
from strom_engine.errors import Problem, StromError, computing
from strom_engine.interchange.job_file import JobFile
from strom_engine.survey import Survey, surveyed

__all__ = ["job_problems", "prove_computable", "survey_harms", "variant_problems"]

# At rest, and with everything running that the design has.
STATES = (State(), State(engine="on", rpm=2000.0, shore=True, sun=0.6))


def prove_computable(design: Design, survey: Survey | None) -> None:
    """Compute a design as surveyed and draw both its sides. Raises StromError that says why not."""
    with computing("this design"):
        whole = surveyed(design, survey)
        for state in STATES:
            operating_point(whole, state)
        lay_out(whole, "pos")
        lay_out(whole, "neg")


def variant_problems(design: Design, survey: Survey | None, path: str) -> list[Problem]:
    """Why a design cannot be worked with, under its path; empty when it can.

    Args:
        design: as drawn.
        survey: its survey; None where there is none.
        path: of the design in its file.
    """
    try:
        prove_computable(design, survey)
    except StromError as error:
        return [Problem(path, str(error))]
    return []


def job_problems(job: JobFile) -> list[Problem]:
    """Why variants of a job cannot be worked with, by their path; empty when all can.

    Args:
        job: as read from a file.
    """
    return [
        problem
        for i, variant in enumerate(job.variants)
        for problem in variant_problems(variant.design, job.survey, f"variants[{i}].design")
    ]


def survey_harms(design: Design, before: Survey, after: Survey) -> str | None:
    """Why a design that could be computed with one survey cannot be with another; None if it can.

    One that could not be computed before is not the fault of the change.

    Args:
        design: as drawn.
        before: the survey as it was.
        after: the survey as it would be.
    """
    try:
        with computing("this design"):
            operating_point(surveyed(design, after), STATES[0])
    except StromError as error:
        try:
            with computing("this design"):
                operating_point(surveyed(design, before), STATES[0])
        except StromError:
            return None
        return str(error)
    return None
