"""Metal: bars, fuses, shunts."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import Field, field_validator

from strom_engine.design.fields import Amps, Millivolts, Polarity, TrickleAmps
from strom_engine.design.parts.base import THROUGH, Part

__all__ = [
    "BusBar",
    "Device",
    "Fuse",
    "FuseBlock",
    "Shunt",
]


# Generic types of reference table overcurrent_devices; ``unknown`` until somebody has looked.
Device = Literal[
    "unknown",
    "blade_regular",
    "blade_large",
    "bolt_30mm",
    "bolt_51mm",
    "anl",
    "terminal_stud",
    "class_t",
    "breaker_thermal",
    "breaker_magnetic",
]
# Documents once held free words here; those that name no one type, such as a bolt-down fuse,
# are of an unknown one until somebody has looked.
OLD_WORDS = {"blade fuse": "blade_regular", "class T fuse": "class_t", "ANL fuse": "anl"}


class BusBar(Part):
    """A bar with studs, all one conductor; the engine block counts as a negative one.

    ``rating_a``: what the bar carries for long; None is not known.
    """

    kind: Literal["bus_bar"] = "bus_bar"
    polarity: Literal["pos", "neg"]
    studs: Annotated[int, Field(ge=2, le=24)] = 6
    engine_block: bool = False
    rating_a: Amps | None = None

    def posts(self) -> dict[str, Polarity]:
        return {f"s{i}": self.polarity for i in range(1, self.studs + 1)}


class Fuse(Part):
    """A fuse; ``device`` is its generic type.

    ``interrupt_a`` is the interrupting rating of its own listing, where somebody has read it.
    """

    kind: Literal["fuse"] = "fuse"
    device: Device = "unknown"
    rating_a: Amps
    interrupt_a: Amps | None = None

    @field_validator("device", mode="before")
    @classmethod
    def _in_old_words(cls, value: object) -> object:
        if isinstance(value, str) and (" " in value or value in OLD_WORDS):
            return OLD_WORDS.get(value, "unknown")
        return value

    def posts(self) -> dict[str, Polarity]:
        return dict(THROUGH)


class Shunt(Part):
    """The measuring resistor of a battery monitor, in a negative.

    ``idle_a`` is what the monitor draws, as usual unless told.
    """

    kind: Literal["shunt"] = "shunt"
    rating_a: Amps = 500.0
    rating_mv: Millivolts = 50.0
    idle_a: TrickleAmps | None = None

    def posts(self) -> dict[str, Polarity]:
        return {"bank": "neg", "system": "neg"}


class FuseBlock(Part):
    """A bar with a fuse in every branch; ``branch_a`` are the ratings of the fuses [A]."""

    kind: Literal["fuse_block"] = "fuse_block"
    branch_a: Annotated[tuple[Amps, ...], Field(min_length=1, max_length=16)]
    device: Device = "blade_regular"

    def posts(self) -> dict[str, Polarity]:
        branches: dict[str, Polarity] = {f"b{n}": "pos" for n in range(1, len(self.branch_a) + 1)}
        ends: dict[str, Polarity] = {"in": "pos"}
        return ends | branches
