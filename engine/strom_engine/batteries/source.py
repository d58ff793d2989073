"""A bank as a voltage source: E(head) behind R, with the overpotential of charging."""

from __future__ import annotations

import math
from bisect import bisect_right
from dataclasses import dataclass

from strom_engine.batteries.kinetics import kinetics_of
from strom_engine.design import Bank
from strom_engine.reference import BLOCK_V, TABLE_C, Chemistry, chemistry, load_table

__all__ = [
    "FULL_SOC",
    "HALF_SOC",
    "BankSource",
    "alive_share",
    "bank_source",
    "charge_overpotential_v",
    "least_resistance_ohm",
    "resistance_share",
    "rest_voltage_v",
    "unit_resistance_ohm",
]

# States of charge [-] at which banks are looked at: full, where a short and a rest are at their
# highest; half, down to which lead is commonly drawn, where it takes the most.
FULL_SOC, HALF_SOC = 1.0, 0.5
REFERENCE_AH = 100.0
# A lead battery's cranking amps fall to two thirds from 27 to -18 degC (reference table
# cranking_cold): its resistance rises as they fall. Lithium iron phosphate: about +1 %/K below
# 25 degC (makers' charts as commonly published). Medium confidence.
LITHIUM_PER_K_COLD = 0.01
CCA_C, CCA_V_SHARE = -18.0, 0.6  # cold cranking amps are given down to 7.2 V of 12 (SAE J537)
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

    Args:
        current_a: into the bank [A]; negative on discharge.
        slope_v: slope [V] of the law above.
        exchange_a: exchange current [A], above zero.
    """
    return slope_v * math.asinh(current_a / exchange_a) if current_a > 0 else 0.0


def rest_voltage_v(figures: Chemistry, head: float) -> float:
    """Rest voltage [V] of a 12 V block at a head [-], linear between the table's rows.

    Args:
        figures: typical figures of its chemistry.
        head: of the available well [-], 0 to 1; held at the ends.
    """
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


def cold_resistance(family: str, temperature_c: float) -> float:
    """Resistance at a temperature [degC] over that at 25 degC [-]."""
    if family == "lithium":
        return 1 + LITHIUM_PER_K_COLD * max(0.0, TABLE_C - temperature_c)
    available = load_table("cranking_cold")
    at_25 = available.lookup("temperature_c", "available", TABLE_C)
    return at_25 / available.lookup("temperature_c", "available", temperature_c)


def _unit_ohm(bank: Bank, figures: Chemistry) -> float:
    """Resistance [ohm] of one full battery at the bank's temperature.

    As measured; else by its cranking amps, which are what takes a full one down to 7.2 V (of 12)
    at -18 degC; else that of its chemistry.
    """
    cold = cold_resistance(figures.family, bank.temperature_c)
    if bank.unit_resistance_ohm is not None:
        return bank.unit_resistance_ohm * cold
    if figures.family == "lead" and bank.cca_a is not None:
        cca_a = bank.cca_a / bank.parallel
        fall_v = bank.unit_v * (rest_voltage_v(figures, 1.0) / BLOCK_V - CCA_V_SHARE)
        return fall_v / cca_a * cold / cold_resistance(figures.family, CCA_C)
    blocks = bank.unit_v / BLOCK_V
    return figures.resistance_100ah_ohm * REFERENCE_AH / bank.unit_ah * blocks * cold


def unit_resistance_ohm(bank: Bank) -> float:
    """Resistance [ohm] of one full battery at 25 degC, as measured or as its label tells.

    Args:
        bank: its label and what was measured of it.
    """
    return _unit_ohm(bank.model_copy(update={"temperature_c": TABLE_C}), chemistry(bank.chemistry))


def least_resistance_ohm(bank: Bank) -> float:
    """Resistance [ohm] of a full bank for fault currents: it errs low, so that they err high.

    As measured; else the least that batteries of its chemistry have, or what its cranking amps
    tell where that is less: those hold for half a minute in the cold, a short for milliseconds.
    Where the maker gives a short-circuit current, that counts.

    Args:
        bank: its label and what was measured of it.
    """
    figures = chemistry(bank.chemistry)
    warm = bank.model_copy(update={"temperature_c": max(TABLE_C, bank.temperature_c)})
    unit_ohm = _unit_ohm(warm, figures)
    if bank.unit_resistance_ohm is None:
        least = figures.least_100ah_ohm * REFERENCE_AH / bank.unit_ah * bank.unit_v / BLOCK_V
        unit_ohm = min(unit_ohm, least)
    return unit_ohm * bank.series / bank.parallel


def alive_share(bank: Bank, dead_cells: int) -> float:
    """Share of a bank's cells in series that still give their voltage [-]."""
    cells = chemistry(bank.chemistry).cells * bank.unit_v / BLOCK_V * bank.series
    return max(0.0, cells - dead_cells) / cells


def bank_source(
    bank: Bank, soc: float | None = None, *, dead_cells: int = 0, added_ohm: float = 0.0
) -> BankSource:
    """Electrical figures of a rested bank, at its own state of charge or another one [-].

    The head of a rested bank equals its state of charge. Typical figures are those of a 12 V
    100 Ah block and scale with volts and Ah; a measured resistance or cranking amps go before.
    A dead cell takes its voltage off and leaves its resistance; ``added_ohm`` is resistance inside
    beyond its own.

    Range: head 0 to 1, -20 to 50 degC. Sources: reference tables battery_chemistry,
    battery_ocv, charge_overpotential.

    Args:
        bank: its label and what was measured of it.
        soc: state of charge [-], 0 to 1; its own when None.
        dead_cells: cells without voltage [-].
        added_ohm: resistance inside beyond its own [ohm].

    Returns:
        Rest volts [V], resistance [ohm] and the charging overpotential's two figures.

    Raises:
        ReferenceDataError: its chemistry is unknown.
    """
    figures = chemistry(bank.chemistry)
    blocks = bank.unit_v / BLOCK_V
    head = bank.soc if soc is None else soc
    kinetics = kinetics_of(bank, figures)
    share = resistance_share(figures.family, head)
    alive = alive_share(bank, dead_cells)
    own_ohm = _unit_ohm(bank, figures) * share * bank.series / bank.parallel
    return BankSource(
        emf_v=rest_voltage_v(figures, head) * blocks * bank.series * alive,
        resistance_ohm=own_ohm + added_ohm,
        eta_slope_v=kinetics.slope_v * alive,
        eta_current_a=kinetics.exchange_a(head, kinetics.ready(head)),
    )
