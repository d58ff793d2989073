"""Rules about what is bolted where: BA-5, BA-6, BA-7."""

from __future__ import annotations

from collections.abc import Iterator

from strom_engine.design import (
    Bank,
    CableFields,
    Change,
    MoveCableEnd,
    SetCables,
    SetPart,
    Shunt,
    StackCables,
)
from strom_engine.design.edits import gather_on_bus
from strom_engine.design.fields import PostRef
from strom_engine.errors import ChangeError
from strom_engine.reference import area_mm2, stud_torque, usual_stud
from strom_engine.rules.context import Context
from strom_engine.rules.finding import CONFIRM, Figure, Finding, Rule
from strom_engine.runs.wiring import part_of, wiring

__all__ = ["RULES"]

MOST_LUGS = 4
HEAVY = "6 AWG"  # no wing nuts on this and thicker

BA5 = Rule(
    "BA-5",
    "Few lugs on a stud, the largest at the seat, each hole fitting",
    "Lugs on every post, their order from the seat up, and their holes against the stud.",
    f"ABYC E-11, terminals and studs; {CONFIRM}",
    (Figure("At most", MOST_LUGS, "lugs on a stud"),),
)
BA6 = Rule(
    "BA-6",
    "No wing nuts on heavy cables",
    "Terminals of every bank against the cables on them.",
    f"ABYC E-10, battery terminals; {CONFIRM}",
    (Figure("From", area_mm2(HEAVY), "mm² on"),),
)
BA7 = Rule(
    "BA-7",
    "Nothing passes the monitor's shunt by",
    "Negatives on the bank's side of a shunt besides the shunt itself.",
    f"Makers' manuals of battery monitors; {CONFIRM}",
)


def lugs(context: Context) -> Iterator[Finding]:
    """BA-5: how many, in which order, with which holes."""
    design, wires = context.design, wiring(context.design)
    for ref in design.post_polarity:
        cables = wires.on_post[ref]
        if not cables:
            continue
        if len(cables) > MOST_LUGS:
            yield _too_many(context, ref, len(cables))
        stack = design.stack_on(ref)
        areas = [design.cables_by_id[c].area_mm2 for c in stack]
        if areas != sorted(areas, reverse=True):
            yield _order(context, ref, stack)
    for cable in design.cables:
        for end, ref, lug in (
            ("start_lug", cable.start, cable.start_lug),
            ("end_lug", cable.end, cable.end_lug),
        ):
            part = design.by_id[part_of(ref)]
            stud = part.stud or usual_stud(part.kind, PostRef(ref).post)
            if lug is not None and lug != stud:
                yield _hole(context, cable.id, end, ref, lug, stud)


def _too_many(context: Context, ref: str, count: int) -> Finding:
    change: Change | None
    try:
        change = gather_on_bus(context.design, ref, "bus_bar")
    except ChangeError:
        change = None
    name = context.design.post_name(ref)
    return Finding(
        rule=BA5.id,
        severity="fault",
        title=f"{count} lugs on {name}",
        arithmetic=(f"{count} lugs on {name}; at most {MOST_LUGS}.",),
        figures=(Figure("Lugs", float(count), ""), Figure("At most", float(MOST_LUGS), "")),
        limit=f"{MOST_LUGS} lugs on a stud",
        source=BA5.source,
        why="A tall stack loosens, and the top lugs feed through all the others.",
        repair="Bring all but the widest onto a bus bar, fed from this post.",
        parts=(part_of(ref),),
        change=change,
        about=f"count {ref}",
    )


def _order(context: Context, ref: str, stack: tuple[str, ...]) -> Finding:
    cables = [context.design.cables_by_id[c] for c in stack]
    widest = sorted(cables, key=lambda c: -c.area_mm2)
    name = context.design.post_name(ref)
    return Finding(
        rule=BA5.id,
        severity="caution",
        title=f"The largest lug on {name} is not at the seat",
        arithmetic=(
            f"From the seat up: {', '.join(c.gauge for c in cables)}; the largest belongs at the "
            "bottom.",
        ),
        figures=(),
        limit="the largest at the seat",
        source=BA5.source,
        why="The current of the large cable then crosses every small lug below it.",
        repair="Stack them anew, the largest against the seat.",
        parts=(part_of(ref),),
        change=StackCables(post=PostRef(ref), cables=tuple(c.id for c in widest)),
        about=f"order {ref}",
    )


def _hole(context: Context, cable: str, end: str, ref: str, lug: str, stud: str) -> Finding:
    name = context.design.post_name(ref)
    torque = stud_torque(stud, battery=False)
    hole = f"{torque.ring_hole_mm:g} mm" if torque else stud
    assumed = context.design.by_id[part_of(ref)].stud is None
    told = "the usual stud there; look at the part" if assumed else "as entered at the part"
    return Finding(
        rule=BA5.id,
        severity="caution" if assumed else "fault",
        title=f"A lug for {lug} on the {stud} stud of {name}",
        arithmetic=(f"Lug {lug}, stud {stud} ({told}): a hole of {hole} is wanted.",),
        figures=(),
        limit=f"{stud}: {hole}",
        source=BA5.source,
        why="A loose ring touches at a few points; a drilled one has lost its copper.",
        repair=f"A lug with a hole for {stud}.",
        parts=(part_of(ref),),
        change=SetCables(rows=(CableFields(cable=cable, fields={end: None}),)),
        about=f"{cable} {end}",
    )


def wing_nuts(context: Context) -> Iterator[Finding]:
    """BA-6: wing nuts."""
    for bank in context.banks:
        heavy = [
            c
            for post in ("pos", "neg")
            for c in wiring(context.design).on_post[f"{bank.id}.{post}"]
            if c.area_mm2 >= area_mm2(HEAVY)
        ]
        if bank.terminals != "wing_nut" or not heavy:
            continue
        sizes = ", ".join(dict.fromkeys(c.gauge for c in heavy))
        yield Finding(
            rule=BA6.id,
            severity="fault",
            title=f"{bank.name} holds {sizes} with wing nuts",
            arithmetic=(f"{len(heavy)} cables of {sizes}; none of {HEAVY} or more is allowed.",),
            figures=(Figure("Cables", float(len(heavy)), ""),),
            limit=f"thinner than {HEAVY}",
            source=BA6.source,
            why="A hand cannot tighten what carries hundreds of amps.",
            repair="Hexagon nuts with lock washers, tightened to their torque.",
            parts=(bank.id,),
            change=SetPart(part=bank.id, fields={"terminals": "stud"}),
        )


def bypassed(context: Context) -> Iterator[Finding]:
    """BA-7: negatives that go past a shunt."""
    design, wires = context.design, wiring(context.design)
    for shunt in design.of_type(Shunt):
        side = f"{shunt.id}.bank"
        banks = [
            bank
            for bank in context.banks
            if any(side in (c.start, c.end) for c in wires.on_post[f"{bank.id}.neg"])
        ]
        for bank in banks:
            yield from _past(context, shunt, bank)


def _past(context: Context, shunt: Shunt, bank: Bank) -> Iterator[Finding]:
    design = context.design
    ref, side = f"{bank.id}.neg", f"{shunt.id}.bank"
    for cable in wiring(design).on_post[ref]:
        other = cable.end if cable.start == ref else cable.start
        part = design.by_id[part_of(other)]
        if other == side or cable.purpose == "sense" or isinstance(part, Bank):
            continue
        amps = context.currents[cable.id].amps
        yield Finding(
            rule=BA7.id,
            severity="caution",
            title=f"{part.name} goes past {shunt.name}",
            arithmetic=(
                f"{design.cable_name(cable)} ends on the bank's side of {shunt.name}: up to "
                f"{amps:.1f} A are not counted.",
            ),
            figures=(Figure("Not counted", amps, "A"),),
            limit="no negative but the shunt's on the bank",
            source=BA7.source,
            why="The monitor counts wrong, and every decision made by it is wrong too.",
            repair=f"Move this negative to the load side of {shunt.name}.",
            parts=(shunt.id, bank.id, part.id),
            change=MoveCableEnd(
                cable=cable.id,
                end="start" if cable.start == ref else "end",
                to=PostRef.of(shunt.id, "system"),
            ),
            about=cable.id,
        )


RULES = ((BA5, lugs), (BA6, wing_nuts), (BA7, bypassed))
