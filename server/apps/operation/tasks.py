"""What is done every night: dropping what is past its time, counting what was never counted."""

from __future__ import annotations

from asgiref.sync import sync_to_async
from procrastinate.contrib.django import app

from apps.jobs.queue import QUEUE
from apps.jobs.tasks import count_missing
from apps.operation.retention import tidy_up

__all__ = ["tidy"]

# Work that is done says nothing; that which failed is looked at for a week.
KEPT_DONE_H, KEPT_FAILED_H = 24, 7 * 24


@app.periodic(cron="41 3 * * *")
@app.task(name="operation.tidy", queue=QUEUE, pass_context=False)
async def tidy(timestamp: int) -> None:
    """Every night."""
    await sync_to_async(tidy_up)()
    await sync_to_async(count_missing)()
    await app.job_manager.delete_old_jobs(nb_hours=KEPT_DONE_H, queue=QUEUE)
    await app.job_manager.delete_old_jobs(
        nb_hours=KEPT_FAILED_H, queue=QUEUE, include_failed=True, include_cancelled=True
    )
