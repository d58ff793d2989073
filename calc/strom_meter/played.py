"""The boat that the meter plays: one drawn from what is not known, with its hidden faults."""

from __future__ import annotations

import numpy as np
from strom_engine.circuit import operating_point
from strom_engine.design import Design
from strom_engine.faults import Fault
from strom_engine.prove import Today, boats_drawn, instrument_for, read_asked

__all__ = ["PlayedBoat"]


class PlayedBoat:
    """Answers readings of a boat as it may really be, with faults and the meter's noise."""

    def __init__(self, design: Design, faults: tuple[Fault, ...], seed: int) -> None:
        self._boat = boats_drawn(design, Today(), 1, seed)[0]
        self._faults = faults
        self._rng = np.random.default_rng(seed)

    def reading(self, raw: object) -> dict[str, object]:
        """What the meter shows: value, unit, its name. Raises StateError for what is not aboard."""
        design = self._boat.design
        asked = read_asked(raw, design)
        probe = asked.probe.probe
        soc = {
            bank: min(1.0, held + asked.charged.get(bank, 0.0))
            for bank, held in self._boat.soc.items()
        }
        state = asked.state.model_copy(update={"soc": soc | dict(asked.state.soc)})
        value = probe.value(operating_point(design, state, *self._faults), design)
        meter = instrument_for(probe.measures, ())
        shown = value + meter.error(value) * float(self._rng.uniform(-1, 1))
        return {
            "value": round(round(shown / meter.resolution) * meter.resolution, 6),
            "unit": probe.unit,
            "instrument": f"{meter.name}, simulated",
        }
