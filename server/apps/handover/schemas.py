"""What the endpoints of the stage Handover take and give."""

from __future__ import annotations

from typing import Literal
from uuid import UUID

from ninja import Schema
from strom_engine.dayrun import School, SchoolId
from strom_engine.handover import Language, SaidSheet

__all__ = ["HandoverOut", "SheetIn"]


class HandoverOut(Schema):
    """The owner's sheet of a variant in words; ``why_not`` says why the handling has none here."""

    revision: int
    variant: UUID
    school: SchoolId
    why_not: str
    schools: list[School]
    languages: list[Language]
    sheet: SaidSheet
    reading_ease: float | None


class SheetIn(Schema):
    """A sheet on paper."""

    paper: Literal["A4", "letter", "A5"] = "A4"
    school: SchoolId
    language: Language = "en"
