"""Fault current: what flows into a dead short."""

from __future__ import annotations

from dataclasses import dataclass
from functools import lru_cache

from strom_engine.batteries import FULL_SOC, bank_source, least_resistance_ohm
from strom_engine.design import Bank, Design
from strom_engine.runs.least_ways import least_ohms

__all__ = ["FaultCurrent", "fault_currents"]


@dataclass(frozen=True)
class FaultCurrent:
    """Fault current at a post [A]: the sum over banks of ``E / (R_bank + R_way)``.

    The way is the positive one alone, so that the figure is not too small.
    """

    amps: float
    working: tuple[str, ...]


@lru_cache(maxsize=32)
def fault_currents(design: Design) -> dict[str, FaultCurrent]:
    """Fault current at every positive post, banks full and every contact closed."""
    sums: dict[str, float] = {}
    lines: dict[str, list[str]] = {}
    for bank in design.of_type(Bank):
        emf_v, inside_ohm = bank_source(bank, FULL_SOC).emf_v, least_resistance_ohm(bank)
        for post, ohm in least_ohms(design, f"{bank.id}.pos").items():
            amps = emf_v / (inside_ohm + ohm)
            sums[post] = sums.get(post, 0.0) + amps
            lines.setdefault(post, []).append(
                f"{bank.name}: {emf_v:.1f} V / ({1000 * inside_ohm:.2f} mΩ inside, the least for "
                f"its kind, + {1000 * ohm:.2f} mΩ of cable) = {amps:.0f} A."
            )
    return {post: FaultCurrent(amps, tuple(lines[post])) for post, amps in sums.items()}
