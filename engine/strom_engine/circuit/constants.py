"""Electrical constants of the models, each with where it comes from."""

from __future__ import annotations

__all__ = [
    "COIL_A",
    "CONTACT_DROP_V",
    "CRANKING_SHARE_OF_NOMINAL",
    "CRUISE_RPM",
    "DCDC_FLOOR_SHARE",
    "ISOLATOR_LEAK_S",
    "KNEE_SHARE",
    "LEAK_S",
    "LOAD_FOLD_SHARE",
    "ONE_WAY_DROP_V",
    "PULL_IN_SHARE",
    "RECTIFIER_DROP_V",
    "REGULATOR_DROOP_OHM",
]

# Drop of a contact or fuse at its rating where the maker gives none: about 50 mV
# (makers' data of fuses and switches as commonly published).
CONTACT_DROP_V = 0.05
# A regulator lets its voltage sink a little under load; small, and it decides how two
# sources with the same setting share. 20 mV at 100 A.
REGULATOR_DROOP_OHM = 0.0002
# Drop in a charger's output stage at its rated current.
RECTIFIER_DROP_V = 0.05
# Below three quarters of nominal a load no longer holds its power and behaves as a resistance.
LOAD_FOLD_SHARE = 0.75
# An engine at cruising speed: a usual diesel; own judgement.
CRUISE_RPM = 2000.0
# Cranking amps are stated with about 10.5 V at the starter of a 12 V system.
CRANKING_SHARE_OF_NOMINAL = 0.875
# Far below its stop voltage a dc-dc charger's draw is no longer followed: it has stopped there.
DCDC_FLOOR_SHARE = 0.7
# Drop of a one-way combiner at its limit (transistors; makers' data as commonly published).
ONE_WAY_DROP_V = 0.1
# Where an isolator's own drop is known to be small, its knee is at most this share of it.
KNEE_SHARE = 0.8
# A held switch's coil draws about this much in a 12 V system and pulls in from two thirds of
# nominal (makers' data of battery contactors as commonly published).
COIL_A = 0.8
PULL_IN_SHARE = 2 / 3
# A leak that gives the inside of an idle charger a voltage; too small to be seen in a result.
LEAK_S = 1e-9
# What drains the input side of an isolator when nothing flows in; larger than the current
# within which the solver lets a one-way part pass backwards, and too small to be seen.
ISOLATOR_LEAK_S = 1e-6
