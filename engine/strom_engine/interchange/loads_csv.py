"""Loads and counted days as CSV: an open format, the same out as in. See docs/formats.md."""

from __future__ import annotations

import re
import unicodedata
from dataclasses import dataclass
from typing import Any, get_args

from pydantic import ValidationError

from strom_engine.design.validation import problems_from_pydantic, suggest
from strom_engine.errors import Problem
from strom_engine.interchange.sheet import number, read_sheet, write_sheet, yes_no
from strom_engine.survey import AuditItem, CountedDay, Season, Survey

__all__ = ["ReadRows", "dump_counted", "dump_loads", "read_counted", "read_loads"]

WORDS = {
    "name": "name", "load": "name", "item": "name", "group": "group", "draw": "draw",
    "amps": "draw", "unit": "unit", "current": "current", "ac_dc": "current", "law": "law",
    "duty": "duty", "window": "window", "when": "window", "standing": "standing",
    "always_on": "always_on", "min_v": "min_v", "start_a": "start_a",
    "thermal_cutout": "thermal_cutout", "fuse_a": "fuse_a", "drop": "drop", "feed": "feed",
    "basis": "basis", "id": "id",
}  # fmt: skip
COUNTED_WORDS = {
    "date": "date", "day": "date", "used_ah": "used_ah", "ah": "used_ah", "profile": "profile",
    "season": "season", "note": "note",
}  # fmt: skip
SEASONS: tuple[Season, ...] = get_args(Season)
FIXED = tuple(dict.fromkeys(WORDS.values()))
FLAGS = ("standing", "always_on", "thermal_cutout")
NUMBERS = ("draw", "min_v", "start_a", "fuse_a", "duty", "factor")
GROUPED = {"hours": "uses", "factor": "seasons"}
Row = dict[str, Any]  # Any: JSON data of one row


@dataclass(frozen=True)
class ReadRows:
    """What could be read: good rows, and what is wrong with the others, by row and column."""

    rows: tuple[Row, ...]
    problems: tuple[Problem, ...]
    notes: tuple[str, ...]
    read: int


def read_loads(text: str | bytes, survey: Survey) -> ReadRows:
    """Loads from CSV or from cells pasted out of a spreadsheet; a load is known by its name.

    Besides the fixed columns there is one for each profile, ``hours at_anchor``, and one for
    each season that differs, ``factor winter``. A load that is known keeps what the table has
    no column for. Raises TableError for what leaves nothing to read.

    Args:
        text: CSV or pasted cells.
        survey: whose loads and profiles are known.

    Returns:
        Rows that can be taken, and what is wrong line by line.
    """
    profiles = {p.id: p for p in survey.profiles}
    words = dict(WORDS)
    for p in profiles.values():
        for word in (p.id, p.name.lower().replace(" ", "_")):
            words |= {f"hours_{word}": f"hours {p.id}", word: f"hours {p.id}"}
    words |= {f"factor_{s}": f"factor {s}" for s in SEASONS}
    sheet = read_sheet(text, words, (("name", "id"),))
    ids = {item.name.lower(): item.id for item in survey.items}
    taken = set(ids.values())
    rows: list[Row] = []
    problems = list(sheet.problems)
    for n, cells in sheet.rows:
        key = cells.get("name", "").lower()
        row_id = cells.get("id") or ids.get(key) or (_free_id(key, taken) if key else "row")
        ids.setdefault(key, row_id)
        known = survey.items_by_id.get(row_id)
        raw, found = _load_row(cells, n, known.model_dump(mode="json") if known else {})
        raw["id"] = row_id
        if any(r["id"] == row_id for r in rows):
            found.append(Problem(f"row {n}, column name", f"{raw.get('name')!r} stands twice"))
        found = found or _checked(raw, n, AuditItem)
        problems += found
        if not found:
            rows.append(AuditItem.model_validate(raw).model_dump(mode="json"))
    return ReadRows(tuple(rows), tuple(problems), sheet.notes, sheet.count)


def _load_row(cells: dict[str, str], n: int, known: Row) -> tuple[Row, list[Problem]]:
    """A load as its cells say; what has no column stays as known, an empty cell empties it."""
    raw: Row = {"uses": {}, "seasons": {}} | known
    problems: list[Problem] = []
    for column, value in cells.items():
        kind, _, which = column.partition(" ")
        target = raw[GROUPED[kind]] if kind in GROUPED else raw
        target.pop(which or column, None)
        if not value:
            continue
        try:
            target[which or column] = _cell(kind, value)
        except ValueError as error:
            problems.append(Problem(f"row {n}, column {column}", str(error)))
    if not raw.get("name") and not any("column name" in p.path for p in problems):
        problems.append(Problem(f"row {n}, column name", "is missing"))
    return raw, problems


def _cell(column: str, value: str) -> object:
    """The value of a cell; raises ValueError that says what is wrong with it."""
    if column == "hours":
        return _hours(value)
    if column in NUMBERS:
        return number(value)
    return yes_no(value) if column in FLAGS else _word(column, value)


def _word(column: str, value: str) -> str:
    if column in ("name", "group"):
        return value
    if column == "unit":
        return value.upper()
    return value.lower().replace(" ", "_")


def _hours(text: str) -> dict[str, float]:
    """``4`` or ``3.5 h`` are hours; ``6 x 10`` is six times ten minutes."""
    times, sign, minutes = re.sub(r"[×*]", "x", text.lower().removesuffix("min")).partition("x")
    if sign:
        return {"times": number(times.strip()), "minutes": number(minutes.strip())}
    return {"hours": number(text.lower().removesuffix("h").strip())}


def _checked(raw: Row, n: int, model: type[AuditItem] | type[CountedDay]) -> list[Problem]:
    try:
        model.model_validate(raw)
    except ValidationError as error:
        return [
            Problem(f"row {n}, column {_column(p.path)}", p.message)
            for p in problems_from_pydantic(error)
        ]
    return []


def _column(path: str) -> str:
    """The column that a value stands in: ``uses.at_anchor.hours`` came from ``hours at_anchor``."""
    group, _, rest = path.partition(".")
    heads = {field: column for column, field in GROUPED.items()}
    return f"{heads[group]} {rest.partition('.')[0]}" if group in heads else path or "name"


def _free_id(name: str, taken: set[str]) -> str:
    plain = unicodedata.normalize("NFKD", name).encode("ascii", "ignore").decode().lower()
    base = re.sub(r"[^a-z0-9]+", "_", plain).strip("_")[:32] or "load"
    base = base if base[0].isalpha() else f"load_{base}"
    found, n = base, 2
    while found in taken:
        found, n = f"{base}_{n}", n + 1
    taken.add(found)
    return found


def dump_loads(survey: Survey) -> str:
    """Every load as CSV; read again, it gives the same loads.

    Args:
        survey: with loads.

    Returns:
        CSV with a unit in every heading.
    """
    columns = [*FIXED, *(f"hours {p.id}" for p in survey.profiles)]
    columns += [f"factor {s}" for s in SEASONS]
    rows = []
    for item in survey.items:
        row: dict[str, object] = {name: getattr(item, name) for name in FIXED}
        for flag in FLAGS:
            row[flag] = None if row[flag] is None else "yes" if row[flag] else "no"
        for profile, hours in item.uses.items():
            counted = f"{hours.times!r} x {hours.minutes!r}"
            row[f"hours {profile}"] = counted if hours.hours is None else hours.hours
        row |= {f"factor {season}": factor for season, factor in item.seasons.items()}
        rows.append(row)
    return write_sheet(columns, rows)


def read_counted(text: str | bytes, survey: Survey) -> ReadRows:
    """Counted days from CSV: date, used_ah, profile, season, note.

    Args:
        text: CSV or pasted cells.
        survey: whose profiles and days are known.

    Returns:
        Rows that can be taken, and what is wrong line by line.

    Raises:
        TableError: nothing can be read.
    """
    sheet = read_sheet(text, COUNTED_WORDS, (("date",), ("used_ah",)))
    names = {p.name.lower().replace(" ", "_"): p.id for p in survey.profiles}
    names |= {p.id: p.id for p in survey.profiles}
    taken = {day.id for day in survey.counted}
    rows: list[Row] = []
    problems = list(sheet.problems)
    for n, cells in sheet.rows:
        found: list[Problem] = []
        raw: Row = {k: v for k, v in cells.items() if v and k in ("date", "season", "note")}
        word = cells.get("profile", "").lower().replace(" ", "_")
        raw["profile"] = names.get(word, survey.profiles[0].id if survey.profiles else "none")
        if word and word not in names:
            text_ = f"there is no profile {word!r}{suggest(word, names)}"
            found.append(Problem(f"row {n}, column profile", text_))
        try:
            # A monitor counts discharge negative.
            raw["used_ah"] = abs(number(cells.get("used_ah", ""), -1e6))
        except ValueError as error:
            found.append(Problem(f"row {n}, column used_ah", str(error)))
        raw["season"] = str(raw.get("season", survey.use.season)).lower()
        raw["id"] = _free_id(f"day {raw.get('date', '')} {raw['profile']}", taken)
        found = found or _checked(raw, n, CountedDay)
        problems += found
        if not found:
            rows.append(CountedDay.model_validate(raw).model_dump(mode="json"))
    return ReadRows(tuple(rows), tuple(problems), sheet.notes, sheet.count)


def dump_counted(survey: Survey) -> str:
    """Every counted day as CSV.

    Args:
        survey: with counted days.

    Returns:
        Rows ``date, used_ah [Ah], profile, season, note``.
    """
    columns = ["date", "used_ah", "profile", "season", "note"]
    rows = ({c: getattr(day, c) for c in columns} for day in survey.counted)
    return write_sheet(columns, rows)
