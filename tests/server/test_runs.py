"""Runs over the wire: the report, choosing, what-if, tables, repairs, waivers, stock, rules."""

from __future__ import annotations

import json
from typing import Any

import pytest
from apps.jobs.models import Job, Variant
from strom_calc.__main__ import main as calc

from tests.engine.boats import DEMO
from tests.server.conftest import Person
from tests.server.test_jobs import scheme, send, url


def runs(person: Person, variant: Variant) -> Any:
    response = person.get(url(variant, "runs"))
    assert response.status_code == 200, response.content[:500]
    return response.json()


def set_cables(
    person: Person, variant: Variant, base: int, status: int = 200, **fields: Any
) -> Any:
    rows = [{"cable": "solar_house", "fields": fields}]
    return person.post(url(variant, "cables"), {"base_revision": base, "rows": rows}, status)


def row(report: Any, cable: str) -> Any:
    return next(r for r in report["rows"] if any(leg["cable"] == cable for leg in r["legs"]))


def test_report_and_findings_are_what_the_command_line_prints(
    anna: Person, variant: Variant, capsys: pytest.CaptureFixture[str]
) -> None:
    def printed(command: str) -> Any:
        assert calc([command, str(DEMO / "marsh_wren.json"), "--variant", variant.name]) == 0
        return json.loads(capsys.readouterr().out)

    sent = runs(anna, variant)
    assert sent["report"] == printed("runs")
    assert anna.get(url(variant, "findings")).json()["findings"] == printed("findings")
    assert sent["gauges"][0] == "18 AWG" and sent["confirm"] == "confirm in the edition in force"
    assert all(r["working"] for r in sent["report"]["rows"])


def test_figures_of_a_cable_bring_its_row_and_the_findings(anna: Person, variant: Variant) -> None:
    thin = row(runs(anna, variant)["report"], "solar_house")
    answer = set_cables(anna, variant, 1, gauge="2/0 AWG", bundled=3)
    assert (answer["revision"], answer["runs"]["revision"]) == (2, 2)
    thick = row(answer["runs"]["report"], "solar_house")
    assert thick["path_percent"] < thin["path_percent"]
    assert answer["findings"]["revision"] == 2 and "2/0 AWG" in answer["can_undo"]
    assert scheme(anna, variant)["design"] == answer["design"]
    wrong = set_cables(anna, variant, 2, 422, gauge="9 AWG", colour="pink")
    assert [e["path"] for e in wrong["errors"]] == [
        "rows[0].fields.gauge", "rows[0].fields.colour",
    ]  # fmt: skip
    assert set_cables(anna, variant, 2, 422, start="house_bank.pos")["errors"]


def test_what_if_saves_nothing(anna: Person, variant: Variant) -> None:
    rows = [{"cable": "solar_house", "fields": {"gauge": "14 AWG"}}]
    tried = anna.post(url(variant, "runs/what-if"), {"rows": rows})
    assert tried["then"]["path_percent"] > tried["now"]["path_percent"]
    assert any("Solar" in title for title in tried["come"])
    assert scheme(anna, variant)["revision"] == 1
    missing = [{"cable": "nothing", "fields": {}}]
    anna.post(url(variant, "runs/what-if"), {"rows": missing}, 422)


def test_choosing_shows_first_and_is_one_change(anna: Person, variant: Variant) -> None:
    set_cables(anna, variant, 1, locked=True)
    chosen = anna.post(url(variant, "runs/choice"), {})
    assert chosen["lines"] and scheme(anna, variant)["revision"] == 2
    before = {c["id"]: c for c in scheme(anna, variant)["design"]["cables"]}
    after = send(anna, variant, 2, chosen["change"])
    assert after["can_undo"].startswith("Chose sizes and devices for every run")
    now = {c["id"]: c for c in after["design"]["cables"]}
    assert now["solar_house"]["gauge"] == before["solar_house"]["gauge"]
    assert sum(r["verdict"] == "bad" for r in runs(anna, variant)["report"]["rows"]) < 6
    back = anna.post(url(variant, "undo"), {"base_revision": 3})
    assert {c["id"] for c in back["design"]["cables"]} == set(before)
    anna.post(url(variant, "runs/choice"), {"cables": ["nothing"]}, 422)


def test_tables_go_out_and_come_in(anna: Person, variant: Variant) -> None:
    out = anna.get(url(variant, "runs.csv"))
    assert out["Content-Type"].startswith("text/csv")
    text = out.content.decode().replace("solar_house,", "solar_hose,")
    read = anna.post(url(variant, "runs.csv"), text)
    assert read["rows"] == [] and len(read["problems"]) == 1
    assert "solar_house" in read["problems"][0]["message"]
    read = anna.post(url(variant, "runs.csv"), "cable;length_m\nsolar_house;4.4\n")
    assert read["rows"] == [{"cable": "solar_house", "fields": {"length_m": 4.4}}]
    anna.post(url(variant, "runs.csv"), "", 422)


def test_repairs_are_listed_before_they_are_made(anna: Person, variant: Variant) -> None:
    found = anna.get(url(variant, "findings")).json()
    plan = anna.post(url(variant, "repairs"), {})
    assert {r["finding"] for r in plan["repairs"]} & set(found["safe"])
    one = anna.post(url(variant, "repairs"), {"keys": [found["safe"][0]]})
    assert {r["finding"] for r in one["repairs"]} == {found["safe"][0]}
    send(anna, variant, 1, plan["change"])
    left = anna.get(url(variant, "findings")).json()["findings"]
    assert [f["key"] for f in left] == [f["key"] for f in plan["left"]]
    assert len(left) < len(found["findings"])


def test_a_waiver_is_kept_dated_and_can_be_withdrawn(
    anna: Person, bo: Person, variant: Variant, job: Job
) -> None:
    found = anna.get(url(variant, "findings")).json()["findings"]
    key = found[0]["key"]
    counted = anna.get(f"/api/jobs/{job.pk}").json()["variants"][0]["findings"]
    assert counted == len(found)
    sent = anna.post(url(variant, "waivers"), {"finding": key, "reason": "The mast is off."})
    [waiver] = sent["waivers"]
    assert (waiver["finding"], waiver["author"]) == (key, "anna")
    assert waiver["created"] and waiver["title"] == found[0]["title"]
    assert anna.get(f"/api/jobs/{job.pk}").json()["variants"][0]["findings"] == counted - 1
    # Set again, it has another reason and the old one is kept; who saw neither is told of both.
    reasoned = {"finding": key, "reason": "Sold without.", "base_revision": 1}
    again = anna.post(url(variant, "waivers"), reasoned)
    assert [(w["reason"], w["revision"]) for w in again["waivers"]] == [("Sold without.", 2)]
    assert "Sold without." in anna.post(url(variant, "waivers"), reasoned, 409)["detail"]
    assert [w.reason for w in variant.waivers.all()] == ["The mast is off.", "Sold without."]
    anna.post(url(variant, "waivers"), {"finding": "XX-1 nothing", "reason": "Because."}, 422)
    anna.post(url(variant, "waivers"), {"finding": key, "reason": " "}, 422)
    # What is graver now than when it was waived counts again.
    variant.waivers.update(severity="note")
    lapsed = anna.get(url(variant, "findings")).json()["waivers"]
    assert [w["lapsed"] for w in lapsed] == [found[0]["severity"] != "note"]
    assert anna.get(f"/api/jobs/{job.pk}").json()["variants"][0]["findings"] == counted
    assert anna.client.delete(url(variant, f"waivers/{waiver['id']}")).status_code == 409
    path = url(variant, f"waivers/{again['waivers'][0]['id']}")
    assert bo.client.delete(path).status_code == 404
    assert anna.client.delete(path).json()["waivers"] == []
    assert anna.client.delete(path).status_code == 409


def test_the_stock_is_the_workshop_s_own(anna: Person, bo: Person, variant: Variant) -> None:
    stock = anna.get("/api/stock").json()
    assert stock["own"] is False and "2/0 AWG" in stock["sizes"]
    few = stock["stock"] | {
        "cables": [
            {"gauge": "35 mm2", "copper_mm2": 34.0, "insulation_c": 90, "price_per_m": 8.5},
            {"gauge": "120 mm2", "insulation_c": 105, "price_per_m": 31},
        ],
        "currency": "kr",
    }

    def put(base: int, stock: Any) -> Any:
        body = {"base_revision": base, "stock": stock}
        return anna.client.put("/api/stock", body, content_type="application/json")

    assert put(1, few).json()["own"] is True
    quicker = put(1, few)  # somebody else had kept one since
    assert quicker.status_code == 409 and "in between" in quicker.json()["detail"]
    sent = runs(anna, variant)
    assert (sent["gauges"], sent["currency"]) == (["35 mm2", "120 mm2"], "kr")
    chosen = anna.post(url(variant, "runs/choice"), {"only_weak": False})
    rows = [r for c in chosen["change"]["changes"] if c["type"] == "set_cables" for r in c["rows"]]
    assert {r["fields"]["gauge"] for r in rows if "gauge" in r["fields"]} <= {"35 mm2", "120 mm2"}
    assert bo.get("/api/stock").json()["own"] is False
    wrong = few | {"cables": [{"gauge": "2/0 AWG", "copper_mm2": 5}]}
    refused = put(2, wrong)
    assert refused.status_code == 422 and "far from" in refused.json()["detail"]
    assert put(2, None).json()["own"] is False
    assert [s.document is None for s in anna.user.workshop.stocks.all()] == [True, False, True]


def test_the_rule_book_tells_what_each_rule_found(anna: Person, variant: Variant) -> None:
    book = anna.get(url(variant, "rules")).json()
    found = anna.get(url(variant, "findings")).json()["findings"]
    assert sum(len(rule["found"]) for rule in book["rules"]) == len(found)
    first = book["rules"][0]
    assert first["id"] == "OC-1" and first["stage"] == "runs" and len(first["figures"]) == 3
    assert all(rule["source"] and rule["checks"] for rule in book["rules"])


def test_whose_figures_is_a_matter_of_the_job(anna: Person, variant: Variant, job: Job) -> None:
    change = {"type": "set_section", "section": "practice"}
    body = {"base_revision": 1, "change": change | {"fields": {"standard": "iso", "sizes": "mm2"}}}
    anna.post(f"/api/jobs/{job.pk}/survey/changes", body)
    sent = runs(anna, variant)
    assert sent["report"]["standard"] == "iso" and sent["gauges"][0] == "0.75 mm2"
    assert any("ISO" in source["source"] for source in sent["report"]["sources"])


def test_strangers_see_no_runs(bo: Person, variant: Variant) -> None:
    for path in ("runs", "runs.csv", "rules"):
        assert bo.get(url(variant, path)).status_code == 404
    for path in ("runs/choice", "repairs"):
        bo.post(url(variant, path), {}, 404)
