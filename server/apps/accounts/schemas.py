"""What the session endpoints take and give."""

from ninja import Schema
from pydantic import Field

__all__ = ["Credentials", "SessionOut"]


class Credentials(Schema):
    """Name and password."""

    username: str = Field(max_length=150)
    password: str = Field(max_length=200)


class SessionOut(Schema):
    """Who is signed in, and whether the demo workshop can be entered."""

    signed_in: bool
    username: str | None
    workshop: str | None
    demo_available: bool
