"""What the endpoints of sessions, accounts and people take and give."""

from datetime import datetime
from typing import Annotated
from uuid import UUID

from ninja import Schema
from pydantic import Field, StringConstraints
from strom_engine.design.fields import Name

from apps.accounts.models import Role, Workshop

__all__ = [
    "AccountOut",
    "CodeIn",
    "CodesOut",
    "Credentials",
    "FormatChoice",
    "FormatsOut",
    "InvitationIn",
    "InvitationOut",
    "InvitedOut",
    "JoinIn",
    "NewLinkOut",
    "PasswordIn",
    "PasswordOnlyIn",
    "PeopleOut",
    "PersonIn",
    "PersonOut",
    "SecretIn",
    "SessionOut",
    "SetupOut",
    "SittingOut",
    "WorkshopIn",
    "WorkshopOut",
]

Password = Annotated[str, Field(max_length=200), StringConstraints(pattern=r"^[^\x00]*$")]
Code = Annotated[str, StringConstraints(strip_whitespace=True, max_length=16)]
Secret = Annotated[str, Field(max_length=100)]
Username = Annotated[str, StringConstraints(strip_whitespace=True, min_length=1, max_length=150)]


class Credentials(Schema):
    """Name and password, and the code of the second factor where one was asked for."""

    username: str = Field(max_length=150)
    password: str = Field(max_length=200)
    code: Code = ""


class FormatsOut(Schema):
    """How a workshop writes days, hours and lengths, and on which paper it prints."""

    dates: Workshop.Dates
    clock: Workshop.Clock
    units: Workshop.Units
    paper: Workshop.Paper


class FormatChoice(Schema):
    """Something that can be picked, and how it looks."""

    value: str
    title: str


class WorkshopOut(FormatsOut):
    """A workshop with what can be picked for each of its formats."""

    name: str
    choices: dict[str, list[FormatChoice]]


class WorkshopIn(FormatsOut):
    """A workshop's name and formats."""

    name: Name


class SessionOut(Schema):
    """Who is signed in with which role, and whether the demo workshop can be entered.

    ``code_wanted``: the password was right; the same again with the code of the second factor.
    """

    signed_in: bool
    username: str | None
    workshop: str | None
    role: Role | None
    formats: FormatsOut | None
    demo_available: bool
    code_wanted: bool = False


# -- one's own account -------------------------------------------------------------------------


class SittingOut(Schema):
    """A session of one's own: in which browser, since when, when last used, whether this one."""

    number: str
    browser: str
    begun: datetime
    seen: datetime
    here: bool


class AccountOut(Schema):
    """One's own account; ``recovery_codes`` is how many are left."""

    username: str
    role: Role
    second_factor: bool
    recovery_codes: int
    sittings: list[SittingOut]


class PasswordIn(Schema):
    """Another password."""

    password: Password
    new: Password


class PasswordOnlyIn(Schema):
    """One's own password, asked for before something grave."""

    password: Password


class SetupOut(Schema):
    """What the app on the phone is told: a picture of a square code, or its secret typed."""

    svg: str
    secret: str


class CodeIn(Schema):
    """A code of the app."""

    code: Code


class CodesOut(Schema):
    """Codes for the day the phone is lost; shown this once."""

    codes: list[str]


# -- people ------------------------------------------------------------------------------------


class PersonOut(Schema):
    """Somebody of the workshop; one who is ``out`` signs in no more."""

    id: int
    username: str
    role: Role
    out: bool
    second_factor: bool
    last_seen: datetime | None


class InvitationOut(Schema):
    """An invitation that is open; ``password`` where it is for a new password."""

    id: UUID
    name: str
    role: Role
    password: bool
    expires: datetime
    author: str | None


class PeopleOut(Schema):
    """Everybody of the workshop, and the links that are open."""

    people: list[PersonOut]
    invitations: list[InvitationOut]
    can_mail: bool


class PersonIn(Schema):
    """Another role, or out of the workshop or in again."""

    role: Role | None = None
    out: bool | None = None


class InvitationIn(Schema):
    """Whom to invite, as what, and the address it is mailed to, if any."""

    name: Name
    role: Role
    mail: Annotated[str, StringConstraints(max_length=254, pattern=r"^$|^[^@\s]+@[^@\s]+$")] = ""


class NewLinkOut(InvitationOut):
    """A link, its address told this once; ``mailed`` where the mail server took it."""

    link: str
    mailed: bool = False


class SecretIn(Schema):
    """The secret of a link."""

    secret: Secret


class InvitedOut(Schema):
    """What a link opens: whose workshop, as what; ``username`` where it is for a new password."""

    workshop: str
    name: str
    role: Role
    username: str | None


class JoinIn(SecretIn):
    """Name and password of somebody who follows a link."""

    username: Username
    password: Password
