"""The boat that the meter plays: one drawn from what is not known, with its hidden faults."""

from __future__ import annotations

from collections.abc import Mapping

import numpy as np
from pydantic import BaseModel, Field, ValidationError
from strom_engine.circuit import operating_point
from strom_engine.design import Design, State
from strom_engine.design.validation import problems_from_pydantic
from strom_engine.errors import StateError
from strom_engine.faults import Fault
from strom_engine.prove import Probe, Today, boats_drawn, instrument_for
from strom_engine.prove.instruments import Measures

__all__ = ["PlayedBoat"]


class _Probe(BaseModel, extra="forbid"):
    measures: Measures
    plus: str = ""
    minus: str = ""
    cable: str = ""
    towards: str = ""


class _Asked(BaseModel, extra="forbid"):
    probe: _Probe
    state: State
    charged: Mapping[str, float] = Field(default_factory=dict)


class PlayedBoat:
    """Answers readings of a boat as it may really be, with faults and the meter's noise."""

    def __init__(self, design: Design, faults: tuple[Fault, ...], seed: int) -> None:
        self._boat = boats_drawn(design, Today(), 1, seed)[0]
        self._faults = faults
        self._rng = np.random.default_rng(seed)

    def reading(self, raw: object) -> dict[str, object]:
        """What the meter shows: value, unit, its name. Raises StateError for what is not aboard."""
        try:
            asked = _Asked.model_validate(raw)
        except ValidationError as error:
            raise StateError(problems_from_pydantic(error)) from None
        probe, design = Probe(**asked.probe.model_dump()), self._boat.design
        soc = {
            bank: min(1.0, held + asked.charged.get(bank, 0.0))
            for bank, held in self._boat.soc.items()
        }
        state = asked.state.model_copy(update={"soc": soc | dict(asked.state.soc)})
        point = operating_point(design, state, *self._faults)
        value = probe.value(point, design)
        meter = instrument_for(probe.measures, ())
        shown = value + meter.error(value) * float(self._rng.uniform(-1, 1))
        steps = round(shown / meter.resolution)
        return {
            "value": round(steps * meter.resolution, 6),
            "unit": probe.unit,
            "instrument": f"{meter.name}, simulated",
        }
