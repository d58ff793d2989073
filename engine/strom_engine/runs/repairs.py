"""Repairs of single faults, as changes: a device put in or changed, a cable thicker."""

from __future__ import annotations

from functools import lru_cache

from strom_engine.design import (
    AddPart,
    Cable,
    CableFields,
    Design,
    FuseBlock,
    OneChange,
    SetCables,
    SetPart,
    Several,
    apply_change,
)
from strom_engine.design.choices import CableEnd
from strom_engine.design.edits import put_device
from strom_engine.design.fields import Scalar
from strom_engine.reference import device_named
from strom_engine.runs.allowed_current import (
    Standard,
    allowed_current,
    in_engine_space,
    most_rating_a,
)
from strom_engine.runs.currents import design_currents
from strom_engine.runs.devices import Protector
from strom_engine.runs.guarding import cover, covers, guarding
from strom_engine.runs.paths import Path
from strom_engine.runs.picking import (
    NOMINAL_TO_RESTING,
    branch_device,
    pick_device,
    wanted_rating_a,
)
from strom_engine.runs.sizes import Wanted, as_stocked, by_ampacity
from strom_engine.runs.sizing_pass import SizingPass
from strom_engine.runs.stock import Stock, StockCable

__all__ = [
    "back_up",
    "guarded_cables",
    "protect",
    "rate",
    "resize",
    "retype",
    "set_sizes",
    "thin_fuse",
    "widen",
]

NOTHING = float("inf")
BACK_UP = 1.5  # a device before a small one is this much larger at least
NEAR_RATING = 1.25  # another type may be this much larger, where its steps are others


def protect(design: Design, cable: str, stock: Stock, standard: Standard) -> OneChange | None:
    """A device put in where an unprotected cable starts, or moved nearer to there."""
    return SizingPass(design, stock, standard, frozenset({cable}), only_weak=True).missing()


def guarded_cables(design: Design, device: str) -> tuple[Cable, ...]:
    """Cables that a device is the protection of."""
    return _guarded(design).get(device, ())


@lru_cache(maxsize=32)
def _guarded(design: Design) -> dict[str, tuple[Cable, ...]]:
    found: dict[str, tuple[Cable, ...]] = {}
    by = covers(design)
    for cable in design.cables:
        one = by[cable.id]
        if cable.purpose == "power" and one and one.device and one.state in ("kept", "far"):
            found[one.device] = (*found.get(one.device, ()), cable)
    return found


def rate(
    design: Design, one: Protector, stock: Stock, standard: Standard, most_a: float = NOTHING
) -> OneChange | Several | None:
    """The rating that a device should have, and thicker cables where they would not bear it.

    A thin cable that leaves a fork behind it gets a device of its own instead.

    ``most_a`` is a limit from elsewhere. None where nothing in stock fits.
    """
    guarded = guarded_cables(design, one.id)
    for cable in guarded:
        branch = None if cable.locked else branch_device(design, cable, stock, standard)
        if branch is not None:
            return branch
    bears = min((_bears_a(design, c, standard) for c in guarded), default=NOTHING)
    least = wanted_rating_a(design, one.id)
    pick = pick_device(design, stock, _fed_at(one), least, fuses_only=one.kind == "fuse")
    if pick is None or pick.rating_a > most_a:
        return None
    rated = _with_rating(design, one, pick.rating_a, pick.device)
    if rated is None or pick.rating_a <= bears:
        return rated
    thin = [c for c in guarded if _bears_a(design, c, standard) < pick.rating_a]
    sizes = [
        by_ampacity(
            design, c, Wanted(design_currents(design)[c.id], pick.rating_a, standard), stock
        )
        for c in thin
    ]
    if any(c.locked for c in thin) or None in sizes:
        return None
    thicker = set_sizes({c.id: s for c, s in zip(thin, sizes, strict=True) if s})
    words = f"{one.name} {pick.rating_a:g} A, and cables that bear it"
    return Several(words=words, changes=(rated, thicker))


def _fed_at(one: Protector) -> str:
    return f"{one.part}.{'in' if '.' in one.id else 'a'}"


def _bears_a(design: Design, cable: Cable, standard: Standard) -> float:
    hot = in_engine_space(design, cable)
    allowed = allowed_current(cable, engine_space=hot, standard=standard).amps
    return most_rating_a(allowed)


def _with_rating(design: Design, one: Protector, rating_a: float, device: str) -> SetPart | None:
    part = design.by_id[one.part]
    if isinstance(part, FuseBlock):
        n = int(one.id.rpartition(".b")[2])
        branches: list[Scalar] = [
            rating_a if i == n else a for i, a in enumerate(part.branch_a, start=1)
        ]
        return SetPart(part=part.id, fields={"branch_a": branches})
    if getattr(part, "rating_a", None) == rating_a and getattr(part, "device", "") == device:
        return None
    kind = "breaker" if device.startswith("breaker") else "fuse"
    if part.kind != kind:
        return None
    return SetPart(part=part.id, fields={"rating_a": rating_a, "device": device})


def retype(design: Design, one: Protector, stock: Stock, breaks_a: float = 0.0) -> SetPart | None:
    """A type that stands the volts and the fault current, at the rating it has or the next.

    Where none breaks that fault, what breaks most of it.
    """
    if "." in one.id:
        return None
    fuse = one.kind == "fuse"
    at, rating_a = _fed_at(one), one.rating_a
    pick = pick_device(
        design, stock, at, rating_a, fuses_only=fuse, able=True, breaks_a=breaks_a
    ) or pick_device(design, stock, at, rating_a, fuses_only=fuse, breaks_a=breaks_a)
    if pick is None or pick.rating_a > NEAR_RATING * rating_a:
        return None
    volts = design.system_v * NOMINAL_TO_RESTING
    breaks = device_named(pick.device).interrupts_a(volts) or 0.0
    if one.interrupt_a is not None and breaks <= one.interrupt_a < breaks_a:
        return None
    return _with_rating(design, one, pick.rating_a, pick.device)


def back_up(
    design: Design, one: Protector, stock: Stock, standard: Standard, breaks_a: float = 0.0
) -> Several | None:
    """A larger device right before a small one, that breaks what the small one cannot.

    The cables between the two are made as thick as the larger one asks for.
    """
    post = _fed_at(one)
    feed = next((c for c in design.cables if post in (c.start, c.end)), None)
    guards = guarding(design).guards.get(feed.id, ()) if feed else ()
    fed_at = next((g.fed_at for g in guards if g.fed_at != post), None)
    if feed is None or fed_at is None:
        return None
    least_a = BACK_UP * one.rating_a
    pick = pick_device(design, stock, fed_at, least_a, able=True, breaks_a=breaks_a)
    if pick is None:
        return None
    end: CableEnd = "start" if feed.start == fed_at else "end"
    put = put_device(design, feed.id, end, pick.device, pick.rating_a)
    after = apply_change(design, put)
    pieces = (after.cables_by_id[name] for name in (feed.id, *(c.id for c in put.cables)))
    thicker = [change for c in pieces if (change := resize(after, c, stock, standard))]
    words = f"Put in {put.part.name}, {pick.rating_a:g} A, before {one.name}"
    return Several(words=words, changes=(put, *thicker))


def thin_fuse(design: Design, cable: Cable, fed_at: str, rating_a: float) -> AddPart:
    """A small fuse where a thin lead leaves."""
    end: CableEnd = "start" if cable.start == fed_at else "end"
    return put_device(design, cable.id, end, "blade_regular", rating_a)


def resize(design: Design, cable: Cable, stock: Stock, standard: Standard) -> SetCables | None:
    """The thinnest in stock that carries a cable's current behind its device."""
    if cable.locked:
        return None
    by = cover(design, cable.id)
    rating = None
    if by is not None and by.device is not None:
        part, _, branch = by.device.partition(".")
        holder = design.by_id[part]
        rating = (
            holder.branch_a[int(branch[1:]) - 1]
            if isinstance(holder, FuseBlock)
            else getattr(holder, "rating_a", None)
        )
    one = design_currents(design)[cable.id]
    size = by_ampacity(design, cable, Wanted(one, rating, standard), stock)
    size = size or by_ampacity(design, cable, Wanted(one, None, standard), stock)
    if size is None or as_stocked(cable, size) == cable:
        return None
    return set_sizes({cable.id: size})


def set_sizes(sizes: dict[str, StockCable]) -> SetCables:
    """Cables of other sizes."""
    return SetCables(
        rows=tuple(
            CableFields(
                cable=name,
                fields={
                    "gauge": size.gauge,
                    "copper_mm2": size.copper_mm2,
                    "insulation_c": size.insulation_c,
                },
            )
            for name, size in sizes.items()
        )
    )


@lru_cache(maxsize=256)
def widen(design: Design, path: Path, stock: Stock, standard: Standard) -> SetCables | None:
    """Thicker cables on a path until it keeps its limit; None where thickness hardly helps."""
    step = SizingPass(design, stock, standard, frozenset(path.cables), only_weak=True)
    return step.widened(path)
