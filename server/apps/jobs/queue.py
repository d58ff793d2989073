"""What everything that waits in the queue of workers has in common."""

from __future__ import annotations

from django.db import InterfaceError, OperationalError, models
from procrastinate import RetryStrategy

__all__ = ["AGAIN", "AWAY", "MOST_S", "QUEUE", "Status", "turn"]

QUEUE = "days"
MOST_S = 300.0  # that any one piece of work may take
# Work whose database went away under it is done again; what else fails is its own matter.
AWAY = (OperationalError, InterfaceError)
AGAIN = RetryStrategy(max_attempts=20, wait=5, retry_exceptions=set(AWAY))


def turn(first: int, ahead: int) -> int:
    """The priority of work in the queue, which takes the highest first.

    Whoever has much waiting already waits behind those who have little: the tenth piece of one
    person stands beside the tenth of another, whoever asked first.

    Args:
        first: the priority of the first piece of its sort.
        ahead: pieces of that sort that wait already for the same person or workshop.

    >>> [turn(20, ahead) for ahead in (0, 1, 2)]
    [20, 19, 18]
    """
    return first - ahead


class Status(models.TextChoices):
    """How far something in the queue has got."""

    WAITING = "waiting"
    RUNNING = "running"
    DONE = "done"
    FAILED = "failed"
    CANCELLED = "cancelled"
