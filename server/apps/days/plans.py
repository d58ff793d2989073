"""Plans of a job as they fit a variant."""

from __future__ import annotations

import hashlib
from typing import cast, get_args

from django.shortcuts import get_object_or_404
from strom_engine.dayrun import (
    Case,
    Plan,
    SchoolId,
    parse_plan,
    possible_cases,
    with_school,
)
from strom_engine.design import Design
from strom_engine.edition import engine_edition
from strom_engine.errors import PlanError, Problem
from strom_engine.survey import Survey

from apps.days.models import DayPlan
from apps.jobs.documents import contents, surveyed_design
from apps.jobs.models import Variant

__all__ = [
    "OWN",
    "SCHOOL_IDS",
    "case_named",
    "digest",
    "no_such_case",
    "plan_for",
    "plan_of_job",
    "school_of",
    "usual_school",
]

OWN = "own"
SCHOOL_IDS: tuple[str, ...] = (*get_args(SchoolId), OWN)


def school_of(text: str) -> SchoolId | None:
    """A school by its id; None for a plan's own moves. Raises PlanError."""
    if text == OWN:
        return None
    for school in get_args(SchoolId):
        if school == text:
            return school  # type: ignore[no-any-return]
    raise PlanError([Problem("school", f"there is no school {text!r}: {', '.join(SCHOOL_IDS)}")])


def usual_school(variant: Variant) -> SchoolId:
    """How a boat is handled: as the first plan of its job that names a school.

    Where none does, nobody turns anything.
    """
    schools = DayPlan.objects.filter(job_id=variant.job_id).order_by("created")
    for school in schools.values_list("school", flat=True):
        if school in get_args(SchoolId):
            return cast(SchoolId, school)
    return "as_drawn"


def plan_of_job(variant: Variant, plan_id: object) -> DayPlan:
    """A plan of the job that a variant belongs to. Raises Http404."""
    return get_object_or_404(DayPlan, job_id=variant.job_id, pk=plan_id)


def plan_for(variant: Variant, kept: DayPlan, school: str | None = None) -> Plan:
    """A plan with its moves for a variant, perhaps by another school. Raises PlanError."""
    design = surveyed_design(variant)
    chosen = school_of(school or kept.school)
    raw = dict(kept.document)
    if chosen is not None:
        raw |= {"moves": [], "emergency": {}}
    plan = parse_plan(raw, design)
    return plan if chosen is None else with_school(plan, design, chosen)


def case_named(design: Design, survey: Survey, plan: Plan, key: str) -> Case:
    """A case of the slip test or the fault sweep by its key. Raises PlanError."""
    for case in possible_cases(design, survey, plan):
        if case.key == key:
            return case
    raise no_such_case(key)


def no_such_case(key: str) -> PlanError:
    """What there is to say of a case that a plan and scheme do not have."""
    return PlanError([Problem("case", f"this plan and scheme have no case {key!r}")])


def digest(variant: Variant, plan: Plan, case: str | None = None) -> str:
    """What a day is made from, in 64 letters: the same ones, the same day."""
    parts = (engine_edition(), contents(variant), plan.model_dump_json(), case or "")
    return hashlib.sha256("\0".join(parts).encode()).hexdigest()
