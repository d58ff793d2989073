"""Session endpoints. The open ones check the CSRF token themselves."""

from typing import Any

from django.conf import settings
from django.core.exceptions import PermissionDenied
from django.http import HttpRequest
from django.middleware.csrf import get_token
from ninja import Router
from ninja.errors import HttpError
from ninja.utils import check_csrf

from apps.accounts import actions, people
from apps.accounts.models import Role, User
from apps.accounts.permissions import ANYONE
from apps.accounts.schemas import Credentials, FormatsOut, InvitedOut, JoinIn, SecretIn, SessionOut

router = Router(tags=["session"])
OF_NO_USE = "This link was used, withdrawn, or is too old: ask the workshop's owner for another."


def _session(request: HttpRequest, *, code_wanted: bool = False) -> SessionOut:
    user = request.user if isinstance(request.user, User) else None
    return SessionOut(
        signed_in=user is not None,
        username=user.username if user else None,
        workshop=user.workshop.name if user and user.workshop else None,
        role=Role(user.role) if user else None,
        formats=FormatsOut.from_orm(user.workshop) if user and user.workshop else None,
        demo_available=settings.DEMO_MODE,
        code_wanted=code_wanted,
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
    """Sign in, with the code of the second factor where one is asked for."""
    _require_csrf(request)
    try:
        actions.sign_in(request, payload.username, payload.password, payload.code)
    except actions.CodeWantedError:
        return _session(request, code_wanted=True)
    except actions.RefusedError as error:
        raise HttpError(401, str(error)) from None
    except actions.TooManyAttemptsError as error:
        raise HttpError(429, str(error)) from None
    return _session(request)


@router.post("/demo", auth=None, response=SessionOut)
def enter_demo(request: HttpRequest) -> SessionOut:
    """Enter the demo workshop."""
    _require_csrf(request)
    actions.enter_demo(request)
    return _session(request)


@router.delete("", auth=ANYONE, response=SessionOut)
def sign_out(request: HttpRequest) -> SessionOut:
    """Sign out."""
    actions.sign_out(request)
    return _session(request)


# -- invitations, followed ---------------------------------------------------------------------


@router.post("/invitation", auth=None, response=InvitedOut)
def invited(request: HttpRequest, payload: SecretIn) -> InvitedOut:
    """What a link opens; a body and no address, since addresses are written down on the way."""
    _require_csrf(request)
    found = people.open_invitation(payload.secret)
    if found is None:
        raise HttpError(404, OF_NO_USE)
    return InvitedOut(
        workshop=found.workshop.name,
        name=found.name,
        role=Role(found.role),
        username=found.person.username if found.person else None,
    )


@router.post("/join", auth=None, response=SessionOut)
def join(request: HttpRequest, payload: JoinIn) -> Any:
    """Follow a link: become one of the workshop, or choose a new password."""
    _require_csrf(request)
    try:
        with actions.hashing():
            person = people.accept(payload.secret, payload.username, payload.password)
    except actions.TooManyAttemptsError as error:
        raise HttpError(429, str(error)) from None
    if person is None:
        raise HttpError(404, OF_NO_USE)
    actions.enter(request, person)
    return _session(request)
