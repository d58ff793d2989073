"""Handover over the wire: the owner's sheet in two languages, and on paper."""

from __future__ import annotations

from typing import Any

import pytest
from apps.jobs.models import Job, Variant
from apps.prints.work import make_print

from tests.server.conftest import Person
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
