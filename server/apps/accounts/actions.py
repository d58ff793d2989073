"""Signing in and out."""

from django.conf import settings
from django.contrib.auth import authenticate, login, logout
from django.core.exceptions import PermissionDenied
from django.http import HttpRequest

from apps.accounts.models import User

__all__ = ["DEMO_USERNAME", "enter_demo", "sign_in", "sign_out"]

DEMO_USERNAME = "demo"


def sign_in(request: HttpRequest, username: str, password: str) -> bool:
    """Sign in with a password; False when name and password do not go together."""
    if "\x00" in username + password:
        return False
    user = authenticate(request, username=username, password=password)
    if user is None:
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
