"""Surveys over the wire: new boats, changes beside a variant's, tables, photographs, copies."""

from __future__ import annotations

import io
import json
from concurrent.futures import ThreadPoolExecutor
from typing import Any
from unittest.mock import patch

import pytest
from apps.accounts.models import Workshop
from apps.accounts.permissions import Writer
from apps.jobs.actions import import_job
from apps.jobs.models import Job, Variant
from apps.surveys.photos import MAX_PHOTOS
from django.core.management import call_command
from django.db import connection, connections
from django.db.migrations.executor import MigrationExecutor
from django.test import Client
from PIL import Image
from strom_engine.interchange import parse_job_text

from tests.engine.boats import DEMO
from tests.server.conftest import Person, make_person


def change(person: Person, job: Job, base: int, status: int = 200, **what: Any) -> Any:
    body = {"base_revision": base, "change": what}
    return person.post(f"/api/jobs/{job.pk}/survey/changes", body, status)


def loads(person: Person, variant: Variant) -> Any:
    return person.get(f"/api/variants/{variant.pk}/loads").json()["report"]


def test_a_boat_from_nothing(anna: Person) -> None:
    told = {"name": "New boat", "kind": "cruising_yacht", "switching": "selector"}
    made = anna.post("/api/jobs", told)
    [variant] = made["variants"]
    assert (variant["name"], made["boat"]["kind"]) == ("As found", "Cruising yacht")
    found = anna.get(f"/api/variants/{variant['id']}/surveyed").json()["to_find_out"]
    assert {row["section"] for row in found} >= {"Boat", "Runs", "Banks", "Sources", "Loads"}
    wrong = anna.post("/api/jobs", told | {"kind": "cruising_yatch"}, 422)
    assert "did you mean 'cruising_yacht'" in wrong["detail"]
    assert anna.post("/api/jobs", told | {"name": " "}, 422)["errors"][0]["path"] == "name"


def test_a_changed_load_reaches_audit_bench_and_findings(
    anna: Person, job: Job, variant: Variant
) -> None:
    def panel() -> dict[str, float]:
        scheme = anna.get(f"/api/variants/{variant.pk}/scheme").json()
        parts = {p["id"]: p for p in scheme["design"]["components"]}
        return {i["id"]: i["draw_a"] for i in parts["house_panel"]["items"]}

    before = loads(anna, variant)["audit"]["profiles"][0]["charge_ah"]
    row = {"id": "fridge", "draw": 6.4}
    saved = change(anna, job, 1, type="put_rows", list="items", rows=[row])
    assert (saved["revision"], saved["can_undo"]) == (2, "Refrigerator: draw 4.4 to 6.4")
    after = loads(anna, variant)["audit"]["profiles"][0]["charge_ah"]
    assert after - before == pytest.approx(2.0 * 24 * 0.45)  # 2 A more, 24 h, duty 0.45
    assert panel()["fridge"] == 6.4
    undone = anna.post(f"/api/jobs/{job.pk}/survey/undo", {"base_revision": 2})
    assert undone["can_redo"] == "Refrigerator: draw 4.4 to 6.4"
    assert panel()["fridge"] == 4.4
    assert variant.revisions.count() == 1


def test_two_people_survey_one_boat(anna: Person, job: Job) -> None:
    change(anna, job, 1, type="set_section", section="boat", fields={"coldest_c": -8})
    # made on version 1 too, on another field: rebased
    both = change(anna, job, 1, type="set_section", section="boat", fields={"hull": "other"})
    assert (both["survey"]["boat"]["coldest_c"], both["survey"]["boat"]["hull"]) == (-8, "other")
    clash = change(anna, job, 1, 409, type="set_section", section="boat", fields={"coldest_c": 2})
    assert clash["saved_meanwhile"][0] == "Boat: coldest c -8"
    history = anna.get(f"/api/jobs/{job.pk}/survey/revisions").json()
    assert history[0]["kind"] == "aside"
    put = {"base_revision": 3, "revision": clash["kept_revision"]}
    mine = anna.post(f"/api/jobs/{job.pk}/survey/restore", put)
    assert mine["survey"]["boat"]["coldest_c"] == 2


@pytest.mark.parametrize(
    ("what", "path", "words"),
    [
        (
            {"type": "put_rows", "list": "items", "rows": [{"id": "fridge", "draw": -1}]},
            "items[0].draw",
            "Refrigerator: ",
        ),
        (
            {
                "type": "put_rows",
                "list": "items",
                "rows": [{"id": "fridge", "uses": {"at_anchor": {"hours": 30}}}],
            },
            "items[0].uses.at_anchor.hours",
            "24",
        ),
        ({"type": "remove_rows", "list": "items", "ids": ["fridg"]}, "ids", "'fridge'"),
        ({"type": "set_section", "section": "boat", "fields": {"keel": 1}}, "boat.keel", ""),
        ({"type": "sink"}, "change", "type 'sink' is unknown"),
    ],
)
def test_bad_changes_name_the_place(
    anna: Person, job: Job, what: dict[str, Any], path: str, words: str
) -> None:
    refused = change(anna, job, 1, 422, **what)
    assert any(e["path"] == path and words in e["message"] for e in refused["errors"])
    assert job.survey.revisions.count() == 1


def test_a_table_is_read_and_nothing_saved_until_confirmed(anna: Person, job: Job) -> None:
    path = f"/api/jobs/{job.pk}/rows/items"

    def read(text: bytes, status: int = 200) -> Any:
        response = anna.client.post(path, text, content_type="text/csv")
        assert response.status_code == status
        return response.json()

    table = b"Load;Amps;At anchor\nRefrigerator;5.5;24\nPump;4,2;1\nLamp;1;30\n"
    told = read(table)
    assert [r["draw"] for r in told["rows"]] == [5.5]
    assert told["rows"][0]["duty"] == 0.45  # what the table has no column for is kept
    assert [p["path"] for p in told["problems"]] == [
        "row 3, column draw",
        "row 4, column hours at_anchor",
    ]
    assert "4.2" in told["problems"][0]["message"]
    change(anna, job, 1, type="put_rows", list="items", rows=told["rows"])
    assert "empty" in read(b"", 422)["detail"]
    assert "100,000 rows" in read(b"name\n" + b"a\n" * 100_000, 422)["detail"]
    assert read("name\nKøl\n".encode("cp1252"))["notes"]
    assert read(b"\xff\xd8\x00\x01", 422)["errors"]
    exported = anna.get(path).content
    assert read(exported)["problems"] == []


def picture(kind: str, size: tuple[int, int] = (3000, 2000)) -> bytes:
    out = io.BytesIO()
    image = Image.new("RGB", size, "teal")
    exif = Image.Exif()
    exif[0x0112], exif[0x010E] = 6, "somewhere"  # turned, with words of the camera
    image.save(out, kind, **({"exif": exif} if kind == "JPEG" else {}))
    return out.getvalue()


def test_photographs_are_scaled_turned_and_cleaned(anna: Person, bo: Person, job: Job) -> None:
    def send(data: bytes) -> Any:
        return anna.client.post(
            f"/api/jobs/{job.pk}/photos?caption=Panel",
            data,
            content_type="application/octet-stream",
        )

    made = send(picture("JPEG")).json()
    assert (made["width"], made["height"], made["caption"]) == (1067, 1600, "Panel")
    kept = anna.get(f"/api/photos/{made['id']}")
    assert kept["Content-Type"] == "image/jpeg"
    assert not Image.open(io.BytesIO(kept.content)).getexif()
    assert bo.get(f"/api/photos/{made['id']}").status_code == 404
    assert send(picture("PNG", (40, 30))).status_code == 200
    for bad in (b"", b"GIF89a", b"<svg/>", picture("GIF"), picture("JPEG")[:3000]):
        assert send(bad).status_code == 422
    assert send(b"x" * 16_000_001).status_code == 413
    caption = json.dumps({"caption": "Behind the panel"})
    anna.client.put(f"/api/photos/{made['id']}", caption, content_type="application/json")
    listed = anna.get(f"/api/jobs/{job.pk}/photos").json()
    assert [p["caption"] for p in listed] == ["Behind the panel", "Panel"]
    assert anna.client.delete(f"/api/photos/{made['id']}").status_code == 204
    assert job.photos.count() == 1


def test_found_parts_copies_and_the_chosen_bank(anna: Person, job: Job, variant: Variant) -> None:
    told = {"base_revision": 1, "kind": "charger", "name": "Old charger", "bank": "house_bank"}
    scheme = anna.post(f"/api/variants/{variant.pk}/found", told)
    assert scheme["can_undo"] == "Put in Old charger"
    assert anna.post(f"/api/variants/{variant.pk}/found", told | {"bank": "no"}, 422)["errors"]
    copy = anna.post(f"/api/variants/{variant.pk}/copy", {"name": "Proposal D"})
    assert copy["name"] == "Proposal D"
    anna.post(f"/api/variants/{variant.pk}/copy", {"name": "Proposal D"}, 422)
    plan = anna.get(f"/api/variants/{copy['variant']}/banks").json()["plan"]
    bank = next(c for c in plan["candidates"] if c["chemistry"] == "lfp")["bank"]
    names = ("chemistry", "unit_v", "unit_ah", "series", "parallel", "unit_weight_kg")
    fields = {name: bank[name] for name in names}
    chosen = {"type": "choose_bank", "bank": "house_bank"} | fields
    body = {"base_revision": 1, "change": chosen}
    anna.post(f"/api/variants/{copy['variant']}/changes", body)
    after = anna.get(f"/api/variants/{copy['variant']}/findings").json()["findings"]
    assert any(f["rule"] == "CH-1" for f in after)  # lithium joined to lead by the selector
    now = anna.get(f"/api/variants/{copy['variant']}/banks").json()["plan"]
    assert now["candidates"][0]["chemistry"] == "lfp"


def test_helpers(anna: Person) -> None:
    guess = anna.post("/api/gauge-reading", {"outside_mm": 11.0})
    assert guess["guesses"][0]["gauge"] == "2 AWG"
    assert anna.post("/api/gauge-reading", {}, 422)["errors"]
    assert anna.get("/api/cranking?power_kw=1.8").json()["cranking_a"] == 312
    picked = anna.get("/api/choices").json()
    assert {len(picked[k]) > 3 for k in ("boat_kinds", "loads", "batteries", "chemistries")} == {
        True
    }


@pytest.mark.django_db(transaction=True)
def test_jobs_of_the_first_version_get_a_survey() -> None:
    old = parse_job_text((DEMO / "pilot_3.json").read_bytes()).variants[0].design
    executor = MigrationExecutor(connection)
    executor.migrate([("jobs", "0001_initial")])
    apps = executor.loader.project_state([("jobs", "0001_initial")]).apps
    workshop = Workshop.objects.create(name="Before")
    boat = {"kind": "Workboat", "length_m": 7, "notes": "flat by noon"}
    job = apps.get_model("jobs", "Job").objects.create(
        workshop_id=workshop.pk, name="Old", boat=boat
    )
    variant = apps.get_model("jobs", "Variant").objects.create(job=job, name="As found", place=0)
    design = old.model_dump(mode="json")
    apps.get_model("jobs", "Revision").objects.create(
        variant=variant, number=1, kind="import", words="Loaded", design=design, shows=1
    )
    call_command("migrate", "jobs", verbosity=0)
    document = Job.objects.get().survey.revisions.get().document
    assert document["boat"] | boat | {"fuel": "petrol"} == document["boat"]
    assert [p["id"] for p in document["profiles"]] == ["working", "moored"]


def test_the_audit_comes_back_with_a_change_where_it_is_asked_for(
    anna: Person, job: Job, variant: Variant
) -> None:
    row = {"id": "fridge", "draw": 6.4}
    body = {"base_revision": 1, "change": {"type": "put_rows", "list": "items", "rows": [row]}}
    path = f"/api/jobs/{job.pk}/survey/changes"
    saved = anna.post(path, body | {"loads_of": str(variant.pk)})
    assert saved["loads"] == loads(anna, variant)
    assert anna.post(path, body | {"base_revision": 2})["loads"] is None
    stranger = "00000000-0000-4000-8000-000000000000"
    anna.post(path, body | {"base_revision": 3, "loads_of": stranger}, 404)
    assert job.survey.revisions.count() == 3  # what answers that nothing was found saves nothing


def test_a_job_holds_a_bounded_number_of_photographs_and_variants(
    anna: Person, job: Job, variant: Variant
) -> None:
    small = picture("PNG", (8, 8))
    path = f"/api/jobs/{job.pk}/photos"
    kinds = {"content_type": "application/octet-stream"}
    assert MAX_PHOTOS == 120
    with patch("apps.surveys.photos.MAX_PHOTOS", 24):  # as many posts again would tell no more
        answers = [anna.client.post(path, small, **kinds).status_code for _ in range(25)]
    assert answers == [200] * 24 + [422]
    for n in range(20 - job.variants.count()):
        anna.post(f"/api/variants/{variant.pk}/copy", {"name": f"Copy {n}"})
    refused = anna.post(f"/api/variants/{variant.pk}/copy", {"name": "One more"}, 422)
    assert "20 variants" in refused["detail"]


def test_a_job_leaves_and_enters_with_its_survey(anna: Person, bo: Person, job: Job) -> None:
    change(anna, job, 1, type="set_section", section="boat", fields={"coldest_c": -9})
    exported = anna.get(f"/api/jobs/{job.pk}/export").content
    brought = bo.post("/api/jobs/import", exported)
    survey = bo.get(f"/api/jobs/{brought['id']}/survey").json()["survey"]
    assert survey == anna.get(f"/api/jobs/{job.pk}/survey").json()["survey"]
    assert bo.get(f"/api/jobs/{brought['id']}/export").content == exported
    broken = json.loads(exported)
    broken["survey"]["runs"][0]["length_m"] = -1
    broken["variants"][0]["design"]["system_v"] = 13
    refused = bo.post("/api/jobs/import", broken, 422)
    assert {e["path"] for e in refused["errors"]} == {
        "survey.runs[0].length_m",
        "variants[0].design.system_v",
    }


@pytest.mark.django_db(transaction=True)
def test_many_hands_on_one_survey_lose_nothing() -> None:
    """Eight people save at the same time, each another load: all are kept, none overwritten."""
    anna = make_person("anna")
    text = (DEMO / "marsh_wren.json").read_bytes()
    job = import_job(anna.user.workshop, Writer(anna.user), parse_job_text(text))
    ids = [item.id for item in parse_job_text(text).survey.items][:8]

    def save(n: int) -> int:
        client = Client()
        client.force_login(anna.user)
        row = {"id": ids[n], "draw": 10.0 + n}
        body = {"base_revision": 1, "change": {"type": "put_rows", "list": "items", "rows": [row]}}
        try:
            path = f"/api/jobs/{job.pk}/survey/changes"
            answer = client.post(path, json.dumps(body), content_type="application/json")
            return answer.status_code
        finally:
            connections.close_all()

    with ThreadPoolExecutor(8) as hands:
        assert list(hands.map(save, range(8))) == [200] * 8
    saved = anna.get(f"/api/jobs/{job.pk}/survey").json()
    draws = {item["id"]: item["draw"] for item in saved["survey"]["items"]}
    assert [draws[i] for i in ids] == [10.0 + n for n in range(8)]
    assert saved["revision"] == 9


def test_found_parts_and_chosen_banks_are_told_in_the_history(
    anna: Person, variant: Variant
) -> None:
    told = {"base_revision": 1, "kind": "switch", "name": "House isolator", "bank": "house_bank"}
    scheme = anna.post(f"/api/variants/{variant.pk}/found", told)
    ends = {c["id"]: (c["start"], c["end"]) for c in scheme["design"]["cables"]}
    assert ends["house_to_two"][0] == "switch_1.b"  # what the bank fed is behind the switch
    assert ends["solar_house"][1] == "house_bank.pos"  # what charges it stays
    assert {s["id"] for s in scheme["switches"]} >= {"switch_1", "selector"}
    anna.post(f"/api/variants/{variant.pk}/undo", {"base_revision": 2})
    words = [r["words"] for r in anna.get(f"/api/variants/{variant.pk}/revisions").json()]
    assert words[:2] == ["Undid: Put in House isolator", "Put in House isolator"]
