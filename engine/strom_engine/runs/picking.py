"""Picks devices from stock: the rating that a current needs, the fault that must be broken."""

from __future__ import annotations

from dataclasses import dataclass

from strom_engine.design import (
    AddPart,
    Bank,
    Cable,
    Design,
)
from strom_engine.design.choices import CableEnd
from strom_engine.design.edits import put_device
from strom_engine.reference import breaker_class_a, chemistry, device_named
from strom_engine.runs.allowed_current import (
    Standard,
    allowed_current,
    in_engine_space,
    most_rating_a,
)
from strom_engine.runs.currents import DesignCurrent, design_currents, device_currents
from strom_engine.runs.devices import highest_v
from strom_engine.runs.faults import fault_currents
from strom_engine.runs.guarding import guarding
from strom_engine.runs.stock import Stock
from strom_engine.runs.wiring import part_of, wiring

__all__ = [
    "CONTINUOUS_SHARE",
    "CRANK_MULTIPLE",
    "LITHIUM_INTERRUPT_A",
    "MARGIN",
    "NOMINAL_TO_RESTING",
    "DevicePick",
    "branch_device",
    "needed_rating_a",
    "pick_device",
    "wanted_rating_a",
]

CONTINUOUS_SHARE = 0.8  # of its rating a device carries for long (makers' data of fuses)
CRANK_MULTIPLE = 1.6  # a slow fuse holds this for a long crank; table opening_time
LITHIUM_INTERRUPT_A = 20000.0  # class T or equal (ABYC E-13)
NOMINAL_TO_RESTING = 14 / 12  # devices are listed at 14 and 28 V for 12 and 24 V systems
COSTLIEST = "class_t"  # taken only where no other type breaks the fault
MARGIN = 1.05  # currents rise a little when cables are made thicker


@dataclass(frozen=True)
class DevicePick:
    """A device from stock: type and rating [A]."""

    device: str
    rating_a: float


def wanted_rating_a(design: Design, device: str) -> float:
    """The least rating [A] for what passes a device: for hours, for minutes, in a long crank."""
    lasting, brief_a = device_currents(design, device)
    return needed_rating_a(lasting, brief_a)


def needed_rating_a(current: DesignCurrent | None, brief_a: float) -> float:
    """The least rating [A] for a current, with a margin for what other sizes will make of it."""
    if current is None:
        return brief_a / CRANK_MULTIPLE
    through = max(current.lasting_a / CONTINUOUS_SHARE, current.amps)
    return MARGIN * max(through, brief_a / CRANK_MULTIPLE)


def pick_device(
    design: Design,
    stock: Stock,
    post: str,
    least_a: float,
    *,
    fuses_only: bool = True,
    able: bool = False,
    breaks_a: float = 0.0,
) -> DevicePick | None:
    """The smallest device in stock of at least a rating that stands the volts and the fault there.

    ``post`` is where it is fed, ``breaks_a`` what it must interrupt at least [A]. Where nothing
    breaks that fault, what breaks most of it is taken, unless it must be ``able``. None where
    the stock has none.
    """
    fault_a = max(breaks_a, _must_break_a(design, post))
    volts = design.system_v * NOMINAL_TO_RESTING
    picks: list[tuple[float, bool, float, int, DevicePick]] = []
    for n, kept in enumerate(stock.devices):
        kind = device_named(kept.device)
        if kind.max_v < highest_v(design) or (fuses_only and kind.sort != "fuse"):
            continue
        rating = min((r for r in kept.ratings_a if r >= least_a - 1e-9), default=None)
        if rating is not None:
            breaks = kind.interrupts_a(volts) or 0.0
            short = breaks < fault_a
            if short and able:
                continue
            # Where nothing breaks the fault, what breaks most of it.
            missing_a = fault_a - breaks if short else 0.0
            dear = kept.device == COSTLIEST
            picks.append((missing_a, dear, rating, n, DevicePick(kept.device, rating)))
    return min(picks, key=lambda p: p[:4])[4] if picks else None


def _must_break_a(design: Design, post: str) -> float:
    """What a device at a post must interrupt [A]: the fault there, and what its banks ask for.

    Lithium asks for class T or equal, lead for the class of its cold cranking amps (ABYC E-11).
    """
    reach = guarding(design).at_post
    banks = [b for b in design.of_type(Bank) if post in reach[b.id]]
    fault = fault_currents(design).get(post)
    need = fault.amps if fault else 0.0
    if any(chemistry(b.chemistry).family == "lithium" for b in banks):
        return max(need, LITHIUM_INTERRUPT_A)
    cca = [b.cca_a for b in banks if b.cca_a is not None]
    return max(need, breaker_class_a(sum(cca), main=True)) if cca else need


def branch_device(design: Design, cable: Cable, stock: Stock, standard: Standard) -> AddPart | None:
    """A device of its own for a cable that leaves a fork behind a device too large for it.

    None where the device is not too large, or is no larger than the cable's own current asks for.
    """
    every = guarding(design).guards.get(cable.id, ())
    guards = [g for g in every if g.device is not None and not any(e.cranking for e in every)]
    guard = max(guards, key=lambda g: g.rating_a, default=None)
    if guard is None or not _forks(design, guard.fed_at):
        return None
    hot = in_engine_space(design, cable)
    most = most_rating_a(allowed_current(cable, engine_space=hot, standard=standard).amps)
    current = design_currents(design)[cable.id]
    least = needed_rating_a(current, current.brief_a)
    if guard.rating_a <= most + 1e-9 or least > 0.8 * guard.rating_a:
        return None
    pick = pick_device(design, stock, guard.fed_at, least)
    if pick is None or pick.rating_a >= guard.rating_a:
        return None
    end: CableEnd = "start" if cable.start == guard.fed_at else "end"
    return put_device(design, cable.id, end, pick.device, pick.rating_a)


def _forks(design: Design, post: str) -> bool:
    """Whether more than one way leads on from a post."""
    wires = wiring(design)
    return len(wires.on_post[post]) > 1 or design.by_id[part_of(post)].facts.forks
