"""First sizes that a pattern starts from, until every run is sized with the whole circuit known."""

from __future__ import annotations

from typing import Any

from strom_engine.design.fields import USUAL_INSULATION_C
from strom_engine.reference import (
    CONDUCTOR_SIZES,
    ampacity_a,
    area_mm2,
    resistivity_ohm_mm2_per_m,
)
from strom_engine.runs.picking import CONTINUOUS_SHARE

__all__ = ["fuse_rating_a", "gauge_for", "switch_size"]

# Standard ratings of fuses [A], as commonly published.
RATINGS_A: tuple[float, ...] = (
    3,
    5,
    7.5,
    10,
    15,
    20,
    25,
    30,
    40,
    50,
    60,
    70,
    80,
    100,
    125,
    150,
    175,
    200,
    225,
)
RATINGS_A += (250, 300, 350, 400, 500, 600)
# A first size until the run is sized on its own stage: 3 % drop out and back (ABYC E-11, main
# feeders and charging), and what usual insulation is allowed in an engine space.
DROP_SHARE = 0.03
# Generic battery switches: what they carry for long and for five minutes [A] (makers' data).
SWITCH_SIZES_A = ((150.0, 300.0), (250.0, 450.0), (350.0, 600.0), (500.0, 800.0), (600.0, 1200.0))


def fuse_rating_a(current_a: float) -> float:
    """The smallest standard fuse [A] that carries a current for long."""
    return next((r for r in RATINGS_A if r * CONTINUOUS_SHARE >= current_a), RATINGS_A[-1])


def gauge_for(current_a: float, length_m: float, system_v: float) -> str:
    """The smallest AWG size for a current over a length, out and back, to start from."""
    rho = resistivity_ohm_mm2_per_m(40.0)
    least_mm2 = rho * 2 * length_m * current_a / (DROP_SHARE * system_v)
    sizes = sorted((s for s in CONDUCTOR_SIZES if s.endswith("AWG")), key=area_mm2)
    fits = (
        s
        for s in sizes
        if area_mm2(s) >= max(least_mm2, area_mm2("16 AWG"))
        and ampacity_a(s, USUAL_INSULATION_C, engine_space=True) >= current_a
    )
    return next(fits, sizes[-1])


def switch_size(brief_a: float, lasting_a: float) -> dict[str, Any]:  # Any: fields of a switch
    """Ratings of the smallest generic switch for a start or a motor, and for hours."""
    sizes = (s for s in SWITCH_SIZES_A if s[0] >= lasting_a and s[1] >= brief_a)
    rating_a, intermittent_a = next(sizes, SWITCH_SIZES_A[-1])
    return {"rating_a": rating_a, "intermittent_a": intermittent_a}
