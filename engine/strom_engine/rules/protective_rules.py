"""Rules about the devices themselves: OC-2, OC-3, OC-6, OC-8, OC-9."""

from __future__ import annotations

from collections.abc import Iterator

from strom_engine.design import (
    BusBar,
    LoadGroup,
    LoadItem,
)
from strom_engine.rules.context import Context
from strom_engine.rules.device_finding import device_finding
from strom_engine.rules.finding import CONFIRM, Figure, Finding, Rule
from strom_engine.runs.allowed_current import NEXT_STEP_SHARE, most_rating_a
from strom_engine.runs.currents import device_currents
from strom_engine.runs.devices import Protector, protectors
from strom_engine.runs.guarding import devices_before
from strom_engine.runs.ladder import ladders
from strom_engine.runs.picking import (
    CONTINUOUS_SHARE,
)
from strom_engine.runs.repairs import guarded_cables, rate

__all__ = ["RULES"]

OC2 = Rule(
    "OC-2",
    "A device is not larger than the cables behind it allow",
    "Rating of every device against the allowable current of every cable it protects; the next "
    "standard step is taken where no step is the ampacity itself. A larger one is a caution up to "
    "150 %, above it a fault; a motor has the device that its maker asks for.",
    f"ABYC E-11, rating of overcurrent protection; makers' manuals of motors; {CONFIRM}",
    (Figure("At most", 100 * NEXT_STEP_SHARE, "% of the ampacity"),),
)
OC3 = Rule(
    "OC-3",
    "A device carries its real current with a margin",
    "What passes every device for hours against 80 % of its rating, for minutes against all of it.",
    f"Makers' data of fuses and breakers: 80 % of the rating for long; {CONFIRM}",
    (Figure("For hours", 100 * CONTINUOUS_SHARE, "% of the rating"),),
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
        within = one.rating_a <= NEXT_STEP_SHARE * allowed.amps + 1e-9
        own_a = _own_device_a(context, one)
        if within and own_a is not None and one.rating_a <= own_a:
            continue
        share = one.rating_a / allowed.amps if allowed.amps else float("inf")
        yield device_finding(
            OC2,
            one,
            "caution" if within else "fault",
            f"{one.name}, {one.rating_a:g} A, is too large for {name}",
            (
                *allowed.working,
                f"{name}: allowed {allowed.amps:.0f} A; largest device {most:.0f} A; {one.name} "
                f"has {one.rating_a:g} A = {share:.0%}.",
                "Within 150 %, but the next step above the ampacity would be smaller."
                if within
                else f"More than {NEXT_STEP_SHARE:.0%} of the ampacity.",
            ),
            figures=(Figure("Rating", one.rating_a, "A"), Figure("Allowed", most, "A")),
            limit=f"{most:.0f} A",
            why="The cable burns before the device opens.",
            repair="A smaller device where the current allows it, else a thicker cable.",
            change=rate(context.design, one, context.stock, context.standard),
        )


def _own_device_a(context: Context, one: Protector) -> float | None:
    """The device [A] that the maker of the one thing behind a device asks for."""
    fed = [
        g
        for g in context.design.of_type(LoadGroup)
        if one.id in devices_before(context.design, f"{g.id}.pos")
    ]
    items = [item for group in fed for item in group.items]
    return items[0].fuse_a if len(items) == 1 else None


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
        yield device_finding(
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
            yield device_finding(
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
    unknown = []
    devices = protectors(context.design)
    for part in context.design.components:
        if not part.facts.rated:
            continue
        rating = getattr(part, "rating_a", None)
        posts = [f"{part.id}.{post}" for post in part.posts()]
        before = [
            devices[device] for post in posts for device in devices_before(context.design, post)
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
        yield device_finding(
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
    devices = protectors(context.design)
    for group in context.design.of_type(LoadGroup):
        pumps = [i for i in group.items if i.fuse_a is not None or "bilge" in i.name.lower()]
        before = [devices[d] for d in devices_before(context.design, f"{group.id}.pos")]
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


RULES = (
    (OC2, against_cables),
    (OC3, against_current),
    (OC6, selectivity),
    (OC8, against_parts),
    (OC9, bilge_pumps),
)
