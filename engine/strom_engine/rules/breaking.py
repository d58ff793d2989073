"""Rules about what devices must break and hold: OC-5, OC-10, OC-11."""

from __future__ import annotations

from collections.abc import Iterator

from strom_engine.design import (
    Bank,
    FuseBlock,
)
from strom_engine.reference import breaker_class_a, opening_s
from strom_engine.rules.context import Context, is_lithium
from strom_engine.rules.device_finding import device_finding
from strom_engine.rules.finding import CONFIRM, Figure, Finding, Rule, Severity
from strom_engine.runs.devices import Protector, highest_v, protectors
from strom_engine.runs.guarding import guarding, rungs_above
from strom_engine.runs.picking import (
    LITHIUM_INTERRUPT_A,
    NOMINAL_TO_RESTING,
)
from strom_engine.runs.repairs import back_up, rate, retype

__all__ = ["RULES"]

LONG_CRANK_S = 15.0  # a cold engine is cranked this long before one gives up; own judgement
SMALL_A = 40.0  # the thin cable behind a small fuse soon limits the fault; own judgement

OC5 = Rule(
    "OC-5",
    "A device can break the fault current where it stands",
    "Interrupting rating against the computed fault current, and against the class that the banks' "
    "cold cranking amps ask for; class T or equal on lithium.",
    f"ABYC E-11, interrupting capacity; ABYC E-13 for lithium; {CONFIRM}",
    (Figure("On lithium", LITHIUM_INTERRUPT_A, "A"),),
)
OC10 = Rule(
    "OC-10",
    "A fused cranking cable holds through a long crank",
    "Cranking current over the rating, and the shortest time in which a slow fuse opens at that.",
    f"Makers' time-current curves, lower edge; ABYC E-11 exempts cranking conductors; {CONFIRM}",
    (Figure("Long crank", LONG_CRANK_S, "s"),),
)
OC11 = Rule(
    "OC-11",
    "A device is made for the voltage of the system",
    "The voltage limit of every device against the highest voltage it meets while charging.",
    f"ABYC E-11; the listing of the device in hand; {CONFIRM}",
)


def interrupting(context: Context) -> Iterator[Finding]:
    """OC-5: interrupting ratings."""
    for one in protectors(context.design).values():
        banks = [
            b
            for b in context.banks
            if f"{one.part}.a" in guarding(context.design).at_post[b.id]
            or f"{one.part}.in" in guarding(context.design).at_post[b.id]
        ]
        if not banks:
            continue
        banks = [b for b in banks if not _backed(context, one, b)]
        if banks and one.interrupt_a is None:
            yield _not_known(one)
            continue
        if banks:
            yield from _too_weak(context, one, banks)


def _backed(context: Context, one: Protector, bank: Bank) -> bool:
    """Whether a device between a bank and this one breaks the fault for it."""
    devices = protectors(context.design)
    need = max(one.fault_a, LITHIUM_INTERRUPT_A if is_lithium(bank) else 0.0)
    found = guarding(context.design)
    if one.id not in found.above[bank.id]:
        return False
    upper = rungs_above(found, bank.id, one.id)[1:]
    return any((devices[d].interrupt_a or 0.0) >= need for d in upper)


def _not_known(one: Protector) -> Finding:
    return device_finding(
        OC5,
        one,
        "cannot_tell",
        f"Whether {one.name} can break the fault current is not known",
        (f"Fault current there: {one.fault_a:.0f} A; the type of {one.name} is not known.",),
        figures=(Figure("Fault current", one.fault_a, "A"),),
        limit=f"{one.fault_a:.0f} A",
        why="A device that cannot break the fault burns on as an arc.",
        repair="Read its type and its interrupting rating on the part.",
        missing=f"The type of {one.name}: look at it; enter it at the part or on the stage Runs.",
    )


def _too_weak(context: Context, one: Protector, banks: list[Bank]) -> Iterator[Finding]:
    lithium = any(is_lithium(b) for b in banks)
    nearest = guarding(context.design)
    main = any(nearest.above[b.id].get(one.id, "") is None for b in banks)
    cca = [b.cca_a for b in banks if not is_lithium(b)]
    lines = list(one.fault_working)
    need: float | None = None
    if lithium:
        need = LITHIUM_INTERRUPT_A
        lines.append(f"On lithium class T or equal: {need:.0f} A.")
    elif cca and None not in cca:
        total = sum(c for c in cca if c is not None)
        need = breaker_class_a(total, main=main)
        where = "main" if main else "branch"
        lines.append(f"{total:.0f} A CCA behind it, {where}: {need:.0f} A are asked for.")
    able = one.interrupt_a or 0.0
    lines.append(f"{one.name}, {one.label}: {able:.0f} A; computed {one.fault_a:.0f} A.")
    small = one.rating_a <= SMALL_A
    if need is not None and able < need:
        severity: Severity = "caution" if small else "fault"
    elif able < one.fault_a:
        severity = "caution"
    else:
        return
    asked = max(need or 0.0, one.fault_a if severity == "caution" else 0.0)
    yield device_finding(
        OC5,
        one,
        severity,
        f"{one.name} breaks {able:.0f} A, {asked:.0f} A can flow there",
        tuple(lines),
        figures=(Figure("Breaks", able, "A"), Figure("Fault current", one.fault_a, "A")),
        limit=f"{asked:.0f} A at {context.design.system_v * NOMINAL_TO_RESTING:.0f} V",
        why="A device that cannot break the fault burns on as an arc.",
        repair="A type with a higher interrupting rating, or such a one before it.",
        change=retype(context.design, one, context.stock, asked)
        or back_up(context.design, one, context.stock, context.standard, asked),
    )


def fused_cranking(context: Context) -> Iterator[Finding]:
    """OC-10: fuses in cranking cables."""
    for one in protectors(context.design).values():
        if one.brief_a < 1 or isinstance(context.design.by_id[one.part], FuseBlock):
            continue
        multiple = one.brief_a / one.rating_a
        seconds = opening_s(multiple)
        if seconds is None or seconds >= LONG_CRANK_S:
            continue
        yield device_finding(
            OC10,
            one,
            "fault" if seconds < LONG_CRANK_S / 3 else "caution",
            f"{one.name} may open in a crank of {seconds:.1f} s",
            (
                f"Cranking {one.brief_a:.0f} A / {one.rating_a:g} A = {multiple:.1f} times its "
                f"rating; a slow one opens from {seconds:.1f} s on; a long crank lasts "
                f"{LONG_CRANK_S:g} s.",
            ),
            figures=(Figure("Cranking", one.brief_a, "A"), Figure("Opens from", seconds, "s")),
            limit=f"{LONG_CRANK_S:g} s",
            why="The engine is hard to start, and then there is no current at all.",
            repair="A larger fuse with cables that bear it, or none: cranking cables are exempt.",
            change=rate(context.design, one, context.stock, context.standard),
        )


def voltage_limit(context: Context) -> Iterator[Finding]:
    """OC-11: devices made for less than the system's voltage."""
    most_v = highest_v(context.design)
    for one in protectors(context.design).values():
        if one.type is None or one.type.max_v >= most_v:
            continue
        yield device_finding(
            OC11,
            one,
            "fault",
            f"{one.name}, {one.label}, is made for {one.type.max_v:g} V",
            (
                f"{context.design.system_v} V system, charged at up to {most_v:g} V; "
                f"{one.label}: {one.type.max_v:g} V.",
            ),
            figures=(Figure("Limit", one.type.max_v, "V"), Figure("Meets", most_v, "V")),
            limit=f"{most_v:g} V",
            why="Above its voltage a device does not put out the arc that it draws.",
            repair="A type made for this voltage.",
            change=retype(context.design, one, context.stock),
        )


RULES = ((OC5, interrupting), (OC10, fused_cranking), (OC11, voltage_limit))
