"""The range in which a reading lies when all is as designed."""

from __future__ import annotations

from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass
from math import sqrt

import numpy as np
from scipy.stats import t as student

from strom_engine.circuit import OperatingPoint
from strom_engine.design import State
from strom_engine.prove.instruments import doubt_of, instrument_for
from strom_engine.prove.points import settled
from strom_engine.prove.probing import Probe
from strom_engine.prove.spread import BoatDrawn, Today

__all__ = ["CONFIDENCE", "Range", "ranges"]

CONFIDENCE = 0.95
LEAST_CAUSE = 0.5  # correlation from which an unknown is named as what widens a range
LEAST_SETTLED = 4
# A probe, a state, and charge [-] gained since by bank.
Wanted = tuple[Probe, State, Mapping[str, float]]


@dataclass(frozen=True)
class Range:
    """Where a reading lies in 95 of 100 boats as designed: least, middle, most [V or A].

    ``instrument`` is the meter whose class is in it, ``mostly`` the unknown that widens it most,
    if one does.
    """

    low: float
    middle: float
    high: float
    instrument: str
    mostly: str | None = None

    @property
    def half(self) -> float:
        """Half of its width."""
        return (self.high - self.low) / 2


def ranges(
    boats: Sequence[BoatDrawn], wanted: Iterable[Wanted], today: Today
) -> list[Range | None]:
    """Ranges of readings, each in its state; None where the boat finds no rest in it.

    The interval in which one more boat falls, from the mean and deviation of those drawn:
    mean +- t(n-1) s sqrt(1 + 1/n), with the meter's own deviation beside it.
    Source: Hahn and Meeker, Statistical Intervals, 2.3 (prediction interval, normal law).

    Args:
        boats: drawn from what is not known.
        wanted: probes, states, and how much more charge [-] banks have by then.
        today: charge of banks and meters.

    Returns:
        A range for each that was wanted, in its order.
    """
    points: dict[str, list[tuple[BoatDrawn, OperatingPoint]]] = {}
    found = []
    for probe, state, charged in wanted:
        key = f"{state.model_dump_json()} {sorted(charged.items())}"
        if key not in points:
            points[key] = list(_settled(boats, state, charged))
        found.append(_range(probe, points[key], today))
    return found


def _settled(
    boats: Sequence[BoatDrawn], state: State, charged: Mapping[str, float]
) -> Iterable[tuple[BoatDrawn, OperatingPoint]]:
    for boat in boats:
        soc = {bank: min(1.0, held + charged.get(bank, 0.0)) for bank, held in boat.soc.items()}
        point = settled(boat.design, state, soc)
        if point is not None:
            yield boat, point


def _range(
    probe: Probe, points: Sequence[tuple[BoatDrawn, OperatingPoint]], today: Today
) -> Range | None:
    if len(points) < LEAST_SETTLED:
        return None
    values = np.array([probe.value(point, boat.design) for boat, point in points])
    count, middle = len(values), float(values.mean())
    meter = instrument_for(probe.measures, today.instruments)
    factor = float(student.ppf((1 + CONFIDENCE) / 2, count - 1)) * sqrt(1 + 1 / count)
    normal = float(student.ppf((1 + CONFIDENCE) / 2, 1e6))
    half = float(np.hypot(factor * values.std(ddof=1), normal * doubt_of(meter, middle)))
    cause = _cause(values, [boat.drawn for boat, _ in points])
    return Range(middle - half, middle, middle + half, meter.id, cause)


def _cause(values: np.ndarray, drawn: Sequence[Mapping[str, float]]) -> str | None:
    """The unknown that goes with the reading most closely, if any does."""
    if values.std() == 0:
        return None
    best, least = None, LEAST_CAUSE
    for name in drawn[0]:
        told = np.array([d[name] for d in drawn])
        together = abs(float(np.corrcoef(told, values)[0, 1]))
        if together > least:
            best, least = name, together
    return best
