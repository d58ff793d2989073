"""Everything that reads jobs and variants: only ever within one workshop."""

from __future__ import annotations

from datetime import datetime
from typing import TypedDict
from uuid import UUID

from django.shortcuts import get_object_or_404
from strom_engine.circuit import bench, position_card
from strom_engine.design import State, switch_positions
from strom_engine.design.state import control_switches, switches
from strom_engine.drawing import lay_out
from strom_engine.rules import RULES, Finding, safe, standing
from strom_engine.rules.finding import CONFIRM
from strom_engine.survey import cable_lengths

from apps.accounts.models import Workshop
from apps.jobs import history
from apps.jobs.all_findings import all_findings, own_findings
from apps.jobs.documents import (
    head_design,
    head_survey,
    surveyed_design,
)
from apps.jobs.job_schemas import JobOut
from apps.jobs.listing import jobs_out
from apps.jobs.models import Job, JobSurvey, Variant, Waiver
from apps.jobs.schemas import (
    BenchOut,
    FindingsOut,
    PositionsOut,
    RevisionOut,
    SchemeOut,
    SwitchOut,
    WaiverOut,
)
from apps.jobs.sketches import sketch
from apps.jobs.summaries import kept_of, key_of, summarise, summary_of, waived

__all__ = [
    "bench_of",
    "findings_of",
    "get_job",
    "get_variant",
    "history_of",
    "job_out",
    "positions_of",
    "saved_fields",
    "scheme_of",
    "sketch_of",
    "variant_of",
    "waiver_out",
]


def get_job(workshop: Workshop, job_id: UUID, *, binned: bool = False) -> Job:
    """A job of this workshop, or 404; one in the bin only where that is asked for."""
    jobs = Job.objects.select_related("survey", "workshop")
    return get_object_or_404(jobs, pk=job_id, workshop=workshop, binned__isnull=not binned)


def get_variant(workshop: Workshop, variant_id: UUID) -> Variant:
    """A variant of this workshop, or 404."""
    variants = Variant.objects.select_related("job__survey", "job__workshop")
    return get_object_or_404(
        variants, pk=variant_id, job__workshop=workshop, job__binned__isnull=True
    )


def variant_of(job: Job, variant_id: UUID) -> Variant:
    """A variant of this job, or 404; it shares the job at hand."""
    variant = get_object_or_404(job.variants, pk=variant_id)
    variant.job = job
    return variant


def job_out(job: Job) -> JobOut:
    """A job as its card shows it; what cannot be read or computed says why, and stays alone."""
    [found] = jobs_out(job.workshop, Job.objects.filter(pk=job.pk))
    return found


class SavedFields(TypedDict):
    """The fields that every saved document is sent with."""

    revision: int
    can_undo: str | None
    can_redo: str | None
    undo_at: datetime | None
    redo_at: datetime | None


def saved_fields(saved: Variant | JobSurvey) -> SavedFields:
    """Where a document stands, and what undo and redo would do."""
    head = history.revision(saved, saved.head)
    undone = history.shown(saved, head) if head.undo_to is not None else None
    later = (
        None
        if head.redo_to is None
        else history.shown(saved, history.revision(saved, head.redo_to))
    )
    return SavedFields(
        revision=saved.head,
        can_undo=undone.words if undone else None,
        can_redo=later.words if later else None,
        undo_at=undone.created if undone else None,
        redo_at=later.created if later else None,
    )


def scheme_of(variant: Variant) -> SchemeOut:
    """A variant's design, as surveyed, and its drawings."""
    design = surveyed_design(variant)
    return SchemeOut(
        **saved_fields(variant),
        variant=variant.pk,
        job=variant.job_id,
        name=variant.name,
        survey_revision=variant.job.survey.head,
        design=design,
        cable_names={c.id: design.cable_name(c) for c in design.cables},
        cable_lengths=list(cable_lengths(head_design(variant), head_survey(variant))),
        post_names={ref: design.post_name(ref) for ref in design.post_polarity},
        switches=[
            SwitchOut(
                id=s.id,
                name=s.name,
                kind=s.kind,
                position=s.position,
                positions=list(switch_positions(s)),
                marks={m.position: m.words for m in getattr(s, "marks", ())},
                control=s.id in control_switches(design),
            )
            for s in switches(design)
        ],
        positive=lay_out(design, "pos"),
        negative=lay_out(design, "neg"),
    )


def sketch_of(variant: Variant) -> str:
    """A variant at the size of a stamp, as it was drawn last or as it stands."""
    kept = kept_of(variant, key_of(variant))
    return kept.sketch if kept and kept.sketch else sketch(surveyed_design(variant))


def findings_of(variant: Variant) -> FindingsOut:
    """Findings of a variant as it stands."""
    found = all_findings(variant)
    key = key_of(variant)
    if summary_of(variant, key) is None:
        summarise(variant, key, found)
    own = {f.key for f in own_findings(variant)}
    waivers = list(variant.waivers.filter(ended=None))
    counting = [f for f in found if not any(waived(w, f) for w in waivers)]
    return FindingsOut(
        revision=variant.head,
        survey_revision=variant.job.survey.head,
        findings=found,
        confirm=CONFIRM,
        stages={rule.id: rule.stage for rule, _ in RULES},
        safe=[f.key for f in found if f.key in own and safe(f.change)],
        waivers=[waiver_out(w, found) for w in waivers],
        standing=standing(counting, len(found) - len(counting)),
    )


def waiver_out(waiver: Waiver, found: list[Finding]) -> WaiverOut:
    """A waiver as it is sent, beside what is found now."""
    same = [f for f in found if f.key == waiver.finding]
    return WaiverOut(
        id=waiver.pk,
        finding=waiver.finding,
        rule=waiver.rule,
        title=waiver.title,
        reason=waiver.reason,
        revision=waiver.revision,
        author=waiver.by or None,
        created=waiver.created,
        lapsed=any(not waived(waiver, f) for f in same),
    )


def bench_of(variant: Variant, state: State) -> BenchOut:
    """A state of a variant, solved."""
    result = bench(surveyed_design(variant), state)
    return BenchOut.model_construct(revision=variant.head, **vars(result))


def positions_of(variant: Variant, state: State) -> PositionsOut:
    """The position card of a variant."""
    card = position_card(surveyed_design(variant), state)
    return PositionsOut.model_construct(revision=variant.head, card=card)


def history_of(saved: Variant | JobSurvey) -> list[RevisionOut]:
    """All versions of a document, the newest first."""
    revisions = saved.revisions.select_related("author").order_by("-number")
    return [
        RevisionOut.model_validate(
            {
                "number": r.number,
                "kind": r.kind,
                "words": r.words,
                "author": r.author.username if r.author else None,
                "created": r.created,
                "is_head": r.number == saved.head,
            }
        )
        for r in revisions.defer("document")
    ]
