"""Days on the server: plans, the queue in PostgreSQL, studies, cancelling, staleness."""

from __future__ import annotations

import os
import signal
import subprocess
import sys
import time
from pathlib import Path
from typing import Any

import pytest
from apps.accounts.permissions import Writer
from apps.days import actions, work
from apps.days.models import DayPlan, Piece, Study
from apps.jobs.actions import import_job
from apps.jobs.models import Job, Variant
from apps.jobs.queue import Status
from django.db import connection
from strom_engine.interchange import parse_job_text

from tests.engine.boats import DEMO
from tests.server.conftest import Person

ROOT = Path(__file__).parents[2]
MARSH_WREN = DEMO / "marsh_wren.json"


@pytest.fixture
def plan(anna: Person, variant: Variant) -> Any:
    body = {"ready": "day_trip", "school": "a"}
    return anna.post(f"/api/variants/{variant.pk}/plans", body)


def ask(anna: Person, variant: Variant, plan: Any, what: str = "day", **body: Any) -> Any:
    return anna.post(f"/api/variants/{variant.pk}/plans/{plan['id']}/{what}", body)


def live_all(study_id: str) -> None:
    for piece in Piece.objects.filter(study_id=study_id):
        work.run_piece(piece.pk)


def test_plans_are_made_changed_and_refused_in_full(
    anna: Person, bo: Person, variant: Variant, plan: Any
) -> None:
    path = f"/api/variants/{variant.pk}/plans/{plan['id']}"
    assert plan["for_variant"]["moves"][0]["switch"] in ("selector", "thruster_switch")
    changed = plan["document"] | {"name": "Out and home", "hours": 30}
    body = {"revision": 1, "school": "b", "document": changed}

    def put(body: Any) -> Any:
        return anna.client.put(path, body, content_type="application/json")

    saved = put(body).json()
    assert (saved["revision"], saved["school"], saved["document"]["hours"]) == (2, "b", 30)
    assert put(body).status_code == 409  # somebody was quicker
    wrong = changed | {
        "hours": 9600,
        "moves": [{"at_h": 1, "switch": "nonsuch", "position": "on"}],
        "engine": [{"start_h": 1, "end_h": 3}, {"start_h": 2, "end_h": 4}],
    }
    refused = put({"revision": 2, "school": "own", "document": wrong})
    assert refused.status_code == 422
    assert {e["path"] for e in refused.json()["errors"]} == {"hours", "moves[0]", "engine[1]"}
    assert put({"revision": 2, "school": "q", "document": changed}).status_code == 422
    assert DayPlan.objects.get().document["hours"] == 30  # nothing was lost
    listed = anna.get(f"/api/variants/{variant.pk}/plans").json()
    assert listed["ready"][0]["id"] == "day_trip" and len(listed["schools"]) == 5
    assert bo.get(f"/api/variants/{variant.pk}/plans").status_code == 404
    assert bo.client.put(path, body, content_type="application/json").status_code == 404
    assert anna.client.delete(path).status_code == 204 and not DayPlan.objects.exists()


def test_a_day_is_lived_once_kept_and_stale_when_what_it_was_made_from_moves(
    anna: Person, bo: Person, variant: Variant, plan: Any
) -> None:
    study = ask(anna, variant, plan)
    assert study["status"] == "waiting" and study["of"] == 1
    assert anna.get(f"/api/studies/{study['id']}/day").status_code == 404  # not yet
    live_all(study["id"])
    now = anna.get(f"/api/studies/{study['id']}").json()
    assert (now["status"], now["stale"], now["progress"]) == ("done", False, 1.0)
    assert ask(anna, variant, plan)["id"] == study["id"]  # the same day is not lived twice
    day = anna.get(f"/api/studies/{study['id']}/day").json()
    assert day["sheet"]["report"]["starts"][0]["started"] and day["sheet"]["series"]["at_s"]
    moment = anna.get(f"/api/studies/{study['id']}/moment?at_s=5000").json()
    assert moment["at_s"] <= 5000 and moment["point"]["banks"]["house_bank"]["volts_v"] > 11
    text = anna.get(f"/api/studies/{study['id']}/day.csv").content.decode()
    assert text.startswith("time [h],clock,")
    assert bo.get(f"/api/studies/{study['id']}/day").status_code == 404
    found = anna.get(f"/api/variants/{variant.pk}/findings").json()["findings"]
    of_day = [f["key"] for f in found if "in a day" in f["key"]]
    assert of_day and len(found) > len(of_day)
    waived = anna.post(
        f"/api/variants/{variant.pk}/waivers", {"finding": of_day[0], "reason": "Seen to"}
    )
    assert waived["waivers"][0]["finding"] == of_day[0]
    scheme = anna.get(f"/api/variants/{variant.pk}/scheme").json()
    change = {
        "type": "set_cable_length",
        "cable": scheme["design"]["cables"][0]["id"],
        "length_m": 9,
    }
    base = {"base_revision": scheme["revision"], "change": change}
    anna.post(f"/api/variants/{variant.pk}/changes", base)
    assert anna.get(f"/api/studies/{study['id']}").json()["stale"]
    after = anna.get(f"/api/variants/{variant.pk}/findings").json()["findings"]
    assert not [f for f in after if "in a day" in f["key"]]  # of an older scheme
    anna.post(f"/api/variants/{variant.pk}/undo", {"base_revision": scheme["revision"] + 1})
    assert not anna.get(f"/api/studies/{study['id']}").json()["stale"]  # it is as it was
    # What was kept in another shape is not read, and not among the findings.
    Study.objects.update(shape="another")
    for path in ("", "/day", "/moment?at_s=0", "/day.csv"):
        assert anna.get(f"/api/studies/{study['id']}{path}").status_code == 404
    assert anna.get(f"/api/variants/{variant.pk}/studies").json() == []
    assert ask(anna, variant, plan)["id"] != study["id"]  # it is lived anew
    after = anna.get(f"/api/variants/{variant.pk}/findings").json()["findings"]
    assert not [f for f in after if "in a day" in f["key"]]


def test_changes_of_a_plan_are_taken_back_and_done_again(
    anna: Person, variant: Variant, plan: Any
) -> None:
    path = f"/api/variants/{variant.pk}/plans/{plan['id']}"

    def put(revision: int, name: str) -> Any:
        body = {"revision": revision, "school": "b", "document": plan["document"] | {"name": name}}
        return anna.client.put(path, body, content_type="application/json").json()

    def told(now: Any) -> tuple[str, str, int, bool, bool]:
        name = now["document"]["name"]
        return name, now["school"], now["revision"], now["can_undo"], now["can_redo"]

    first = plan["document"]["name"]
    assert told(plan) == (first, "a", 1, False, False)
    put(1, "Long day")
    assert told(put(2, "Longer day")) == ("Longer day", "b", 3, True, False)
    back = anna.post(f"{path}/undo", {"revision": 3})
    assert told(back) == ("Long day", "b", 4, True, True)
    assert told(anna.post(f"{path}/undo", {"revision": 4})) == (first, "a", 5, False, True)
    anna.post(f"{path}/undo", {"revision": 5}, 422)
    anna.post(f"{path}/redo", {"revision": 4}, 409)  # somebody was quicker
    assert told(anna.post(f"{path}/redo", {"revision": 5})) == ("Long day", "b", 6, True, True)
    assert told(put(6, "Short day")) == ("Short day", "b", 7, True, False)  # nothing to do again


def test_a_plan_that_was_taken_away_is_brought_back(
    anna: Person, variant: Variant, plan: Any, monkeypatch: pytest.MonkeyPatch
) -> None:
    plans, path = (f"/api/variants/{variant.pk}/plans{end}" for end in ("", f"/{plan['id']}"))
    study = ask(anna, variant, plan)
    kept = anna.get(plans).json()["plans"]
    assert anna.client.delete(path).status_code == 204
    now = anna.get(plans).json()
    assert len(now["plans"]) == len(kept) - 1
    assert [(p["id"], p["name"]) for p in now["dropped"]] == [
        (plan["id"], kept[-1]["document"]["name"])
    ]
    assert anna.get(f"/api/studies/{study['id']}").json()["plan"] is None, "its days stay"
    assert anna.client.delete(path).status_code == 404
    monkeypatch.setattr("apps.days.actions.MAX_PLANS", len(kept) - 1)
    assert "take one away first" in anna.post(f"{path}/back", status=422)["detail"]
    monkeypatch.undo()
    back = anna.post(f"{path}/back")
    assert (back["id"], back["document"]) == (plan["id"], plan["document"])
    assert anna.get(plans).json()["plans"] == kept and anna.post(f"{path}/back") == back
    assert anna.get(f"/api/studies/{study['id']}").json()["plan"] == plan["id"]


def test_a_sweep_and_the_day_of_a_case(anna: Person, variant: Variant, plan: Any) -> None:
    study = ask(anna, variant, plan, "sweep")
    assert study["of"] > 20
    pieces = list(Piece.objects.filter(study_id=study["id"]))
    for piece in pieces[:4]:
        work.run_piece(piece.pk)
    part = anna.get(f"/api/studies/{study['id']}/sweep").json()
    assert (
        part["study"]["done"] == 4 and sum(c["consequence"] is not None for c in part["cases"]) == 3
    )
    key = next(p.task["case"] for p in pieces if p.task["case"] == "dead_cell house_bank")
    of_case = ask(anna, variant, plan, case=key)
    live_all(of_case["id"])
    assert anna.get(f"/api/studies/{of_case['id']}/moment?at_s=9000").status_code == 200
    assert anna.get(f"/api/studies/{of_case['id']}/sweep").status_code == 404
    words = next(c["words"] for c in part["cases"] if c["key"] == key)
    assert of_case["ask"]["words"] == words == "From the beginning House bank has a dead cell."
    path = f"/api/variants/{variant.pk}/plans/{plan['id']}/day"
    body = {"case": "nonsuch 1"}
    refused = anna.client.post(path, body, content_type="application/json")
    assert refused.status_code == 422
    assert "'nonsuch 1'" in refused.json()["errors"][0]["message"]


def test_a_comparison_says_what_a_boat_cannot_do(anna: Person, job: Job, plan: Any) -> None:
    variants = [str(v.pk) for v in job.variants.all()]
    body = {"variants": variants, "schools": ["a", "b", "c", "d"], "plans": [plan["id"]]}
    study = anna.post(f"/api/jobs/{job.pk}/comparison", body)
    assert study["of"] == 16
    live_all(study["id"])
    told = anna.get(f"/api/studies/{study['id']}/comparison").json()
    cells = {(variants.index(c["variant"]), c["school"]): c for c in told["cells"]}
    assert cells[0, "c"]["why_not"] == "nothing aboard shares charge by itself"
    assert cells[1, "c"]["outcome"]["started"] == 2 and told["study"]["status"] == "done"
    assert not told["study"]["stale"]
    many = body | {"schools": ["a"] * 6, "variants": variants * 6}
    anna.post(f"/api/jobs/{job.pk}/comparison", many, status=422)
    anna.post(f"/api/jobs/{job.pk}/comparison", body | {"schools": ["z"]}, status=422)


def test_a_cancelled_study_stops_on_the_way(
    anna: Person, variant: Variant, plan: Any, monkeypatch: pytest.MonkeyPatch
) -> None:
    study = ask(anna, variant, plan, "sweep")
    first, second = Piece.objects.filter(study_id=study["id"])[:2]
    monkeypatch.setattr(work, "TELL_EVERY_S", 0.0)
    told: list[float] = []

    def tell(self: Any, share: float) -> None:
        told.append(share)
        if len(told) == 20:
            assert anna.post(f"/api/studies/{study['id']}/cancel")["status"] == "cancelled"
        original(self, share)

    original = work._Telling.tell
    monkeypatch.setattr(work._Telling, "tell", tell)
    work.run_piece(first.pk)
    assert len(told) == 20 and told[-1] < 1
    for piece in (first, second):
        piece.refresh_from_db()
        assert piece.status == Status.CANCELLED and piece.outcome is None
    work.run_piece(second.pk)  # what was cancelled is not taken up
    assert len(told) == 20


def environment() -> dict[str, str]:
    """Where a worker of its own finds the database of the tests."""
    base = os.environ["STROM_DATABASE_URL"].rsplit("/", 1)[0]
    return os.environ | {"STROM_DATABASE_URL": f"{base}/{connection.settings_dict['NAME']}"}


def worker() -> subprocess.Popen[bytes]:
    command = [sys.executable, str(ROOT / "server/manage.py"), "day_worker"]
    return subprocess.Popen(
        command, env=environment(), stdout=subprocess.DEVNULL, stderr=subprocess.DEVNULL
    )


def wait_for(wanted: Any, seconds: float = 60.0) -> None:
    ends = time.monotonic() + seconds
    while not wanted():
        assert time.monotonic() < ends, "it does not come about"
        time.sleep(0.1)


@pytest.mark.django_db(transaction=True)
def test_a_killed_worker_loses_nothing_and_two_people_both_finish(
    anna: Person, variant: Variant, plan: Any
) -> None:
    mine, yours = (ask(anna, variant, plan, "sweep")["id"] for _ in range(2))
    # A few of each are enough here; the others are taken out of the queue.
    for study_id in (mine, yours):
        Piece.objects.filter(study_id=study_id, number__gte=3).update(status=Status.DONE)
    first = worker()
    try:
        wait_for(lambda: Piece.objects.filter(study_id=mine, status=Status.RUNNING).exists())
    finally:
        first.send_signal(signal.SIGKILL)
        first.wait()
    left = Piece.objects.get(status=Status.RUNNING)
    with connection.cursor() as cursor:  # half a minute of silence, without waiting for it
        cursor.execute(
            "UPDATE procrastinate_workers SET last_heartbeat = last_heartbeat - interval '5 min'"
        )
    second = worker()  # it looks first for what dead ones left
    try:
        wait_for(lambda: not Study.objects.exclude(status=Status.DONE).exists())
    finally:
        second.terminate()
        second.wait(20)
    left.refresh_from_db()
    assert left.status == Status.DONE and left.outcome is not None
    kept = Piece.objects.filter(number__lt=3)
    assert kept.count() == 6 and all(p.outcome for p in kept)


def test_who_asked_for_much_waits_behind_who_asked_for_little(
    anna: Person, bo: Person, variant: Variant, plan: Any
) -> None:
    for _ in range(2):
        ask(anna, variant, plan, "sweep")
    job = import_job(bo.user.workshop, Writer(bo.user), parse_job_text(MARSH_WREN.read_bytes()))
    own = job.variants.get(name="As found")
    asked = bo.post(f"/api/variants/{own.pk}/plans", {"ready": "day_trip", "school": "a"})
    ask(bo, own, asked, "sweep")
    ask(anna, variant, plan)  # a single day goes before all sweeps
    with connection.cursor() as db:
        db.execute("SELECT args->>'piece_id' FROM procrastinate_jobs ORDER BY priority DESC, id")
        taken = [Piece.objects.get(pk=piece).study for (piece,) in db.fetchall()]
    assert taken[0].kind == Study.Kind.DAY
    first = [study.author for study in taken[1 : 1 + 2 * asked_pieces(bo)]]
    assert first == [anna.user, bo.user] * asked_pieces(bo)


def asked_pieces(person: Person) -> int:
    return Piece.objects.filter(study__author=person.user).count()


def test_studies_that_wait_are_not_without_end(
    anna: Person, variant: Variant, plan: Any, monkeypatch: pytest.MonkeyPatch
) -> None:
    monkeypatch.setattr(actions, "MAX_WAITING", 2)
    ask(anna, variant, plan, "sweep")
    study = ask(anna, variant, plan, "sweep")
    path = f"/api/variants/{variant.pk}/plans/{plan['id']}/sweep"
    assert "2 studies wait for you already" in anna.post(path, {}, 422)["detail"]
    anna.post(f"/api/studies/{study['id']}/cancel")
    anna.post(path)
