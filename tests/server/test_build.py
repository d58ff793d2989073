"""Build over the wire: one answer, entries sent twice and by two, prices, tables and the pack."""

from __future__ import annotations

import io
import json
import re
import zlib
from datetime import UTC, datetime, timedelta
from typing import Any
from unittest.mock import patch
from uuid import uuid4

import pytest
from apps.accounts.models import User
from apps.build.models import BuildEntry
from apps.jobs.models import Job, Variant
from apps.prints.work import make_print
from django.core.management import call_command
from django.test import Client
from openpyxl import Workbook, load_workbook
from PIL import Image

from tests.server.conftest import Person
from tests.server.test_jobs import send, url


@pytest.fixture
def chosen(job: Job) -> Variant:
    return job.variants.get(chosen=True)


def build(person: Person, variant: Variant) -> Any:
    response = person.get(url(variant, "build"))
    assert response.status_code == 200, response.content[:500]
    return response.json()


def entry(kind: str, target: str, **value: Any) -> dict[str, Any]:
    plain = {"id": str(uuid4()), "at": datetime.now(UTC).isoformat(), "revision": 1}
    return plain | {"kind": kind, "target": target} | value


def enter(person: Person, variant: Variant, *entries: Any, status: int = 200) -> Any:
    return person.post(url(variant, "build/entries"), {"entries": entries}, status)


def test_one_answer_holds_all_and_an_entry_may_come_twice(anna: Person, chosen: Variant) -> None:
    out = build(anna, chosen)
    assert out["against"] == "As found" and out["book"]["order"]["hazards"] == []
    step = out["book"]["order"]["steps"][0]["key"]
    assert out["state"]["next_step"] == step
    ticked = entry("tick", step, done=True)
    for _ in range(2):
        state = enter(anna, chosen, ticked)["state"]
    assert BuildEntry.objects.count() == 1
    assert state["ticks"][step]["author"] == "anna" and state["steps_done"] == 1
    state = enter(anna, chosen, entry("tick", step, done=False))["state"]
    assert state["steps_done"] == 0 and BuildEntry.objects.count() == 2, "nothing is overwritten"


def test_two_people_tick_at_once_and_both_stay(anna: Person, chosen: Variant) -> None:
    carl = User.objects.create_user("carl", workshop=anna.user.workshop)
    other = Person(Client(), carl)
    other.client.force_login(carl)
    steps = [s["key"] for s in build(anna, chosen)["book"]["order"]["steps"]]
    enter(anna, chosen, entry("tick", steps[0], done=True))
    ticks = enter(other, chosen, entry("tick", steps[1], done=True))["state"]["ticks"]
    assert {t["author"] for t in ticks.values()} == {"anna", "carl"}


def test_measured_lengths_cut_and_what_the_design_lost_is_kept(
    anna: Person, chosen: Variant
) -> None:
    cuts = build(anna, chosen)["book"]["cuts"]
    first = next(c for c in cuts if c["provisional"])
    made = [entry("length", first["key"], length_m=2.0), entry("tick", "crimp:lost", done=True)]
    out = enter(anna, chosen, *made)
    again = next(c for c in out["book"]["cuts"] if c["key"] == first["key"])
    assert (again["cut_m"], again["provisional"]) == (2.06, False)
    assert [e["target"] for e in out["state"]["lost"]] == ["crimp:lost"]
    # On another revision what was entered stays, and is marked.
    send(anna, chosen, 1, {"type": "set_part", "part": "fuse_1", "fields": {"name": "Renamed"}})
    assert build(anna, chosen)["state"]["lengths"][first["key"]]["outdated"] is True


def test_bad_entries_are_refused_with_every_reason(anna: Person, chosen: Variant) -> None:
    ahead = (datetime.now(UTC) + timedelta(days=3)).isoformat()
    wrong = [entry("tick", "x"), entry("note", "x", text="so") | {"at": ahead}]
    told = enter(anna, chosen, *wrong, status=422)
    assert [e["path"] for e in told["errors"]] == ["entries[0].done", "entries[1].at"]
    order = entry("order", "build", keys=["out:posts"])
    told = enter(anna, chosen, order, status=422)
    assert "is handled with its negative on" in told["detail"]
    assert BuildEntry.objects.count() == 0
    keys = [s["key"] for s in build(anna, chosen)["book"]["order"]["steps"]]
    swapped = [keys[1], keys[0], *keys[2:]]
    out = enter(anna, chosen, entry("order", "build", keys=swapped))
    assert [s["key"] for s in out["book"]["order"]["steps"]] == swapped


def test_prices_tables_labels_and_the_pack(anna: Person, bo: Person, chosen: Variant) -> None:
    line = build(anna, chosen)["book"]["parts"]["lines"][0]
    rows = [{"item": line["item"], "price": 199.5}]
    anna.post(url(chosen, "build/prices"), {"rows": rows})
    rows = [{"item": line["item"], "kept": 1, "note": "=ordered"}]
    out = anna.post(url(chosen, "build/prices"), {"rows": rows})
    priced = out["book"]["parts"]["lines"][0]
    assert (priced["price"], priced["kept"]) == (199.5, 1), "what a row leaves out stays"
    sheet = load_workbook(io.BytesIO(anna.get(url(chosen, "build/parts.xlsx")).content)).active
    assert sheet is not None and sheet["B2"].value == line["what"] and sheet["G2"].value == 199.5
    text = anna.get(url(chosen, "build/parts.csv")).content.decode()
    assert text.startswith("Group,What") and "'=ordered" in text
    assert "ALWAYS LIVE" in anna.get(url(chosen, "build/labels.csv")).content.decode()
    assert bo.get(url(chosen, "build")).status_code == 404


def test_prices_and_receipts_come_from_a_table_or_a_workbook(anna: Person, chosen: Variant) -> None:
    out = build(anna, chosen)
    first, second = out["book"]["parts"]["lines"][:2]
    table = [
        ["Item", "Price each", "Received"],
        [first["item"], 12.5, first["needed"]],
        [second["item"], "cheap", ""],
        ["no such", 1, 1],
    ]
    book = Workbook()
    for row in table:
        book.active.append(row)  # type: ignore[union-attr]  # a new workbook has a sheet
    data = io.BytesIO()
    book.save(data)
    text = "\n".join(";".join(str(cell) for cell in row) for row in table)
    for body in (data.getvalue(), text.encode()):
        read = anna.client.post(url(chosen, "build/parts.csv"), body, content_type="text/csv")
        told = read.json()
        [row] = told["rows"]
        assert (row["key"], row["price"], row["received"]) == (first["key"], 12.5, first["needed"])
        places = ["row 3, column price", "row 4, column item"]
        assert [p["path"] for p in told["problems"]] == places
    broken = anna.client.post(url(chosen, "build/parts.csv"), b"PK!", content_type="text/csv")
    assert broken.status_code == 422 and "no workbook" in broken.json()["errors"][0]["message"]
    own = anna.get(url(chosen, "build/parts.csv")).content
    again = anna.client.post(url(chosen, "build/parts.csv"), own, content_type="text/csv").json()
    assert (again["rows"], again["problems"]) == ([], []), "our own table says nothing new"


def pages_of(pdf: bytes) -> int:
    """Pages of a PDF, whose objects may be packed."""
    packed = re.findall(rb"stream\r?\n(.*?)\r?\nendstream", pdf, re.DOTALL)
    plain = [zlib.decompress(s) for s in packed if s[:1] == b"x"]
    return sum(len(re.findall(rb"/Type\s*/Page\b", text)) for text in [pdf, *plain])


def test_a_worker_makes_the_pack_and_the_same_one_once(
    anna: Person, bo: Person, chosen: Variant, django_capture_on_commit_callbacks: Any
) -> None:
    ask = {"sheet": "labels", "paper": "letter", "columns": 3, "rows": 8}
    with django_capture_on_commit_callbacks(execute=True):
        waiting = anna.post(url(chosen, "build/pack"), ask)
    assert waiting["status"] == "waiting"
    file = f"/api/prints/{waiting['id']}/file"
    assert anna.get(file).status_code == 404, "not made yet"
    make_print(waiting["id"])
    done = anna.post(url(chosen, "build/pack"), ask)
    assert (done["id"], done["status"]) == (waiting["id"], "done"), "the same is made once"
    assert anna.get(file).content[:5] == b"%PDF-" and bo.get(file).status_code == 404
    pages = pages_of(anna.get(file).content)
    labels = len(build(anna, chosen)["book"]["labels"])
    assert pages == -(-labels // 24), (pages, labels)
    enter(anna, chosen, entry("note", "build", text="windy"))
    assert anna.post(url(chosen, "build/pack"), ask)["id"] != done["id"], "it is outdated now"
    anna.post(url(chosen, "build/pack"), ask | {"paper": "A3"}, status=422)
    with patch("apps.build.pack.build_of", side_effect=RuntimeError):
        failing = anna.post(url(chosen, "build/pack"), ask | {"rows": 9})
        make_print(failing["id"])
    told = anna.get(f"/api/prints/{failing['id']}").json()
    assert (told["status"], told["problem"][:18]) == ("failed", "the program failed")


def test_a_photograph_stands_at_its_step(anna: Person, chosen: Variant) -> None:
    picture = io.BytesIO()
    Image.new("RGB", (60, 40), "navy").save(picture, "PNG")
    photos = f"/api/jobs/{chosen.job_id}/photos"
    kind = "application/octet-stream"
    made = anna.client.post(photos, picture.getvalue(), content_type=kind).json()
    out = enter(anna, chosen, entry("photo", "off:loads", photo=made["id"]))
    [at] = out["state"]["photos"]
    assert (at["photo"], at["target"]) == (made["id"], "off:loads")
    told = enter(anna, chosen, entry("photo", "off:loads", photo=str(uuid4())), status=422)
    assert told["errors"][0]["path"] == "entries[0].photo"


def test_what_is_cut_is_booked_once_and_the_rest_goes_back(anna: Person, chosen: Variant) -> None:
    stock = anna.get("/api/stock").json()
    reels = [{"id": "reel_1", "gauge": "4 AWG", "colour": "red", "length_m": 12.0}]
    body = {"base_revision": stock["revision"], "stock": stock["stock"] | {"reels": reels}}
    text = json.dumps(body)
    assert anna.client.put("/api/stock", text, content_type="application/json").status_code == 200
    plan = build(anna, chosen)["book"]["plan"]
    [cut] = [c for c in plan["cuts"] if c["reel"] == "reel_1"]
    told = {"reel": "reel_1", "pieces": cut["pieces"], "entry": str(uuid4())}
    for _ in range(2):
        out = anna.post(url(chosen, "build/cut"), told)
    assert not [c for c in out["book"]["plan"]["cuts"] if c["reel"]]
    assert all(out["state"]["ticks"][key]["done"] for key in cut["pieces"])
    left = anna.get("/api/stock").json()["stock"]["reels"]
    assert [r["length_m"] for r in left] == ([cut["left_m"]] if cut["left_m"] >= 0.2 else [])
    again = told | {"entry": str(uuid4())}
    refused = anna.post(url(chosen, "build/cut"), again, 422)
    assert "does not cut these" in refused["detail"]


def test_the_demo_refit_is_half_done(db: None) -> None:
    call_command("load_demo", verbosity=0)
    done = BuildEntry.objects.filter(kind="tick").count()
    variant = BuildEntry.objects.filter(kind="tick")[0].variant
    assert variant.job.name == "Marsh Wren" and done > 30
    assert variant.build_entries.filter(kind="note").count() == 1
