"""Operating points to prove by: none where the circuit finds no rest; small ones to remember."""

from __future__ import annotations

from collections.abc import Iterable, Mapping
from typing import NamedTuple, Protocol

import numpy as np

from strom_engine.circuit import OperatingPoint, operating_point
from strom_engine.design import Design, State
from strom_engine.errors import StromError
from strom_engine.faults import Fault

__all__ = ["Shows", "Snapshot", "Snapshots", "settled"]


class Shows(Protocol):
    """What a meter can be held on."""

    def volts_between(self, plus: str, minus: str) -> float | None:
        """Volts between two posts [V]; None where nothing defines them."""
        ...

    def amps_in(self, cable: str) -> float:
        """Amps in a cable from its start to its end [A]; KeyError for one that is off."""
        ...


def settled(
    design: Design, state: State, soc: Mapping[str, float] | None = None, *faults: Fault
) -> OperatingPoint | None:
    """The operating point of a state; None where the boat finds no rest in it.

    Args:
        design: the boat.
        state: to measure in; its own charge goes before ``soc``.
        soc: charge of banks [-], as drawn without.
        faults: what has failed.
    """
    at = state.model_copy(update={"soc": {**(soc or {}), **state.soc}})
    try:
        return operating_point(design, at, *faults)
    except StromError:
        return None


class Snapshots:
    """Makes small copies of operating points of one design: volts and amps, nothing else.

    Thousands of them are remembered while causes are weighed.
    """

    def __init__(self, design: Design) -> None:
        self.posts = {ref: n for n, ref in enumerate(design.post_polarity)}
        self.cables = {cable: n for n, cable in enumerate(design.cables_by_id)}

    def of(self, point: OperatingPoint) -> Snapshot:
        """The small copy of an operating point; posts and cables that faults add are left out."""
        volts, islands = point.post_v, point.post_island
        return Snapshot(
            self,
            _numbers(volts.get(ref) for ref in self.posts),
            _numbers(islands.get(ref) for ref in self.posts),
            _numbers(point.conductor_a.get(cable) for cable in self.cables),
        )


class Snapshot(NamedTuple):
    """Volts [V], island and amps [A] by number of post and cable; NaN where there is none."""

    made_by: Snapshots
    volts: np.ndarray
    islands: np.ndarray
    amps: np.ndarray

    def volts_between(self, plus: str, minus: str) -> float | None:
        """Volts between two posts [V]; None where nothing defines them."""
        above, below = self.made_by.posts[plus], self.made_by.posts[minus]
        between = float(self.volts[above]) - float(self.volts[below])
        joined = self.islands[above] == self.islands[below]
        return between if joined and not np.isnan(between) else None

    def amps_in(self, cable: str) -> float:
        """Amps in a cable from its start to its end [A]; KeyError for one that is off."""
        amps = float(self.amps[self.made_by.cables[cable]])
        if np.isnan(amps):
            raise KeyError(cable)
        return amps


def _numbers(values: Iterable[float | None]) -> np.ndarray:
    return np.array([np.nan if v is None else v for v in values], dtype=np.float32)
