"""Tasks of the queue in PostgreSQL: pieces of studies, and taking up what a dead worker left."""

from __future__ import annotations

from django.db import InterfaceError, OperationalError, close_old_connections
from procrastinate import RetryStrategy
from procrastinate.contrib.django import app

from apps.days.work import run_piece

__all__ = ["live", "queue_piece", "take_up", "take_up_again"]

# A worker tells every ten seconds that it is alive; one silent for this long is dead.
SILENT_S = 30.0
DAY_FIRST = 10


# A piece whose database went away under it is done again; what else fails is its own matter.
AGAIN = RetryStrategy(max_attempts=20, wait=5, retry_exceptions={OperationalError, InterfaceError})


@app.task(name="days.live", queue="days", retry=AGAIN)
def live(piece_id: int) -> None:
    """Compute one piece."""
    close_old_connections()
    run_piece(piece_id)


@app.periodic(cron="* * * * *")
@app.task(name="days.take_up_again", queue="days", pass_context=False)
async def take_up_again(timestamp: int) -> None:
    """Look every minute for what dead workers left."""
    await take_up()


async def take_up() -> None:
    """Queue once more what a worker had taken that is dead now."""
    for job in await app.job_manager.get_stalled_jobs(seconds_since_heartbeat=SILENT_S):
        await app.job_manager.retry_job(job)


def queue_piece(piece_id: int, *, first: bool) -> None:
    """Put a piece into the queue; ``first`` before those of comparisons and sweeps."""
    live.configure(priority=DAY_FIRST if first else 0).defer(piece_id=piece_id)
