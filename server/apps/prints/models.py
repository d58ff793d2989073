"""Files that workers make, and how far each has got."""

from __future__ import annotations

import uuid

from django.db import models

from apps.jobs.models import Variant
from apps.jobs.queue import Status

__all__ = ["Print"]


class Print(models.Model):
    """A file of a variant, a PDF or an archive: what was asked for, and how far it is.

    ``kind`` names the maker, ``ask`` is what that one needs to know. ``made_from`` tells all that
    it was made from: another one asked for with the same is the same.
    """

    id = models.UUIDField(primary_key=True, default=uuid.uuid4, editable=False)
    variant = models.ForeignKey(Variant, on_delete=models.CASCADE, related_name="prints")
    kind = models.CharField(max_length=20)
    ask = models.JSONField()
    made_from = models.CharField(max_length=64)
    name = models.CharField(max_length=80)
    status = models.CharField(max_length=12, choices=Status.choices, default=Status.WAITING)
    problem = models.TextField(blank=True)
    content = models.BinaryField(null=True)
    created = models.DateTimeField(auto_now_add=True)

    class Meta:
        ordering = ("-created",)
        constraints = (
            models.UniqueConstraint(
                fields=("variant", "kind", "made_from"), name="print_made_from"
            ),
        )

    def __str__(self) -> str:
        return f"{self.kind} {self.id}"
