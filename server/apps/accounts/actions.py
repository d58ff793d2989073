"""Signing in and out."""

from threading import Lock

from django.conf import settings
from django.contrib.auth import authenticate, login, logout
from django.core.exceptions import PermissionDenied
from django.http import HttpRequest

from apps.accounts.models import User

__all__ = ["DEMO_USERNAME", "TooManyAttemptsError", "enter_demo", "sign_in", "sign_out"]

DEMO_USERNAME = "demo"
# Checking a password costs a core a third of a second, by design: one at a time in each process,
# so that a flood of attempts leaves the others to everybody else.
PATIENCE_S = 5.0
_hashing = Lock()


class TooManyAttemptsError(Exception):
    """Sign-in is not tried now; the message says why and for how long."""


def sign_in(request: HttpRequest, username: str, password: str) -> bool:
    """Sign in with a password; False when name and password do not go together.

    Raises TooManyAttemptsError after too many wrong ones, or while many are tried at once.
    """
    if "\x00" in username + password:
        return False
    if not _hashing.acquire(timeout=PATIENCE_S):
        raise TooManyAttemptsError("Many people sign in just now: try again in a minute.")
    try:
        user = authenticate(request, username=username, password=password)
    finally:
        _hashing.release()
    if user is None:
        if getattr(request, "axes_locked_out", False):
            wait = round(settings.AXES_COOLOFF_TIME.total_seconds() / 60)
            raise TooManyAttemptsError(
                f"Too many wrong passwords for this name: wait {wait} minutes, then try again."
            )
        return False
    login(request, user)
    return True


def enter_demo(request: HttpRequest) -> None:
    """Enter the demo workshop without a password; only in demo mode."""
    user = User.objects.filter(username=DEMO_USERNAME).first() if settings.DEMO_MODE else None
    if user is None:
        raise PermissionDenied("There is no demo workshop here.")
    login(request, user, backend="django.contrib.auth.backends.ModelBackend")


def sign_out(request: HttpRequest) -> None:
    """End the session."""
    logout(request)
