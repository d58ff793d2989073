"""Usual sizes: batteries, gear, lugs, studs, cables."""

from __future__ import annotations

from dataclasses import dataclass
from functools import cache

from strom_engine.reference.tables import load_table

__all__ = [
    "Size",
    "battery_size",
    "bend_radius_mm",
    "gear_size",
    "lug_tongue_mm",
    "outside_mm",
    "stud_free_mm",
    "stud_nut_mm",
]

BEND_DIAMETERS = 6.0  # least inside radius of fine-stranded cable at rest; makers' sheets
DIAMETER_MM_PER_ROOT_MM2 = 1.9  # of sizes that the table does not list, from those that it does


@dataclass(frozen=True)
class Size:
    """Width, depth and height [mm]."""

    width_mm: float
    depth_mm: float
    height_mm: float


def _size(row: dict[str, str]) -> Size:
    return Size(float(row["width_mm"]), float(row["depth_mm"]), float(row["height_mm"]))


@cache
def battery_size(unit_v: float, unit_ah: float) -> Size:
    """Usual size of one battery; the largest listed where it is larger still.

    Args:
        unit_v: of one battery [V].
        unit_ah: of one battery [Ah].
    """
    rows = [r for r in load_table("battery_dimensions").rows if float(r["unit_v"]) == unit_v]
    rows.sort(key=lambda r: float(r["up_to_ah"]))
    return _size(next((r for r in rows if unit_ah <= float(r["up_to_ah"])), rows[-1]))


@cache
def gear_size(kind: str, device: str = "*") -> Size | None:
    """Usual size of gear with its cover; None for what has no place on a board.

    Args:
        kind: of a part.
        device: generic type of a fuse.
    """
    rows = [r for r in load_table("part_dimensions").rows if r["kind"] == kind]
    found = next((r for r in rows if r["device"] == device), None)
    found = found or next((r for r in rows if r["device"] == "*"), None)
    return _size(found) if found else None


@cache
def lug_tongue_mm(area_mm2: float) -> float:
    """Thickness of a ring lug's tongue [mm] for a copper area [mm2]."""
    rows = sorted(load_table("lug_thickness").rows, key=lambda r: float(r["up_to_mm2"]))
    fits = (r for r in rows if area_mm2 <= float(r["up_to_mm2"]) + 0.01)
    return float(next(fits, rows[-1])["tongue_mm"])


@cache
def _studs() -> dict[str, tuple[float, float]]:
    rows = load_table("stud_length").rows
    return {r["stud"]: (float(r["free_mm"]), float(r["nut_mm"])) for r in rows}


def stud_free_mm(stud: str) -> float:
    """Usual free length of a stud above its seat [mm]."""
    return _studs()[stud][0]


def stud_nut_mm(stud: str) -> float:
    """What nut, lock washer and washer take of a stud [mm]."""
    return _studs()[stud][1]


@cache
def outside_mm(gauge: str, area_mm2: float) -> float:
    """Outside diameter of a cable with its insulation [mm]."""
    rows = {r["size"]: float(r["outside_mm"]) for r in load_table("cable_outside_diameter").rows}
    return rows.get(gauge) or DIAMETER_MM_PER_ROOT_MM2 * area_mm2**0.5 + 0.5


def bend_radius_mm(gauge: str, area_mm2: float) -> float:
    """Least inside radius of a bend [mm]: six times the outside diameter."""
    return BEND_DIAMETERS * outside_mm(gauge, area_mm2)
