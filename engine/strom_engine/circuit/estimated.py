"""Which cables of estimated length decide an operating point."""

from __future__ import annotations

from strom_engine.circuit.results import OperatingPoint
from strom_engine.design import Design

__all__ = ["estimated_cables"]

# A cable that drops less than this decides nothing: the models are good to about as much.
DECIDING_DROP_V = 0.01


def estimated_cables(design: Design, point: OperatingPoint) -> tuple[str, ...]:
    """Names of cables whose length is only estimated and that drop 10 mV or more.

    Args:
        design: the boat, as surveyed.
        point: an operating point of it.

    Returns:
        Ids of cables, in the design's order.
    """
    return tuple(
        design.cable_name(cable)
        for cable in design.cables
        if cable.estimated and abs(point.conductor_drop_v.get(cable.id, 0.0)) >= DECIDING_DROP_V
    )
