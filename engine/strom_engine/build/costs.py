"""What a build costs: gear and copper at the workshop's prices, hours at its hour's price."""

from __future__ import annotations

from dataclasses import dataclass

from strom_engine.build.parts_list import PartsList
from strom_engine.build.steps import Order
from strom_engine.runs.stock import Stock

__all__ = ["Costs", "costs"]


@dataclass(frozen=True)
class Costs:
    """Gear and cable [money] with how many lines have no price, new copper [kg], work.

    ``gear`` is None where no line has a price; ``minutes`` of work [min]; ``work`` [money] is None
    without a price of the hour, and ``total`` without any of the two.
    """

    gear: float | None
    unpriced: int
    copper_kg: float
    minutes: float
    work: float | None
    total: float | None
    currency: str


def costs(parts: PartsList, order: Order, stock: Stock | None) -> Costs:
    """The costs of a build.

    Args:
        parts: all that is needed.
        order: all that is done.
        stock: the workshop's prices.
    """
    hour = None if stock is None else stock.hour_price
    work = None if hour is None else round(order.minutes / 60 * hour, 2)
    gear = parts.cost if parts.unpriced < len(parts.lines) else None
    total = None if work is None or gear is None else round(gear + work, 2)
    return Costs(
        gear=gear,
        unpriced=parts.unpriced,
        copper_kg=parts.copper_kg,
        minutes=order.minutes,
        work=work,
        total=total,
        currency=parts.currency,
    )
