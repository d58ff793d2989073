"""Roles, invitations, the second factor, sessions, the audit log."""

from __future__ import annotations

import json
from datetime import timedelta
from random import Random
from typing import Any

import pytest
from apps.accounts import limits
from apps.accounts.limits import forget_requests
from apps.accounts.models import Invitation, Role, User
from apps.audit.models import KEPT, AuditEntry
from apps.audit.words import NOT_TOLD, WORDS
from apps.jobs.models import Job, Variant
from apps.operation.retention import tidy_up
from django.core import mail
from django.test import Client
from django.utils import timezone
from django_otp.oath import totp
from django_otp.plugins.otp_totp.models import TOTPDevice

from tests.server.conftest import Person, answered, make_person
from tests.server.test_access import ENDPOINTS, SNAPSHOT, call

COMPUTES = {(m.lower(), path) for m, path in NOT_TOLD}
# These keep nothing that was entered, but they are part of the work.
SHUT = ("/api/variants/{variant_id}/prove/meter", "/api/records/{record_id}/cancel")
PRINTS = ("pack", "sheet", "record", "archive")
WORKSHOP = ("get", "/api/workshop")
OWN = ("/api/session", "/api/account")
OWNERS = [
    (m, p)
    for m, p in ENDPOINTS
    if p.startswith(("/api/people", "/api/audit", "/api/workshop")) and (m, p) != WORKSHOP
]


def signed(username: str, password: str, code: str = "", status: int = 200) -> tuple[Client, Any]:
    client = Client()
    body = {"username": username, "password": password, "code": code}
    answer = client.post("/api/session", json.dumps(body), content_type="application/json")
    assert answer.status_code == status, answer.content
    return client, answer.json()


@pytest.fixture
def reader(anna: Person) -> Person:
    return make_person("rea", Role.READER, anna.user.workshop)


@pytest.fixture
def electrician(anna: Person) -> Person:
    return make_person("eli", Role.ELECTRICIAN, anna.user.workshop)


# -- roles -------------------------------------------------------------------------------------


def opens_for_readers(method: str, path: str) -> bool:
    """Reading, computing, printing, and what is about oneself."""
    computes = (method, path) in COMPUTES and path not in SHUT
    asks = method == "post" and path.startswith("/api/variants") and path.endswith(PRINTS)
    return method == "get" or computes or asks or path.startswith(OWN)


WRITES = [
    (m, p)
    for m, p in ENDPOINTS
    if not opens_for_readers(m, p) and not p.startswith("/api/owner/") and (m, p) not in OWNERS
]


@pytest.mark.parametrize(("method", "path"), WRITES)
def test_a_reader_changes_nothing(
    method: str, path: str, job: Job, variant: Variant, reader: Person
) -> None:
    answer = call(reader.client, method, path, job, variant)
    assert (answer.status_code, answer.json()["title"]) == (403, "Not allowed")


OPENED = [
    (m, p)
    for m, p in ENDPOINTS
    if m != "get" and opens_for_readers(m, p) and not p.startswith((*OWN, "/api/owner/"))
]


@pytest.mark.parametrize(("method", "path"), OPENED)
def test_a_reader_computes_and_prints(
    method: str, path: str, job: Job, variant: Variant, reader: Person
) -> None:
    answer = answered(lambda: call(reader.client, method, path, job, variant))
    assert answer.status_code in (200, 204, 422)


@pytest.mark.parametrize(("method", "path"), OWNERS)
def test_people_and_their_log_are_the_owners(
    method: str, path: str, job: Job, variant: Variant, electrician: Person
) -> None:
    assert call(electrician.client, method, path, job, variant).status_code == 403


def test_a_reader_looks_and_computes_and_an_electrician_works(
    job: Job, variant: Variant, reader: Person, electrician: Person
) -> None:
    for address in (f"jobs/{job.pk}", f"variants/{variant.pk}/findings"):
        assert reader.get(f"/api/{address}").status_code == 200
    assert reader.post(f"/api/variants/{variant.pk}/bench", {})["point"]
    body = {"base_revision": 1, "change": {"type": "remove_cable", "cable": "solar_house"}}
    assert electrician.post(f"/api/variants/{variant.pk}/changes", body)["revision"] == 2


def test_the_last_owner_stays(anna: Person, electrician: Person) -> None:
    def change(person: Person, body: dict[str, Any]) -> int:
        path = f"/api/people/{person.user.pk}"
        sent = anna.client.patch(path, json.dumps(body), content_type="application/json")
        return int(sent.status_code)

    assert change(anna, {"role": "reader"}) == 422
    assert change(anna, {"out": True}) == 422
    assert change(electrician, {"role": "owner"}) == 200
    assert change(anna, {"role": "reader"}) == 200
    assert change(electrician, {"out": True}) == 403  # no owner any more: nobody to let out


def test_who_is_let_out_is_out_at_once_and_comes_in_again(anna: Person) -> None:
    eli = make_person("eli", Role.ELECTRICIAN, anna.user.workshop)
    client, _ = signed("eli", "pass-1234")
    path = f"/api/people/{eli.user.pk}"
    for out, status in ((True, 401), (False, 200)):
        sent = {"data": json.dumps({"out": out}), "content_type": "application/json"}
        assert anna.client.patch(path, **sent).status_code == 200
        assert client.get("/api/jobs").status_code == 401
        client, _ = signed("eli", "pass-1234", status=status)


# -- invitations -------------------------------------------------------------------------------


def secret_of(told: Any) -> str:
    """What stands behind the mark of a link."""
    return str(told["link"]).partition("/join#")[2]


def join(secret: str, username: str, password: str, status: int = 200) -> Any:
    client = Client()
    body = {"secret": secret, "username": username, "password": password}
    sent = client.post("/api/session/join", json.dumps(body), content_type="application/json")
    assert sent.status_code == status, sent.content
    return sent.json()


def test_an_invitation_is_used_once(anna: Person, bo: Person) -> None:
    told = anna.post("/api/people/invitations", {"name": "Cora", "role": "electrician"})
    opened = Client().post(
        "/api/session/invitation",
        json.dumps({"secret": secret_of(told)}),
        content_type="application/json",
    )
    assert (opened.json()["workshop"], opened.json()["role"]) == ("Workshop of anna", "electrician")
    # each reason at once; nothing is used up by a try that fails
    assert len(join(secret_of(told), "cora", "123", 422)["errors"]) >= 2
    assert "choose another name" in join(secret_of(told), "BO", "tide-table-7", 422)["detail"]
    joined = join(secret_of(told), "cora", "tide-table-7")
    assert (joined["username"], joined["role"]) == ("cora", "electrician")
    assert join(secret_of(told), "dan", "tide-table-7", 404)["title"] == "Not found"
    assert secret_of(told) not in json.dumps(list(Invitation.objects.values()), default=str)


@pytest.mark.parametrize("how", ["withdrawn", "old", "made up"])
def test_links_of_no_use(anna: Person, how: str) -> None:
    told = anna.post("/api/people/invitations", {"name": "Cora", "role": "owner"})
    if how == "withdrawn":
        assert anna.client.delete(f"/api/people/invitations/{told['id']}").status_code == 200
    if how == "old":
        Invitation.objects.update(expires=timezone.now() - timedelta(seconds=1))
    join(secret_of(told) if how != "made up" else "x" * 40, "cora", "tide-table-7", 404)
    assert not User.objects.filter(username="cora").exists()


def test_an_invitation_is_mailed_where_mail_is_set_up(anna: Person, settings: Any) -> None:
    ask = {"name": "Cora", "role": "reader", "mail": "cora@example.org"}
    assert anna.post("/api/people/invitations", ask)["mailed"] is False
    settings.MAIL_FROM = "strom@example.org"
    told = anna.post("/api/people/invitations", ask)
    assert told["mailed"] is True
    [sent] = mail.outbox
    assert f"/join#{secret_of(told)}" in sent.body and sent.to == ["cora@example.org"]


def test_a_forgotten_password_is_chosen_anew(anna: Person, electrician: Person) -> None:
    client, _ = signed("eli", "pass-1234")
    told = anna.post(f"/api/people/{electrician.user.pk}/new-password")
    assert join(secret_of(told), "whatever", "tide-table-7")["username"] == "eli"
    assert client.get("/api/jobs").status_code == 401  # sessions of the old password are over
    signed("eli", "pass-1234", status=401)
    signed("eli", "tide-table-7")


# -- one's own account -------------------------------------------------------------------------


def test_a_changed_password_ends_the_other_sessions(anna: Person) -> None:
    here, _ = signed("anna", "pass-1234")
    there, _ = signed("anna", "pass-1234")
    person = Person(here, anna.user)
    wrong = {"password": "no", "new": "tide-table-7"}
    assert (
        person.post("/api/account/password", wrong, 403)["detail"] == "This is not your password."
    )
    weak = {"password": "pass-1234", "new": "12345"}
    assert {e["path"] for e in person.post("/api/account/password", weak, 422)["errors"]} == {"new"}
    person.post("/api/account/password", {"password": "pass-1234", "new": "tide-table-7"})
    assert here.get("/api/jobs").status_code == 200
    assert there.get("/api/jobs").status_code == 401


def test_wrong_passwords_within_a_session_are_counted_as_at_the_door(anna: Person) -> None:
    wrong = {"password": "no", "new": "tide-table-7"}
    for _ in range(9):
        anna.post("/api/account/password", wrong, 403)
    anna.post("/api/account/password", wrong, 429)
    anna.post("/api/account/second-factor", {"password": "pass-1234"}, 429)  # right, but too late


def test_sessions_are_listed_and_ended(anna: Person, bo: Person) -> None:
    phone = Client(headers={"user-agent": "A phone"})
    phone.force_login(anna.user)
    phone.get("/api/jobs")
    desk, _ = signed("anna", "pass-1234")
    desk.get("/api/jobs")
    rows = desk.get("/api/account").json()["sittings"]
    [own] = [row for row in rows if row["here"]]
    [other] = [row for row in rows if row["browser"] == "A phone"]
    keys = [row.session_key for row in anna.user.sittings.all()]
    assert own["number"] != other["number"] and not {own["number"], other["number"]} & set(keys)
    bo.client.delete(f"/api/account/sittings/{other['number']}")
    assert phone.get("/api/jobs").status_code == 200  # somebody else's number ends nothing
    desk.delete(f"/api/account/sittings/{other['number']}")
    assert phone.get("/api/jobs").status_code == 401
    assert desk.get("/api/jobs").status_code == 200


def guarded(anna: Person) -> list[str]:
    anna.post("/api/account/second-factor", {"password": "pass-1234"})
    sent = {"code": code_of(anna.user)}
    codes: list[str] = anna.post("/api/account/second-factor/confirm", sent)["codes"]
    return codes


def code_of(user: User, steps: int = 0) -> str:
    """What the app on the phone shows, or will show some steps later."""
    device = TOTPDevice.objects.get(user=user)
    return f"{totp(device.bin_key, drift=steps):06d}"


def test_a_second_factor_is_asked_for_at_the_door(anna: Person) -> None:
    codes = guarded(anna)
    _, asked = signed("anna", "pass-1234")
    assert asked["code_wanted"] is True and asked["signed_in"] is False
    signed("anna", "wrong", codes[0], status=401)  # no code makes up for a password
    signed("anna", "pass-1234", code_of(anna.user), status=401)  # it was used to set it up
    TOTPDevice.objects.update(throttling_failure_count=0)
    _, inside = signed("anna", "pass-1234", code_of(anna.user, 1))
    assert inside["signed_in"] is True
    signed("anna", "pass-1234", codes[0])
    signed("anna", "pass-1234", codes[0], status=401)  # each once
    assert anna.get("/api/account").json()["recovery_codes"] == len(codes) - 1
    assert anna.post("/api/account/second-factor", {"password": "pass-1234"}, 422)
    assert anna.post("/api/account/second-factor/off", {"password": "no"}, 403)
    assert not anna.post("/api/account/second-factor/off", {"password": "pass-1234"})[
        "second_factor"
    ]
    signed("anna", "pass-1234")


def test_guessing_codes_is_slowed_down(anna: Person) -> None:
    guarded(anna)
    right = code_of(anna.user, 1)
    wrong = f"{(int(right) + 1) % 1_000_000:06d}"
    signed("anna", "pass-1234", wrong, status=401)
    signed("anna", "pass-1234", right, status=401)  # right, but too soon after a wrong one


# -- the audit log -----------------------------------------------------------------------------


def test_the_log_knows_every_endpoint() -> None:
    writes = {(m.upper(), path) for m, path in ENDPOINTS if m != "get"}
    assert writes <= set(WORDS) | NOT_TOLD
    assert not set(WORDS) & NOT_TOLD
    every = {(m.upper(), path) for m, path in ENDPOINTS}
    assert set(WORDS) | NOT_TOLD <= every
    files = {("GET", p) for p in SNAPSHOT["paths"] if p.endswith((".csv", ".xlsx", "/export"))}
    computed = {("GET", "/api/studies/{study_id}/day.csv"), ("GET", "/api/audit.csv")}
    assert files - computed <= set(WORDS)


def test_who_did_what_is_told_with_the_boat(job: Job, anna: Person, bo: Person) -> None:
    variant = job.variants.get(name="As found")
    change = {"base_revision": 1, "change": {"type": "remove_cable", "cable": "solar_house"}}
    anna.post(f"/api/variants/{variant.pk}/changes", change)
    anna.post(f"/api/variants/{variant.pk}/changes", {"base_revision": 1, "change": {}}, 422)
    anna.get(f"/api/jobs/{job.pk}/export")
    photo = job.photos.create(caption="Panel", width=4, height=3, image=b"x")
    anna.client.delete(f"/api/photos/{photo.pk}")
    anna.client.delete(f"/api/jobs/{job.pk}")
    anna.post("/api/jobs", {"name": "Tern", "kind": "dinghy", "switching": "selector"}, 422)
    kinds = anna.get("/api/choices").json()["boat_kinds"]
    made = anna.post("/api/jobs", {"name": "Tern", "kind": kinds[0]["kind"], "switching": "none"})
    anna.post(f"/api/jobs/{made['id']}/template", {"name": "Tern II"})
    told = anna.post("/api/people/invitations", {"name": "Cora", "role": "reader"})
    join(secret_of(told), "cora", "tide-table-7")
    entries = anna.get("/api/audit").json()["entries"]
    assert [(e["name"], e["did"], e["job_name"], e["subject"]) for e in entries] == [
        ("cora", "followed an invitation", "", ""),
        ("anna", "invited somebody", "", "Cora"),
        ("anna", "began a job as another one", "Tern II", "Tern"),
        ("anna", "entered a boat", "Tern", ""),
        ("anna", "put a job into the bin", "Marsh Wren", ""),
        ("anna", "deleted a photograph", "Marsh Wren", "Panel"),
        ("anna", "exported a job", "Marsh Wren", ""),
        ("anna", "changed the design", "Marsh Wren", "As found"),
    ]
    assert [e["did"] for e in anna.get("/api/audit?words=panel+wren").json()["entries"]] == [
        "deleted a photograph"
    ]
    assert "exported a job,Marsh Wren" in anna.get("/api/audit.csv").content.decode()
    assert bo.get("/api/audit").json()["entries"] == []


def test_what_was_rolled_back_is_not_in_the_log_and_old_entries_go(anna: Person) -> None:
    eli = make_person("eli", Role.ELECTRICIAN, anna.user.workshop)
    eli.client.delete(f"/api/people/{anna.user.pk}/second-factor")
    assert AuditEntry.objects.count() == 0
    anna.client.patch(
        f"/api/people/{eli.user.pk}",
        json.dumps({"role": "reader"}),
        content_type="application/json",
    )
    assert AuditEntry.objects.get().subject == "eli: reader"
    AuditEntry.objects.update(at=timezone.now() - KEPT - timedelta(days=1))
    assert tidy_up()["audit entries"] == 1


# -- limits on use -----------------------------------------------------------------------------


def test_one_person_leaves_room_for_others(anna: Person, bo: Person, monkeypatch: Any) -> None:
    forget_requests()
    monkeypatch.setattr(limits, "MOST_REQUESTS", 3)
    answers = [anna.get("/api/account") for _ in range(4)]
    assert [answer.status_code for answer in answers] == [200, 200, 200, 429]
    assert answers[-1].json()["title"] == "Too many requests"
    assert bo.get("/api/account").status_code == 200
    forget_requests()
    assert anna.get("/api/account").status_code == 200


# -- the workshop ------------------------------------------------------------------------------


def test_a_workshop_writes_days_as_it_likes(anna: Person, electrician: Person) -> None:
    told = {"dates": "dmy", "clock": "24", "units": "feet", "paper": "letter"}
    sent = {"data": json.dumps({"name": "Harbour", **told}), "content_type": "application/json"}
    assert anna.client.put("/api/workshop", **sent).status_code == 200
    session = electrician.get("/api/session").json()
    assert (session["workshop"], session["formats"]) == ("Harbour", told)
    kept = anna.get("/api/workshop").json()
    assert all(kept[name] in {c["value"] for c in kept["choices"][name]} for name in told)
    wrong = json.dumps({"name": "", **told, "units": "cubits"})
    refused = anna.client.put("/api/workshop", wrong, content_type="application/json").json()
    assert {e["path"] for e in refused["errors"]} == {"name", "units"}


def test_what_jobs_take_on_disk(anna: Person, bo: Person, job: Job) -> None:
    job.photos.create(caption="Panel", width=4, height=3, image=Random(1).randbytes(10_000))
    small = anna.post("/api/jobs", {"name": "Tern", "kind": "cruising_yacht", "switching": "none"})
    rows = anna.get("/api/workshop/disk").json()
    assert [row["name"] for row in rows] == ["Marsh Wren", small["name"]]
    first = rows[0]
    assert 10_000 <= first["photographs"] < 11_000  # what cannot be made smaller, and its head
    parts = ("photographs", "records", "studies", "files", "versions")
    assert first["total"] == sum(first[part] for part in parts) and first["versions"] > 1000
    assert bo.get("/api/workshop/disk").json() == []
