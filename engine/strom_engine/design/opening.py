"""A whole scheme opened up into the named changes that lead to it."""

from __future__ import annotations

from collections.abc import Iterator

from strom_engine.design.cable_changes import CABLE_FIELDS, CableFields, SetCables
from strom_engine.design.changes import (
    AddCable,
    OneChange,
    RemoveCable,
    Several,
    apply_change,
)
from strom_engine.design.differences import Difference, differences
from strom_engine.design.document import Design
from strom_engine.design.part_changes import AddPart, RemovePart, SetPart
from strom_engine.design.rewiring import ApplyScheme

__all__ = ["opened"]


def opened(design: Design, change: ApplyScheme) -> Several | None:
    """The named changes that make of a design what a whole scheme makes of it; None where none.

    What leads elsewhere goes first, then parts, then what is new: each step lands on what is there.
    """
    after = apply_change(design, change)
    found = differences(design, after)
    steps: tuple[OneChange, ...] = (
        *_cables_gone(design, found),
        *(RemovePart(part=d.id) for d in found if d.what == "part" and d.how == "gone"),
        *(AddPart(part=after.by_id[d.id]) for d in found if d.what == "part" and d.how == "new"),
        *_figures(after, found),
        *_cables_new(design, after, found),
        *_sizes(design, after, found),
    )
    return Several(words=f"Rewired as: {change.pattern}", changes=steps) if steps else None


def _elsewhere(difference: Difference) -> bool:
    """Whether a changed cable is another one: it runs elsewhere, or goes by another id."""
    return difference.changed("ends", "purpose") or difference.was_id != difference.id


def _cables_gone(design: Design, found: tuple[Difference, ...]) -> Iterator[RemoveCable]:
    for one in found:
        goes = one.how == "gone" or (one.how == "changed" and _elsewhere(one))
        if one.what == "cable" and one.was_id is not None and goes:
            yield RemoveCable(cable=one.was_id)


def _cables_new(design: Design, after: Design, found: tuple[Difference, ...]) -> Iterator[AddCable]:
    for one in found:
        if one.what == "cable" and (one.how == "new" or (one.how == "changed" and _elsewhere(one))):
            yield AddCable(cable=after.cables_by_id[one.id])


def _figures(after: Design, found: tuple[Difference, ...]) -> Iterator[SetPart]:
    for one in found:
        if one.what == "part" and one.how == "changed":
            names = dict.fromkeys(c.field.partition(".")[0] for c in one.fields)
            told = after.by_id[one.id].model_dump(mode="json")
            yield SetPart(part=one.id, fields={name: told[name] for name in names})


def _sizes(design: Design, after: Design, found: tuple[Difference, ...]) -> Iterator[SetCables]:
    """Cables that stay where they are and become others."""
    rows = []
    for one in found:
        if one.what == "cable" and one.how == "changed" and not _elsewhere(one):
            was, now = (d.cables_by_id[one.id].model_dump(mode="json") for d in (design, after))
            fields = {name: now[name] for name in CABLE_FIELDS if now[name] != was[name]}
            rows.append(CableFields(cable=one.id, fields=fields))
    if rows:
        yield SetCables(rows=tuple(rows))
