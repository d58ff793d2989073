"""How long a device may take to open, and how long copper bears what passes meanwhile."""

from __future__ import annotations

import math
from functools import cache

import numpy as np

from strom_engine.reference.tables import load_table

__all__ = ["bears_s", "longest_opening_s", "sure_multiple"]

# IEC 60364-5-54, annex A: volumetric heat capacity of copper with its resistivity, the reciprocal
# of its temperature coefficient at 0 degC, and where thermoplastic insulation, and what bears more,
# may be after a short.
COPPER_K, COPPER_BETA_C = 226.0, 234.5
THERMOPLASTIC_C, THERMOSET_C = 160.0, 250.0
MOST_THERMOPLASTIC_C = 105


def sure_multiple(device: str) -> float:
    """From which multiple of its rating on a device opens for certain [-].

    Args:
        device: id of a type; one that the table does not have opens as the slowest.
    """
    return max(math.exp(_curve(kind)[0][0]) for kind in _kinds(device))


def _kinds(device: str) -> list[str]:
    kinds = sorted({r["type"] for r in load_table("clearing_time").rows})
    return [device] if device in kinds else kinds


@cache
def _curve(device: str) -> tuple[tuple[float, ...], tuple[float, ...]]:
    rows = [r for r in load_table("clearing_time").rows if r["type"] == device]
    return (
        tuple(math.log(float(r["multiple"])) for r in rows),
        tuple(math.log(float(r["longest_s"])) for r in rows),
    )


def longest_opening_s(device: str, multiple: float) -> float | None:
    """Longest time [s] in which a device opens at a multiple of its rating; None: it may hold.

    Between the rows of table clearing_time a power law. Above its last row a fuse melts by the
    same heat, ``t ~ 1 / I^2``; a breaker takes that row's time.

    Args:
        device: id of a type; one that the table does not have opens as the slowest.
        multiple: amps by rating [-].

    >>> longest_opening_s("bolt_51mm", 2.0)
    15.0
    """
    if multiple < sure_multiple(device) - 1e-9:
        return None
    times = []
    for name in _kinds(device):
        at, took = _curve(name)
        beyond = max(0.0, math.log(multiple) - at[-1]) if not name.startswith("breaker") else 0.0
        times.append(math.exp(float(np.interp(math.log(multiple), at, took)) - 2 * beyond))
    return round(max(times), 6)


def bears_s(
    area_mm2: float, insulation_c: float, current_a: float, start_c: float | None = None
) -> float:
    """Time [s] for which a conductor bears a short.

    ``t = (k S / I)^2`` with ``k = 226 sqrt(ln((234.5 + end) / (234.5 + start)))``: no heat leaves
    it, so that it bears more in truth. Source: IEC 60364-4-43 and 60364-5-54, annex A.

    Args:
        area_mm2: copper area [mm2].
        insulation_c: what its insulation is rated for [degC].
        current_a: through it [A], above zero.
        start_c: its temperature before [degC]; None is what its insulation is rated for.

    >>> round(bears_s(10.0, 70, 1000.0), 2)
    1.32
    """
    end_c = THERMOPLASTIC_C if insulation_c <= MOST_THERMOPLASTIC_C else THERMOSET_C
    before_c = insulation_c if start_c is None else min(start_c, insulation_c)
    k = COPPER_K * math.sqrt(math.log((COPPER_BETA_C + end_c) / (COPPER_BETA_C + before_c)))
    return (k * area_mm2 / current_a) ** 2
