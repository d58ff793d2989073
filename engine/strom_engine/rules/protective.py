"""Rules about the devices themselves: OC-2, OC-3, OC-5, OC-6, OC-8, OC-9, OC-10, OC-11."""

from __future__ import annotations

from collections.abc import Iterator

from strom_engine.design import (
    Bank,
    BusBar,
    FuseBlock,
    LoadGroup,
    LoadItem,
)
from strom_engine.reference import breaker_class_a, chemistry, opening_s
from strom_engine.rules.context import Context
from strom_engine.rules.finding import CONFIRM, Figure, Finding, Rule, Severity
from strom_engine.runs.ampacity import NEXT_STEP_SHARE, most_rating_a
from strom_engine.runs.choosing import (
    CONTINUOUS_SHARE,
    LITHIUM_INTERRUPT_A,
    NOMINAL_TO_RESTING,
)
from strom_engine.runs.currents import device_currents
from strom_engine.runs.devices import Protector, highest_v, protectors
from strom_engine.runs.guarding import guarding, rungs_above
from strom_engine.runs.ladder import ladders
from strom_engine.runs.repairs import back_up, guarded_cables, rate, retype

__all__ = ["RULES"]

LONG_CRANK_S = 15.0  # a cold engine is cranked this long before one gives up; own judgement
SMALL_A = 40.0  # the thin cable behind a small fuse soon limits the fault; own judgement
RATED_PARTS = ("switch", "selector", "dual_switch", "relay", "isolator", "protection", "bus_bar")

OC2 = Rule(
    "OC-2",
    "A device is not larger than the cables behind it allow",
    "Rating of every device against the allowable current of every cable it protects; the next "
    "standard step is taken where no step is the ampacity itself.",
    f"ABYC E-11, rating of overcurrent protection; {CONFIRM}",
    (Figure("Next step up to", 100 * NEXT_STEP_SHARE, "% of the ampacity"),),
)
OC3 = Rule(
    "OC-3",
    "A device carries its real current with a margin",
    "What passes every device for hours against 80 % of its rating, and for minutes against all "
    "of it.",
    f"ABYC E-11; makers' data; {CONFIRM}",
    (Figure("For hours", 100 * CONTINUOUS_SHARE, "% of the rating"),),
)
OC5 = Rule(
    "OC-5",
    "A device can break the fault current where it stands",
    "Interrupting rating against the computed fault current, and against the class that the banks' "
    "cold cranking amps ask for; class T or equal on lithium.",
    f"ABYC E-11, interrupting capacity; ABYC E-13 for lithium; {CONFIRM}",
    (Figure("On lithium", LITHIUM_INTERRUPT_A, "A"),),
)
OC6 = Rule(
    "OC-6",
    "The device nearest to a fault opens first",
    "Ratings of devices in series: each smaller than the one above it.",
    f"Trade practice; makers' curves; {CONFIRM}",
)
OC8 = Rule(
    "OC-8",
    "A device protects the gear it feeds",
    "Rating of the device before every relay, switch, isolator and bar against what that is made "
    "for.",
    f"ABYC E-11; makers' manuals; {CONFIRM}",
)
OC9 = Rule(
    "OC-9",
    "A bilge pump has the fuse its maker asks for",
    "The device before every bilge pump against the pump's own figure, not the wire's.",
    f"ABYC H-22, electric bilge pumps; makers' manuals; {CONFIRM}",
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


def _finding(
    rule: Rule,
    one: Protector,
    severity: Severity,
    title: str,
    lines: tuple[str, ...],
    **more: object,
) -> Finding:
    fields: dict[str, object] = {
        "figures": (Figure("Rating", one.rating_a, "A"),),
        "parts": (one.part,),
        "about": one.id.partition(".")[2],
        "source": rule.source,
    }
    return Finding(
        rule=rule.id,
        severity=severity,
        title=title,
        arithmetic=lines,
        **(fields | more),  # type: ignore[arg-type]
    )


def against_cables(context: Context) -> Iterator[Finding]:
    """OC-2: devices larger than what they protect."""
    for one in protectors(context.design).values():
        weak = [
            (most_rating_a(allowed.amps), cable, allowed)
            for cable in guarded_cables(context.design, one.id)
            for allowed in (context.allowed(cable),)
            if most_rating_a(allowed.amps) < one.rating_a - 1e-9
        ]
        if not weak:
            continue
        most, cable, allowed = min(weak, key=lambda w: w[0])
        name = context.design.cable_name(cable)
        yield _finding(
            OC2,
            one,
            "fault",
            f"{one.name}, {one.rating_a:g} A, is too large for {name}",
            (
                *allowed.working,
                f"{name}: allowed {allowed.amps:.0f} A; largest device {most:.0f} A; {one.name} "
                f"has {one.rating_a:g} A.",
            ),
            figures=(Figure("Rating", one.rating_a, "A"), Figure("Allowed", most, "A")),
            limit=f"{most:.0f} A",
            why="The cable burns before the device opens.",
            repair="A smaller device where the current allows it, else a thicker cable.",
            change=rate(context.design, one, context.stock, context.standard),
        )


def against_current(context: Context) -> Iterator[Finding]:
    """OC-3: what passes a device for long."""
    for one in protectors(context.design).values():
        current, _ = device_currents(context.design, one.id)
        if current is None:
            continue
        hours_a = CONTINUOUS_SHARE * one.rating_a
        if current.amps <= one.rating_a + 1e-9 and current.lasting_a <= hours_a + 1e-9:
            continue
        over = current.amps > one.rating_a
        yield _finding(
            OC3,
            one,
            "fault" if over else "caution",
            f"{one.name}, {one.rating_a:g} A, carries {current.amps:.0f} A"
            if over
            else f"{one.name}, {one.rating_a:g} A, carries {current.lasting_a:.0f} A for hours",
            (
                *current.working,
                f"For hours {CONTINUOUS_SHARE:.0%} of {one.rating_a:g} A = {hours_a:.0f} A.",
            ),
            figures=(Figure("Passes", current.amps, "A"), Figure("Rating", one.rating_a, "A")),
            limit=f"{hours_a:.0f} A for hours, {one.rating_a:g} A at all",
            why="It opens while nothing is wrong, and takes its circuit with it.",
            repair="A larger device, with cables that bear it.",
            change=rate(context.design, one, context.stock, context.standard),
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
    need = max(one.fault_a, LITHIUM_INTERRUPT_A if _is_lithium(bank) else 0.0)
    found = guarding(context.design)
    if one.id not in found.above[bank.id]:
        return False
    upper = rungs_above(found, bank.id, one.id)[1:]
    return any((devices[d].interrupt_a or 0.0) >= need for d in upper)


def _is_lithium(bank: Bank) -> bool:
    return chemistry(bank.chemistry).family == "lithium"


def _not_known(one: Protector) -> Finding:
    return _finding(
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
    lithium = any(_is_lithium(b) for b in banks)
    nearest = guarding(context.design)
    main = any(nearest.above[b.id].get(one.id, "") is None for b in banks)
    cca = [b.cca_a for b in banks if not _is_lithium(b)]
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
    yield _finding(
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
        or back_up(context.design, one, context.stock, asked),
    )


def selectivity(context: Context) -> Iterator[Finding]:
    """OC-6: a device as large as the one above it."""
    devices, told = protectors(context.design), set[tuple[str, str]]()
    for ladder in ladders(context.design):
        for rung in ladder.rungs:
            if rung.selective != "not" or rung.above is None:
                continue
            if (rung.device, rung.above) in told:
                continue
            told.add((rung.device, rung.above))
            lower, upper = devices[rung.device], devices[rung.above]
            smaller = rate(
                context.design, lower, context.stock, context.standard, upper.rating_a - 0.5
            )
            yield _finding(
                OC6,
                lower,
                "caution",
                f"{lower.name}, {lower.rating_a:g} A, stands behind {upper.name}, "
                f"{upper.rating_a:g} A",
                (f"{lower.rating_a:g} A below, {upper.rating_a:g} A above it.",),
                figures=(
                    Figure("Below", lower.rating_a, "A"),
                    Figure("Above", upper.rating_a, "A"),
                ),
                limit=f"below {upper.rating_a:g} A",
                parts=(lower.part, upper.part),
                why="One fault in a branch darkens the whole bank.",
                repair="A smaller device below, or a larger one above with cables that bear it.",
                change=smaller,
            )


def against_parts(context: Context) -> Iterator[Finding]:
    """OC-8: gear behind a device that is larger than its own rating."""
    found, unknown = guarding(context.design), []
    devices = protectors(context.design)
    for part in context.design.components:
        if part.kind not in RATED_PARTS:
            continue
        rating = getattr(part, "rating_a", None)
        posts = [f"{part.id}.{post}" for post in part.posts()]
        before = [
            devices[device]
            for at in found.at_post.values()
            for post in posts
            for device, _ in (at.get(post, (None, 0.0)),)
            if device is not None
        ]
        if not before or (isinstance(part, BusBar) and part.polarity == "neg"):
            continue
        if rating is None:
            unknown.append(part.id)
            continue
        # Of what is fed from two sides each side's device counts: the gear carries the larger.
        one = max(before, key=lambda d: d.rating_a)
        if one.rating_a <= rating + 1e-9:
            continue
        yield _finding(
            OC8,
            one,
            "caution",
            f"{one.name}, {one.rating_a:g} A, does not protect {part.name}, {rating:g} A",
            (f"{one.name}: {one.rating_a:g} A; {part.name} carries {rating:g} A for long.",),
            figures=(Figure("Device", one.rating_a, "A"), Figure("Rating", rating, "A")),
            limit=f"{rating:g} A",
            parts=(one.part, part.id),
            why="What carries more than it is made for welds, or burns.",
            repair=f"A device of {rating:g} A at most before {part.name}, or stronger gear.",
            change=rate(context.design, one, context.stock, context.standard, rating),
        )
    if unknown:
        yield Finding(
            rule=OC8.id,
            severity="cannot_tell",
            title=f"What {context.names(unknown)} may carry is not known",
            arithmetic=(f"Rating of {context.names(unknown)}: not entered.",),
            figures=(),
            limit="the rating of the device before it",
            source=OC8.source,
            why="What carries more than it is made for burns.",
            repair="Read the rating on the part, or in its sheet.",
            parts=tuple(unknown),
            missing=f"The rating of {context.names(unknown)}: on the part; enter it there.",
        )


def bilge_pumps(context: Context) -> Iterator[Finding]:
    """OC-9: the fuse of bilge pumps."""
    found, devices = guarding(context.design), protectors(context.design)
    for group in context.design.of_type(LoadGroup):
        pumps = [i for i in group.items if i.fuse_a is not None or "bilge" in i.name.lower()]
        before = [
            devices[device]
            for at in found.at_post.values()
            for device, _ in (at.get(f"{group.id}.pos", (None, 0.0)),)
            if device is not None
        ]
        for item in pumps:
            yield from _pump(context, group, item, before)


def _pump(
    context: Context, group: LoadGroup, item: LoadItem, before: list[Protector]
) -> Iterator[Finding]:
    if item.fuse_a is None:
        yield Finding(
            rule=OC9.id,
            severity="cannot_tell",
            title=f"The fuse that the maker of {item.name} asks for is not known",
            arithmetic=(f"{item.name} draws {item.draw_a:g} A; its maker's fuse: not entered.",),
            figures=(Figure("Draw", item.draw_a, "A"),),
            limit="the fuse on the pump's label",
            source=OC9.source,
            why="A jammed pump draws a few times its current and must not set fire to itself.",
            repair="Read the fuse size on the pump.",
            parts=(group.id,),
            missing=f"The fuse size of {item.name}: on the pump; enter it on the stage Loads.",
            about=item.id,
        )
        return
    one = min(before, key=lambda d: d.rating_a, default=None)
    if one is None or one.rating_a <= item.fuse_a:
        return
    alone = len(group.items) == 1
    yield Finding(
        rule=OC9.id,
        severity="fault",
        title=f"{item.name} asks for {item.fuse_a:g} A and has {one.rating_a:g} A before it",
        arithmetic=(f"Maker: {item.fuse_a:g} A; {one.name}: {one.rating_a:g} A.",),
        figures=(Figure("Maker", item.fuse_a, "A"), Figure("Fitted", one.rating_a, "A")),
        limit=f"{item.fuse_a:g} A",
        source=OC9.source,
        why="A jammed pump draws a few times its current and must not set fire to itself.",
        repair=f"A fuse of {item.fuse_a:g} A for {item.name} alone.",
        parts=(group.id, one.part),
        change=rate(context.design, one, context.stock, context.standard, item.fuse_a)
        if alone
        else None,
        about=item.id,
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
        yield _finding(
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
        yield _finding(
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


RULES = (
    (OC2, against_cables),
    (OC3, against_current),
    (OC5, interrupting),
    (OC6, selectivity),
    (OC8, against_parts),
    (OC9, bilge_pumps),
    (OC10, fused_cranking),
    (OC11, voltage_limit),
)
