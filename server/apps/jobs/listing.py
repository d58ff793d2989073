"""The list of a workshop's jobs: searched, sorted and read a page at a time."""

from __future__ import annotations

import time
from collections import defaultdict
from typing import Any
from uuid import UUID

from django.db.models import Case, Exists, OuterRef, Q, QuerySet, When
from django.db.models.expressions import OrderBy
from django.db.models.functions import Lower

from apps.accounts.models import Workshop
from apps.jobs.job_schemas import BoatOut, JobOut, JobsAsked, JobsOut, VariantOut
from apps.jobs.models import KEPT_IN_BIN, Job, Variant, Waiver, WorkState
from apps.jobs.summaries import (
    Summary,
    card_of,
    further_keys,
    made_from,
    standing_words,
    summarise,
)
from apps.jobs.tasks import count_later
from apps.search import said_in, words_of

__all__ = ["jobs_asked", "jobs_out"]

COUNTING_S = 2.0  # so long a list of jobs counts findings itself; workers count the rest
Row = dict[str, Any]  # Any: columns of a query
JOB = (
    "id",
    "name",
    "changed",
    "state",
    "owner",
    "contact",
    "archived",
    "binned",
    "survey__head",
)
CARD = ("card__survey_revision", "card__kind", "card__length_m", "card__notes")
VARIANT = ("id", "job_id", "name", "chosen", "head")
SUMMARY = ("summary__made_from", "summary__by_severity", "summary__problem")


SHELVES = {
    "open": Q(archived=None, binned=None),
    "archived": Q(archived__isnull=False, binned=None),
    "bin": Q(binned__isnull=False),
}
SORTS: dict[str, tuple[str | OrderBy, ...]] = {
    "changed": ("-changed", "name"),
    "name": (Lower("name").asc(), "-changed"),
    "state": ("place", "-changed"),
}
# What is known of a boat and her owner; the gear aboard in any variant is looked through too.
SAID = ("name", "owner", "contact", "card__kind", "card__notes")


def jobs_asked(workshop: Workshop, asked: JobsAsked) -> JobsOut:
    """A page of a workshop's jobs: one shelf of them, every word found somewhere, sorted."""
    jobs = Job.objects.filter(SHELVES[asked.shelf], workshop=workshop)
    if asked.state is not None:
        jobs = jobs.filter(state=asked.state)
    for word in words_of(asked.words):
        in_gear = Variant.objects.filter(job=OuterRef("pk"), summary__gear__icontains=word)
        jobs = jobs.filter(said_in(SAID, word) | Q(Exists(in_gear)))
    if asked.sort == "state":
        order = [When(state=state, then=place) for place, state in enumerate(WorkState)]
        jobs = jobs.annotate(place=Case(*order))
    total = jobs.count()
    page = jobs.order_by(*SORTS[asked.sort])[asked.offset : asked.offset + asked.limit]
    ids = list(page.values_list("pk", flat=True))
    found = {job.id: job for job in jobs_out(workshop, Job.objects.filter(pk__in=ids))}
    return JobsOut.model_construct(jobs=[found[one] for one in ids if one in found], total=total)


def jobs_out(workshop: Workshop, jobs: QuerySet[Job]) -> list[JobOut]:
    """Jobs of a workshop as they are listed, in four queries, however many there are."""
    rows: list[Row] = list(jobs.values(*JOB, *CARD))
    heads = {row["id"]: row["survey__head"] for row in rows}
    variants: list[Row] = list(
        Variant.objects.filter(job__in=jobs).order_by("place").values(*VARIANT, *SUMMARY)
    )
    keys = _keys(workshop, jobs, variants, heads)
    of_job: dict[UUID, list[VariantOut]] = defaultdict(list)
    ends = time.monotonic() + COUNTING_S
    for row in variants:
        out = _variant_out(row, keys[row["id"]], at_once=time.monotonic() < ends)
        of_job[row["job_id"]].append(out)
    return [
        JobOut.model_construct(
            id=row["id"],
            name=row["name"],
            boat=_boat(row),
            changed=row["changed"],
            state=WorkState(row["state"]),
            owner=row["owner"],
            contact=row["contact"],
            archived=row["archived"],
            binned=row["binned"],
            goes=row["binned"] and row["binned"] + KEPT_IN_BIN,
            variants=of_job[row["id"]],
        )
        for row in rows
    ]


def _keys(
    workshop: Workshop, jobs: QuerySet[Job], rows: list[Row], survey_heads: dict[UUID, int]
) -> dict[UUID, str]:
    """What the findings of each variant come from, as a digest."""
    standing: dict[UUID, list[str]] = defaultdict(list)
    waivers = Waiver.objects.filter(ended=None, variant__job__in=jobs)
    for waiver, variant, severity in waivers.values_list("id", "variant_id", "severity"):
        standing[variant].append(standing_words(waiver, severity))
    further = further_keys(Variant.objects.filter(job__in=jobs))
    return {
        row["id"]: made_from(
            (row["head"], survey_heads[row["job_id"]], workshop.stock_revision),
            standing[row["id"]],
            further.get(row["id"], ""),
        )
        for row in rows
    }


def _boat(row: Row) -> BoatOut:
    if row["card__survey_revision"] == row["survey__head"]:
        kind, length_m, notes = (row[f"card__{name}"] for name in ("kind", "length_m", "notes"))
        return BoatOut.model_construct(kind=kind, length_m=length_m, notes=notes)
    card = card_of(Job.objects.select_related("survey").get(pk=row["id"]))
    return BoatOut(kind=card.kind, length_m=card.length_m, notes=card.notes)


def _variant_out(row: Row, key: str, *, at_once: bool) -> VariantOut:
    """A variant in a list; what is not counted yet, and not at once, is counted by a worker."""
    summary: Summary | None = None
    if row["summary__made_from"] == key:
        summary = Summary(row["summary__by_severity"], row["summary__problem"])
    elif at_once:
        related = Variant.objects.select_related("job__survey", "job__workshop")
        summary = summarise(related.get(pk=row["id"]), key)
    else:
        count_later(row["id"])
    by_severity = {} if summary is None else dict(summary.by_severity)
    return VariantOut.model_construct(
        id=row["id"],
        name=row["name"],
        chosen=row["chosen"],
        revision=row["head"],
        worst=None if summary is None else summary.worst,
        findings=sum(by_severity.values()),
        by_severity=by_severity,
        problem=(summary.problem or None) if summary is not None else None,
        counting=summary is None,
    )
