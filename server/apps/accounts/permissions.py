"""Who may use the API, and who writes."""

from dataclasses import dataclass
from uuid import UUID

from django.http import HttpRequest
from ninja.security import SessionAuth

from apps.accounts.models import User, Workshop

__all__ = ["MemberAuth", "Writer", "member", "workshop_of", "writer"]


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
    """A signed-in person with a workshop; unsafe methods need the CSRF token."""

    def authenticate(self, request: HttpRequest, key: str | None) -> User | None:
        user = request.user
        if isinstance(user, User) and user.is_active and user.workshop_id:
            return user
        return None


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
