"""Fuses and breakers that warm up above their rating, and open."""

from __future__ import annotations

import math
from collections.abc import Iterable

from strom_engine.dayrun.kernel import Point
from strom_engine.design import Design
from strom_engine.design.fields import PostRef
from strom_engine.reference.protective import opening_s

__all__ = ["Fuses"]

OPENED = 1 - 1e-6


class Fuses:
    """How far each device above its rating is on its way to open [-].

    The shortest published opening time is taken; one that carries less again has cooled down.
    """

    def __init__(self, design: Design) -> None:
        opens = ("fuse", "fuse_block", "breaker")
        self._devices = {p.id for p in design.components if p.kind in opens}
        self._warm: dict[str, float] = {}

    @property
    def warm(self) -> bool:
        """Whether any is on its way to open."""
        return bool(self._warm)

    def room_s(self, point: Point) -> float:
        """How long [s] until the first one opens if all stays as it is; infinite if none does."""
        left = (s * (1 - self._warm.get(ref, 0.0)) for ref, s in self._opening(point))
        return min(left, default=math.inf)

    def heat(self, point: Point, seconds: float) -> None:
        """Let some time [s] pass at the currents of a point."""
        self._warm = {
            ref: self._warm.get(ref, 0.0) + seconds / whole_s
            for ref, whole_s in self._opening(point)
        }

    def blown(self) -> list[str]:
        """Those that open now, by post; each is told once."""
        found = [ref for ref, warm in self._warm.items() if warm >= OPENED]
        for ref in found:
            del self._warm[ref]
        return found

    def _opening(self, point: Point) -> Iterable[tuple[str, float]]:
        """Devices so far above their rating that they open, each with its time [s]."""
        for ref, amps, rating_a in point.beyond:
            if PostRef(ref).part in self._devices:
                whole_s = opening_s(amps / rating_a)
                if whole_s is not None:
                    yield ref, whole_s
