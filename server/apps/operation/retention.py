"""What is not kept for ever: the bin, files that can be made anew, sessions."""

from __future__ import annotations

from datetime import timedelta

from django.utils import timezone

from apps.accounts.models import Invitation, Sitting
from apps.audit.models import KEPT as KEPT_AUDIT
from apps.audit.models import AuditEntry
from apps.jobs.models import KEPT_IN_BIN, Job
from apps.prints.models import Print

__all__ = ["KEPT_FILES", "tidy_up"]

# Own judgement: who did not fetch a file for a month asks for it again, and it is made again.
KEPT_FILES = timedelta(days=30)


def tidy_up() -> dict[str, int]:
    """Drop what is past its time; how many of each."""
    now = timezone.now()
    past = {
        "jobs": Job.objects.filter(binned__lt=now - KEPT_IN_BIN),
        "files": Print.objects.filter(created__lt=now - KEPT_FILES),
        "audit entries": AuditEntry.objects.filter(at__lt=now - KEPT_AUDIT),
        "invitations": Invitation.objects.filter(expires__lt=now),
        "sessions": Sitting.objects.filter(expire_date__lt=now),
    }
    return {name: found.delete()[1].get(found.model._meta.label, 0) for name, found in past.items()}
