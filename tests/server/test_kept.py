"""What is kept beside revisions: rows that only grow, cards of jobs, counted findings."""

from __future__ import annotations

import importlib
from typing import Any

import pytest
from apps.jobs import listing, summaries
from apps.jobs.documents import _documents, document_at
from apps.jobs.models import FindingsSummary, Job, JobCard, SurveyRow, Variant, Waiver
from apps.jobs.survey_rows import ROW_LISTS
from apps.jobs.tasks import count_findings
from django.apps import apps
from strom_engine.survey import Survey

from tests.server.conftest import Person

pytestmark = pytest.mark.django_db


def url(variant: Variant, what: str) -> str:
    return f"/api/variants/{variant.pk}/{what}"


def day(n: int, used: float = 40.0) -> dict[str, Any]:
    return {"id": f"own{n}", "date": f"2026-07-{n:02d}", "used_ah": used,
            "profile": "at_anchor", "season": "summer"}  # fmt: skip


def put(anna: Person, job: Job, base: int, *rows: dict[str, Any]) -> int:
    change = {"type": "put_rows", "list": "counted", "rows": list(rows)}
    path = f"/api/jobs/{job.pk}/survey/changes"
    return anna.post(path, {"base_revision": base, "change": change})["revision"]


def survey_at(job: Job, number: int) -> Survey:
    _documents.clear()  # read as another process would
    return document_at(job.survey, number)


def test_every_revision_is_read_with_the_rows_it_was_saved_with(anna: Person, job: Job) -> None:
    first = survey_at(job, 1)
    begun = len(first.counted)
    put(anna, job, 1, day(1), day(2), day(3))
    put(anna, job, 2, day(2, 55.0))
    gone = {"type": "remove_rows", "list": "counted", "ids": ["own1"]}
    path = f"/api/jobs/{job.pk}/survey"
    anna.post(f"{path}/changes", {"base_revision": 3, "change": gone})
    anna.post(f"{path}/undo", {"base_revision": 4})
    told = [[(r.id, r.used_ah) for r in survey_at(job, n).counted[begun:]] for n in (1, 2, 3, 4, 5)]
    assert told == [
        [],
        [("own1", 40), ("own2", 40), ("own3", 40)],
        [("own1", 40), ("own2", 55), ("own3", 40)],
        [("own2", 55), ("own3", 40)],
        [("own1", 40), ("own2", 55), ("own3", 40)],
    ]
    assert survey_at(job, 1) == first
    for revision in job.survey.revisions.all():
        assert not set(revision.document) & set(ROW_LISTS)


def test_many_counted_days_are_kept_once(anna: Person, job: Job) -> None:
    base = put(anna, job, 1, *(day(n % 28 + 1) | {"id": f"x{n}"} for n in range(500)))
    before = SurveyRow.objects.count()
    base = put(anna, job, base, day(5, 44.0) | {"id": "x4"})
    assert SurveyRow.objects.count() == before + 1, "what takes its place, and no other"
    change = {"type": "set_section", "section": "boat", "fields": {"coldest_c": 1}}
    anna.post(f"/api/jobs/{job.pk}/survey/changes", {"base_revision": base, "change": change})
    assert SurveyRow.objects.count() == before + 1
    newest = job.survey.revisions.order_by("-number")[0]
    assert "x499" not in str(newest.document)
    assert len(survey_at(job, newest.number).counted) >= 500


def test_old_revisions_lose_their_lists_to_rows_and_get_them_back(anna: Person, job: Job) -> None:
    put(anna, job, 1, day(1), day(2))
    put(anna, job, 2, day(1, 60.0))
    as_saved = [survey_at(job, n) for n in (1, 2, 3)]
    move = importlib.import_module("apps.jobs.migrations.0008_rows_of_surveys")
    move.back_into_revisions(apps, None)
    assert SurveyRow.objects.count() == 0
    kept = job.survey.revisions.get(number=3).document["counted"][-2:]
    assert [row["used_ah"] for row in kept] == [60.0, 40.0]
    move.leave_revisions(apps, None)
    assert [survey_at(job, n) for n in (1, 2, 3)] == as_saved


def listed(anna: Person) -> list[dict[str, Any]]:
    return anna.get("/api/jobs").json()["jobs"][0]["variants"]


def test_a_list_counts_once_and_again_when_anything_moved(
    anna: Person, job: Job, variant: Variant, monkeypatch: pytest.MonkeyPatch
) -> None:
    counted: list[str] = []
    whole = summaries.all_findings

    def counting(one: Variant) -> Any:
        counted.append(one.name)
        return whole(one)

    monkeypatch.setattr(summaries, "all_findings", counting)
    monkeypatch.setattr(listing, "COUNTING_S", 60.0)
    first = listed(anna)
    assert len(counted) == len(first) and listed(anna) == first and len(counted) == len(first)
    assert first[0]["findings"] == sum(first[0]["by_severity"].values()) > 0
    key = next(iter(anna.get(url(variant, "findings")).json()["findings"]))["key"]
    counted.clear()
    sent = anna.post(url(variant, "waivers"), {"finding": key, "reason": "Seen."})
    assert listed(anna)[0]["findings"] == first[0]["findings"] - 1
    assert counted == [], "the page of findings counted anew, for this variant alone"
    path = url(variant, f"waivers/{sent['waivers'][0]['id']}")
    Waiver.objects.filter(variant=variant).update(
        severity="note"
    )  # graver now than when it was waived: it counts again
    assert listed(anna)[0]["findings"] == first[0]["findings"] and counted == [variant.name]
    assert anna.client.delete(path).status_code == 200
    counted.clear()
    change = {"type": "set_section", "section": "boat", "fields": {"coldest_c": -3}}
    anna.post(f"/api/jobs/{job.pk}/survey/changes", {"base_revision": 1, "change": change})
    listed(anna)
    assert len(counted) == len(first), "the survey belongs to every variant"
    monkeypatch.setattr(summaries, "engine_edition", lambda: "another")
    counted.clear()
    listed(anna)
    assert len(counted) == len(first), "another engine finds anew"


def test_what_is_not_counted_at_once_is_counted_by_a_worker(
    anna: Person, job: Job, variant: Variant, monkeypatch: pytest.MonkeyPatch
) -> None:
    monkeypatch.setattr(listing, "COUNTING_S", -1.0)
    assert all(v["counting"] and v["worst"] is None for v in listed(anna))
    assert not FindingsSummary.objects.exists()
    for one in job.variants.all():
        count_findings(str(one.pk))
    done = listed(anna)
    assert not any(v["counting"] for v in done) and done[0]["findings"] > 0
    count_findings(str(job.pk))  # a variant that is gone meanwhile


def test_a_card_is_read_of_the_newest_survey(anna: Person, job: Job) -> None:
    listed(anna)
    assert JobCard.objects.get().survey_revision == 1
    change = {"type": "set_section", "section": "use", "fields": {"complaint": "Flat by noon"}}
    anna.post(f"/api/jobs/{job.pk}/survey/changes", {"base_revision": 1, "change": change})
    assert anna.get("/api/jobs").json()["jobs"][0]["boat"]["notes"] == "Flat by noon"
    assert JobCard.objects.get().survey_revision == 2
