"""The checklist of AC and bonding: what is asked of a boat, and what was seen."""

from __future__ import annotations

from dataclasses import dataclass
from functools import cache

from strom_engine.design import Charger, Design, FittedInverter
from strom_engine.reference import load_table

__all__ = ["AC_ITEMS", "AcItemAsked", "asked_of"]


@dataclass(frozen=True)
class AcItemAsked:
    """One thing to look at, and why."""

    id: str
    asks: str
    item: str
    why: str


@cache
def _items() -> tuple[AcItemAsked, ...]:
    rows = load_table("ac_checklist").rows
    return tuple(AcItemAsked(r["id"], r["asks"], r["item"], r["why"]) for r in rows)


AC_ITEMS: tuple[str, ...] = tuple(item.id for item in _items())


def asked_of(design: Design) -> tuple[AcItemAsked, ...]:
    """What is asked of a boat with this gear; nothing without shore power and inverter.

    Args:
        design: any of its variants.
    """
    inverters, chargers = design.of_type(FittedInverter), design.of_type(Charger)
    shore = bool(chargers) or any(i.charger_a is not None for i in inverters)
    applies = {
        "any": shore or bool(inverters),
        "converter": shore or bool(inverters),
        "shore": shore,
        "inverter": bool(inverters),
    }
    return tuple(item for item in _items() if applies[item.asks])
