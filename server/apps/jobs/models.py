"""Jobs, their variants, and the immutable history of each variant."""

import uuid

from django.db import models

from apps.accounts.models import User, Workshop

__all__ = ["Job", "Revision", "Variant"]


class Job(models.Model):
    """One boat's work."""

    id = models.UUIDField(primary_key=True, default=uuid.uuid4, editable=False)
    workshop = models.ForeignKey(Workshop, on_delete=models.PROTECT, related_name="jobs")
    name = models.CharField(max_length=120)
    boat = models.JSONField()
    created = models.DateTimeField(auto_now_add=True)
    changed = models.DateTimeField(auto_now=True)

    class Meta:
        ordering = ("-changed", "name")

    def __str__(self) -> str:
        return self.name


class Variant(models.Model):
    """As found, or a proposal; its newest revision is what it is."""

    id = models.UUIDField(primary_key=True, default=uuid.uuid4, editable=False)
    job = models.ForeignKey(Job, on_delete=models.CASCADE, related_name="variants")
    name = models.CharField(max_length=120)
    place = models.PositiveSmallIntegerField()
    chosen = models.BooleanField(default=False)
    head = models.PositiveIntegerField(default=1)

    class Meta:
        ordering = ("place",)
        constraints = (models.UniqueConstraint(fields=("job", "name"), name="variant_name_in_job"),)

    def __str__(self) -> str:
        return self.name


class Revision(models.Model):
    """One saved state of a variant; never changed and never deleted.

    ``shows`` is the number of the revision whose state this one shows: its own, or after an
    undo or redo that of the change, import or restore it went to. ``undo_to`` is the revision
    whose state an undo from here shows again, ``redo_to`` the one that a redo brings back.
    A revision of kind ``aside`` lost a clash and was kept.
    """

    class Kind(models.TextChoices):
        """How a revision came about."""

        IMPORT = "import"
        CHANGE = "change"
        UNDO = "undo"
        REDO = "redo"
        RESTORE = "restore"
        ASIDE = "aside"

    variant = models.ForeignKey(Variant, on_delete=models.CASCADE, related_name="revisions")
    number = models.PositiveIntegerField()
    kind = models.CharField(max_length=10, choices=Kind.choices)
    words = models.TextField()
    change = models.JSONField(null=True)
    design = models.JSONField()
    shows = models.PositiveIntegerField()
    undo_to = models.PositiveIntegerField(null=True)
    redo_to = models.PositiveIntegerField(null=True)
    author = models.ForeignKey(User, null=True, on_delete=models.SET_NULL)
    created = models.DateTimeField(auto_now_add=True)

    class Meta:
        ordering = ("number",)
        constraints = (
            models.UniqueConstraint(fields=("variant", "number"), name="revision_number"),
        )

    def __str__(self) -> str:
        return f"{self.variant_id} {self.number}: {self.words}"
