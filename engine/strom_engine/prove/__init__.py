"""Proving a boat: what every reading should be, with its range, and what a miss points to."""

from strom_engine.prove.instruments import USUAL_INSTRUMENTS, Instrument, instrument_for
from strom_engine.prove.probing import Probe
from strom_engine.prove.proving import GROUPS, Group, ProvingTest
from strom_engine.prove.ranges import Range, ranges
from strom_engine.prove.sheet import proving_tests
from strom_engine.prove.spread import BoatDrawn, Today, boats_drawn
from strom_engine.prove.verdict import Verdict, judged

__all__ = [
    "GROUPS",
    "USUAL_INSTRUMENTS",
    "BoatDrawn",
    "Group",
    "Instrument",
    "Probe",
    "ProvingTest",
    "Range",
    "Today",
    "Verdict",
    "boats_drawn",
    "instrument_for",
    "judged",
    "proving_tests",
    "ranges",
]
