"""Rows of records out of a file, piece by piece: what cannot be read is named by its line."""

from __future__ import annotations

import csv
from collections.abc import Iterable, Iterator, Sequence
from dataclasses import dataclass, field
from datetime import UTC, datetime
from itertools import islice

import numpy as np
import pandas as pd

from strom_engine.errors import Problem, TableError
from strom_engine.interchange.record_layout import (
    FACTORS,
    TIME_FORMATS,
    RecordColumn,
    RecordLayout,
    RecordQuantity,
)
from strom_engine.interchange.sheet import write_sheet
from strom_engine.records import QUANTITIES, Trace
from strom_engine.records.trace import Column

__all__ = ["Piece", "RowReader", "dump_records", "in_order"]

ROWS_A_PIECE = 20_000
MOST_ROWS = 2_000_000
MOST_NAMED = 200  # bad rows named one by one; more are counted
FIRST_S = datetime(2000, 1, 1, tzinfo=UTC).timestamp()  # before it a clock was never set
LAST_S = datetime(2100, 1, 1, tzinfo=UTC).timestamp()
BACK_S = 60.0  # a clock that goes back by more was set back
INTO: dict[str, tuple[RecordQuantity, float, float]] = {
    "volts_v": ("volts", 0.0, 1000.0),
    "amps_a": ("amps", -5000.0, 5000.0),
    "charge": ("charge", -0.01, 1.1),
    "counted_ah": ("counted", -1e5, 1e5),
    "temperature_c": ("temperature", -60.0, 150.0),
}


@dataclass(frozen=True)
class Piece:
    """Rows that could be read, in the order of the file, and how many lines they came from."""

    at_s: Column
    columns: dict[str, Column]
    lines: int


@dataclass
class RowReader:
    """Reads rows by a layout; ``problems`` grow as it goes, ``bad`` counts all that was left."""

    layout: RecordLayout
    problems: list[Problem] = field(default_factory=list)
    notes: list[str] = field(default_factory=list)
    bad: int = 0
    _last_s: float = -np.inf
    _skipped: frozenset[int] = frozenset()

    def pieces(self, lines: Iterable[str]) -> Iterator[Piece]:
        """Rows of a file, piece by piece.

        Args:
            lines: of the file, decoded.

        Raises:
            TableError: the layout has no time, or there are more rows than are read.
        """
        if wrong := self.layout.problems():
            raise TableError(wrong)
        rows = csv.reader(
            (line.replace("\0", "") for line in lines), delimiter=self.layout.separator
        )
        at, line = 0, self.layout.head_row
        for _ in range(self.layout.head_row):
            next(rows, None)
        while True:
            try:
                some = list(islice(rows, ROWS_A_PIECE))
            except csv.Error as error:
                self._wrong(line + 1, f"cannot be read further: {error}")
                return
            if not some:
                return
            at += len(some)
            if at > MOST_ROWS:
                text = f"more than {MOST_ROWS:,} rows; part the file"
                raise TableError([Problem("", text)])
            yield self._piece(some, line + 1)
            line += len(some)

    def _wrong(self, line: int, why: str) -> None:
        self.bad += 1
        if len(self.problems) < MOST_NAMED:
            self.problems.append(Problem(f"line {line}", why))

    def _piece(self, rows: Sequence[Sequence[str]], first_line: int) -> Piece:
        wide = len(self.layout.columns)
        numbered = []
        for n, row in enumerate(rows):
            if not any(cell.strip() for cell in row):
                continue
            if len(row) != wide and not (len(row) > wide and not any(row[wide:])):
                self._wrong(first_line + n, f"has {len(row)} cells for {wide} columns")
            else:
                numbered.append((first_line + n, row))
        lines = np.array([n for n, _ in numbered], dtype=int)
        cells = [[row[i] for _, row in numbered] for i in range(wide)]
        at_s = self._times(cells, lines)
        keep = np.isfinite(at_s)
        columns = {}
        for name, (quantity, low, high) in INTO.items():
            at = self.layout.at(quantity)
            if at is not None:
                values = self._values(cells[at], self.layout.columns[at], lines, keep)
                columns[name] = self._in_range(values, low, high, lines, keep)
        self._by_power(cells, lines, columns, keep)
        empty = keep & np.all([~np.isfinite(c) for c in columns.values()], axis=0)
        for line in lines[empty]:
            self._wrong(int(line), "has no value")
        keep &= ~empty
        self._set_back(at_s[keep], lines[keep])
        return Piece(at_s[keep], {name: c[keep] for name, c in columns.items()}, len(rows))

    def _times(self, cells: Sequence[Sequence[str]], lines: np.ndarray) -> Column:
        at = self.layout.at("time")
        assert at is not None
        words = [cell.strip() for cell in cells[at]]
        clock = self.layout.at("clock")
        if clock is not None:
            words = [f"{w} {c.strip()}" for w, c in zip(words, cells[clock], strict=True)]
        self._skipped = frozenset()
        sort = self.layout.time_format
        if sort in ("unix_s", "unix_ms"):
            numbers = pd.to_numeric(pd.Series(words, dtype=str), errors="coerce")
            at_s = np.array(numbers, dtype=float) / (1000.0 if sort == "unix_ms" else 1.0)
        else:
            at_s = self._dates(words, TIME_FORMATS[sort])
        bad = ~np.isfinite(at_s)
        for n in np.flatnonzero(bad).tolist():
            why = "is no time that is read here"
            if n in self._skipped:
                why = f"does not exist in {self.layout.zone}: clocks go forward over it"
            self._wrong(int(lines[n]), f"{words[n][:40]!r} {why}")
        wild = ~bad & ((at_s < FIRST_S) | (at_s > LAST_S))
        for n in np.flatnonzero(wild).tolist():
            self._wrong(int(lines[n]), f"{words[n][:40]!r}: the clock was not set")
        at_s[wild] = np.nan
        return at_s

    def _dates(self, words: Sequence[str], day: str | None) -> Column:
        """Seconds since 1970; no number for what is no date, or for an hour that does not exist."""
        series = pd.Series(words, dtype=str)
        if day is None:
            whole = pd.to_datetime(series, format="ISO8601", errors="coerce", utc=True)
            aware = series.str.contains(r"(?:[Zz]|[+-]\d\d:?\d\d)$", regex=True)
            if bool(aware.all()):
                return _seconds(whole)
            local = whole.dt.tz_localize(None)
        else:
            local = pd.to_datetime(series, format=f"{day} %H:%M:%S", errors="coerce")
            for clock in ("%H:%M", "%H:%M:%S.%f", "%I:%M:%S %p", "%I:%M %p"):
                if not bool(local.isna().any()):
                    break
                again = pd.to_datetime(series, format=f"{day} {clock}", errors="coerce")
                local = local.fillna(again)
        return self._from_zone(local)

    def _from_zone(self, local: pd.Series) -> Column:
        """Local times in UTC; of an hour that comes twice the first, until times go back."""
        zone = self.layout.zone
        first, second = (
            _seconds(local.dt.tz_localize(zone, ambiguous=told, nonexistent="NaT"))
            for told in (np.ones(len(local), bool), np.zeros(len(local), bool))
        )
        gone = np.isnan(first) & np.isnan(second) & np.array(local.notna())
        self._skipped = frozenset(np.flatnonzero(gone).tolist())
        twice = np.flatnonzero(first != second)
        if not len(twice) or not np.isfinite(first[twice]).any():
            return first
        plain = _seconds(local.dt.tz_localize("UTC"))
        found, back = first.copy(), False
        for n in twice:
            if not np.isfinite(first[n]):
                continue
            # An hour later by the day before is another autumn: begin again.
            if n and plain[n] - plain[n - 1] > 3600 * 12:
                back = False
            back = bool(back or (n > 0 and plain[n] < plain[n - 1]))
            found[n] = second[n] if back else first[n]
        return found

    def _values(
        self, cells: Sequence[str], column: RecordColumn, lines: np.ndarray, keep: np.ndarray
    ) -> Column:
        """Numbers of a column in the unit of its quantity; empty cells are no numbers."""
        series = pd.Series(cells, dtype=str).str.strip()
        series = series.str.replace("\u2212", "-").str.replace("\u00a0", "")
        if self.layout.decimal == ",":
            series = series.str.replace(".", "", regex=False).str.replace(",", ".", regex=False)
        numbers = np.array(pd.to_numeric(series, errors="coerce"), dtype=float)
        numbers[~np.isfinite(numbers)] = np.nan
        told = np.array(series != "")
        wrong = told & np.isnan(numbers) & keep
        for n in np.flatnonzero(wrong).tolist():
            self._wrong(int(lines[n]), f"{column.head}: {cells[n][:40]!r} is no number")
        keep &= ~wrong
        numbers *= FACTORS[column.quantity][column.unit] * (-1.0 if column.flipped else 1.0)
        if column.unit == "°F":
            numbers = (numbers - 32) / 1.8
        elif column.unit == "K":
            numbers = numbers - 273.15
        return numbers

    def _in_range(
        self, values: Column, low: float, high: float, lines: np.ndarray, keep: np.ndarray
    ) -> Column:
        wild = np.isfinite(values) & ((values < low) | (values > high)) & keep
        for n in np.flatnonzero(wild):
            text = f"{values[n]:g} is not between {low:g} and {high:g}: another unit?"
            self._wrong(int(lines[n]), text)
        keep &= ~wild
        return values

    def _by_power(
        self,
        cells: Sequence[Sequence[str]],
        lines: np.ndarray,
        columns: dict[str, Column],
        keep: np.ndarray,
    ) -> None:
        """Amps from power and volts, where amps were not recorded."""
        at = self.layout.at("power")
        if at is None or "amps_a" in columns or "volts_v" not in columns:
            return
        power_w = self._values(cells[at], self.layout.columns[at], lines, keep)
        with np.errstate(divide="ignore", invalid="ignore"):
            columns["amps_a"] = np.where(
                columns["volts_v"] > 1, power_w / columns["volts_v"], np.nan
            )

    def _set_back(self, at_s: Column, lines: np.ndarray) -> None:
        """Notes where the clock of the device was set back."""
        if not len(at_s):
            return
        before = np.concatenate(([self._last_s], at_s[:-1]))
        for n in np.flatnonzero(before - at_s > BACK_S):
            if len(self.notes) < MOST_NAMED:
                minutes = (before[n] - at_s[n]) / 60
                self.notes.append(f"line {int(lines[n])}: the clock goes back {minutes:.0f} min")
        self._last_s = float(at_s[-1])


def _seconds(series: pd.Series) -> Column:
    """Seconds since 1970 of times, no number where there is none."""
    aware = series if series.dt.tz is not None else series.dt.tz_localize("UTC")
    gone = np.array(aware.isna())
    seconds = np.array(aware.astype("datetime64[ns, UTC]").astype("int64"), dtype=float) / 1e9
    seconds[gone] = np.nan
    return seconds


def in_order(pieces: Sequence[Piece]) -> tuple[Trace, int]:
    """One trace of all pieces, its times rising; and how many rows stood twice."""
    names = sorted({name for piece in pieces for name in piece.columns})
    at_s = np.concatenate([p.at_s for p in pieces]) if pieces else np.zeros(0)
    columns = {
        name: np.concatenate([p.columns.get(name, np.full(len(p.at_s), np.nan)) for p in pieces])
        for name in names
    }
    order = np.argsort(at_s, kind="stable")
    at_s = at_s[order]
    first = np.concatenate(([True], np.diff(at_s) > 0)) if len(at_s) else np.zeros(0, bool)
    rows = order[first]
    return Trace(at_s[first], {n: c[rows] for n, c in columns.items()}), int((~first).sum())


def dump_records(trace: Trace) -> str:
    """Records in the own format: one row a moment, times in UTC, a unit in every heading.

    Args:
        trace: of a bank.

    Returns:
        CSV that is read again without asking.
    """
    names = [name for name in QUANTITIES if trace.has(name)]
    heads = {name: f"{name.rpartition('_')[0] or name} [{QUANTITIES[name]}]" for name in names}
    heads = {n: h.replace("[-]", "[0–1]") for n, h in heads.items()}
    rows = (
        {"time": datetime.fromtimestamp(at, UTC).isoformat().replace("+00:00", "Z")}
        | {
            heads[name]: value
            for name in names
            if np.isfinite(value := round(float(trace.columns[name][n]), 6))
        }
        for n, at in enumerate(trace.at_s.tolist())
    )
    return write_sheet(("time", *heads.values()), rows)
