"""Copper conductors: nominal areas and resistivity."""

from __future__ import annotations

from functools import cache

from strom_engine.errors import ReferenceDataError
from strom_engine.reference.tables import load_table

__all__ = [
    "CONDUCTOR_SIZES",
    "TEMPERATURE_COEFFICIENT_PER_K",
    "area_mm2",
    "resistivity_ohm_mm2_per_m",
]

# IEC 60028 annealed copper at 20 degC, and 3 % for the lay of stranded conductors.
RESISTIVITY_20C_OHM_MM2_PER_M = 0.01724 * 1.03
TEMPERATURE_COEFFICIENT_PER_K = 0.00393


@cache
def _areas() -> dict[str, float]:
    return {row["size"]: float(row["area_mm2"]) for row in load_table("conductor_sizes").rows}


CONDUCTOR_SIZES: tuple[str, ...] = tuple(_areas())


def area_mm2(size: str) -> float:
    """Nominal copper area [mm2] of a size such as ``2/0 AWG`` or ``50 mm2``.

    Args:
        size: of a conductor; other areas as ``n mm2``.

    Raises:
        ReferenceDataError: the size is unknown.
    """
    try:
        return _areas()[size]
    except KeyError:
        raise ReferenceDataError(f"unknown conductor size {size!r}") from None


def resistivity_ohm_mm2_per_m(temperature_c: float) -> float:
    """Resistivity of stranded copper [ohm mm2/m] at a conductor temperature [degC].

    Linear about 20 degC; valid from -40 to 105 degC. Source: IEC 60028.

    Args:
        temperature_c: of the copper [degC].
    """
    return RESISTIVITY_20C_OHM_MM2_PER_M * (
        1 + TEMPERATURE_COEFFICIENT_PER_K * (temperature_c - 20.0)
    )
