"""Limits on use, so that one person, one workshop or one runaway program leaves room for others."""

from __future__ import annotations

from threading import Lock

from cachetools import TTLCache
from ninja.errors import HttpError

__all__ = ["MOST_REQUESTS", "WINDOW_S", "count_request", "forget_requests"]

# Own judgement: taking the largest demo job aboard asks about 200 times; each process counts for
# itself, which bounds what one person takes of it.
MOST_REQUESTS, WINDOW_S = 1500, 60.0
_asked: TTLCache[int, list[int]] = TTLCache(50_000, WINDOW_S)
_counting = Lock()
TOO_MANY = (
    f"More than {MOST_REQUESTS} requests within {WINDOW_S:g} s in your name: "
    "wait a minute. Nothing was saved by this one."
)


def count_request(person: int) -> None:
    """Count a request of a person. Raises a 429 where those are too many."""
    with _counting:
        count = _asked.setdefault(person, [0])
        count[0] += 1
        if count[0] > MOST_REQUESTS:
            raise HttpError(429, TOO_MANY)


def forget_requests() -> None:
    """Begin to count anew."""
    with _counting:
        _asked.clear()
