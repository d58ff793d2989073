"""Records of battery monitors: what happened in them, held against the boat as designed."""

from strom_engine.records.causes import RecordCause
from strom_engine.records.counting import CountableDay, CountableDays, countable_days
from strom_engine.records.figures import RecordFigure
from strom_engine.records.happened import (
    CountReset,
    Crank,
    Happened,
    LocalDay,
    Night,
    happened,
)
from strom_engine.records.held_against import FindingFromRecords, HeldAgainst, held_against
from strom_engine.records.spells import ChargingSpell, DrivenBy, Shunted, SpellSource
from strom_engine.records.stand_in import Monitor, recorded
from strom_engine.records.trace import QUANTITIES, Trace, thinned

__all__ = [
    "QUANTITIES",
    "ChargingSpell",
    "CountReset",
    "CountableDay",
    "CountableDays",
    "Crank",
    "DrivenBy",
    "FindingFromRecords",
    "Happened",
    "HeldAgainst",
    "LocalDay",
    "Monitor",
    "Night",
    "RecordCause",
    "RecordFigure",
    "Shunted",
    "SpellSource",
    "Trace",
    "countable_days",
    "happened",
    "held_against",
    "recorded",
    "thinned",
]
