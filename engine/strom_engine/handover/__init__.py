"""Handing over: what the owner must know, from the circuit and the chosen handling."""

from strom_engine.handover.aboard import Aboard
from strom_engine.handover.drill import DrillMove, Played, Reply, played
from strom_engine.handover.line import Line
from strom_engine.handover.owner_sheet import OwnerSheet, SheetSection, owner_sheet
from strom_engine.handover.practice import Standing, standing_of
from strom_engine.handover.reading_ease import PLAIN_FROM, reading_ease
from strom_engine.handover.scene import Scene
from strom_engine.handover.scenes import scenes
from strom_engine.handover.settings import DeviceSetting, device_settings
from strom_engine.handover.words import (
    LANGUAGES,
    Language,
    SaidLine,
    SaidSheet,
    catalogue,
    said_line,
    said_sheet,
)

__all__ = [
    "LANGUAGES",
    "PLAIN_FROM",
    "Aboard",
    "DeviceSetting",
    "DrillMove",
    "Language",
    "Line",
    "OwnerSheet",
    "Played",
    "Reply",
    "SaidLine",
    "SaidSheet",
    "Scene",
    "SheetSection",
    "Standing",
    "catalogue",
    "device_settings",
    "owner_sheet",
    "played",
    "reading_ease",
    "said_line",
    "said_sheet",
    "scenes",
    "standing_of",
]
