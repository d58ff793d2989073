"""The library of typical draws, and the kinds of boats a survey can start from."""

from __future__ import annotations

from dataclasses import dataclass
from functools import cache

from strom_engine.design import Profile
from strom_engine.reference import load_table
from strom_engine.survey.audit_items import AuditItem, Hours

__all__ = ["BoatKind", "LibraryItem", "boat_kinds", "library", "usual_items", "usual_profiles"]

PROFILE_COLUMNS = {
    "at_anchor": "at_anchor_h",
    "under_way": "under_way_h",
    "alongside": "alongside_h",
}


@dataclass(frozen=True)
class LibraryItem:
    """A typical load, marked assumed, with what is worth knowing about it."""

    item: AuditItem
    note: str


@dataclass(frozen=True)
class BoatKind:
    """A kind of boat to start from."""

    kind: str
    label: str
    length_m: float


def usual_profiles() -> tuple[Profile, ...]:
    """The three profiles a survey starts with."""
    return (
        Profile(id="at_anchor", name="At anchor"),
        Profile(id="under_way", name="Under way"),
        Profile(id="alongside", name="Alongside", shore=True),
    )


@cache
def library() -> tuple[LibraryItem, ...]:
    """Every typical load, in the order of the table."""
    return tuple(LibraryItem(_item(row), row["note"]) for row in load_table("load_examples").rows)


def usual_items(fitting: str) -> tuple[AuditItem, ...]:
    """What a boat of a fitting (``open``, ``sail``, ``motor``) usually has."""
    wanted = {r["id"] for r in load_table("load_examples").rows if r[fitting] == "yes"}
    return tuple(entry.item for entry in library() if entry.item.id in wanted)


@cache
def boat_kinds() -> tuple[BoatKind, ...]:
    """Kinds of boats with usual figures, in the order of the table."""
    rows = load_table("boat_kinds").rows
    return tuple(BoatKind(r["kind"], r["label"], float(r["length_m"])) for r in rows)


def _item(row: dict[str, str]) -> AuditItem:
    uses = {
        profile: Hours(hours=float(row[column]))
        for profile, column in PROFILE_COLUMNS.items()
        if float(row[column]) > 0
    }
    winter = float(row["winter"])
    return AuditItem.model_validate(
        {
            "id": row["id"],
            "name": row["name"],
            "group": row["group"],
            "draw": float(row["draw"]),
            "unit": row["unit"],
            "current": row["current"],
            "law": row["law"],
            "duty": float(row["duty"]),
            "window": row["window"],
            "standing": row["standing"] == "yes",
            "always_on": row["always_on"] == "yes",
            "min_v": float(row["min_v"]) if row["min_v"] else None,
            "uses": uses,
            "seasons": {} if winter == 1 else {"winter": winter},
        }
    )
