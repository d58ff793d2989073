"""What fails fails alone; what is saved can be worked with; a write is whole, and never twice."""

from __future__ import annotations

import io
import json
from collections.abc import Callable
from concurrent.futures import ThreadPoolExecutor
from typing import Any
from uuid import uuid4

import pytest
from apps.accounts.models import User
from apps.accounts.permissions import Writer
from apps.days import work
from apps.days.models import Piece
from apps.jobs import all_findings, queries
from apps.jobs.actions import import_job
from apps.jobs.models import Job, Variant
from apps.jobs.queue import Status
from apps.prints.models import Print
from apps.prints.work import make_print
from apps.writes.models import AnsweredWrite
from django.db import OperationalError, connections
from django.test import Client
from PIL import Image
from procrastinate.contrib.django.models import ProcrastinateJob
from strom_engine.interchange import parse_job_text

from tests.engine.boats import DEMO
from tests.server.conftest import Person, make_person

PILOT = json.loads((DEMO / "pilot_3.json").read_text())


def url(variant: Variant, what: str) -> str:
    return f"/api/variants/{variant.pk}/{what}"


def removed(part: str) -> dict[str, str]:
    return {"type": "remove_part", "part": part}


def send(person: Person, path: str, body: object, **headers: str) -> Any:
    text = json.dumps(body)
    return person.client.post(path, text, content_type="application/json", headers=headers)


# What fails fails alone.


def test_one_variant_that_cannot_be_read_leaves_the_list_and_the_others(
    anna: Person, job: Job, variant: Variant, caplog: pytest.LogCaptureFixture
) -> None:
    kept = variant.revisions.get()
    kept.document["components"][0]["unit_ah"] = 5e-324  # as an older program let it in
    kept.save()
    job.pk, job.survey.pk  # noqa: B018 (they exist)
    [listed] = anna.get("/api/jobs").json()["jobs"]
    bad, *good = listed["variants"]
    assert "unit_ah" in bad["problem"] and bad["worst"] is None
    assert all(v["problem"] is None and v["findings"] > 0 for v in good)
    assert anna.get(url(variant, "scheme")).json()["title"] == "This cannot be read any more"
    renamed = anna.client.patch(
        f"/api/jobs/{job.pk}", {"name": "Reed Bunting"}, content_type="application/json"
    )
    assert renamed.json()["name"] == "Reed Bunting"


def test_a_program_fault_in_one_variant_stays_there_too(
    anna: Person, job: Job, monkeypatch: pytest.MonkeyPatch
) -> None:
    whole = all_findings.findings

    def faulty(design: Any, survey: Any, stock: Any) -> Any:
        if design.cables_by_id.get("solar_house"):
            raise KeyError("a mistake of ours")
        return whole(design, survey, stock)

    monkeypatch.setattr(all_findings, "findings", faulty)
    problems = [v["problem"] for v in anna.get("/api/jobs").json()["jobs"][0]["variants"]]
    assert any(p and "the program failed" in p for p in problems)


def test_a_job_is_put_into_the_bin_and_taken_out_again(
    anna: Person, bo: Person, job: Job, variant: Variant
) -> None:
    path = f"/api/jobs/{job.pk}"
    assert anna.client.delete(path).status_code == 204
    assert anna.get("/api/jobs").json()["jobs"] == []
    assert anna.get(path).status_code == anna.get(url(variant, "scheme")).status_code == 404
    assert [j["name"] for j in anna.get("/api/jobs?shelf=bin").json()["jobs"]] == ["Marsh Wren"]
    bo.post(f"{path}/unbin", {}, 404)
    assert anna.post(f"{path}/unbin")["binned"] is None
    assert anna.get(url(variant, "scheme")).status_code == 200


def test_everything_taken_out_leaves_an_empty_scheme_that_is_drawn_and_undone(
    anna: Person, job: Job, variant: Variant
) -> None:
    parts = [p["id"] for p in anna.get(url(variant, "scheme")).json()["design"]["components"]]
    for n, part in enumerate(parts, start=1):
        body = {"base_revision": n, "change": removed(part)}
        sent = anna.post(url(variant, "changes"), body)
    assert sent["design"]["components"] == sent["positive"]["boxes"] == []
    reads = ("findings", "loads", "banks", "runs", "surveyed", "advice", "plans", "rules", "edits")
    for read in reads:
        assert anna.get(url(variant, read)).status_code == 200, read
    anna.post(url(variant, "bench"), {})
    anna.post(url(variant, "positions"), {})
    undone = anna.post(url(variant, "undo"), {"base_revision": len(parts) + 1})
    assert [p["id"] for p in undone["design"]["components"]] == parts[-1:]


@pytest.mark.parametrize(
    ("spoil", "path"),
    [
        (lambda d: d["components"][0].update(unit_ah=5e-324), "components[0].unit_ah"),
        (lambda d: d["components"][0].update(unit_resistance_ohm=1e-300), "unit_resistance_ohm"),
        (lambda d: d["components"][0].update(series=8), "components[0]"),
        (lambda d: d["cables"][0].update(length_m=1e-9), "cables[0].length_m"),
        (lambda d: d["components"].extend(_banks(20)), "components"),
    ],
)
def test_figures_that_no_boat_has_are_refused_with_their_place(
    anna: Person, spoil: Callable[[Any], None], path: str
) -> None:
    raw = json.loads(json.dumps(PILOT))
    spoil(raw["variants"][0]["design"])
    answer = anna.post("/api/jobs/import", raw, 422)
    assert any(path in e["path"] for e in answer["errors"]), answer["errors"]
    assert not Job.objects.exists()


def _banks(count: int) -> list[dict[str, object]]:
    bank = next(c for c in PILOT["variants"][0]["design"]["components"] if c["kind"] == "bank")
    return [bank | {"id": f"bank_{n}", "name": f"Bank {n}"} for n in range(count)]


def test_the_smallest_draw_is_computed_as_it_is(anna: Person, job: Job) -> None:
    """0.5 mW at 12.6 V are 0.00004 A: nothing is rounded to nothing."""
    row = {"id": "memory", "name": "Memory", "draw": 0.0005, "unit": "W", "standing": True}
    feed = anna.get(f"/api/jobs/{job.pk}/survey").json()["survey"]["items"][0]["feed"]
    change = {"type": "put_rows", "list": "items", "rows": [row | {"feed": feed}]}
    anna.post(f"/api/jobs/{job.pk}/survey/changes", {"base_revision": 1, "change": change})
    [listed] = anna.get("/api/jobs").json()["jobs"]
    assert all(v["problem"] is None for v in listed["variants"])


# A write is whole, and never twice.


def test_a_write_sent_again_is_answered_again_and_saved_once(
    anna: Person, variant: Variant
) -> None:
    body = {"base_revision": 1, "change": removed("solar")}
    key = {"Idempotency-Key": str(uuid4())}
    first = send(anna, url(variant, "changes"), body, **key)
    again = send(anna, url(variant, "changes"), body, **key)
    assert first.content == again.content and again["Strom-Answered-Before"] == "1"
    assert variant.revisions.count() == 2
    other = send(anna, url(variant, "undo"), {"base_revision": 2}, **key)
    assert other.status_code == 422 and "used before" in other.json()["detail"]
    refused = {"base_revision": 9, "change": removed("nothing")}
    key = {"Idempotency-Key": str(uuid4())}
    assert send(anna, url(variant, "changes"), refused, **key).status_code == 422
    assert not AnsweredWrite.objects.filter(key=key["Idempotency-Key"]).exists()


def test_a_failure_after_saving_saves_nothing(
    anna: Person, variant: Variant, monkeypatch: pytest.MonkeyPatch
) -> None:
    def broken(_: Variant) -> None:
        raise RuntimeError("after the commit, it would be too late")

    monkeypatch.setattr(queries, "scheme_of", broken)
    body = {"base_revision": 1, "change": removed("solar")}
    answer = send(anna, url(variant, "changes"), body)
    assert answer.status_code == 500 and "Nothing was saved" in answer.json()["detail"]
    assert variant.revisions.count() == 1


@pytest.mark.django_db(transaction=True)
def test_the_same_write_sent_eight_times_at_once_is_saved_once() -> None:
    anna = make_person("anna")
    text = (DEMO / "pilot_3.json").read_bytes()
    job = import_job(anna.user.workshop, Writer(anna.user), parse_job_text(text))
    variant, key = job.variants.first(), str(uuid4())
    part = text and PILOT["variants"][0]["design"]["components"][-1]["id"]

    def once(_: int) -> tuple[int, bytes]:
        client = Client()
        client.force_login(anna.user)
        body = {"base_revision": 1, "change": removed(part)}
        try:
            person = Person(client, anna.user)
            answer = send(person, url(variant, "changes"), body, **{"Idempotency-Key": key})
            return answer.status_code, answer.content
        finally:
            connections.close_all()

    with ThreadPoolExecutor(8) as hands:
        answers = set(hands.map(once, range(8)))
    assert len(answers) == 1 and answers.pop()[0] == 200
    assert variant.revisions.count() == 2


def test_one_window_never_clashes_with_itself(anna: Person, job: Job) -> None:
    path = f"/api/jobs/{job.pk}/survey/changes"
    mine, other = {"Strom-Window": str(uuid4())}, {"Strom-Window": str(uuid4())}

    def cold(degrees: int) -> dict[str, object]:
        fields = {"coldest_c": degrees}
        change = {"type": "set_section", "section": "boat", "fields": fields}
        return {"base_revision": 1, "change": change}

    assert send(anna, path, cold(3), **mine).status_code == 200
    assert send(anna, path, cold(2), **mine).status_code == 200  # typed before the first answer
    assert send(anna, path, cold(1), **other).status_code == 409


# Days end.


def test_a_piece_that_fails_for_whatever_reason_ends_and_says_so(
    anna: Person, variant: Variant, monkeypatch: pytest.MonkeyPatch
) -> None:
    plan = anna.post(url(variant, "plans"), {"ready": "day_trip", "school": "a"})
    study = anna.post(url(variant, f"plans/{plan['id']}/day"))

    def fails(*_: object, **__: object) -> None:
        raise error

    monkeypatch.setattr(work, "day_run", fails)
    piece = Piece.objects.get(study=study["id"])
    error: Exception = OperationalError("the database is away")
    with pytest.raises(OperationalError):
        work.run_piece(piece.pk)  # the queue takes it up again
    piece.refresh_from_db()
    assert piece.status == Status.RUNNING
    error = ZeroDivisionError("a mistake of ours")
    work.run_piece(piece.pk)
    told = anna.get(f"/api/studies/{study['id']}").json()
    assert told["status"] == "failed" and "the program failed" in told["problem"]


def test_more_than_is_computed_at_once_is_refused_in_words(anna: Person, variant: Variant) -> None:
    plan = anna.post(url(variant, "plans"), {"ready": "day_trip", "school": "own"})
    turns = [
        {"at_h": 0.5 + n / 40, "switch": "selector", "position": ("1", "2")[n % 2]}
        for n in range(400)
    ]
    spans = [{"start_h": 1 + n / 2, "end_h": 1.2 + n / 2} for n in range(390)]
    for school, fields, words in (
        ("own", {"moves": turns}, "one sweep has 400 at most"),
        ("b", {"engine": spans}, "the longest plan has 800"),
    ):
        kept = anna.get(url(variant, "plans")).json()["plans"][0]
        document = kept["document"] | {"hours": 240} | fields
        body = {"revision": kept["revision"], "school": school, "document": document}
        path = url(variant, f"plans/{plan['id']}")
        put = anna.client.put(path, body, content_type="application/json").json()
        answer = put.get("problem") or anna.post(f"{path}/sweep", {}, 422)["detail"]
        assert words in answer


def test_a_request_that_takes_too_long_is_stopped_in_words(
    anna: Person, variant: Variant, settings: Any, monkeypatch: pytest.MonkeyPatch
) -> None:
    settings.MOST_SECONDS = 0.0
    answer = anna.post(url(variant, "bench"), {"engine": "on", "rpm": 1234}, status=422)
    assert "was stopped" in answer["detail"]
    # So it is with what a worker does.
    monkeypatch.setattr("apps.prints.work.MOST_S", -1.0)
    answer = anna.get(url(variant, "advice"))
    assert answer.status_code == 422 and "was stopped" in answer.json()["detail"]
    monkeypatch.undo()
    assert anna.get(url(variant, "advice")).json()["advice"], "asked for again, it is tried again"


def test_heavy_work_waits_in_the_queue_with_turns_and_a_limit(
    anna: Person,
    bo: Person,
    variant: Variant,
    monkeypatch: pytest.MonkeyPatch,
    django_capture_on_commit_callbacks: Any,
) -> None:
    path, wishes = url(variant, "advice"), ("budget=low", "budget=free", "crew=attentive")
    text = (DEMO / "marsh_wren.json").read_bytes()
    with django_capture_on_commit_callbacks(execute=True):
        first = [anna.client.get(f"{path}?{wish}") for wish in wishes]
    assert [r.status_code for r in first] == [202] * 3 and not first[0].content
    again = anna.client.get(f"{path}?{wishes[0]}")
    assert again.status_code == 202 and variant.prints.count() == 3, "asked twice, computed once"
    # Another workshop's first piece goes before the second one of this workshop.
    other = import_job(bo.user.workshop, Writer(bo.user), parse_job_text(text))
    with django_capture_on_commit_callbacks(execute=True):
        bo.client.get(url(other.variants.all()[0], "advice"))
    jobs = ProcrastinateJob.objects.filter(task_name="prints.make").order_by("-priority", "id")
    asked = [Print.objects.get(pk=j.args["print_id"]).variant.job.workshop_id for j in jobs]
    mine, theirs = anna.user.workshop.pk, bo.user.workshop.pk
    assert asked == [mine, theirs, mine, mine]
    monkeypatch.setattr("apps.prints.actions.MOST_WAITING", 3)
    full = anna.client.get(f"{path}?crew=attentive&budget=low")
    assert full.status_code == 429 and "wait for this workshop" in full.json()["detail"]
    # A write's id is not used up by an answer that is still to come.
    sent = {"content_type": "application/json", "headers": {"Idempotency-Key": str(uuid4())}}
    monkeypatch.undo()
    repairs = [anna.client.post(url(variant, "repairs"), "{}", **sent) for _ in range(2)]
    assert [r.status_code for r in repairs] == [202, 202]
    make_print(str(variant.prints.get(kind="repairs").pk))
    done = anna.client.post(url(variant, "repairs"), "{}", **sent)
    assert done.status_code == 200 and done.json()["revision"] == variant.head


# What comes in and goes out.


def test_ten_wrong_passwords_and_the_name_waits(anna: Person) -> None:
    client = Client()

    def enter(password: str) -> int:
        body = {"username": "anna", "password": password}
        return client.post("/api/session", body, content_type="application/json").status_code

    assert {enter("wrong") for _ in range(9)} == {401}
    assert [enter("wrong"), enter("pass-1234")] == [429, 429]
    assert User.objects.get(username="anna").check_password("pass-1234")


def test_nothing_but_the_picture_of_a_photograph_is_kept(anna: Person, job: Job) -> None:
    out = io.BytesIO()
    Image.new("RGB", (40, 30), "red").save(out, "JPEG", comment=b"where the boat lies")
    path = f"/api/jobs/{job.pk}/photos"
    made = anna.client.post(path, out.getvalue(), content_type="application/octet-stream").json()
    picture = anna.get(f"/api/photos/{made['id']}")
    assert b"where the boat lies" not in picture.content
    assert picture["Cache-Control"] == "private, no-cache"
    same = anna.client.get(f"/api/photos/{made['id']}", headers={"If-None-Match": picture["ETag"]})
    assert same.status_code == 304
    assert anna.get("/api/jobs")["Cache-Control"] == "no-store, private"
    out = io.BytesIO()
    Image.new("L", (6000, 6000)).save(out, "PNG")
    large = anna.client.post(path, out.getvalue(), content_type="application/octet-stream")
    assert "25 million pixels" in large.json()["detail"]
