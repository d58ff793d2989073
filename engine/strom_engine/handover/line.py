"""One statement of the owner's sheet: which it is, and its values; words come from a catalogue."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, field
from typing import Literal

__all__ = ["Line", "Link", "SwitchAt"]

# Where a number on the sheet was computed: a stage that shows it.
Link = Literal["", "day", "scheme", "runs", "banks", "prove"]


@dataclass(frozen=True)
class SwitchAt:
    """A switch of the boat and where it stands: its name, the position, what stands on it."""

    switch: str
    name: str
    position: str
    mark: str
    place: str | None


@dataclass(frozen=True)
class Line:
    """A statement by its key in the catalogue, with values; ``link`` is where it was computed.

    ``switches`` are positions that go with it. Values are numbers in the unit that the catalogue
    writes after them, or names of the boat.
    """

    key: str
    values: Mapping[str, float | str] = field(default_factory=dict)
    link: Link = ""
    switches: tuple[SwitchAt, ...] = ()
