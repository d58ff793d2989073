"""What everything that waits in the queue of workers has in common."""

from __future__ import annotations

from django.db import InterfaceError, OperationalError, models
from procrastinate import RetryStrategy

__all__ = ["AGAIN", "AWAY", "QUEUE", "Status"]

QUEUE = "days"
# Work whose database went away under it is done again; what else fails is its own matter.
AWAY = (OperationalError, InterfaceError)
AGAIN = RetryStrategy(max_attempts=20, wait=5, retry_exceptions=set(AWAY))


class Status(models.TextChoices):
    """How far something in the queue has got."""

    WAITING = "waiting"
    RUNNING = "running"
    DONE = "done"
    FAILED = "failed"
    CANCELLED = "cancelled"
