"""How a bank ages by its readings: a line through them, its doubt, and when it falls short."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np
from scipy.stats import linregress
from scipy.stats import t as student

__all__ = ["Ageing", "ageing_of"]

YEAR_S = 365.25 * 86400
CONFIDENCE = 0.9
LEAST_POINTS = 3
LEAST_YEARS = 0.25


@dataclass(frozen=True)
class Ageing:
    """A straight line through readings: what is lost a year, between which limits, and when it
    comes below what is needed [s since 1970], the earliest and the likely moment.

    ``below_now``: it is below already. ``refused`` says why there is none.
    """

    a_year: float | None
    a_year_low: float | None
    a_year_high: float | None
    now: float | None
    below: float | None
    below_at_s: float | None
    earliest_s: float | None
    below_now: bool
    refused: str
    working: tuple[str, ...]


def ageing_of(
    points: Sequence[tuple[float, float]], now_s: float, need: float | None, unit: str
) -> Ageing:
    """The trend of a figure that falls with age, such as tested capacity or cranking amps.

    Least squares; the doubt of the slope by Student's law at 90 %. Source: any textbook of
    statistics.

    Args:
        points: moment [s since 1970] and value.
        now_s: today [s since 1970].
        need: what it must not fall below, in the unit of the values; None where nobody knows.
        unit: of the values.
    """
    if len(points) < LEAST_POINTS:
        return _refused(f"{LEAST_POINTS} readings are needed for a trend; there are {len(points)}")
    at = np.array([p[0] for p in points]) / YEAR_S
    values = np.array([p[1] for p in points])
    if float(np.ptp(at)) < LEAST_YEARS:
        return _refused("the readings lie within three months: too short for a trend")
    line = linregress(at, values)
    free = len(points) - 2
    half = float(student.ppf((1 + CONFIDENCE) / 2, free)) * float(line.stderr)
    slope, start = float(line.slope), float(line.intercept)
    now = start + slope * now_s / YEAR_S
    working: tuple[str, ...] = (
        f"{len(points)} readings over {np.ptp(at):.1f} years: {slope:+.3g} {unit} a year, "
        f"between {slope - half:+.3g} and {slope + half:+.3g} at 90 %.",
    )
    below_s = earliest_s = None
    if need is not None:
        below_s = _when(now, slope, need, now_s)
        earliest_s = _when(now, slope - half, need, now_s)
        working += (f"{now:.4g} {unit} today, {need:.4g} {unit} needed.",)
    return Ageing(
        slope,
        slope - half,
        slope + half,
        now,
        need,
        below_s,
        earliest_s,
        _is_below(now, need),
        "",
        working,
    )


def _is_below(now: float, need: float | None) -> bool:
    return need is not None and now <= need


def _when(now: float, slope: float, need: float, now_s: float) -> float | None:
    """When a line comes below a need; None where it never does."""
    if now <= need:
        return now_s
    return now_s + (now - need) / -slope * YEAR_S if slope < 0 else None


def _refused(why: str) -> Ageing:
    nothing = (None,) * 7
    return Ageing(*nothing, below_now=False, refused=why, working=())
