"""The task of the queue that makes a PDF."""

from __future__ import annotations

from uuid import UUID

from django.db import close_old_connections
from procrastinate.contrib.django import app

from apps.jobs.queue import AGAIN, QUEUE, turn
from apps.prints.work import make_print

__all__ = ["queue_print"]

FIRST = 20  # somebody waits for it


@app.task(name="prints.make", queue=QUEUE, retry=AGAIN)
def make(print_id: str) -> None:
    """Make one PDF."""
    close_old_connections()
    make_print(print_id)


def queue_print(print_id: UUID, ahead: int) -> None:
    """Put a PDF into the queue, before days and sweeps; ``ahead`` wait for the workshop already."""
    make.configure(priority=turn(FIRST, ahead)).defer(print_id=str(print_id))
