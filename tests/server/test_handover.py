"""Handover over the wire: the owner's sheet, drill, and links without an account."""

from __future__ import annotations

import json
from datetime import timedelta
from typing import Any

import pytest
from apps.handover import owners
from apps.handover.models import OwnerLink
from apps.jobs.models import Job, Variant
from apps.prints.work import make_print
from django.test import Client
from django.utils import timezone

from tests.server.conftest import Person, answered
from tests.server.test_jobs import url


@pytest.fixture
def built(job: Job) -> Variant:
    return job.variants.get(name="As found")


def words(out: Any) -> str:
    return " ".join(
        f"{line['head']} {line['text']}" for s in out["sheet"]["sections"] for line in s["lines"]
    )


def test_the_sheet_follows_the_handling_and_the_language(
    anna: Person, bo: Person, built: Variant
) -> None:
    out = anna.get(url(built, "handover")).json()
    assert out["school"] == "as_drawn" and out["reading_ease"] > 60
    anna.post(url(built, "plans"), {"ready": "day_trip", "school": "a"})
    out = anna.get(url(built, "handover")).json()
    assert out["school"] == "a", "as the first plan of the job is handled"
    aboard = out["sheet"]["sections"][0]["lines"][0]
    selector = next(s for s in aboard["switches"] if s["switch"] == "selector")
    assert selector["position"] == "2" and "House bank" in aboard["text"]
    german = anna.get(url(built, "handover?school=a&language=de")).json()
    assert "Vor Anker" in words(german) and german["reading_ease"] is None
    assert len(words(german)) > 1000
    misfit = anna.get(url(built, "handover?school=d")).json()
    assert misfit["why_not"]
    assert anna.get(url(built, "handover?school=z")).status_code == 422
    assert bo.get(url(built, "handover")).status_code == 404


@pytest.mark.parametrize("paper", ["A4", "A5"])
def test_the_sheet_goes_on_paper(anna: Person, built: Variant, paper: str) -> None:
    ask = {"paper": paper, "school": "a", "language": "de"}
    asked = anna.post(url(built, "handover/sheet"), ask)
    make_print(asked["id"])
    made = anna.get(f"/api/prints/{asked['id']}").json()
    assert made["status"] == "done", made["problem"]
    assert anna.get(f"/api/prints/{asked['id']}/file").content[:5] == b"%PDF-"
    again = anna.post(url(built, "handover/sheet"), ask)
    assert again["id"] == asked["id"], "the same sheet is made once"


def owner(secret: str, path: str = "", body: object = None, status: int = 200) -> Any:
    """A stranger's phone that knows the secret."""
    client, headers = Client(), {"Strom-Owner": secret}
    if body is None:
        found = answered(lambda: client.get(f"/api/owner{path}", headers=headers))
    else:
        text = json.dumps(body)
        found = client.post(
            f"/api/owner{path}", text, content_type="application/json", headers=headers
        )
    assert found.status_code == status, found.content[:300]
    return found.json() if status == 200 else found


def make_link(anna: Person, built: Variant) -> tuple[str, str]:
    made = anna.post(url(built, "owner-links"), {"name": "Åse", "school": "a", "days": 30})
    assert made["link"]["standing"] == "open" and "/owner#" in made["address"]
    return made["link"]["id"], made["address"].partition("#")[2]


def test_a_stranger_with_the_link_reads_practises_and_enters(
    anna: Person, bo: Person, built: Variant
) -> None:
    _, secret = make_link(anna, built)
    assert secret not in json.dumps(anna.get(url(built, "owner-links")).json())
    seen = owner(secret)
    text = json.dumps(seen)
    assert seen["boat"] == built.job.name and "House bank" in text and not seen["drill"]["ready"]
    for hidden in ("anna", "Workshop of", "Proposal A", str(built.pk), str(built.job_id)):
        assert hidden not in text, "nothing else of the workshop"
    assert owner(secret, "?language=de")["language"] == "de"
    built.prints.filter(kind="drill").delete()  # older ones make room for newer files
    owner(secret, "/drill", {}, status=204)
    make_print(str(built.prints.get(kind="drill").pk))
    scenes = owner(secret)["drill"]["scenes"]
    smoke = next(s for s in scenes if s["key"] == "smoke")
    off = {"do": "turn", "switch": "selector", "position": "off"}
    harm = owner(secret, "/play", {"scene": "smoke", "moves": [off]})
    assert harm["outcome"] == "harm" and harm["replies"][0]["line"]["head"] == (
        "Main selector: off, with the engine on"
    )
    thruster = off | {"switch": "thruster_switch"}
    moves = [{"do": "stop"}, off, thruster, {"do": "done"}]
    right = owner(secret, "/play", {"scene": "smoke", "moves": moves, "language": "de"})
    assert right["outcome"] == "right" and right["replies"][-1]["line"]["head"] == "Geschafft"
    assert smoke["times"] == 0 and smoke["is_due"]
    stamp = {"at": "2026-01-01T08:00:00Z", "revision": 1}
    result = {"id": "7f0c5a3e-2d0b-4c9e-9d0f-0d6f7a5b1c41", "kind": "drill", "target": "smoke",
              "drill": {"outcome": "harm", "moves": 1}, **stamp}  # fmt: skip
    for _ in range(2):
        owner(secret, "/results", {"entries": [result]}, status=204)
    out = anna.get(url(built, "drill?school=a")).json()
    assert out["scenes"][0]["key"] == "smoke" and out["scenes"][0]["times"] == 1, "it comes back"
    volts = {"id": "7f0c5a3e-2d0b-4c9e-9d0f-0d6f7a5b1c42", "at": "2026-01-01T08:00:00Z",
             "bank": "house_bank", "volts_v": 12.4}  # fmt: skip
    owner(secret, "/readings", volts, status=204)
    [entry] = anna.get(url(built, "log")).json()["entries"]
    assert entry["author"] == "owner" and entry["reading"]["values"] == [12.4]
    assert "Åse" in entry["reading"]["source"]
    attic = volts | {"id": "7f0c5a3e-2d0b-4c9e-9d0f-0d6f7a5b1c43", "bank": "attic"}
    owner(secret, "/readings", attic, status=422)
    owner(secret, "/play", {"scene": "no such", "moves": []}, status=422)
    # The secret opens the owner's page alone.
    for path in ("/api/jobs", url(built, "scheme"), url(built, "log")):
        assert Client().get(path, headers={"Strom-Owner": secret}).status_code == 401


def test_links_end_and_guessing_them_is_limited(
    anna: Person, bo: Person, built: Variant, monkeypatch: pytest.MonkeyPatch
) -> None:
    link, secret = make_link(anna, built)
    assert bo.client.delete(f"/api/owner-links/{link}").status_code == 404
    assert owner(secret)["boat"]
    OwnerLink.objects.update(expires=timezone.now() - timedelta(seconds=1))
    owner(secret, status=401)
    assert anna.get(url(built, "owner-links")).json()[0]["standing"] == "expired"
    OwnerLink.objects.update(expires=timezone.now() + timedelta(days=1))
    monkeypatch.setattr(owners, "MOST_ASKED", OwnerLink.objects.get().asked + 1)
    owner(secret)
    assert "too often" in owner(secret, status=429).json()["detail"]
    OwnerLink.objects.update(since=timezone.now() - timedelta(minutes=11))
    assert owner(secret)["boat"], "after ten minutes it answers again"
    assert anna.client.delete(f"/api/owner-links/{link}").status_code == 204
    owner(secret, status=401)
    make_link(anna, built)
    assert anna.get(url(built, "owner-links")).json()[0]["seen"] is None
    owners._wrong.clear()
    for _ in range(owners.MOST_WRONG):
        owner("guess", status=401)
    owner("guess", status=429)
    _, right = make_link(anna, built)
    assert owner(right)["boat"], "who has a link is let in, whatever others guess"
    owners._wrong.clear()


def test_practice_aboard_is_kept_with_names(anna: Person, built: Variant) -> None:
    entry = {"id": "7f0c5a3e-2d0b-4c9e-9d0f-0d6f7a5b1c51", "kind": "practised", "target": "aboard",
             "at": "2026-01-01T08:00:00Z", "revision": 1,
             "practised": {"items": ["Starting the engine"], "seconds": 95, "owner": "Åse",
                           "electrician": "anna"}}  # fmt: skip
    anna.client.post(url(built, "handover/entries"), json.dumps({"entries": [entry]}),
                     content_type="application/json")  # fmt: skip
    [done] = anna.get(url(built, "handover")).json()["practised"]
    assert done["practised"]["seconds"] == 95 and done["practised"]["owner"] == "Åse"
    nobody = entry | {"practised": entry["practised"] | {"owner": ""}}
    wrong = anna.post(url(built, "handover/entries"), {"entries": [nobody]}, status=422)
    assert wrong["errors"][0]["path"] == "entries[0].practised.owner"
