"""Outside sizes of parts: typed, or usual for their kind."""

from __future__ import annotations

from dataclasses import dataclass

from strom_engine.design.parts import Bank, Component
from strom_engine.reference import Size, battery_size, gear_size

__all__ = ["Outline", "outline"]


@dataclass(frozen=True)
class Outline:
    """Size of one piece [mm], how many there are of it, and whether every figure was typed."""

    size: Size
    pieces: int
    typed: bool


def outline(part: Component) -> Outline | None:
    """What room a part takes; None for what stands on no board and in no box.

    Args:
        part: its own sizes go before those that are usual for its kind.
    """
    if isinstance(part, Bank):
        usual: Size | None = battery_size(part.unit_v, part.unit_ah)
    else:
        usual = gear_size(part.kind, getattr(part, "device", "*"))
    own = (part.width_mm, part.depth_mm, part.height_mm)
    if usual is None and None in own:
        return None
    base = usual or Size(0.0, 0.0, 0.0)
    size = Size(own[0] or base.width_mm, own[1] or base.depth_mm, own[2] or base.height_mm)
    pieces = part.series * part.parallel if isinstance(part, Bank) else 1
    return Outline(size, pieces, None not in own)
