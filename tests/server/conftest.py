"""Two workshops with a person each, and the demo job in the first."""

from __future__ import annotations

import json
from collections.abc import Callable
from dataclasses import dataclass
from typing import Any

import pytest
from apps.accounts.models import Role, User, Workshop
from apps.accounts.permissions import Writer
from apps.jobs.actions import import_job
from apps.jobs.models import Job, Variant
from apps.jobs.queue import Status
from apps.prints.models import Print
from apps.prints.work import make_print
from django.test import Client
from strom_engine.interchange import parse_job_text

from tests.engine.boats import DEMO


@pytest.fixture(autouse=True)
def _fast_passwords(settings: Any) -> None:
    settings.PASSWORD_HASHERS = ["django.contrib.auth.hashers.MD5PasswordHasher"]


@dataclass
class Person:
    """Somebody at a browser: requests with JSON in and out."""

    client: Client
    user: User

    def get(self, path: str) -> Any:
        return answered(lambda: self.client.get(path))

    def post(self, path: str, body: object = None, status: int = 200) -> Any:
        text = body if isinstance(body, str | bytes) else json.dumps(body or {})
        sent = {"content_type": "application/json"}
        response = answered(lambda: self.client.post(path, text, **sent))
        assert response.status_code == status, response.content[:500]
        return response.json()


def answered(send: Callable[[], Any]) -> Any:
    """The answer to a request; what it puts into the queue is done, as a worker would."""
    while (response := send()).status_code == 202:
        make_print(str(Print.objects.filter(status=Status.WAITING)[0].pk))  # the newest
    return response


def make_person(name: str, role: Role = Role.OWNER, workshop: Workshop | None = None) -> Person:
    workshop = workshop or Workshop.objects.create(name=f"Workshop of {name}")
    user = User.objects.create_user(name, password="pass-1234", workshop=workshop, role=role)
    client = Client()
    client.force_login(user)
    return Person(client, user)


@pytest.fixture
def anna(db: None) -> Person:
    return make_person("anna")


@pytest.fixture
def bo(db: None) -> Person:
    return make_person("bo")


@pytest.fixture
def job(anna: Person) -> Job:
    text = (DEMO / "marsh_wren.json").read_bytes()
    return import_job(anna.user.workshop, Writer(anna.user), parse_job_text(text))


@pytest.fixture
def variant(job: Job) -> Variant:
    return job.variants.get(name="As found")
