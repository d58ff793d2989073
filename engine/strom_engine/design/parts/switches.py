"""Switches that a hand turns, some of them from afar."""

from __future__ import annotations

from typing import Annotated, ClassVar, Literal

from pydantic import Field, StringConstraints

from strom_engine.design.fields import AlternatorId, Amps, Frozen, Polarity
from strom_engine.design.parts.base import THROUGH, Part
from strom_engine.design.parts.facts import Asked, Facts, FoundAboard, asked, own
from strom_engine.design.parts.metal import BREAKS, DEVICE, RATING, Device


class Mark(Frozen):
    """What stands on the boat's own switch at a position."""

    position: Literal["off", "1", "both", "2", "on", "combine"]
    words: Annotated[str, StringConstraints(min_length=1, max_length=20, strip_whitespace=True)]


BRIEF = asked("intermittent_a", "Intermittent rating")
DRIVE = asked(
    "drive",
    "Driven",
    {"hand": "By hand", "latching": "From afar, latches", "held": "From afar, held by a coil"},
)
MARKS = own("marks", "What stands on it")
OFF_ON = {"off": "Off", "on": "On"}
Marks = Annotated[tuple[Mark, ...], Field(max_length=4)]
# ``latching``: a motor or latch moves it and it stays; ``held``: a coil holds it on.
Drive = Literal["hand", "latching", "held"]
ANY: Polarity = "any"
CONTROL: dict[str, Polarity] = {"ctrl_pos": "pos", "ctrl_neg": "neg"}

__all__ = [
    "OFF_ON",
    "Breaker",
    "DualSwitch",
    "Mark",
    "OnOffSwitch",
    "Selector",
]


class Selector(Part):
    """A four-position selector: off, 1, both, 2; one common post, two battery posts.

    ``marks``, here and on other switches, are what stands on the switch itself.
    """

    facts = Facts(
        word="Four-position selector",
        stands="gear",
        usual={"rating_a": 300, "position": "off"},
        counted="switches",
        side="both",
        joins=(("one", "common"), ("two", "common")),
        roles={"one": "first", "two": "second", "common": "out"},
        swaps=("dual_switch", "switch", "relay", "dcdc", "isolator"),
        forks=True,
        scheme=True,
        joined="both",
        rated=True,
        sparks=True,
    )
    asked: ClassVar[tuple[Asked, ...]] = (
        RATING,
        BRIEF,
        asked("make_before_break", "Makes before it breaks"),
        own("field_contact_of", "Its contact cuts the field of"),
        asked("position", "Stands on", {"off": "Off", "1": "1", "both": "Both", "2": "2"}),
        MARKS,
    )

    kind: Literal["selector"] = "selector"
    make_before_break: bool | None = None
    field_contact_of: AlternatorId | None = None
    rating_a: Amps = 300.0
    intermittent_a: Amps | None = None
    position: Literal["off", "1", "both", "2"] = "off"
    marks: Marks = ()

    def posts(self) -> dict[str, Polarity]:
        return {"one": "any", "two": "any", "common": "any"}


class DualSwitch(Part):
    """A dual-circuit switch: house and engine switched together, kept apart, or combined.

    With another drive than the hand it has a thin control circuit of its own.
    """

    facts = Facts(
        word="Dual-circuit switch",
        stands="gear",
        usual={"rating_a": 350, "position": "on"},
        counted="switches",
        side="both",
        joins=(
            ("house_in", "house_out"),
            ("engine_in", "engine_out"),
            ("house_out", "engine_out"),
        ),
        roles={
            "engine_in": "first",
            "house_in": "second",
            "engine_out": "out",
            "house_out": "out2",
        },
        swaps=("selector", "switch", "relay"),
        forks=True,
        scheme=True,
        joined="combine",
        rated=True,
        sparks=True,
    )
    asked: ClassVar[tuple[Asked, ...]] = (
        RATING,
        BRIEF,
        DRIVE,
        asked("position", "Stands on", OFF_ON | {"combine": "Combine"}),
        MARKS,
    )

    kind: Literal["dual_switch"] = "dual_switch"
    drive: Drive = "hand"
    rating_a: Amps = 350.0
    intermittent_a: Amps | None = None
    position: Literal["off", "on", "combine"] = "off"
    marks: Marks = ()

    def posts(self) -> dict[str, Polarity]:
        ends = dict.fromkeys(("house_in", "engine_in", "house_out", "engine_out"), ANY)
        return ends if self.drive == "hand" else ends | CONTROL

    @property
    def moves_itself(self) -> bool:
        return self.drive == "held"


class OnOffSwitch(Part):
    """One battery, one circuit; driven from afar it has a thin control circuit."""

    facts = Facts(
        word="On/off switch",
        stands="gear",
        usual={"rating_a": 300, "position": "on"},
        counted="switches",
        side="both",
        joins=(("a", "b"),),
        inline=("a", "b"),
        swaps=("breaker", "fuse", "relay", "selector"),
        through=True,
        scheme=True,
        rated=True,
        sparks=True,
        found=FoundAboard(
            "an on/off switch",
            "Battery switch",
            "in the positive of the bank",
            gauge="1/0 AWG",
            post="a",
        ),
    )
    asked: ClassVar[tuple[Asked, ...]] = (
        RATING,
        BRIEF,
        DRIVE,
        asked("purpose", "What it does", {"isolate": "Cuts off", "parallel": "Joins two banks"}),
        asked("position", "Stands on", OFF_ON),
        MARKS,
    )

    kind: Literal["switch"] = "switch"
    drive: Drive = "hand"
    purpose: Literal["isolate", "parallel"] = "isolate"
    rating_a: Amps = 300.0
    intermittent_a: Amps | None = None
    position: Literal["off", "on"] = "off"
    marks: Marks = ()

    def posts(self) -> dict[str, Polarity]:
        ends = {"a": ANY, "b": ANY}
        return ends if self.drive == "hand" else ends | CONTROL

    def post_roles(self) -> dict[str, str]:
        return {"a": "first", "b": "second" if self.purpose == "parallel" else "out"}

    @property
    def moves_itself(self) -> bool:
        return self.drive == "held"


class Breaker(Part):
    """A breaker that can also be opened by hand; ``interrupt_a`` as for a fuse."""

    facts = Facts(
        word="Breaker",
        stands="gear",
        usual={"rating_a": 100},
        joins=(("a", "b"),),
        inline=("a", "b"),
        roles={"a": "first", "b": "out"},
        swaps=("fuse", "switch"),
        through=True,
        scheme=True,
        sparks=True,
    )
    asked: ClassVar[tuple[Asked, ...]] = (
        DEVICE,
        RATING,
        BREAKS,
        asked("position", "Stands on", OFF_ON),
    )

    kind: Literal["breaker"] = "breaker"
    device: Device = "breaker_thermal"
    rating_a: Amps
    interrupt_a: Amps | None = None
    position: Literal["off", "on"] = "on"

    def posts(self) -> dict[str, Polarity]:
        return dict(THROUGH)
