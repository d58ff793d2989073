"""From which reel or offcut every piece is cut, so that least has to be bought."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np
from scipy.optimize import Bounds, LinearConstraint, milp

from strom_engine.build.cuts import Piece, ReelSort
from strom_engine.runs.stock import Reel

__all__ = ["Cut", "CuttingPlan", "cutting_plan"]

SAW_M = 0.003  # lost at every cut
OPENED_COST = 0.02  # of a reel's length: of two ways that buy as much, the one that opens less
SOLVER_S = 1.5


@dataclass(frozen=True)
class Cut:
    """What is cut from one reel, in order, and what is left of it [m].

    ``reel`` is None for cable that has to be bought, by the metre.
    """

    reel: str | None
    gauge: str
    colour: str
    insulation_c: int
    length_m: float
    pieces: tuple[str, ...]
    used_m: float
    left_m: float


@dataclass(frozen=True)
class CuttingPlan:
    """Every piece on a reel, what has to be bought [m], and by which way it was found."""

    cuts: tuple[Cut, ...]
    to_buy_m: float
    by: str


def cutting_plan(wanted: Sequence[Piece], reels: Sequence[Reel]) -> CuttingPlan:
    """Cut pieces from reels and offcuts so that as few metres as can be are bought.

    Solved as a mixed-integer program (HiGHS); never worse than cutting the longest piece from the
    first reel that has it, which is what is taken where the solver has not ended in time.

    Args:
        wanted: pieces with their cut lengths [m].
        reels: what there is, by size, colour and insulation.

    Returns:
        For every reel its pieces, the longest first, and what is left [m].
    """
    by_sort: dict[ReelSort, list[Piece]] = defaultdict(list)
    for piece in sorted(wanted, key=lambda p: (-p.cut_m, p.key)):
        by_sort[piece.reel].append(piece)
    cuts: list[Cut] = []
    ways = set[str]()
    for sort, group in by_sort.items():
        here = [r for r in reels if r.fits(*sort)]
        plain = _first_fit(group, here)
        best = _solved(group, here) if here else None
        if best is not None and _cost(group, here, best) < _cost(group, here, plain) - 1e-9:
            plain, way = best, "least bought (mixed-integer program)"
        else:
            way = "longest first"
        ways.add(way)
        cuts += _cuts(sort, group, here, plain)
    bought = sum(c.used_m for c in cuts if c.reel is None)
    return CuttingPlan(tuple(cuts), round(bought, 3), "; ".join(sorted(ways)))


def _need_m(piece: Piece) -> float:
    return piece.cut_m + SAW_M


def _first_fit(group: list[Piece], reels: list[Reel]) -> list[int | None]:
    """The reel of each piece, the shortest first that still has it; None: bought."""
    order = sorted(range(len(reels)), key=lambda n: reels[n].length_m)
    left = [r.length_m for r in reels]
    found: list[int | None] = []
    for piece in group:
        at = next((n for n in order if left[n] >= _need_m(piece) - 1e-9), None)
        if at is not None:
            left[at] -= _need_m(piece)
        found.append(at)
    return found


def _cost(group: list[Piece], reels: list[Reel], at: list[int | None]) -> float:
    bought = sum(_need_m(p) for p, n in zip(group, at, strict=True) if n is None)
    return bought + OPENED_COST * sum(reels[n].length_m for n in {n for n in at if n is not None})


def _solved(group: list[Piece], reels: list[Reel]) -> list[int | None] | None:
    """Pieces on reels by a mixed-integer program; None where it finds nothing in time."""
    pieces, bins = len(group), len(reels)
    need = np.array([_need_m(p) for p in group])
    count = pieces * bins + bins
    # Taken from a reel a piece is not bought; a reel that is opened costs a little.
    cost = np.concatenate(
        [-np.repeat(need, bins), OPENED_COST * np.array([r.length_m for r in reels])]
    )
    once = np.zeros((pieces, count))
    for i in range(pieces):
        once[i, i * bins : (i + 1) * bins] = 1
    holds = np.zeros((bins, count))
    for j in range(bins):
        holds[j, j : pieces * bins : bins] = need
        holds[j, pieces * bins + j] = -reels[j].length_m
    found = milp(
        cost,
        constraints=[LinearConstraint(once, -np.inf, 1), LinearConstraint(holds, -np.inf, 0)],
        integrality=np.ones(count),
        bounds=Bounds(0, 1),
        options={"time_limit": SOLVER_S},
    )
    if found.x is None:
        return None
    taken = np.round(found.x[: pieces * bins]).reshape(pieces, bins)
    return [int(np.argmax(row)) if row.any() else None for row in taken]


def _cuts(sort: ReelSort, group: list[Piece], reels: list[Reel], at: list[int | None]) -> list[Cut]:
    gauge, colour, insulation_c = sort
    found = []
    for n in [*range(len(reels)), None]:
        here = [p for p, on in zip(group, at, strict=True) if on == n]
        if not here:
            continue
        used = sum(_need_m(p) for p in here)
        length = used if n is None else reels[n].length_m
        found.append(
            Cut(
                reel=None if n is None else reels[n].id,
                gauge=gauge,
                colour=colour,
                insulation_c=insulation_c,
                length_m=round(length, 3),
                pieces=tuple(p.key for p in here),
                used_m=round(used, 3),
                left_m=round(length - used, 3),
            )
        )
    return found
