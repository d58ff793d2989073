"""Whether this installation can work: its database, its migrations, its queue."""

from __future__ import annotations

from dataclasses import dataclass
from functools import cache

from django.db import DatabaseError, connection
from django.db.migrations.loader import MigrationLoader
from procrastinate.contrib.django.models import ProcrastinateJob

from apps.jobs.queue import QUEUE

__all__ = ["LATE_S", "Health", "QueueState", "health", "queue_state"]

# Own judgement: a day is computed in seconds, so what has waited for five minutes waits for a
# worker that is not there.
LATE_S = 300.0


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
        missing = _missing()
        queue = queue_state()
    except DatabaseError:
        return Health("no connection to the database", "cannot tell", "cannot tell")
    words = f"{queue.waiting} wait, the oldest for {queue.oldest_s:.0f} s" if queue.late else ""
    told = f"{len(missing)} not applied: {', '.join(missing)}" if missing else ""
    return Health("", told, words)


def queue_state() -> QueueState:
    """The queue as it stands. Raises DatabaseError."""
    with connection.cursor() as cursor:
        # The time at which a job may begin, or was put into the queue: its last such event.
        cursor.execute(
            f"""
            SELECT count(*) FILTER (WHERE job.status = 'todo'),
                   count(*) FILTER (WHERE job.status = 'doing'),
                   COALESCE(EXTRACT(EPOCH FROM max(now() - COALESCE(job.scheduled_at, queued.at))
                     FILTER (WHERE job.status = 'todo')), 0)
            FROM {ProcrastinateJob._meta.db_table} AS job
            LEFT JOIN LATERAL (
              SELECT max(at) AS at FROM procrastinate_events
              WHERE job_id = job.id AND type IN ('deferred', 'deferred_for_retry')
            ) AS queued ON true
            WHERE job.queue_name = %s AND job.status IN ('todo', 'doing')
            """,
            [QUEUE],
        )
        waiting, running, oldest = cursor.fetchone()
    return QueueState(waiting, running, max(0.0, float(oldest)))


def _missing() -> list[str]:
    """Migrations of this version that the database has not got; once none is, none will be."""
    if _complete.cache_info().currsize:
        return []
    loader = MigrationLoader(connection)
    missing = [
        ".".join(one) for one in loader.disk_migrations if one not in loader.applied_migrations
    ]
    if not missing:
        _complete()
    return missing


@cache
def _complete() -> bool:
    return True
