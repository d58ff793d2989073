"""Job files and archives: everything of a job out, and in again without loss."""

from __future__ import annotations

import io
import json
import random
import re
import zipfile
from datetime import UTC, datetime, timedelta
from typing import Any
from uuid import UUID

import numpy as np
import pytest
from apps.accounts.permissions import Writer
from apps.handover import archive
from apps.jobs.job_files import job_file, save_job
from apps.jobs.models import Job, Variant
from apps.logbook.blocks import keep_trace
from apps.logbook.models import Record
from apps.prints.work import make_print
from apps.surveys.photos import add_photo
from PIL import Image
from strom_engine.dayrun import Plan
from strom_engine.design import Bank
from strom_engine.interchange import EntryFile, JobFile, PlanFile, VariantFile, WaiverFile, dump_job
from strom_engine.records import Trace
from strom_engine.survey import boat_kinds, new_boat

from tests.server.conftest import Person
from tests.server.test_jobs import url

KINDS = boat_kinds()
DAY = datetime(2026, 5, 1, 8, tzinfo=UTC)
VALUES: dict[str, dict[str, list[Any]]] = {
    "build": {"tick": [True, False], "received": [2.0], "length": [1.25], "note": ["Tight."]},
    "prove": {"reading": [{"value": 12.6, "instrument": "Meter"}], "look": [True], "note": ["Wet."],
              "today": [{"temperature_c": 11.0, "rested_h": 5.0}]},
    "log": {"note": ["Hauled out."], "done": [{"note": "", "engine_h": 811.0}],
            "reading": [{"kind": "rest_v", "values": [12.61], "rested_h": 12, "source": "anna"}],
            "setting": [{"name": "Float", "new": "13.5 V", "why": "Hot.", "crutch": True}]},
    "handover": {"drill": [{"outcome": "harm", "moves": 2}],
                 "practised": [{"items": ["Start"], "seconds": 61, "owner": "Åse"}]},
}  # fmt: skip


def picture(shade: int) -> bytes:
    out = io.BytesIO()
    Image.new("RGB", (40, 30), (shade, 90, 10)).save(out, "PNG")
    return out.getvalue()


def entries(rng: random.Random) -> dict[str, Any]:
    found: dict[str, Any] = {}
    for stage, kinds in VALUES.items():
        made: list[EntryFile] = []
        for n in range(rng.randrange(4)):
            kind = rng.choice(sorted(kinds))
            made.append(EntryFile(
                id=UUID(int=rng.getrandbits(128)), kind=kind, target=f"thing {n}",
                value=rng.choice(kinds[kind]), revision=rng.randint(1, 9),
                at=DAY + timedelta(minutes=rng.randrange(9000)), by=rng.choice(("", "bo", "Åse")),
            ))  # fmt: skip
        found[stage] = tuple(sorted(made, key=lambda e: (e.at, e.id)))
    return {stage: told for stage, told in found.items() if told}


def a_job(person: Person, seed: int) -> Job:
    """A boat of some kind with some of everything that a workshop keeps of one."""
    rng = random.Random(seed)
    kind = rng.choice(KINDS)
    survey, design = new_boat(kind.kind, rng.choice(kind.switchings).id)
    bank = design.of_type(Bank)[0].id
    waiver = WaiverFile(finding="OC-1 bank", rule="OC-1", severity="note", title="No fuse",
                        reason="Seen.", by=rng.choice(("", "bo")), created=DAY)  # fmt: skip
    variants = tuple(
        VariantFile(name=name, design=design, revision=rng.randint(1, 40), entries=entries(rng),
                    chosen=name == "B", waivers=(waiver,) * rng.randrange(2))
        for name in ("A", "B")[: rng.randint(1, 2)]
    )  # fmt: skip
    plans = (PlanFile(school="a", plan=Plan(name="Day", hours=20)),) * rng.randrange(3)
    file = JobFile(name=f"Boat {seed}", survey=survey, plans=plans, variants=variants,
                   survey_revision=rng.randint(1, 9))  # fmt: skip
    job = save_job(person.user.workshop, Writer(person.user), file, "Made")
    for n in range(rng.randrange(3)):
        add_photo(job, person.user, picture(rng.randrange(255)), f"Photo {n} å")
    if rng.random() < 0.5:
        columns = {"volts_v": np.round(rng.uniform(12, 14) + np.arange(50.0) / 100, 2)}
        trace = Trace(1.7e9 + 60 * np.arange(50.0), columns)
        record = Record.objects.create(
            id=UUID(int=rng.getrandbits(128)), job=job, name="Season", bank=bank,
            digest="0" * 64, size=9, status="done", rows=50, confirmed=True, by="anna",
            layout={"columns": [{"head": "t", "quantity": "time"}], "zone": "UTC"},
        )  # fmt: skip
        keep_trace(record, trace)
    return job


def zipped(documents: dict[str, bytes]) -> bytes:
    out = io.BytesIO()
    with zipfile.ZipFile(out, "w") as made:
        for name, data in documents.items():
            made.writestr(name, data)
    return out.getvalue()


def test_fifty_jobs_out_and_in_again_are_the_same_to_the_byte(anna: Person, bo: Person) -> None:
    for seed in range(50):
        job = a_job(anna, seed)
        before = dict(archive.documents(job))
        beside = archive.bring_in(bo.user.workshop, Writer(bo.user), zipped(before))
        assert len(dict(archive.documents(beside))) == len(before), "ids that are taken are others"
        job.delete()
        beside.delete()
        again = archive.bring_in(bo.user.workshop, Writer(bo.user), zipped(before))
        after = dict(archive.documents(again))
        assert after.keys() == before.keys()
        assert [n for n in before if before[n] != after[n]] == [], f"job {seed}"
        # The job file alone brings all but photographs and records.
        text = before["job.json"]
        again.delete()
        alone = anna.post("/api/jobs/import", text)
        assert dump_job(job_file(Job.objects.get(pk=alone["id"]))).encode() == text


def test_beside_the_first_everything_still_names_its_own(anna: Person, variant: Variant) -> None:
    photo = add_photo(variant.job, anna.user, picture(9), "Panel")
    stamp = {"at": "2026-01-01T08:00:00Z", "revision": 1}
    fault = {"id": "7f0c5a3e-2d0b-4c9e-9d0f-0d6f7a5b1d01", "kind": "fault", "target": "engine_bank",
             "fault": {"complaint": "Slow to start."}, **stamp}  # fmt: skip
    cured = {"id": "7f0c5a3e-2d0b-4c9e-9d0f-0d6f7a5b1d02", "kind": "cured", "target": fault["id"],
             "text": "New lug.", **stamp}  # fmt: skip
    anna.post(url(variant, "log/entries"), {"entries": [fault, cured]})
    shot = {"id": "7f0c5a3e-2d0b-4c9e-9d0f-0d6f7a5b1d03", "kind": "photo", "target": "off:loads",
            "photo": str(photo.pk), **stamp}  # fmt: skip
    anna.post(url(variant, "build/entries"), {"entries": [shot]})
    data = zipped(dict(archive.documents(variant.job)))
    sent = anna.client.post("/api/archives", data, content_type="application/zip")
    assert sent.status_code == 200, sent.content[:300]
    other = Job.objects.get(pk=sent.json()["id"]).variants.get(name=variant.name)
    out = anna.get(url(other, "log")).json()
    assert out["open_faults"] == [] and out["entries"][0]["author"] == "anna"
    own = str(other.job.photos.get().pk)
    assert other.build_entries.get(kind="photo").value == own != str(photo.pk)
    # A job file has no photographs: an entry that shows one is left out, not broken.
    alone = anna.post("/api/jobs/import", dump_job(job_file(variant.job)))
    assert not Job.objects.get(pk=alone["id"]).variants.get(name=variant.name).build_entries.count()


def test_the_worker_packs_pdfs_into_it(anna: Person, variant: Variant) -> None:
    asked = anna.post(url(variant, "archive"))
    make_print(asked["id"])
    told = anna.get(f"/api/prints/{asked['id']}").json()
    assert (told["status"], told["ending"]) == ("done", "zip"), told["problem"]
    data = anna.get(f"/api/prints/{asked['id']}/file").content
    names = zipfile.ZipFile(io.BytesIO(data)).namelist()
    pdfs = ("handover-pack", "owners-sheet", "build-pack", "proving-record")
    assert set(names) >= {"job.json", "archive.json", *(f"pdf/{name}.pdf" for name in pdfs)}


def damaged(documents: dict[str, bytes]) -> bytes:
    """An archive in which a byte of the packed job has changed on its way."""
    out = io.BytesIO()
    with zipfile.ZipFile(out, "w", zipfile.ZIP_DEFLATED) as made:
        for name, data in documents.items():
            made.writestr(name, data)
    raw = bytearray(out.getvalue())
    at = raw.index(b"job.json") + 60
    raw[at : at + 8] = b"\xff" * 8
    return bytes(raw)


def locked(documents: dict[str, bytes]) -> bytes:
    """An archive that says it needs a password: the flag of each file is set."""
    raw = bytearray(zipped(documents))
    for mark, flag in ((b"PK\x03\x04", 6), (b"PK\x01\x02", 8)):
        at = -1
        while (at := raw.find(mark, at + 1)) >= 0:
            raw[at + flag] |= 1
    return bytes(raw)


BROKEN = {
    "damaged": (damaged, "job.json", "cannot be read"),
    "locked": (locked, "archive.json", "cannot be read"),
    "an endless cell": (lambda d: zipped(d | {n: v + b'"' + b"9" * 200_000 for n, v in d.items()
                                              if n[-3:] == "csv"}), "records/01.csv line", "limit"),
    "a moment of another age": (lambda d: zipped(d | {"archive.json": re.sub(
        rb'"created": "[0-9-]+', b'"created": "9999-12-31', d["archive.json"])}),
        "archive.json photographs[0].created", "after 2099"),
    "no zip": (lambda d: b"PK nonsense", "", "not an archive"),
    "no job": (lambda d: zipped({k: v for k, v in d.items() if k != "job.json"}), "job.json",
               "is missing"),
    "later": (lambda d: zipped(d | {"archive.json": d["archive.json"].replace(
        b'"version": 1', b'"version": 2')}), "archive.json version", ""),
    "a way out of it": (lambda d: zipped(d | {"archive.json": d["archive.json"].replace(
        b"photographs/", b"../etc/")}), "archive.json photographs[0].file", ""),
    "a camera's own words": (lambda d: zipped(d | {n: picture(1) for n in d if n[-3:] == "jpg"}),
                             "photographs/", "is no photograph"),
    "a row of words": (lambda d: zipped(d | {n: v + b"now,high\n" for n, v in d.items()
                                              if n[-3:] == "csv"}), "records/01.csv line 52", ""),
    "out of order": (lambda d: zipped(d | {n: b"at_s,volts_v\n2,12\n1,12\n" for n in d
                                           if n[-3:] == "csv"}), "records/01.csv", "out of order"),
    "another bank": (lambda d: zipped(d | {"archive.json": d["archive.json"].replace(
        b'"bank": "', b'"bank": "attic_bank')}), "archive.json records[0].bank", "attic_bank"),
    "an entry of no kind": (lambda d: zipped(d | {"job.json": d["job.json"].replace(
        b'"kind": "tick"', b'"kind": "tock"')}), "variants[0].entries.build[0].kind", "tock"),
}  # fmt: skip


@pytest.mark.parametrize("name", BROKEN)
def test_what_is_wrong_is_told_and_nothing_is_saved(anna: Person, name: str) -> None:
    job = next(
        job
        for seed in range(200)
        if (
            (job := a_job(anna, seed)).photos.exists()
            and job.records.exists()
            and any(
                e.kind == "tick" for e in job_file(job).variants[0].entries.get("build", ())[:1]
            )
        )
        or job.delete() is None
    )
    breaking, path, words = BROKEN[name]
    data = breaking(dict(archive.documents(job)))
    sent = anna.client.post("/api/archives", data, content_type="application/zip")
    assert sent.status_code == 422, sent.content[:300]
    problem = json.loads(sent.content)["errors"][0]
    assert problem["path"].startswith(path) and words in problem["message"]
    assert Job.objects.count() == 1
