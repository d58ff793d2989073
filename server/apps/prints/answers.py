"""Answers that take seconds to work out: a worker does it, and whoever asks comes again.

The request itself stays light: it answers 202 until the answer is there, and the same request
sent again gets it. What is asked for twice from the same documents is worked out once.
"""

from __future__ import annotations

from typing import Any

from django.http import HttpResponse

from apps.jobs.models import Variant
from apps.jobs.queue import Status
from apps.prints.actions import ask_for, made_already
from apps.prints.makers import Ask
from apps.prints.models import Print
from apps.problems import problem_response

__all__ = ["LATER", "answer", "answered", "asked"]

# What an endpoint that answers so adds to its description: 202 has no body.
LATER: dict[str, Any] = {  # Any: a piece of the document
    "responses": {202: {"description": "A worker is at it: send the same request again."}}
}
AGAIN_S = 1


def answer(variant: Variant, kind: str, ask: Ask, made_from: object) -> HttpResponse:
    """The answer that a maker gives, as JSON; 202 while it is waited for, 422 where it failed.

    Args:
        variant: what it is of.
        kind: its maker.
        ask: what that one needs to know, as JSON.
        made_from: everything it is made from; one made from the same is the same.
    """
    return answered(asked(variant, kind, ask, made_from))


def asked(variant: Variant, kind: str, ask: Ask, made_from: object) -> Print:
    """The work behind an answer, put into the queue where nobody asked before."""
    found = made_already(variant, kind, ask, made_from)
    return found or ask_for(variant, kind, ask, made_from, kind)


def answered(one: Print) -> HttpResponse:
    """What there is to say of the work behind an answer."""
    if one.status == Status.DONE:
        return HttpResponse(bytes(one.content or b""), content_type="application/json")
    if one.status == Status.FAILED:
        one.delete()  # asked for again, it is tried again
        return problem_response(422, "Not computed", one.problem)
    later = HttpResponse(status=202)
    later["Retry-After"] = str(AGAIN_S)
    return later
