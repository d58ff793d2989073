"""What a bank is: its EMF and resistance now, its two wells over time, its life."""

from strom_engine.batteries.bank_model import (
    BankModel,
    BankWells,
    StepFigures,
    WellFlow,
    bank_model,
)
from strom_engine.batteries.charging import BatteryRun, ChargePoint, ChargeRun, charge_run
from strom_engine.batteries.kinetics import Kinetics, kinetics_of
from strom_engine.batteries.life import Life, expected_life
from strom_engine.batteries.rest import RestEstimate, soc_from_rest
from strom_engine.batteries.source import (
    FULL_SOC,
    HALF_SOC,
    BankSource,
    bank_source,
    charge_overpotential_v,
    least_resistance_ohm,
    rest_voltage_v,
)
from strom_engine.batteries.two_well import TwoWell, Wells, two_well

__all__ = [
    "FULL_SOC",
    "HALF_SOC",
    "BankModel",
    "BankSource",
    "BankWells",
    "BatteryRun",
    "ChargePoint",
    "ChargeRun",
    "Kinetics",
    "Life",
    "RestEstimate",
    "StepFigures",
    "TwoWell",
    "WellFlow",
    "Wells",
    "bank_model",
    "bank_source",
    "charge_overpotential_v",
    "charge_run",
    "expected_life",
    "kinetics_of",
    "least_resistance_ohm",
    "rest_voltage_v",
    "soc_from_rest",
    "two_well",
]
