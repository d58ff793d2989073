"""What a bank is electrically: its EMF, its resistance, its charge kinetics."""

from strom_engine.batteries.source import (
    BankSource,
    bank_source,
    charge_overpotential_v,
    rest_voltage_v,
)

__all__ = ["BankSource", "bank_source", "charge_overpotential_v", "rest_voltage_v"]
