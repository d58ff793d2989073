"""What the endpoints of the stage Log take and give."""

from __future__ import annotations

from datetime import date, datetime
from typing import Annotated, Literal
from uuid import UUID

from ninja import Schema
from pydantic import Field, ValidationInfo, field_validator
from strom_engine.design.fields import Text
from strom_engine.interchange.record_layout import RecordLayout
from strom_engine.records import CountableDays, DrivenBy, HeldAgainst
from strom_engine.upkeep import Ageing, Due, Judgement, ReadingKind, ReadingKindId, reading_problem

__all__ = [
    "FIELDS",
    "AnalysisOut",
    "BoatDue",
    "CalendarOut",
    "ChartColumn",
    "ChartOut",
    "FaultIn",
    "LogEntriesIn",
    "LogEntryIn",
    "LogEntryOut",
    "LogOut",
    "LogReadingIn",
    "RecordOut",
    "RecordStart",
    "RecordsOut",
    "ServiceDoneIn",
    "SettingIn",
    "TrendOut",
    "TrendPoint",
]

LogKind = Literal["reading", "setting", "fault", "cured", "note", "done"]
Target = Annotated[str, Field(min_length=1, max_length=160)]
Words = Annotated[Text, Field(max_length=1000)]
Short = Annotated[Text, Field(max_length=120)]
State = Literal["waiting", "running", "done", "failed", "cancelled"]
# Which field of an entry its kind is told in.
FIELDS = {
    "reading": "reading",
    "setting": "setting",
    "fault": "fault",
    "cured": "text",
    "note": "text",
    "done": "service",
}


class LogReadingIn(Schema):
    """A reading: its kind, its values, one unless it is of cells, hours of rest before it [h]."""

    kind: ReadingKindId
    values: Annotated[
        list[Annotated[float, Field(allow_inf_nan=False)]], Field(min_length=1, max_length=24)
    ]
    rested_h: Annotated[float, Field(ge=0, le=5000, allow_inf_nan=False)] = 0.0
    source: Annotated[Text, Field(max_length=80)] = ""

    @field_validator("values")
    @classmethod
    def _of_its_kind(cls, values: list[float], info: ValidationInfo) -> list[float]:
        if "kind" in info.data and (why := reading_problem(info.data["kind"], values)):
            raise ValueError(why)
        return values


class SettingIn(Schema):
    """A setting of a device: what it is called, what it was, what it is, why.

    ``crutch``: it stands in for the cure of a cause, and stays open until that is cured.
    """

    name: Short
    old: Short = ""
    new: Short
    why: Words
    crutch: bool = False
    cause: Words = ""


class FaultIn(Schema):
    """A fault as it is known so far: complaint, theories, cause, cure, proof."""

    complaint: Words
    theories: Words = ""
    cause: Words = ""
    cure: Words = ""
    proof: Words = ""


class ServiceDoneIn(Schema):
    """A service that was done: what was seen, and the engine hours [h]."""

    note: Words = ""
    engine_h: Annotated[float, Field(ge=0, le=1e6, allow_inf_nan=False)] | None = None


class LogEntryIn(Schema):
    """One entry as a device made it; only the field of its kind counts.

    For *cured* the target is the id of the setting or fault that it ends. A *fault* whose target
    is the id of another one says more of that.
    """

    id: UUID
    kind: LogKind
    target: Target
    at: datetime
    revision: int = Field(ge=1, le=2_000_000_000)
    reading: LogReadingIn | None = None
    setting: SettingIn | None = None
    fault: FaultIn | None = None
    text: Words | None = None
    service: ServiceDoneIn | None = None


class LogEntriesIn(Schema):
    """Entries in the order in which they were made; the same one may come twice."""

    entries: list[LogEntryIn] = Field(min_length=1, max_length=500)


class LogEntryOut(Schema):
    """An entry as it is kept; ``judgement`` is what a reading says today."""

    id: UUID
    kind: LogKind
    target: str
    target_name: str
    at: datetime
    author: str | None
    reading: LogReadingIn | None = None
    setting: SettingIn | None = None
    fault: FaultIn | None = None
    text: str | None = None
    service: ServiceDoneIn | None = None
    judgement: Judgement | None = None
    open: bool = False
    ended: datetime | None = None
    ended_words: str = ""


class TrendPoint(Schema):
    """A reading of a trend: when [s since 1970], its value, the mark it got."""

    at_s: float
    value: float
    mark: str


class TrendOut(Schema):
    """Readings of one kind on one bank over the years, the band of a sound boat, and ageing."""

    target: str
    target_name: str
    kind: ReadingKind
    points: list[TrendPoint]
    low: float | None
    high: float | None
    latest: Judgement
    ageing: Ageing | None


class TargetOut(Schema):
    """What can be read or set: a bank, an engine, a device."""

    id: str
    name: str
    sort: Literal["bank", "engine", "device"]


class LogOut(Schema):
    """The stage Log of a boat: entries of all her variants, held against this one."""

    revision: int
    variant: UUID
    targets: list[TargetOut]
    kinds: list[ReadingKind]
    entries: list[LogEntryOut]
    trends: list[TrendOut]
    open_settings: list[LogEntryOut]
    open_faults: list[LogEntryOut]
    engine_h: float | None
    due: list[Due]
    confirm: str


class AnalysisOut(Schema):
    """What records say of a variant; ``outdated``: the boat or the records are others by now."""

    status: Literal["none", "waiting", "running", "done", "failed", "cancelled"]
    outdated: bool
    problem: str = ""
    held: HeldAgainst | None = None
    counted: CountableDays | None = None


class RecordOut(Schema):
    """A file of records: how it is laid out, how far its reading is, what came of it."""

    id: UUID
    name: str
    bank: str
    bank_name: str
    size: int
    layout: RecordLayout
    sample: list[list[str]]
    assumed: list[str]
    driven: DrivenBy
    confirmed: bool
    status: State
    problem: str
    share: float
    rows: int
    bad: int
    doubled: int
    problems: list[str]
    notes: list[str]
    start_s: float | None
    end_s: float | None
    author: str | None
    created: datetime
    analysis: AnalysisOut


class RecordsOut(Schema):
    """Every file of records of a boat, and which units and formats can be chosen."""

    revision: int
    variant: UUID
    records: list[RecordOut]
    banks: list[TargetOut]
    units: dict[str, list[str]]
    time_formats: list[str]
    zones: list[str]


class RecordStart(Schema):
    """How a file is to be read, confirmed by somebody."""

    layout: RecordLayout
    driven: DrivenBy = "both"


class ChartColumn(Schema):
    """A quantity of a chart: times [s] and values; None in a gap."""

    at_s: list[float]
    values: list[float | None]


class ChartOut(Schema):
    """A window of records in few points, by quantity."""

    start_s: float
    end_s: float
    units: dict[str, str]
    columns: dict[str, ChartColumn]


class BoatDue(Schema):
    """A task that is due on a boat."""

    job: UUID
    variant: UUID
    boat: str
    key: str
    title: str
    on: date | None
    standing: str
    why: str


class CalendarOut(Schema):
    """Whether a calendar address is out, since when; the address itself only when it is made."""

    since: datetime | None
    address: str = ""
