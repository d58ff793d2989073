"""Figures of cables, one cable or many at once, as one named change."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Annotated, Literal

from pydantic import Field, ValidationError

from strom_engine.design.cable_words import cable_field_words
from strom_engine.design.document import Cable, Design
from strom_engine.design.fields import FieldValue, Frozen, Identifier
from strom_engine.design.validation import problems_from_pydantic, suggest
from strom_engine.errors import ChangeError, Problem

__all__ = ["CABLE_FIELDS", "CableFields", "SetCables", "apply_cable_fields", "cable_fields_words"]

# Figures of a cable that can be typed: all but what it is for and where it lands.
CABLE_FIELDS = tuple(
    name for name in Cable.model_fields if name not in ("id", "purpose", "start", "end")
)


class CableFields(Frozen):
    """New figures of one cable; fields not named stay."""

    cable: Identifier
    fields: Mapping[str, FieldValue]  # checked as part of the whole


class SetCables(Frozen):
    """Set figures of cables: sizes, lengths, insulation, where they run, labels."""

    type: Literal["set_cables"] = "set_cables"
    rows: Annotated[tuple[CableFields, ...], Field(min_length=1, max_length=600)]


def apply_cable_fields(design: Design, change: SetCables) -> Design:
    """The design after a change. Raises ChangeError with the problems of every row."""
    cables, problems = dict(design.cables_by_id), []
    for n, row in enumerate(change.rows):
        at = f"rows[{n}]"
        if row.cable not in cables:
            text = f"there is no cable {row.cable!r}{suggest(row.cable, cables)}"
            problems.append(Problem(f"{at}.cable", text))
            continue
        wrong = [name for name in row.fields if name not in CABLE_FIELDS]
        problems += [
            Problem(f"{at}.fields.{name}", f"cannot be set{suggest(name, CABLE_FIELDS)}")
            for name in wrong
        ]
        if wrong:
            continue
        fields = dict(row.fields)
        if "gauge" in fields:
            # Another size has another area and other lugs, unless they are told with it.
            fields = {"copper_mm2": None} | fields
        try:
            cables[row.cable] = Cable.model_validate(cables[row.cable].model_dump() | fields)
        except ValidationError as error:
            problems += [
                Problem(f"{at}.fields.{p.path}", p.message) for p in problems_from_pydantic(error)
            ]
    if problems:
        raise ChangeError(str(problems[0]), tuple(problems))
    return design.replace_unchecked(cables=tuple(cables.values()))


def cable_fields_words(design: Design, change: SetCables) -> str:
    """A change in words; ``design`` is the one it is applied to."""
    if len(change.rows) > 2:
        sizes = [row for row in change.rows if "gauge" in row.fields]
        what = "Other sizes for" if len(sizes) == len(change.rows) else "Set figures of"
        return f"{what} {len(change.rows)} cables"
    told = []
    for row in change.rows:
        cable = design.cables_by_id.get(row.cable)
        name = design.cable_name(cable) if cable else row.cable
        new = {f: v for f, v in row.fields.items() if getattr(cable, f, None) != v}
        figures = (cable_field_words(f, getattr(cable, f, None), v) for f, v in new.items())
        told.append(f"{name}: {', '.join(figures)}")
    return "; ".join(told)
