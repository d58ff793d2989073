"""What owners do with their boat's sheet: links without an account, drills, practice aboard."""

from __future__ import annotations

import uuid

from django.db import models

from apps.accounts.models import User
from apps.jobs.entries import DeviceEntry
from apps.jobs.models import Variant

__all__ = ["HandoverEntry", "OwnerLink"]


class HandoverEntry(DeviceEntry):
    """One entry; its target is the key of a scene, or ``aboard`` where real switches are turned."""

    stage = "handover"
    taken_as = "apps.handover.schemas.HandoverEntryIn"

    class Kind(models.TextChoices):
        """What was entered."""

        DRILL = "drill"
        PRACTISED = "practised"

    kind = models.CharField(max_length=10, choices=Kind.choices)

    class Meta(DeviceEntry.Meta):
        abstract = False
        indexes = (models.Index(fields=("variant", "at"), name="handover_entry_by_variant"),)

    def __str__(self) -> str:
        return f"{self.kind} {self.target}"


class OwnerLink(models.Model):
    """An address that opens one boat's sheet and drill, and takes readings, without an account.

    Only a digest of its secret is kept. ``asked`` counts requests since ``since``.
    """

    id = models.UUIDField(primary_key=True, default=uuid.uuid4, editable=False)
    variant = models.ForeignKey(Variant, on_delete=models.CASCADE, related_name="owner_links")
    digest = models.CharField(max_length=64, unique=True)
    name = models.CharField(max_length=80)
    school = models.CharField(max_length=10)
    language = models.CharField(max_length=5)
    author = models.ForeignKey(User, null=True, on_delete=models.SET_NULL)
    created = models.DateTimeField(auto_now_add=True)
    expires = models.DateTimeField()
    ended = models.DateTimeField(null=True)
    seen = models.DateTimeField(null=True)
    since = models.DateTimeField(auto_now_add=True)
    asked = models.PositiveIntegerField(default=0)

    class Meta:
        ordering = ("-created",)

    def __str__(self) -> str:
        return f"{self.variant_id} {self.name}"
