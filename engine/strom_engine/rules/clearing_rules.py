"""Rules about what devices do in the worst of cases: OC-12 and OC-13."""

from __future__ import annotations

from collections.abc import Iterator

from strom_engine.design import LoadGroup, LoadItem
from strom_engine.reference import load_table, sure_multiple
from strom_engine.rules.context import Context
from strom_engine.rules.device_finding import device_finding
from strom_engine.rules.finding import CONFIRM, Figure, Finding, Rule
from strom_engine.rules.gathering import gathered
from strom_engine.runs.clearing import clearing
from strom_engine.runs.devices import Protector, protectors
from strom_engine.runs.guarding import devices_before
from strom_engine.runs.repairs import rate

__all__ = ["RULES"]

STUCK_H = 7.0
# Names of what has a motor that can be stalled by hand of man or sea; own judgement.
MOTORS = ("windlass", "thruster", "winch", "capstan", "furl", "hauler")

OC12 = Rule(
    "OC-12",
    "A short at the far end of a cable opens its device",
    "Current of a short between plus and minus at the end of every protected cable, fed by the "
    "nearest bank half charged, against the device's curve and what the copper bears meanwhile.",
    f"IEC 60364-4-43, protection against fault current; {load_table('clearing_time').citation}; "
    f"{CONFIRM}",
)
OC13 = Rule(
    "OC-13",
    "A motor that is stuck opens its device, or protects itself",
    "What a stuck motor takes, which is what it takes as it starts, against the device before it.",
    f"ABYC E-11, protection of motors: no fire hazard when stuck for {STUCK_H:g} hours; {CONFIRM}",
    (Figure("Stuck for", STUCK_H, "h"),),
)


def short_at_the_end(context: Context) -> Iterator[Finding]:
    """OC-12: devices that a short at the far end does not open in time."""
    devices = protectors(context.design)
    for short in clearing(context.design):
        if short.clears:
            continue
        one, cable = devices[short.device], context.design.cables_by_id[short.cable]
        name = context.design.cable_name(cable)
        yield device_finding(
            OC12,
            one,
            "fault",
            f"A short at the end of {name} may not open {one.name}"
            if short.opens_s is None
            else f"A short at the end of {name} spoils it before {one.name} opens",
            short.working,
            figures=(
                Figure("Short at the end", short.amps, "A"),
                Figure("Times its rating", short.multiple, ""),
                Figure("The cable bears it", short.bears_s, "s"),
            ),
            limit="open before the cable is spoilt",
            parts=(one.part, cable.id),
            estimated=(name,) if cable.estimated else (),
            why="The bank then feeds the fault through a cable that glows.",
            repair="A smaller device, or a thicker and shorter cable.",
            change=rate(context.design, one, context.stock, context.standard, one.rating_a - 0.5),
        )


def stuck_motor(context: Context) -> Iterator[Finding]:
    """OC-13: motors that can stand still under current for hours."""
    devices, unknown = protectors(context.design), []
    for group in context.design.of_type(LoadGroup):
        before = [devices[d] for d in devices_before(context.design, f"{group.id}.pos")]
        smallest = min(before, key=lambda d: d.rating_a, default=None)
        for item in (i for i in group.items if not i.thermal_cutout):
            if item.start_a is None:
                unknown += [_unknown(group, item)] if _motor(item) else []
            elif smallest is not None:
                yield from _stuck(context, group, item, smallest)
    names = context.names([f.parts[0] for f in unknown])
    yield from gathered(unknown, f"What {names} take when stuck is not known", about="unknown")


def _motor(item: LoadItem) -> bool:
    return any(word in item.name.lower() for word in MOTORS)


def _unknown(group: LoadGroup, item: LoadItem) -> Finding:
    return Finding(
        rule=OC13.id,
        severity="cannot_tell",
        title=f"What {item.name} takes when stuck is not known",
        arithmetic=(f"{item.name} runs at {item.draw_a:.0f} A; starting or stuck: not entered.",),
        figures=(Figure("Runs at", item.draw_a, "A"),),
        limit="open its device, or a thermal cut-out",
        source=OC13.source,
        why="A stuck motor turns all it takes into heat, and sets fire to what is around it.",
        repair="Read the stall current, and whether it cuts out by itself, in its manual.",
        parts=(group.id,),
        missing=f"{item.name}: stall current or a thermal cut-out, by its manual; enter it on the "
        "stage Loads.",
        about=item.id,
    )


def _stuck(context: Context, group: LoadGroup, item: LoadItem, one: Protector) -> Iterator[Finding]:
    stuck_a = item.start_a or 0.0
    multiple = stuck_a / one.rating_a
    sure = sure_multiple(one.type.type if one.type else "")
    if multiple >= sure:
        return
    unknown = item.thermal_cutout is None
    yield device_finding(
        OC13,
        one,
        "cannot_tell" if unknown else "caution",
        f"{item.name} stuck may not open {one.name}, {one.rating_a:g} A",
        (
            f"Stuck it takes what it takes as it starts: {stuck_a:g} A / {one.rating_a:g} A = "
            f"{multiple:.2f} times the rating; below {sure:.2f} times it may hold for ever.",
        ),
        figures=(Figure("Stuck", stuck_a, "A"), Figure("Rating", one.rating_a, "A")),
        limit=f"open, or bear it for {STUCK_H:g} h",
        parts=(one.part, group.id),
        why="A stuck motor turns all it takes into heat, and sets fire to what is around it.",
        repair="A device of the size that its maker asks for, or a motor with a thermal cut-out.",
        missing=f"Whether {item.name} has a thermal cut-out of its own: on its label; enter it on "
        "the stage Loads."
        if unknown
        else None,
        about=f"{one.id} {item.id}",
    )


RULES = ((OC12, short_at_the_end), (OC13, stuck_motor))
