"""What is not kept for ever: the bin, what can be made anew, sessions, records where told so."""

from __future__ import annotations

from datetime import datetime, timedelta

from django.conf import settings
from django.utils import timezone

from apps.accounts.models import Invitation, Sitting
from apps.audit.models import KEPT as KEPT_AUDIT
from apps.audit.models import AuditEntry
from apps.days.models import DayPlan, Study
from apps.days.result_shapes import RESULT_SHAPE
from apps.jobs.models import KEPT_IN_BIN, Job
from apps.logbook.models import Record
from apps.prints.models import Print

__all__ = ["KEPT_FILES", "tidy_up"]

# Own judgement: who did not fetch a file for a month asks for it again, and it is made again.
KEPT_FILES = timedelta(days=30)
DAYS_A_YEAR = 365.25


def tidy_up() -> dict[str, int]:
    """Drop what is past its time; how many of each."""
    now = timezone.now()
    past = {
        "jobs": Job.objects.filter(binned__lt=now - KEPT_IN_BIN),
        "files": Print.objects.filter(created__lt=now - KEPT_FILES),
        # Days whose results an older version kept in a shape that nobody reads any more.
        "studies": Study.objects.filter(created__lt=now - KEPT_FILES).exclude(shape=RESULT_SHAPE),
        "plans": DayPlan.every.filter(dropped__lt=now - KEPT_IN_BIN),
        "records": Record.objects.filter(end_s__lt=_oldest_s(now)),
        "audit entries": AuditEntry.objects.filter(at__lt=now - KEPT_AUDIT),
        "invitations": Invitation.objects.filter(expires__lt=now),
        "sessions": Sitting.objects.filter(expire_date__lt=now),
    }
    return {name: found.delete()[1].get(found.model._meta.label, 0) for name, found in past.items()}


def _oldest_s(now: datetime) -> float:
    """Files of records that end before this moment [s since 1970] are dropped; none unless told."""
    years = settings.RECORDS_KEPT_YEARS
    return 0.0 if years is None else (now - timedelta(days=years * DAYS_A_YEAR)).timestamp()
