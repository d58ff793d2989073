"""What a phone aboard asks of the server: photographs once, the token, the service worker."""

from __future__ import annotations

from pathlib import Path
from typing import Any
from uuid import uuid4

from apps.jobs.models import Job
from django.test import Client

from tests.server.conftest import Person
from tests.server.test_archive import picture


def test_a_photograph_with_an_id_of_its_device_is_kept_once(
    anna: Person, bo: Person, job: Job
) -> None:
    photo = uuid4()
    address = f"/api/jobs/{job.pk}/photos?photo={photo}"
    for _ in range(2):
        sent = anna.client.post(address, picture(7), content_type="application/octet-stream")
        assert sent.status_code == 200 and sent.json()["id"] == str(photo)
    assert job.photos.count() == 1
    other = bo.post(
        "/api/jobs", {"name": "Other", "kind": "cruising_yacht", "switching": "selector"}
    )
    address = f"/api/jobs/{other['id']}/photos?photo={photo}"
    sent = bo.client.post(address, picture(7), content_type="application/octet-stream")
    assert sent.status_code == 422, "an id is of one boat"


def test_who_starts_from_the_device_gets_the_token_with_the_session(db: None) -> None:
    client = Client(enforce_csrf_checks=True)
    assert client.get("/api/session").cookies["csrftoken"].value


def test_the_service_worker_stands_at_the_root(db: None, settings: Any, tmp_path: Path) -> None:
    settings.FRONTEND_DIST = tmp_path
    assert Client().get("/sw.js").status_code == 503
    (tmp_path / "sw.js").write_text("self;")
    found = Client().get("/sw.js")
    assert (found.content, found["Content-Type"]) == (b"self;", "text/javascript")
    assert found["Cache-Control"] == "no-cache"
