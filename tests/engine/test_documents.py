"""Documents of every version that ever was, read as the present one has them."""

from __future__ import annotations

import json
from pathlib import Path
from typing import get_args

import pytest
from strom_engine.design import Fuse
from strom_engine.errors import DocumentError
from strom_engine.interchange import READERS, JobFile, Sort, read_document
from strom_engine.versions import Chain

KEPT = Path(__file__).parent / "documents"
FILES = sorted(KEPT.glob("*.json"))


def kept(name: str) -> dict:
    return json.loads((KEPT / f"{name}.json").read_text("utf-8"))


@pytest.mark.parametrize("file", FILES, ids=lambda file: file.stem)
def test_a_frozen_file_is_read_as_of_today(file: Path) -> None:
    sort, _, version = file.stem.rpartition("-")
    raw = kept(file.stem)
    before = json.dumps(raw)
    document = read_document(sort, raw)
    assert document.version == type(document).chain.version
    assert json.dumps(raw) == before, "the one given stays as it is"
    again = document.model_dump(mode="json")
    assert read_document(sort, again) == document
    if int(version) == document.version:
        assert sort == "job" or within(again, raw), "a document of today is kept as it is"


def within(told: object, raw: object) -> bool:
    """Whether all that a file holds is told again; figures that came later have their defaults."""
    if isinstance(raw, dict) and isinstance(told, dict):
        return all(key in told and within(told[key], value) for key, value in raw.items())
    if isinstance(raw, list) and isinstance(told, list):
        return len(raw) == len(told) and all(map(within, told, raw))
    return told == raw


def test_there_is_a_frozen_file_of_every_version() -> None:
    wanted = {
        f"{sort}-{version}"
        for sort in get_args(Sort)
        for version in range(1, _chain(sort).version + 1)
    }
    assert {file.stem for file in FILES} == wanted and set(READERS) == set(get_args(Sort))


def _chain(sort: Sort) -> Chain:
    return type(read_document(sort, kept(f"{sort}-1"))).chain


def test_what_each_step_did() -> None:
    # A design of version 1 had free words for a fuse.
    raw = kept("design-1")
    words = next(p["device"] for p in raw["components"] if p["kind"] == "fuse")
    [fuse] = read_document("design", raw).of_type(Fuse)
    assert (words, fuse.device) == ("blade fuse", "blade_regular")
    for part in raw["components"]:
        if part["kind"] == "fuse":
            part["device"] = "bolt-down fuse"
    assert read_document("design", raw).of_type(Fuse)[0].device == "unknown"
    # A job of version 1 had a boat, and no survey.
    job = read_document("job", kept("job-1"))
    assert isinstance(job, JobFile)
    assert (job.survey.boat.kind, job.survey.boat.fuel) == ("Workboat", "petrol")
    assert [p.id for p in job.survey.profiles] == ["working", "moored"]
    assert job.variants[0].design.of_type(Fuse)[0].device == "blade_regular"
    # A job of version 2 had no plans, no entries, and nobody who had waived.
    earlier, now = read_document("job", kept("job-2")), read_document("job", kept("job-3"))
    assert isinstance(earlier, JobFile) and isinstance(now, JobFile)
    assert (earlier.plans, earlier.variants[0].entries, earlier.variants[0].revision) == ((), {}, 1)
    assert (now.plans[0].plan.name, now.variants[0].waivers[0].by) == ("Day trip", "anna")
    assert [e.target for e in now.variants[0].entries["build"]] == ["off:loads"]


@pytest.mark.parametrize(
    ("raw", "words"),
    [
        ({"version": 99, "components": [], "cables": []}, "versions run from 1 to 2"),
        ({"components": [{"kind": "fuse", "id": "a"}], "cables": []}, "name: Field required"),
        ([], "valid dictionary"),
    ],
)
def test_what_cannot_be_read_is_said(raw: object, words: str) -> None:
    with pytest.raises(DocumentError, match=words):
        read_document("design", raw)


def test_steps_are_taken_one_after_another() -> None:
    chain = Chain(
        steps=(
            lambda raw: {**raw, "way": [*raw.get("way", ()), 1]},
            lambda raw: {**raw, "way": [*raw.get("way", ()), 2]},
        )
    )
    assert chain.version == 3
    assert [chain.brought_up({"version": v}).get("way") for v in (1, 2, 3)] == [[1, 2], [2], None]
    assert chain.brought_up({})["version"] == 3
    assert chain.problems({"version": 4}, "a.")[0].path == "a.version" and not chain.problems({})
