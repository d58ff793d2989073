"""From readings to causes: how likely each is, and which reading tells most next."""

from __future__ import annotations

from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass

import numpy as np

from strom_engine.design import Design, State
from strom_engine.prove.belief import belief
from strom_engine.prove.hypotheses import HEALTHY, NONE_OF_THESE
from strom_engine.prove.predictions import Cell, Predictions, Reading, predictions
from strom_engine.prove.probing import Probe
from strom_engine.prove.spread import Today

__all__ = ["Cause", "Diagnosis", "diagnosis"]

SAME = 0.7  # deviations: causes whose readings all lie closer than this cannot be parted
WEIGHED = 14  # likeliest causes that the next reading is chosen by
LEAST_SHARE = 0.002
SHOWN = 12
SURE = 0.9  # of the belief: as good as found; own judgement
FITS = 3.0  # deviations within which a reading fits a cause
ODD = 4.0  # deviations beyond which no cause is near
MEANT = 5
UNTOUCHED = "a fault that no reading so far touches"


@dataclass(frozen=True)
class Cause:
    """A cause, or causes that no reading so far can part, with its share of belief [-].

    ``speaks`` says in numbers what each telling reading would be with it, and was.
    """

    keys: tuple[str, ...]
    words: tuple[str, ...]
    share: float
    cure: str
    parts: tuple[str, ...]
    speaks: tuple[str, ...]


@dataclass(frozen=True)
class Diagnosis:
    """Causes, the likeliest first; which candidate reading tells most next, and how much [bit].

    ``found``: one cause is as good as sure. ``means`` is what that reading would be with each of
    the likeliest causes [V or A]. ``odd`` are readings that no cause comes near.
    """

    causes: tuple[Cause, ...]
    found: bool
    next: int | None
    gain_bit: float
    means: tuple[tuple[str, float], ...]
    odd: tuple[str, ...]


def diagnosis(
    design: Design,
    readings: Sequence[Reading],
    candidates: Sequence[tuple[Probe, State, float]] = (),
    today: Today | None = None,
) -> Diagnosis:
    """What may be wrong, by all readings together.

    Bayes' rule over single causes; a reading's law is a Student law around what the cause gives,
    as wide as what is not known makes it, all readings together.

    Args:
        design: the boat as built, as surveyed.
        readings: volts [V] and amps [A] in their states.
        candidates: readings that could be taken next: probe, state, minutes of effort.
        today: what was found today.

    Returns:
        Causes by their share of belief [-]; the candidate that tells most for its effort.
    """
    boat = predictions(design, today or Today())
    told = np.array(
        [[boat.told(cell, r.probe, r.state) for r in readings] for cell in boat.cells]
    ).reshape(len(boat.cells), len(readings))
    shares, best = belief(boat, told, readings)
    ranked = sorted(shares, key=lambda key: -shares[key])
    causes = _grouped(boat, ranked, shares, best, readings)
    chosen, gain = _next(boat, ranked, shares, best, candidates)
    means = () if chosen is None else _means(boat, causes, best, candidates[chosen])
    top = causes[0]
    sure = top.share > SURE and not {HEALTHY, NONE_OF_THESE} & {*top.keys}
    return Diagnosis(
        causes=tuple(causes[:SHOWN]),
        found=sure and len(top.keys) == 1,
        next=chosen,
        gain_bit=gain,
        means=means,
        odd=tuple(_odd(boat, told, readings)),
    )


def _grouped(
    boat: Predictions,
    ranked: Sequence[str],
    shares: Mapping[str, float],
    best: Mapping[str, Cell],
    readings: Sequence[Reading],
) -> list[Cause]:
    """Causes that no reading so far can part are one group."""
    by_key = {h.key: h for h in boat.causes}
    noise = np.array([boat.noise(r.probe, r.value) for r in readings])
    sound = _row(boat, best[HEALTHY], readings)
    untouched: list[str] = []
    rows: list[tuple[list[str], np.ndarray]] = []
    for key in (k for k in ranked if shares[k] >= LEAST_SHARE or k in (HEALTHY, NONE_OF_THESE)):
        told = _row(boat, best.get(key), readings)
        if key in (HEALTHY, NONE_OF_THESE):
            rows.append(([key], told))
        elif np.all(np.abs(told - sound) <= SAME * noise):
            untouched.append(key)
        else:
            like = (keys for keys, other in rows if np.all(np.abs(told - other) <= SAME * noise))
            group = next((g for g in like if not {HEALTHY, NONE_OF_THESE} & {*g}), None)
            if group is None:
                rows.append(([key], told))
            else:
                group.append(key)
    found = [
        Cause(
            keys=tuple(keys),
            words=tuple(by_key[k].words for k in keys),
            share=sum(shares[k] for k in keys),
            cure=by_key[keys[0]].cure,
            parts=tuple(dict.fromkeys(by_key[k].part for k in keys if by_key[k].part)),
            speaks=tuple(_speaks(boat, told, noise, readings)),
        )
        for keys, told in rows
    ]
    if untouched:
        words = (UNTOUCHED, *(by_key[k].words for k in untouched))
        share = sum(shares[k] for k in untouched)
        found.append(Cause(tuple(untouched), words, share, "", (), ()))
    return sorted(found, key=lambda c: -c.share)


def _row(boat: Predictions, cell: Cell | None, readings: Sequence[Reading]) -> np.ndarray:
    """What a cause gives at every reading; NaN for none of those that are listed."""
    if cell is None:
        return np.full(len(readings), np.nan)
    return np.array([boat.told(cell, r.probe, r.state) for r in readings])


def _speaks(
    boat: Predictions, told: np.ndarray, noise: np.ndarray, readings: Sequence[Reading]
) -> Iterable[str]:
    for value, own, reading in zip(told, noise, readings, strict=True):
        if np.isnan(value):
            continue
        unit, off = reading.probe.unit, abs(reading.value - value)
        spread = boat.spread(reading.probe, reading.state)
        word = "fits" if off <= FITS * np.hypot(own, spread) else "does not fit"
        yield (
            f"{reading.probe.words(boat.design)} Would give {value:.2f} {unit}; "
            f"you read {reading.value:.2f} {unit}: {word}."
        )


def _odd(boat: Predictions, told: np.ndarray, readings: Sequence[Reading]) -> Iterable[str]:
    """Readings that no cause comes near."""
    for n, reading in enumerate(readings):
        near = float(np.nanmin(np.abs(told[:, n] - reading.value)))
        spread = boat.spread(reading.probe, reading.state)
        if near > ODD * np.hypot(spread, boat.noise(reading.probe, reading.value)):
            unit = reading.probe.unit
            yield (
                f"{reading.value:g} {unit}: no cause comes nearer than {near:.2f} {unit}. "
                "Is the meter set right, the boat in the state told?"
            )


def _next(
    boat: Predictions,
    ranked: Sequence[str],
    shares: Mapping[str, float],
    best: Mapping[str, Cell],
    candidates: Sequence[tuple[Probe, State, float]],
) -> tuple[int | None, float]:
    """The candidate with the most expected information for its minutes."""
    by_key = {h.key: h for h in boat.causes}
    keys = [k for k in ranked[:WEIGHED] if by_key[k].variants and shares[k] > 0]
    weights = np.array([shares[k] for k in keys])
    if len(keys) < 2:
        return None, 0.0
    weights = weights / weights.sum()
    found, most, gain = None, 0.0, 0.0
    for n, (probe, state, minutes) in enumerate(candidates):
        told = np.array([boat.told(best[k], probe, state) for k in keys])
        if np.isnan(told).any():
            continue
        deviation = boat.spread(probe, state)
        own = np.hypot(deviation, boat.noise(probe, float(told.mean())))
        bits = _information(told, float(own), weights)
        if bits / (1 + minutes / 5) > most:
            found, most, gain = n, bits / (1 + minutes / 5), bits
    return found, gain


def _means(
    boat: Predictions,
    causes: Sequence[Cause],
    best: Mapping[str, Cell],
    candidate: tuple[Probe, State, float],
) -> tuple[tuple[str, float], ...]:
    """What a reading would be with each of the likeliest causes."""
    by_key = {h.key: h for h in boat.causes}
    probe, state, _ = candidate
    known = [c.keys[0] for c in causes[:MEANT] if c.keys[0] in best]
    return tuple((by_key[key].words, boat.told(best[key], probe, state)) for key in known)


def _information(told: np.ndarray, own: float, weights: np.ndarray) -> float:
    """Expected information [bit] of a reading: entropy of its mixture less that of its noise."""
    outcomes = np.concatenate([told - 1.2 * own, told, told + 1.2 * own])
    chance = np.concatenate([weights * 0.3, weights * 0.4, weights * 0.3])
    laws = np.exp(-0.5 * ((outcomes[:, None] - told[None, :]) / own) ** 2) * weights[None, :]
    after = laws / laws.sum(axis=1, keepdims=True)
    entropy = -np.sum(np.where(after > 0, after * np.log2(np.maximum(after, 1e-300)), 0.0), axis=1)
    before = -float(np.sum(weights * np.log2(np.maximum(weights, 1e-300))))
    return before - float(np.sum(chance * entropy))
