"""A boat entered from nothing: usual figures by kind, all marked as assumed."""

from __future__ import annotations

from strom_engine.design import Design, Place
from strom_engine.design.fields import PostRef
from strom_engine.design.validation import parse_design, suggest
from strom_engine.errors import Problem, StateError
from strom_engine.reference import load_table
from strom_engine.survey.audit_items import AuditItem, Inverter
from strom_engine.survey.found_wiring import wiring_found
from strom_engine.survey.library import (
    BoatKind,
    FoundSwitching,
    boat_kinds,
    own_feeds,
    usual_items,
    usual_profiles,
)
from strom_engine.survey.survey_document import Boat, Run, Survey
from strom_engine.survey.usual_parts import Json, parts_of

__all__ = ["new_boat"]

ASSUMED_LEAD_M = 0.6  # a cable within one place
# The switch board stands beside the battery box, within reach; runs from it are those of the box.
BOARD_M = 0.9


def new_boat(kind: str, switching: FoundSwitching) -> tuple[Survey, Design]:
    """A survey and an *as found* design of a kind of boat; every figure marked as assumed.

    Args:
        kind: of boat, one of ``boat_kinds``.
        switching: how its banks are switched, one of the ways of that kind.

    Raises:
        StateError: there is no such kind, or such a boat is not found switched so.
    """
    kinds = {k.kind: k for k in boat_kinds()}
    if kind not in kinds:
        text = f"there is no kind of boat {kind!r}{suggest(kind, kinds)}"
        raise StateError([Problem("kind", text)])
    ways = [way.id for way in kinds[kind].switchings]
    if switching not in ways:
        text = f"a {kinds[kind].label.lower()} is not found switched so; known: {', '.join(ways)}"
        raise StateError([Problem("switching", text)])
    row = next(r for r in load_table("boat_kinds").rows if r["kind"] == kind)
    items = _items(row)
    return _survey(row, kinds[kind], items), _design(row, switching, items)


def _items(row: dict[str, str]) -> tuple[AuditItem, ...]:
    """Usual loads, each on its feed; those with a feed of their own make one of their name."""
    own = own_feeds()
    items = usual_items(row["kind"], row["fitting"], int(row["system_v"]))
    return tuple(
        item.model_copy(update={"feed": item.id if item.id in own else "house_panel"})
        for item in items
    )


def _survey(row: dict[str, str], kind: BoatKind, items: tuple[AuditItem, ...]) -> Survey:
    inverter = float(row["inverter_w"]) if row["inverter_w"] else None
    return Survey(
        boat=Boat.model_validate(
            {
                "kind": kind.label,
                "length_m": float(row["length_m"]),
                "hull": row["hull"],
                "fuel": row["fuel"],
                "engine_kw": float(row["engine_kw"]),
            }
        ),
        places=tuple(Place.model_validate(place) for place in _places(row)),
        profiles=usual_profiles(),
        items=items,
        inverter=Inverter(rated_w=inverter, idle_w=inverter / 150) if inverter else None,
        runs=tuple(
            Run(id=f"{a}_{b}", start=a, end=b, length_m=length_m, measured=False)
            for (a, b), length_m in _runs(row).items()
        ),
    )


def _places(row: dict[str, str]) -> list[Json]:
    engine: Json = {"id": "engine_space", "name": "Engine space", "engine_space": True}
    if row["fitting"] == "open":
        engine = {"id": "engine_space", "name": "Engine well"}
    engine |= {"vapour": row["fuel"] == "petrol", "within_reach": False}
    places = [
        engine,
        {"id": "battery_box", "name": "Battery box", "within_reach": False},
        {"id": "switch_board", "name": "Switch board"},
        {"id": "helm", "name": "Helm"},
        {"id": "locker", "name": "Locker"},
    ]
    return [*places, {"id": "bow", "name": "Bow"}] if row["box_to_bow_m"] else places


def _runs(row: dict[str, str]) -> dict[tuple[str, str], float]:
    """Runs between places [m]."""
    from_box = {"helm": "box_to_helm_m", "engine_space": "box_to_engine_m", "bow": "box_to_bow_m"}
    runs = {("battery_box", "switch_board"): BOARD_M}
    for place, column in from_box.items():
        if row[column]:
            runs["battery_box", place] = runs["switch_board", place] = float(row[column])
    return runs | {("engine_space", "helm"): float(row["helm_to_engine_m"])}


def _design(row: dict[str, str], switching: FoundSwitching, items: tuple[AuditItem, ...]) -> Design:
    own = [(i.id, i.name, i.draw or 0.0) for i in items if i.feed != "house_panel"]
    parts = parts_of(row, own)
    switches, wires = wiring_found(parts, switching, int(row["system_v"]))
    parts += switches
    lengths = {frozenset(ends): length_m for ends, length_m in _runs(row).items()}
    places = {part["id"]: part["place"] for part in parts}
    cables = []
    for n, (start, end, gauge) in enumerate(wires):
        ends = frozenset(places[PostRef(ref).part] for ref in (start, end))
        cables.append(
            {
                "id": f"c{n + 1}",
                "start": start,
                "end": end,
                "gauge": gauge,
                "length_m": lengths.get(ends, ASSUMED_LEAD_M),
                "estimated": True,
            }
        )
    profiles = [p.model_dump(mode="json") for p in usual_profiles()]
    raw = {"system_v": int(row["system_v"]), "fuel": row["fuel"], "places": _places(row)}
    return parse_design(raw | {"profiles": profiles, "components": parts, "cables": cables})
