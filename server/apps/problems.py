"""Errors as application/problem+json (RFC 9457), naming the field and the reason."""

from __future__ import annotations

import logging
from collections.abc import Iterable
from typing import Any

from django.core.exceptions import PermissionDenied
from django.db import InterfaceError, OperationalError
from django.http import Http404, HttpRequest, HttpResponse, JsonResponse
from ninja import NinjaAPI
from ninja.errors import AuthenticationError, HttpError, ValidationError
from strom_engine.design.changes import CHANGE_TYPES
from strom_engine.design.parts import KINDS
from strom_engine.design.validation import problems_from_errors
from strom_engine.errors import (
    ChangeError,
    ComputationError,
    DesignError,
    DocumentError,
    FaultError,
    JobFileError,
    NotSettledError,
    PlanError,
    StateError,
    StockError,
    StromError,
    SurveyError,
    TableError,
    TooLargeError,
)
from strom_engine.survey.survey_changes import SURVEY_CHANGE_TYPES

__all__ = ["ConflictError", "database_away", "problem_response", "register_problems", "route_of"]

TAGS = frozenset((*KINDS, *CHANGE_TYPES, *SURVEY_CHANGE_TYPES))
TITLES: dict[type[StromError], tuple[int, str]] = {
    DesignError: (422, "Not a valid design"),
    SurveyError: (422, "Not a valid survey"),
    StockError: (422, "Not a valid stock list"),
    JobFileError: (422, "Not a valid job file"),
    TableError: (422, "Not a table that can be read"),
    FaultError: (422, "This fault does not fit the design"),
    ChangeError: (422, "This change does not fit"),
    StateError: (422, "This state does not fit the design"),
    PlanError: (422, "This plan cannot be run"),
    NotSettledError: (422, "The operating point does not settle"),
    ComputationError: (422, "This cannot be computed"),
    DocumentError: (422, "This cannot be read any more"),
    TooLargeError: (422, "Too much at once"),
}
HTTP_TITLES = {401: "Not signed in", 404: "Not found", 429: "Too many requests"}

_log = logging.getLogger(__name__)


class ConflictError(Exception):
    """Somebody saved in between and both touched the same thing; both versions are kept."""

    def __init__(self, detail: str, **extra: Any) -> None:  # Any: members of the answer
        super().__init__(detail)
        self.extra = extra


def problem_response(
    status: int,
    title: str,
    detail: str,
    errors: Iterable[tuple[str, str]] = (),
    **extra: Any,
) -> HttpResponse:
    """A problem document."""
    body: dict[str, Any] = {  # Any: extension members of the RFC
        "type": "about:blank",
        "title": title,
        "status": status,
        "detail": detail,
        "errors": [{"path": path, "message": message} for path, message in errors],
        **extra,
    }
    return JsonResponse(body, status=status, content_type="application/problem+json")


def database_away() -> HttpResponse:
    """The answer while the database is not there: whoever asks again with the same id is safe."""
    _log.warning("the database does not answer")
    text = "The database does not answer just now. Ask again in a moment."
    return problem_response(503, "Not now", text)


def route_of(request: HttpRequest) -> str:
    """The pattern of a request's address, to be logged: addresses carry ids, one a secret."""
    match = request.resolver_match
    return str(match.route) if match else "an unknown address"


def register_problems(api: NinjaAPI) -> None:
    """Map every error of the API to a problem document, in one place."""

    @api.exception_handler(StromError)
    def _strom(request: HttpRequest, error: StromError) -> HttpResponse:
        status, title = TITLES.get(type(error), (422, "Cannot be done"))
        return problem_response(
            status, title, str(error), ((p.path, p.message) for p in error.problems)
        )

    @api.exception_handler(ConflictError)
    def _conflict(request: HttpRequest, error: ConflictError) -> HttpResponse:
        return problem_response(409, "Saved in between", str(error), **error.extra)

    @api.exception_handler(ValidationError)
    def _validation(request: HttpRequest, error: ValidationError) -> HttpResponse:
        plain = (
            {**e, "loc": tuple(step for step in e["loc"][1:] if step != "payload")}
            for e in error.errors
        )
        found = problems_from_errors(plain, tags=TAGS)
        words = str(found[0]) if found else "The request does not fit."
        return problem_response(422, "Bad request", words, ((p.path, p.message) for p in found))

    @api.exception_handler(AuthenticationError)
    def _stranger(request: HttpRequest, error: AuthenticationError) -> HttpResponse:
        return problem_response(401, "Not signed in", "Sign in to a workshop first.")

    @api.exception_handler(PermissionDenied)
    def _denied(request: HttpRequest, error: PermissionDenied) -> HttpResponse:
        return problem_response(403, "Not allowed", str(error) or "This is not yours to do.")

    @api.exception_handler(Http404)
    def _missing(request: HttpRequest, error: Http404) -> HttpResponse:
        return problem_response(404, "Not found", "There is no such thing in your workshop.")

    @api.exception_handler(OperationalError)
    @api.exception_handler(InterfaceError)
    def _away(request: HttpRequest, error: Exception) -> HttpResponse:
        return database_away()

    @api.exception_handler(Exception)
    def _unexpected(request: HttpRequest, error: Exception) -> HttpResponse:
        _log.exception("%s %s failed", request.method, route_of(request))
        return problem_response(
            500,
            "The program failed",
            "The program failed on this, and the failure was noted. Nothing was saved by it.",
        )

    @api.exception_handler(HttpError)
    def _http(request: HttpRequest, error: HttpError) -> HttpResponse:
        title = HTTP_TITLES.get(error.status_code, "Bad request")
        return problem_response(error.status_code, title, str(error))
