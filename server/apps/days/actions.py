"""Plans made, changed and taken away; studies asked for and cancelled."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass
from typing import Any
from uuid import UUID

from django.db import transaction
from django.shortcuts import get_object_or_404
from django.utils import timezone
from strom_engine.dayrun import (
    Plan,
    handling,
    parse_plan,
    possible_cases,
    ready_plans,
)
from strom_engine.errors import PlanError, Problem

from apps.accounts.models import User
from apps.days.models import DayPlan, Piece, Study
from apps.days.plans import (
    OWN,
    SCHOOL_IDS,
    case_named,
    digest,
    plan_for,
    plan_of_job,
    school_of,
)
from apps.days.result_shapes import RESULT_SHAPE
from apps.days.tasks import queue_piece
from apps.jobs.documents import head_design, head_survey, surveyed_design
from apps.jobs.models import Job, Variant
from apps.jobs.queue import Status
from apps.problems import ConflictError

__all__ = [
    "ask_comparison",
    "ask_day",
    "ask_sweep",
    "cancel",
    "change_plan",
    "drop_plan",
    "new_plan",
    "undo_plan",
]

MAX_PLANS = 40
MAX_CELLS = 60
MAX_KEPT = 60
MAX_UNDO = 50
MAX_WAITING = 60


def _check_count(variant: Variant) -> None:
    if variant.job.plans.count() >= MAX_PLANS:
        raise PlanError([Problem("", f"a job keeps {MAX_PLANS} plans; take one away first")])


def new_plan(variant: Variant, ready: str, name: str | None, school: str) -> DayPlan:
    """A plan from a ready one, or as a copy of another plan of the job. Raises PlanError."""
    school_of(school)
    _check_count(variant)
    found = {r.id: r.plan for r in ready_plans(surveyed_design(variant))}
    if ready not in found:
        known = ", ".join(found)
        raise PlanError([Problem("ready", f"there is no ready plan {ready!r}; known: {known}")])
    document = found[ready].model_dump(mode="json")
    if name:
        document["name"] = name
    return DayPlan.objects.create(job=variant.job, school=school, document=document)


def change_plan(
    variant: Variant, plan_id: UUID, revision: int, document: dict[str, Any], school: str
) -> DayPlan:
    """Keep a plan as it was changed, whole. Raises PlanError, ConflictError."""
    chosen = school_of(school)
    if chosen is not None:
        document = document | {"moves": [], "emergency": {}}
    plan = parse_plan(document, surveyed_design(variant))
    with transaction.atomic():
        kept = _locked(variant, plan_id, revision)
        kept.before = [*kept.before, _state(kept)][-MAX_UNDO:]
        kept.after = []
        kept.document, kept.school = plan.model_dump(mode="json"), school
        kept.save()
    return kept


def undo_plan(variant: Variant, plan_id: UUID, revision: int, *, again: bool = False) -> DayPlan:
    """Take the newest change of a plan back, or bring back what was taken back last.

    Raises PlanError where there is nothing to be taken back, ConflictError.
    """
    with transaction.atomic():
        kept = _locked(variant, plan_id, revision)
        source, target = (kept.after, kept.before) if again else (kept.before, kept.after)
        if not source:
            text = "nothing was taken back" if again else "there is no change to take back"
            raise PlanError([Problem("", text)])
        target.append(_state(kept))
        state = source.pop()
        kept.document, kept.school = state["document"], state["school"]
        kept.save()
    return kept


def _locked(variant: Variant, plan_id: UUID, revision: int) -> DayPlan:
    """A plan that nobody else changes meanwhile, at its next revision. Raises ConflictError."""
    kept = DayPlan.objects.select_for_update().get(pk=plan_of_job(variant, plan_id).pk)
    if kept.revision != revision:
        raise ConflictError("This plan was changed in between: look at it, then change it.")
    kept.revision += 1
    return kept


def _state(plan: DayPlan) -> dict[str, Any]:
    """What an undo goes back to."""
    return {"school": plan.school, "document": plan.document}


def drop_plan(variant: Variant, plan_id: UUID) -> None:
    """Take a plan away; the days run by it stay, and so does the plan for a while."""
    DayPlan.objects.filter(pk=plan_of_job(variant, plan_id).pk).update(dropped=timezone.now())


def bring_plan_back(variant: Variant, plan_id: UUID) -> DayPlan:
    """A plan that was taken away, at hand again. Raises Http404, PlanError for one too many."""
    kept = get_object_or_404(DayPlan.every, job_id=variant.job_id, pk=plan_id)
    if kept.dropped is not None:
        _check_count(variant)
        kept.dropped = None
        kept.save(update_fields=["dropped"])
    return kept


@dataclass(frozen=True)
class _Ask:
    """One day to run."""

    variant: Variant
    plan: Plan
    label: dict[str, Any]
    case: str | None = None


def ask_day(
    variant: Variant, author: User, plan_id: UUID, school: str | None, case: str | None
) -> Study:
    """A day of a variant by a plan; one that is there already is given again. Raises PlanError."""
    kept = plan_of_job(variant, plan_id)
    plan = plan_for(variant, kept, school)
    made_from = digest(variant, plan, case)
    ask = {"school": school or kept.school, "case": case, "plan_name": plan.name}
    if case is not None:
        ask["words"] = case_named(head_design(variant), head_survey(variant), plan, case).words
    days = Study.objects.of_today().filter(job=variant.job, kind=Study.Kind.DAY)
    found = (
        days.filter(made_from=made_from)
        .exclude(status__in=(Status.CANCELLED, Status.FAILED))
        .first()
    )
    if found is not None:
        return found
    return _begin(
        Study(job=variant.job, variant=variant, plan=kept, kind=Study.Kind.DAY, ask=ask),
        author,
        made_from,
        [_Ask(variant, plan, {}, case)],
    )


def ask_sweep(variant: Variant, author: User, plan_id: UUID) -> Study:
    """Every slip and fault of a plan: the day as planned first, then each case."""
    kept = plan_of_job(variant, plan_id)
    plan = plan_for(variant, kept)
    cases = possible_cases(head_design(variant), head_survey(variant), plan)
    asks = [_Ask(variant, plan, {"kind": "planned"})]
    asks += [_Ask(variant, plan, {"kind": c.kind, "words": c.words}, c.key) for c in cases]
    study = Study(
        job=variant.job,
        variant=variant,
        plan=kept,
        kind=Study.Kind.SWEEP,
        ask={"plan_name": plan.name, "school": kept.school},
    )
    return _begin(study, author, digest(variant, plan, "sweep"), asks)


def ask_comparison(
    job: Job, author: User, variants: list[Variant], schools: list[str], plans: list[UUID]
) -> Study:
    """Variants x schools x plans; cells whose scheme has no such handling are said so."""
    problems = [
        Problem("schools", f"there is no school {s!r}") for s in schools if s not in SCHOOL_IDS
    ]
    cells = len(variants) * len(schools) * len(plans)
    if cells > MAX_CELLS or cells == 0:
        text = f"{cells} days; a comparison has 1 to {MAX_CELLS}"
        problems.append(Problem("", text))
    if problems:
        raise PlanError(problems)
    asks = list(_cells(variants, schools, plans))
    study = Study(
        job=job,
        kind=Study.Kind.COMPARISON,
        ask={
            "variants": [str(v.pk) for v in variants],
            "schools": schools,
            "plans": [str(p) for p in plans],
        },
    )
    made_from = digest(variants[0], asks[0].plan, "comparison") if asks else ""
    return _begin(study, author, made_from, asks)


def _cells(variants: list[Variant], schools: list[str], plans: list[UUID]) -> Iterable[_Ask]:
    for variant in variants:
        design = surveyed_design(variant)
        for plan_id in plans:
            kept = plan_of_job(variant, plan_id)
            for school in schools:
                chosen = None if school == OWN else school_of(school)
                why = handling(design, chosen).why_not if chosen is not None else None
                label = {
                    "variant": str(variant.pk),
                    "plan": str(kept.pk),
                    "school": school,
                    "why_not": why,
                }
                try:
                    plan = plan_for(variant, kept, school)
                except PlanError as error:
                    label["why_not"] = str(error)
                    plan = Plan(name="None", hours=1)
                yield _Ask(variant, plan, label)


def _begin(study: Study, author: User, made_from: str, asks: list[_Ask]) -> Study:
    with transaction.atomic():
        ahead = _waiting_of(author, study)
        study.author, study.made_from, study.shape = author, made_from, RESULT_SHAPE
        study.variant_revision = study.variant.head if study.variant else None
        study.save()
        pieces = Piece.objects.bulk_create(
            Piece(
                study=study,
                number=n,
                status=Status.FAILED if one.label.get("why_not") else Status.WAITING,
                problem=one.label.get("why_not") or "",
                task={
                    "variant": str(one.variant.pk),
                    "revision": one.variant.head,
                    "survey_revision": one.variant.job.survey.head,
                    "plan": one.plan.model_dump(mode="json"),
                    "case": one.case,
                    "label": one.label,
                },
            )
            for n, one in enumerate(asks)
        )
        waiting = [p for p in pieces if p.status == Status.WAITING]
        if not waiting:
            study.status = Status.DONE
            study.save(update_fields=["status"])
        for n, piece in enumerate(waiting):
            queue_piece(piece.pk, day=study.kind == Study.Kind.DAY, ahead=ahead + n)
        _forget_old(study)
    return study


def _waiting_of(author: User, study: Study) -> int:
    """Pieces of the same sort that wait for a person. Raises PlanError for one study too many."""
    mine = Study.objects.filter(author=author, status__in=(Status.WAITING, Status.RUNNING))
    if mine.count() >= MAX_WAITING:
        text = f"{MAX_WAITING} studies wait for you already: let some finish, or cancel them"
        raise PlanError([Problem("", text)])
    pieces = Piece.objects.filter(status__in=(Status.WAITING, Status.RUNNING))
    if study.kind == Study.Kind.DAY:
        alike = pieces.filter(study__kind=Study.Kind.DAY)
    else:
        alike = pieces.exclude(study__kind=Study.Kind.DAY)
    return alike.filter(study__author=author).count()


def _forget_old(study: Study) -> None:
    """Keep the newest studies of a kind in a job: what is older can be computed again."""
    kept = Study.objects.filter(job=study.job, kind=study.kind).values_list("pk", flat=True)
    kept = kept[:MAX_KEPT]
    Study.objects.filter(job=study.job, kind=study.kind).exclude(pk__in=list(kept)).exclude(
        status__in=(Status.WAITING, Status.RUNNING)
    ).delete()


def cancel(study: Study) -> Study:
    """Cancel a study that is not done: what runs stops soon, what waits never starts."""
    with transaction.atomic():
        kept = Study.objects.select_for_update().get(pk=study.pk)
        if kept.status in (Status.WAITING, Status.RUNNING):
            kept.status = Status.CANCELLED
            kept.save(update_fields=["status"])
            kept.pieces.filter(status=Status.WAITING).update(status=Status.CANCELLED)
    return kept
