"""The owner's sheet as data: sections of statements, each computed for this boat."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

from strom_engine.dayrun import SchoolId
from strom_engine.handover.aboard import Aboard
from strom_engine.handover.emergencies import emergencies
from strom_engine.handover.everyday import everyday, fuses
from strom_engine.handover.line import Line
from strom_engine.handover.situations import nevers, situations
from strom_engine.survey import Survey, SurveyedDesign

__all__ = ["OwnerSheet", "SheetSection", "owner_sheet"]

SectionId = Literal["situations", "never", "emergency", "everyday", "fuses"]


@dataclass(frozen=True)
class SheetSection:
    """A part of the sheet and its statements in order."""

    id: SectionId
    lines: tuple[Line, ...]


@dataclass(frozen=True)
class OwnerSheet:
    """All that the owner needs, for one handling; ``why_not`` says why that has none here."""

    school: SchoolId
    why_not: str
    sections: tuple[SheetSection, ...]


def owner_sheet(design: SurveyedDesign, survey: Survey, school: SchoolId) -> OwnerSheet:
    """What the owner needs to know of a boat, handled by a school.

    Args:
        design: the boat as built, as surveyed.
        survey: loads, way of use.
        school: who turns the switches, and how.

    Returns:
        Sections of statements; every number in them is computed for this boat.

    >>> from strom_engine.survey import new_boat, surveyed
    >>> survey, design = new_boat("cruising_yacht", "selector")
    >>> sheet = owner_sheet(surveyed(design, survey), survey, "a")
    >>> [section.id for section in sheet.sections]
    ['situations', 'never', 'emergency', 'everyday', 'fuses']
    """
    aboard = Aboard(design, survey, school)
    parts: tuple[tuple[SectionId, tuple[Line, ...]], ...] = (
        ("situations", tuple(situations(aboard))),
        ("never", tuple(nevers(aboard))),
        ("emergency", tuple(emergencies(aboard))),
        ("everyday", tuple(everyday(aboard))),
        ("fuses", tuple(fuses(aboard))),
    )
    sections = tuple(SheetSection(name, lines) for name, lines in parts)
    return OwnerSheet(school, aboard.way.why_not or "", sections)
