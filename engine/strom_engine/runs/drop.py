"""Voltage drop of a cable, in ohms and in circular mils."""

from __future__ import annotations

from strom_engine.design import Design, DropClass, LoadItem
from strom_engine.reference import load_table, resistivity_ohm_mm2_per_m

__all__ = [
    "FEEDER_PERCENT",
    "OTHER_PERCENT",
    "allowed_percent",
    "area_for_drop_mm2",
    "circular_mils_for_drop",
    "drop_class",
    "ohm_per_m",
]

FEEDER_PERCENT, OTHER_PERCENT = 3.0, 10.0
PERCENT: dict[DropClass, float] = {"must_not_sag": FEEDER_PERCENT, "other": OTHER_PERCENT}
# Ohm circular mil per foot of the published drop formula, copper (ABYC E-11, as commonly
# published).
OHM_CMIL_PER_FT = 10.75
M_PER_FT = 0.3048


def ohm_per_m(design: Design, area_mm2: float) -> float:
    """Resistance of one metre of one conductor [ohm/m] at the design's conductor temperature."""
    return resistivity_ohm_mm2_per_m(design.conductor_temperature_c) / area_mm2


def area_for_drop_mm2(design: Design, current_a: float, length_m: float, drop_v: float) -> float:
    """Copper area [mm2] with which a length out and back [m] loses a voltage: rho L I / U."""
    rho = resistivity_ohm_mm2_per_m(design.conductor_temperature_c)
    return rho * length_m * current_a / drop_v


def circular_mils_for_drop(current_a: float, length_m: float, drop_v: float) -> float:
    """Area [circular mil] by the published formula ``CM = 10.75 I L / E``.

    ``length_m`` is out and back [m]. Source: ABYC E-11, voltage drop; it stands for copper at
    about 25 degC.
    """
    return OHM_CMIL_PER_FT * current_a * (length_m / M_PER_FT) / drop_v


def drop_class(item: LoadItem) -> tuple[float, str]:
    """Allowed drop [%] of a circuit with one load, and why.

    As it was set at the load; else as its name proposes (reference table drop_classes); else the
    larger one, assumed.
    """
    if item.drop is not None:
        words = "it must not sag" if item.drop == "must_not_sag" else "it may sag"
        return PERCENT[item.drop], f"set at the load: {words}"
    name = f" {item.name.lower()} "
    for row in load_table("drop_classes").rows:
        word = f" {row['word']} " if row["match"] == "whole" else row["word"]
        if word in name:
            return float(row["percent"]), f"“{row['word']}”: one of the circuits that must not sag"
    return OTHER_PERCENT, "assumed: nothing says that it must not sag"


def allowed_percent(items: tuple[LoadItem, ...]) -> tuple[float, str]:
    """Allowed drop [%] of a feed with these loads, and why 3 or 10 %."""
    if len(items) != 1:
        return FEEDER_PERCENT, "a main feeder: more than one circuit hangs on it"
    return drop_class(items[0])
