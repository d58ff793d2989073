"""Switches that a hand turns, some of them from afar."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import Field, StringConstraints

from strom_engine.design.fields import Amps, Frozen, Identifier, Polarity
from strom_engine.design.parts.base import THROUGH, Part
from strom_engine.design.parts.metal import Device


class Mark(Frozen):
    """What stands on the boat's own switch at a position."""

    position: Literal["off", "1", "both", "2", "on", "combine"]
    words: Annotated[str, StringConstraints(min_length=1, max_length=20, strip_whitespace=True)]


Marks = Annotated[tuple[Mark, ...], Field(max_length=4)]
# ``latching``: a motor or latch moves it and it stays; ``held``: a coil holds it on.
Drive = Literal["hand", "latching", "held"]
ANY: Polarity = "any"
CONTROL: dict[str, Polarity] = {"ctrl_pos": "pos", "ctrl_neg": "neg"}

__all__ = [
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

    kind: Literal["selector"] = "selector"
    make_before_break: bool | None = None
    field_contact_of: Identifier | None = None
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

    kind: Literal["dual_switch"] = "dual_switch"
    drive: Drive = "hand"
    rating_a: Amps = 350.0
    intermittent_a: Amps | None = None
    position: Literal["off", "on", "combine"] = "off"
    marks: Marks = ()

    def posts(self) -> dict[str, Polarity]:
        ends = dict.fromkeys(("house_in", "engine_in", "house_out", "engine_out"), ANY)
        return ends if self.drive == "hand" else ends | CONTROL


class OnOffSwitch(Part):
    """One battery, one circuit; driven from afar it has a thin control circuit."""

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


class Breaker(Part):
    """A breaker that can also be opened by hand; ``interrupt_a`` as for a fuse."""

    kind: Literal["breaker"] = "breaker"
    device: Device = "breaker_thermal"
    rating_a: Amps
    interrupt_a: Amps | None = None
    position: Literal["off", "on"] = "on"

    def posts(self) -> dict[str, Polarity]:
        return dict(THROUGH)
