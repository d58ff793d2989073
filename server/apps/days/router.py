"""Endpoints of plans, days, comparisons and sweeps."""

from typing import Any
from uuid import UUID

from django.http import HttpRequest, HttpResponse
from ninja import Router, Status

from apps.accounts.permissions import ANYONE, member, workshop_of
from apps.days import actions, queries
from apps.days.schemas import (
    ComparisonIn,
    ComparisonOut,
    DayIn,
    DayOut,
    MomentOut,
    NewPlanIn,
    PlanIn,
    PlanOut,
    PlanRevisionIn,
    PlansOut,
    StudyOut,
    SweepOut,
)
from apps.jobs.downloads import CSV, attachment
from apps.jobs.queries import get_job, get_variant, variant_of
from apps.jobs.schemas import ProblemOut

router = Router(tags=["days"])
ERRORS: Any = {401: ProblemOut, 404: ProblemOut, 422: ProblemOut}  # Any: ninja's response map


@router.get("/variants/{variant_id}/plans", response=ERRORS | {200: PlansOut})
def plans(request: HttpRequest, variant_id: UUID) -> PlansOut:
    """The plans of the job for a variant."""
    return queries.plans_of(get_variant(workshop_of(request), variant_id))


@router.post("/variants/{variant_id}/plans", response=ERRORS | {200: PlanOut})
def new_plan(request: HttpRequest, variant_id: UUID, payload: NewPlanIn) -> PlanOut:
    """A new plan from a ready one."""
    variant = get_variant(workshop_of(request), variant_id)
    kept = actions.new_plan(variant, payload.ready, payload.name, payload.school)
    return queries.plan_out(variant, kept)


@router.put(
    "/variants/{variant_id}/plans/{plan_id}", response=ERRORS | {200: PlanOut, 409: ProblemOut}
)
def change_plan(request: HttpRequest, variant_id: UUID, plan_id: UUID, payload: PlanIn) -> PlanOut:
    """Keep a plan as it was changed."""
    variant = get_variant(workshop_of(request), variant_id)
    kept = actions.change_plan(variant, plan_id, payload.revision, payload.document, payload.school)
    return queries.plan_out(variant, kept)


@router.post(
    "/variants/{variant_id}/plans/{plan_id}/undo", response=ERRORS | {200: PlanOut, 409: ProblemOut}
)
def undo_plan(
    request: HttpRequest, variant_id: UUID, plan_id: UUID, payload: PlanRevisionIn
) -> PlanOut:
    """Take the newest change of a plan back."""
    variant = get_variant(workshop_of(request), variant_id)
    return queries.plan_out(variant, actions.undo_plan(variant, plan_id, payload.revision))


@router.post(
    "/variants/{variant_id}/plans/{plan_id}/redo", response=ERRORS | {200: PlanOut, 409: ProblemOut}
)
def redo_plan(
    request: HttpRequest, variant_id: UUID, plan_id: UUID, payload: PlanRevisionIn
) -> PlanOut:
    """Bring back what was taken back last of a plan."""
    variant = get_variant(workshop_of(request), variant_id)
    kept = actions.undo_plan(variant, plan_id, payload.revision, again=True)
    return queries.plan_out(variant, kept)


@router.post("/variants/{variant_id}/plans/{plan_id}/back", response=ERRORS | {200: PlanOut})
def bring_plan_back(request: HttpRequest, variant_id: UUID, plan_id: UUID) -> PlanOut:
    """Bring a plan back that was taken away."""
    variant = get_variant(workshop_of(request), variant_id)
    return queries.plan_out(variant, actions.bring_plan_back(variant, plan_id))


@router.delete("/variants/{variant_id}/plans/{plan_id}", response=ERRORS | {204: None})
def drop_plan(request: HttpRequest, variant_id: UUID, plan_id: UUID) -> Status[None]:
    """Take a plan away."""
    actions.drop_plan(get_variant(workshop_of(request), variant_id), plan_id)
    return Status(204, None)


@router.post(
    "/variants/{variant_id}/plans/{plan_id}/day", auth=ANYONE, response=ERRORS | {200: StudyOut}
)
def ask_day(request: HttpRequest, variant_id: UUID, plan_id: UUID, payload: DayIn) -> StudyOut:
    """Run a plan; a day that is there already is given again."""
    variant = get_variant(workshop_of(request), variant_id)
    study = actions.ask_day(variant, member(request), plan_id, payload.school, payload.case)
    return queries.study_out(study)


@router.post(
    "/variants/{variant_id}/plans/{plan_id}/sweep", auth=ANYONE, response=ERRORS | {200: StudyOut}
)
def ask_sweep(request: HttpRequest, variant_id: UUID, plan_id: UUID) -> StudyOut:
    """The slip test and fault sweep of a plan."""
    variant = get_variant(workshop_of(request), variant_id)
    return queries.study_out(actions.ask_sweep(variant, member(request), plan_id))


@router.get("/variants/{variant_id}/studies", response=ERRORS | {200: list[StudyOut]})
def studies(request: HttpRequest, variant_id: UUID) -> list[StudyOut]:
    """The newest studies of a variant."""
    return queries.latest_of(get_variant(workshop_of(request), variant_id))


@router.post("/jobs/{job_id}/comparison", auth=ANYONE, response=ERRORS | {200: StudyOut})
def ask_comparison(request: HttpRequest, job_id: UUID, payload: ComparisonIn) -> StudyOut:
    """Run variants x schools x plans."""
    job = get_job(workshop_of(request), job_id)
    variants = [variant_of(job, v) for v in payload.variants]
    study = actions.ask_comparison(job, member(request), variants, payload.schools, payload.plans)
    return queries.study_out(study)


@router.get("/studies/{study_id}", response=ERRORS | {200: StudyOut})
def study(request: HttpRequest, study_id: UUID) -> StudyOut:
    """How far a study is."""
    return queries.study_out(queries.get_study(workshop_of(request), study_id))


@router.post("/studies/{study_id}/cancel", auth=ANYONE, response=ERRORS | {200: StudyOut})
def cancel(request: HttpRequest, study_id: UUID) -> StudyOut:
    """Cancel a study."""
    return queries.study_out(actions.cancel(queries.get_study(workshop_of(request), study_id)))


@router.get("/studies/{study_id}/day", response=ERRORS | {200: DayOut})
def day(request: HttpRequest, study_id: UUID) -> DayOut:
    """A computed day."""
    return queries.day_of(queries.get_study(workshop_of(request), study_id))


@router.get("/studies/{study_id}/day.csv", response=ERRORS | {200: Any})
def export_day(request: HttpRequest, study_id: UUID) -> HttpResponse:
    """The series of a day as CSV."""
    text = queries.day_csv(queries.get_study(workshop_of(request), study_id))
    return attachment(text, CSV, "day.csv")


@router.get("/studies/{study_id}/moment", response=ERRORS | {200: MomentOut})
def moment(request: HttpRequest, study_id: UUID, at_s: float) -> MomentOut:
    """A moment of a day, every volt and amp of it."""
    return queries.moment_at(queries.get_study(workshop_of(request), study_id), at_s)


@router.get("/studies/{study_id}/sweep", response=ERRORS | {200: SweepOut})
def sweep(request: HttpRequest, study_id: UUID) -> SweepOut:
    """A slip test and fault sweep as far as it is."""
    return queries.sweep_of(queries.get_study(workshop_of(request), study_id))


@router.get("/studies/{study_id}/comparison", response=ERRORS | {200: ComparisonOut})
def comparison(request: HttpRequest, study_id: UUID) -> ComparisonOut:
    """A comparison as far as it is."""
    return queries.comparison_of(queries.get_study(workshop_of(request), study_id))
