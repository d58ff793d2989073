"""The parts list as a table: out for a supplier, and prices and receipts in again."""

from __future__ import annotations

from collections.abc import Iterable, Mapping
from dataclasses import dataclass

from strom_engine.build import PartsLine, PartsList
from strom_engine.design.validation import suggest
from strom_engine.errors import Problem
from strom_engine.interchange.sheet import number, read_sheet, write_sheet

__all__ = ["PARTS_COLUMNS", "PartsRow", "ReadParts", "dump_parts", "parts_rows", "read_parts"]

MOST_LINES = 2000
MOST_MONEY = 1e6
MOST_PIECES = 1e5
# Heading of each column, and the field of a line that it shows.
PARTS_COLUMNS = {
    "Group": "group",
    "What": "what",
    "Unit": "unit",
    "Needed": "needed",
    "In stock": "kept",
    "To buy": "to_buy",
    "Price each": "price",
    "Cost": "cost",
    "For": "purpose",
    "Read off the label": "check",
    "If not to be had": "instead",
    "Supplier's note": "note",
    "Received": "received",
    "Item": "item",
}
WORDS = {head.lower().replace(" ", "_"): field for head, field in PARTS_COLUMNS.items()} | {
    "price": "price",
    "kept": "kept",
    "note": "note",
    "instead": "instead",
}
NUMBERS = {"price": MOST_MONEY, "kept": MOST_PIECES, "received": MOST_PIECES}
TEXTS = ("instead", "note")
MOST_LETTERS = 400


@dataclass(frozen=True)
class PartsRow:
    """What a row of a table says about a line; None where it says nothing.

    ``key`` and ``item`` are those of the line; ``price`` each, ``kept`` in stock and ``received``
    in the line's unit.
    """

    key: str
    item: str
    what: str
    price: float | None = None
    kept: float | None = None
    received: float | None = None
    instead: str | None = None
    note: str | None = None


@dataclass(frozen=True)
class ReadParts:
    """Rows that could be read, and what is wrong with the others."""

    rows: tuple[PartsRow, ...]
    problems: tuple[Problem, ...]
    notes: tuple[str, ...]
    read: int


def parts_rows(parts: PartsList, received: Mapping[str, float]) -> Iterable[dict[str, object]]:
    """Each line of a parts list by heading.

    Args:
        parts: the list.
        received: how many have come, by the key of a line.
    """
    for line in parts.lines:
        cells = vars(line) | {"unit": line.unit or "pcs", "received": received.get(line.key)}
        yield {head: cells[field] for head, field in PARTS_COLUMNS.items()}


def dump_parts(parts: PartsList, received: Mapping[str, float]) -> str:
    """A parts list as CSV.

    Args:
        parts: the list.
        received: how many have come, by the key of a line.
    """
    return write_sheet(tuple(PARTS_COLUMNS), parts_rows(parts, received))


def read_parts(text: str | bytes, parts: PartsList) -> ReadParts:
    """Prices, stock, notes and receipts from a table; a line is known by its item or its words.

    Other columns are passed over, and so are cells that say what the line says already. Raises
    TableError for what leaves nothing to read.

    Args:
        text: CSV or pasted cells.
        parts: the list whose lines are known.
    """
    sheet = read_sheet(text, WORDS, (("item", "what"),), MOST_LINES)
    by_item = {line.item: line for line in parts.lines}
    by_words = {line.what: line for line in parts.lines}
    rows: dict[str, PartsRow] = {}
    problems = list(sheet.problems)
    for n, cells in sheet.rows:
        item, what = cells.get("item", ""), cells.get("what", "")
        line = by_item.get(item) or by_words.get(what)
        if line is None and not any(v for name, v in cells.items() if name != "what"):
            continue  # words alone, such as the sum below the list: they say nothing of a line
        if line is None:
            column, given = ("item", item) if item else ("what", what)
            known = by_item if item else by_words
            text_ = f"no line of this list is {given!r}{suggest(given, known)}"
            problems.append(Problem(f"row {n}, column {column}", text_))
            continue
        if line.key in rows:
            problems.append(Problem(f"row {n}, column item", f"{line.what!r} stands twice"))
        row, found = _row(line, cells, n)
        problems += found
        if not found and any(v is not None for v in list(vars(row).values())[3:]):
            rows[line.key] = row
    return ReadParts(tuple(rows.values()), tuple(problems), sheet.notes, sheet.count)


def _row(line: PartsLine, cells: Mapping[str, str], n: int) -> tuple[PartsRow, list[Problem]]:
    numbers: dict[str, float] = {}
    words: dict[str, str] = {}
    problems = []
    for column, most in NUMBERS.items():
        if not cells.get(column):
            continue
        try:
            value = number(cells[column], 0.0, most)
        except ValueError as error:
            problems.append(Problem(f"row {n}, column {column}", str(error)))
            continue
        if value != getattr(line, column, None):
            numbers[column] = value
    for column in TEXTS:
        said = cells.get(column, "")
        if len(said) > MOST_LETTERS:
            over = f"is longer than {MOST_LETTERS} letters"
            problems.append(Problem(f"row {n}, column {column}", over))
        elif said and said != getattr(line, column):
            words[column] = said
    row = PartsRow(
        key=line.key,
        item=line.item,
        what=line.what,
        price=numbers.get("price"),
        kept=numbers.get("kept"),
        received=numbers.get("received"),
        instead=words.get("instead"),
        note=words.get("note"),
    )
    return row, problems
