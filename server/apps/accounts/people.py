"""The people of a workshop: invited, given a role, let out and in again."""

from __future__ import annotations

import secrets
from datetime import timedelta

from django.conf import settings
from django.contrib.auth.password_validation import validate_password
from django.core.exceptions import ValidationError
from django.core.mail import send_mail
from django.db import transaction
from django.db.models import QuerySet
from django.utils import timezone
from strom_engine.errors import ChangeError, Problem

from apps.accounts.digests import digest_of
from apps.accounts.models import Invitation, Role, User, Workshop

__all__ = [
    "accept",
    "check_password_rules",
    "invite",
    "mail",
    "new_password_link",
    "open_invitation",
    "open_invitations",
    "set_role",
    "set_staying",
    "withdraw",
]

SECRET_BYTES = 32
MOST_OPEN = 50
MOST_PEOPLE = 200
NO_OWNER = "a workshop keeps one owner at least: make somebody else one first"


def check_password_rules(user: User, password: str, path: str = "password") -> None:
    """Raises ChangeError with everything that speaks against a password."""
    try:
        validate_password(password, user)
    except ValidationError as error:
        said = tuple(Problem(path, words) for words in error.messages)
        raise ChangeError(" ".join(error.messages), said) from None


# -- invitations -------------------------------------------------------------------------------


def invite(workshop: Workshop, author: User, name: str, role: Role) -> tuple[Invitation, str]:
    """An invitation and its secret, which is kept nowhere. Raises ChangeError for one too many."""
    if workshop.people.filter(is_active=True).count() >= MOST_PEOPLE:
        raise ChangeError(f"a workshop has {MOST_PEOPLE} people at most")
    return _link(Invitation(workshop=workshop, author=author, name=name, role=role))


def new_password_link(person: User, author: User) -> tuple[Invitation, str]:
    """A link with which somebody who forgot the password chooses another one."""
    assert person.workshop is not None  # it is somebody of the author's own
    return _link(
        Invitation(
            workshop=person.workshop,
            author=author,
            name=person.username,
            role=Role(person.role),
            person=person,
        )
    )


def _link(invitation: Invitation) -> tuple[Invitation, str]:
    if _open().filter(workshop=invitation.workshop).count() >= MOST_OPEN:
        raise ChangeError(f"{MOST_OPEN} links are open already: withdraw one first")
    secret = secrets.token_urlsafe(SECRET_BYTES)
    invitation.digest = digest_of(secret)
    invitation.expires = timezone.now() + Invitation.LASTS
    invitation.save()
    return invitation, secret


def _open() -> QuerySet[Invitation]:
    """Invitations that can still be used."""
    return Invitation.objects.filter(used=None, expires__gt=timezone.now())


def open_invitations(workshop: Workshop) -> list[Invitation]:
    """Links of a workshop that can still be used, the newest first."""
    return list(_open().filter(workshop=workshop).select_related("author"))


def mail(address: str, invitation: Invitation, link: str) -> bool:
    """Mail a link where this installation can; whether the mail server took it."""
    if not settings.MAIL_FROM:
        return False
    hours = round(Invitation.LASTS / timedelta(hours=1))
    name = invitation.workshop.name
    body = f"{name} invites you to Strom. Within {hours} hours, open:\n\n{link}\n"
    try:
        send_mail(f"Strom: {name}", body, settings.MAIL_FROM, [address])
    except OSError:
        return False
    return True


def open_invitation(secret: str) -> Invitation | None:
    """The invitation of a secret, while it can be used."""
    related = _open().select_related("workshop", "person")
    return related.filter(digest=digest_of(secret)).first()


def withdraw(invitation: Invitation) -> None:
    """From now on the link opens nothing."""
    invitation.used = timezone.now()
    invitation.save(update_fields=["used"])


def accept(secret: str, username: str, password: str) -> User | None:
    """Use an invitation: a new person, or the new password of one. None for one of no use.

    Raises ChangeError for a name that is taken or a password that is not good enough.
    """
    with transaction.atomic():
        invitation = open_invitation(secret)
        if invitation is None:
            return None
        # Two who follow one link at once: the second waits here, and finds it used.
        invitation = Invitation.objects.select_for_update(of=("self",)).get(pk=invitation.pk)
        if invitation.used is not None:
            return None
        person = invitation.person or User(username=username, workshop=invitation.workshop)
        if invitation.person is None:
            person.role = invitation.role
            _check_name(person)
        check_password_rules(person, password)
        person.set_password(password)
        person.save()
        withdraw(invitation)
    return person


def _check_name(person: User) -> None:
    try:
        person.username = User.normalize_username(person.username)
        User.username_validator(person.username)
    except ValidationError as error:
        raise ChangeError(error.messages[0], (Problem("username", error.messages[0]),)) from None
    if User.objects.filter(username__iexact=person.username).exists():
        text = f"there is already somebody called {person.username}: choose another name"
        raise ChangeError(text, (Problem("username", text),))


# -- people ------------------------------------------------------------------------------------


def set_role(person: User, role: Role) -> None:
    """Give somebody another role. Raises ChangeError for the last owner."""
    with transaction.atomic():
        _keep_an_owner(person, stays=role == Role.OWNER)
        person.role = role
        person.save(update_fields=["role"])


def set_staying(person: User, *, stays: bool) -> None:
    """Let somebody out of the workshop, all sessions ended at once, or in again.

    Raises ChangeError for the last owner.
    """
    with transaction.atomic():
        _keep_an_owner(person, stays=stays)
        person.is_active = stays
        person.save(update_fields=["is_active"])
        if not stays:
            person.sittings.all().delete()
            Invitation.objects.filter(person=person, used=None).update(used=timezone.now())


def _keep_an_owner(person: User, *, stays: bool) -> None:
    owners = User.objects.select_for_update().filter(
        workshop=person.workshop, role=Role.OWNER, is_active=True
    )
    if not stays and {owner.pk for owner in owners} == {person.pk}:
        raise ChangeError(NO_OWNER, (Problem("role", NO_OWNER),))
