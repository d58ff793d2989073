"""Prove over the wire: entries, verdicts, what is lost, readings, the record, the meter."""

from __future__ import annotations

import json
import threading
from datetime import UTC, datetime
from http.server import ThreadingHTTPServer
from typing import Any
from uuid import uuid4

import pytest
from apps.jobs.documents import surveyed_design
from apps.jobs.models import Job, Variant
from apps.prints.work import make_print
from strom_engine.faults import Fault
from strom_meter.__main__ import handler
from strom_meter.played import PlayedBoat

from tests.server.conftest import Person
from tests.server.test_jobs import url


@pytest.fixture
def built(job: Job) -> Variant:
    return job.variants.get(name="As found")


def entry(kind: str, target: str, **value: Any) -> dict[str, Any]:
    plain = {"id": str(uuid4()), "at": datetime.now(UTC).isoformat(), "revision": 1}
    return plain | {"kind": kind, "target": target} | value


def enter(person: Person, variant: Variant, *entries: Any, status: int = 200) -> Any:
    return person.post(url(variant, "prove/entries"), {"entries": entries}, status)


def wanted(out: Any, key: str) -> Any:
    return next(t["wanted"] for t in out["tests"] if t["key"] == key)


def test_a_reading_is_judged_and_the_next_test_comes(anna: Person, built: Variant) -> None:
    out = anna.get(url(built, "prove")).json()
    assert out["next"] == out["tests"][0]["key"] and out["counts"] == {"open": len(out["tests"])}
    assert [m["measures"] for m in out["usual_meters"]] == ["volts", "amps"]
    assert out["meters"] == [] and not out["live_meter"]
    middle = wanted(out, "rest:house_bank")["middle"]
    good = entry("reading", "rest:house_bank", reading={"value": middle, "instrument": "Mine"})
    looks = [entry("look", t["key"], seen=True) for t in out["tests"][:2]]
    for _ in range(2):  # the same may come twice
        out = enter(anna, built, good, *looks)
    state = out["states"]["rest:house_bank"]
    assert (state["answer"], len(state["entries"])) == ("within", 1)
    assert state["entries"][0]["reading"]["instrument"] == "Mine"
    assert out["next"] == out["tests"][2]["key"]
    low = entry("reading", "rest:house_bank", reading={"value": 10.4})
    out = enter(anna, built, low, entry("note", "rest:house_bank", text="smells"))
    state = out["states"]["rest:house_bank"]
    assert (state["answer"], len(state["entries"])) == ("outside", 3), "a note answers nothing"
    out = enter(anna, built, entry("waived", "rest:house_bank", text="bank is replaced tomorrow"))
    assert out["states"]["rest:house_bank"]["answer"] == "waived"


def test_what_is_read_and_found_today_moves_the_ranges(anna: Person, built: Variant) -> None:
    def width(out: Any) -> float:
        span = wanted(out, "crank:starter:bank")
        return float(span["high"] - span["low"])

    plain = width(anna.get(url(built, "prove")).json())
    rest = [
        entry("reading", f"rest:{bank}", reading={"value": 12.7})
        for bank in ("engine_bank", "house_bank", "thruster_bank")
    ]
    out = enter(anna, built, entry("today", "today", today={"rested_h": 12}), *rest)
    assert width(out) < plain and out["today"]["rested_h"] == 12
    meters = [
        {"id": "m", "name": "Worn", "measures": "volts", "percent": 5, "digits": 9, "resolution": 1}
    ]
    answer = anna.client.put(
        "/api/meters", json.dumps({"meters": meters}), content_type="application/json"
    )
    assert answer.json()[0]["name"] == "Worn"
    assert width(anna.get(url(built, "prove")).json()) > 2 * plain


def test_bad_entries_are_refused_and_lost_ones_kept(
    anna: Person, bo: Person, built: Variant
) -> None:
    wrong = entry("reading", "switch:selector:off", reading={"value": 1})
    told = enter(anna, built, wrong, status=422)
    assert "is looked at" in told["errors"][0]["message"]
    told = enter(anna, built, entry("look", "switch:selector:off"), status=422)
    assert told["errors"][0]["path"] == "entries[0].seen"
    out = enter(anna, built, entry("look", "switch:gone:off", seen=True))
    assert [e["target"] for e in out["lost"]] == ["switch:gone:off"]
    assert bo.get(url(built, "prove")).status_code == 404


def test_the_record_and_the_readings(anna: Person, built: Variant) -> None:
    out = anna.get(url(built, "prove")).json()
    span = wanted(out, "rest:engine_bank")
    enter(
        anna,
        built,
        entry("reading", "rest:engine_bank", reading={"value": span["high"] + 1}),
        entry("note", "rest:engine_bank", text="=charged this morning"),
    )
    text = anna.get(url(built, "prove/readings.csv")).content.decode()
    rows = [line for line in text.splitlines() if line.startswith("rest:engine_bank")]
    assert len(rows) == 2 and ",outside," in rows[0] and "'=charged" in rows[1]
    assert text.count(",open,") == len(out["tests"]) - 1, "what was not tested is listed"
    asked = anna.post(url(built, "prove/record"), {"paper": "A4", "proved_by": "Anna"})
    make_print(asked["id"])
    made = anna.get(f"/api/prints/{asked['id']}").json()
    assert made["status"] == "done", made["problem"]
    assert anna.get(f"/api/prints/{asked['id']}/file").content[:5] == b"%PDF-"


def test_a_reading_is_taken_from_the_connected_meter(
    anna: Person, built: Variant, settings: Any
) -> None:
    ask = {"test": "rest:house_bank"}
    told = anna.post(url(built, "prove/meter"), ask, 422)
    assert "no meter is connected" in told["detail"]
    design = surveyed_design(built)
    boat = PlayedBoat(design, (Fault(kind="dead_cell", part="house_bank"),), seed=2)
    with ThreadingHTTPServer(("127.0.0.1", 0), handler(boat, "key")) as server:
        threading.Thread(target=server.serve_forever, daemon=True).start()
        settings.METER_URL = f"http://127.0.0.1:{server.server_port}"
        settings.METER_TOKEN = "wrong"
        assert "refuses" in anna.post(url(built, "prove/meter"), ask, 422)["detail"]
        settings.METER_TOKEN = "key"
        shown = anna.post(url(built, "prove/meter"), ask)
        assert shown["unit"] == "V" and shown["instrument"] == "Multimeter, simulated"
        assert anna.get(url(built, "prove")).json()["live_meter"]
        look = anna.post(url(built, "prove/meter"), {"test": "switch:selector:off"}, 422)
        assert "looked at" in look["detail"]
        assert anna.post(url(built, "prove/meter"), {"test": "nothing"}, 404)
        server.shutdown()
    told = anna.post(url(built, "prove/meter"), ask, 422)
    assert "does not answer" in told["detail"]
    out = enter(anna, built, entry("reading", "rest:house_bank", reading={"value": shown["value"]}))
    assert out["states"]["rest:house_bank"]["answer"] == "outside"


def test_causes_by_all_readings_and_what_to_read_next(anna: Person, built: Variant) -> None:
    out = enter(anna, built, entry("reading", "rest:house_bank", reading={"value": 10.4}))
    told = anna.get(url(built, "prove/diagnosis")).json()
    assert told["causes"][0]["keys"] == ["dead_cell house_bank"]
    assert told["readings"][0]["title"] == "House bank at rest"
    key = told["next"]["key"]
    assert told["next"]["how"] and key.startswith("search:") and told["means"]
    out = enter(anna, built, entry("reading", key, reading={"value": told["means"][0]["value"]}))
    assert out["lost"] == [], "a reading of a search is no test that the design has lost"
    text = anna.get(url(built, "prove/readings.csv")).content.decode()
    assert f"{key}," in text, "what was read in a search stands in the record of readings"
    gone = entry("reading", "search:rest:no_such_part", reading={"value": 1.0})
    assert [e["target"] for e in enter(anna, built, gone)["lost"]] == [gone["target"]]
    again = anna.get(url(built, "prove/diagnosis")).json()
    assert len(again["readings"]) == 2 and again["next"]["key"] != key
    assert again["causes"][0]["keys"] == ["dead_cell house_bank"]


def test_two_faults_are_looked_into_one_at_a_time(anna: Person, built: Variant) -> None:
    plain = anna.get(url(built, "prove")).json()
    high = wanted(plain, "crank:starter:minus")["high"]
    enter(
        anna,
        built,
        entry("reading", "rest:house_bank", reading={"value": 10.4}),
        entry("reading", "crank:starter:minus", reading={"value": round(high + 0.9, 2)}),
    )

    def told(about: str) -> Any:
        return anna.get(url(built, f"prove/diagnosis?about={about}")).json()

    both = told("")
    assert {m["key"] for m in both["misses"]} == {"rest:house_bank", "crank:starter:minus"}
    assert both["causes"][0]["keys"] == ["none of these"]
    rest, crank = told("rest:house_bank"), told("crank:starter:minus")
    assert rest["causes"][0]["keys"] == ["dead_cell house_bank"] and rest["about"]
    assert crank["causes"][0]["keys"][0].startswith("added_resistance")
    assert [r["key"] for r in crank["readings"]] == ["crank:starter:minus"]
