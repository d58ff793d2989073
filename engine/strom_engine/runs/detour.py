"""The detour: a path as it is run, a direct run, and a remote switch in the direct run."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

from strom_engine.circuit.constants import COIL_A
from strom_engine.design import Design
from strom_engine.reference import base_ampacity_a, size_in_table
from strom_engine.runs.drop import ohm_per_m
from strom_engine.runs.paths import Path, paths
from strom_engine.runs.run_rows import COPPER_KG_PER_M_MM2
from strom_engine.runs.sizes import cranks_a, least_mm2
from strom_engine.runs.stock import Stock, StockCable, default_stock
from strom_engine.survey import Survey

__all__ = ["Detour", "Way", "detours"]

DEVICE_V = 0.05  # a fuse or contact loses about this much at its rating; taken once for each
CONTROL_MM2 = 1.31  # 16 AWG, two thin wires to the helm


@dataclass(frozen=True)
class Way:
    """One way to run it: volts lost, copper, and its price where the stock tells one."""

    kind: Literal["as_run", "direct", "remote_switch"]
    words: str
    length_m: float
    gauge: str
    drop_v: float
    drop_percent: float
    copper_kg: float
    price: float | None


@dataclass(frozen=True)
class Detour:
    """A path and its alternatives; ``missing`` names what would have to be measured first."""

    path: str
    name: str
    from_place: str
    to_place: str
    ways: tuple[Way, ...]
    missing: str | None


def detours(
    design: Design, survey: Survey | None, stock: Stock | None = None
) -> tuple[Detour, ...]:
    """Every path against a direct run between the places of its ends.

    Args:
        design: the boat, as surveyed.
        survey: its survey; None where there is none.
        stock: the workshop's; the usual list when None.

    Returns:
        Paths with metres [m], drops [V] and prices of each way.
    """
    kept = stock or default_stock()
    return tuple(_detour(design, survey, kept, p) for p in paths(design))


def _detour(design: Design, survey: Survey | None, stock: Stock, path: Path) -> Detour:
    ends = (design.by_id[path.giver], design.by_id[path.taker])
    names = {p.id: p.name for p in design.places}
    places = (names.get(str(ends[0].place), "?"), names.get(str(ends[1].place), "?"))
    cables = [design.cables_by_id[c] for c in path.cables]
    kg = sum(COPPER_KG_PER_M_MM2 * c.area_mm2 * c.length_m for c in cables)
    prices = [_price(stock, c.gauge, c.length_m) for c in cables]
    thinnest = min(cables, key=lambda c: c.area_mm2) if cables else None
    as_run = Way(
        kind="as_run",
        words=f"{len(cables)} cables, switches and fuses between; the thinnest is shown",
        length_m=path.length_m,
        gauge=thinnest.gauge if thinnest else "",
        drop_v=path.drop_v,
        drop_percent=path.drop_percent,
        copper_kg=kg,
        price=None if None in prices else sum(p for p in prices if p is not None),
    )
    one_way = _direct_m(survey, design, path)
    if one_way is None:
        missing = f"the run between {places[0]} and {places[1]} (stage Survey)"
        return Detour(path.id, path.name, *places, (as_run,), missing)
    # A charging cable has no switch that a hand at the helm would turn.
    kinds = (False,) if path.kind == "charge" else (False, True)
    direct = [_way(design, stock, path, one_way, remote=remote) for remote in kinds]
    return Detour(path.id, path.name, *places, (as_run, *(w for w in direct if w)), None)


def _direct_m(survey: Survey | None, design: Design, path: Path) -> float | None:
    """Length one way [m] between the places of the ends; both in one place is a metre."""
    giver = design.by_id[path.giver].place
    taker = design.by_id[path.taker].place
    if giver is None or taker is None:
        return None
    tails = {p.id: p.tail_m for p in design.places}
    ends = tails.get(giver, 0.3) + tails.get(taker, 0.3)
    if giver == taker:
        return 1.0 + ends
    runs = survey.run_lengths_m if survey else {}
    measured = runs.get(frozenset((giver, taker)))
    return None if measured is None else measured + ends


def _way(design: Design, stock: Stock, path: Path, one_way_m: float, *, remote: bool) -> Way | None:
    """The thinnest direct run that carries the current and keeps the limit.

    For the same current as the path that is run: a starter's whole one, for as long as it cranks,
    or what a load takes for good. With a fuse, and a contact where remote.
    """
    contacts_v = DEVICE_V * (2 if remote else 1)
    ends_v = 4 * design.termination_mohm / 1000 * path.current_a
    length_m = 2 * one_way_m
    for size in stock.by_area:
        drop_v = ohm_per_m(design, size.area_mm2) * length_m * path.current_a + ends_v + contacts_v
        if drop_v <= path.limit_v and _carries(size, path):
            break
    else:
        return None
    kg = COPPER_KG_PER_M_MM2 * size.area_mm2 * length_m
    price = _price(stock, size.gauge, length_m)
    words = "a direct run of its own, fused at the bank"
    if remote:
        words = f"a remote switch at the bank; two thin wires ({COIL_A:g} A) to the helm"
        kg += COPPER_KG_PER_M_MM2 * CONTROL_MM2 * path.length_m
    return Way(
        kind="remote_switch" if remote else "direct",
        words=words,
        length_m=length_m,
        gauge=size.gauge,
        drop_v=drop_v,
        drop_percent=100 * drop_v / path.nominal_v,
        copper_kg=kg,
        price=price,
    )


def _carries(size: StockCable, path: Path) -> bool:
    """Whether a new cable of a size carries a path's current, and is no thinner than allowed."""
    if size.area_mm2 < least_mm2("abyc", sheathed=False):
        return False
    if path.kind == "cranking":
        return cranks_a(size.area_mm2) >= path.current_a
    row = size_in_table(size.gauge, size.area_mm2, "abyc")
    return base_ampacity_a(row, size.insulation_c) >= path.current_a


def _price(stock: Stock, gauge: str, length_m: float) -> float | None:
    per_m = next((s.price_per_m for s in stock.cables if s.gauge == gauge), None)
    return None if per_m is None else per_m * length_m
