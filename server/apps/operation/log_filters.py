"""What every line of the log carries, the id of its request, and what none does, an address."""

from __future__ import annotations

import logging
from contextvars import ContextVar

from django.http import HttpRequest

from apps.problems import route_of

__all__ = ["RequestId", "WithoutAddress", "request_id"]

request_id: ContextVar[str] = ContextVar("request_id", default="")


class RequestId(logging.Filter):
    """Puts the id of the request at hand on every line of the log."""

    def filter(self, record: logging.LogRecord) -> bool:
        """Let every line pass."""
        record.request_id = request_id.get()
        return True


class WithoutAddress(logging.Filter):
    """Puts the pattern of an address for the address: one of them carries a secret."""

    def filter(self, record: logging.LogRecord) -> bool:
        """Let every line pass; Django ends its lines of a request with the address."""
        request = getattr(record, "request", None)
        if isinstance(request, HttpRequest):
            told = record.args if isinstance(record.args, tuple) else ()
            record.args = tuple(route_of(request) if a == request.path else a for a in told)
            vars(record).pop("request")  # it would be written with its address
        return True
