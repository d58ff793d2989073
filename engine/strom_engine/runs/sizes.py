"""The size each cable needs: by what it may carry, and by what it may lose."""

from __future__ import annotations

import math
from collections.abc import Callable, Mapping
from dataclasses import dataclass

from strom_engine.design import Cable, Design
from strom_engine.reference import area_mm2
from strom_engine.runs.allowed_current import (
    LEAST_IN_ENGINE_SPACE_C,
    Allowed,
    Standard,
    allowed_current,
    in_engine_space,
    most_rating_a,
)
from strom_engine.runs.currents import DesignCurrent
from strom_engine.runs.drop import ohm_per_m
from strom_engine.runs.paths import Path, paths_over
from strom_engine.runs.stock import Stock, StockCable

__all__ = [
    "LEAST_MM2",
    "PathDrop",
    "Wanted",
    "as_stocked",
    "by_ampacity",
    "by_drop",
    "cranks_a",
    "fits_current",
    "least_mm2",
    "overloads",
]

# As thin as a conductor may be, alone and in a sheath with others [mm2]: 16 and 18 AWG (ABYC
# E-11), 1 and 0.75 mm2 (ISO 13297).
LEAST_MM2: dict[Standard, tuple[float, float]] = {"abyc": (1.3, 0.8), "iso": (1.0, 0.75)}
SPARE_V = 1e-6
ADIABATIC_K, LONGEST_CRANK_S = 115.0, 30.0


@dataclass(frozen=True)
class Wanted:
    """What a cable must stand: its current, and a device of so many amps at least."""

    current: DesignCurrent
    device_a: float | None
    standard: Standard


def cranks_a(area_mm2: float) -> float:
    """Current [A] that a conductor stands for a long crank: ``k S / sqrt(t)``.

    Adiabatic heating, k = 115 for copper in soft insulation. Source: IEC 60364-4-43.
    """
    return ADIABATIC_K * area_mm2 / math.sqrt(LONGEST_CRANK_S)


def as_stocked(cable: Cable, stocked: StockCable) -> Cable:
    """A cable made of what is in stock."""
    return cable.model_copy(
        update={
            "gauge": stocked.gauge,
            "copper_mm2": stocked.copper_mm2,
            "insulation_c": stocked.insulation_c,
        }
    )


def fits_current(design: Design, cable: Cable, wanted: Wanted) -> bool:
    """Whether a cable carries its current for long, and is protected by the device on it."""
    hot = in_engine_space(design, cable)
    if area_mm2(cable.gauge) < least_mm2(wanted.standard, sheathed=cable.sheathed):
        return False
    if cranks_a(cable.area_mm2) < wanted.current.brief_a:
        return False
    if hot and cable.insulation_c < LEAST_IN_ENGINE_SPACE_C[wanted.standard]:
        return False
    allowed = allowed_current(cable, engine_space=hot, standard=wanted.standard)
    if overloads(wanted.current, allowed):
        return False
    return wanted.device_a is None or wanted.device_a <= most_rating_a(allowed.amps) + 1e-9


def overloads(current: DesignCurrent, allowed: Allowed) -> bool:
    """Whether a current is more than a cable may carry, for hours or for minutes at a time."""
    return current.lasting_a > allowed.amps + 1e-9 or current.amps > allowed.short_a + 1e-9


def least_mm2(standard: Standard, *, sheathed: bool) -> float:
    """The least copper area [mm2] of a conductor, by the standard and whether it is sheathed."""
    alone, together = LEAST_MM2[standard]
    return together if sheathed else alone


def by_ampacity(design: Design, cable: Cable, wanted: Wanted, stock: Stock) -> StockCable | None:
    """The thinnest in stock that carries the current; None where nothing does."""
    return _first(stock, lambda s: fits_current(design, as_stocked(cable, s), wanted))


def by_drop(design: Design, cables: tuple[Cable, ...], stock: Stock) -> StockCable | None:
    """The thinnest in stock with which every path over these cables, all alike, keeps its limit.

    Everything else on the paths stays as it is. None where no size alone does.
    """
    names = {c.id for c in cables}
    over = {p.id: p for c in cables for p in paths_over(design).get(c.id, ())}
    own = [(PathDrop(design, p), p.limit_v) for p in over.values()]

    def keeps(stocked: StockCable) -> bool:
        areas = dict.fromkeys(names, stocked.area_mm2)
        return all(drop.volts(areas) <= limit_v + SPARE_V for drop, limit_v in own)

    return _first(stock, keeps)


class PathDrop:
    """What a path loses at the currents it was solved with, some of its cables of other areas."""

    def __init__(self, design: Design, path: Path) -> None:
        self.solved_v = path.drop_v
        # Volts lost in a cable are this over its area [mm2], besides those of its terminals.
        self.volt_mm2: dict[str, float] = {}
        self.was_mm2: dict[str, float] = {}
        for step in path.steps:
            if step.cable is None:
                continue
            cable = design.cables_by_id[step.cable]
            lost = step.current_a * ohm_per_m(design, 1.0) * cable.length_m
            self.volt_mm2[cable.id] = self.volt_mm2.get(cable.id, 0.0) + lost
            self.was_mm2[cable.id] = cable.area_mm2

    def volts(self, areas_mm2: Mapping[str, float]) -> float:
        """What it loses [V] with cables of these areas [mm2], the others as they are."""
        return self.solved_v + sum(
            lost * (1 / areas_mm2[name] - 1 / self.was_mm2[name])
            for name, lost in self.volt_mm2.items()
            if name in areas_mm2
        )


def _first(stock: Stock, fits: Callable[[StockCable], bool]) -> StockCable | None:
    return next((s for s in stock.by_area if fits(s)), None)
