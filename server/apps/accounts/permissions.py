"""Who may use the API, and who writes."""

from dataclasses import dataclass
from uuid import UUID

from django.core.exceptions import PermissionDenied
from django.http import HttpRequest
from ninja.security import SessionAuth

from apps.accounts.limits import count_request
from apps.accounts.models import Role, User, Workshop
from apps.accounts.session_store import seen

__all__ = ["ANYONE", "OWNER", "MemberAuth", "Writer", "member", "workshop_of", "writer"]

READS = ("GET", "HEAD", "OPTIONS")
REFUSED = {
    Role.ELECTRICIAN: "A reader looks at everything and changes nothing: ask the workshop's owner.",
    Role.OWNER: "This is for the owner of the workshop.",
}


@dataclass(frozen=True)
class Writer:
    """Who saves something, and in which window on which device; None is the program itself."""

    person: User | None = None
    window: UUID | None = None
    signed: str = ""

    @property
    def name(self) -> str:
        """The person's name, or what stands for one; empty for the program itself."""
        return self.signed if self.person is None else self.person.username


class MemberAuth(SessionAuth):
    """A signed-in person with a workshop; unsafe methods need the CSRF token.

    Reading needs a reader, anything else an electrician, where the endpoint does not say what it
    needs. Raises PermissionDenied for somebody of the workshop whose role is not enough, a 429 for
    one who asks too often.
    """

    def __init__(self, needs: Role | None = None) -> None:
        super().__init__()
        self.needs = needs

    def authenticate(self, request: HttpRequest, key: str | None) -> User | None:
        user = request.user
        if not (isinstance(user, User) and user.is_active and user.workshop_id):
            return None
        needs = self.needs or (Role.READER if request.method in READS else Role.ELECTRICIAN)
        if not Role(user.role).covers(needs):
            raise PermissionDenied(REFUSED[needs])
        count_request(user.pk)
        seen(request)
        return user


# What computes and saves nothing, or is about oneself.
ANYONE = MemberAuth(Role.READER)
OWNER = MemberAuth(Role.OWNER)


def member(request: HttpRequest) -> User:
    """The person behind an authenticated request."""
    user = request.user
    assert isinstance(user, User)  # MemberAuth has seen to it
    return user


def writer(request: HttpRequest) -> Writer:
    """The person behind an authenticated request, and the window that it names."""
    try:
        window = UUID(request.headers.get("Strom-Window", ""))
    except ValueError:
        window = None
    return Writer(member(request), window)


def workshop_of(request: HttpRequest) -> Workshop:
    """The workshop of the person behind an authenticated request."""
    workshop = member(request).workshop
    assert workshop is not None  # MemberAuth has seen to it
    return workshop
