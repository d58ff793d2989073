"""How much is used, what gives it back, and how large a bank has to be."""

from strom_engine.sizing.audit import Audit, ItemDay, ProfileDay, audit
from strom_engine.sizing.bank_plan import (
    BankPlan,
    LoadReport,
    bank_plan,
    house_bank,
    load_report,
    stated_volts,
)
from strom_engine.sizing.candidates import CandidateBank, ChargeTime
from strom_engine.sizing.choices import Choices, choices
from strom_engine.sizing.counted import Comparison, Count, compare_ways, counts
from strom_engine.sizing.cranking import (
    StartCheck,
    cold_start,
    start_check,
    start_positions,
    turning_v,
)
from strom_engine.sizing.gauge_reading import GaugeReading, read_gauge
from strom_engine.sizing.need import Need, Yields, needs, usable_window, yields
from strom_engine.sizing.solar import SolarYield, solar_yield

__all__ = [
    "Audit",
    "BankPlan",
    "CandidateBank",
    "ChargeTime",
    "Choices",
    "Comparison",
    "Count",
    "GaugeReading",
    "ItemDay",
    "LoadReport",
    "Need",
    "ProfileDay",
    "SolarYield",
    "StartCheck",
    "Yields",
    "audit",
    "bank_plan",
    "choices",
    "cold_start",
    "compare_ways",
    "counts",
    "house_bank",
    "load_report",
    "needs",
    "read_gauge",
    "solar_yield",
    "start_check",
    "start_positions",
    "stated_volts",
    "turning_v",
    "usable_window",
    "yields",
]
