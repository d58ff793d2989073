"""Handing over: what the owner must know, from the circuit and the chosen handling."""

from strom_engine.handover.line import Line
from strom_engine.handover.owner_sheet import OwnerSheet, SheetSection, owner_sheet
from strom_engine.handover.reading_ease import reading_ease
from strom_engine.handover.words import LANGUAGES, Language, SaidSheet, said_sheet

__all__ = [
    "LANGUAGES",
    "Language",
    "Line",
    "OwnerSheet",
    "SaidSheet",
    "SheetSection",
    "owner_sheet",
    "reading_ease",
    "said_sheet",
]
