"""Metal: bars, fuses, shunts."""

from __future__ import annotations

from typing import Annotated, ClassVar, Literal

from pydantic import Field

from strom_engine.design.fields import Amps, Millimetres, Millivolts, Polarity, TrickleAmps
from strom_engine.design.parts.base import THROUGH, Part
from strom_engine.design.parts.facts import Asked, Facts, asked, own, usual
from strom_engine.reference import DEVICES

__all__ = [
    "BREAKS",
    "DEVICE",
    "RATING",
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


DEVICE = asked(
    "device", "Type", {"unknown": "Not looked at yet"} | {d.type: d.label for d in DEVICES}
)
BREAKS = own("interrupt_a", "Breaks, by its listing")
RATING = asked("rating_a", "Continuous rating")


class BusBar(Part):
    """A bar with studs, all one conductor; the engine block counts as a negative one.

    ``rating_a``: what the bar carries for long; None is not known.
    """

    facts = Facts(
        word="Bus bar",
        stands="gear",
        usual={"polarity": "pos", "studs": 6},
        side="both",
        inline=("s1", "s2"),
        swaps=("fuse_block",),
        forks=True,
        scheme=True,
        rated=True,
    )
    asked: ClassVar[tuple[Asked, ...]] = (
        asked("rating_a", "Carries for long"),
        asked("studs", "Studs"),
        usual("polarity", "Side", {"pos": "Positive", "neg": "Negative"}),
        usual("engine_block", "What it is", {True: "The engine block", False: "A bar"}),
    )

    kind: Literal["bus_bar"] = "bus_bar"
    polarity: Literal["pos", "neg"]
    studs: Annotated[int, Field(ge=2, le=24)] = 6
    engine_block: bool = False
    rating_a: Amps | None = None

    def posts(self) -> dict[str, Polarity]:
        return {f"s{i}": self.polarity for i in range(1, self.studs + 1)}

    def joins(self) -> tuple[tuple[str, str], ...]:
        return tuple(("s1", f"s{i}") for i in range(2, self.studs + 1))

    def post_roles(self) -> dict[str, str]:
        return {f"s{n}": f"branch{n}" for n in range(1, self.studs + 1)}


class Fuse(Part):
    """A fuse; ``device`` is its generic type.

    ``interrupt_a`` is the interrupting rating of its own listing, where somebody has read it.
    """

    facts = Facts(
        word="Fuse",
        stands="gear",
        usual={"rating_a": 100},
        joins=(("a", "b"),),
        inline=("a", "b"),
        roles={"a": "first", "b": "out"},
        swaps=("breaker", "switch"),
        through=True,
        scheme=True,
        sparks=True,
    )
    asked: ClassVar[tuple[Asked, ...]] = (
        DEVICE,
        RATING,
        BREAKS,
        own("cover_mm", "Height under its cover"),
    )

    kind: Literal["fuse"] = "fuse"
    device: Device = "unknown"
    rating_a: Amps
    cover_mm: Millimetres | None = None
    interrupt_a: Amps | None = None

    def posts(self) -> dict[str, Polarity]:
        return dict(THROUGH)


class Shunt(Part):
    """The measuring resistor of a battery monitor, in a negative.

    ``idle_a`` is what the monitor draws, as usual unless told.
    """

    facts = Facts(
        word="Monitor shunt",
        stands="gear",
        usual={"rating_a": 500},
        side="neg",
        joins=(("bank", "system"),),
        inline=("bank", "system"),
        through=True,
    )
    asked: ClassVar[tuple[Asked, ...]] = (
        RATING,
        asked("rating_mv", "Drop at its rating"),
        own("idle_a", "Draws by itself"),
    )

    kind: Literal["shunt"] = "shunt"
    rating_a: Amps = 500.0
    rating_mv: Millivolts = 50.0
    idle_a: TrickleAmps | None = None

    def posts(self) -> dict[str, Polarity]:
        return {"bank": "neg", "system": "neg"}


class FuseBlock(Part):
    """A bar with a fuse in every branch; ``branch_a`` are the ratings of the fuses [A]."""

    facts = Facts(
        word="Fused bus",
        stands="gear",
        usual={"branch_a": [10, 10, 20, 20]},
        inline=("in", "b1"),
        swaps=("bus_bar",),
        scheme=True,
        sparks=True,
    )
    asked: ClassVar[tuple[Asked, ...]] = (DEVICE, asked("branch_a", "Fuses of its branches"))

    kind: Literal["fuse_block"] = "fuse_block"
    branch_a: Annotated[tuple[Amps, ...], Field(min_length=1, max_length=16)]
    device: Device = "blade_regular"

    def posts(self) -> dict[str, Polarity]:
        branches: dict[str, Polarity] = {f"b{n}": "pos" for n in range(1, len(self.branch_a) + 1)}
        ends: dict[str, Polarity] = {"in": "pos"}
        return ends | branches

    def joins(self) -> tuple[tuple[str, str], ...]:
        return tuple(("in", f"b{i}") for i in range(1, len(self.branch_a) + 1))

    def post_roles(self) -> dict[str, str]:
        branches = {f"b{n + 1}": f"branch{n + 2}" for n in range(len(self.branch_a))}
        return {"in": "branch1"} | branches
