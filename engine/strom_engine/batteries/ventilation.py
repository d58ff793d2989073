"""Hydrogen of lead banks: air and openings that their space needs."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass

from strom_engine.design import Bank
from strom_engine.reference import BLOCK_V, chemistry

__all__ = ["GAS_SOURCE", "Gas", "gas_of"]

# EN IEC 62485-2: air Q [m3/h] = 0.05 n I_gas C / 1000, opening A [cm2] = 28 Q, natural air; gassing
# currents [mA/Ah] under boost charge, flooded and valve-regulated.
GAS_SOURCE = "EN IEC 62485-2, ventilation of battery spaces (EN IEC 62485-3 aboard craft)"
AIR_M3_PER_AH = 0.05
OPENING_CM2_H_PER_M3 = 28.0
BOOST_MA_PER_AH = {"flooded": 20.0, "valve_regulated": 8.0}
FLOODED = ("flooded_start", "flooded_deep")


@dataclass(frozen=True)
class Gas:
    """Air [m3/h] and opening [cm2], each in and out, for the banks of one space."""

    air_m3_h: float
    opening_cm2: float
    working: tuple[str, ...]


def gas_of(banks: Iterable[Bank]) -> Gas:
    """Air and openings for the lead banks of a space while they are boosted.

    Args:
        banks: of one space; lithium needs none.

    Returns:
        Zero without lead.

    >>> from strom_engine.design import Bank
    >>> one = Bank(id="b", name="B", role="house", chemistry="flooded_deep", unit_ah=200, soc=1)
    >>> round(gas_of([one]).air_m3_h, 2), round(gas_of([one]).opening_cm2, 1)
    (1.2, 33.6)
    """
    air, lines = 0.0, []
    for bank in banks:
        figures = chemistry(bank.chemistry)
        if figures.family != "lead":
            continue
        sort = "flooded" if bank.chemistry in FLOODED else "valve_regulated"
        cells = round(figures.cells * bank.nominal_v / BLOCK_V)
        amps = BOOST_MA_PER_AH[sort] / 1000 * bank.capacity_ah
        air += AIR_M3_PER_AH * cells * amps
        lines.append(
            f"{bank.name}: 0.05 x {cells} cells x {BOOST_MA_PER_AH[sort]:g} mA/Ah x "
            f"{bank.capacity_ah:.0f} Ah = {AIR_M3_PER_AH * cells * amps:.2f} m³/h of air."
        )
    opening = OPENING_CM2_H_PER_M3 * air
    lines.append(f"28 x {air:.2f} m³/h = {opening:.0f} cm² in and {opening:.0f} cm² out.")
    return Gas(air, opening, tuple(lines))
