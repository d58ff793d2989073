"""The parts a design is made of, each with its posts and figures.

``posts()`` names a part's posts and their polarity: ``pos`` and ``neg`` posts only take
cables of that side, ``any`` takes either.
"""

from __future__ import annotations

from typing import Annotated

from pydantic import Field

from strom_engine.design.parts.bank import Bank
from strom_engine.design.parts.loads import (
    AcItem,
    DropClass,
    FittedInverter,
    LoadGroup,
    LoadItem,
    Starter,
)
from strom_engine.design.parts.metal import BusBar, Fuse, FuseBlock, Shunt
from strom_engine.design.parts.sharing import DcDc, Isolator, OneWayCombiner, Protection, Relay
from strom_engine.design.parts.sources import (
    Alternator,
    Charger,
    CurvePoint,
    FittedGenerator,
    Solar,
    Staged,
)
from strom_engine.design.parts.switches import Breaker, DualSwitch, OnOffSwitch, Selector

__all__ = [
    "LOAD_REFERENCE_SHARE",
    "AcItem",
    "Alternator",
    "Automatic",
    "Bank",
    "Breaker",
    "BusBar",
    "Charger",
    "Component",
    "CurvePoint",
    "DcDc",
    "DropClass",
    "DualSwitch",
    "FittedGenerator",
    "FittedInverter",
    "Fuse",
    "FuseBlock",
    "Isolator",
    "LoadGroup",
    "LoadItem",
    "OnOffSwitch",
    "OneWayCombiner",
    "Protection",
    "Relay",
    "Selector",
    "Shunt",
    "Solar",
    "Source",
    "Staged",
    "Starter",
    "Switch",
    "moves_itself",
    "source_outputs",
]

# The draw of a load is stated at 12.6 V in a 12 V system, a battery at rest and nearly full.
LOAD_REFERENCE_SHARE = 1.05

Component = Annotated[
    Bank
    | Alternator
    | Charger
    | Solar
    | FittedGenerator
    | Selector
    | DualSwitch
    | OnOffSwitch
    | Relay
    | Isolator
    | DcDc
    | OneWayCombiner
    | Protection
    | BusBar
    | Fuse
    | FuseBlock
    | Breaker
    | Shunt
    | Starter
    | LoadGroup
    | FittedInverter,
    Field(discriminator="kind"),
]
Source = Alternator | Charger | Solar | FittedGenerator | FittedInverter
Switch = Selector | DualSwitch | OnOffSwitch | Breaker | FittedInverter
Automatic = Relay | DcDc | OneWayCombiner | Protection | OnOffSwitch | DualSwitch | FittedInverter


def source_outputs(part: Component) -> tuple[str, ...]:
    """Posts from which a part charges; none when it is no source."""
    match part:
        case Alternator():
            return ("out",)
        case Charger():
            return tuple(f"out{n}" for n in range(1, part.outputs + 1))
        case Solar() | FittedGenerator():
            return ("pos",)
        case FittedInverter() if part.charger_a is not None:
            return ("pos",)
        case _:
            return ()


def moves_itself(part: Component) -> bool:
    """Whether a part has a contact or a stage that moves without a hand."""
    if isinstance(part, OnOffSwitch | DualSwitch):
        return part.drive == "held"
    return isinstance(part, Relay | DcDc | OneWayCombiner | Protection | FittedInverter)
