"""The one loader for the CSV tables: a head of `# key: value` lines, then one value a cell."""

from __future__ import annotations

import csv
from dataclasses import dataclass
from functools import cache, cached_property
from importlib.resources import files

import numpy as np
from numpy.typing import NDArray

from strom_engine.errors import ReferenceDataError

__all__ = ["CONFIRM", "Table", "load_table"]

# Said beside every figure of a standard: editions differ.
CONFIRM = "confirm in the edition in force"

HEAD_KEYS = frozenset({"title", "units", "source", "edition", "confidence"})


@dataclass(frozen=True)
class Table:
    """A table of figures and where they come from."""

    name: str
    title: str
    units: str
    source: str
    edition: str
    confidence: str
    rows: tuple[dict[str, str], ...]

    @property
    def citation(self) -> str:
        """Source and edition in one line, as shown beside a figure."""
        return f"{self.source}; {self.edition}"

    def column(self, name: str) -> tuple[float, ...]:
        """A column of numbers."""
        return tuple(float(row[name]) for row in self.rows)

    def lookup(self, x_name: str, y_name: str, x: float) -> float:
        """The y that belongs to an x, linear between the rows, held at the ends."""
        curve = self._curves.get((x_name, y_name))
        if curve is None:
            pairs = sorted(zip(self.column(x_name), self.column(y_name), strict=True))
            curve = self._curves[x_name, y_name] = np.array(pairs).T
        return float(np.interp(x, curve[0], curve[1]))

    @cached_property
    def _curves(self) -> dict[tuple[str, str], NDArray[np.float64]]:
        """Pairs of columns that were looked up, in the order of the first."""
        return {}


@cache
def load_table(name: str) -> Table:
    """Read a table of this package by its name without the ending.

    Raises ReferenceDataError when it is missing, or its head or a row is incomplete.
    """
    path = files("strom_engine.reference") / "data" / f"{name}.csv"
    if not path.is_file():
        raise ReferenceDataError(f"there is no reference table {name!r}")
    lines = path.read_text(encoding="utf-8").splitlines()
    head = dict(
        line[1:].strip().split(": ", 1) for line in lines if line.startswith("#") and ": " in line
    )
    if set(head) != HEAD_KEYS:
        raise ReferenceDataError(f"table {name!r}: its head must give {sorted(HEAD_KEYS)}")
    rows = tuple(csv.DictReader(line for line in lines if line and not line.startswith("#")))
    if not rows or any(None in row or None in row.values() for row in rows):
        raise ReferenceDataError(f"table {name!r}: a row has too few or too many cells")
    return Table(name=name, rows=rows, **head)
