"""What work takes: minutes, how much is stripped, which shrink fits."""

from __future__ import annotations

from functools import cache

from strom_engine.reference.tables import load_table

__all__ = ["shrink_bore_mm", "strip_mm", "work_minutes"]


@cache
def work_minutes(work: str) -> float:
    """Usual minutes [min] of a piece of work; raises KeyError for one that is not listed."""
    return {r["work"]: float(r["minutes"]) for r in load_table("work_minutes").rows}[work]


def _barrel(area_mm2: float, column: str) -> float:
    rows = sorted(load_table("lug_barrel").rows, key=lambda r: float(r["up_to_mm2"]))
    fits = (r for r in rows if area_mm2 <= float(r["up_to_mm2"]) + 0.01)
    return float(next(fits, rows[-1])[column])


@cache
def strip_mm(area_mm2: float) -> float:
    """How much insulation is stripped for a ring lug [mm], by copper area [mm2]."""
    return _barrel(area_mm2, "strip_mm")


@cache
def shrink_bore_mm(area_mm2: float) -> float:
    """Bore of adhesive-lined shrink over a lug's barrel and the cable [mm], by area [mm2]."""
    return _barrel(area_mm2, "shrink_bore_mm")
