"""What wind and towed generators give in a day."""

from __future__ import annotations

import math
from dataclasses import dataclass

import numpy as np

from strom_engine.reference import load_table
from strom_engine.survey import CurvePoint, Generator

__all__ = ["GeneratorDay", "curve_points", "generator_day"]


@dataclass(frozen=True)
class GeneratorDay:
    """One generator over a day of a profile."""

    generator: str
    name: str
    mean_a: float
    hours_h: float
    charge_ah: float
    working: tuple[str, ...]
    source: str


def curve_points(curve: str) -> tuple[CurvePoint, ...]:
    """Points of a curve of the table."""
    rows = [r for r in load_table("generator_curves").rows if r["curve"] == curve]
    return tuple(
        CurvePoint(speed_kn=float(r["speed_kn"]), current_a=float(r["current_a"])) for r in rows
    )


def generator_day(generator: Generator, profile: str, system_v: int) -> GeneratorDay:
    """Ampere-hours of a generator in a day of a profile, at the system's voltage.

    Boat speed is taken as steady. Wind varies about its mean: its speeds are taken as Rayleigh
    distributed (IEC 61400-2, standard wind turbine classes).
    """
    points = generator.points if generator.curve is None else curve_points(generator.curve)
    speeds, amps = [p.speed_kn for p in points], [p.current_a for p in points]
    if generator.kind == "wind":
        mean_a = _rayleigh_mean(speeds, amps, generator.speed_kn)
        how = f"wind about a mean of {generator.speed_kn:g} kn (Rayleigh)"
    else:
        mean_a = float(np.interp(generator.speed_kn, speeds, amps, left=0.0))
        how = f"{generator.speed_kn:g} kn through the water"
    mean_a *= 12.0 / system_v
    hours = generator.hours.get(profile, 0.0)
    typed = generator.curve is None
    return GeneratorDay(
        generator=generator.id,
        name=generator.name,
        mean_a=mean_a,
        hours_h=hours,
        charge_ah=mean_a * hours,
        working=(f"{how}: {mean_a:.1f} A x {hours:g} h = {mean_a * hours:.0f} Ah.",),
        source="curve typed in" if typed else load_table("generator_curves").citation,
    )


def _rayleigh_mean(speeds: list[float], amps: list[float], mean_kn: float) -> float:
    """Mean of a curve over Rayleigh-distributed speeds with a mean speed."""
    if mean_kn <= 0:
        return 0.0
    grid = np.linspace(0.0, 5 * mean_kn, 1001)
    sigma2 = (mean_kn / math.sqrt(math.pi / 2)) ** 2
    density = grid / sigma2 * np.exp(-(grid**2) / (2 * sigma2))
    given = np.interp(grid, speeds, amps, left=0.0)
    return float(np.trapezoid(density * given, grid))
