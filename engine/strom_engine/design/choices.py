"""What a field can be where several places must agree on it, each list once."""

from __future__ import annotations

from typing import Literal

__all__ = [
    "BatteryChemistry",
    "CableColour",
    "CableEnd",
    "Engine",
    "Fuel",
    "LoadLaw",
    "RelaySensing",
    "SizeSort",
    "Sky",
    "Standard",
    "SystemVolts",
    "UnitVolts",
]

SystemVolts = Literal[12, 24, 48]
UnitVolts = Literal[6, 8, 12, 24]
BatteryChemistry = Literal["flooded_start", "flooded_deep", "agm", "gel", "tppl", "lfp"]
CableColour = Literal["red", "black", "yellow", "brown", "blue", "green"]
LoadLaw = Literal["power", "current", "resistance"]
RelaySensing = Literal["dual", "a", "b"]
CableEnd = Literal["start", "end"]
Engine = Literal["first", "second"]
Fuel = Literal["diesel", "petrol"]
Sky = Literal["blue", "average", "dull"]
Standard = Literal["abyc", "iso"]
SizeSort = Literal["awg", "mm2"]
