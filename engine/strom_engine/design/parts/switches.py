"""Switches that a hand turns, some of them from afar."""

from __future__ import annotations

from typing import Literal

from strom_engine.design.fields import Amps, Identifier, Polarity
from strom_engine.design.parts.base import THROUGH, Part
from strom_engine.design.parts.metal import Device

# ``latching``: a motor or latch moves it and it stays; ``held``: a coil holds it on.
Drive = Literal["hand", "latching", "held"]
ANY: Polarity = "any"
CONTROL: dict[str, Polarity] = {"ctrl_pos": "pos", "ctrl_neg": "neg"}

__all__ = [
    "Breaker",
    "DualSwitch",
    "OnOffSwitch",
    "Selector",
]


class Selector(Part):
    """A four-position selector: off, 1, both, 2; one common post, two battery posts."""

    kind: Literal["selector"] = "selector"
    make_before_break: bool | None = None
    field_contact_of: Identifier | None = None
    rating_a: Amps = 300.0
    intermittent_a: Amps | None = None
    position: Literal["off", "1", "both", "2"] = "off"

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
