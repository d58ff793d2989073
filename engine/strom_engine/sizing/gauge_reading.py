"""Reading a cable whose print has faded: from its copper or its outside."""

from __future__ import annotations

import math
from dataclasses import dataclass

from strom_engine.errors import Problem, StateError
from strom_engine.reference import area_mm2, load_table

__all__ = ["GaugeGuess", "GaugeReading", "read_gauge"]

# Copper in a circle round the bundle: fine strands fill 0.70 to 0.78 of it (geometry of
# concentric and bunched lays). Medium confidence.
FILL = 0.74
FILL_DOUBT = 0.06
OUTSIDE_DOUBT = 0.08  # makers' insulation differs by this much in diameter; low confidence
SHOWN = 3


@dataclass(frozen=True)
class GaugeGuess:
    """A size it could be, and how far off the measurement is [-]."""

    gauge: str
    area_mm2: float
    off: float
    likely: bool


@dataclass(frozen=True)
class GaugeReading:
    """Sizes it could be, the likeliest first; take the smaller one when in doubt."""

    area_mm2: float | None
    guesses: tuple[GaugeGuess, ...]
    careful: str
    working: tuple[str, ...]
    source: str


def read_gauge(
    conductor_mm: float | None = None,
    outside_mm: float | None = None,
    strands: int | None = None,
    strand_mm: float | None = None,
) -> GaugeReading:
    """Size of a stranded cable from one measurement.

    ``strands`` x ``strand_mm``: exact. ``conductor_mm``: diameter over the bare bundle, good
    to a size. ``outside_mm``: over the insulation, good to a size or two. Raises StateError
    when none of the three is given or a number makes no sense.

    Args:
        conductor_mm: over the bare bundle [mm].
        outside_mm: over the insulation [mm].
        strands: how many [-].
        strand_mm: diameter of one [mm].

    Returns:
        The nearest sizes with the area [mm2] and how sure.
    """
    if strands and strand_mm:
        area = strands * math.pi / 4 * strand_mm**2
        words = f"{strands} strands x pi/4 x ({strand_mm:g} mm)^2 = {area:.2f} mm2 of copper."
        return _by_area(area, 0.05, words)
    if conductor_mm:
        area = math.pi / 4 * conductor_mm**2 * FILL
        words = f"pi/4 x ({conductor_mm:g} mm)^2 x fill {FILL:g} = {area:.2f} mm2 of copper."
        return _by_area(area, FILL_DOUBT / FILL + 0.04, words)
    if outside_mm:
        return _by_outside(outside_mm)
    text = "measure the bare conductor, the outside, or count the strands and measure one"
    raise StateError([Problem("conductor_mm", text)])


def _by_area(area: float, doubt: float, words: str) -> GaugeReading:
    table = load_table("conductor_sizes")
    off = {r["size"]: area_mm2(r["size"]) / area - 1 for r in table.rows}
    return _reading(area, off, doubt, words, table.citation)


def _by_outside(outside_mm: float) -> GaugeReading:
    table = load_table("cable_outside_diameter")
    off = {r["size"]: float(r["outside_mm"]) / outside_mm - 1 for r in table.rows}
    words = f"{outside_mm:g} mm over the insulation, against makers' sheets."
    return _reading(None, off, OUTSIDE_DOUBT, words, table.citation)


def _reading(
    area: float | None, off: dict[str, float], doubt: float, words: str, source: str
) -> GaugeReading:
    near = sorted(off, key=lambda size: abs(off[size]))[:SHOWN]
    guesses = tuple(GaugeGuess(s, area_mm2(s), off[s], abs(off[s]) <= doubt) for s in near)
    likely = [g for g in guesses if g.likely] or [guesses[0]]
    careful = min(likely, key=lambda g: g.area_mm2).gauge
    return GaugeReading(area, guesses, careful, (words,), source)
