"""From readings to causes: how likely each is, and which reading tells most next."""

from __future__ import annotations

from collections.abc import Iterable, Iterator, Mapping, Sequence
from dataclasses import dataclass
from functools import cached_property, lru_cache
from math import log
from typing import NamedTuple

import numpy as np

from strom_engine.circuit import OperatingPoint, operating_point
from strom_engine.design import Design, State
from strom_engine.errors import StromError
from strom_engine.faults import Fault
from strom_engine.prove.hypotheses import HEALTHY, NONE_OF_THESE, Hypothesis, hypotheses
from strom_engine.prove.instruments import doubt_of, instrument_for
from strom_engine.prove.probing import Probe
from strom_engine.prove.spread import BoatDrawn, Today, boats_drawn

__all__ = ["Cause", "Diagnosis", "Reading", "diagnosis"]

BOATS = 14  # drawn for what is not known
# What the model itself may be off by, beside all that is drawn [V at 12 V, share of amps].
MODEL_V, MODEL_SHARE = 0.015, 0.02
HEAVY_TAIL = 6.0  # degrees of freedom: a reading may be odd for a reason that nobody thought of
SAME = 0.7  # deviations: causes whose readings all lie closer than this cannot be parted
NONE_SPREAD_SHARE = 0.12  # of the system's volts: how far a cause nobody listed may move a reading
NONE_SPREAD_A = 20.0
WEIGHED = 14  # likeliest causes that the next reading is chosen by
LEAST_SHARE = 0.002
SHOWN = 12
ODD = 4.0  # deviations beyond which no cause is near
CURRENT_SHARE = 0.04  # of what a cause moves a reading by: the current that meets it is not known
ELSEWHERE_V, CHARGE_V = 1.0, 0.13  # a tenth of a bank's charge is about 0.13 V at rest
STEPS = 6  # magnitudes between two that are computed
IDLE_V = 0.002  # a drop that no meter of the trade shows
LEAST_SEEN = 0.3  # of the mildest: less is nothing that anybody would call a fault
MEANT = 5
UNTOUCHED = "a fault that no reading so far touches"


@dataclass(frozen=True)
class Reading:
    """What a meter showed: where, in which state, how much [V or A]."""

    probe: Probe
    state: State
    value: float


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

    ``means`` is what that reading would be with each of the likeliest causes [V or A]. ``odd`` are
    readings that no cause comes near.
    """

    causes: tuple[Cause, ...]
    next: int | None
    gain_bit: float
    means: tuple[tuple[str, float], ...]
    odd: tuple[str, ...]


class Cell(NamedTuple):
    """A cause in a magnitude: a share [-] of the way from one that is computed to the next.

    ``mild`` -1 is nothing wrong. Readings move steadily with a resistance, so that between two
    computed magnitudes a straight line is near enough.
    """

    cause: Hypothesis
    mild: int
    severe: int
    share: float


def _cells(cause: Hypothesis) -> Iterator[Cell]:
    if len(cause.variants) == 1:
        yield Cell(cause, 0, 0, 0.0)
        return
    for severe in range(len(cause.variants)):
        for n in range(STEPS):
            share = (n + 1) / STEPS
            if severe or share >= LEAST_SEEN:
                yield Cell(cause, severe - 1, severe, share)


class _Boat:
    """Predictions for one boat, remembered by cause and state."""

    def __init__(self, design: Design, today: Today) -> None:
        self.design, self.today = design, today
        self.boats = boats_drawn(design, today, BOATS)
        self.causes = hypotheses(design)
        self.middle = _middle(self.boats)
        self._points: dict[tuple[object, ...], OperatingPoint | None] = {}
        self._spread: dict[str, list[tuple[BoatDrawn, OperatingPoint]]] = {}

    @cached_property
    def cells(self) -> tuple[Cell, ...]:
        """Every cause in every magnitude that is held against the readings."""
        return tuple(cell for cause in self.causes for cell in _cells(cause))

    def point(self, cause: Hypothesis, variant: int, state: State) -> OperatingPoint | None:
        """The operating point under a cause, all that is not known in its middle."""
        faults = cause.variants[variant] if variant >= 0 else ()
        key = (*(f.key for f in faults), state.model_dump_json())
        if key not in self._points:
            self._points[key] = self._computed(faults, state)
        return self._points[key]

    def _computed(self, faults: tuple[Fault, ...], state: State) -> OperatingPoint | None:
        if faults:
            sound = self.point(self.causes[0], -1, state)
            if sound is not None and all(self._idle(f, sound) for f in faults):
                return sound
        at = state.model_copy(update={"soc": {**self.middle, **state.soc}})
        try:
            return operating_point(self.design, at, *faults)
        except StromError:
            return None

    def _idle(self, fault: Fault, sound: OperatingPoint) -> bool:
        """Whether a resistance stands where so little flows that no meter would show it."""
        if fault.kind != "added_resistance":
            return False
        if fault.part in self.design.cables_by_id:
            amps = abs(sound.conductor_a[fault.part])
        else:
            on_post = self.design.cables_on(f"{fault.part}.{fault.at}")
            amps = max((abs(sound.conductor_a[c.id]) for c in on_post), default=0.0)
        return amps * fault.amount < IDLE_V

    def told(self, cell: Cell, probe: Probe, state: State) -> float:
        """What a cause in a magnitude would show; NaN where the boat finds no rest with it."""
        first = self._shown(cell.cause, cell.mild, probe, state)
        if cell.share == 0.0:
            return first
        return first + cell.share * (self._shown(cell.cause, cell.severe, probe, state) - first)

    def _shown(self, cause: Hypothesis, variant: int, probe: Probe, state: State) -> float:
        point = self.point(cause, variant, state)
        if point is None:
            return float("nan")
        if probe.measures == "amps" and probe.cable not in point.conductor_a:
            return 0.0  # a clamp on a cable that is off
        return probe.value(point, self.design)

    def spread(self, state: State) -> list[tuple[BoatDrawn, OperatingPoint]]:
        """Boats with nothing wrong in a state."""
        key = state.model_dump_json()
        if key not in self._spread:
            found = []
            for boat in self.boats:
                at = state.model_copy(update={"soc": {**boat.soc, **state.soc}})
                try:
                    found.append((boat, operating_point(boat.design, at)))
                except StromError:
                    continue
            self._spread[key] = found
        return self._spread[key]

    def deviations(self, probe: Probe, state: State) -> np.ndarray:
        """By how much each drawn boat's reading lies off their mean."""
        values = {id(b): probe.value(p, b.design) for b, p in self.spread(state)}
        told = np.array([values.get(id(b), np.nan) for b in self.boats])
        if np.isnan(told).all():
            return np.zeros(len(self.boats))
        told = np.where(np.isnan(told), np.nanmean(told), told)
        return np.asarray(told - told.mean())

    def noise(self, probe: Probe, value: float) -> float:
        """Deviation of a reading of its own: the meter's, and the model's."""
        meter = doubt_of(instrument_for(probe.measures, self.today.instruments), value)
        model = MODEL_V * self.design.system_v / 12
        if probe.measures == "amps":
            model = MODEL_SHARE * abs(value)
        return float(np.hypot(meter, model))


def _middle(boats: Sequence[BoatDrawn]) -> dict[str, float]:
    return {bank: float(np.mean([b.soc[bank] for b in boats])) for bank in boats[0].soc}


class _Hashed:
    """Today's facts as a key of a cache: equal when their words are."""

    def __init__(self, today: Today) -> None:
        self.today, self.words = today, repr(today)

    def __hash__(self) -> int:
        return hash(self.words)

    def __eq__(self, other: object) -> bool:
        return isinstance(other, _Hashed) and other.words == self.words


@lru_cache(maxsize=4)
def _known(design: Design, today: _Hashed) -> _Boat:
    return _Boat(design, today.today)


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
    boat = _known(design, _Hashed(today or Today()))
    told = np.array(
        [[boat.told(cell, r.probe, r.state) for r in readings] for cell in boat.cells]
    ).reshape(len(boat.cells), len(readings))
    shares, best = _belief(boat, told, readings)
    ranked = sorted(shares, key=lambda key: -shares[key])
    causes = _grouped(boat, ranked, shares, best, readings)
    chosen, gain = _next(boat, ranked, shares, best, candidates)
    means = () if chosen is None else _means(boat, causes, best, candidates[chosen])
    return Diagnosis(
        causes=tuple(causes[:SHOWN]),
        next=chosen,
        gain_bit=gain,
        means=means,
        odd=tuple(_odd(boat, told, readings)),
    )


def _belief(
    boat: _Boat, told: np.ndarray, readings: Sequence[Reading]
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


def _covariance(boat: _Boat, readings: Sequence[Reading]) -> np.ndarray:
    """How readings scatter together by what is not known, and each by its own noise."""
    if not readings:
        return np.zeros((0, 0))
    off = np.array([boat.deviations(r.probe, r.state) for r in readings])
    own = np.array([boat.noise(r.probe, r.value) for r in readings])
    return np.asarray(off @ off.T / (off.shape[1] - 1) + np.diag(own**2))


def _along(boat: _Boat, told: np.ndarray, readings: Sequence[Reading]) -> np.ndarray:
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


def _none(boat: _Boat, told: np.ndarray, readings: Sequence[Reading], scatter: np.ndarray) -> float:
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


def _grouped(
    boat: _Boat,
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


def _row(boat: _Boat, cell: Cell | None, readings: Sequence[Reading]) -> np.ndarray:
    """What a cause gives at every reading; NaN for none of those that are listed."""
    if cell is None:
        return np.full(len(readings), np.nan)
    return np.array([boat.told(cell, r.probe, r.state) for r in readings])


def _speaks(
    boat: _Boat, told: np.ndarray, noise: np.ndarray, readings: Sequence[Reading]
) -> Iterable[str]:
    for value, own, reading in zip(told, noise, readings, strict=True):
        if np.isnan(value):
            continue
        unit, off = reading.probe.unit, abs(reading.value - value)
        word = "fits" if off <= 3 * own else "does not fit"
        yield (
            f"{reading.probe.words(boat.design)} Would give {value:.2f} {unit}; "
            f"you read {reading.value:.2f} {unit}: {word}."
        )


def _odd(boat: _Boat, told: np.ndarray, readings: Sequence[Reading]) -> Iterable[str]:
    """Readings that no cause comes near."""
    for n, reading in enumerate(readings):
        near = float(np.nanmin(np.abs(told[:, n] - reading.value)))
        spread = float(boat.deviations(reading.probe, reading.state).std(ddof=1))
        if near > ODD * np.hypot(spread, boat.noise(reading.probe, reading.value)):
            unit = reading.probe.unit
            yield (
                f"{reading.value:g} {unit}: no cause comes nearer than {near:.2f} {unit}. "
                "Is the meter set right, the boat in the state told?"
            )


def _next(
    boat: _Boat,
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
        deviation = float(boat.deviations(probe, state).std(ddof=1))
        own = np.hypot(deviation, boat.noise(probe, float(told.mean())))
        bits = _information(told, float(own), weights)
        if bits / (1 + minutes / 5) > most:
            found, most, gain = n, bits / (1 + minutes / 5), bits
    return found, gain


def _means(
    boat: _Boat,
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
