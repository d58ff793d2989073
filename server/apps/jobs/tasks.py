"""What workers do for the list of jobs."""

from __future__ import annotations

from uuid import UUID

from django.db import transaction
from django.db.models import Q
from procrastinate.contrib.django import app
from procrastinate.exceptions import AlreadyEnqueued

from apps.jobs.models import Variant
from apps.jobs.queue import QUEUE
from apps.jobs.summaries import key_of, summarise, summary_of

__all__ = ["count_findings", "count_later", "count_missing"]


@app.task(queue=QUEUE)
def count_findings(variant_id: str) -> None:
    """Count the findings of a variant as it stands, unless that is done already."""
    variants = Variant.objects.select_related("job__survey", "job__workshop")
    variant = variants.filter(pk=variant_id).first()
    if variant is None:
        return
    key = key_of(variant)
    if summary_of(variant, key) is None:
        summarise(variant, key)


def count_missing() -> int:
    """Let workers count what was never counted, or by a program that kept less; how many."""
    found = Variant.objects.filter(job__binned=None).filter(Q(summary=None) | Q(summary__gear=""))
    variants = list(found.values_list("pk", flat=True))
    for variant in variants:
        count_later(variant)
    return len(variants)


def count_later(variant: UUID) -> None:
    """Let a worker count the findings of a variant; asked twice, it is done once."""
    try:
        # A savepoint: what the queue refuses must not end the write that asks for it.
        with transaction.atomic():
            count_findings.configure(queueing_lock=f"count {variant}", priority=-1).defer(
                variant_id=str(variant)
            )
    except AlreadyEnqueued:
        return
