"""The log of a boat: entries, records of monitors, what they say, and the calendar of service."""

from __future__ import annotations

import uuid

from django.db import models
from django.utils import timezone

from apps.accounts.models import User, Workshop
from apps.jobs.entries import DeviceEntry
from apps.jobs.models import Job, Variant
from apps.jobs.queue import Status

__all__ = ["CalendarLink", "LogEntry", "Record", "RecordAnalysis", "RecordBlock", "RecordRaw"]


class LogEntry(DeviceEntry):
    """One entry. Its target is a bank, an engine or a part; for *cured* the setting or fault."""

    stage = "log"
    taken_as = "apps.logbook.schemas.LogEntryIn"

    class Kind(models.TextChoices):
        """What was entered."""

        READING = "reading"
        SETTING = "setting"
        FAULT = "fault"
        CURED = "cured"
        NOTE = "note"
        DONE = "done"

    kind = models.CharField(max_length=10, choices=Kind.choices)

    class Meta(DeviceEntry.Meta):
        abstract = False
        indexes = (models.Index(fields=("variant", "at"), name="log_entry_by_variant"),)

    def __str__(self) -> str:
        return f"{self.kind} {self.target}"


class Record(models.Model):
    """A file of records of a bank: how it is read, how far that is, and what came of it.

    ``driven``: what charged the bank beside the sun. ``doubled`` rows were known already,
    ``bad`` could not be read.
    """

    id = models.UUIDField(primary_key=True, editable=False)
    job = models.ForeignKey(Job, on_delete=models.CASCADE, related_name="records")
    name = models.CharField(max_length=120)
    bank = models.CharField(max_length=60)
    digest = models.CharField(max_length=64)
    size = models.PositiveBigIntegerField()
    layout = models.JSONField()
    sample = models.JSONField(default=list)
    assumed = models.JSONField(default=list)
    driven = models.CharField(max_length=10, default="both")
    confirmed = models.BooleanField(default=False)
    status = models.CharField(max_length=12, choices=Status.choices, default=Status.WAITING)
    problem = models.TextField(blank=True)
    share = models.FloatField(default=0.0)
    rows = models.PositiveIntegerField(default=0)
    bad = models.PositiveIntegerField(default=0)
    doubled = models.PositiveIntegerField(default=0)
    problems = models.JSONField(default=list)
    notes = models.JSONField(default=list)
    start_s = models.FloatField(null=True)
    end_s = models.FloatField(null=True)
    author = models.ForeignKey(User, null=True, on_delete=models.SET_NULL)
    by = models.CharField(max_length=150, blank=True)
    created = models.DateTimeField(default=timezone.now)

    class Meta:
        ordering = ("start_s", "created")
        constraints = (
            models.UniqueConstraint(fields=("job", "bank", "digest"), name="record_once"),
        )

    def __str__(self) -> str:
        return self.name


class RecordRaw(models.Model):
    """A piece of a file as it was sent, compressed; gone once its rows are kept."""

    record = models.ForeignKey(Record, on_delete=models.CASCADE, related_name="raw")
    number = models.PositiveIntegerField()
    data = models.BinaryField()

    class Meta:
        ordering = ("number",)

    def __str__(self) -> str:
        return f"{self.record_id} {self.number}"


class RecordBlock(models.Model):
    """Some thousand rows of a bank in columns, compressed; ``summary`` has their extremes."""

    record = models.ForeignKey(Record, on_delete=models.CASCADE, related_name="blocks")
    start_s = models.FloatField()
    end_s = models.FloatField()
    rows = models.PositiveIntegerField()
    data = models.BinaryField()
    summary = models.BinaryField()

    class Meta:
        ordering = ("start_s",)
        indexes = (models.Index(fields=("record", "start_s"), name="record_block_start"),)

    def __str__(self) -> str:
        return f"{self.record_id} {self.start_s}"


class RecordAnalysis(models.Model):
    """What records say, held against a variant; ``made_from`` tells what it was made from."""

    variant = models.ForeignKey(Variant, on_delete=models.CASCADE, related_name="analyses")
    record = models.ForeignKey(Record, on_delete=models.CASCADE, related_name="analyses")
    made_from = models.CharField(max_length=64)
    status = models.CharField(max_length=12, choices=Status.choices, default=Status.WAITING)
    problem = models.TextField(blank=True)
    document = models.JSONField(null=True)

    class Meta:
        constraints = (
            models.UniqueConstraint(fields=("variant", "record"), name="analysis_of_record"),
        )

    def __str__(self) -> str:
        return f"{self.record_id} {self.variant_id}"


class CalendarLink(models.Model):
    """A secret address of the service that is due: only a digest of the secret is kept."""

    id = models.UUIDField(primary_key=True, default=uuid.uuid4, editable=False)
    workshop = models.ForeignKey(Workshop, on_delete=models.CASCADE, related_name="calendars")
    digest = models.CharField(max_length=64, unique=True)
    created = models.DateTimeField(auto_now_add=True)
    ended = models.DateTimeField(null=True)

    def __str__(self) -> str:
        return f"{self.workshop_id} {self.created}"
