"""What every part has, and the post patterns that many share."""

from __future__ import annotations

from collections.abc import Mapping
from typing import ClassVar

from strom_engine.design.fields import (
    Frozen,
    Identifier,
    Millimetres,
    Name,
    Polarity,
    PostRef,
    Stud,
)
from strom_engine.design.parts.facts import Asked, Facts, own

__all__ = [
    "ASKED_OF_ALL",
    "Part",
]

PAIR: dict[str, Polarity] = {"pos": "pos", "neg": "neg"}
THROUGH: dict[str, Polarity] = {"a": "pos", "b": "pos"}


class Part(Frozen):
    """What every part has: an id, the name people use, and where it is aboard.

    ``assumed`` names the fields whose figure is a usual one that nobody has read aboard yet.
    ``stud`` is the size of its heavy posts, ``stud_free_mm`` their length above the seat;
    ``width_mm``, ``depth_mm`` and ``height_mm`` are of one battery, or of gear;
    ``ignition_protected`` what its listing says; None is not known.
    """

    facts: ClassVar[Facts]
    asked: ClassVar[tuple[Asked, ...]] = ()

    id: Identifier
    name: Name
    place: Identifier | None = None
    assumed: tuple[Identifier, ...] = ()
    stud: Stud | None = None
    stud_free_mm: Millimetres | None = None
    width_mm: Millimetres | None = None
    depth_mm: Millimetres | None = None
    height_mm: Millimetres | None = None
    ignition_protected: bool | None = None

    def posts(self) -> dict[str, Polarity]:
        """Posts of this part by name, with their polarity."""
        raise TypeError(f"{type(self).__name__} names no posts")

    def joins(self) -> tuple[tuple[str, str], ...]:
        """Pairs of posts that metal can join inside, every contact thought closed."""
        return self.facts.joins

    def links(self) -> tuple[tuple[PostRef, PostRef], ...]:
        """The same pairs as references to posts."""
        return tuple((PostRef.of(self.id, a), PostRef.of(self.id, b)) for a, b in self.joins())

    def post_roles(self) -> Mapping[str, str]:
        """What each post is for, in words that parts of other kinds share."""
        return self.facts.roles or {post: post for post in self.posts()}

    def charging_posts(self) -> tuple[str, ...]:
        """Posts from which it charges; none when it is no source."""
        return ()

    @property
    def moves_itself(self) -> bool:
        """Whether it has a contact or a stage that moves without a hand."""
        return False


# Asked of every part beside its own figures; of the listing only where vapour of petrol can be.
ASKED_OF_ALL = (
    own("stud", "Heavy studs"),
    own("stud_free_mm", "Studs, free length"),
    own("width_mm", "Width of it"),
    own("depth_mm", "Depth of it"),
    own("height_mm", "Height of it"),
    Asked("ignition_protected", "Listed as ignition-protected", petrol_only=True),
)
