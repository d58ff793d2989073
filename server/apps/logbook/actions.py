"""Writes of the stage Log."""

from __future__ import annotations

import secrets
from collections.abc import Sequence
from functools import partial

from django.db import transaction
from django.utils import timezone
from strom_engine.errors import ChangeError, Problem, TableError

from apps.accounts.digests import digest_of
from apps.accounts.models import Workshop
from apps.accounts.permissions import Writer
from apps.jobs.entries import keep_entries
from apps.jobs.models import Variant
from apps.jobs.queue import Status
from apps.logbook.analysing import made_from
from apps.logbook.models import CalendarLink, LogEntry, Record, RecordAnalysis
from apps.logbook.schemas import LogEntryIn, RecordStart
from apps.logbook.tasks import queue_analysis, queue_import

__all__ = [
    "ask_analysis",
    "cancel",
    "end_calendars",
    "enter",
    "new_calendar",
    "start_reading",
]


def enter(variant: Variant, writer: Writer, entries: list[LogEntryIn]) -> None:
    """Keep entries; those that are kept already stay as they are.

    Raises ChangeError with every reason: an entry without its value, a clock far ahead, a value
    that its kind cannot have, a cure of nothing.
    """

    def further(new: Sequence[LogEntryIn]) -> None:
        wrong = []
        known = {str(e.id) for e in entries if e.kind in ("setting", "fault")}
        kept = LogEntry.objects.filter(variant__job=variant.job, kind__in=("setting", "fault"))
        known |= {str(pk) for pk in kept.values_list("pk", flat=True)}
        for n, entry in enumerate(new):
            if entry.kind == "cured" and entry.target not in known:
                text = "is neither a setting nor a fault of this boat"
                wrong.append(Problem(f"entries[{n}].target", text))
        if wrong:
            raise ChangeError(wrong[0].message, tuple(wrong))

    keep_entries(LogEntry, variant, writer, entries, further)


def start_reading(record: Record, told: RecordStart) -> None:
    """Read the rows of a file as somebody confirmed it.

    Raises TableError where the layout has no time or no values; ChangeError for one that is read.
    """
    if wrong := told.layout.problems():
        raise TableError(wrong)
    if record.status in (Status.RUNNING, Status.DONE):
        record.driven = told.driven
        record.save(update_fields=["driven"])
        return
    record.layout = told.layout.model_dump(mode="json")
    record.driven, record.confirmed = told.driven, True
    record.status, record.problem, record.share = Status.WAITING, "", 0.0
    record.save()
    transaction.on_commit(partial(queue_import, record.pk))


def cancel(record: Record) -> None:
    """Stop the reading of a file; it can be begun again."""
    waits = record.status in (Status.WAITING, Status.RUNNING)
    if waits and record.confirmed:
        Record.objects.filter(pk=record.pk).update(status=Status.CANCELLED)


def new_calendar(workshop: Workshop) -> str:
    """A new secret address of the service that is due; those before it end."""
    end_calendars(workshop)
    secret = secrets.token_urlsafe(32)
    CalendarLink.objects.create(workshop=workshop, digest=digest_of(secret))
    return secret


def end_calendars(workshop: Workshop) -> None:
    """End every address that is out."""
    workshop.calendars.filter(ended=None).update(ended=timezone.now())


def ask_analysis(variant: Variant, record: Record) -> RecordAnalysis:
    """What records say of a variant: the one that is there, or a new one in the queue."""
    digest = made_from(variant, record)
    with transaction.atomic():
        one, made = RecordAnalysis.objects.select_for_update().get_or_create(
            variant=variant, record=record, defaults={"made_from": digest}
        )
        outdated = one.made_from != digest or one.status == Status.FAILED
        if outdated:
            one.made_from, one.status = digest, Status.WAITING
            one.problem, one.document = "", None
            one.save()
        if made or outdated:
            transaction.on_commit(partial(queue_analysis, one.pk))
    return one
