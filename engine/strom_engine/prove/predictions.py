"""What every cause would show at every reading, remembered for one boat."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from functools import cached_property, lru_cache
from typing import NamedTuple

import numpy as np

from strom_engine.circuit import OperatingPoint, operating_point
from strom_engine.design import Design, State
from strom_engine.errors import StromError
from strom_engine.faults import Fault
from strom_engine.prove.hypotheses import Hypothesis, hypotheses
from strom_engine.prove.instruments import doubt_of, instrument_for
from strom_engine.prove.probing import Probe
from strom_engine.prove.spread import BoatDrawn, Today, boats_drawn

__all__ = ["STEPS", "Cell", "Predictions", "Reading", "predictions"]

BOATS = 14  # drawn for what is not known
# What the model itself may be off by, beside all that is drawn [V at 12 V, share of amps].
MODEL_V, MODEL_SHARE = 0.015, 0.02
STEPS = 6  # magnitudes between two that are computed
IDLE_V = 0.002  # a drop that no meter of the trade shows
LEAST_SEEN = 0.3  # of the mildest: less is nothing that anybody would call a fault


@dataclass(frozen=True)
class Reading:
    """What a meter showed: where, in which state, how much [V or A]."""

    probe: Probe
    state: State
    value: float


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


class Predictions:
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
        return float("nan") if point is None else probe.value(point, self.design)

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


def predictions(design: Design, today: Today) -> Predictions:
    """Those of a boat on a day; asked for again, what was computed is still there."""
    return _known(design, _Hashed(today))


@lru_cache(maxsize=4)
def _known(design: Design, today: _Hashed) -> Predictions:
    return Predictions(design, today.today)
