"""Signing in and out, and what people change about their own account."""

from __future__ import annotations

from collections.abc import Iterator
from contextlib import contextmanager
from threading import Lock

from django.conf import settings
from django.contrib.auth import authenticate, login, logout, update_session_auth_hash
from django.core.exceptions import PermissionDenied
from django.http import HttpRequest

from apps.accounts.models import User
from apps.accounts.people import check_password_rules
from apps.accounts.second_factor import has_second_factor, passes

__all__ = [
    "DEMO_USERNAME",
    "CodeWantedError",
    "RefusedError",
    "TooManyAttemptsError",
    "change_password",
    "check_password",
    "end_sitting",
    "enter",
    "enter_demo",
    "hashing",
    "sign_in",
    "sign_out",
]

DEMO_USERNAME = "demo"
BACKEND = "django.contrib.auth.backends.ModelBackend"
# Checking a password costs a core a third of a second, by design: one at a time in each process,
# so that a flood of attempts leaves the others to everybody else.
PATIENCE_S = 5.0
_hashing = Lock()
UNKNOWN = "Name and password do not go together."
WRONG_CODE = "This code does not fit, or was used: take the next one that the app shows."
WRONG_PASSWORD = "This is not your password."


class TooManyAttemptsError(Exception):
    """Sign-in is not tried now; the message says why and for how long."""


class RefusedError(Exception):
    """A password or code is wrong; the message says so. What counts it must be kept."""


class CodeWantedError(Exception):
    """The password is right, and a code of the second factor is asked for."""


@contextmanager
def hashing() -> Iterator[None]:
    """One password at a time. Raises TooManyAttemptsError while many are tried at once."""
    if not _hashing.acquire(timeout=PATIENCE_S):
        raise TooManyAttemptsError("Many people sign in just now: try again in a minute.")
    try:
        yield
    finally:
        _hashing.release()


def _known(request: HttpRequest, username: str, password: str) -> User | None:
    """Who this is; None when name and password do not go together.

    Raises TooManyAttemptsError after too many wrong ones, or while many are tried at once.
    """
    if "\x00" in username + password:
        return None
    with hashing():
        user = authenticate(request, username=username, password=password)
    if user is None and getattr(request, "axes_locked_out", False):
        wait = round(settings.AXES_COOLOFF_TIME.total_seconds() / 60)
        raise TooManyAttemptsError(
            f"Too many wrong passwords for this name: wait {wait} minutes, then try again."
        )
    return user if isinstance(user, User) else None


def sign_in(request: HttpRequest, username: str, password: str, code: str) -> None:
    """Sign in with a password, and the code of the second factor where there is one.

    Raises RefusedError, CodeWantedError, TooManyAttemptsError.
    """
    user = _known(request, username, password)
    if user is None:
        raise RefusedError(UNKNOWN)
    if has_second_factor(user):
        if not code:
            raise CodeWantedError
        if not passes(user, code):
            raise RefusedError(WRONG_CODE)
    login(request, user)


def enter(request: HttpRequest, user: User) -> None:
    """Sign in somebody who has just chosen a password, where no second factor is wanted."""
    if not has_second_factor(user):
        login(request, user, backend=BACKEND)


def enter_demo(request: HttpRequest) -> None:
    """Enter the demo workshop without a password; only in demo mode."""
    user = User.objects.filter(username=DEMO_USERNAME).first() if settings.DEMO_MODE else None
    if user is None:
        raise PermissionDenied("There is no demo workshop here.")
    login(request, user, backend=BACKEND)


def sign_out(request: HttpRequest) -> None:
    """End the session."""
    logout(request)


# -- one's own account -------------------------------------------------------------------------


def check_password(request: HttpRequest, user: User, password: str) -> None:
    """Raises RefusedError for a wrong password, TooManyAttemptsError: counted as at the door."""
    if _known(request, user.username, password) != user:
        raise RefusedError(WRONG_PASSWORD)


def change_password(request: HttpRequest, user: User, password: str, new: str) -> None:
    """Change one's own password: every other session ends.

    Raises ChangeError for a new one that is not good enough, else what ``check_password`` does.
    """
    check_password(request, user, password)
    check_password_rules(user, new, "new")
    with hashing():
        user.set_password(new)
    user.save(update_fields=["password"])
    update_session_auth_hash(request, user)
    user.sittings.exclude(session_key=request.session.session_key).delete()


def end_sitting(user: User, number: str) -> None:
    """End one of one's own sessions; nothing happens where it has ended already."""
    for row in user.sittings.all():
        if row.number == number:
            row.delete()
