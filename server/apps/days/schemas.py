"""What the endpoints of days take and give."""

from datetime import datetime
from typing import Any
from uuid import UUID

from ninja import Schema
from pydantic import Field
from strom_engine.circuit import OperatingPoint, Reach
from strom_engine.circuit.bench import Cell
from strom_engine.dayrun import Consequence, DaySheet, Outcome, Plan
from strom_engine.design import Design, State
from strom_engine.drawing import Layout
from strom_engine.rules import Finding

__all__ = [
    "CasesOut",
    "CellOut",
    "ComparisonIn",
    "ComparisonOut",
    "DayIn",
    "DayOut",
    "MomentOut",
    "NewPlanIn",
    "PlanIn",
    "PlanOut",
    "PlanRevisionIn",
    "PlansOut",
    "SchoolOut",
    "StudyOut",
    "SweepOut",
]


class SchoolOut(Schema):
    """A school of handling; ``why_not`` where this scheme has no such handling."""

    id: str
    name: str
    habit: str
    why_not: str | None


class ReadyOut(Schema):
    """A ready plan to begin with."""

    id: str
    name: str
    about: str


class PlanOut(Schema):
    """A plan of the job: as it is kept, and with its moves for this variant.

    ``problem`` says why it does not fit this variant, with every place in ``errors``.
    """

    id: UUID
    school: str
    revision: int
    document: Plan
    for_variant: Plan | None
    problem: str | None
    errors: list[str]
    can_undo: bool
    can_redo: bool


class DroppedOut(Schema):
    """A plan that was taken away, when, and can be brought back."""

    id: UUID
    name: str
    dropped: datetime


class FaultOut(Schema):
    """A fault that can begin within a plan."""

    key: str
    words: str


class PlansOut(Schema):
    """The plans of a job for a variant, the ready ones, and the schools."""

    plans: list[PlanOut]
    dropped: list[DroppedOut]
    ready: list[ReadyOut]
    schools: list[SchoolOut]
    faults: list[FaultOut]


class NewPlanIn(Schema):
    """A new plan from a ready one."""

    ready: str = Field(max_length=40)
    name: str | None = Field(default=None, max_length=60)
    school: str = Field(max_length=10)


class PlanIn(Schema):
    """A plan as it was changed; ``document`` is read by the engine, which names every fault."""

    revision: int = Field(ge=1, le=2_000_000_000)
    school: str = Field(max_length=10)
    document: dict[str, Any]


class PlanRevisionIn(Schema):
    """The revision of a plan that an undo or redo was asked on."""

    revision: int = Field(ge=1, le=2_000_000_000)


class DayIn(Schema):
    """A day to run: by the plan's own school or another, with one thing going wrong."""

    school: str | None = Field(default=None, max_length=10)
    case: str | None = Field(default=None, max_length=120)


class ComparisonIn(Schema):
    """Variants x schools x plans."""

    variants: list[UUID] = Field(min_length=1, max_length=20)
    schools: list[str] = Field(min_length=1, max_length=6)
    plans: list[UUID] = Field(min_length=1, max_length=12)


class StudyOut(Schema):
    """How far a study is. ``stale`` when design, survey or plan are others now."""

    id: UUID
    kind: str
    status: str
    variant: UUID | None
    plan: UUID | None
    ask: dict[str, Any]
    created: datetime
    author: str | None
    variant_revision: int | None
    done: int
    of: int
    progress: float
    problem: str | None
    stale: bool


class DayOut(Schema):
    """A computed day, with its findings."""

    study: StudyOut
    sheet: DaySheet
    findings: list[Finding]
    confirm: str


class MomentOut(Schema):
    """A moment of a day, as the bench shows one, with the design as it then was."""

    at_s: float
    state: State
    design: Design
    positive: Layout
    cable_names: dict[str, str]
    post_names: dict[str, str]
    point: OperatingPoint
    reach: Reach
    loads_by_bank: dict[str, dict[str, Cell]]
    sources_by_bank: dict[str, dict[str, Cell]]


class CasesOut(Schema):
    """One thing going wrong, and what came of it so far."""

    key: str
    kind: str
    words: str
    status: str
    problem: str | None
    consequence: Consequence | None
    outcome: Outcome | None


class SweepOut(Schema):
    """The slip test and fault sweep of a plan, the gravest consequence first."""

    study: StudyOut
    planned: Outcome | None
    cases: list[CasesOut]


class CellOut(Schema):
    """A cell of a comparison: a variant handled by a school in a plan."""

    variant: UUID
    school: str
    plan: UUID
    status: str
    why_not: str | None
    outcome: Outcome | None


class ComparisonOut(Schema):
    """Days side by side."""

    study: StudyOut
    cells: list[CellOut]
