"""What people enter while they build: ticks, receipts, lengths, notes, an order of their own."""

from __future__ import annotations

from django.db import models

from apps.jobs.entries import DeviceEntry

__all__ = ["BuildEntry"]


class BuildEntry(DeviceEntry):
    """One entry; its target is the key of a step, line, part or cable in the build."""

    stage = "build"
    taken_as = "apps.build.schemas.EntryIn"

    class Kind(models.TextChoices):
        """What was entered."""

        TICK = "tick"
        RECEIVED = "received"
        LENGTH = "length"
        NOTE = "note"
        PHOTO = "photo"
        ORDER = "order"

    kind = models.CharField(max_length=10, choices=Kind.choices)

    class Meta(DeviceEntry.Meta):
        abstract = False
        indexes = (models.Index(fields=("variant", "at"), name="build_entry_by_variant"),)

    def __str__(self) -> str:
        return f"{self.kind} {self.target}"
