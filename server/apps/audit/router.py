"""The audit log of a workshop, for its owner."""

from __future__ import annotations

import csv
import io
from datetime import datetime
from typing import Any
from uuid import UUID

from django.db.models import QuerySet
from django.http import HttpRequest, HttpResponse
from ninja import Router, Schema
from pydantic import AwareDatetime

from apps.accounts.models import Workshop
from apps.accounts.permissions import OWNER, workshop_of
from apps.audit.models import AuditEntry
from apps.jobs.downloads import CSV, attachment
from apps.jobs.schemas import ProblemOut
from apps.search import said_in, words_of

router = Router(tags=["audit"])
PAGE = 100
COLUMNS = ("at", "name", "did", "job_name", "subject")


class AuditEntryOut(Schema):
    """Who did what to which job, and when."""

    id: int
    at: datetime
    name: str
    did: str
    job: UUID | None
    job_name: str
    subject: str


class AuditOut(Schema):
    """A page of the log, the newest first; ``more`` where older ones are left."""

    entries: list[AuditEntryOut]
    more: bool


def _found(workshop: Workshop, words: str, before: datetime | None) -> QuerySet[AuditEntry]:
    """Entries in which every word stands somewhere."""
    entries = AuditEntry.objects.filter(workshop=workshop)
    if before is not None:
        entries = entries.filter(at__lt=before)
    for word in words_of(words):
        entries = entries.filter(said_in(COLUMNS[1:], word))
    return entries


@router.get("/audit", auth=OWNER, response=AuditOut)
def audit(request: HttpRequest, words: str = "", before: AwareDatetime | None = None) -> AuditOut:
    """Who did what, the newest first."""
    page = list(_found(workshop_of(request), words, before)[: PAGE + 1])
    entries = [AuditEntryOut.from_orm(entry) for entry in page[:PAGE]]
    return AuditOut(entries=entries, more=len(page) > PAGE)


@router.get("/audit.csv", auth=OWNER, response={200: Any, 401: ProblemOut})
def audit_csv(request: HttpRequest, words: str = "") -> HttpResponse:
    """Everything of the log that has these words, as a table."""
    text = io.StringIO()
    table = csv.writer(text)
    table.writerow(("at", "who", "did", "job", "what"))
    for row in _found(workshop_of(request), words, None).values_list(*COLUMNS).iterator():
        table.writerow((row[0].isoformat(timespec="seconds"), *row[1:]))
    return attachment(text.getvalue(), CSV, "audit.csv")
