"""What the endpoints of Survey, Loads and Banks take and give."""

from datetime import datetime
from typing import Annotated
from uuid import UUID

from ninja import Schema
from pydantic import Field
from strom_engine.batteries import RestEstimate
from strom_engine.design.fields import FieldValue, Text
from strom_engine.errors import Problem
from strom_engine.sizing import BankPlan, LoadReport
from strom_engine.survey import AcItemAsked, Survey, ToFindOut

from apps.jobs.schemas import SavedOut

__all__ = [
    "BanksOut",
    "Caption",
    "CaptionIn",
    "CrankingOut",
    "GaugeIn",
    "LoadsOut",
    "PhotoOut",
    "RowsOut",
    "SurveyOut",
    "SurveyedOut",
]

Caption = Annotated[Text, Field(max_length=200)]
Millimetres = Field(default=None, ge=0.01, le=100, allow_inf_nan=False)


class SurveyOut(SavedOut):
    """The survey of a job."""

    job: UUID
    survey: Survey
    loads: LoadReport | None = None


class BankSum(Schema):
    """A bank's batteries together."""

    batteries: int
    capacity_ah: float
    nominal_v: float


class SurveyedOut(Schema):
    """What the survey says of a variant: what to find out, charge from resting volts, AC checks."""

    revision: int
    survey_revision: int
    to_find_out: list[ToFindOut]
    banks: dict[str, BankSum]
    rests: dict[str, RestEstimate]
    ac_checklist: list[AcItemAsked]


class LoadsOut(Schema):
    """The stage Loads of a variant."""

    revision: int
    survey_revision: int
    report: LoadReport


class BanksOut(Schema):
    """The stage Banks of a variant."""

    revision: int
    survey_revision: int
    plan: BankPlan


class RowsOut(Schema):
    """Rows read from a table: the good ones, and what is wrong with the others."""

    rows: list[dict[str, FieldValue]]  # rows of whichever list, checked by the engine
    problems: list[Problem]
    notes: list[str]
    read: int


class GaugeIn(Schema):
    """What was measured on a cable."""

    conductor_mm: float | None = Millimetres
    outside_mm: float | None = Millimetres
    strands: int | None = Field(default=None, ge=1, le=10_000)
    strand_mm: float | None = Millimetres


class CrankingOut(Schema):
    """Cranking amps of a warm engine, estimated from the starter's power [A]."""

    cranking_a: float
    words: str


class PhotoOut(Schema):
    """A photograph, without its picture."""

    id: UUID
    caption: str
    width: int
    height: int
    author: str | None
    created: datetime


class CaptionIn(Schema):
    """Words under a photograph."""

    caption: Caption
