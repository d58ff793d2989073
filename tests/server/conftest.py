"""Two workshops with a person each, and the demo job in the first."""

from __future__ import annotations

import json
from dataclasses import dataclass
from typing import Any

import pytest
from apps.accounts.models import Role, User, Workshop
from apps.accounts.permissions import Writer
from apps.jobs.actions import import_job
from apps.jobs.models import Job, Variant
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
        return self.client.get(path)

    def post(self, path: str, body: object = None, status: int = 200) -> Any:
        text = body if isinstance(body, str | bytes) else json.dumps(body or {})
        response = self.client.post(path, text, content_type="application/json")
        assert response.status_code == status, response.content[:500]
        return response.json()


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
