"""Session endpoints. The open ones check the CSRF token themselves."""

from django.conf import settings
from django.core.exceptions import PermissionDenied
from django.http import HttpRequest
from django.middleware.csrf import get_token
from ninja import Router
from ninja.errors import AuthenticationError, HttpError
from ninja.utils import check_csrf

from apps.accounts import actions
from apps.accounts.models import User
from apps.accounts.schemas import Credentials, SessionOut

router = Router(tags=["session"])


def _session(request: HttpRequest) -> SessionOut:
    user = request.user if isinstance(request.user, User) else None
    return SessionOut(
        signed_in=user is not None,
        username=user.username if user else None,
        workshop=user.workshop.name if user and user.workshop else None,
        demo_available=settings.DEMO_MODE,
    )


def _require_csrf(request: HttpRequest) -> None:
    if check_csrf(request) is not None:
        raise PermissionDenied("The page is out of date: load it again.")


@router.get("", auth=None, response=SessionOut)
def session(request: HttpRequest) -> SessionOut:
    """Who is signed in. The token of writes comes along: the page itself may come from a device."""
    get_token(request)
    return _session(request)


@router.post("", auth=None, response=SessionOut)
def sign_in(request: HttpRequest, payload: Credentials) -> SessionOut:
    """Sign in."""
    _require_csrf(request)
    try:
        known = actions.sign_in(request, payload.username, payload.password)
    except actions.TooManyAttemptsError as error:
        raise HttpError(429, str(error)) from None
    if not known:
        raise AuthenticationError
    return _session(request)


@router.post("/demo", auth=None, response=SessionOut)
def enter_demo(request: HttpRequest) -> SessionOut:
    """Enter the demo workshop."""
    _require_csrf(request)
    actions.enter_demo(request)
    return _session(request)


@router.delete("", response=SessionOut)
def sign_out(request: HttpRequest) -> SessionOut:
    """Sign out."""
    actions.sign_out(request)
    return _session(request)
