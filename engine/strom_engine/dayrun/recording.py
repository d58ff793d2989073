"""The series of a day: every solved moment, in columns."""

from __future__ import annotations

import math
from array import array
from collections.abc import Mapping, Sequence
from dataclasses import dataclass

import numpy as np

from strom_engine.batteries import BankModel, BankWells
from strom_engine.dayrun.discrete_state import DiscreteState
from strom_engine.dayrun.kernel import Snapshot
from strom_engine.design import Alternator, Bank, DcDc, Design, FittedInverter, LoadGroup

__all__ = ["Recorder", "Recording"]


@dataclass(frozen=True)
class Recording:
    """Columns over ``at_s`` [s]; where something jumps, a moment stands twice.

    ``wells`` hold by bank the columns of BankWells [Ah, V], ``discrete`` the number of what stood
    so, among ``standings``. ``source_v`` are volts at a source's posts; no number where no bank
    defines them.
    """

    at_s: Sequence[float]
    soc: Mapping[str, Sequence[float]]
    volts_v: Mapping[str, Sequence[float]]
    bank_a: Mapping[str, Sequence[float]]
    source_a: Mapping[str, Sequence[float]]
    source_v: Mapping[str, Sequence[float]]
    loads_a: Sequence[float]
    warmth_c: Mapping[str, Sequence[float]]
    wells: Mapping[str, tuple[Sequence[float], ...]]
    discrete: Sequence[int]
    standings: Sequence[DiscreteState]


WELL_COLUMNS = len(BankWells._fields)
BANK_COLUMNS = WELL_COLUMNS + 2  # its wells, its volts, its amps


class Recorder:
    """Writes moments down as they come, one row after another."""

    def __init__(self, design: Design, banks: Mapping[str, BankModel]) -> None:
        self._banks = [banks[b.id] for b in design.of_type(Bank)]
        self._sources = [s.id for s in design.sources] + [p.id for p in design.of_type(DcDc)]
        self._posts = {
            s.id: (f"{s.id}.{s.charging_posts()[0]}", f"{s.id}.neg") for s in design.sources
        }
        self._loads = [g.id for g in design.of_type(LoadGroup)]
        self._loads += [f"{p.id}.dc" for p in design.of_type(FittedInverter)]
        self._alternators = [p.id for p in design.of_type(Alternator)]
        self._rows = array("d")
        self._standing = array("l")
        self._numbers: dict[DiscreteState, int] = {}

    def note(self, at_s: float, moment: Snapshot, discrete: DiscreteState) -> None:
        """Write a moment down."""
        self._write(self._row(at_s, moment), discrete)

    def note_mean(
        self,
        at_s: float,
        parts: Sequence[tuple[float, Snapshot]],
        wells: Mapping[str, BankWells],
        discrete: DiscreteState,
    ) -> None:
        """Write down what some moments come to on average, each by its weight, at some wells."""
        rows = np.array([self._row(at_s, moment) for _, moment in parts])
        weights = np.array([weight for weight, _ in parts])
        row = (weights @ np.nan_to_num(rows) / weights.sum()).tolist()
        row[0] = at_s
        for n, bank in enumerate(self._banks):
            first = 1 + n * BANK_COLUMNS
            row[first : first + WELL_COLUMNS] = wells[bank.id]
        self._write(row, discrete)

    def _write(self, row: list[float], discrete: DiscreteState) -> None:
        self._rows.extend(row)
        self._standing.append(self._numbers.setdefault(discrete, len(self._numbers)))

    def _row(self, at_s: float, moment: Snapshot) -> list[float]:
        amps, over_v, index = moment.point.amps, moment.point.over_v, moment.kernel.index
        row = [at_s]
        for bank in self._banks:
            i = index[bank.id]
            row += (*moment.wells[bank.id], over_v[i], amps[i])
        row += [-amps[index[name]] if name in index else 0.0 for name in self._sources]
        row.append(sum([amps[index[name]] for name in self._loads if name in index]))
        row += [moment.warmth_c[name] for name in self._alternators]
        for plus, minus in self._posts.values():
            volts = moment.volts(plus, minus)
            row.append(math.nan if volts is None else volts)
        return row

    def recording(self) -> Recording:
        """Everything written down."""
        names = [bank.id for bank in self._banks]
        width = 1 + BANK_COLUMNS * len(names) + len(self._sources) + 1
        width += len(self._alternators) + len(self._posts)
        columns = iter([self._rows[i::width] for i in range(width)])
        at_s = next(columns)
        banks = {name: [next(columns) for _ in range(BANK_COLUMNS)] for name in names}
        return Recording(
            at_s=at_s,
            soc={bank.id: _soc(bank, banks[bank.id][:WELL_COLUMNS]) for bank in self._banks},
            wells={name: tuple(own[:WELL_COLUMNS]) for name, own in banks.items()},
            volts_v={name: own[WELL_COLUMNS] for name, own in banks.items()},
            bank_a={name: own[WELL_COLUMNS + 1] for name, own in banks.items()},
            source_a={name: next(columns) for name in self._sources},
            loads_a=next(columns),
            warmth_c={name: next(columns) for name in self._alternators},
            source_v={name: next(columns) for name in self._posts},
            discrete=self._standing,
            standings=list(self._numbers),
        )


def _soc(bank: BankModel, columns: list[array[float]]) -> array[float]:
    """State of charge [-] of every row of a bank's wells."""
    rows = zip(*columns, strict=True)
    return array("d", (bank.soc(BankWells._make(row)) for row in rows))
