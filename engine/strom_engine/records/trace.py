"""A trace: what a battery monitor wrote down of one bank, in columns over time."""

from __future__ import annotations

from collections.abc import Iterator, Mapping
from dataclasses import dataclass
from functools import cached_property
from itertools import pairwise

import numpy as np
from numpy.typing import NDArray

__all__ = ["QUANTITIES", "Column", "Trace", "thinned"]

Column = NDArray[np.float64]
# Quantities of a trace with their units; charge is a share of a full bank.
QUANTITIES: dict[str, str] = {
    "volts_v": "V",
    "amps_a": "A",
    "charge": "-",
    "counted_ah": "Ah",
    "temperature_c": "°C",
}
GAP_SPACINGS, LEAST_GAP_S = 5.0, 1800.0


@dataclass(frozen=True)
class Trace:
    """Rows of one bank, their times rising.

    ``at_s`` are seconds since 1970 in UTC; ``columns`` hold volts [V], amps into the bank [A],
    charge [-], counted charge missing from full [Ah] (0 or below), temperature [degC]; a value
    that was not recorded is no number.
    """

    at_s: Column
    columns: Mapping[str, Column]

    def __len__(self) -> int:
        return len(self.at_s)

    def has(self, quantity: str) -> bool:
        """Whether a quantity was recorded at all."""
        column = self.columns.get(quantity)
        return column is not None and bool(np.isfinite(column).any())

    def column(self, quantity: str) -> Column:
        """A quantity, no numbers where it was not recorded."""
        found = self.columns.get(quantity)
        return np.full(len(self.at_s), np.nan) if found is None else found

    @cached_property
    def every_s(self) -> float:
        """The usual time between two rows [s]."""
        return float(np.median(np.diff(self.at_s))) if len(self.at_s) > 1 else 0.0

    @cached_property
    def gap_s(self) -> float:
        """Time between two rows from which on nothing is known of what was between [s]."""
        return max(GAP_SPACINGS * self.every_s, LEAST_GAP_S)

    @cached_property
    def lasts_s(self) -> Column:
        """How long each row stands for [s]: until the next one, nothing across a gap."""
        if not len(self.at_s):
            return np.zeros(0)
        steps = np.diff(self.at_s, append=self.at_s[-1] + self.every_s)
        steps[steps > self.gap_s] = self.every_s
        return steps

    def part(self, start: int, end: int) -> Trace:
        """Rows from one up to another."""
        return Trace(self.at_s[start:end], {name: c[start:end] for name, c in self.columns.items()})

    def between(self, start_s: float, end_s: float) -> Trace:
        """Rows from a moment on and before another [s]."""
        first, last = np.searchsorted(self.at_s, (start_s, end_s))
        return self.part(int(first), int(last))

    def unbroken(self) -> Iterator[Trace]:
        """Stretches without a gap."""
        breaks = np.flatnonzero(np.diff(self.at_s) > self.gap_s) + 1
        edges = [0, *breaks.tolist(), len(self.at_s)]
        for start, end in pairwise(edges):
            if end > start:
                yield self.part(start, end)


def thinned(at_s: Column, values: Column, most: int) -> tuple[Column, Column]:
    """A column in about so many points; the least and the most of every stretch stay.

    Args:
        at_s: times [s], rising.
        values: of any unit; no numbers are left out.
        most: points [-], about.

    Returns:
        Times and values of the points that stay, in their order.
    """
    known = np.isfinite(values)
    at_s, values = at_s[known], values[known]
    if len(values) <= most or most < 4:
        return at_s, values
    edges = np.linspace(0, len(values), most // 2 + 1).astype(int)
    keep: list[int] = [0]
    for start, end in pairwise(edges):
        if end > start:
            low = start + int(values[start:end].argmin())
            high = start + int(values[start:end].argmax())
            keep += sorted({low, high})
    keep.append(len(values) - 1)
    index = np.unique(keep)
    return at_s[index], values[index]
