"""How much each cause is believed, by all readings together."""

from __future__ import annotations

from collections.abc import Sequence
from math import log

import numpy as np

from strom_engine.prove.hypotheses import HEALTHY, NONE_OF_THESE
from strom_engine.prove.predictions import STEPS, Cell, Predictions, Reading

__all__ = ["belief"]

HEAVY_TAIL = 6.0  # degrees of freedom: a reading may be odd for a reason that nobody thought of
NONE_SPREAD_SHARE = 0.12  # of the system's volts: how far a cause nobody listed may move a reading
NONE_SPREAD_A = 20.0
CURRENT_SHARE = 0.04  # of what a cause moves a reading by: the current that meets it is not known
ELSEWHERE_V, CHARGE_V = 1.0, 0.13  # a tenth of a bank's charge is about 0.13 V at rest


def belief(
    boat: Predictions, told: np.ndarray, readings: Sequence[Reading]
) -> tuple[dict[str, float], dict[str, Cell]]:
    """Share of belief of each cause, and its likeliest magnitude."""
    read = np.array([r.value for r in readings])
    scatter = _covariance(boat, readings)
    laws = _student(read - told, scatter, _along(boat, told, readings))
    logs: dict[str, list[tuple[float, int]]] = {}
    for i, cell in enumerate(boat.cells):
        logs.setdefault(cell.cause.key, []).append((float(laws[i]), i))
    odds = {h.key: h.odds for h in boat.causes}
    summed = {
        key: log(odds[key]) + float(np.logaddexp.reduce([v for v, _ in values])) - log(len(values))
        for key, values in logs.items()
    }
    summed[NONE_OF_THESE] = log(odds[NONE_OF_THESE]) + _none(boat, told, readings, scatter)
    top = max(summed.values())
    weights = {key: float(np.exp(value - top)) for key, value in summed.items()}
    total = sum(weights.values())
    best = {key: boat.cells[max(values)[1]] for key, values in logs.items()}
    return {key: weight / total for key, weight in weights.items()}, best


def _covariance(boat: Predictions, readings: Sequence[Reading]) -> np.ndarray:
    """How readings scatter together by what is not known, and each by its own noise."""
    if not readings:
        return np.zeros((0, 0))
    off = np.array([boat.deviations(r.probe, r.state) for r in readings])
    own = np.array([boat.noise(r.probe, r.value) for r in readings])
    return np.asarray(off @ off.T / (off.shape[1] - 1) + np.diag(own**2))


def _along(boat: Predictions, told: np.ndarray, readings: Sequence[Reading]) -> np.ndarray:
    """By how much a cause's readings may move together, beyond a sound boat's.

    By half a step of its magnitude, by what is not known of the current that meets it, and by the
    charge of a bank that it puts a reading on.
    """
    healthy = next(i for i, cell in enumerate(boat.cells) if cell.cause.key == HEALTHY)
    off = np.nan_to_num(told - told[healthy])
    scale = boat.design.system_v / 12
    volts = np.array([r.probe.measures == "volts" for r in readings], dtype=bool)
    # A reading that a cause puts on another bank has that bank's charge in it, which is not known.
    elsewhere = (np.abs(off) > ELSEWHERE_V * scale) & volts
    moved = CURRENT_SHARE * off + np.where(elsewhere, CHARGE_V * scale, 0.0)
    for i, cell in enumerate(boat.cells):
        if cell.share:
            ends = [
                np.array([boat.told(cell._replace(share=s), r.probe, r.state) for r in readings])
                for s in (cell.share - 1 / STEPS, cell.share)
            ]
            moved[i] += np.nan_to_num(ends[1] - ends[0]) / 12**0.5
    return np.asarray(moved)


def _student(off: np.ndarray, scatter: np.ndarray, along: np.ndarray) -> np.ndarray:
    """Logs of a multivariate Student law, row by row, but for what is the same for all.

    The scatter of each row is ``scatter`` and a deviation ``along`` (Sherman and Morrison 1950).
    """
    count = off.shape[1]
    if not count:
        return np.zeros(len(off))
    solved = np.linalg.solve(scatter, along.T).T
    stretch = 1 + np.sum(along * solved, axis=1)
    distance = np.sum(off * np.linalg.solve(scatter, off.T).T, axis=1)
    distance = distance - np.sum(off * solved, axis=1) ** 2 / stretch
    laws = -(HEAVY_TAIL + count) / 2 * np.log1p(np.maximum(distance, 0.0) / HEAVY_TAIL)
    laws = laws - np.log(stretch) / 2
    return np.where(np.isnan(laws), -np.inf, laws)


def _none(
    boat: Predictions, told: np.ndarray, readings: Sequence[Reading], scatter: np.ndarray
) -> float:
    """A cause that nobody listed: readings lie anywhere, some as if nothing were wrong."""
    if not readings:
        return 0.0
    healthy = next(i for i, cell in enumerate(boat.cells) if cell.cause.key == HEALTHY)
    volts = NONE_SPREAD_SHARE * boat.design.system_v
    wide = np.array([NONE_SPREAD_A if r.probe.measures == "amps" else volts for r in readings])
    more = scatter + np.diag(wide**2)
    off = np.array([r.value for r in readings]) - np.nan_to_num(told[healthy])
    _, before = np.linalg.slogdet(scatter)
    _, after = np.linalg.slogdet(more)
    still = np.zeros((1, len(off)))
    return float(_student(off[None, :], more, still)[0]) - float(after - before) / 2
