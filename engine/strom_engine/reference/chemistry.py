"""Battery chemistries: typical figures, rest voltage, and charge kinetics."""

from __future__ import annotations

from dataclasses import dataclass
from functools import cache
from types import MappingProxyType
from typing import Literal

from strom_engine.errors import ReferenceDataError
from strom_engine.reference.tables import load_table

__all__ = ["BLOCK_V", "CHEMISTRIES", "TABLE_C", "Chemistry", "chemistry"]

# What the figures of a chemistry stand for: a block of so many volts, at so many degC.
BLOCK_V, TABLE_C = 12.0, 25.0

# Which column of the rest-voltage table a chemistry reads.
_OCV_COLUMN = {"flooded_start": "flooded", "flooded_deep": "flooded"}


@dataclass(frozen=True)
class Chemistry:
    """Typical figures of one chemistry, per block of ``BLOCK_V`` at ``TABLE_C``."""

    name: str
    label: str
    family: Literal["lead", "lithium"]
    resistance_100ah_ohm: float
    least_100ah_ohm: float
    coulombic_efficiency: float
    absorption_v: float
    float_v: float
    tempco_v_per_k: float
    equalise_v: float | None
    usable_low_soc: float
    usable_high_soc: float
    well_share: float
    well_rate_per_h: float
    cycles_50_dod: float
    cycles_80_dod: float
    calendar_years: float
    max_charge_c: float
    charge_below_0c: bool
    heads: tuple[float, ...]
    rest_v: tuple[float, ...]
    cells: int
    slope_v: float
    exchange_c: float
    full_exchange_c: float
    knee_soc: float
    knee_width: float
    finish_width: float
    surface_share: float
    rise_h: float
    fade_h: float
    wash_share: float
    gassing_width: float


def _build(row: dict[str, str]) -> Chemistry:
    name = row["chemistry"]
    ocv = load_table("battery_ocv").rows
    column = _OCV_COLUMN.get(name, name)
    kinetics = next(r for r in load_table("charge_overpotential").rows if r["chemistry"] == name)
    life = next(r for r in load_table("battery_life").rows if r["chemistry"] == name)
    return Chemistry(
        name=name,
        label=row["label"],
        family="lithium" if name == "lfp" else "lead",
        resistance_100ah_ohm=float(row["r_mohm_100ah"]) / 1000,
        least_100ah_ohm=float(row["least_r_mohm_100ah"]) / 1000,
        coulombic_efficiency=float(row["coulombic_efficiency"]),
        absorption_v=float(row["absorption_v"]),
        float_v=float(row["float_v"]),
        tempco_v_per_k=float(row["tempco_mv_per_k"]) / 1000,
        equalise_v=float(row["equalise_v"]) if row["equalise_v"] else None,
        usable_low_soc=float(row["usable_low_soc"]),
        usable_high_soc=float(row["usable_high_soc"]),
        well_share=float(row["kibam_c"]),
        well_rate_per_h=float(row["kibam_k_per_h"]),
        cycles_50_dod=float(row["cycles_50_dod"]),
        cycles_80_dod=float(row["cycles_80_dod"]),
        calendar_years=float(life["calendar_years"]),
        max_charge_c=float(row["max_charge_c"]),
        charge_below_0c=row["charge_below_0c"] == "yes",
        heads=tuple(float(r["head"]) for r in ocv),
        rest_v=tuple(float(r[column]) for r in ocv),
        cells=int(kinetics["cells"]),
        slope_v=float(kinetics["slope_v"]),
        exchange_c=float(kinetics["exchange_c"]),
        full_exchange_c=float(kinetics["full_exchange_c"]),
        knee_soc=float(kinetics["knee_soc"]),
        knee_width=float(kinetics["knee_width"]),
        finish_width=float(kinetics["finish_width"]),
        surface_share=float(kinetics["surface_share"]),
        rise_h=float(kinetics["rise_min"]) / 60,
        fade_h=float(kinetics["fade_h"]),
        wash_share=float(kinetics["wash_share"]),
        gassing_width=float(kinetics["gassing_width"]),
    )


@cache
def _all() -> MappingProxyType[str, Chemistry]:
    built = {row["chemistry"]: _build(row) for row in load_table("battery_chemistry").rows}
    return MappingProxyType(built)


CHEMISTRIES: tuple[str, ...] = tuple(_all())


def chemistry(name: str) -> Chemistry:
    """Typical figures of a chemistry; raises ReferenceDataError when it is unknown.

    Args:
        name: such as ``agm``.

    Returns:
        Figures of a 12 V block of 100 Ah.
    """
    try:
        return _all()[name]
    except KeyError:
        raise ReferenceDataError(f"unknown chemistry {name!r}") from None
