"""Operation: a backup that restores byte for byte, health, measurements, what is logged."""

from __future__ import annotations

import io
import json
import logging
import os
import subprocess
import sys
import zipfile
from collections.abc import Iterator
from datetime import datetime, timedelta
from pathlib import Path
from typing import Any
from uuid import uuid4

import psycopg
import pytest
from apps.accounts.models import Sitting
from apps.days.models import DayPlan, Study
from apps.days.result_shapes import RESULT_SHAPE
from apps.jobs.models import Job, Revision
from apps.logbook.models import Record
from apps.operation import backups
from apps.operation.health import LATE_S, Health, health, queue_state
from apps.operation.log_filters import RequestId, WithoutAddress
from apps.operation.retention import tidy_up
from axes.models import AccessAttempt
from django.db import OperationalError, connection
from django.db.migrations.recorder import MigrationRecorder
from django.test import Client
from django.utils import timezone
from PIL import Image
from procrastinate.contrib.django.models import ProcrastinateJob
from pythonjsonlogger.json import JsonFormatter

from tests.server.conftest import Person

FILTERS = {"request_id": RequestId(), "without_address": WithoutAddress()}
ROOT = Path(__file__).parents[2]


def url_of(name: str) -> str:
    return f"{os.environ['STROM_DATABASE_URL'].rpartition('/')[0]}/{name}"


@pytest.fixture
def empty() -> Iterator[str]:
    """The address of a new database without a table."""
    name = f"restored_{uuid4().hex}"
    with psycopg.connect(url_of("postgres"), autocommit=True) as db:
        db.execute(f'CREATE DATABASE "{name}"'.encode())
        yield url_of(name)
        db.execute(f'DROP DATABASE "{name}" WITH (FORCE)'.encode())


def rows_of(url: str, table: str) -> list[Any]:
    with psycopg.connect(url) as db:
        return db.execute(f'SELECT t::text FROM "{table}" t ORDER BY 1'.encode()).fetchall()


def restored(url: str, file: Path) -> subprocess.CompletedProcess[str]:
    command = [sys.executable, "server/manage.py", "restore", str(file)]
    environment = os.environ | {"STROM_DATABASE_URL": url}
    return subprocess.run(command, cwd=ROOT, env=environment, capture_output=True, text=True)


@pytest.mark.django_db(transaction=True)
def test_a_backup_restores_every_row_and_refuses_what_would_harm(
    anna: Person, job: Job, empty: str, tmp_path: Path
) -> None:
    picture = io.BytesIO()
    Image.new("RGB", (60, 40), (10, 90, 40)).save(picture, "PNG")
    path = f"/api/jobs/{job.pk}/photos"
    assert anna.client.post(path, picture.getvalue(), content_type="image/png").status_code == 200
    file = tmp_path / "strom.backup"
    told = backups.back_up(file)
    assert told.rows["jobs_job"] == told.rows["jobs_photo"] == 1
    assert backups.SESSIONS not in told.rows
    # Neither over a file nor over an installation that holds anything.
    with pytest.raises(backups.BackupError, match="is there already"):
        backups.back_up(file)
    with pytest.raises(backups.BackupError, match="there is no folder"):
        backups.back_up(tmp_path / "nowhere" / "strom.backup")
    with pytest.raises(backups.BackupError, match="not empty: 1 rows of jobs_job"):
        backups.restore(file)
    # Damaged, cut off, of a newer version: told by name.
    damaged = bytearray(file.read_bytes())
    damaged[len(damaged) // 2] ^= 1
    (tmp_path / "damaged").write_bytes(damaged)
    (tmp_path / "cut").write_bytes(file.read_bytes()[:-500])
    told_of = {
        "newer": {"migrations": [*told.migrations, ("jobs", "9999_later")]},
        "short": {"rows": told.rows | {"jobs_job": 2}},
    }
    for name, update in told_of.items():
        with zipfile.ZipFile(file) as whole, zipfile.ZipFile(tmp_path / name, "w") as archive:
            archive.writestr("manifest.json", told.model_copy(update=update).model_dump_json())
            archive.writestr("database.dump", whole.read("database.dump"))
    for name, why in (("damaged", "whole|sum"), ("cut", "no whole"), ("newer", "jobs.9999_later")):
        with pytest.raises(backups.BackupError, match=why):
            backups.restore(tmp_path / name)
    # One that is short of a row leaves nothing; a whole one comes back, byte for byte.
    short = restored(empty, tmp_path / "short")
    assert "jobs_job: 1 of 2" in short.stderr
    with psycopg.connect(empty) as db:
        assert db.execute(
            "SELECT count(*) FROM pg_tables WHERE schemaname = 'public'"
        ).fetchone() == (0,)
    done = restored(empty, file)
    assert "1 jobs as of" in done.stdout, done.stderr
    here = url_of(str(connection.settings_dict["NAME"]))
    for table in told.rows:
        assert rows_of(empty, table) == rows_of(here, table), table


def test_health_tells_the_database_migrations_and_a_late_queue(
    anna: Person, monkeypatch: pytest.MonkeyPatch
) -> None:
    assert Client().get("/api/health/live").json() == {"live": True}
    well = {"ready": True, "database": "", "migrations": "", "queue": ""}
    assert Client().get("/api/health").json() == well
    job = ProcrastinateJob.objects.model  # written by the queue alone: put in by statement
    with connection.cursor() as cursor:
        cursor.execute(
            f"INSERT INTO {job._meta.db_table} (queue_name, task_name, args, status, scheduled_at)"
            " VALUES ('days', 'days.live', '{}', 'todo', now() - interval '400 seconds')"
        )
    now = queue_state()
    assert (now.waiting, now.running) == (1, 0) and now.late and 399 < now.oldest_s < 460 > LATE_S
    told = Client().get("/api/health")
    assert told.status_code == 200 and "1 wait, the oldest for 40" in told.json()["queue"]

    MigrationRecorder.Migration.objects.filter(app="jobs").latest("name").delete()
    behind = Client().get("/api/health")
    assert behind.status_code == 503 and behind.json()["migrations"].startswith(
        "1 not applied: jobs."
    )

    def away() -> None:
        raise OperationalError

    monkeypatch.setattr("apps.operation.health.queue_state", away)
    assert health() == Health("no connection to the database", "cannot tell", "cannot tell")
    assert Client().get("/api/health").status_code == 503


def test_measurements_are_shut_without_a_token_and_name_nobody(
    anna: Person, job: Job, settings: Any
) -> None:
    for token in ("", "right"):
        settings.METRICS_TOKEN = token
        for sent in ({}, {"Authorization": "Bearer wrong"}, {"Authorization": "Bearer "}):
            assert Client().get("/api/metrics", headers=sent).status_code == 401
    anna.get(f"/api/jobs/{job.pk}")
    text = Client().get("/api/metrics", headers={"Authorization": "Bearer right"}).content.decode()
    assert 'strom_requests_total{method="GET",route="api/jobs/<job_id>",status="200"}' in text
    assert "strom_queue_waiting 0.0" in text and 'strom_request_seconds_bucket{le="0.1"' in text
    assert str(job.pk) not in text and "anna" not in text


def test_a_request_has_an_id_and_a_line_without_names_or_secrets(
    anna: Person,
    job: Job,
    settings: Any,
    caplog: pytest.LogCaptureFixture,
    monkeypatch: pytest.MonkeyPatch,
) -> None:
    settings.SLOW_S = -1.0  # so that every request is a slow one
    for one in settings.LOGGING["handlers"]["console"]["filters"]:
        caplog.handler.addFilter(FILTERS[one])
    given = anna.client.get("/api/calendar/long-secret.ics", headers={"X-Request-Id": "proxy-0042"})
    made = anna.client.get("/api/jobs", headers={"X-Request-Id": "no; good"})
    assert given["X-Request-Id"] == "proxy-0042" and len(made["X-Request-Id"]) == 32
    lines = [json.loads(JsonFormatter().format(record)) for record in caplog.records]
    first, second = [line for line in lines if "route" in line]
    assert first["request_id"] == "proxy-0042" and first["status"] == 404
    assert first["route"] == "api/calendar/<secret>.ics" and second["route"] == "api/jobs"
    assert "slow" in second["message"] and isinstance(second["ms"], int)
    assert not any(word in json.dumps(lines) for word in ("anna", "long-secret"))
    # Nor does what is told of a failure.
    caplog.clear()
    settings.SLOW_S = 1000.0
    monkeypatch.setattr("apps.jobs.queries.job_out", lambda job: 1 / 0)
    assert anna.get(f"/api/jobs/{job.pk}").status_code == 500
    told = [record.getMessage() for record in caplog.records]
    assert "GET api/jobs/<job_id> failed" in told and str(job.pk) not in " ".join(told)
    caplog.clear()
    anna.get("/api/jobs")
    assert [r for r in caplog.records if r.levelno >= logging.WARNING] == []


@pytest.mark.parametrize(
    ("proxy", "sent", "address"),
    [
        (True, "203.0.113.7", "203.0.113.7"),
        (True, "2001:db8::7", "2001:db8::7"),
        (True, "203.0.113.7, 198.51.100.2", "127.0.0.1"),  # not as our proxy writes it
        (True, "<script>", "127.0.0.1"),
        (False, "203.0.113.7", "127.0.0.1"),  # nobody's word
    ],
)
def test_limits_by_address_are_by_the_visitors(
    proxy: bool, sent: str, address: str, settings: Any, db: None
) -> None:
    settings.PROXY = proxy
    told = {"username": "anna", "password": "wrong"}
    body, headers = json.dumps(told), {"X-Forwarded-For": sent}
    Client().post("/api/session", body, content_type="application/json", headers=headers)
    assert AccessAttempt.objects.get().ip_address == address


def test_what_is_past_its_time_goes_and_nothing_else(anna: Person, job: Job, settings: Any) -> None:
    now = timezone.now()
    anna.client.delete(f"/api/jobs/{job.pk}")
    [listed] = anna.get("/api/jobs?shelf=bin").json()["jobs"]
    job.refresh_from_db()
    goes = datetime.fromisoformat(listed["goes"])
    assert job.binned is not None and goes - job.binned == timedelta(days=30)
    variant = job.variants.earliest("place")
    for age_d in (29, 31):
        made = variant.prints.create(kind="sheet", ask={}, made_from=str(age_d), name="sheet")
        variant.prints.filter(pk=made.pk).update(created=now - timedelta(days=age_d))
    for shape in (RESULT_SHAPE, "older"):
        old = Study.objects.create(job=job, author=anna.user, kind="day", ask={}, shape=shape)
        Study.objects.filter(pk=old.pk).update(created=now - timedelta(days=31))
    for age_years in (3, 5):
        ended_s = (now - timedelta(days=365.25 * age_years)).timestamp()
        Record.objects.create(
            id=uuid4(), job=job, name="f", bank="house_bank", digest=str(age_years), size=1,
            layout={}, end_s=ended_s,
        )  # fmt: skip
    for age_d in (29, 31):
        away = now - timedelta(days=age_d)
        DayPlan.every.create(job=job, school="a", document={"name": str(age_d)}, dropped=away)
    Sitting.objects.create(session_key="over", session_data="", expire_date=now - timedelta(1))
    gone = tidy_up()
    assert {name: count for name, count in gone.items() if count} == {
        "files": 1, "sessions": 1, "studies": 1, "plans": 1,
    }  # fmt: skip
    settings.RECORDS_KEPT_YEARS = 4.0
    assert tidy_up()["records"] == 1 and [r.digest for r in Record.objects.all()] == ["3"]
    assert [p.made_from for p in variant.prints.all()] == ["29"]
    assert anna.client.post(f"/api/jobs/{job.pk}/unbin").status_code == 200  # still signed in
    Job.objects.filter(pk=job.pk).update(binned=now - timedelta(days=30, minutes=1))
    assert tidy_up()["jobs"] == 1
    assert not Job.objects.exists() and not Revision.objects.exists()
