"""What a charging current does to a bank's voltage, and how that goes again.

Four effects, one mechanism each:

- overpotential: ``eta = slope * asinh(I / exchange)``, the Butler-Volmer equation with equal
  transfer coefficients solved for the voltage (Newman and Thomas-Alyea, Electrochemical Systems);
- acceptance: the exchange current falls as the charge rises, first as the plates' ready material is
  used up (a logistic step at ``knee_soc``), then in proportion to what is left to be charged;
- surface charge: of the overpotential one part follows the current within minutes; the other, a
  share of it once the plates are nearly full, rises as fast and fades over hours; ampere-hours
  drawn wash both away;
- gassing: near full ever less of the current is stored, and none when full.

Source: reference table charge_overpotential. Lead in the cold: half of the exchange at 0 degC.
"""

from __future__ import annotations

import math
from dataclasses import dataclass

from strom_engine.design import Bank
from strom_engine.reference import BLOCK_V, TABLE_C, Chemistry

__all__ = ["Kinetics", "kinetics_of"]

# Lead accepts about half as much at 0 degC as at 25 (makers' charts of charge acceptance).
HALVED_PER_K = 25.0
MOST_EXPONENT = 500.0


@dataclass(frozen=True)
class Kinetics:
    """Kinetics of one whole bank: slope [V], exchange currents [A], times [h], charge [Ah].

    ``ready_a`` is the exchange current below the knee, ``full_a`` that of a full bank.
    """

    slope_v: float
    ready_a: float
    full_a: float
    knee_soc: float
    knee_width: float
    finish_width: float
    surface_share: float
    rise_h: float
    fade_h: float
    wash_ah: float
    gassing_width: float

    def ready(self, soc: float) -> float:
        """Share of the plates' ready material that is left at a state of charge [-]."""
        over = (soc - self.knee_soc) / self.knee_width
        return 1 / (1 + math.exp(over if over < MOST_EXPONENT else MOST_EXPONENT))

    def exchange_a(self, soc: float, ready: float) -> float:
        """Exchange current [A] at a state of charge and what is ready at that [-]."""
        left = 1.0 - soc if soc < 1.0 else 0.0
        return self.ready_a * ready + self.full_a * (1 + left / self.finish_width)

    def surface(self, ready: float) -> float:
        """Share of the overpotential that fades over hours [-]."""
        return self.surface_share * (1 - ready)

    def stored(self, soc: float) -> float:
        """Share of a charging current that does not go into gas, at a state of charge [-]."""
        return 1.0 - math.exp((soc - 1.0) / self.gassing_width) if soc < 1.0 else 0.0


def kinetics_of(bank: Bank, figures: Chemistry) -> Kinetics:
    """The kinetics of a bank of batteries alike, at its temperature.

    Args:
        bank: its temperature and age.
        figures: typical figures of its chemistry.

    Returns:
        Rates [1/h] and overpotentials [V] of the two wells.
    """
    warm = 1.0
    if figures.family == "lead":
        warm = 2 ** ((bank.temperature_c - TABLE_C) / HALVED_PER_K)
    amps = 2 * bank.capacity_ah * warm
    return Kinetics(
        slope_v=figures.cells * figures.slope_v * bank.unit_v / BLOCK_V * bank.series,
        ready_a=amps * figures.exchange_c,
        full_a=amps * figures.full_exchange_c,
        knee_soc=figures.knee_soc,
        knee_width=figures.knee_width,
        finish_width=figures.finish_width,
        surface_share=figures.surface_share,
        rise_h=figures.rise_h,
        fade_h=figures.fade_h,
        wash_ah=figures.wash_share * bank.capacity_ah,
        gassing_width=figures.gassing_width,
    )
