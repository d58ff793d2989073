"""Rows out of pasted text or a CSV file: any usual encoding and separator, problems by cell."""

from __future__ import annotations

import csv
import io
import re
from collections.abc import Callable, Iterable, Mapping, Sequence
from dataclasses import dataclass

from strom_engine.design.validation import suggest
from strom_engine.errors import Problem, TableError

__all__ = ["Cell", "Sheet", "number", "read_sheet", "shielded", "write_sheet", "yes_no"]

MAX_ROWS = 500
SEPARATORS = "\t;,"
LIVE = ("=", "+", "-", "@", "\t")  # what a spreadsheet takes for the beginning of a formula


@dataclass(frozen=True)
class Sheet:
    """Rows by number and column name; ``notes`` tell how the text was read.

    A row with more cells than there are columns is among the ``problems`` instead: its cells
    cannot be told apart.
    """

    rows: tuple[tuple[int, dict[str, str]], ...]
    problems: tuple[Problem, ...]
    notes: tuple[str, ...]
    count: int


Cell = Callable[[str], object]


def read_sheet(
    text: str | bytes,
    columns: Mapping[str, str],
    required: tuple[tuple[str, ...], ...],
    most_rows: int = MAX_ROWS,
) -> Sheet:
    """Rows of a table with a head line; ``columns`` maps a name or its usual word to a column.

    ``required``: groups of columns, of each of which one must be there.

    Raises TableError for what leaves nothing to read: an empty file, no head line, a column
    that is missing or unknown, too many rows.
    """
    decoded, notes = _decode(text)
    lines = [line for line in re.split(r"\r\n|\r|\n", decoded) if line.strip()]
    if not lines:
        raise TableError([Problem("", "the file is empty")])
    separator = max(SEPARATORS, key=lines[0].count)
    if lines[0].count(separator) == 0:
        separator = ","
    try:
        read = list(csv.reader(io.StringIO("\n".join(lines)), delimiter=separator))
    except csv.Error as error:
        raise TableError([Problem("", f"this is no table that can be read: {error}")]) from None
    head = [columns.get(word.strip().lower().replace(" ", "_"), "") for word in read[0]]
    problems = [
        Problem(f"row 1, column {i + 1}", f"{word!r} is no column{suggest(word, columns)}")
        for i, (word, column) in enumerate(zip(read[0], head, strict=True))
        if not column and word.strip()
    ]
    problems += [
        Problem("row 1", f"the column {names[0]!r} is missing")
        for names in required
        if not set(names) & set(head)
    ]
    doubled = {name for name in head if name and head.count(name) > 1}
    problems += [Problem("row 1", f"the column {name!r} stands twice") for name in sorted(doubled)]
    if len(read) - 1 > most_rows:
        text_ = f"{len(read) - 1:,} rows; at most {most_rows} can be read at a time"
        problems.append(Problem("", text_))
    if problems:
        raise TableError(problems)
    rows, wide = [], []
    for n, row in enumerate(read[1:], start=2):
        if any(cell.strip() for cell in row[len(head) :]):
            words = f"has {len(row)} cells for {len(head)} columns; a comma for a decimal point?"
            wide.append(Problem(f"row {n}", words))
        else:
            cells = zip(head, row, strict=False)
            rows.append((n, {name: _plain(value) for name, value in cells if name}))
    return Sheet(tuple(rows), tuple(wide), tuple(notes), len(read) - 1)


def write_sheet(columns: Sequence[str], rows: Iterable[Mapping[str, object]]) -> str:
    """Rows as CSV, with a head line; read again, they say the same.

    Words that a spreadsheet would take for a formula get an apostrophe before them.
    """
    out = io.StringIO()
    writer = csv.DictWriter(out, columns, lineterminator="\n", restval="")
    writer.writeheader()
    for row in rows:
        writer.writerow({name: shielded(value) for name, value in row.items()})
    return out.getvalue()


def shielded(value: object) -> object:
    """A cell as it is written: words that look like a formula with an apostrophe before them."""
    if value is None:
        return ""
    live = isinstance(value, str) and value.lstrip("'")[:1] in LIVE
    return f"'{value}" if live and value else value


def _plain(cell: str) -> str:
    """A cell as it was before it was shielded."""
    cell = cell.strip()
    words = cell.lstrip("'")
    return cell[1:] if words and words != cell and words[0] in LIVE else cell


def _decode(text: str | bytes) -> tuple[str, list[str]]:
    if isinstance(text, str):
        return text.lstrip("\ufeff"), []
    if text.startswith((b"\xff\xfe", b"\xfe\xff")):
        return text.decode("utf-16", errors="replace"), ["read as UTF-16"]
    try:
        return text.decode("utf-8-sig"), []
    except UnicodeDecodeError:
        note = "not UTF-8: read as Windows-1252; look at letters with accents"
        return text.decode("cp1252", errors="replace"), [note]


def number(text: str, low: float = 0.0, high: float = 1e6) -> float:
    """A number with a decimal point; raises ValueError that says what is wrong with it."""
    cleaned = text.replace("\u2212", "-").replace("\u00a0", "")
    try:
        value = float(cleaned)
    except ValueError:
        if "," in text:
            point = text.replace(",", ".")
            raise ValueError(f"{text!r}: write a decimal point, {point}") from None
        raise ValueError(f"{text!r} is not a number") from None
    if not low <= value <= high:
        raise ValueError(f"{text} is not between {low:g} and {high:g}")
    return value


def yes_no(text: str) -> bool:
    """A yes or a no; raises ValueError for anything else."""
    word = text.lower()
    if word in ("yes", "y", "1", "true", "x"):
        return True
    if word in ("no", "n", "0", "false", ""):
        return False
    raise ValueError(f"{text!r}: write yes or no")
