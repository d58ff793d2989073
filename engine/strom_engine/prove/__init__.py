"""Proving a boat: what every reading should be, with its range, and what a miss points to."""

from strom_engine.prove.diagnosis import Cause, Diagnosis, diagnosis
from strom_engine.prove.instruments import USUAL_INSTRUMENTS, Instrument, instrument_for
from strom_engine.prove.power import rest_key
from strom_engine.prove.predictions import Reading
from strom_engine.prove.probing import Probe
from strom_engine.prove.proving import GROUPS, Group, ProvingTest
from strom_engine.prove.ranges import Range, ranges
from strom_engine.prove.searching import search_drafts
from strom_engine.prove.sheet import as_tests, proving_tests
from strom_engine.prove.spread import BoatDrawn, Today, boats_drawn
from strom_engine.prove.told import read_asked, read_readings
from strom_engine.prove.verdict import Verdict, judged

__all__ = [
    "GROUPS",
    "USUAL_INSTRUMENTS",
    "BoatDrawn",
    "Cause",
    "Diagnosis",
    "Group",
    "Instrument",
    "Probe",
    "ProvingTest",
    "Range",
    "Reading",
    "Today",
    "Verdict",
    "as_tests",
    "boats_drawn",
    "diagnosis",
    "instrument_for",
    "judged",
    "proving_tests",
    "ranges",
    "read_asked",
    "read_readings",
    "rest_key",
    "search_drafts",
]
