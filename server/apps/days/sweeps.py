"""The sweep that a worker is at: its cases go on from one planned day as far as they share it."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from typing import Any
from uuid import UUID

from strom_engine.dayrun import Case, Day, Plan, SharedDay, possible_cases
from strom_engine.survey import Survey

from apps.days.plans import no_such_case
from apps.jobs.documents import document_at
from apps.jobs.models import Variant

__all__ = ["day_of_sweep"]


@dataclass(frozen=True)
class _Sweep:
    """What all cases of one sweep have in common."""

    shared: SharedDay
    cases: dict[str, Case]


# The one that this process was at last, by study and what it is of. It is taken out while a case
# is run, so that no two ever go on from the same day.
_last: dict[tuple[UUID, int, int], _Sweep] = {}


def day_of_sweep(study: UUID, task: dict[str, Any], progress: Callable[[float], None]) -> Day:
    """The day of a case, by its piece's task. Raises PlanError and what ``day_run`` does."""
    of = study, task["revision"], task["survey_revision"]
    sweep = _last.pop(of, None) or _begun(task)
    case = sweep.cases.get(task["case"])
    if case is None:
        raise no_such_case(task["case"])
    try:
        return sweep.shared.of_case(case, progress)
    finally:
        _last.clear()
        _last[of] = sweep


def _begun(task: dict[str, Any]) -> _Sweep:
    variant = Variant.objects.select_related("job__survey").get(pk=task["variant"])
    design = document_at(variant, task["revision"])
    survey: Survey = document_at(variant.job.survey, task["survey_revision"])
    plan = Plan.model_validate(task["plan"])
    cases = {case.key: case for case in possible_cases(design, survey, plan)}
    return _Sweep(SharedDay(design, survey, plan), cases)
