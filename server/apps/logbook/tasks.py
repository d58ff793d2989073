"""Tasks of the queue: rows of a file, and what records say of a boat."""

from __future__ import annotations

from uuid import UUID

from django.db import close_old_connections
from procrastinate.contrib.django import app

from apps.jobs.queue import AGAIN, QUEUE
from apps.logbook.analysing import analyse
from apps.logbook.importing import import_rows

__all__ = ["queue_analysis", "queue_import"]

FIRST = 10  # somebody waits for it; PDFs are quicker, and go before


@app.task(name="logbook.import", queue=QUEUE, retry=AGAIN)
def read_rows(record_id: str) -> None:
    """Read the rows of one file."""
    close_old_connections()
    import_rows(record_id)


@app.task(name="logbook.analyse", queue=QUEUE, retry=AGAIN)
def hold(analysis_id: int) -> None:
    """Hold one file of records against a boat."""
    close_old_connections()
    analyse(analysis_id)


def queue_import(record_id: UUID) -> None:
    """Put a file into the queue."""
    read_rows.configure(priority=FIRST).defer(record_id=str(record_id))


def queue_analysis(analysis_id: int) -> None:
    """Put an analysis into the queue."""
    hold.configure(priority=FIRST).defer(analysis_id=analysis_id)
