"""The bench: one state, with its operating point, its reach and the two tables."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass

from strom_engine.circuit.operating_point import operating_point
from strom_engine.circuit.reach import Reach, reach
from strom_engine.circuit.results import OperatingPoint
from strom_engine.design import Design, State, check_state
from strom_engine.faults import Fault, effects_of

__all__ = ["BenchResult", "Cell", "bench", "laid_out"]


@dataclass(frozen=True)
class Cell:
    """One crossing of a table: is there a path, and how many amps take it now."""

    joined: bool
    current_a: float


@dataclass(frozen=True)
class BenchResult:
    """All that the bench shows for one state."""

    state: State
    point: OperatingPoint
    reach: Reach
    loads_by_bank: Mapping[str, Mapping[str, Cell]]
    sources_by_bank: Mapping[str, Mapping[str, Cell]]


def bench(design: Design, state: State, *faults: Fault) -> BenchResult:
    """Solve a state, perhaps with faults, and lay out who feeds and who charges.

    Args:
        design: the boat, as surveyed.
        state: what runs and where switches stand.
        faults: what has failed; reach is told of the design as they leave it.

    Returns:
        The operating point, reach by the graph, and both tables of volts [V] and amps [A].

    Raises:
        StateError, FaultError, NotSettledError, ComputationError: as ``operating_point`` does.

    >>> from strom_engine.survey import new_boat
    >>> survey, design = new_boat("cruising_yacht", "selector")
    >>> bench(design, State(positions={"selector": "both"})).reach.fed_by["house_panel"]
    ('engine_bank', 'house_bank')
    """
    state = check_state(design, state)
    point = operating_point(design, state, *faults)
    return laid_out(effects_of(design, *faults).design if faults else design, state, point)


def laid_out(design: Design, state: State, point: OperatingPoint) -> BenchResult:
    """A solved, checked state with its reach and the two tables.

    Args:
        design: the boat, as surveyed.
        state: one that was checked.
        point: its operating point.

    Returns:
        What the bench shows: volts [V] and amps [A] in two tables.
    """
    paths = reach(design, state, point.moved())
    loads = {
        name: {
            bank: Cell(bank in paths.fed_by[name], now.given_by_a.get(bank, 0.0))
            for bank in point.banks
        }
        for name, now in point.loads.items()
    }
    sources = {
        name: {
            bank: Cell(bank in paths.charges[name], now.given_by_a.get(name, 0.0))
            for bank, now in point.banks.items()
        }
        for name in point.sources
    }
    return BenchResult(state, point, paths, loads, sources)
