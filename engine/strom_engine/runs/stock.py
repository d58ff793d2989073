"""What a workshop keeps: cable by size, true area and insulation; devices by type and rating."""

from __future__ import annotations

from collections.abc import Mapping
from functools import cached_property, lru_cache
from typing import Annotated

from pydantic import Field, ValidationError, model_validator

from strom_engine.design.choices import CableColour, SizeSort
from strom_engine.design.fields import (
    USUAL_INSULATION_C,
    Amps,
    CopperMm2,
    Frozen,
    Gauge,
    Identifier,
    InsulationC,
    Price,
    Text,
    Versioned,
)
from strom_engine.design.validation import problems_from_pydantic
from strom_engine.errors import StockError
from strom_engine.reference import CONDUCTOR_SIZES, DEVICES, area_mm2, device_type
from strom_engine.versions import Chain

__all__ = [
    "GearPrice",
    "Reel",
    "Stock",
    "StockCable",
    "StockDevice",
    "default_stock",
    "parse_stock",
]

STOCK_CHAIN = Chain()


class StockCable(Frozen):
    """Cable on a reel; ``copper_mm2`` where its maker's true area is not the nominal one."""

    gauge: Gauge
    copper_mm2: CopperMm2 | None = None
    insulation_c: InsulationC = USUAL_INSULATION_C
    price_per_m: Price | None = None

    @model_validator(mode="after")
    def _known(self) -> StockCable:
        nominal = area_mm2(self.gauge)
        if self.copper_mm2 is not None and not 0.8 <= self.copper_mm2 / nominal <= 1.2:
            raise ValueError(
                f"{self.copper_mm2:g} mm² is far from the {nominal:g} mm² of {self.gauge}"
            )
        return self

    @property
    def area_mm2(self) -> float:
        """Copper area [mm2]."""
        return self.copper_mm2 or area_mm2(self.gauge)


class StockDevice(Frozen):
    """Devices of one type, by rating [A]."""

    device: str
    ratings_a: Annotated[tuple[Amps, ...], Field(min_length=1, max_length=40)]
    price: Price | None = None

    @model_validator(mode="after")
    def _known(self) -> StockDevice:
        kind = device_type(self.device)
        if kind is None:
            known = ", ".join(d.type for d in DEVICES)
            raise ValueError(f"{self.device!r} is not a known type; known: {known}")
        odd = [f"{r:g}" for r in self.ratings_a if r not in kind.ratings_a]
        if odd:
            raise ValueError(f"a {kind.label.lower()} is not made for {', '.join(odd)} A")
        return self


class Reel(Frozen):
    """Cable on a reel or as an offcut: what there is of it [m]."""

    id: Identifier
    gauge: Gauge
    colour: CableColour = "red"
    insulation_c: InsulationC = USUAL_INSULATION_C
    length_m: Annotated[float, Field(ge=0.05, le=2000, allow_inf_nan=False)]

    def fits(self, gauge: str, colour: str, insulation_c: int) -> bool:
        """Whether a piece can be cut from it."""
        return self.gauge == gauge and self.colour == colour and self.insulation_c >= insulation_c


class GearPrice(Frozen):
    """A line of the workshop's own price list: what it is, its price, what is kept of it.

    ``item`` is the key of a line of parts lists, such as ``fuse bolt_51mm 150``; ``instead`` is
    what to use when it is not to be had.
    """

    item: Annotated[str, Field(min_length=1, max_length=120)]
    price: Price | None = None
    kept: Annotated[float, Field(ge=0, le=100_000, allow_inf_nan=False)] = 0.0
    instead: Text = ""
    note: Text = ""


class Stock(Versioned):
    """Everything the program may choose from; ``currency`` is only shown beside prices.

    ``reels`` are what there is to cut from, ``gear`` the price list, ``hour_price`` of work.
    """

    chain = STOCK_CHAIN

    version: int = STOCK_CHAIN.version

    cables: Annotated[tuple[StockCable, ...], Field(min_length=1, max_length=80)]
    devices: Annotated[tuple[StockDevice, ...], Field(min_length=1, max_length=20)]
    currency: Annotated[str, Field(max_length=8)] = ""
    reels: Annotated[tuple[Reel, ...], Field(max_length=400)] = ()
    gear: Annotated[tuple[GearPrice, ...], Field(max_length=1000)] = ()
    hour_price: Price | None = None

    @cached_property
    def by_area(self) -> tuple[StockCable, ...]:
        """Cables from the thinnest up, of one area the one that stands less heat first."""
        return tuple(sorted(self.cables, key=lambda c: (c.area_mm2, c.insulation_c)))

    @cached_property
    def ratings_a(self) -> tuple[float, ...]:
        """Every rating kept, of whatever type, rising [A]."""
        return tuple(sorted({r for d in self.devices for r in d.ratings_a}))


def parse_stock(raw: object, at: str = "") -> Stock:
    """Read a stock list from JSON data; raises StockError with all problems at once.

    Args:
        raw: what JSON gave.
        at: put before every path.

    Returns:
        The stock list.
    """
    if isinstance(raw, Mapping) and (later := STOCK_CHAIN.problems(raw, at)):
        raise StockError(later)
    try:
        return Stock.model_validate(raw)
    except ValidationError as error:
        raise StockError(problems_from_pydantic(error, at)) from None


@lru_cache(maxsize=4)
def default_stock(sizes: SizeSort = "awg") -> Stock:
    """Every size of one sort with 105 degC insulation, and every type and rating of device."""
    ending = "AWG" if sizes == "awg" else "mm2"
    kept = (s for s in CONDUCTOR_SIZES if s.endswith(ending) and s != "3 AWG")
    return Stock(
        cables=tuple(StockCable(gauge=s) for s in kept),
        devices=tuple(StockDevice(device=d.type, ratings_a=d.ratings_a) for d in DEVICES),
    )
