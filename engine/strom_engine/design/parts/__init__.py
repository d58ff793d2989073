"""The parts a design is made of, each with its posts and figures.

``posts()`` names a part's posts and their polarity: ``pos`` and ``neg`` posts only take
cables of that side, ``any`` takes either.
"""

from __future__ import annotations

from typing import Annotated, get_args

from pydantic import Field

from strom_engine.design.parts.bank import Bank
from strom_engine.design.parts.base import Part
from strom_engine.design.parts.facts import Facts
from strom_engine.design.parts.loads import (
    AcItem,
    DropClass,
    FittedInverter,
    LoadGroup,
    LoadItem,
    Starter,
)
from strom_engine.design.parts.metal import BusBar, Fuse, FuseBlock, Shunt
from strom_engine.design.parts.protection import Protection
from strom_engine.design.parts.sharing import DcDc, Isolator, OneWayCombiner, Relay
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
    "KINDS",
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
    "Facts",
    "FittedGenerator",
    "FittedInverter",
    "Fuse",
    "FuseBlock",
    "Isolator",
    "LoadGroup",
    "LoadItem",
    "OnOffSwitch",
    "OneWayCombiner",
    "Part",
    "Protection",
    "Relay",
    "Selector",
    "Shunt",
    "Solar",
    "Source",
    "Staged",
    "Starter",
    "Switch",
    "facts_of",
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


# Every kind of part by its word in documents, in the order of the union.
KINDS: dict[str, type[Part]] = {
    kind.model_fields["kind"].default: kind for kind in get_args(get_args(Component)[0])
}


def facts_of(kind: str) -> Facts:
    """What holds of every part of a kind. Raises KeyError for one that there is not."""
    return KINDS[kind].facts
