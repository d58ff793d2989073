"""Log over the wire: entries, what is open and due, records taken in, charted, held against."""

from __future__ import annotations

import json
from datetime import UTC, datetime, timedelta
from typing import Any
from uuid import uuid4

import numpy as np
import pytest
from apps.jobs.documents import head_survey, surveyed_design
from apps.jobs.models import Job, Variant
from apps.logbook.analysing import analyse
from apps.logbook.importing import import_rows
from apps.logbook.models import Record, RecordAnalysis, RecordBlock
from django.test import Client
from strom_engine.dayrun import Plan, day_run
from strom_engine.dayrun.plan import EngineSpan, LivingSpan
from strom_engine.design import Bank
from strom_engine.faults import effects_of, fault_from_key
from strom_engine.interchange.record_rows import dump_records
from strom_engine.records import Monitor, recorded

from tests.server.conftest import Person
from tests.server.test_jobs import url

BEGINS = datetime(2025, 11, 5, 17, tzinfo=UTC)


@pytest.fixture
def built(job: Job) -> Variant:
    return job.variants.get(name="As found")


def entry(kind: str, target: str, **value: Any) -> dict[str, Any]:
    plain = {"id": str(uuid4()), "at": datetime.now(UTC).isoformat(), "revision": 1}
    return plain | {"kind": kind, "target": target} | value


def enter(person: Person, variant: Variant, *entries: Any, status: int = 200) -> Any:
    return person.post(url(variant, "log/entries"), {"entries": entries}, status)


def read(target: str, kind: str, *values: float, **more: Any) -> dict[str, Any]:
    return entry("reading", target, reading={"kind": kind, "values": values} | more)


def test_readings_are_judged_and_make_a_trend(anna: Person, built: Variant) -> None:
    bank = surveyed_design(built).by_id["house_bank"]
    assert isinstance(bank, Bank)
    years = [1.0, 0.92, 0.86, 0.78]
    now = datetime.now(UTC)
    told = [
        read("house_bank", "capacity_ah", share * bank.capacity_ah)
        | {"at": (now - timedelta(days=365 * (3 - n))).isoformat()}
        for n, share in enumerate(years)
    ]
    told.append(read("house_bank", "rest_v", 12.1, rested_h=10))
    for _ in range(2):  # the same may come twice
        out = enter(anna, built, *told)
    assert len(out["entries"]) == 5
    by = {t["kind"]["id"]: t for t in out["trends"]}
    ageing = by["capacity_ah"]["ageing"]
    # (1.00 - 0.78) / 3 by the ends; least squares over all four gives 0.072 a year.
    assert ageing["a_year"] == pytest.approx(-0.072 * bank.capacity_ah, rel=0.01)
    assert ageing["below"] > 0 and ageing["earliest_s"] <= ageing["below_at_s"]
    assert by["capacity_ah"]["latest"]["mark"] == "caution"
    assert by["rest_v"]["latest"]["mark"] in ("caution", "bad")
    text = anna.get(url(built, "log/readings.csv")).content.decode()
    assert text.count("Capacity, tested") == 4
    wrong = enter(anna, built, read("house_bank", "cells", 1265.0), status=422)
    assert wrong["errors"][0]["path"] == "entries[0].reading.values"


def test_a_crutch_stays_open_until_its_cause_is_cured(
    anna: Person, bo: Person, built: Variant
) -> None:
    crutch = entry(
        "setting",
        "alternator",
        setting={
            "name": "Bulk lasts at least",
            "old": "0 h",
            "new": "2 h",
            "why": "floats too early",
            "crutch": True,
            "cause": "sense wire on the machine",
        },
    )
    plain = entry("setting", "charger", setting={"name": "Float", "new": "13.5 V", "why": "AGM"})
    fault = entry("fault", "alternator", fault={"complaint": "house never full"})
    out = enter(anna, built, crutch, plain, fault)
    assert [s["id"] for s in out["open_settings"]] == [crutch["id"]]
    more = entry("fault", fault["id"], fault={"complaint": "house never full", "cause": "sense"})
    out = enter(anna, built, more)
    assert [f["fault"]["cause"] for f in out["open_faults"]] == ["sense"], "one fault, told further"
    refused = enter(anna, built, entry("cured", str(uuid4()), text="?"), status=422)
    assert "neither a setting nor a fault" in refused["detail"]
    out = enter(
        anna,
        built,
        entry("cured", crutch["id"], text="sense wires moved to the bank"),
        entry("cured", fault["id"], text="full again after two days"),
    )
    assert out["open_settings"] == [] and out["open_faults"] == []
    told = next(e for e in out["entries"] if e["id"] == crutch["id"])
    assert told["ended_words"] == "sense wires moved to the bank"
    assert bo.get(url(built, "log")).status_code == 404


def test_service_is_due_and_goes_into_a_calendar(anna: Person, bo: Person, built: Variant) -> None:
    job = built.job
    type(job).objects.filter(pk=job.pk).update(created=datetime.now(UTC) - timedelta(days=400))
    out = enter(anna, built, entry("note", "boat", text="first visit"))
    standing = {d["task"]["key"]: d["standing"] for d in out["due"]}
    assert standing["torque"] == "overdue" and "protection" not in standing
    out = enter(anna, built, entry("done", "torque", service={"note": "all tight"}))
    standing = {d["task"]["key"]: d["standing"] for d in out["due"]}
    assert standing["torque"] == "later"
    hours = [entry("done", "belt", service={"engine_h": 500}), read("first", "engine_h", 595)]
    belt = next(d for d in enter(anna, built, *hours)["due"] if d["task"]["key"] == "belt")
    assert (belt["standing"], belt["at_engine_h"]) == ("soon", 600)
    due = anna.get("/api/service/due").json()
    assert due[0]["boat"] == job.name and due[0]["standing"] == "overdue"
    assert bo.get("/api/service/due").json() == []
    address = anna.post("/api/service/calendar")["address"]
    path = address.removeprefix("http://testserver")
    text = Client().get(path).content.decode()
    assert "BEGIN:VCALENDAR" in text and f"SUMMARY:{job.name}: " in text
    again = anna.post("/api/service/calendar")["address"].removeprefix("http://testserver")
    assert Client().get(path).status_code == 404, "a new address ends the one before"
    assert anna.client.delete("/api/service/calendar").status_code == 204
    assert Client().get(again).status_code == 404


def monitor_file(variant: Variant, fault: str | None = None, every_s: float = 60.0) -> bytes:
    """What a monitor on the house bank wrote of two days at anchor with a run of the engine."""
    design = surveyed_design(variant)
    profile = next(p.id for p in design.profiles if not p.shore)
    plan = Plan(
        name="Two days",
        hours=40,
        clock_h=17,
        month=11,
        living=(LivingSpan(start_h=0, end_h=40, profile=profile),),
        engine=(
            EngineSpan(start_h=2, end_h=5, rpm=1800),
            EngineSpan(start_h=26, end_h=29, rpm=1800),
        ),
        soc={"house_bank": 0.55},
    )
    effects = effects_of(design, *([fault_from_key(design, fault)] if fault else []))
    bank = design.by_id["house_bank"]
    assert isinstance(bank, Bank)
    day = day_run(design, head_survey(variant), plan, effects)
    trace = recorded(day, bank, Monitor(every_s=every_s), BEGINS.timestamp())
    return dump_records(trace).encode()


def take(person: Person, variant: Variant, data: bytes, name: str = "log.csv") -> Any:
    path = url(variant, f"records?record={uuid4()}&bank=house_bank&name={name}")
    answer = person.client.post(path, data, content_type="application/octet-stream")
    assert answer.status_code == 200, answer.content[:400]
    return answer.json()


def start(person: Person, variant: Variant, record: Any, **told: Any) -> Any:
    body = {"layout": record["layout"], "driven": "engine"} | told
    path = url(variant, f"records/{record['id']}")
    answer = person.client.put(path, json.dumps(body), content_type="application/json")
    assert answer.status_code == 200, answer.content[:400]
    import_rows(record["id"])
    found = person.get(url(variant, "records")).json()["records"]
    return next(r for r in found if r["id"] == record["id"])


def test_records_are_read_charted_and_sent_on(anna: Person, bo: Person, built: Variant) -> None:
    data = monitor_file(built)
    taken = take(anna, built, data)
    quantities = [c["quantity"] for c in taken["layout"]["columns"]]
    assert quantities == ["time", "volts", "amps", "charge", "counted", "temperature"]
    assert take(anna, built, data)["id"] == taken["id"], "the same file is not taken in twice"
    done = start(anna, built, taken)
    rows = data.count(b"\n") - 1
    assert (done["status"], done["rows"], done["bad"]) == ("done", rows, 0), done["problems"][:3]
    lines = data.decode().splitlines()
    second = "\n".join([lines[0], "broken,12,1,0.5,0,20", *lines[100:200]]).encode()
    again = start(anna, built, take(anna, built, second, "again.csv"))
    assert (again["rows"], again["doubled"], again["bad"]) == (0, 100, 1), "nothing comes twice"
    assert again["problems"] == ["line 2: 'broken' is no time that is read here"]
    chart = anna.get(f"/api/jobs/{built.job_id}/records/chart?bank=house_bank").json()
    times, volts = chart["columns"]["volts_v"].values()
    told = [float(line.split(",")[1]) for line in lines[1:]]
    known = [v for v in volts if v is not None]
    assert len(times) < 2000 and (min(known), max(known)) == (min(told), max(told))
    text = anna.get(f"/api/records/{taken['id']}/rows.csv").content.decode()
    assert text.splitlines()[0] == lines[0] and text.count("\n") == rows + 1
    assert bo.get(f"/api/records/{taken['id']}/rows.csv").status_code == 404
    refused = anna.client.post(
        url(built, f"records?record={uuid4()}&bank=no_bank"), b"x", content_type="text/csv"
    )
    assert refused.status_code == 422
    assert anna.client.delete(f"/api/records/{taken['id']}").status_code == 204
    assert not RecordBlock.objects.filter(record=taken["id"]).exists()


def test_a_failing_source_is_seen_in_the_records(anna: Person, built: Variant) -> None:
    sick = start(
        anna, built, take(anna, built, monitor_file(built, "source_limited alternator =0.3"))
    )
    path = url(built, f"records/{sick['id']}/analysis")
    assert anna.post(path)["status"] == "waiting"
    analyse(RecordAnalysis.objects.get().pk)
    out = anna.post(path)
    assert out["status"] == "done" and not out["outdated"], out["problem"]
    held = out["held"]
    assert "first_a:engine" in [f["key"] for f in held["findings"]]
    assert "source_limited alternator" in held["causes"][0]["faults"]
    assert "engine" in {s["source"] for s in held["told"]["spells"]}
    built.refresh_from_db()
    anna.post(
        url(built, "changes"),
        {"base_revision": 1, "change": {"type": "remove_cable", "cable": "solar_house"}},
    )
    shown = anna.get(url(built, "records")).json()["records"][0]["analysis"]
    assert shown["outdated"], "the boat has changed since"


def test_a_wide_window_keeps_its_peaks_and_a_file_that_stops_can_go_on(
    anna: Person, built: Variant
) -> None:
    rng = np.random.default_rng(3)
    begins = BEGINS.timestamp()
    volts = 12.6 + 0.1 * rng.standard_normal(70_000)
    volts[31_234], volts[60_001] = 9.87, 15.21
    lines = ["unix time;mV", *(f"{begins + 2 * n:.0f};{1000 * v:.0f}" for n, v in enumerate(volts))]
    taken = take(anna, built, "\n".join(lines).encode())
    assert [c["unit"] for c in taken["layout"]["columns"]] == ["", "mV"]
    assert anna.client.post(f"/api/records/{taken['id']}/cancel").status_code == 204
    Record.objects.filter(pk=taken["id"]).update(confirmed=True)
    anna.client.post(f"/api/records/{taken['id']}/cancel")
    import_rows(taken["id"])
    assert Record.objects.get(pk=taken["id"]).status == "cancelled"
    done = start(anna, built, taken)
    assert (done["status"], done["rows"]) == ("done", 70_000)
    chart = anna.get(f"/api/jobs/{built.job_id}/records/chart?bank=house_bank").json()
    times, shown = chart["columns"]["volts_v"].values()
    assert len(times) < 2500
    assert (min(shown), max(shown)) == (pytest.approx(9.87), pytest.approx(15.21))
