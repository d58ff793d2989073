"""Plans of a day, and studies: days, comparisons and sweeps run in the queue."""

from __future__ import annotations

import uuid

from django.db import models

from apps.accounts.models import User
from apps.days.result_shapes import RESULT_SHAPE
from apps.jobs.models import Job, Variant
from apps.jobs.queue import Status

__all__ = ["DayPlan", "Piece", "Study"]


class PlansAtHand(models.Manager["DayPlan"]):
    """Plans that nobody has taken away."""

    def get_queryset(self) -> models.QuerySet[DayPlan]:
        return super().get_queryset().filter(dropped=None)


class DayPlan(models.Model):
    """A plan of a day, kept for a job.

    With a ``school`` the moves of switches are made for each variant from it; with ``own`` they
    are those of the document. ``revision`` counts its changes. ``before`` are the states that an
    undo goes back to, the newest last, ``after`` those that a redo brings back. ``dropped``: when
    it was taken away; until its time is over it can be brought back.
    """

    id = models.UUIDField(primary_key=True, default=uuid.uuid4, editable=False)
    job = models.ForeignKey(Job, on_delete=models.CASCADE, related_name="plans")
    school = models.CharField(max_length=10)
    document = models.JSONField()
    revision = models.PositiveIntegerField(default=1)
    before = models.JSONField(default=list)
    after = models.JSONField(default=list)
    created = models.DateTimeField(auto_now_add=True)
    dropped = models.DateTimeField(null=True)

    objects = PlansAtHand()
    every = models.Manager()

    class Meta:
        ordering = ("created",)

    def __str__(self) -> str:
        return str(self.document.get("name", self.id))


class StudyQuerySet(models.QuerySet["Study"]):
    """Studies, to be narrowed down."""

    def of_today(self) -> StudyQuerySet:
        """Those whose results have the shape of today: what others kept cannot be read."""
        return self.filter(shape=RESULT_SHAPE)


class Study(models.Model):
    """A day, a comparison or a sweep. ``made_from`` tells what it was computed from.

    That is a digest of design, survey, plan and case: it is stale when that differs now.
    ``shape`` tells how its results are kept.
    """

    class Kind(models.TextChoices):
        """What is studied."""

        DAY = "day"
        COMPARISON = "comparison"
        SWEEP = "sweep"

    id = models.UUIDField(primary_key=True, default=uuid.uuid4, editable=False)
    job = models.ForeignKey(Job, on_delete=models.CASCADE, related_name="studies")
    variant = models.ForeignKey(Variant, null=True, on_delete=models.CASCADE)
    plan = models.ForeignKey(DayPlan, null=True, on_delete=models.SET_NULL)
    kind = models.CharField(max_length=12, choices=Kind.choices)
    status = models.CharField(max_length=12, choices=Status.choices, default=Status.WAITING)
    ask = models.JSONField()
    made_from = models.CharField(max_length=64)
    shape = models.CharField(max_length=16, default="")
    variant_revision = models.PositiveIntegerField(null=True)
    author = models.ForeignKey(User, null=True, on_delete=models.SET_NULL)
    created = models.DateTimeField(auto_now_add=True)

    objects = StudyQuerySet.as_manager()

    class Meta:
        ordering = ("-created",)
        indexes = (models.Index(fields=("job", "kind", "made_from"), name="study_made_from"),)

    def __str__(self) -> str:
        return f"{self.kind} {self.id}"


class Piece(models.Model):
    """One day of a study: what to run, how far it is, what came of it.

    ``task`` holds plan, design revision and case, so that any worker can do it at any time.
    """

    study = models.ForeignKey(Study, on_delete=models.CASCADE, related_name="pieces")
    number = models.PositiveIntegerField()
    task = models.JSONField()
    status = models.CharField(max_length=12, choices=Status.choices, default=Status.WAITING)
    progress = models.FloatField(default=0.0)
    outcome = models.JSONField(null=True)
    result = models.JSONField(null=True)
    problem = models.TextField(blank=True)

    class Meta:
        ordering = ("number",)
        constraints = (models.UniqueConstraint(fields=("study", "number"), name="piece_number"),)

    def __str__(self) -> str:
        return f"{self.study_id} {self.number}"
