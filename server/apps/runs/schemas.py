"""What the endpoints of runs, repairs, stock and the rule book take and give."""

from uuid import UUID

from ninja import Schema
from pydantic import Field
from strom_engine.design import CableFields, Design, Several
from strom_engine.reference import DeviceType
from strom_engine.rules import Figure, Finding, Repair
from strom_engine.runs import RunRow, RunsReport, Stock
from strom_engine.survey import CableLength

from apps.jobs.schemas import FindingsOut, GivenWords, ProblemItem, RevisionNumber, SavedOut

__all__ = [
    "CablesIn",
    "CablesOut",
    "ChoiceIn",
    "ChosenOut",
    "ReadRunsOut",
    "RepairsIn",
    "RepairsOut",
    "RuleOut",
    "RunsOut",
    "StockIn",
    "StockOut",
    "WaiveIn",
    "WhatIfIn",
    "WhatIfOut",
]


class RunsOut(Schema):
    """The stage Runs of a revision."""

    revision: int
    survey_revision: int
    report: RunsReport
    gauges: list[str]
    devices: list[DeviceType]
    currency: str
    confirm: str


class CablesIn(Schema):
    """New figures of cables, and the revision they were made on."""

    base_revision: int = RevisionNumber
    rows: list[CableFields] = Field(min_length=1, max_length=600)


class CablesOut(SavedOut):
    """A variant after figures of cables were set: what follows from them, but no drawing.

    Nothing has moved to another post, so that the drawing is as it was.
    """

    design: Design
    cable_names: dict[str, str]
    cable_lengths: list[CableLength]
    runs: RunsOut
    findings: FindingsOut


class ChoiceIn(Schema):
    """For which cables to choose; all without a list. ``only_weak``: what is good stays."""

    cables: list[str] | None = Field(default=None, max_length=600)
    only_weak: bool = True


class ChosenOut(Schema):
    """What choosing comes to, before it is done."""

    revision: int
    change: Several | None
    lines: list[str]
    left: list[str]


class WhatIfIn(Schema):
    """Cables of one run with other figures, to look at only."""

    rows: list[CableFields] = Field(min_length=1, max_length=20)


class WhatIfOut(Schema):
    """A run as it is and as it would be; findings that would go and come."""

    revision: int
    now: RunRow
    then: RunRow
    gone: list[str]
    come: list[str]


class ReadRunsOut(Schema):
    """A table of cables as it could be read; nothing is saved."""

    rows: list[CableFields]
    problems: list[ProblemItem]
    notes: list[str]
    read: int


class RepairsIn(Schema):
    """Findings to repair by their keys; all that are safe without a list."""

    keys: list[str] | None = Field(default=None, max_length=600)


class RepairsOut(Schema):
    """Repairs in their order, as one change, and what is left after them."""

    revision: int
    repairs: list[Repair]
    change: Several | None
    left: list[Finding]


class WaiveIn(Schema):
    """A finding to waive, and why; ``base_revision`` is that of the waiver that stands, or 0."""

    finding: str = Field(min_length=1, max_length=600)
    reason: GivenWords
    base_revision: int = Field(default=0, ge=0, le=2_000_000_000)


class StockOut(Schema):
    """What the workshop keeps, and what there is to choose from."""

    stock: Stock
    revision: int
    own: bool
    sizes: list[str]
    areas_mm2: dict[str, float]
    devices: list[DeviceType]


class StockIn(Schema):
    """Another stock, and the revision it was made on; None is every usual size."""

    base_revision: int = RevisionNumber
    stock: Stock | None = None


class RuleOut(Schema):
    """A rule as the rule book shows it, and what it found in this variant."""

    id: str
    title: str
    checks: str
    source: str
    stage: str
    figures: list[Figure]
    found: list[Finding]


class RulesOut(Schema):
    """The rule book of a variant."""

    revision: int
    variant: UUID
    rules: list[RuleOut]
    confirm: str
