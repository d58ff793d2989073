"""How a file of records is laid out: its columns guessed by head, unit and range, then kept."""

from __future__ import annotations

import csv
import re
from collections.abc import Iterable, Sequence
from dataclasses import dataclass
from statistics import median
from typing import Annotated, Literal, get_args
from zoneinfo import ZoneInfo

from pydantic import Field, field_validator

from strom_engine.design.fields import Frozen
from strom_engine.errors import Problem, TableError

__all__ = [
    "FACTORS",
    "TIME_FORMATS",
    "GuessedLayout",
    "RecordColumn",
    "RecordLayout",
    "RecordQuantity",
    "TimeFormat",
    "guess_layout",
]

RecordQuantity = Literal[
    "time", "clock", "volts", "amps", "power", "charge", "counted", "temperature", "nothing"
]
# Units of each quantity, and what a value in it is multiplied by to become V, A, W, a share, Ah;
# degrees are told apart where they are read.
FACTORS: dict[RecordQuantity, dict[str, float]] = {
    "volts": {"V": 1.0, "mV": 1e-3},
    "amps": {"A": 1.0, "mA": 1e-3},
    "power": {"W": 1.0, "kW": 1e3},
    "charge": {"%": 0.01, "0–1": 1.0},
    "counted": {"Ah": 1.0, "mAh": 1e-3},
    "temperature": {"°C": 1.0, "°F": 1.0, "K": 1.0},
    "time": {"": 1.0},
    "clock": {"": 1.0},
    "nothing": {"": 1.0},
}
TimeFormat = Literal[
    "iso", "day.month.year", "day/month/year", "month/day/year", "year/month/day", "unix_s",
    "unix_ms",
]  # fmt: skip
# As strptime reads them, without the clock; None where it is no date in words.
TIME_FORMATS: dict[TimeFormat, str | None] = {
    "iso": None,
    "day.month.year": "%d.%m.%Y",
    "day/month/year": "%d/%m/%Y",
    "month/day/year": "%m/%d/%Y",
    "year/month/day": "%Y/%m/%d",
    "unix_s": None,
    "unix_ms": None,
}
WORDS: tuple[tuple[RecordQuantity, str], ...] = (
    ("clock", r"^(clock|time of day|uhrzeit)$"),
    ("time", r"time|date|datum|zeit|stamp|when"),
    ("charge", r"\bsoc\b|state of charge|charge state|^charge($| [\[(])|level|ladung"),
    ("counted", r"consumed|counted|amp.?hours|\bah\b|\[m?ah\]|\(m?ah\)"),
    ("power", r"power|watt|leistung|\[k?w\]|\(k?w\)"),
    ("temperature", r"temp|°|degc"),
    ("volts", r"volt|spannung|\bm?v\b|\[m?v\]|\(m?v\)|_v$"),
    ("amps", r"amp|current|strom|\bm?a\b|\[m?a\]|\(m?a\)|_a$"),
)
UNITS = (("mAh", "mah"), ("Ah", "ah"), ("mV", "mv"), ("V", "v"), ("mA", "ma"), ("A", "a"),
         ("kW", "kw"), ("W", "w"), ("%", "%"), ("°F", "°f|degf"), ("K", "k"),
         ("°C", "°c|degc|c"))  # fmt: skip
SEPARATORS = "\t;,|"
MOST_HEAD_ROWS = 40
SAMPLE = 400
MOST_COLUMNS = 200


class RecordColumn(Frozen):
    """A column: its head, what it holds, in which unit, and whether amps count out of the bank."""

    head: Annotated[str, Field(max_length=200)]
    quantity: RecordQuantity = "nothing"
    unit: Annotated[str, Field(max_length=8)] = ""
    flipped: bool = False

    @field_validator("unit")
    @classmethod
    def _known(cls, value: str) -> str:
        if not any(value in units for units in FACTORS.values()):
            raise ValueError(f"{value!r} is no unit that is read")
        return value


class RecordLayout(Frozen):
    """How the rows of a file are read.

    ``head_row`` counts from 1, 0 where there is none. ``zone``: of the times in the file, where
    they do not say so themselves.
    """

    separator: Annotated[str, Field(min_length=1, max_length=1)] = ","
    decimal: Literal[".", ","] = "."
    head_row: Annotated[int, Field(ge=0, le=1000)] = 1
    time_format: TimeFormat = "iso"
    zone: Annotated[str, Field(max_length=60)] = "UTC"
    columns: Annotated[tuple[RecordColumn, ...], Field(min_length=1, max_length=MOST_COLUMNS)]

    @field_validator("zone")
    @classmethod
    def _a_zone(cls, value: str) -> str:
        try:
            ZoneInfo(value)
        except (ValueError, OSError, KeyError):
            raise ValueError(f"{value!r} is no time zone, such as Europe/Stockholm") from None
        return value

    def at(self, quantity: RecordQuantity) -> int | None:
        """The first column of a quantity."""
        return next((n for n, c in enumerate(self.columns) if c.quantity == quantity), None)

    def problems(self) -> list[Problem]:
        """What keeps rows from being read."""
        found = []
        if self.at("time") is None:
            found.append(Problem("columns", "no column is the time"))
        if self.at("volts") is None and self.at("amps") is None:
            found.append(Problem("columns", "no column has volts or amps"))
        for n, column in enumerate(self.columns):
            if column.unit not in FACTORS[column.quantity]:
                units = ", ".join(u for u in FACTORS[column.quantity] if u) or "none"
                text = f"{column.unit!r} is no unit of {column.quantity}; known: {units}"
                found.append(Problem(f"columns[{n}].unit", text))
        return found


@dataclass(frozen=True)
class GuessedLayout:
    """A layout as guessed, with the first rows as they stand, and what was assumed."""

    layout: RecordLayout
    sample: tuple[tuple[str, ...], ...]
    assumed: tuple[str, ...]


def guess_layout(text: str) -> GuessedLayout:
    """How a file is laid out, guessed from its beginning.

    Args:
        text: the first lines, or all of them.

    Returns:
        A layout that can be mended by hand before rows are read.

    Raises:
        TableError: nothing in it is a table with times.
    """
    lines = re.split(r"\r\n|\r|\n", text)[:SAMPLE]
    if not any(line.strip() for line in lines):
        raise TableError([Problem("", "the file is empty")])
    separator = _separator([line for line in lines if line.strip()])
    rows = list(csv.reader((line.replace("\0", "") for line in lines), delimiter=separator))
    wide = max((len(row) for row in rows), default=0)
    if wide > MOST_COLUMNS:
        raise TableError([Problem("", f"{wide} columns; at most {MOST_COLUMNS} are read")])
    head_row = _head_row(rows)
    body = [row for row in rows[head_row:] if len(row) > 1]
    if not body:
        raise TableError([Problem("", "no rows with times and values were found in it")])
    heads = rows[head_row - 1] if head_row else [f"Column {n + 1}" for n in range(len(body[0]))]
    decimal = _decimal(body, separator)
    assumed: list[str] = []
    columns = [
        _column(head, [row[n] for row in body if n < len(row)], decimal, assumed)
        for n, head in enumerate(heads)
    ]
    columns = _once(columns)
    at = next((n for n, c in enumerate(columns) if c.quantity == "time"), None)
    if at is None:
        raise TableError([Problem("", "no column looks like a time")])
    time_format = _time_format([row[at] for row in body if at < len(row)], assumed)
    layout = RecordLayout(
        separator=separator,
        decimal=decimal,
        head_row=head_row,
        time_format=time_format,
        columns=tuple(columns),
    )
    sample = tuple(tuple(row) for row in body[:8])
    return GuessedLayout(layout, sample, tuple(assumed))


def _separator(lines: Sequence[str]) -> str:
    """The sign that parts most lines into the same number of cells."""

    def even(separator: str) -> tuple[float, int]:
        counts = [line.count(separator) for line in lines]
        usual = int(median(counts))
        return (sum(c == usual for c in counts) / len(counts) if usual else 0.0, usual)

    return max(SEPARATORS, key=even)


def _plain(cell: str, decimal: str) -> float | None:
    cell = cell.strip().replace("\u2212", "-").replace("\u00a0", "")
    if decimal == ",":
        cell = cell.replace(".", "").replace(",", ".")
    try:
        return float(cell)
    except ValueError:
        return None


def _head_row(rows: Sequence[Sequence[str]]) -> int:
    """The number of the row with the heads, from 1; 0 where the first row has values already."""
    for n, row in enumerate(rows[:MOST_HEAD_ROWS]):
        digits = sum(bool(re.search(r"\d", cell)) for cell in row)
        if len(row) > 1 and digits >= max(2, len([c for c in row if c.strip()]) / 2):
            return n
    return 0


def _decimal(body: Sequence[Sequence[str]], separator: str) -> Literal[".", ","]:
    cells = [cell.strip() for row in body for cell in row]
    commas = sum(bool(re.fullmatch(r"-?\d+,\d+", cell)) for cell in cells)
    points = sum(bool(re.fullmatch(r"-?\d+\.\d+", cell)) for cell in cells)
    return "," if commas > points and separator != "," else "."


def _column(head: str, cells: Sequence[str], decimal: str, assumed: list[str]) -> RecordColumn:
    """A column by the words of its head, else by the range of its values."""
    plain = re.sub(r"\s+", " ", head.strip().lower().replace("_", " ")) or "column"
    numbers = [v for cell in cells if (v := _plain(cell, decimal)) is not None]
    quantity: RecordQuantity = next((q for q, words in WORDS if re.search(words, plain)), "nothing")
    if quantity in ("nothing", "clock") and _looks_like_time(cells):
        quantity = "time"
    if quantity == "time" and cells and re.fullmatch(r"\d{1,2}:\d\d(:\d\d)?", cells[0].strip()):
        quantity = "clock"
    if quantity == "nothing" and len(numbers) > 0.8 * len(cells) and numbers:
        quantity = _by_range(numbers)
        if quantity != "nothing":
            assumed.append(f"{head or 'A column without a head'}: {quantity}, by its values")
    unit = _unit(plain, quantity, numbers)
    return RecordColumn(head=head.strip()[:200], quantity=quantity, unit=unit)


def _looks_like_time(cells: Sequence[str]) -> bool:
    some = [c for c in cells[:20] if c.strip()]
    dates = sum(bool(re.match(r"\d{1,4}[-./]\d{1,2}[-./]\d{1,4}", c.strip())) for c in some)
    unix = sum(bool(re.fullmatch(r"1\d{9}(\d{3})?(\.\d+)?", c.strip())) for c in some)
    return bool(some) and max(dates, unix) > 0.8 * len(some)


def _by_range(numbers: Sequence[float]) -> RecordQuantity:
    """Volts by what batteries have; nothing where the values could be anything."""
    low, high = min(numbers), max(numbers)
    for nominal in (12.0, 24.0, 48.0):
        if 0.8 * nominal <= low and high <= 1.35 * nominal and high > low:
            return "volts"
    return "amps" if low < 0 < high else "nothing"


def _unit(plain: str, quantity: RecordQuantity, numbers: Sequence[float]) -> str:
    """The unit by the head, else by how large the values are."""
    known = FACTORS[quantity]
    for unit, words in UNITS:
        if unit in known and re.search(rf"(^|[\s\[(_/])({words})($|[\s\])])", plain):
            return unit
    size = median(abs(v) for v in numbers) if numbers else 0.0
    large = {"volts": (1000.0, "mV"), "amps": (2000.0, "mA"), "counted": (5000.0, "mAh")}
    if quantity in large and size > large[quantity][0]:
        return large[quantity][1]
    if quantity == "charge" and numbers and max(numbers) <= 1.0:
        return "0–1"
    return next(iter(known))


def _once(columns: Iterable[RecordColumn]) -> list[RecordColumn]:
    """The first column of each quantity; further ones count for nothing until somebody says so."""
    seen: set[str] = set()
    found = []
    for column in columns:
        if column.quantity in seen and column.quantity != "nothing":
            column = column.model_copy(update={"quantity": "nothing", "unit": ""})
        seen.add(column.quantity)
        found.append(column)
    return found


def _time_format(cells: Sequence[str], assumed: list[str]) -> TimeFormat:
    some = [c.strip() for c in cells if c.strip()]
    first = some[0] if some else ""
    if re.fullmatch(r"\d{12,14}(\.\d+)?", first):
        return "unix_ms"
    if re.fullmatch(r"\d{9,11}(\.\d+)?", first):
        return "unix_s"
    if re.match(r"\d{4}/", first):
        return "year/month/day"
    if re.match(r"\d{1,2}\.", first):
        return "day.month.year"
    if re.match(r"\d{1,2}/", first):
        parts = [re.match(r"(\d{1,2})/(\d{1,2})/", c) for c in some]
        firsts = {int(p.group(1)) for p in parts if p}
        seconds = {int(p.group(2)) for p in parts if p}
        if max(firsts, default=0) > 12:
            return "day/month/year"
        if max(seconds, default=0) > 12 or len(seconds) > len(firsts):
            return "month/day/year"
        assumed.append("Day before month: nothing in the first rows tells which")
        return "day/month/year"
    return "iso"


assert set(get_args(RecordQuantity)) == set(FACTORS)
