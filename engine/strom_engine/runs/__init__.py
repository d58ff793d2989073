"""Cables and devices: what each carries, loses, needs and is protected by; and choosing them."""

from strom_engine.runs.allowed_current import Allowed, Standard, allowed_current, in_engine_space
from strom_engine.runs.choosing import Choice, choose
from strom_engine.runs.currents import DesignCurrent, design_currents
from strom_engine.runs.detour import Detour, detours
from strom_engine.runs.guarding import cover, guarding
from strom_engine.runs.ladder import Ladder, Opening, ladders, openings
from strom_engine.runs.paths import Path, paths
from strom_engine.runs.run_rows import RunRow, run_rows
from strom_engine.runs.runs_report import RunsReport, runs_report
from strom_engine.runs.stock import (
    GearPrice,
    Reel,
    Stock,
    StockCable,
    StockDevice,
    default_stock,
    parse_stock,
)

__all__ = [
    "Allowed",
    "Choice",
    "DesignCurrent",
    "Detour",
    "GearPrice",
    "Ladder",
    "Opening",
    "Path",
    "Reel",
    "RunRow",
    "RunsReport",
    "Standard",
    "Stock",
    "StockCable",
    "StockDevice",
    "allowed_current",
    "choose",
    "cover",
    "default_stock",
    "design_currents",
    "detours",
    "guarding",
    "in_engine_space",
    "ladders",
    "openings",
    "parse_stock",
    "paths",
    "run_rows",
    "runs_report",
]
