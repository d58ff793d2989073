"""Tasks of the queue in PostgreSQL: pieces of studies, and taking up what a dead worker left."""

from __future__ import annotations

from django.db import close_old_connections
from procrastinate.contrib.django import app

from apps.days.work import run_piece
from apps.jobs.queue import AGAIN, QUEUE, turn

__all__ = ["live", "queue_piece", "take_up", "take_up_again"]

# A worker tells every ten seconds that it is alive; one silent for this long is dead.
SILENT_S = 30.0
DAY_FIRST = 10


@app.task(name="days.live", queue=QUEUE, retry=AGAIN)
def live(piece_id: int) -> None:
    """Compute one piece."""
    close_old_connections()
    run_piece(piece_id)


@app.periodic(cron="* * * * *")
@app.task(name="days.take_up_again", queue=QUEUE, pass_context=False)
async def take_up_again(timestamp: int) -> None:
    """Look every minute for what dead workers left."""
    await take_up()


async def take_up() -> None:
    """Queue once more what a worker had taken that is dead now."""
    for job in await app.job_manager.get_stalled_jobs(seconds_since_heartbeat=SILENT_S):
        await app.job_manager.retry_job(job)


def queue_piece(piece_id: int, *, day: bool, ahead: int) -> None:
    """Put a piece into the queue: those of single days before those of comparisons and sweeps.

    ``ahead`` is how many of its sort wait already for the same person.
    """
    priority = turn(DAY_FIRST if day else 0, ahead)
    live.configure(priority=priority).defer(piece_id=piece_id)
