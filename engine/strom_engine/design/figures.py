"""The figures that people are asked for of every kind of part: label, unit, range, choices.

Everything comes from the part itself: limits and units from its fields, words from what it asks.
"""

from __future__ import annotations

from typing import Any, Literal

from strom_engine.design.fields import Frozen
from strom_engine.design.parts import KINDS, Part
from strom_engine.design.parts.base import ASKED_OF_ALL
from strom_engine.design.parts.facts import Asked, Facts

__all__ = ["NOT_ASKED", "Choice", "Figure", "KindSheet", "kind_sheets"]

Sort = Literal["number", "numbers", "curve", "pick", "yes_no", "part", "marks"]
Group = Literal[
    "Banks", "Sources", "Switches and relays", "Fuses, breakers, bars, shunts", "Starter and feeds"
]
# Entered elsewhere than among the figures: what a part is and where, and its lists of loads.
NOT_ASKED = frozenset({"kind", "id", "name", "place", "assumed", "items"})


class Choice(Frozen):
    """A value that can be picked, and what it is called; ``value`` is as in the document."""

    value: str | int | bool
    title: str


class Column(Frozen):
    """One number of a point of a curve: its field, and the unit that it is typed in."""

    name: str
    unit: str


class Figure(Frozen):
    """A figure that is asked for.

    ``minimum`` and ``maximum`` are in ``unit``. Empty is *to find out* where ``nullable``, and
    says nothing where ``optional``; ``seldom`` ones have a usual value. ``refers_to`` is the kind
    of part that a ``part`` figure names. ``most`` is how many numbers
    or points there can be, ``columns`` what each point of a curve has.
    """

    name: str
    label: str
    sort: Sort
    unit: str = ""
    minimum: float | None = None
    maximum: float | None = None
    whole: bool = False
    choices: tuple[Choice, ...] = ()
    refers_to: str = ""
    nullable: bool = False
    optional: bool = False
    seldom: bool = False
    petrol_only: bool = False
    most: int | None = None
    columns: tuple[Column, ...] = ()


class Found(Frozen):
    """How a part found aboard is added: in words, under which name, and where it then lies."""

    words: str
    name: str
    note: str


class KindSheet(Frozen):
    """A kind of part: what it is called, and its figures in the order in which they are read."""

    kind: str
    word: str
    group: Group
    found: Found | None = None
    figures: tuple[Figure, ...]


def kind_sheets() -> tuple[KindSheet, ...]:
    """All kinds of parts with what is asked of each."""
    return tuple(
        KindSheet(
            kind=name,
            word=part.facts.word,
            group=_group(part.facts),
            found=_found(part.facts),
            figures=tuple(_figure(part, one) for one in (*part.asked, *ASKED_OF_ALL)),
        )
        for name, part in KINDS.items()
    )


def _group(facts: Facts) -> Group:
    match facts.counted:
        case "banks":
            return "Banks"
        case "sources":
            return "Sources"
        case "switches" | "things that share charge":
            return "Switches and relays"
        case _:
            return (
                "Fuses, breakers, bars, shunts" if facts.stands == "gear" else "Starter and feeds"
            )


def _found(facts: Facts) -> Found | None:
    one = facts.found
    return None if one is None else Found(words=one.words, name=one.name, note=one.note)


def _figure(part: type[Part], asked: Asked) -> Figure:
    whole = part.model_json_schema()
    schema, empty = _without_null(whole["properties"][asked.name])
    sort = _sort(asked, schema)
    each = schema.get("items", {}) if sort == "numbers" else schema
    return Figure(
        name=asked.name,
        label=asked.label,
        sort=sort,
        unit=each.get("unit", ""),
        minimum=each.get("minimum", each.get("exclusiveMinimum")),
        maximum=each.get("maximum"),
        whole=each.get("type") == "integer",
        choices=_choices(asked, schema),
        refers_to=schema.get("refers_to", ""),
        nullable=empty and asked.need == "known",
        optional=asked.need == "own",
        seldom=asked.need == "seldom",
        petrol_only=asked.petrol_only,
        most=schema.get("maxItems"),
        columns=_columns(whole, schema) if sort == "curve" else (),
    )


# Any, here and below: pieces of a JSON schema.
def _without_null(schema: dict[str, Any]) -> tuple[dict[str, Any], bool]:
    """A field's schema without the null that it may be, and whether it may be that."""
    some = [one for one in schema.get("anyOf", ()) if one.get("type") != "null"]
    return (some[0], True) if len(some) == 1 else (schema, False)


def _sort(asked: Asked, schema: dict[str, Any]) -> Sort:
    if asked.name == "marks":
        return "marks"
    if "refers_to" in schema:
        return "part"
    if schema.get("type") == "array":
        return "curve" if "$ref" in schema["items"] else "numbers"
    if schema.get("type") == "boolean":
        return "pick" if asked.words else "yes_no"
    return "pick" if "enum" in schema else "number"


def _columns(whole: dict[str, Any], schema: dict[str, Any]) -> tuple[Column, ...]:
    """The numbers that a point of a curve has, in the order of its fields."""
    point = whole["$defs"][schema["items"]["$ref"].rpartition("/")[2]]
    return tuple(Column(name=n, unit=f["unit"]) for n, f in point["properties"].items())


def _choices(asked: Asked, schema: dict[str, Any]) -> tuple[Choice, ...]:
    values = schema.get("enum", ())
    if schema.get("type") == "boolean" and asked.words:
        values = (True, False)
    words: dict[Any, str] = dict(asked.words)
    return tuple(Choice(value=value, title=words.get(value, str(value))) for value in values)
