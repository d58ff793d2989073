"""Studs, their ring holes and torques, and the pull that a crimp must hold."""

from __future__ import annotations

from dataclasses import dataclass
from functools import cache

from strom_engine.reference.tables import load_table

__all__ = ["Torque", "crimp_pull_n", "stud_torque", "usual_stud"]


@dataclass(frozen=True)
class Torque:
    """A stud's ring hole [mm] and usual torque from and to [N m]; None where none is usual."""

    inch: str
    ring_hole_mm: float
    least_nm: float | None
    most_nm: float | None


@cache
def usual_stud(kind: str, post: str) -> str:
    """The stud that a post of a kind of part usually has, such as ``M8``."""
    rows = load_table("usual_studs").rows
    for asked in ((kind, post), ("any", post), (kind, "*")):
        found = next((r["stud"] for r in rows if (r["kind"], r["post"]) == asked), None)
        if found is not None:
            return found
    return "M6"


@cache
def stud_torque(stud: str, *, battery: bool) -> Torque | None:
    """Hole and torque of a stud size; None for one that the table does not list."""
    row = next((r for r in load_table("studs").rows if r["metric"] == stud), None)
    if row is None:
        return None
    side = "battery" if battery else "bus"
    low, high = row[f"{side}_min_nm"], row[f"{side}_max_nm"]
    return Torque(
        row["inch"],
        float(row["ring_hole_mm"]),
        float(low) if low else None,
        float(high) if high else None,
    )


@cache
def crimp_pull_n(size: str) -> float | None:
    """Pull [N] that a crimped terminal on a size must hold for a minute; None where not listed."""
    rows = load_table("crimp_pull").rows
    return next((float(r["pull_n"]) for r in rows if r["size"] == size), None)
