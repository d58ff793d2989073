"""What is told of every request: an id, a line in the log, a count. No names and no addresses."""

from __future__ import annotations

import logging
import re
import time
from collections.abc import Callable
from uuid import uuid4

from django.conf import settings
from django.http import HttpRequest, HttpResponseBase

from apps.operation.log_filters import request_id
from apps.operation.metrics import count_request
from apps.problems import route_of

__all__ = ["Requests"]

HEADER = "X-Request-Id"
GIVEN = re.compile(r"[A-Za-z0-9-]{8,64}")
_log = logging.getLogger("strom.requests")


class Requests:
    """Gives a request its id, that of the proxy in front where it has one; counts and logs it."""

    def __init__(self, get_response: Callable[[HttpRequest], HttpResponseBase]) -> None:
        self.get_response = get_response

    def __call__(self, request: HttpRequest) -> HttpResponseBase:
        given = request.headers.get(HEADER, "")
        own = given if GIVEN.fullmatch(given) else uuid4().hex
        token = request_id.set(own)
        begun = time.monotonic()
        try:
            response = self.get_response(request)
            seconds = time.monotonic() - begun
            self._told(request, response.status_code, seconds)
        finally:
            request_id.reset(token)
        response[HEADER] = own
        return response

    def _told(self, request: HttpRequest, status: int, seconds: float) -> None:
        route = route_of(request)
        count_request(request.method or "", route, status, seconds)
        slow = seconds > settings.SLOW_S
        ms = round(1000 * seconds)
        told = {"method": request.method, "route": route, "status": status, "ms": ms}
        words = "%s%s %s: %d in %d ms"
        level = logging.WARNING if slow or status >= 500 else logging.INFO
        values = ("slow, " if slow else "", request.method, route, status, ms)
        _log.log(level, words, *values, extra=told)
