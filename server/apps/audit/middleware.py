"""Writes the audit log: in the transaction of the write it tells of."""

from __future__ import annotations

import json
import re
from collections.abc import Callable
from typing import Any

from django.http import HttpRequest, HttpResponse
from django.http.response import HttpResponseBase

from apps.accounts.models import User, Workshop
from apps.audit.models import AuditEntry
from apps.audit.subjects import Subject, subject_of
from apps.audit.words import MAKE_JOBS, NAME_SOMEBODY, WORDS

__all__ = ["Audit", "endpoint_of"]

PARAMETER = re.compile(r"<(?:\w+:)?(\w+)>")


def endpoint_of(request: HttpRequest) -> tuple[str, str]:
    """The method and the address of an endpoint, as the description of the API has it."""
    route = request.resolver_match.route if request.resolver_match else ""
    return request.method or "", "/" + PARAMETER.sub(r"{\1}", route)


class Audit:
    """One entry for each request that did what the log tells of."""

    def __init__(self, get_response: Callable[[HttpRequest], HttpResponseBase]) -> None:
        self.get_response = get_response

    def __call__(self, request: HttpRequest) -> HttpResponseBase:
        response = self.get_response(request)
        told: tuple[User | None, Subject, str] | None = getattr(request, "audited", None)
        if told is not None and response.status_code < 300:
            before, subject, did = told
            user = request.user if isinstance(request.user, User) else before
            if user is not None and user.workshop is not None:
                _write(user, user.workshop, did, subject, response)
        return response

    def process_view(self, request: HttpRequest, view: Any, args: Any, address: Any) -> None:
        """Note what a request is about before it is gone, and who asks before they sign out."""
        did = WORDS.get(endpoint_of(request))
        if did is not None:
            user = request.user if isinstance(request.user, User) else None
            request.audited = (user, subject_of(address), did)  # type: ignore[attr-defined]


def _write(
    user: User, workshop: Workshop, did: str, subject: Subject, response: HttpResponseBase
) -> None:
    job, words, person = subject
    if person is not None:
        person.refresh_from_db()
        words = f"{words}: {person.role if person.is_active else 'out'}"
    job_id, job_name = (job.pk, job.name) if job else (None, "")
    if did in MAKE_JOBS:
        made = _answer(response)
        job_id, job_name, words = made["id"], made["name"], job_name
    if did in NAME_SOMEBODY:
        words = _answer(response)["name"]
    AuditEntry.objects.create(
        workshop=workshop,
        person=user,
        name=user.username,
        did=did,
        job=job_id,
        job_name=job_name,
        subject=words[:200],
    )


def _answer(response: HttpResponseBase) -> dict[str, Any]:
    """What an answer gives: it was not there before."""
    assert isinstance(response, HttpResponse)  # none of these is streamed
    answer: dict[str, Any] = json.loads(response.content)
    return answer
