"""Choices of the survey, of cables and of plans in words; which there are stands with fields."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any

from pydantic import BaseModel

from strom_engine.design import Cable, Design
from strom_engine.design.fields import Frozen
from strom_engine.design.figures import Choice
from strom_engine.survey.audit_items import AuditItem
from strom_engine.survey.survey_document import Boat, Sizing, Sun, WayOfUse

__all__ = ["ChoiceSheet", "choice_sheets"]

Words = Mapping[Any, str]  # Any: keyed by the values of the field
HULLS: Words = {
    "keel": "Keel yacht",
    "multihull": "Multihull",
    "planing": "Planing",
    "open": "Open",
    "other": "Other",
}
WAYS: Words = {
    "day_trips": "Day trips",
    "weekends": "Weekends",
    "weeks_at_anchor": "Weeks at anchor",
    "liveaboard": "Living aboard",
}
LAWS: Words = {
    "power": "Constant power (electronics)",
    "current": "Constant current (LED)",
    "resistance": "Resistance (lamp, motor)",
}
# Name of the list, the model and field that say what there is, words, and a unit of plain numbers.
SHEETS: tuple[tuple[str, type[BaseModel], str, Words, str], ...] = (
    ("hull", Boat, "hull", HULLS, ""),
    ("fuel", Boat, "fuel", {"diesel": "Diesel", "petrol": "Petrol"}, ""),
    ("way", WayOfUse, "way", WAYS, ""),
    ("mounting", Sun, "mounting", {"flat": "Flat", "tended": "Tilted, tended by hand"}, ""),
    ("sky", Sun, "sky", {"blue": "blue", "average": "average", "dull": "dull"}, ""),
    ("law", AuditItem, "law", LAWS, ""),
    ("drop", AuditItem, "drop", {"must_not_sag": "3 %: it must not sag", "other": "10 %"}, ""),
    ("sizing_volts", Sizing, "volts", {"computed": "computed", "own": "volts of my own"}, "V"),
    ("system_v", Design, "system_v", {}, "V"),
    ("insulation_c", Cable, "insulation_c", {}, "°C"),
    ("colour", Cable, "colour", {}, ""),
    ("lug", Cable, "start_lug", {}, ""),
)


class ChoiceSheet(Frozen):
    """One list of choices, in the order of the field."""

    name: str
    choices: tuple[Choice, ...]


def choice_sheets() -> tuple[ChoiceSheet, ...]:
    """Every list of choices outside the parts.

    >>> [choice.title for choice in choice_sheets()[1].choices]
    ['Diesel', 'Petrol']
    """
    return tuple(
        ChoiceSheet(
            name=name,
            choices=tuple(
                Choice(value=value, title=words.get(value, f"{value} {unit}".rstrip()))
                for value in _values(model, field)
            ),
        )
        for name, model, field, words, unit in SHEETS
    )


def _values(model: type[BaseModel], field: str) -> list[Any]:  # Any: whatever the field holds
    schema = model.model_json_schema()["properties"][field]
    some = [one for one in schema.get("anyOf", [schema]) if "enum" in one]
    return list(some[0]["enum"])
