"""A boat entered from nothing: usual figures by kind, all marked as assumed."""

from __future__ import annotations

from typing import Any, Literal

from strom_engine.design import Design, Place
from strom_engine.design.fields import PostRef
from strom_engine.design.validation import parse_design, suggest
from strom_engine.errors import Problem, StateError
from strom_engine.reference import chemistry, load_table
from strom_engine.survey.library import boat_kinds, usual_items, usual_profiles
from strom_engine.survey.survey_document import Boat, Run, Survey

__all__ = ["FoundSwitching", "new_boat"]

FoundSwitching = Literal["selector", "on_off_each", "none"]
Json = dict[str, Any]  # Any: a document on its way, read and checked as a whole
BANK_FIELDS = ["chemistry", "unit_ah", "unit_cca_a", "parallel", "soc"]


def new_boat(kind: str, switching: FoundSwitching) -> tuple[Survey, Design]:
    """A survey and an *as found* design of a kind of boat; every figure marked as assumed.

    Raises StateError when there is no such kind.

    Args:
        kind: of boat, one of ``boat_kinds``.
        switching: how its banks are switched.
    """
    rows = {r["kind"]: r for r in load_table("boat_kinds").rows}
    if kind not in rows:
        text = f"there is no kind of boat {kind!r}{suggest(kind, rows)}"
        raise StateError([Problem("kind", text)])
    row = rows[kind]
    return _survey(row), _design(row, switching)


def _survey(row: dict[str, str]) -> Survey:
    label = next(k.label for k in boat_kinds() if k.kind == row["kind"])
    return Survey(
        boat=Boat.model_validate(
            {
                "kind": label,
                "length_m": float(row["length_m"]),
                "hull": row["hull"],
                "fuel": row["fuel"],
                "engine_kw": float(row["engine_kw"]),
            }
        ),
        places=tuple(Place.model_validate(place) for place in _places(row)),
        profiles=usual_profiles(),
        items=tuple(
            item.model_copy(update={"feed": "house_panel"}) for item in usual_items(row["fitting"])
        ),
        runs=tuple(
            Run(id=f"{a}_{b}", start=a, end=b, length_m=float(row[column]), measured=False)
            for a, b, column in (
                ("battery_box", "helm", "box_to_helm_m"),
                ("battery_box", "engine_space", "box_to_engine_m"),
                ("engine_space", "helm", "helm_to_engine_m"),
            )
        ),
    )


def _places(row: dict[str, str]) -> list[Json]:
    engine: Json = {"id": "engine_space", "name": "Engine space", "engine_space": True}
    if row["fitting"] == "open":
        engine = {"id": "engine_space", "name": "Engine well"}
    engine |= {"vapour": row["fuel"] == "petrol", "within_reach": False}
    box = {"id": "battery_box", "name": "Battery box", "within_reach": False}
    return [engine, box, {"id": "helm", "name": "Helm"}, {"id": "locker", "name": "Locker"}]


def _design(row: dict[str, str], switching: FoundSwitching) -> Design:
    lengths = {
        frozenset(("battery_box", "helm")): float(row["box_to_helm_m"]),
        frozenset(("battery_box", "engine_space")): float(row["box_to_engine_m"]),
        frozenset(("engine_space", "helm")): float(row["helm_to_engine_m"]),
    }
    parts = [*_parts(row), *_switches(switching)]
    places = {part["id"]: part["place"] for part in parts}
    cables = []
    for n, (start, end, gauge) in enumerate(_wiring(switching)):
        ends = frozenset(places[PostRef(ref).part] for ref in (start, end))
        cables.append(
            {
                "id": f"c{n + 1}",
                "start": start,
                "end": end,
                "gauge": gauge,
                "length_m": lengths.get(ends, 0.6),
                "estimated": True,
            }
        )
    profiles = [p.model_dump(mode="json") for p in usual_profiles()]
    raw = {"system_v": int(row["system_v"]), "fuel": row["fuel"], "places": _places(row)}
    return parse_design(raw | {"profiles": profiles, "components": parts, "cables": cables})


def _parts(row: dict[str, str]) -> list[Json]:
    def part(kind: str, part_id: str, name: str, place: str, **fields: object) -> Json:
        return {"kind": kind, "id": part_id, "name": name, "place": place} | fields

    house = row["house_chemistry"]
    return [
        part(
            "bank",
            "engine_bank",
            "Engine bank",
            "battery_box",
            role="engine",
            chemistry="flooded_start",
            unit_ah=float(row["engine_ah"]),
            unit_cca_a=float(row["engine_cca_a"]),
            soc=0.9,
            assumed=BANK_FIELDS,
        ),
        part(
            "bank",
            "house_bank",
            "House bank",
            "battery_box",
            role="house",
            chemistry=house,
            unit_ah=float(row["house_ah"]),
            unit_cca_a=round(5.5 * float(row["house_ah"])),
            parallel=int(row["house_parallel"]),
            soc=0.7,
            assumed=BANK_FIELDS,
        ),
        part(
            "alternator",
            "alternator",
            "Alternator",
            "engine_space",
            rated_a=float(row["alternator_a"]),
            set_v=chemistry("flooded_start").absorption_v - 0.1,
            assumed=["rated_a", "set_v"],
        ),
        part(
            "starter",
            "starter",
            "Starter",
            "engine_space",
            power_kw=float(row["starter_kw"]),
            cranking_a=round(float(row["starter_kw"]) * 173),
            assumed=["power_kw", "cranking_a"],
        ),
        part(
            "bus_bar",
            "engine_block",
            "Engine block",
            "engine_space",
            polarity="neg",
            engine_block=True,
        ),
        part("bus_bar", "neg_bar", "Negative bar", "battery_box", polarity="neg", studs=12),
        part("loads", "house_panel", "House panel", "helm", items=[]),
    ]


def _switches(switching: FoundSwitching) -> list[Json]:
    if switching == "selector":
        selector = {"kind": "selector", "id": "selector", "name": "Main selector", "place": "helm"}
        return [selector | {"position": "both", "assumed": ["rating_a"]}]
    if switching == "on_off_each":
        return [
            {
                "kind": "switch",
                "id": f"{bank}_switch",
                "name": f"{bank.capitalize()} switch",
                "place": "battery_box",
                "position": "on",
                "assumed": ["rating_a"],
            }
            for bank in ("engine", "house")
        ]
    return []


def _wiring(switching: FoundSwitching) -> list[tuple[str, str, str]]:
    heavy, feed = "1/0 AWG", "6 AWG"
    negatives = [
        ("engine_bank.neg", "engine_block.s1", heavy),
        ("house_bank.neg", "neg_bar.s1", heavy),
        ("engine_block.s2", "neg_bar.s2", heavy),
        ("starter.neg", "engine_block.s3", heavy),
        ("alternator.neg", "engine_block.s4", "4 AWG"),
        ("house_panel.neg", "neg_bar.s3", feed),
        ("starter.pos", "alternator.out", "4 AWG"),
    ]
    if switching == "selector":
        positives = [
            ("engine_bank.pos", "selector.one", heavy),
            ("house_bank.pos", "selector.two", heavy),
            ("selector.common", "starter.pos", heavy),
            ("selector.common", "house_panel.pos", feed),
        ]
    elif switching == "on_off_each":
        positives = [
            ("engine_bank.pos", "engine_switch.a", heavy),
            ("engine_switch.b", "starter.pos", heavy),
            ("house_bank.pos", "house_switch.a", heavy),
            ("house_switch.b", "house_panel.pos", feed),
        ]
    else:
        positives = [
            ("engine_bank.pos", "starter.pos", heavy),
            ("house_bank.pos", "house_panel.pos", feed),
        ]
    return positives + negatives
