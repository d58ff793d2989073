"""What people enter while they build: ticks, receipts, lengths, notes, an order of their own."""

from __future__ import annotations

from django.db import models

from apps.accounts.models import User
from apps.jobs.models import Variant

__all__ = ["BuildEntry"]


class BuildEntry(models.Model):
    """One entry, with an id that the device made, so that it can be sent twice.

    ``target`` is the key of what it is about in the build of the variant, which stays while the
    design changes; ``revision`` the design's when it was entered, ``at`` the device's own clock.
    Rows never change: what was entered wrongly is entered anew.
    """

    class Kind(models.TextChoices):
        """What was entered."""

        TICK = "tick"
        RECEIVED = "received"
        LENGTH = "length"
        NOTE = "note"
        PHOTO = "photo"
        ORDER = "order"

    id = models.UUIDField(primary_key=True, editable=False)
    variant = models.ForeignKey(Variant, on_delete=models.CASCADE, related_name="build_entries")
    kind = models.CharField(max_length=10, choices=Kind.choices)
    target = models.CharField(max_length=160)
    value = models.JSONField()
    revision = models.PositiveIntegerField()
    at = models.DateTimeField()
    author = models.ForeignKey(User, null=True, on_delete=models.SET_NULL)
    created = models.DateTimeField(auto_now_add=True)

    class Meta:
        ordering = ("at", "created")
        indexes = (models.Index(fields=("variant", "at"), name="build_entry_by_variant"),)

    def __str__(self) -> str:
        return f"{self.kind} {self.target}"
