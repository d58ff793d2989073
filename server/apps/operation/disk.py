"""What jobs take on disk, as PostgreSQL keeps it: compressed, indexes not counted."""

from __future__ import annotations

from collections import defaultdict
from dataclasses import dataclass, fields
from uuid import UUID

from django.db.models import BigIntegerField, F, Func, QuerySet, Sum

from apps.accounts.models import Workshop
from apps.days.models import Piece
from apps.jobs.models import Job, Photo, Revision, SurveyRevision
from apps.logbook.models import RecordBlock
from apps.prints.models import Print

__all__ = ["JobDisk", "disk_of"]


class StoredBytes(Func):
    """The bytes that a column of a row takes."""

    function = "pg_column_size"
    output_field = BigIntegerField()


@dataclass
class JobDisk:
    """Bytes of one job by what they are."""

    photographs: int = 0
    records: int = 0
    studies: int = 0
    files: int = 0
    versions: int = 0

    @property
    def total(self) -> int:
        """All of them."""
        return sum(getattr(self, field.name) for field in fields(self))


def disk_of(workshop: Workshop) -> list[tuple[Job, JobDisk]]:
    """All jobs of a workshop, those in the bin too, with what they take [bytes], largest first."""
    found: dict[UUID, JobDisk] = defaultdict(JobDisk)

    def add(name: str, rows: QuerySet, job: str, *columns: str) -> None:  # type: ignore[type-arg]
        for column in columns:
            sums = rows.filter(**{f"{job}__workshop": workshop}).values(kept_for=F(job))
            sums = sums.annotate(bytes=Sum(StoredBytes(column)))
            for job_id, taken in sums.values_list("kept_for", "bytes"):
                disk = found[job_id]
                setattr(disk, name, getattr(disk, name) + (taken or 0))

    add("photographs", Photo.objects.order_by(), "job", "image")
    add("records", RecordBlock.objects.order_by(), "record__job", "data", "summary")
    add("studies", Piece.objects.order_by(), "study__job", "result", "outcome", "task")
    add("files", Print.objects.order_by(), "variant__job", "content")
    add("versions", Revision.objects.order_by(), "variant__job", "document")
    add("versions", SurveyRevision.objects.order_by(), "survey__job", "document")
    jobs = [(job, found[job.pk]) for job in Job.objects.filter(workshop=workshop)]
    return sorted(jobs, key=lambda pair: -pair[1].total)
