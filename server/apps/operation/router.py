"""Endpoints for those who watch over an installation."""

from __future__ import annotations

import secrets
from typing import Any
from uuid import UUID

from django.conf import settings
from django.http import HttpRequest, HttpResponse
from ninja import Router, Schema, Status
from ninja.security import HttpBearer
from prometheus_client import CONTENT_TYPE_LATEST

from apps.accounts.permissions import OWNER, workshop_of
from apps.jobs.schemas import ProblemOut
from apps.operation.disk import disk_of
from apps.operation.health import health
from apps.operation.metrics import exposition

router = Router(tags=["operation"])
MOST_ROWS = 50


class LiveOut(Schema):
    """This process answers."""

    live: bool = True


class HealthOut(Schema):
    """What is wrong with each part in words, empty where it is well."""

    ready: bool
    database: str
    migrations: str
    queue: str


@router.get("/health/live", auth=None, response=LiveOut)
def live(request: HttpRequest) -> LiveOut:
    """Whether this process answers; nothing else is asked."""
    return LiveOut()


@router.get("/health", auth=None, response={200: HealthOut, 503: HealthOut})
def ready(request: HttpRequest) -> Any:
    """Whether requests can be served: database and migrations; a late queue is told."""
    now = health()
    out = HealthOut(
        ready=now.ready, database=now.database, migrations=now.migrations, queue=now.queue
    )
    return Status(200 if now.ready else 503, out)


class JobDiskOut(Schema):
    """What one job takes on disk [bytes]."""

    job: UUID
    name: str
    binned: bool
    photographs: int
    records: int
    studies: int
    files: int
    versions: int
    total: int


@router.get("/workshop/disk", auth=OWNER, response=list[JobDiskOut])
def disk(request: HttpRequest) -> list[JobDiskOut]:
    """What the jobs of the workshop take on disk, the largest first."""
    return [
        JobDiskOut(
            job=job.pk, name=job.name, binned=job.binned is not None, total=own.total, **vars(own)
        )
        for job, own in disk_of(workshop_of(request))[:MOST_ROWS]
    ]


class MetricsToken(HttpBearer):
    """The token that this installation sets for its measurements; without one they are shut."""

    def authenticate(self, request: HttpRequest, token: str) -> bool:
        known = settings.METRICS_TOKEN
        return bool(known) and secrets.compare_digest(token.encode(), known.encode())


@router.get("/metrics", auth=MetricsToken(), response={200: Any, 401: ProblemOut})
def metrics(request: HttpRequest) -> HttpResponse:
    """Counts and times in the Prometheus text format."""
    return HttpResponse(exposition(), content_type=CONTENT_TYPE_LATEST)
