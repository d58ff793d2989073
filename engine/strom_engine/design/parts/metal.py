"""Metal: bars, fuses, shunts."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import Field

from strom_engine.design.fields import Name, Polarity, Positive
from strom_engine.design.parts.base import THROUGH, Part

__all__ = [
    "BusBar",
    "Fuse",
    "FuseBlock",
    "Shunt",
]


class BusBar(Part):
    """A bar with studs, all one conductor; the engine block counts as a negative one."""

    kind: Literal["bus_bar"] = "bus_bar"
    polarity: Literal["pos", "neg"]
    studs: Annotated[int, Field(ge=2, le=24)] = 6
    engine_block: bool = False

    def posts(self) -> dict[str, Polarity]:
        return {f"s{i}": self.polarity for i in range(1, self.studs + 1)}


class Fuse(Part):
    """A fuse; ``device`` is its generic type."""

    kind: Literal["fuse"] = "fuse"
    device: Name = "bolt-down fuse"
    rating_a: Positive

    def posts(self) -> dict[str, Polarity]:
        return dict(THROUGH)


class Shunt(Part):
    """The measuring resistor of a battery monitor, in a negative."""

    kind: Literal["shunt"] = "shunt"
    rating_a: Positive = 500.0
    rating_mv: Positive = 50.0

    def posts(self) -> dict[str, Polarity]:
        return {"bank": "neg", "system": "neg"}


class FuseBlock(Part):
    """A bar with a fuse in every branch; ``branch_a`` are the ratings of the fuses [A]."""

    kind: Literal["fuse_block"] = "fuse_block"
    branch_a: Annotated[tuple[Positive, ...], Field(min_length=1, max_length=16)]

    def posts(self) -> dict[str, Polarity]:
        branches: dict[str, Polarity] = {f"b{n}": "pos" for n in range(1, len(self.branch_a) + 1)}
        ends: dict[str, Polarity] = {"in": "pos"}
        return ends | branches
