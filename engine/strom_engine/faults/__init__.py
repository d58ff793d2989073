"""Faults as data: what can fail, with a magnitude, and what that does to a boat."""

from strom_engine.faults.effects import Effects, Failing, effects_of
from strom_engine.faults.fault import FAULT_KINDS, Fault, FaultKind, Magnitude
from strom_engine.faults.possible import fault_from_key, possible_faults

__all__ = [
    "FAULT_KINDS",
    "Effects",
    "Failing",
    "Fault",
    "FaultKind",
    "Magnitude",
    "effects_of",
    "fault_from_key",
    "possible_faults",
]
