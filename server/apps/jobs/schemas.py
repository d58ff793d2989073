"""What the job endpoints take and give: typed, from the engine's own types."""

from datetime import datetime
from typing import Any, Literal
from uuid import UUID

from ninja import Schema
from pydantic import Field
from strom_engine.circuit import OperatingPoint, PositionCard, Reach
from strom_engine.circuit.bench import Cell
from strom_engine.design import Design, State
from strom_engine.drawing import Layout
from strom_engine.rules import Finding

__all__ = [
    "BenchOut",
    "ChangeIn",
    "FindingsOut",
    "JobOut",
    "LandingOut",
    "PositionsOut",
    "ProblemOut",
    "RestoreIn",
    "RevisionIn",
    "RevisionOut",
    "SchemeOut",
    "SwitchOut",
    "VariantOut",
]

RevisionNumber = Field(ge=1, le=2_000_000_000)


class ProblemItem(Schema):
    """One field that is wrong, and why."""

    path: str
    message: str


class ProblemOut(Schema):
    """A problem document (RFC 9457)."""

    type: str
    title: str
    status: int
    detail: str
    errors: list[ProblemItem]
    current_revision: int | None = None
    kept_revision: int | None = None
    saved_meanwhile: list[str] | None = None


class VariantOut(Schema):
    """A variant in a list."""

    id: UUID
    name: str
    chosen: bool
    revision: int
    worst: str | None
    findings: int


class BoatOut(Schema):
    """The boat in a few words."""

    kind: str
    length_m: float
    notes: str


class JobOut(Schema):
    """A job with its variants."""

    id: UUID
    name: str
    boat: BoatOut
    changed: datetime
    variants: list[VariantOut]


class SwitchOut(Schema):
    """Something with positions, as the conditions tray shows it."""

    id: str
    name: str
    kind: str
    position: str
    positions: list[str]


class SchemeOut(Schema):
    """Everything of a variant that stays while its conditions change."""

    variant: UUID
    job: UUID
    name: str
    revision: int
    can_undo: str | None
    can_redo: str | None
    design: Design
    cable_names: dict[str, str]
    post_names: dict[str, str]
    switches: list[SwitchOut]
    positive: Layout
    negative: Layout


class FindingsOut(Schema):
    """Findings of a revision, gravest first."""

    revision: int
    findings: list[Finding]
    confirm: str


class BenchOut(Schema):
    """One state, solved; ``revision`` tells which version of the variant it is of."""

    revision: int
    state: State
    point: OperatingPoint
    reach: Reach
    loads_by_bank: dict[str, dict[str, Cell]]
    sources_by_bank: dict[str, dict[str, Cell]]


class PositionsOut(Schema):
    """The position card."""

    revision: int
    card: PositionCard


class LandingOut(Schema):
    """Posts where a cable's end can land."""

    posts: list[str]


class ChangeIn(Schema):
    """A named change, and the revision it was made on."""

    base_revision: int = RevisionNumber
    change: dict[str, Any]  # Any: read by the engine, which names what is wrong


class RevisionIn(Schema):
    """The revision that an undo or redo was asked on."""

    base_revision: int = RevisionNumber


class RestoreIn(Schema):
    """Which version to go back to."""

    base_revision: int = RevisionNumber
    revision: int = RevisionNumber


class RevisionOut(Schema):
    """A version in the history."""

    number: int
    kind: Literal["import", "change", "undo", "redo", "restore", "aside"]
    words: str
    author: str | None
    created: datetime
    is_head: bool
