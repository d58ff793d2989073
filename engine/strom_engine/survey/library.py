"""The library of typical draws, and the kinds of boats a survey can start from."""

from __future__ import annotations

from dataclasses import dataclass
from functools import cache
from typing import Literal

from strom_engine.design import Profile
from strom_engine.reference import load_table
from strom_engine.survey.audit_items import AuditItem, Hours

__all__ = [
    "BoatKind",
    "FoundSwitching",
    "LibraryItem",
    "WayFound",
    "boat_kinds",
    "library",
    "own_feeds",
    "usual_items",
    "usual_profiles",
]

FoundSwitching = Literal["selector", "on_off_each", "dual_circuit", "relay", "isolator", "none"]

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
class WayFound:
    """A way in which banks are found switched."""

    id: FoundSwitching
    words: str


@dataclass(frozen=True)
class BoatKind:
    """A kind of boat to start from, with the ways in which its banks are found switched."""

    kind: str
    label: str
    length_m: float
    switchings: tuple[WayFound, ...]


ONE_BANK = (
    WayFound("on_off_each", "One on/off switch"),
    WayFound("none", "No battery switch, or not known"),
)
TWO_ENGINES = (
    WayFound("selector", "A four-position selector, the second engine on a switch of its own"),
    WayFound("on_off_each", "An on/off switch for each bank"),
    WayFound("relay", "An on/off switch for each bank, and combining relays"),
    WayFound("none", "No battery switch, or not known"),
)
ONE_ENGINE = (
    WayFound("selector", "One four-position selector"),
    WayFound("on_off_each", "An on/off switch for each bank"),
    WayFound("dual_circuit", "A dual-circuit switch: house and engine together, combine"),
    WayFound("relay", "An on/off switch for each bank, and a combining relay"),
    WayFound("isolator", "An on/off switch for each bank, and a diode isolator"),
    WayFound("none", "No battery switch, or not known"),
)


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


def usual_items(kind: str, fitting: str, system_v: int = 12) -> tuple[AuditItem, ...]:
    """What a kind of boat usually has, for its system's volts [V].

    ``fitting`` is a column of the table load_examples, such as ``open``, ``sail`` or ``motor``.
    """
    wanted = {r["id"] for r in load_table("load_examples").rows if r[fitting] == "yes"}
    wanted |= {r["load"] for r in load_table("boat_kind_loads").rows if r["kind"] == kind}
    return tuple(_at(entry.item, system_v) for entry in library() if entry.item.id in wanted)


def _at(item: AuditItem, system_v: int) -> AuditItem:
    """A typical load of 12 V as it is made for other volts: as many watts."""
    scale = system_v / 12
    amps = item.unit == "A" and item.current == "dc" and item.draw is not None
    return item.model_copy(
        update={
            "draw": item.draw / scale if amps and item.draw else item.draw,
            "min_v": item.min_v * scale if item.min_v else None,
        }
    )


@cache
def own_feeds() -> frozenset[str]:
    """Typical loads that have a feed of their own, with protection and a switch."""
    return frozenset(r["id"] for r in load_table("load_examples").rows if r["feed"] == "own")


@cache
def boat_kinds() -> tuple[BoatKind, ...]:
    """Kinds of boats with usual figures, in the order of the table."""
    rows = load_table("boat_kinds").rows
    return tuple(
        BoatKind(
            r["kind"],
            r["label"],
            float(r["length_m"]),
            ONE_BANK if not r["engine_ah"] else TWO_ENGINES if r["engines"] == "2" else ONE_ENGINE,
        )
        for r in rows
    )


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
