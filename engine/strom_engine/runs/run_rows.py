"""The stage Runs as a table: one row a run, out and back, with every number and its working."""

from __future__ import annotations

from dataclasses import dataclass
from functools import lru_cache
from typing import Literal

from strom_engine.circuit.network import cable_resistance_ohm
from strom_engine.design import Bank, Cable, Design, LoadGroup
from strom_engine.design.fields import PostRef
from strom_engine.reference import bend_radius_mm, stud_torque, usual_stud
from strom_engine.runs.allowed_current import (
    Allowed,
    Standard,
    allowed_current,
    in_engine_space,
)
from strom_engine.runs.conductor_heat import conductor_heat
from strom_engine.runs.currents import DesignCurrent, design_currents
from strom_engine.runs.devices import Protector, protectors
from strom_engine.runs.guarding import Cover, cover
from strom_engine.runs.legs import Leg, legs
from strom_engine.runs.load_cases import low_strains
from strom_engine.runs.negatives import negative_too_thin
from strom_engine.runs.paths import Path, paths_over
from strom_engine.runs.sizes import Wanted, by_ampacity, by_drop, cranks_a, overloads
from strom_engine.runs.stock import Stock, default_stock
from strom_engine.runs.wiring import part_of, wiring
from strom_engine.runs.workings import Working, workings

__all__ = ["LegRow", "LugRow", "RunRow", "Working", "run_rows"]

COPPER_KG_PER_M_MM2 = 0.00896  # 8.96 g/cm3


@dataclass(frozen=True)
class LugRow:
    """The end of a cable: post, stud there, whether that is known, and the ring hole it needs."""

    post: str
    stud: str
    assumed: bool
    lug: str
    hole_mm: float | None
    torque: str


@dataclass(frozen=True)
class LegRow:
    """One cable of a run; ``bend_mm`` is the least inside radius of its bends."""

    cable: str
    side: Literal["out", "back"]
    start: str
    end: str
    gauge: str
    area_mm2: float
    insulation_c: int
    length_m: float
    measured: bool
    engine_space: bool
    sheathed: bool
    bundled: int
    locked: bool
    allowed_a: float
    drop_v: float
    colour: str
    label: str
    lugs: tuple[LugRow, ...]
    copper_kg: float
    bend_mm: float
    price: float | None


@dataclass(frozen=True)
class RunRow:
    """A run: its cables, what it carries and may lose, what it is made of and protected by.

    ``copper_c`` is how warm it gets with what flows for hours. ``drop_v`` is its own, at the
    design current; ``path_percent`` that of the worst whole path over it against
    ``limit_percent``. ``device_m`` is None where no device protects it.
    """

    id: str
    name: str
    purpose: str
    legs: tuple[LegRow, ...]
    length_m: float
    measured: bool
    current_a: float
    current_from: str
    brief_a: float
    allowed_a: float
    copper_c: float | None
    confidence: str
    path_v: float | None
    limit_v: float | None
    limit_percent: float | None
    limit_why: str
    by_ampacity: str | None
    by_drop: str | None
    gauge: str
    drop_v: float
    drop_percent: float
    path: str | None
    path_percent: float | None
    load_v: float | None
    device: str | None
    device_name: str
    device_type: str
    device_a: float | None
    device_m: float | None
    device_place: str
    interrupt_a: float | None
    fault_a: float | None
    exempt: bool
    locked: bool
    copper_kg: float
    verdict: Literal["good", "weak", "bad"]
    wrong: tuple[str, ...]
    working: tuple[Working, ...]


@lru_cache(maxsize=32)
def run_rows(
    design: Design, standard: Standard = "abyc", stock: Stock | None = None
) -> tuple[RunRow, ...]:
    """Every run of a design as surveyed, in document order."""
    kept = stock or default_stock()
    return tuple(_row(design, leg, n, standard, kept) for n, leg in enumerate(legs(design), 1))


def _row(design: Design, leg: Leg, number: int, standard: Standard, stock: Stock) -> RunRow:
    key = leg.key
    current = max((design_currents(design)[c.id] for c in leg.cables), key=lambda d: d.amps)
    sides: list[tuple[Literal["out", "back"], Cable]] = []
    if leg.out:
        sides.append(("out", leg.out))
    if leg.back:
        sides.append(("back", leg.back))
    allowed = {c.id: _allowed(design, c, standard) for c in leg.cables}
    least = min(allowed.values(), key=lambda a: a.amps)
    by_cable = paths_over(design)
    over = list({p.id: p for c in leg.cables for p in by_cable.get(c.id, ())}.values())
    path = max(over, key=lambda p: p.drop_v / p.limit_v, default=None)
    drop_v = sum(current.amps * cable_resistance_ohm(design, c) for c in leg.cables)
    guard = cover(design, leg.out.id) if leg.out else None
    device = protectors(design).get(guard.device) if guard and guard.device else None
    brief_a = max(design_currents(design)[c.id].brief_a for c in leg.cables)
    wanted = Wanted(current, device.rating_a if device else None, standard)
    sized = [by_ampacity(design, c, wanted, stock) for c in leg.cables]
    ampacity = max((s for s in sized if s), key=lambda s: s.area_mm2, default=None)
    dropped = by_drop(design, leg.cables, stock) if over else None
    wrong = tuple(_wrong(current, least, path, guard, leg, standard))
    if negative_too_thin(design, leg, standard):
        wrong += ("its negative is thinner than its positive, and too thin",)
    rows = tuple(
        _leg_row(design, c, side, number, allowed[c.id], current, stock) for side, c in sides
    )
    return RunRow(
        id=key.id,
        name=design.cable_name(key),
        purpose=_purpose(design, leg, path),
        legs=rows,
        length_m=sum(c.length_m for c in leg.cables),
        measured=not any(c.estimated for c in leg.cables),
        current_a=current.amps,
        current_from=current.origin,
        brief_a=brief_a,
        allowed_a=least.amps,
        copper_c=_copper_c(current, list(allowed.values())),
        confidence=least.confidence,
        path_v=path.drop_v if path else None,
        limit_v=path.limit_v if path else None,
        limit_percent=path.limit_percent if path else None,
        limit_why=path.why if path else "no load and no source at its end",
        by_ampacity=ampacity.gauge if ampacity else None,
        by_drop=dropped.gauge if dropped else None,
        gauge=key.gauge,
        drop_v=drop_v,
        drop_percent=100 * drop_v / (path.nominal_v if path else design.system_v),
        path=path.id if path else None,
        path_percent=path.drop_percent if path else None,
        load_v=_load_v(design, over),
        device=device.id if device else None,
        device_name=device.name if device else "",
        device_type=device.label if device else "",
        device_a=device.rating_a if device else None,
        device_m=guard.device_m if guard else None,
        device_place=_place(design, device),
        interrupt_a=device.interrupt_a if device else None,
        fault_a=device.fault_a if device else None,
        exempt=bool(guard and guard.state == "exempt"),
        locked=any(c.locked for c in leg.cables),
        copper_kg=sum(r.copper_kg for r in rows),
        verdict="bad" if wrong else "weak" if least.confidence == "low" else "good",
        wrong=wrong,
        working=tuple(workings(design, leg, current, allowed, path, drop_v, device)),
    )


def _copper_c(current: DesignCurrent, allowed: list[Allowed]) -> float | None:
    """The warmest copper of a run in the long run [degC]; None where one may carry nothing."""
    heats = [conductor_heat(current.lasting_a, one) for one in allowed]
    return max(h.copper_c for h in heats if h) if all(heats) else None


def _allowed(design: Design, cable: Cable, standard: Standard) -> Allowed:
    return allowed_current(cable, engine_space=in_engine_space(design, cable), standard=standard)


def _purpose(design: Design, leg: Leg, path: Path | None) -> str:
    if leg.key.purpose == "sense":
        return "sense lead"
    exempt = wiring(design).cranking_cables()
    if any(c.id in exempt for c in leg.cables):
        return "cranking"
    if path is None:
        return "negative" if leg.out is None else "joins"
    return {"supply": "supply", "charge": "charging", "cranking": "cranking"}[path.kind]


def _load_v(design: Design, over: list[Path]) -> float | None:
    """Volts [V] at the load that has least, its bank at its low end."""
    loads = {p.taker for p in over if p.kind == "supply"}
    found = [
        volts
        for load_case in low_strains(design)
        for name in loads
        if isinstance(design.by_id[name], LoadGroup)
        and (volts := load_case.point.loads[name].volts_v) is not None
    ]
    return min(found, default=None)


def _place(design: Design, device: Protector | None) -> str:
    place = next((p for p in design.places if device and p.id == device.place), None)
    return place.name if place else ""


def _wrong(
    current: DesignCurrent,
    allowed: Allowed,
    path: Path | None,
    guard: Cover | None,
    leg: Leg,
    standard: Standard,
) -> list[str]:
    found = []
    if current.lasting_a > allowed.amps:
        found.append(f"{current.lasting_a:.0f} A flow, {allowed.amps:.0f} A are allowed")
    elif overloads(current, allowed):
        found.append(
            f"{current.amps:.0f} A flow for minutes, {allowed.short_a:.0f} A are allowed so long"
        )
    thin = min(cranks_a(c.area_mm2) for c in leg.cables)
    if current.brief_a > thin:
        found.append(f"{current.brief_a:.0f} A flow while cranking, it stands {thin:.0f} A")
    if path and not path.kept:
        lost = f"{path.drop_percent:.1f} %, {path.limit_percent:.1f} % are allowed"
        if path.kind == "cranking":
            lost = f"{path.drop_v:.2f} V, {path.limit_v:.2f} V are allowed"
        found.append(f"{path.name} loses {lost}")
    if guard and guard.state == "none":
        found.append("no device protects it from a bank")
    root = guard.root if guard and guard.state == "far" else None
    if guard and guard.device_m and root and root.far(standard):
        found.append(
            f"its device is {guard.device_m:.2f} m from the source, "
            f"{root.limit_of(standard):g} m are allowed"
        )
    return found


def _leg_row(
    design: Design,
    cable: Cable,
    side: Literal["out", "back"],
    number: int,
    allowed: Allowed,
    current: DesignCurrent,
    stock: Stock,
) -> LegRow:
    price = next((s.price_per_m for s in stock.cables if s.gauge == cable.gauge), None)
    return LegRow(
        cable=cable.id,
        side=side,
        start=design.post_name(cable.start),
        end=design.post_name(cable.end),
        gauge=cable.gauge,
        area_mm2=cable.area_mm2,
        insulation_c=cable.insulation_c,
        length_m=cable.length_m,
        measured=not cable.estimated,
        engine_space=in_engine_space(design, cable),
        sheathed=cable.sheathed,
        bundled=cable.bundled,
        locked=cable.locked,
        allowed_a=allowed.amps,
        drop_v=current.amps * cable_resistance_ohm(design, cable),
        colour=cable.colour or ("red" if side == "out" else "black"),
        label=cable.label or f"{number:03d}{'+' if side == 'out' else '−'}",
        lugs=(_lug(design, cable, cable.start), _lug(design, cable, cable.end)),
        copper_kg=COPPER_KG_PER_M_MM2 * cable.area_mm2 * cable.length_m,
        bend_mm=bend_radius_mm(cable.gauge, cable.area_mm2),
        price=None if price is None else price * cable.length_m,
    )


def _lug(design: Design, cable: Cable, ref: str) -> LugRow:
    part = design.by_id[part_of(ref)]
    stud = part.stud or usual_stud(part.kind, PostRef(ref).post)
    lug = (cable.start_lug if ref == cable.start else cable.end_lug) or stud
    torque = stud_torque(stud, battery=isinstance(part, Bank))
    told = ""
    if torque and torque.least_nm is not None:
        told = f"{torque.least_nm:g} to {torque.most_nm:g} N m"
    return LugRow(
        post=design.post_name(ref),
        stud=stud,
        assumed=part.stud is None,
        lug=lug,
        hole_mm=torque.ring_hole_mm if torque else None,
        torque=told,
    )
