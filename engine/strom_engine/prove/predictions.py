"""What every cause would show at every reading, remembered for one boat."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from functools import cached_property
from threading import RLock
from typing import NamedTuple

import numpy as np
from cachetools import LRUCache, cached

from strom_engine.design import Design, State
from strom_engine.faults import Fault
from strom_engine.prove.hypotheses import Hypothesis, hypotheses
from strom_engine.prove.instruments import doubt_of, instrument_for
from strom_engine.prove.points import Snapshot, Snapshots, settled
from strom_engine.prove.probing import Probe
from strom_engine.prove.spread import BOATS, BoatDrawn, Today, boats_drawn

__all__ = ["STEPS", "Cell", "Predictions", "Reading", "predictions"]

KEPT = 4  # boats that are remembered
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
        self._small = Snapshots(design)
        self._points: dict[tuple[object, ...], Snapshot | None] = {}
        self._spread: dict[str, list[Snapshot | None]] = {}

    @cached_property
    def cells(self) -> tuple[Cell, ...]:
        """Every cause in every magnitude that is held against the readings."""
        return tuple(cell for cause in self.causes for cell in _cells(cause))

    def point(self, faults: tuple[Fault, ...], state: State) -> Snapshot | None:
        """Volts and amps with faults, all that is not known in its middle."""
        key = (*(f.key for f in faults), state.model_dump_json())
        if key not in self._points:
            self._points[key] = self._computed(faults, state)
        return self._points[key]

    def _computed(self, faults: tuple[Fault, ...], state: State) -> Snapshot | None:
        if faults:
            sound = self.point((), state)
            if sound is not None and all(self._idle(f, sound) for f in faults):
                return sound
        point = settled(self.design, state, self.middle, *faults)
        return None if point is None else self._small.of(point)

    def _idle(self, fault: Fault, sound: Snapshot) -> bool:
        """Whether a resistance stands where so little flows that no meter would show it."""
        if fault.kind != "added_resistance":
            return False
        cables = [fault.part]
        if fault.part not in self.design.cables_by_id:
            cables = [c.id for c in self.design.cables_on(f"{fault.part}.{fault.at}")]
        return all(abs(sound.amps_in(c)) * fault.amount < IDLE_V for c in cables)

    def told(self, cell: Cell, probe: Probe, state: State) -> float:
        """What a cause in a magnitude would show; NaN where the boat finds no rest with it."""
        first = self._shown(cell.cause, cell.mild, probe, state)
        if cell.share == 0.0:
            return first
        return first + cell.share * (self._shown(cell.cause, cell.severe, probe, state) - first)

    def _shown(self, cause: Hypothesis, variant: int, probe: Probe, state: State) -> float:
        point = self.point(cause.variants[variant] if variant >= 0 else (), state)
        return float("nan") if point is None else probe.value(point, self.design)

    def _sound(self, state: State) -> list[Snapshot | None]:
        """Boats with nothing wrong in a state."""
        key = state.model_dump_json()
        if key not in self._spread:
            points = (settled(b.design, state, b.soc) for b in self.boats)
            self._spread[key] = [None if p is None else self._small.of(p) for p in points]
        return self._spread[key]

    def deviations(self, probe: Probe, state: State) -> np.ndarray:
        """By how much each drawn boat's reading lies off their mean."""
        points = self._sound(state)
        told = np.array([np.nan if p is None else probe.value(p, self.design) for p in points])
        if np.isnan(told).all():
            return np.zeros(len(self.boats))
        return np.asarray(np.nan_to_num(told - np.nanmean(told)))

    def spread(self, probe: Probe, state: State) -> float:
        """Standard deviation of a reading on boats with nothing wrong [V or A]."""
        return float(self.deviations(probe, state).std(ddof=1))

    def noise(self, probe: Probe, value: float) -> float:
        """Deviation of a reading of its own: the meter's, and the model's."""
        meter = doubt_of(instrument_for(probe.measures, self.today.instruments), value)
        model = MODEL_V * self.design.system_v / 12
        if probe.measures == "amps":
            model = MODEL_SHARE * abs(value)
        return float(np.hypot(meter, model))


def _middle(boats: Sequence[BoatDrawn]) -> dict[str, float]:
    return {bank: float(np.mean([b.soc[bank] for b in boats])) for bank in boats[0].soc}


@cached(LRUCache(KEPT), key=lambda design, today: (design, repr(today)), lock=RLock())
def predictions(design: Design, today: Today) -> Predictions:
    """Those of a boat on a day; asked for again, what was computed is still there."""
    return Predictions(design, today)
