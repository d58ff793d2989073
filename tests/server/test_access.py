"""Who may do what: every endpoint of the API, one by one, from its own description."""

from __future__ import annotations

import json
from datetime import timedelta
from pathlib import Path
from typing import Any
from uuid import uuid4

import pytest
from apps.accounts.models import User
from apps.days import actions, work
from apps.days.models import DayPlan, Study
from apps.handover.models import OwnerLink
from apps.jobs.models import Job, Variant
from apps.logbook.models import Record
from django.core.management import CommandError, call_command
from django.test import Client
from django.utils import timezone

from tests.server.conftest import Person

SNAPSHOT = json.loads((Path(__file__).parents[2] / "docs/api/openapi.json").read_text())
OPEN = {
    ("get", "/api/session"),
    ("post", "/api/session"),
    ("post", "/api/session/demo"),
    ("post", "/api/session/invitation"),
    ("post", "/api/session/join"),
    ("get", "/api/calendar/{secret}.ics"),
    ("get", "/api/health"),
    ("get", "/api/health/live"),
}
# Opened by the secret of a link alone, which is no cookie that another page could send.
BY_SECRET = (
    "/api/owner",
    "/api/owner/drill",
    "/api/owner/play",
    "/api/owner/results",
    "/api/owner/readings",
)
ENDPOINTS = [(m, path) for path, methods in SNAPSHOT["paths"].items() for m in methods]
GUARDED = sorted(set(ENDPOINTS) - OPEN)
WRITES = [(method, path) for method, path in GUARDED if method != "get" and path not in BY_SECRET]
OWNED = [(method, path) for method, path in GUARDED if "{" in path and "{number}" not in path]
# Bodies that would be accepted from the right person.
STATE: dict[str, Any] = {}
BODIES = {
    "changes": {"base_revision": 1, "change": {"type": "remove_cable", "cable": "solar_house"}},
    "survey/changes": {
        "base_revision": 1,
        "change": {"type": "set_section", "section": "boat", "fields": {"coldest_c": 1}},
    },
    "undo": {"base_revision": 1},
    "redo": {"base_revision": 1},
    "restore": {"base_revision": 1, "revision": 1},
    "copy": {"name": "Another one"},
    "entries": {
        "entries": [
            {
                "id": "7f0c5a3e-2d0b-4c9e-9d0f-0d6f7a5b1c2d",
                "kind": "tick",
                "target": "off:loads",
                "at": "2026-01-01T08:00:00Z",
                "revision": 1,
                "done": True,
            }
        ]
    },
    "prove/entries": {
        "entries": [
            {
                "id": "7f0c5a3e-2d0b-4c9e-9d0f-0d6f7a5b1c2f",
                "kind": "look",
                "target": "switch:selector:off",
                "at": "2026-01-01T08:00:00Z",
                "revision": 1,
                "seen": True,
            }
        ]
    },
    "log/entries": {
        "entries": [
            {
                "id": "7f0c5a3e-2d0b-4c9e-9d0f-0d6f7a5b1c30",
                "kind": "note",
                "target": "boat",
                "at": "2026-01-01T08:00:00Z",
                "revision": 1,
                "text": "First visit.",
            }
        ]
    },
    "records/{record_id}": {"layout": {"columns": [{"head": "t", "quantity": "time"}]}},
    "sheet": {"school": "a"},
    "handover/pack": {"school": "a"},
    "drill": {"school": "a"},
    "play": {"scene": "smoke", "school": "a", "moves": []},
    "owner-links": {"name": "Owner", "school": "a"},
    "handover/entries": {
        "entries": [
            {
                "id": "7f0c5a3e-2d0b-4c9e-9d0f-0d6f7a5b1c31",
                "kind": "drill",
                "target": "smoke",
                "at": "2026-01-01T08:00:00Z",
                "revision": 1,
                "drill": {"outcome": "right", "moves": 3},
            }
        ]
    },
    "meter": {"test": "rest:house_bank"},
    "meters": {"meters": []},
    "cut": {
        "reel": "reel_1",
        "pieces": ["cable:x"],
        "entry": "7f0c5a3e-2d0b-4c9e-9d0f-0d6f7a5b1c2e",
    },
    "prices": {"rows": [{"item": "cable tie", "price": 0.1}]},
    "found": {"base_revision": 1, "kind": "solar", "name": "Panel", "bank": "house_bank"},
    "edit": {"base_revision": 1, "edit": "insert", "at": "solar_house", "kind": "fuse"},
    "pattern": {"base_revision": 1, "pattern": "dual_relay"},
    "{photo_id}": {"caption": "Behind the panel"},
    "cables": {"base_revision": 1, "rows": [{"cable": "solar_house", "fields": {"bundled": 3}}]},
    "what-if": {"rows": [{"cable": "solar_house", "fields": {"bundled": 3}}]},
    "plans": {"ready": "day_trip", "school": "a"},
    "{plan_id}/undo": {"revision": 1},
    "{plan_id}/redo": {"revision": 1},
    "{plan_id}": {"revision": 1, "school": "as_drawn", "document": {"name": "An hour"}},
    "{job_id}": {"name": "Another name"},
    "template": {"name": "Another boat"},
    "api/workshop": {
        "name": "Harbour",
        "dates": "ymd",
        "clock": "24",
        "units": "metric",
        "paper": "letter",
    },
    "account/password": {"password": "pass-1234", "new": "tide-table-7"},
    "account/second-factor": {"password": "pass-1234"},
    "second-factor/off": {"password": "pass-1234"},
    "people/invitations": {"name": "Cora", "role": "reader"},
    "{person_id}": {"role": "owner"},
    "waivers": {"finding": "SW-4 alternator selector", "reason": "It is locked."},
}


def asked(path: str, job: Job, variant: Variant, plan: DayPlan) -> Study:
    """A study of the kind that a path is about, lived through where it is of a day."""
    author = job.workshop.people.first()
    if path.endswith("sweep"):
        return actions.ask_sweep(variant, author, plan.pk)
    if path.endswith("comparison"):
        return actions.ask_comparison(job, author, [variant], ["as_drawn"], [plan.pk])
    study = actions.ask_day(variant, author, plan.pk, None, None)
    work.run_piece(study.pieces.get().pk)
    return study


def a_record(job: Job) -> Record:
    """A file of records that is not read yet."""
    columns = [{"head": "t", "quantity": "time"}, {"head": "v", "quantity": "volts", "unit": "V"}]
    kept = {"id": uuid4(), "size": 1, "layout": {"columns": columns, "zone": "UTC"}}
    found, _ = Record.objects.get_or_create(job=job, bank="house_bank", digest="x", defaults=kept)
    return found


def call(client: Client, method: str, path: str, job: Job, variant: Variant) -> Any:
    picture = {"width": 4, "height": 3, "image": b"picture"}
    photo, _ = job.photos.get_or_create(caption="Panel", defaults=picture)
    other = job.variants.get(name="Proposal A")
    waiver, _ = variant.waivers.get_or_create(
        finding="OC-1 bank", defaults={"rule": "OC-1", "severity": "note"}
    )
    hour = {"name": "An hour", "hours": 1}
    plan, _ = job.plans.get_or_create(school="as_drawn", defaults={"document": hour})
    done = {"ask": {}, "status": "done", "content": b"%PDF-", "name": "pack"}
    printed, _ = variant.prints.get_or_create(kind="build", defaults=done)
    link, _ = OwnerLink.objects.get_or_create(
        variant=variant, digest="x", defaults={"expires": timezone.now() + timedelta(days=1)}
    )
    owner = job.workshop.people.get(username="anna")
    invitation, _ = job.workshop.invitations.get_or_create(
        digest="x", defaults={"role": "reader", "expires": timezone.now() + timedelta(days=1)}
    )
    study = asked(path, job, variant, plan) if "{study_id}" in path else None
    address = path.format(
        plan_id=plan.pk,
        study_id=study and study.pk,
        job_id=job.pk,
        variant_id=variant.pk,
        photo_id=photo.pk,
        which="counted",
        other_id=other.pk,
        waiver_id=waiver.pk,
        pattern="dual_relay",
        print_id=printed.pk,
        record_id=a_record(job).pk,
        link_id=link.pk,
        person_id=owner.pk,
        invitation_id=invitation.pk,
        number="x",
    )
    if path.endswith("landing"):
        address += "?cable=solar_house&end=end"
    if path.endswith("/records") and method == "post":
        address += f"?record={uuid4()}&bank=house_bank"
    if path.endswith("chart"):
        address += "?bank=house_bank"
    if path.endswith("/drill"):
        address += "?school=a"
    if path.endswith("moment"):
        address += "?at_s=60"
    if path.endswith("joinable"):
        address += "?post=house_bank.pos"
    if method == "get":
        return client.get(address)
    bodies = BODIES | {
        "comparison": {
            "variants": [str(variant.pk)],
            "schools": ["as_drawn"],
            "plans": [str(plan.pk)],
        }
    }
    if path.endswith("unbin"):
        Job.objects.filter(pk=job.pk).update(binned=timezone.now())
    *_, before, last = path.split("/")
    body = json.dumps(bodies.get(f"{before}/{last}", bodies.get(last, STATE)))
    return getattr(client, method)(address, data=body, content_type="application/json")


def test_the_list_is_not_empty() -> None:
    assert len(OWNED) >= 38
    assert len(ENDPOINTS) == len(GUARDED) + len(OPEN)


@pytest.mark.parametrize(("method", "path"), GUARDED)
def test_strangers_are_refused(method: str, path: str, job: Job, variant: Variant) -> None:
    response = call(Client(), method, path, job, variant)
    assert response.status_code == 401
    assert response["Content-Type"] == "application/problem+json"


@pytest.mark.parametrize(("method", "path"), OWNED)
def test_other_workshops_see_nothing(
    method: str, path: str, job: Job, variant: Variant, bo: Person
) -> None:
    assert call(bo.client, method, path, job, variant).status_code == 404
    assert variant.revisions.count() == 1


@pytest.mark.parametrize(("method", "path"), OWNED)
def test_the_right_person_is_let_in(
    method: str, path: str, job: Job, variant: Variant, anna: Person
) -> None:
    # undo and redo have nothing to do yet: 422 from behind the door, not 404 at it; what workers
    # do is taken: 202
    assert call(anna.client, method, path, job, variant).status_code in (200, 202, 204, 422)


@pytest.mark.parametrize(("method", "path"), WRITES)
def test_writes_need_the_token_of_the_page(
    method: str, path: str, job: Job, variant: Variant, anna: Person
) -> None:
    client = Client(enforce_csrf_checks=True)
    client.force_login(anna.user)
    assert call(client, method, path, job, variant).status_code == 403


def test_a_person_without_a_workshop_is_a_stranger(anna: Person) -> None:
    anna.user.workshop = None
    anna.user.save()
    assert anna.get("/api/jobs").status_code == 401


def test_signing_in_and_out(anna: Person) -> None:
    client = Client(enforce_csrf_checks=True)
    client.get("/")
    body = json.dumps({"username": "anna", "password": "pass-1234"})
    assert (
        client.post("/api/session", body, content_type="application/json").status_code == 403
    )  # no token
    token = {"X-CSRFToken": client.cookies["csrftoken"].value}
    wrong = json.dumps({"username": "anna", "password": "no"})
    sent = {"content_type": "application/json", "headers": token}
    assert client.post("/api/session", wrong, **sent).status_code == 401
    signed = client.post("/api/session", body, **sent).json()
    assert (signed["username"], signed["workshop"]) == ("anna", "Workshop of anna")
    fresh = {"X-CSRFToken": client.cookies["csrftoken"].value}
    assert client.delete("/api/session", headers=fresh).json()["signed_in"] is False
    assert client.get("/api/jobs").status_code == 401


@pytest.mark.parametrize(("mode", "status"), [(True, 200), (False, 403)])
def test_the_demo_door_is_there_in_demo_mode_only(
    db: None, settings: Any, mode: bool, status: int
) -> None:
    call_command("load_demo", verbosity=0)
    call_command("load_demo", verbosity=0)  # a second time does nothing
    settings.DEMO_MODE = mode
    client = Client()
    assert client.post("/api/session/demo").status_code == status
    assert Job.objects.count() == 4


def test_adding_a_person(db: None) -> None:
    who = {"workshop": "Harbour", "username": "cora", "password": "tide-table-7"}
    call_command("add_person", **who, verbosity=0)
    user = User.objects.get(username="cora")
    assert user.check_password("tide-table-7")
    assert user.workshop is not None and user.workshop.name == "Harbour"
    with pytest.raises(CommandError, match="already a person"):
        call_command("add_person", **who)
    with pytest.raises(CommandError, match="too common"):
        call_command("add_person", **who | {"username": "dan", "password": "password"})


def test_every_answer_carries_the_policy_and_scripts_come_from_here(anna: Person) -> None:
    for path in ("/", "/api/session", "/api/nothing"):
        policy = anna.get(path)["Content-Security-Policy"]
        assert "script-src 'self';" in policy
    assert anna.get("/api/nothing").json()["detail"] == "The API has no such address."
