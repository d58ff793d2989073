"""What is read of plans and studies."""

from __future__ import annotations

from typing import Any, NamedTuple
from uuid import UUID

from django.db.models import Avg, Count, Q, QuerySet
from django.http import Http404
from django.shortcuts import get_object_or_404
from strom_engine.dayrun import (
    SCHOOLS,
    Case,
    DaySheet,
    Plan,
    consequence,
    handling,
    moment_of,
    ranked,
    ready_plans,
)
from strom_engine.drawing import lay_out
from strom_engine.errors import PlanError
from strom_engine.faults import effects_of, possible_faults
from strom_engine.interchange import dump_day
from strom_engine.rules import Finding
from strom_engine.rules.finding import CONFIRM
from strom_engine.survey import surveyed

from apps.accounts.models import Workshop
from apps.days.models import DayPlan, Piece, Study
from apps.days.plans import case_named, digest, plan_for
from apps.days.result_shapes import FINDINGS, MOMENTS, OUTCOME, SHEET
from apps.days.schemas import (
    CasesOut,
    CellOut,
    ComparisonOut,
    DayOut,
    DroppedOut,
    FaultOut,
    MomentOut,
    PlanOut,
    PlansOut,
    ReadyOut,
    SchoolOut,
    StudyOut,
    SweepOut,
)
from apps.jobs.documents import document_at, head_survey, surveyed_design
from apps.jobs.models import Variant
from apps.jobs.queue import Status

__all__ = [
    "comparison_of",
    "day_csv",
    "day_keys",
    "day_of",
    "findings_of_days",
    "get_study",
    "latest_of",
    "moment_at",
    "plan_out",
    "plans_of",
    "study_out",
    "sweep_of",
]


def get_study(workshop: Workshop, study_id: UUID) -> Study:
    """A study of a workshop. Raises Http404, too for one that an older engine made."""
    studies = Study.objects.of_today().filter(job__workshop=workshop, job__binned__isnull=True)
    related = ("job__survey", "variant__job__survey", "plan", "author")
    return get_object_or_404(studies.select_related(*related), pk=study_id)


def plans_of(variant: Variant) -> PlansOut:
    """The plans of a job for a variant."""
    design = surveyed_design(variant)
    return PlansOut(
        plans=[plan_out(variant, kept) for kept in variant.job.plans.all()],
        dropped=[
            DroppedOut(id=one.pk, name=str(one), dropped=one.dropped)
            for one in DayPlan.every.filter(job=variant.job, dropped__isnull=False)
            if one.dropped is not None
        ],
        ready=[ReadyOut(id=r.id, name=r.plan.name, about=r.about) for r in ready_plans(design)],
        schools=[
            SchoolOut(id=s.id, name=s.name, habit=s.habit, why_not=handling(design, s.id).why_not)
            for s in SCHOOLS
        ],
        faults=[FaultOut(key=f.key, words=f.words) for f in possible_faults(design)],
    )


def plan_out(variant: Variant, kept: DayPlan) -> PlanOut:
    """A plan as it is kept, and for a variant."""
    fits, problem, errors = None, None, []
    try:
        fits = plan_for(variant, kept)
    except PlanError as error:
        problem, errors = str(error), [str(p) for p in error.problems]
    return PlanOut(
        id=kept.pk,
        school=kept.school,
        revision=kept.revision,
        document=Plan.model_validate(kept.document),
        for_variant=fits,
        problem=problem,
        errors=errors,
        can_undo=bool(kept.before),
        can_redo=bool(kept.after),
    )


def study_out(study: Study) -> StudyOut:
    """How far a study is."""
    settled = ~Q(status__in=(Status.WAITING, Status.RUNNING))
    counted = study.pieces.aggregate(
        of=Count("id"), done=Count("id", filter=settled), progress=Avg("progress")
    )
    failed = study.pieces.filter(status=Status.FAILED).first()
    return StudyOut(
        id=study.pk,
        kind=study.kind,
        status=study.status,
        variant=study.variant_id,
        plan=None if study.plan is None or study.plan.dropped else study.plan_id,
        ask=study.ask,
        created=study.created,
        author=study.author.username if study.author else None,
        variant_revision=study.variant_revision,
        done=counted["done"],
        of=counted["of"],
        progress=counted["progress"] or 0.0,
        problem=failed.problem if failed and study.kind == Study.Kind.DAY else None,
        stale=_stale(study),
    )


def _stale(study: Study) -> bool:
    """Whether design, survey or plan are others now than what a study was made from."""
    if study.kind == Study.Kind.COMPARISON:
        return any(_moved_on(piece) for piece in study.pieces.exclude(status=Status.FAILED))
    if study.plan is None or study.variant is None:
        return True
    try:
        plan = plan_for(study.variant, study.plan, study.ask.get("school"))
    except PlanError:
        return True
    case = "sweep" if study.kind == Study.Kind.SWEEP else study.ask.get("case")
    return digest(study.variant, plan, case) != study.made_from


def _moved_on(piece: Piece) -> bool:
    task = piece.task
    variant = Variant.objects.select_related("job__survey").filter(pk=task["variant"]).first()
    kept = DayPlan.objects.filter(pk=task["label"]["plan"]).first()
    if variant is None or kept is None:
        return True
    was = (task["revision"], task["survey_revision"])
    if was != (variant.head, variant.job.survey.head):
        return True
    try:
        plan = plan_for(variant, kept, task["label"]["school"])
    except PlanError:
        return True
    return bool(plan.model_dump(mode="json") != task["plan"])


def latest_of(variant: Variant) -> list[StudyOut]:
    """The newest day of each plan, the newest sweep of each, the newest comparison of the job."""
    found: dict[tuple[Any, ...], Study] = {}
    studies = Study.objects.of_today().filter(Q(variant=variant) | Q(variant=None), job=variant.job)
    for study in studies.select_related("plan", "author", "variant__job__survey", "job")[:60]:
        key = (study.kind, study.plan_id, study.ask.get("school"), study.ask.get("case"))
        if study.status != Status.CANCELLED and not (
            study.kind == Study.Kind.DAY and study.ask.get("case")
        ):
            found.setdefault(key if study.kind != Study.Kind.COMPARISON else (study.kind,), study)
    return [study_out(s) for s in found.values()]


class _Day(NamedTuple):
    """A day that is done: the piece it was computed in, and what was kept of it."""

    piece: Piece
    sheet: DaySheet
    kept: dict[str, Any]  # Any: JSON data, each member of a shape of its own


def _sheet_of(study: Study) -> _Day:
    piece = study.pieces.get(number=0)
    if study.kind != Study.Kind.DAY or piece.result is None:
        raise Http404
    return _Day(piece, SHEET.validate_python(piece.result["sheet"]), piece.result)


def day_of(study: Study) -> DayOut:
    """A day with all that is shown of it. Raises Http404 while it is not done."""
    _, sheet, kept = _sheet_of(study)
    found = FINDINGS.validate_python(kept["findings"])
    return DayOut.model_construct(
        study=study_out(study), sheet=sheet, findings=list(found), confirm=CONFIRM
    )


def day_csv(study: Study) -> str:
    """The series of a day as CSV."""
    piece, sheet, _ = _sheet_of(study)
    design = document_at(Variant.objects.get(pk=piece.task["variant"]), piece.task["revision"])
    return dump_day(design, sheet.plan, sheet.series)


def moment_at(study: Study, at_s: float) -> MomentOut:
    """A moment of a day. Raises Http404 while it is not done."""
    piece, sheet, recorded = _sheet_of(study)
    variant = Variant.objects.select_related("job__survey").get(pk=piece.task["variant"])
    design = document_at(variant, piece.task["revision"])
    survey = document_at(variant.job.survey, piece.task["survey_revision"])
    broken = None
    if piece.task["case"] is not None:
        planned = Plan.model_validate(piece.task["plan"])
        case = case_named(design, survey, planned, piece.task["case"])
        if case.fault is not None:
            broken = effects_of(surveyed(design, survey), case.fault)
    kept = MOMENTS.validate_python(recorded["moments"]).at(at_s)
    design, found = moment_of(design, survey, sheet.plan, kept, broken)
    return MomentOut.model_construct(
        at_s=kept.at_s,
        design=design,
        positive=lay_out(design, "pos"),
        cable_names={c.id: design.cable_name(c) for c in design.cables},
        post_names={ref: design.post_name(ref) for ref in design.post_polarity},
        **vars(found),
    )


def sweep_of(study: Study) -> SweepOut:
    """A sweep as far as it is, the gravest consequence first."""
    if study.kind != Study.Kind.SWEEP or study.variant is None:
        raise Http404
    pieces = list(study.pieces.all())
    planned = OUTCOME.validate_python(pieces[0].outcome) if pieces[0].outcome else None
    design = document_at(study.variant, pieces[0].task["revision"])
    design = surveyed(design, head_survey(study.variant))
    done, left = [], []
    for piece in pieces[1:]:
        label = piece.task["label"]
        case = Case(piece.task["case"], label["kind"], label["words"])
        if piece.outcome is None or planned is None:
            left.append(_case_out(piece, case))
            continue
        outcome = OUTCOME.validate_python(piece.outcome)
        done.append((case, consequence(design, planned, outcome)))
    by_key = {p.task["case"]: p for p in pieces[1:]}
    rows = [_case_out(by_key[case.key], case, result) for case, result in ranked(done)]
    return SweepOut(study=study_out(study), planned=planned, cases=rows + left)


def _case_out(piece: Piece, case: Case, result: Any = None) -> CasesOut:
    return CasesOut(
        key=case.key,
        kind=case.kind,
        words=case.words,
        status=piece.status,
        problem=piece.problem or None,
        consequence=result,
        outcome=OUTCOME.validate_python(piece.outcome) if piece.outcome else None,
    )


def comparison_of(study: Study) -> ComparisonOut:
    """A comparison as far as it is."""
    if study.kind != Study.Kind.COMPARISON:
        raise Http404
    return ComparisonOut(
        study=study_out(study),
        cells=[
            CellOut(
                variant=p.task["label"]["variant"],
                school=p.task["label"]["school"],
                plan=p.task["label"]["plan"],
                status=p.status,
                why_not=p.problem or None,
                outcome=OUTCOME.validate_python(p.outcome) if p.outcome else None,
            )
            for p in study.pieces.all()
        ],
    )


def findings_of_days(variant: Variant) -> list[Finding]:
    """Findings of the latest day of a variant that is still what it is made from."""
    done = Study.objects.of_today().filter(
        variant=variant, kind=Study.Kind.DAY, status=Status.DONE, ask__case=None
    )
    newest: dict[Any, Study] = {}
    for study in done.select_related("plan", "variant__job__survey")[:20]:
        newest.setdefault(study.plan_id, study)
    found: dict[str, Finding] = {}
    for study in newest.values():
        if not _stale(study):
            kept = _sheet_of(study).kept
            for one in FINDINGS.validate_python(kept["findings"]):
                found.setdefault(one.key, one)
    return list(found.values())


def day_keys(variants: QuerySet[Variant]) -> dict[UUID, str]:
    """What findings of days depend on, by variant: its finished days and their plans."""
    done = Study.objects.of_today().filter(
        variant__in=variants, kind=Study.Kind.DAY, status=Status.DONE, ask__case=None
    )
    found: dict[UUID, list[str]] = {}
    for study in done.values("id", "variant_id", "plan__revision", "plan__school"):
        told = f"{study['id']} {study['plan__revision']} {study['plan__school']}"
        found.setdefault(study["variant_id"], []).append(told)
    return {variant: " ".join(sorted(told)) for variant, told in found.items()}
