"""What people enter while they prove a boat, and the meters of the workshop."""

from __future__ import annotations

from django.db import models

from apps.accounts.models import Workshop
from apps.jobs.entries import DeviceEntry

__all__ = ["Meters", "ProveEntry"]


class ProveEntry(DeviceEntry):
    """One entry; its target is the key of a test, or ``today`` for what was found today."""

    stage = "prove"
    taken_as = "apps.prove.schemas.ProveEntryIn"

    class Kind(models.TextChoices):
        """What was entered."""

        READING = "reading"
        LOOK = "look"
        NOTE = "note"
        WAIVED = "waived"
        TODAY = "today"

    kind = models.CharField(max_length=10, choices=Kind.choices)

    class Meta(DeviceEntry.Meta):
        abstract = False
        indexes = (models.Index(fields=("variant", "at"), name="prove_entry_by_variant"),)

    def __str__(self) -> str:
        return f"{self.kind} {self.target}"


class Meters(models.Model):
    """The meters of a workshop with their classes, the best first."""

    workshop = models.OneToOneField(Workshop, on_delete=models.CASCADE, related_name="meters")
    document = models.JSONField()

    def __str__(self) -> str:
        return f"meters of {self.workshop}"
