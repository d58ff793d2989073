"""Writes are whole: saved together with their answer, or not at all, and never twice.

A write is one transaction from the request to the finished answer, so that an answer that says
"nothing was saved" is true. With an ``Idempotency-Key``, an id that the sender makes for each
write, one that is sent again because its answer got lost is answered as it was the first time.
"""

from __future__ import annotations

from collections.abc import Callable
from uuid import UUID

from django.db import InterfaceError, OperationalError, transaction
from django.http import HttpRequest, HttpResponse

from apps.accounts.models import User
from apps.problems import database_away, problem_response
from apps.writes.models import AnsweredWrite

__all__ = ["WholeWrites"]

READS = ("GET", "HEAD", "OPTIONS")
LATER = 202  # a worker is at it, and the same is asked again
CLASH = 409  # the version that lost is kept aside
SIGN_IN_REFUSED = (401, 403, 429)  # and counted


class WholeWrites:
    """One transaction for each write of the API."""

    def __init__(self, get_response: Callable[[HttpRequest], HttpResponse]) -> None:
        self.get_response = get_response

    def __call__(self, request: HttpRequest) -> HttpResponse:
        if request.method in READS or not request.path.startswith("/api/"):
            return self.get_response(request)
        try:
            return self._written(request)
        except (OperationalError, InterfaceError):
            return database_away()

    def _written(self, request: HttpRequest) -> HttpResponse:
        key = request.headers.get("Idempotency-Key")
        if key is None or not isinstance(request.user, User):
            return self._whole(request)
        try:
            unique = UUID(key)
        except ValueError:
            text = "Idempotency-Key must be a UUID."
            return problem_response(422, "Bad request", text, [("Idempotency-Key", text)])
        return self._once(request, request.user, unique)

    def _whole(self, request: HttpRequest) -> HttpResponse:
        with transaction.atomic():
            response = self.get_response(request)
            if not _saves(response) and response.status_code not in SIGN_IN_REFUSED:
                transaction.set_rollback(True)
        return response

    def _once(self, request: HttpRequest, person: User, key: UUID) -> HttpResponse:
        call = f"{request.method} {request.path}"[:300]
        with transaction.atomic():
            # While another request with this key is under way, this waits until it has ended.
            claim = AnsweredWrite(person=person, key=key, call=call)
            AnsweredWrite.objects.bulk_create([claim], ignore_conflicts=True)
            write = AnsweredWrite.objects.get(person=person, key=key)
            if write.call != call:
                text = f"This id was used before, for {write.call}."
                return problem_response(422, "Bad request", text, [("Idempotency-Key", text)])
            if write.answered:
                return write.again()
            response = self.get_response(request)
            if response.status_code == LATER:
                write.delete()
            elif _saves(response):
                write.answer(response)
            else:
                transaction.set_rollback(True)
        return response


def _saves(response: HttpResponse) -> bool:
    """Whether what a request did stays done."""
    return response.status_code < 400 or response.status_code == CLASH
