"""Who did what: one row for everything that changed, left the workshop or was deleted."""

from __future__ import annotations

from datetime import timedelta

from django.db import models
from django.utils import timezone

from apps.accounts.models import User, Workshop

__all__ = ["KEPT", "AuditEntry"]

# Own judgement: longer than a boat's usual warranty of two years.
KEPT = timedelta(days=3 * 365)


class AuditEntry(models.Model):
    """Who did what to which job, and when; never changed.

    Names stand as they were, so that a row tells its tale after a person or a job has gone.
    """

    workshop = models.ForeignKey(Workshop, on_delete=models.CASCADE, related_name="audit")
    at = models.DateTimeField(default=timezone.now)
    person = models.ForeignKey(User, null=True, on_delete=models.SET_NULL, related_name="+")
    name = models.CharField(max_length=150)
    did = models.CharField(max_length=120)
    job = models.UUIDField(null=True)
    job_name = models.CharField(max_length=120, blank=True)
    subject = models.CharField(max_length=200, blank=True)

    class Meta:
        ordering = ("-at", "-pk")
        indexes = (models.Index(fields=("workshop", "-at"), name="audit_of_workshop"),)

    def __str__(self) -> str:
        return f"{self.name} {self.did}"
