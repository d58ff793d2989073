"""A bank as a voltage source: E(head) behind R, with the overpotential of charging."""

from __future__ import annotations

import math
from bisect import bisect_right
from dataclasses import dataclass

from strom_engine.batteries.kinetics import kinetics_of
from strom_engine.design import Bank
from strom_engine.reference import Chemistry, chemistry

__all__ = [
    "BankSource",
    "bank_source",
    "charge_overpotential_v",
    "resistance_share",
    "rest_voltage_v",
]

BLOCK_V = 12.0
REFERENCE_AH = 100.0
# Lead plates lose conductivity in the cold: about +0.6 %/K below 25 degC (makers' cold-cranking
# curves: 40 % of the amps at -18 degC needs 1 / (1 + 0.006 * 43) of the conductance and the
# rest from capacity). Medium confidence.
RESISTANCE_PER_K_COLD = 0.006
# Conductance falls with the charge: lead in proportion, down to about a third at empty, as its
# acid turns to water; lithium iron phosphate hardly at all until a fifth is left (makers' charts
# of internal resistance as commonly published). Medium confidence.
LEAD_EMPTY_CONDUCTANCE = 0.3
LITHIUM_KNEE = 0.2
LITHIUM_EMPTY_CONDUCTANCE = 0.5


@dataclass(frozen=True)
class BankSource:
    """Bank figures at one moment: EMF [V], series resistance [ohm], charge kinetics."""

    emf_v: float
    resistance_ohm: float
    eta_slope_v: float
    eta_current_a: float

    def terminal_v(self, current_a: float) -> float:
        """Terminal voltage [V] at a current [A], charging positive."""
        return (
            self.emf_v
            + current_a * self.resistance_ohm
            + charge_overpotential_v(current_a, self.eta_slope_v, self.eta_current_a)
        )


def charge_overpotential_v(current_a: float, slope_v: float, exchange_a: float) -> float:
    """Overpotential [V] of a bank at a charging current [A]; zero at rest and on discharge.

    ``eta = slope * asinh(I / exchange)``: the Butler-Volmer equation with equal transfer
    coefficients solved for the voltage (Newman and Thomas-Alyea, Electrochemical Systems).
    """
    return slope_v * math.asinh(current_a / exchange_a) if current_a > 0 else 0.0


def rest_voltage_v(figures: Chemistry, head: float) -> float:
    """Rest voltage [V] of a 12 V block at a head [-], linear between the table's rows."""
    heads, volts = figures.heads, figures.rest_v
    head = min(max(head, heads[0]), heads[-1])
    i = min(bisect_right(heads, head), len(heads) - 1)
    share = (head - heads[i - 1]) / (heads[i] - heads[i - 1])
    return volts[i - 1] + share * (volts[i] - volts[i - 1])


def resistance_share(family: str, head: float) -> float:
    """Resistance of a bank at a head [-] over that of a full one [-]."""
    held = min(max(head, 0.0), 1.0)
    if family == "lead":
        return 1 / (LEAD_EMPTY_CONDUCTANCE + (1 - LEAD_EMPTY_CONDUCTANCE) * held)
    left = min(1.0, held / LITHIUM_KNEE)
    return 1 / (LITHIUM_EMPTY_CONDUCTANCE + (1 - LITHIUM_EMPTY_CONDUCTANCE) * left)


def bank_source(bank: Bank, soc: float | None = None) -> BankSource:
    """Electrical figures of a rested bank, at its own state of charge or another one [-].

    The head of a rested bank equals its state of charge. Typical figures are those of a 12 V
    100 Ah block and scale with volts and Ah; a resistance from the data sheet goes before.

    Range: head 0 to 1, -20 to 50 degC. Sources: reference tables battery_chemistry,
    battery_ocv, charge_overpotential.
    """
    figures = chemistry(bank.chemistry)
    blocks = bank.unit_v / BLOCK_V
    unit_ohm = bank.unit_resistance_ohm
    if unit_ohm is None:
        unit_ohm = figures.resistance_100ah_ohm * REFERENCE_AH / bank.unit_ah * blocks
    cold = 1 + RESISTANCE_PER_K_COLD * max(0.0, 25.0 - bank.temperature_c)
    head = bank.soc if soc is None else soc
    kinetics = kinetics_of(bank, figures)
    share = resistance_share(figures.family, head)
    return BankSource(
        emf_v=rest_voltage_v(figures, head) * blocks * bank.series,
        resistance_ohm=unit_ohm * cold * share * bank.series / bank.parallel,
        eta_slope_v=kinetics.slope_v,
        eta_current_a=kinetics.exchange_a(head, kinetics.ready(head)),
    )
