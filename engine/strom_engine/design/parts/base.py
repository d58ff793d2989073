"""What every part has, and the post patterns that many share."""

from __future__ import annotations

from strom_engine.design.fields import Frozen, Identifier, Name, Polarity, Stud

__all__ = [
    "Part",
]

PAIR: dict[str, Polarity] = {"pos": "pos", "neg": "neg"}
THROUGH: dict[str, Polarity] = {"a": "pos", "b": "pos"}


class Part(Frozen):
    """What every part has: an id, the name people use, and where it is aboard.

    ``assumed`` names the fields whose figure is a usual one that nobody has read aboard yet.
    ``stud`` is the size of its heavy posts, ``ignition_protected`` what its listing says; None is
    not known.
    """

    id: Identifier
    name: Name
    place: Identifier | None = None
    assumed: tuple[Identifier, ...] = ()
    stud: Stud | None = None
    ignition_protected: bool | None = None

    def posts(self) -> dict[str, Polarity]:
        """Posts of this part by name, with their polarity."""
        raise TypeError(f"{type(self).__name__} names no posts")
