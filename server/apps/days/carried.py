"""Plans of a day as a job file carries them."""

from __future__ import annotations

from collections.abc import Sequence

from strom_engine.dayrun import Plan
from strom_engine.errors import JobFileError, Problem
from strom_engine.interchange import PlanFile

from apps.days.models import DayPlan
from apps.days.plans import SCHOOL_IDS
from apps.jobs.models import Job

__all__ = ["keep_plans", "plans_of"]


def plans_of(job: Job) -> list[PlanFile]:
    """Every plan of a job, the oldest first."""
    kept = DayPlan.objects.filter(job=job).order_by("created")
    return [PlanFile(school=p.school, plan=Plan.model_validate(p.document)) for p in kept]


def keep_plans(job: Job, plans: Sequence[PlanFile]) -> None:
    """Keep the plans of a file, in its order. Raises JobFileError for a school that is none."""
    wrong = [
        Problem(f"plans[{n}].school", f"there is no school {p.school!r}: {', '.join(SCHOOL_IDS)}")
        for n, p in enumerate(plans)
        if p.school not in SCHOOL_IDS
    ]
    if wrong:
        raise JobFileError(wrong)
    for told in plans:
        DayPlan.objects.create(
            job=job, school=told.school, document=told.plan.model_dump(mode="json")
        )
