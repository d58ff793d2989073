"""What a pattern asks of parts that stay: an external regulator, an output for each bank."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from typing import TypeVar

from strom_engine.design import Alternator, Bank, Charger, Design

__all__ = ["as_it_is", "lithium_regulator", "output_each", "outside_regulator"]

P = TypeVar("P", Alternator, Charger)
# Of its label a small-frame machine gives this much into lithium without end (trade practice:
# 50-70 % continuous).
LITHIUM_SHARE = 0.6


def as_it_is(design: Design) -> Design:
    """Nothing is asked."""
    return design


def outside_regulator(design: Design) -> Design:
    """Every alternator regulated from outside."""
    return _amended(design, Alternator, lambda part: {"sensing": "external"})


def lithium_regulator(design: Design) -> Design:
    """A regulator with probe and limit, and a clamp for when the protection opens."""

    def fields(part: Alternator) -> dict[str, object]:
        limit = part.belt_limit_a or float(round(LITHIUM_SHARE * part.rated_a))
        kept = {"sensing": "external", "temperature_probe": True, "surge_clamp": True}
        return kept | {"belt_limit_a": limit}

    return _amended(design, Alternator, fields)


def output_each(design: Design) -> Design:
    """A charger output for every bank, three at most."""
    count = max(2, min(3, len(design.of_type(Bank))))
    return _amended(design, Charger, lambda part: {"outputs": max(part.outputs, count)})


def _amended(design: Design, kind: type[P], fields: Callable[[P], Mapping[str, object]]) -> Design:
    parts = tuple(
        part.model_copy(update=dict(fields(part))) if isinstance(part, kind) else part
        for part in design.components
    )
    return design.replace_unchecked(components=parts)
