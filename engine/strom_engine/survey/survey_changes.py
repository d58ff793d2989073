"""Named changes of a survey: typed, checked as a whole, told in words."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Annotated, Any, Literal

from pydantic import Field, TypeAdapter, ValidationError

from strom_engine.design.fields import FieldValue, Frozen, Identifier
from strom_engine.design.validation import problems_from_pydantic, suggest
from strom_engine.errors import ChangeError, Problem, SurveyError
from strom_engine.survey.audit_items import Measurement
from strom_engine.survey.survey_document import Survey
from strom_engine.survey.survey_validation import parse_survey

__all__ = [
    "SURVEY_CHANGE_TYPES",
    "PutRows",
    "RecordMeasurement",
    "RemoveRows",
    "SetSection",
    "SurveyChange",
    "apply_survey_change",
    "survey_change_from",
    "survey_change_words",
    "survey_touched",
]

Section = Literal["boat", "use", "sun", "sizing", "practice", "inverter", "ac_checks"]
RowList = Literal[
    "places", "runs", "resting", "profiles", "items", "measurements", "counted", "generators"
]
SECTION_WORDS = {
    "boat": "Boat",
    "use": "Way of use",
    "sun": "Sun",
    "sizing": "Sizing",
    "practice": "Practice",
    "inverter": "Inverter",
    "ac_checks": "AC and bonding",
}
ROW_WORDS = {
    "places": ("place", "places"),
    "runs": ("run", "runs"),
    "resting": ("resting voltage", "resting voltages"),
    "profiles": ("profile", "profiles"),
    "items": ("load", "loads"),
    "measurements": ("measurement", "measurements"),
    "counted": ("counted day", "counted days"),
    "generators": ("generator", "generators"),
}
MAX_ROWS = 500
Row = Mapping[str, FieldValue]  # checked as part of the whole survey


class SetSection(Frozen):
    """Set some fields of one section; fields not named stay. ``fields`` None takes it out."""

    type: Literal["set_section"] = "set_section"
    section: Section
    fields: Mapping[str, FieldValue] | None  # checked as part of the whole survey


class PutRows(Frozen):
    """Add rows to a list, or replace those of the same id where they stand."""

    type: Literal["put_rows"] = "put_rows"
    list: RowList
    rows: Annotated[tuple[Row, ...], Field(min_length=1, max_length=MAX_ROWS)]


class RemoveRows(Frozen):
    """Take rows out of a list."""

    type: Literal["remove_rows"] = "remove_rows"
    list: RowList
    ids: Annotated[tuple[Identifier, ...], Field(min_length=1, max_length=MAX_ROWS)]


class RecordMeasurement(Frozen):
    """Keep a measurement, and let the item draw what it shows."""

    type: Literal["record_measurement"] = "record_measurement"
    measurement: Measurement


SurveyChange = Annotated[
    SetSection | PutRows | RemoveRows | RecordMeasurement, Field(discriminator="type")
]
_CHANGE: TypeAdapter[Any] = TypeAdapter(SurveyChange)  # Any: a union pydantic resolves by type


SURVEY_CHANGE_TYPES = tuple(_CHANGE.json_schema()["discriminator"]["mapping"])


def survey_change_from(raw: object) -> SurveyChange:
    """Read a change from JSON data; raises ChangeError with every problem.

    Args:
        raw: what JSON gave.

    Returns:
        A named change; whether it fits a survey is not yet asked.
    """
    try:
        change: SurveyChange = _CHANGE.validate_python(raw)
    except ValidationError as error:
        raise ChangeError("not a change", tuple(problems_from_pydantic(error))) from None
    return change


def survey_touched(change: SurveyChange) -> frozenset[str]:
    """Fields and rows a change is about; two changes that share none do not clash.

    Args:
        change: a named change.

    Returns:
        Fields, and rows as ``field.id``.
    """
    match change:
        case SetSection(fields=None):
            return frozenset({change.section})
        case SetSection():
            return frozenset(f"{change.section}.{name}" for name in change.fields or {})
        case PutRows():
            return frozenset(f"{change.list} {row.get('id')}" for row in change.rows)
        case RemoveRows():
            return frozenset(f"{change.list} {row_id}" for row_id in change.ids)
        case RecordMeasurement():
            return frozenset({f"items {change.measurement.item}"})


def survey_change_words(survey: Survey, change: SurveyChange) -> str:
    """A change in words, for the history; ``survey`` is the one it is applied to.

    Args:
        survey: the one it is applied to.
        change: a named change.

    Returns:
        One sentence without a full stop.
    """
    match change:
        case SetSection(fields=None):
            return f"{SECTION_WORDS[change.section]}: taken out"
        case SetSection():
            told = ", ".join(
                f"{name.replace('_', ' ')} {_short(value)}"
                for name, value in (change.fields or {}).items()
            )
            return f"{SECTION_WORDS[change.section]}: {told}"
        case PutRows():
            return _rows_words(survey, change)
        case RemoveRows():
            names = [_row_name(survey, change.list, row_id) for row_id in change.ids]
            return f"Took out {_counted(change.list, names)}"
        case RecordMeasurement():
            made = change.measurement
            name = _row_name(survey, "items", made.item)
            return f"Measured {name}: {made.draw:.3g} {made.unit} ({made.method}, {made.by})"


def apply_survey_change(survey: Survey, change: SurveyChange) -> Survey:
    """The survey after a change, checked as a whole; the one given stays as it is.

    Raises ChangeError naming what the change refers to that is not there, or what would
    be wrong with the survey after it, row by row and field by field.

    Args:
        survey: stays as it is.
        change: a named change.
    """
    raw = survey.model_dump(mode="json")
    match change:
        case SetSection(fields=None):
            raw[change.section] = None if change.section == "inverter" else {}
        case SetSection():
            raw[change.section] = {**(raw[change.section] or {}), **(change.fields or {})}
        case PutRows():
            _put(raw[change.list], change.rows)
        case RemoveRows():
            _remove(raw, change)
        case RecordMeasurement():
            _measure(raw, survey, change.measurement)
    try:
        return parse_survey(raw)
    except SurveyError as error:
        named = tuple(_named(p, raw) for p in error.problems)
        raise ChangeError(f"the change does not fit: {named[0]}", named) from None


Rows = list[dict[str, Any]]  # Any: JSON data, checked as a whole before it is kept


def _put(rows: Rows, new: tuple[Row, ...]) -> None:
    at = {row["id"]: i for i, row in enumerate(rows)}
    for row in new:
        if row.get("id") in at:
            rows[at[row["id"]]] = {**rows[at[row["id"]]], **row}
        else:
            rows.append(dict(row))


def _remove(raw: dict[str, Any], change: RemoveRows) -> None:
    known = [row["id"] for row in raw[change.list]]
    gone = [row_id for row_id in change.ids if row_id not in known]
    if gone:
        what = ROW_WORDS[change.list][0]
        problems = tuple(
            Problem("ids", f"there is no {what} {row_id!r}{suggest(row_id, known)}")
            for row_id in gone
        )
        raise ChangeError(problems[0].message, problems)
    raw[change.list] = [row for row in raw[change.list] if row["id"] not in change.ids]
    if change.list == "items":
        raw["measurements"] = [m for m in raw["measurements"] if m["item"] not in change.ids]
    if change.list == "profiles":
        for row in (*raw["items"], *raw["generators"]):
            for key in ("uses", "hours"):
                for profile in change.ids:
                    row.get(key, {}).pop(profile, None)
    if change.list == "places":
        ends = [(run["start"], run["end"]) for run in raw["runs"]]
        raw["runs"] = [
            run
            for run, pair in zip(raw["runs"], ends, strict=True)
            if not set(pair) & {*change.ids}
        ]


def _measure(raw: dict[str, Any], survey: Survey, made: Measurement) -> None:
    if made.item not in survey.items_by_id:
        text = f"there is no load {made.item!r}{suggest(made.item, survey.items_by_id)}"
        raise ChangeError(text, (Problem("measurement.item", text),))
    raw["measurements"].append(made.model_dump(mode="json"))
    for row in raw["items"]:
        if row["id"] == made.item:
            row |= {"draw": made.draw, "unit": made.unit, "basis": made.method}


def _named(problem: Problem, raw: dict[str, Any]) -> Problem:
    """A problem with the name of its row beside the path."""
    head, _, rest = problem.path.partition("[")
    number = rest.partition("]")[0]
    rows = raw.get(head)
    if number.isdigit() and isinstance(rows, list) and int(number) < len(rows):
        name = rows[int(number)].get("name") or rows[int(number)].get("id")
        return Problem(problem.path, f"{name}: {problem.message}")
    return problem


def _rows_words(survey: Survey, change: PutRows) -> str:
    known = {row.id: row for row in getattr(survey, change.list)}
    if len(change.rows) == 1 and change.rows[0].get("id") in known:
        row = change.rows[0]
        was = known[str(row["id"])].model_dump(mode="json")
        told = [
            f"{key.replace('_', ' ')} {_short(was.get(key))} to {_short(value)}"
            for key, value in row.items()
            if key != "id" and was.get(key) != value
        ]
        return f"{_row_name(survey, change.list, str(row['id']))}: {', '.join(told) or 'as it was'}"
    new = [str(r.get("name") or r.get("id")) for r in change.rows if r.get("id") not in known]
    old = len(change.rows) - len(new)
    words = [f"added {_counted(change.list, new)}"] if new else []
    words += [f"changed {old} {ROW_WORDS[change.list][old > 1]}"] if old else []
    text = ", ".join(words)
    return text[0].upper() + text[1:]


def _counted(which: str, names: list[str]) -> str:
    one, many = ROW_WORDS[which]
    return f"the {one} {names[0]}" if len(names) == 1 else f"{len(names)} {many}"


def _row_name(survey: Survey, which: str, row_id: str) -> str:
    row = next((r for r in getattr(survey, which) if r.id == row_id), None)
    return str(getattr(row, "name", row_id))


def _short(value: object) -> str:
    """A value in few words."""
    if value is None:
        return "unknown"
    if isinstance(value, bool):
        return "yes" if value else "no"
    if isinstance(value, dict):
        return "; ".join(f"{k.replace('_', ' ')} {_short(v)}" for k, v in value.items()) or "none"
    if isinstance(value, list | tuple):
        return f"{len(value)} entries"
    text = f"{value:g}" if isinstance(value, float) else str(value)
    return text if len(text) <= 40 else f"{text[:39]}…"
