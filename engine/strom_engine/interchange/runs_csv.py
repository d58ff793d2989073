"""Cables as CSV: what can be typed goes in and out, what is computed only out."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass

from pydantic import ValidationError

from strom_engine.design import CABLE_FIELDS, Cable, CableFields, Design
from strom_engine.design.fields import FieldValue
from strom_engine.design.validation import problems_from_pydantic, suggest
from strom_engine.errors import Problem
from strom_engine.interchange.sheet import number, read_sheet, write_sheet, yes_no
from strom_engine.runs import RunRow

__all__ = ["ReadRuns", "dump_runs", "read_runs"]

MOST_CABLES = 600  # as many as a design holds
FLAGS = ("estimated", "sheathed", "locked")
NUMBERS = ("length_m", "insulation_c", "copper_mm2", "bundled", "current_a", "drop_percent")
COMPUTED: tuple[str, ...] = (
    "from",
    "to",
    "purpose",
    "design_current_a",
    "allowed_a",
    "drop_v",
    "drop_percent_own",
)
COMPUTED += ("path", "path_percent", "limit_percent", "volts_at_load_v", "device", "device_a")
COMPUTED += ("device_m", "fault_current_a", "copper_kg")
COLUMNS = ("cable", *CABLE_FIELDS, *COMPUTED)
WORDS = {name: name for name in COLUMNS} | {
    "id": "cable",
    "length": "length_m",
    "size": "gauge",
    "insulation": "insulation_c",
    "color": "colour",
}


@dataclass(frozen=True)
class ReadRuns:
    """What could be read: figures of good rows, and what is wrong with the others."""

    rows: tuple[CableFields, ...]
    problems: tuple[Problem, ...]
    notes: tuple[str, ...]
    read: int


def dump_runs(design: Design, rows: tuple[RunRow, ...]) -> str:
    """Every cable as a row: what can be typed, and beside it what was computed.

    Args:
        design: the boat, as surveyed.
        rows: of the runs report.

    Returns:
        CSV with a unit in every heading.
    """
    return write_sheet(COLUMNS, _lines(design, rows))


def _lines(design: Design, rows: tuple[RunRow, ...]) -> Iterable[dict[str, object]]:
    for run in rows:
        for leg in run.legs:
            cable = design.cables_by_id[leg.cable]
            line: dict[str, object] = {"cable": cable.id} | {
                name: _text(getattr(cable, name)) for name in CABLE_FIELDS
            }
            out_leg = leg.side == "out"
            line |= {
                "from": leg.start,
                "to": leg.end,
                "purpose": run.purpose,
                "design_current_a": round(run.current_a, 2),
                "allowed_a": round(leg.allowed_a, 1),
                "drop_v": round(leg.drop_v, 4),
                "drop_percent_own": round(100 * leg.drop_v / design.system_v, 2),
                "path": run.path or "",
                "path_percent": _rounded(run.path_percent, 2),
                "limit_percent": _rounded(run.limit_percent, 2),
                "volts_at_load_v": _rounded(run.load_v, 2),
                "device": run.device_name if out_leg else "",
                "device_a": _rounded(run.device_a if out_leg else None, 1),
                "device_m": _rounded(run.device_m if out_leg else None, 3),
                "fault_current_a": _rounded(run.fault_a if out_leg else None, 0),
                "copper_kg": round(leg.copper_kg, 3),
            }
            yield line


def _text(value: object) -> object:
    if isinstance(value, bool):
        return "yes" if value else "no"
    return "" if value is None else value


def _rounded(value: float | None, digits: int) -> object:
    return "" if value is None else round(value, digits)


def read_runs(text: str | bytes, design: Design) -> ReadRuns:
    """Figures of cables from CSV or pasted cells; a cable is known by its id or its label.

    Columns that are computed are passed over; an empty cell empties what may be empty. Raises
    TableError for what leaves nothing to read.

    Args:
        text: CSV or pasted cells.
        design: whose cables are known.

    Returns:
        Changes of cables, and what is wrong line by line.
    """
    sheet = read_sheet(text, WORDS, (("cable", "label"),), MOST_CABLES)
    labels = {c.label: c.id for c in design.cables if c.label}
    rows: dict[str, CableFields] = {}
    problems = list(sheet.problems)
    for n, cells in sheet.rows:
        name = cells.get("cable") or labels.get(cells.get("label", ""), "")
        cable = design.cables_by_id.get(name)
        if cable is None:
            given = cells.get("cable") or cells.get("label") or ""
            text_ = f"there is no cable {given!r}{suggest(given, design.cables_by_id)}"
            problems.append(Problem(f"row {n}, column cable", text_))
            continue
        fields, found = _fields(cable, cells, n)
        if name in rows:
            found.append(Problem(f"row {n}, column cable", f"{name!r} stands twice"))
        problems += found
        if not found and fields:
            rows[name] = CableFields(cable=name, fields=fields)
    return ReadRuns(tuple(rows.values()), tuple(problems), sheet.notes, sheet.count)


def _fields(
    cable: Cable, cells: dict[str, str], n: int
) -> tuple[dict[str, FieldValue], list[Problem]]:
    """Figures of a cable that a row changes."""
    fields: dict[str, FieldValue] = {}
    problems: list[Problem] = []
    for column, value in cells.items():
        if column not in CABLE_FIELDS or (not value and column in ("length_m", "gauge")):
            continue
        try:
            fields[column] = _cell(column, value)
        except ValueError as error:
            problems.append(Problem(f"row {n}, column {column}", str(error)))
    try:
        new = Cable.model_validate(cable.model_dump() | fields)
    except ValidationError as error:
        problems += [
            Problem(f"row {n}, column {p.path or 'cable'}", p.message)
            for p in problems_from_pydantic(error)
            if not any(f"column {p.path}" in q.path for q in problems)
        ]
        return {}, problems
    changed = {f: v for f, v in fields.items() if getattr(new, f) != getattr(cable, f)}
    return changed, problems


def _cell(column: str, value: str) -> FieldValue:
    if column in FLAGS:
        return yes_no(value)
    if column == "engine_space":
        return yes_no(value) if value else None
    if column in NUMBERS:
        if not value:
            usual: float | None = Cable.model_fields[column].default
            return usual
        figure = number(value)
        return int(figure) if figure.is_integer() else figure
    if column == "label":
        return value
    return value or None
