"""Whether this installation can work: its database, its migrations, its queue."""

from __future__ import annotations

from dataclasses import dataclass

from django.db import DatabaseError
from django.db.models import Count, Min, OuterRef, Subquery
from django.db.models.functions import Coalesce
from django.utils import timezone
from procrastinate.contrib.django.models import ProcrastinateEvent, ProcrastinateJob

from apps.jobs.queue import QUEUE
from apps.operation.standing import applied, known

__all__ = ["LATE_S", "Health", "QueueState", "health", "queue_state"]

# Own judgement: a day is computed in seconds, so what has waited for five minutes waits for a
# worker that is not there.
LATE_S = 300.0
QUEUED = ("deferred", "deferred_for_retry")  # events of the queue


@dataclass(frozen=True)
class QueueState:
    """Pieces of work that wait, that are worked on, and the age of the oldest that waits [s]."""

    waiting: int
    running: int
    oldest_s: float

    @property
    def late(self) -> bool:
        """Whether something waits longer than it does while workers run."""
        return self.oldest_s > LATE_S


@dataclass(frozen=True)
class Health:
    """What is wrong with each part in words, empty where it is well."""

    database: str
    migrations: str
    queue: str

    @property
    def ready(self) -> bool:
        """Whether requests can be answered; a queue that is late is told, and stops nothing."""
        return not (self.database or self.migrations)


def health() -> Health:
    """Look at every part now."""
    try:
        missing = sorted(".".join(one) for one in known() - applied())
        queue = queue_state()
    except DatabaseError:
        return Health("no connection to the database", "cannot tell", "cannot tell")
    words = f"{queue.waiting} wait, the oldest for {queue.oldest_s:.0f} s" if queue.late else ""
    told = f"{len(missing)} not applied: {', '.join(missing)}" if missing else ""
    return Health("", told, words)


def queue_state() -> QueueState:
    """The queue as it stands. Raises DatabaseError."""
    jobs = ProcrastinateJob.objects.filter(queue_name=QUEUE)
    # A job waits from when it may begin, or from when it was put into the queue the last time.
    queued = ProcrastinateEvent.objects.filter(job=OuterRef("pk"), type__in=QUEUED)
    since = Coalesce("scheduled_at", Subquery(queued.order_by("-at").values("at")[:1]))
    todo = jobs.filter(status="todo").aggregate(count=Count("pk"), oldest=Min(since))
    now = timezone.now()
    age_s = max(0.0, (now - (todo["oldest"] or now)).total_seconds())
    return QueueState(todo["count"], jobs.filter(status="doing").count(), age_s)
