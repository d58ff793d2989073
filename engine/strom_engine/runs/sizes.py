"""The size each cable needs: by what it may carry, and by what it may lose."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from dataclasses import dataclass

from strom_engine.circuit.network import cable_resistance_ohm
from strom_engine.design import Cable, Design
from strom_engine.reference import area_mm2
from strom_engine.runs.ampacity import (
    LEAST_IN_ENGINE_SPACE_C,
    Standard,
    allowed_current,
    in_engine_space,
    most_rating_a,
)
from strom_engine.runs.drop import ohm_per_m
from strom_engine.runs.paths import Path, paths
from strom_engine.runs.stock import Stock, StockCable

__all__ = [
    "LEAST_MM2",
    "Wanted",
    "as_stocked",
    "by_ampacity",
    "by_drop",
    "fits_current",
    "path_drop_v",
]

LEAST_MM2 = 1.3  # 16 AWG, as thin as a conductor may be (ABYC E-11)
SPARE_V = 1e-6


@dataclass(frozen=True)
class Wanted:
    """What a cable must stand: a lasting current [A], and a device of so many amps at least."""

    current_a: float
    device_a: float | None
    standard: Standard


def as_stocked(cable: Cable, stocked: StockCable) -> Cable:
    """A cable made of what is in stock."""
    return cable.model_copy(
        update={
            "gauge": stocked.gauge,
            "copper_mm2": stocked.copper_mm2,
            "insulation_c": stocked.insulation_c,
        }
    )


def fits_current(design: Design, cable: Cable, wanted: Wanted, steps_a: tuple[float, ...]) -> bool:
    """Whether a cable carries its current for long, and is protected by the device on it."""
    hot = in_engine_space(design, cable)
    if area_mm2(cable.gauge) < LEAST_MM2 and not cable.sheathed:
        return False
    if hot and cable.insulation_c < LEAST_IN_ENGINE_SPACE_C:
        return False
    allowed = allowed_current(cable, engine_space=hot, standard=wanted.standard).amps
    if allowed < wanted.current_a:
        return False
    return wanted.device_a is None or wanted.device_a <= most_rating_a(allowed, steps_a) + 1e-9


def by_ampacity(design: Design, cable: Cable, wanted: Wanted, stock: Stock) -> StockCable | None:
    """The thinnest in stock that carries the current; None where nothing does."""
    return _first(
        stock, lambda s: fits_current(design, as_stocked(cable, s), wanted, stock.ratings_a)
    )


def by_drop(design: Design, cables: tuple[Cable, ...], stock: Stock) -> StockCable | None:
    """The thinnest in stock with which every path over these cables, all alike, keeps its limit.

    Everything else on the paths stays as it is. None where no size alone does.
    """
    names = {c.id for c in cables}
    own = [p for p in paths(design) if names & set(p.cables)]

    def keeps(stocked: StockCable) -> bool:
        areas = dict.fromkeys(names, stocked.area_mm2)
        return all(path_drop_v(design, p, areas) <= p.limit_v + SPARE_V for p in own)

    return _first(stock, keeps)


def path_drop_v(design: Design, path: Path, areas_mm2: Mapping[str, float]) -> float:
    """What a path loses [V] at the currents it was solved with, some cables of other areas."""
    drop_v = path.drop_v
    for step in path.steps:
        area = areas_mm2.get(step.cable or "")
        if area is None:
            continue
        cable = design.cables_by_id[step.cable or ""]
        was = cable_resistance_ohm(design, cable)
        ends = was - ohm_per_m(design, cable.area_mm2) * cable.length_m
        now = ohm_per_m(design, area) * cable.length_m + ends
        drop_v += step.current_a * (now - was)
    return drop_v


def _first(stock: Stock, fits: Callable[[StockCable], bool]) -> StockCable | None:
    return next((s for s in stock.by_area if fits(s)), None)
