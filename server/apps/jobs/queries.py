"""Everything that reads: only ever within one workshop."""

from __future__ import annotations

import json
from functools import lru_cache
from uuid import UUID

from django.db.models import Prefetch
from django.shortcuts import get_object_or_404
from strom_engine.circuit import bench, position_card
from strom_engine.design import Design, State, switch_positions
from strom_engine.design.state import switches
from strom_engine.drawing import lay_out
from strom_engine.interchange import Boat, JobFile, VariantFile
from strom_engine.rules import findings
from strom_engine.rules.finding import CONFIRM

from apps.accounts.models import Workshop
from apps.jobs.actions import shown_words
from apps.jobs.models import Job, Revision, Variant
from apps.jobs.schemas import (
    BenchOut,
    FindingsOut,
    JobOut,
    PositionsOut,
    RevisionOut,
    SchemeOut,
    SwitchOut,
    VariantOut,
)

__all__ = [
    "bench_of",
    "findings_of",
    "get_job",
    "get_variant",
    "head_design",
    "history",
    "job_file",
    "job_out",
    "jobs_of",
    "positions_of",
    "scheme_of",
]


def jobs_of(workshop: Workshop) -> list[JobOut]:
    """All jobs of a workshop, the one changed last first."""
    jobs = Job.objects.filter(workshop=workshop).prefetch_related(
        Prefetch("variants", queryset=Variant.objects.order_by("place"))
    )
    return [job_out(job) for job in jobs]


def get_job(workshop: Workshop, job_id: UUID) -> Job:
    """A job of this workshop, or 404."""
    return get_object_or_404(Job, pk=job_id, workshop=workshop)


def get_variant(workshop: Workshop, variant_id: UUID) -> Variant:
    """A variant of this workshop, or 404."""
    variants = Variant.objects.select_related("job")
    return get_object_or_404(variants, pk=variant_id, job__workshop=workshop)


def head_design(variant: Variant) -> Design:
    """The design of a variant as it stands."""
    return _design(variant.pk, variant.head)


@lru_cache(maxsize=128)
def _design(variant_id: UUID, number: int) -> Design:
    # A revision never changes, so that its number is a safe key.
    revision = Revision.objects.get(variant_id=variant_id, number=number)
    return Design.model_validate(revision.design)


def job_out(job: Job) -> JobOut:
    """A job as its card shows it."""
    return JobOut.model_validate(
        {
            "id": job.pk,
            "name": job.name,
            "boat": job.boat,
            "changed": job.changed,
            "variants": [_variant_out(v) for v in job.variants.all()],
        }
    )


def _variant_out(variant: Variant) -> VariantOut:
    found = findings(head_design(variant))
    return VariantOut(
        id=variant.pk,
        name=variant.name,
        chosen=variant.chosen,
        revision=variant.head,
        worst=found[0].severity if found else None,
        findings=len(found),
    )


def scheme_of(variant: Variant) -> SchemeOut:
    """A variant's design and drawings."""
    design = head_design(variant)
    head = Revision.objects.get(variant=variant, number=variant.head)
    later = variant.revisions.filter(number=head.redo_to).first()
    return SchemeOut(
        variant=variant.pk,
        job=variant.job_id,
        name=variant.name,
        revision=variant.head,
        can_undo=shown_words(variant, head) if head.undo_to is not None else None,
        can_redo=shown_words(variant, later) if later else None,
        design=design,
        cable_names={c.id: design.cable_name(c) for c in design.cables},
        post_names={ref: design.post_name(ref) for ref in design.post_polarity},
        switches=[
            SwitchOut(
                id=s.id,
                name=s.name,
                kind=s.kind,
                position=s.position,
                positions=list(switch_positions(s)),
            )
            for s in switches(design)
        ],
        positive=lay_out(design, "pos"),
        negative=lay_out(design, "neg"),
    )


def findings_of(variant: Variant) -> FindingsOut:
    """Findings of a variant as it stands."""
    found = list(findings(head_design(variant)))
    return FindingsOut(revision=variant.head, findings=found, confirm=CONFIRM)


def bench_of(variant: Variant, state: State) -> BenchOut:
    """A state of a variant, solved."""
    result = bench(head_design(variant), state)
    return BenchOut.model_construct(revision=variant.head, **vars(result))


def positions_of(variant: Variant, state: State) -> PositionsOut:
    """The position card of a variant."""
    card = position_card(head_design(variant), state)
    return PositionsOut.model_construct(revision=variant.head, card=card)


def history(variant: Variant) -> list[RevisionOut]:
    """All versions of a variant, the newest first."""
    revisions = variant.revisions.select_related("author").order_by("-number")
    return [
        RevisionOut.model_validate(
            {
                "number": r.number,
                "kind": r.kind,
                "words": r.words,
                "author": r.author.username if r.author else None,
                "created": r.created,
                "is_head": r.number == variant.head,
            }
        )
        for r in revisions.defer("design")
    ]


def job_file(job: Job) -> JobFile:
    """A job as the file that it is exported to."""
    return JobFile(
        name=job.name,
        boat=Boat.model_validate_json(json.dumps(job.boat)),
        variants=tuple(
            VariantFile(name=v.name, chosen=v.chosen, design=head_design(v))
            for v in job.variants.all()
        ),
    )
