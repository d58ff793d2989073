"""Design and state -> network -> operating point; and reach, who feeds what, by the graph."""

from strom_engine.circuit.bench import BenchResult, Cell, bench, laid_out
from strom_engine.circuit.demand import items_on
from strom_engine.circuit.estimated import estimated_cables
from strom_engine.circuit.operating_point import operating_point
from strom_engine.circuit.positions import PositionCard, PositionRow, position_card
from strom_engine.circuit.reach import Reach, reach
from strom_engine.circuit.results import (
    BankNow,
    LoadNow,
    OperatingPoint,
    RelayNow,
    SourceNow,
    StarterNow,
)
from strom_engine.circuit.supply import source_limit_a, source_running

__all__ = [
    "BankNow",
    "BenchResult",
    "Cell",
    "LoadNow",
    "OperatingPoint",
    "PositionCard",
    "PositionRow",
    "Reach",
    "RelayNow",
    "SourceNow",
    "StarterNow",
    "bench",
    "estimated_cables",
    "items_on",
    "laid_out",
    "operating_point",
    "position_card",
    "reach",
    "source_limit_a",
    "source_running",
]
