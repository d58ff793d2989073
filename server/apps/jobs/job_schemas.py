"""What the list of jobs takes and gives."""

from datetime import datetime
from typing import Annotated, Literal
from uuid import UUID

from ninja import Schema
from pydantic import Field
from strom_engine.design.fields import Text
from strom_engine.survey import FoundSwitching

from apps.jobs.models import WorkState
from apps.jobs.schemas import GivenName

__all__ = [
    "BoatOut",
    "JobIn",
    "JobOut",
    "JobsAsked",
    "JobsOut",
    "NewJobIn",
    "TemplateIn",
    "VariantOut",
]


class VariantOut(Schema):
    """A variant in a list; ``problem`` says why it cannot be computed.

    While its findings are ``counting`` there is nothing to show of them yet.
    """

    id: UUID
    name: str
    chosen: bool
    revision: int
    worst: str | None
    findings: int
    by_severity: dict[str, int]
    counting: bool = False
    problem: str | None


class BoatOut(Schema):
    """The boat in a few words."""

    kind: str
    length_m: float
    notes: str


class JobOut(Schema):
    """A job with its variants; one in the bin was put there at ``binned`` and ``goes`` for good."""

    id: UUID
    name: str
    boat: BoatOut
    changed: datetime
    state: WorkState
    owner: str
    contact: str
    archived: datetime | None
    binned: datetime | None
    goes: datetime | None = None
    variants: list[VariantOut]


class JobsOut(Schema):
    """A page of jobs, of ``total`` that were asked for."""

    jobs: list[JobOut]
    total: int


class JobsAsked(Schema):
    """Which jobs, in which order: ``words`` stand in boat, owner, complaint or gear."""

    shelf: Literal["open", "archived", "bin"] = "open"
    words: str = Field(default="", max_length=200)
    state: WorkState | None = None
    sort: Literal["changed", "name", "state"] = "changed"
    offset: int = Field(default=0, ge=0, le=1_000_000)
    limit: int = Field(default=60, ge=1, le=200)


class JobIn(Schema):
    """What is kept of a job beside its survey; what is not told stays."""

    name: GivenName | None = None
    state: WorkState | None = None
    owner: Annotated[Text, Field(max_length=120)] | None = None
    contact: Annotated[Text, Field(max_length=400)] | None = None
    archived: bool | None = None


class TemplateIn(Schema):
    """The name of a new job that begins as another one."""

    name: GivenName


class NewJobIn(Schema):
    """A boat entered from nothing."""

    name: GivenName
    kind: str = Field(max_length=60)
    switching: FoundSwitching
