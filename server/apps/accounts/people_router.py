"""One's own account, and the people of a workshop."""

from typing import Any
from uuid import UUID

import segno
from django.conf import settings
from django.core.exceptions import PermissionDenied
from django.db.models import Max
from django.http import HttpRequest
from django.shortcuts import get_object_or_404
from django_otp.plugins.otp_totp.models import TOTPDevice
from ninja import Router
from ninja.errors import HttpError

from apps.accounts import actions, people, second_factor
from apps.accounts.models import Invitation, Role, User, Workshop
from apps.accounts.permissions import ANYONE, OWNER, member, workshop_of
from apps.accounts.schemas import (
    AccountOut,
    CodeIn,
    CodesOut,
    FormatChoice,
    FormatsOut,
    InvitationIn,
    InvitationOut,
    NewLinkOut,
    PasswordIn,
    PasswordOnlyIn,
    PeopleOut,
    PersonIn,
    PersonOut,
    SetupOut,
    SittingOut,
    WorkshopIn,
    WorkshopOut,
)

router = Router(tags=["people"])
FORMATS = {
    "dates": Workshop.Dates,
    "clock": Workshop.Clock,
    "units": Workshop.Units,
    "paper": Workshop.Paper,
}


# -- one's own account -------------------------------------------------------------------------


@router.get("/account", response=AccountOut)
def account(request: HttpRequest) -> AccountOut:
    """One's own account and sessions, the one used last first."""
    return _account(request)


def _account(request: HttpRequest) -> AccountOut:
    user = member(request)
    here = request.session.session_key
    return AccountOut(
        username=user.username,
        role=Role(user.role),
        second_factor=second_factor.has_second_factor(user),
        recovery_codes=second_factor.left(user),
        sittings=[
            SittingOut(
                number=row.number,
                browser=row.browser,
                begun=row.begun,
                seen=row.seen,
                here=row.session_key == here,
            )
            for row in user.sittings.order_by("-seen")
        ],
    )


@router.post("/account/password", auth=ANYONE, response=AccountOut)
def change_password(request: HttpRequest, payload: PasswordIn) -> AccountOut:
    """Change one's own password; every other session ends."""
    _limited(actions.change_password, request, member(request), payload.password, payload.new)
    return _account(request)


def _limited(do: Any, *arguments: Any) -> None:  # Any: an action and what it takes
    """Do what asks for a password: a wrong one is a 403, too many are a 429."""
    try:
        do(*arguments)
    except actions.RefusedError as error:
        raise PermissionDenied(str(error)) from None
    except actions.TooManyAttemptsError as error:
        raise HttpError(429, str(error)) from None


@router.delete("/account/sittings/{number}", auth=ANYONE, response=AccountOut)
def end_sitting(request: HttpRequest, number: str) -> AccountOut:
    """End one of one's own sessions."""
    actions.end_sitting(member(request), number)
    return _account(request)


@router.post("/account/second-factor", auth=ANYONE, response=SetupOut)
def begin_second_factor(request: HttpRequest, payload: PasswordOnlyIn) -> SetupOut:
    """Begin to set up a second factor: it counts once a code of the app was entered."""
    _limited(actions.check_password, request, member(request), payload.password)
    setup = second_factor.begin(member(request))
    picture = segno.make(setup.address, error="m").svg_data_uri(scale=4, border=4)
    return SetupOut(svg=picture, secret=setup.secret)


@router.post("/account/second-factor/confirm", auth=ANYONE, response=CodesOut)
def confirm_second_factor(request: HttpRequest, payload: CodeIn) -> CodesOut:
    """Count the second factor from now on; codes for the day the phone is lost."""
    return CodesOut(codes=second_factor.confirm(member(request), payload.code))


@router.post("/account/second-factor/off", auth=ANYONE, response=AccountOut)
def no_second_factor(request: HttpRequest, payload: PasswordOnlyIn) -> AccountOut:
    """Sign in with the password alone from now on."""
    _limited(actions.check_password, request, member(request), payload.password)
    second_factor.turn_off(member(request))
    return _account(request)


# -- the workshop ------------------------------------------------------------------------------


@router.get("/workshop", response=WorkshopOut)
def workshop(request: HttpRequest) -> WorkshopOut:
    """The workshop's name and formats, with what can be picked."""
    return _workshop(workshop_of(request))


def _workshop(found: Workshop) -> WorkshopOut:
    fields = FormatsOut.from_orm(found)
    choices = {
        name: [FormatChoice(value=value, title=str(title)) for value, title in kind.choices]
        for name, kind in FORMATS.items()
    }
    return WorkshopOut(name=found.name, choices=choices, **dict(fields))


@router.put("/workshop", auth=OWNER, response=WorkshopOut)
def change_workshop(request: HttpRequest, payload: WorkshopIn) -> WorkshopOut:
    """Give the workshop another name or other formats."""
    found = workshop_of(request)
    for name, value in payload.model_dump().items():
        setattr(found, name, value)
    found.save(update_fields=list(payload.model_dump()))
    return _workshop(found)


# -- people ------------------------------------------------------------------------------------


@router.get("/people", auth=OWNER, response=PeopleOut)
def people_of(request: HttpRequest) -> PeopleOut:
    """Everybody of the workshop and the links that are open."""
    return _people(workshop_of(request))


def _people(workshop: Workshop) -> PeopleOut:
    everybody = workshop.people.annotate(last_seen=Max("sittings__seen")).order_by("username")
    guarded = set(
        TOTPDevice.objects.filter(user__workshop=workshop, confirmed=True).values_list(
            "user_id", flat=True
        )
    )
    return PeopleOut(
        people=[
            PersonOut(
                id=person.pk,
                username=person.username,
                role=Role(person.role),
                out=not person.is_active,
                second_factor=person.pk in guarded,
                last_seen=person.last_seen or person.last_login,
            )
            for person in everybody
        ],
        invitations=[InvitationOut(**_told(one)) for one in people.open_invitations(workshop)],
        can_mail=bool(settings.MAIL_FROM),
    )


def _told(invitation: Invitation) -> dict[str, Any]:
    return {
        "id": invitation.pk,
        "name": invitation.name,
        "role": Role(invitation.role),
        "password": invitation.person_id is not None,
        "expires": invitation.expires,
        "author": invitation.author.username if invitation.author else None,
    }


@router.post("/people/invitations", auth=OWNER, response=NewLinkOut)
def invite(request: HttpRequest, payload: InvitationIn) -> NewLinkOut:
    """Invite somebody: the link is told this once, and mailed where that is possible."""
    made, secret = people.invite(workshop_of(request), member(request), payload.name, payload.role)
    link = _link(request, secret)
    mailed = bool(payload.mail) and people.mail(payload.mail, made, link)
    return NewLinkOut(**_told(made), link=link, mailed=mailed)


def _link(request: HttpRequest, secret: str) -> str:
    """The address of a link: what stands behind the mark is sent to no server."""
    return request.build_absolute_uri(f"/join#{secret}")


@router.delete("/people/invitations/{invitation_id}", auth=OWNER, response=PeopleOut)
def withdraw(request: HttpRequest, invitation_id: UUID) -> PeopleOut:
    """Withdraw a link: from now on it opens nothing."""
    workshop = workshop_of(request)
    people.withdraw(get_object_or_404(workshop.invitations, pk=invitation_id))
    return _people(workshop)


def _person(request: HttpRequest, person_id: int) -> User:
    return get_object_or_404(workshop_of(request).people, pk=person_id)


@router.patch("/people/{person_id}", auth=OWNER, response=PeopleOut)
def change_person(request: HttpRequest, person_id: int, payload: PersonIn) -> PeopleOut:
    """Give somebody another role, or let them out of the workshop or in again."""
    person = _person(request, person_id)
    if payload.role is not None:
        people.set_role(person, payload.role)
    if payload.out is not None:
        people.set_staying(person, stays=not payload.out)
    return _people(workshop_of(request))


@router.post("/people/{person_id}/new-password", auth=OWNER, response=NewLinkOut)
def new_password(request: HttpRequest, person_id: int) -> NewLinkOut:
    """A link with which somebody who forgot the password chooses another one."""
    made, secret = people.new_password_link(_person(request, person_id), member(request))
    return NewLinkOut(**_told(made), link=_link(request, secret))


@router.delete("/people/{person_id}/second-factor", auth=OWNER, response=PeopleOut)
def reset_second_factor(request: HttpRequest, person_id: int) -> PeopleOut:
    """Take the second factor of somebody away whose phone and codes are lost."""
    second_factor.turn_off(_person(request, person_id))
    return _people(workshop_of(request))
