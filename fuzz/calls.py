"""Seeds of calls: for every write of the API a body that would be accepted, to be made odd."""

from __future__ import annotations

import json
import random
from collections.abc import Mapping
from dataclasses import dataclass, field
from pathlib import Path
from typing import Any

from fuzz.mutate import ODD, mutated, mutated_text

__all__ = ["SPARED", "Boat", "Call", "odd_call"]

ROOT = Path(__file__).parents[1]
DEMO = ROOT / "server/apps/jobs/demo_data"
PATHS: dict[str, Any] = json.loads((ROOT / "docs/api/openapi.json").read_text())["paths"]
# What would end the session, or take away what the following calls are about.
SPARED = (("delete", "/api/session"), ("delete", "/api/jobs/{job_id}"))
CALLS = [(m, p) for p, methods in PATHS.items() for m in methods if (m, p) not in SPARED]
SURE = 0.15  # share of calls that are left as they are, so that documents move on


@dataclass(frozen=True)
class Call:
    """A request to be made."""

    method: str
    path: str
    body: bytes
    kind: str = "application/json"


@dataclass
class Boat:
    """Ids that calls are about, and the design that they start from."""

    ids: dict[str, str]
    design: dict[str, Any]
    survey: dict[str, Any]
    revision: int = 1
    keys: list[str] = field(default_factory=list)


def odd_call(boat: Boat, rng: random.Random) -> Call:
    """A call of the API about a boat, most of them odd in one place or another."""
    method, path = rng.choice(CALLS)
    address = _filled(path, boat.ids, rng)
    last = path.rsplit("/", 1)[-1]
    if method == "get":
        names = [p for p in PATHS[path]["get"].get("parameters", ()) if p["in"] == "query"]
        query = {p["name"]: str(rng.choice((*_words(boat), *ODD[:30]))) for p in names}
        return Call(method, address + _query(query), b"")
    if last in ("{which}", "runs.csv"):
        text = _table(boat, last)
        return Call(method, address, mutated_text(text, rng), "text/csv")
    if last == "photos":
        picture = (ROOT / "docs/screenshots/scheme-phone.png").read_bytes()
        return Call(method, address, mutated_text(picture, rng), "application/octet-stream")
    if last == "import":
        return Call(method, address, _odd_job(rng))
    body = _body(boat, last, rng)
    if rng.random() > SURE:
        body = mutated(body, rng)
    return Call(method, address, _text(body))


def _text(body: Any) -> bytes:
    return json.dumps(body).encode("utf-8", "surrogatepass")


def _query(query: Mapping[str, str]) -> str:
    pairs = (
        f"{k}={v.encode('utf-8', 'replace').decode('ascii', 'replace')}" for k, v in query.items()
    )
    return "?" + "&".join(p.replace("\x00", "%00").replace(" ", "%20")[:300] for p in pairs)


def _filled(path: str, ids: Mapping[str, str], rng: random.Random) -> str:
    given = dict(ids) | {"which": rng.choice(("items", "counted")), "pattern": "dual_relay"}
    for name, value in given.items():
        path = path.replace("{" + name + "}", value)
    return path


def _words(boat: Boat) -> list[str]:
    parts = [c["id"] for c in boat.design["components"]]
    cables = [c["id"] for c in boat.design["cables"]]
    ends = [c["start"] for c in boat.design["cables"]]
    return [*parts, *cables, *ends]


def _odd_job(rng: random.Random) -> bytes:
    name = rng.choice(("pilot_3.json", "marsh_wren.json", "ebb_tide.json"))
    text = (DEMO / name).read_bytes()
    if rng.random() < 0.3:
        return mutated_text(text, rng)
    return _text(mutated(json.loads(text), rng))


def _table(boat: Boat, last: str) -> bytes:
    if last == "runs.csv":
        rows = [f"{c['id']},2.5,2 AWG,105" for c in boat.design["cables"][:6]]
        return ("cable,length_m,gauge,insulation_c\n" + "\n".join(rows)).encode()
    rows = [f"Load {n},{n + 1},A,dc,{n}" for n in range(6)]
    return ("name,draw,unit,current,hours at_anchor\n" + "\n".join(rows)).encode()


def _body(boat: Boat, last: str, rng: random.Random) -> Any:
    design, survey = boat.design, boat.survey
    part = rng.choice(design["components"])
    cable = rng.choice(design["cables"])
    base = {"base_revision": boat.revision}
    fields = {k: v for k, v in part.items() if k not in ("id", "kind")}
    some = dict(rng.sample(list(fields.items()), min(3, len(fields))))
    section = rng.choice(("boat", "use", "sun", "sizing", "practice", "inverter"))
    rows = rng.choice(("places", "runs", "resting", "profiles", "items", "measurements", "counted"))
    row = rng.choice(survey.get(rows) or [{"id": "new"}])
    extra = {"id": cable["id"] + "_2"}
    changes = [
        {"type": "set_part", "part": part["id"], "fields": some},
        {"type": "remove_part", "part": part["id"]},
        {"type": "add_part", "part": part | {"id": part["id"][:30] + "_2", "name": "Another"}},
        {"type": "swap_part", "part": part["id"], "new": rng.choice(design["components"])},
        {"type": "set_cables", "rows": [{"cable": cable["id"], "fields": {"length_m": 3.0}}]},
        {"type": "move_cable_end", "cable": cable["id"], "end": "end", "to": cable["start"]},
        {"type": "add_cable", "cable": cable | extra},
        {"type": "remove_cable", "cable": cable["id"]},
        {"type": "park_end", "cable": cable["id"], "end": rng.choice(("start", "end"))},
        {"type": "land_parked", "cable": cable["id"], "end": "end", "to": cable["start"]},
        {"type": "stack_cables", "post": cable["start"], "cables": [cable["id"]]},
        {"type": "set_system_volts", "system_v": rng.choice((12, 24, 48))},
        {"type": "choose_bank", "bank": part["id"], "chemistry": "agm", "unit_v": 12,
         "unit_ah": 100, "series": 1, "parallel": 2},
        {"type": "apply_scheme", "pattern": "Anything", "components": design["components"],
         "cables": design["cables"]},
        {"type": "set_section", "section": section, "fields": survey.get(section)},
        {"type": "put_rows", "list": rows, "rows": [row]},
        {"type": "remove_rows", "list": rows, "ids": [row["id"]]},
        {"type": "record_measurement", "measurement": {"id": "m_1", "item": row["id"], "after": 3,
         "method": "clamp", "date": "2026-05-01", "by": "anna"}},
    ]  # fmt: skip
    one = rng.choice(changes)
    state = {
        "engine": "on", "rpm": 2000, "cranking": rng.random() < 0.2, "shore": True, "sun": 0.4,
        "profile": "at_anchor", "positions": {part["id"]: "on"}, "soc": {part["id"]: 0.4},
        "running": [part["id"] + ".fridge"], "previous_states": {part["id"]: "closed"},
    }  # fmt: skip
    plan = {
        "name": "A day", "hours": rng.choice((2, 24, 400)), "clock_h": 8,
        "engine": [{"start_h": 0.5, "end_h": 1, "rpm": 1500}], "living": [],
        "moves": [{"at_h": 0.2, "switch": part["id"], "position": "on"}], "soc": {part["id"]: 0.3},
    }  # fmt: skip
    bodies: dict[str, Any] = {
        "changes": base | {"change": one},
        "undo": base, "redo": base, "restore": base | {"revision": 1},
        "copy": {"name": f"Proposal {rng.randrange(10**6)}", "pattern": "dual_relay"},
        "found": base | {"kind": rng.choice(("bank", "solar", "switch", "relay", "charger")),
                         "name": f"Found {rng.randrange(10**6)}", "bank": part["id"],
                         "place": part.get("place")},
        "edit": base | {"edit": rng.choice(("insert", "swap", "gather")), "at": cable["id"],
                        "kind": rng.choice(("fuse", "breaker", "switch", "bus_bar", "relay"))},
        "pattern": base | {"pattern": rng.choice(("dual_relay", "selector_relay", "dcdc"))},
        "cables": base | {"rows": [{"cable": cable["id"], "fields": {"current_a": 40}}]},
        "choice": {"cables": [cable["id"]], "only_weak": True},
        "what-if": {"rows": [{"cable": cable["id"], "fields": {"gauge": "2 AWG"}}]},
        "repairs": {"keys": boat.keys[:3]},
        "waivers": {"finding": (boat.keys or ["SW-1"])[0], "reason": "Because it is so."},
        "plans": {"ready": "day_trip", "school": "a"},
        "{plan_id}": {"revision": 1, "school": "own", "document": plan},
        "day": {"school": "a", "case": None},
        "comparison": {"variants": [boat.ids["variant_id"]], "schools": ["a", "own"],
                       "plans": [boat.ids["plan_id"]]},
        "stock": {"base_revision": 1, "stock": {"cables": [{"gauge": "2 AWG"}],
                  "devices": [{"device": "class_t", "ratings_a": [200]}]}},
        "gauge-reading": {"conductor_mm": 8.0, "strands": 7},
        "jobs": {"name": f"Boat {rng.randrange(10**6)}", "kind": "Sailing yacht",
                 "switching": "selector"},
        "{job_id}": {"name": "Renamed"}, "{photo_id}": {"caption": "Panel"},
        "session": {"username": "somebody", "password": "wrong"},
    }  # fmt: skip
    return bodies.get(last, state)
