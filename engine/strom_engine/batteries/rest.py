"""What a resting voltage says about the charge, and how surely."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from strom_engine.design import Bank
from strom_engine.reference import BLOCK_V, chemistry, load_table

__all__ = ["RestEstimate", "soc_from_rest"]

# Tables of the trade differ by 0.05 to 0.1 V, a tenth of the charge (reference battery_ocv).
TABLE_DOUBT = 0.10
# Surface charge or the end of a load has mostly gone after four hours; before that the voltage
# misleads by up to another 0.2 V (trade handbooks). Medium confidence.
RESTED_H = 4.0
UNRESTED_DOUBT = 0.15
# Between these charges the voltage of lithium iron phosphate says nothing.
FLAT_LOW, FLAT_HIGH = 0.30, 0.90


@dataclass(frozen=True)
class RestEstimate:
    """State of charge with its doubt [-]; ``refused`` says why there is none."""

    soc: float | None
    low: float | None
    high: float | None
    refused: str | None
    working: tuple[str, ...]
    source: str


def soc_from_rest(bank: Bank, volts_v: float, rested_h: float) -> RestEstimate:
    """State of charge [-] of a bank from its resting voltage [V] and hours of rest [h].

    Lead: good to about 10 %, 25 % when it rested less than 4 h. Lithium iron phosphate:
    refused where the voltage says nothing, 30 to 90 %. Source: reference table battery_ocv.

    Args:
        bank: chemistry and rated volts.
        volts_v: of the whole bank at rest [V].
        rested_h: hours without current [h], 0 or more.

    Returns:
        The state of charge [-] with its doubt, or why it cannot be told.
    """
    figures = chemistry(bank.chemistry)
    table = load_table("battery_ocv")
    blocks = bank.unit_v / BLOCK_V * bank.series
    block_v = volts_v / blocks
    heads = [h for h in figures.heads if h <= 1.0]
    volts = list(figures.rest_v[: len(heads)])
    working: tuple[str, ...] = (
        f"{volts_v:.2f} V / {blocks:g} = {block_v:.2f} V for a 12 V block; "
        f"full {volts[-1]:.2f} V, empty {volts[0]:.2f} V ({figures.label}).",
    )
    if not volts[0] - 1.0 <= block_v <= volts[-1] + 0.3:
        text = "being charged, or not resting" if block_v > volts[-1] else "a dead cell or a load"
        why = f"{block_v:.2f} V is outside what this chemistry rests at: {text}"
        return RestEstimate(None, None, None, why, working, table.citation)
    soc = float(np.interp(block_v, volts, heads))
    doubt = TABLE_DOUBT + (UNRESTED_DOUBT if rested_h < RESTED_H else 0.0)
    if rested_h < RESTED_H:
        working += (
            f"Rested {rested_h:g} h, less than {RESTED_H:g} h: surface charge or a load before "
            "may mislead.",
        )
    if figures.family == "lithium" and FLAT_LOW < soc < FLAT_HIGH:
        why = "between 30 and 90 % the voltage of this chemistry says nothing: count ampere-hours"
        return RestEstimate(None, FLAT_LOW, FLAT_HIGH, why, working, table.citation)
    low, high = max(0.0, soc - doubt), min(1.0, soc + doubt)
    return RestEstimate(soc, low, high, None, working, table.citation)
