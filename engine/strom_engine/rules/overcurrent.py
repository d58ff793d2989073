"""Rules about where overcurrent devices stand: OC-1, OC-4, OC-7."""

from __future__ import annotations

from collections.abc import Iterator

from strom_engine.design import Cable, Relay, SetPart
from strom_engine.rules.context import Context
from strom_engine.rules.finding import CONFIRM, Figure, Finding, Rule
from strom_engine.runs.guarding import (
    AT_SOURCE_M,
    SHEATHED_BATTERY_M,
    SHEATHED_OTHER_M,
    Root,
    guarding,
)
from strom_engine.runs.repairs import protect, thin_fuse
from strom_engine.runs.wiring import part_of, wiring

__all__ = ["RULES"]

THIN_FUSE_A = 3.0

OC1 = Rule(
    "OC-1",
    "A device stands close to every source",
    "The metres of cable from every bank, and from every cranking conductor, to the first fuse or "
    "breaker on each way; cranking conductors themselves are exempt.",
    f"ABYC E-11, location of overcurrent protection; 33 CFR 183.460; {CONFIRM}",
    (
        Figure("From a source", AT_SOURCE_M, "m"),
        Figure("From a battery, sheathed throughout", SHEATHED_BATTERY_M, "m"),
        Figure("From another source, sheathed throughout", SHEATHED_OTHER_M, "m"),
    ),
)
OC4 = Rule(
    "OC-4",
    "A cable between two sources has a device at each end",
    "Cables that end on a relay, a dc-dc charger, a combiner, an isolator or a parallel switch: "
    "each bank's current must pass a device close to that bank.",
    f"ABYC E-11, conductors between sources of power; {CONFIRM}",
    (Figure("From each source", AT_SOURCE_M, "m"),),
)
OC7 = Rule(
    "OC-7",
    "Thin leads have small fuses",
    "Sense leads, control wires and a relay's thin negative: the device before them against what "
    "they may carry.",
    f"Makers' manuals of relays, regulators and monitors; trade practice; {CONFIRM}",
    (Figure("Usual fuse of a thin lead", THIN_FUSE_A, "A"),),
)


def at_source(context: Context) -> Iterator[Finding]:
    """OC-1: cables in use, and those that hang loose."""
    yield from device_at_source(context)
    yield from loose_ends(context)


def device_at_source(context: Context) -> Iterator[Finding]:
    """OC-1: unprotected cables that start at a bank or on a cranking conductor."""
    for root in _wrong_roots(context):
        cable = context.design.cables_by_id[root.cable]
        if not _shares(context, cable) and not _thin(context, cable):
            yield _root_finding(context, OC1, root)


def loose_ends(context: Context) -> Iterator[Finding]:
    """OC-1: cables of which one end hangs loose, or leads nobody knows where, on a live post."""
    found = guarding(context.design)
    for cable in context.design.parked:
        on = cable.start or cable.end
        if on is None or (cable.start and cable.end):
            continue
        reached = [at[on] for at in found.at_post.values() if on in at]
        if not reached:
            continue
        bare = any(device is None for device, _ in reached)
        largest_a = max(rating_a for _, rating_a in reached)
        fed = "no device" if bare else f"a device of {largest_a:g} A"
        yield Finding(
            rule=OC1.id,
            severity="danger" if bare else "caution",
            title=f"A cable on {context.design.post_name(on)} ends nobody knows where",
            arithmetic=(
                f"{cable.gauge}, {cable.length_m:g} m, from {context.design.post_name(on)}: live "
                f"in some position, {fed} between it and a bank.",
            ),
            figures=(
                Figure("Length", cable.length_m, "m"),
                Figure("Device before it", 0.0 if bare else largest_a, "A"),
            ),
            limit="no live end that hangs loose",
            source=OC1.source,
            why="A live end that touches metal draws whatever its bank can give.",
            repair="Trace it to its end; take it off at the live post, or land and protect it. "
            "Until then cover the end.",
            parts=(part_of(on),),
            about=f"loose {cable.id}",
        )


def device_at_each_end(context: Context) -> Iterator[Finding]:
    """OC-4: the same, for cables to what joins two banks."""
    for root in _wrong_roots(context):
        cable = context.design.cables_by_id[root.cable]
        if _shares(context, cable) and not _thin(context, cable):
            yield _root_finding(context, OC4, root)


def _wrong_roots(context: Context) -> list[Root]:
    found: dict[str, Root] = {}
    for root in guarding(context.design).roots:
        if root.far(context.standard):
            found.setdefault(root.cable, root)
    return list(found.values())


def _shares(context: Context, cable: Cable) -> bool:
    """Whether a cable, or the row of cables that it starts, ends on what joins two banks."""
    wires = wiring(context.design)
    for start in (cable.start, cable.end):
        for name in wires.chain(cable, start):
            one = context.design.cables_by_id[name]
            for ref in (one.start, one.end):
                part = context.design.by_id[part_of(ref)]
                if part.facts.shares or getattr(part, "purpose", "") == "parallel":
                    return True
    return False


def _thin(context: Context, cable: Cable) -> bool:
    ends = {ref.post for ref in (cable.start, cable.end)}
    return cable.purpose == "sense" or "ctrl_pos" in ends


def _root_finding(context: Context, rule: Rule, root: Root) -> Finding:
    design = context.design
    cable = design.cables_by_id[root.cable]
    name = design.cable_name(cable)
    at = design.post_name(root.fed_at)
    if root.device_m is None:
        title = f"{name} has no device at {at}"
        line = f"From {at} along {name}, {cable.length_m:g} m of it: no fuse or breaker."
        how = "fault"
    else:
        devices = context.names([part_of(d) for d in root.devices])
        title = f"{devices} stands {root.device_m:.2f} m from {at}"
        line = f"From {at} to {devices}: {root.device_m:.2f} m of cable."
        # Within what a sheathed cable may have, nobody has yet said that it is sheathed.
        how = "caution" if root.device_m <= root.sheathed_m else "fault"
    sheathed = "sheathed" if root.sheathed else "not sheathed"
    limit_m = root.limit_of(context.standard)
    return Finding(
        rule=rule.id,
        severity="caution" if how == "caution" else "fault",
        title=title,
        arithmetic=(
            line,
            f"Allowed from here, {sheathed}: {limit_m:g} m; sheathed throughout: "
            f"{root.sheathed_m:g} m.",
        ),
        figures=(
            Figure("Distance", root.device_m or 0.0, "m"),
            Figure("Allowed", limit_m, "m"),
        ),
        limit=f"{limit_m:g} m",
        source=rule.source,
        why="A short on the way to the device is fed by the bank until the cable glows.",
        repair=f"Put a device within {AT_SOURCE_M * 1000:.0f} mm of {at}.",
        parts=(root.bank, *dict.fromkeys((part_of(cable.start), part_of(cable.end)))),
        change=protect(design, root.cable, context.stock, context.standard),
        estimated=(cable.id,) if root.device_m is not None and cable.estimated else (),
        about=cable.id,
    )


def thin_leads(context: Context) -> Iterator[Finding]:
    """OC-7: sense and control leads, and the reference of a relay."""
    found = guarding(context.design)
    for cable in context.design.cables:
        if not _thin(context, cable) or cable.id not in found.guards:
            continue
        guard, allowed = found.worst(cable.id), context.allowed(cable)
        if guard is None or (guard.device and guard.rating_a <= allowed.amps):
            continue
        root = next((r for r in found.roots if r.cable == guard.root), None)
        kept = root and not root.far(context.standard)
        if guard.device is None and (kept or _ends_on_device(context, cable)):
            continue
        rating = guard.rating_a if guard.device else None
        yield _thin_finding(context, cable, guard.fed_at, rating)
    for relay in context.design.of_type(Relay):
        if relay.negative_fuse_a is None and wiring(context.design).on_post[f"{relay.id}.neg"]:
            yield _relay_finding(relay)


def _ends_on_device(context: Context, cable: Cable) -> bool:
    """Whether a lead is so short that the device at its end is its own."""
    kinds = (context.design.by_id[part_of(ref)].kind for ref in (cable.start, cable.end))
    return cable.length_m <= AT_SOURCE_M and any(k in ("fuse", "breaker") for k in kinds)


def _thin_finding(context: Context, cable: Cable, fed_at: str, rating_a: float | None) -> Finding:
    name, allowed = context.design.cable_name(cable), context.allowed(cable)
    told = "no device" if rating_a is None else f"a device of {rating_a:g} A"
    return Finding(
        rule=OC7.id,
        severity="fault",
        title=f"The thin lead {name} has {told} before it",
        arithmetic=(*allowed.working, f"Before it: {told}."),
        figures=(Figure("Allowed", allowed.amps, "A"), Figure("Device", rating_a or 0.0, "A")),
        limit=f"a fuse of {allowed.amps:.0f} A at most; {THIN_FUSE_A:g} A is usual",
        source=OC7.source,
        why="A thin lead without its own fuse is the one that burns.",
        repair=f"Put a fuse of {THIN_FUSE_A:g} A where it leaves the bank.",
        parts=(part_of(cable.start), part_of(cable.end)),
        change=thin_fuse(context.design, cable, fed_at, THIN_FUSE_A),
        about=cable.id,
    )


def _relay_finding(relay: Relay) -> Finding:
    return Finding(
        rule=OC7.id,
        severity="caution",
        title=f"The thin negative of {relay.name} has no fuse of its own on record",
        arithmetic=(f"Fuse in the negative of {relay.name}: none entered.",),
        figures=(Figure("Usual fuse", THIN_FUSE_A, "A"),),
        limit=f"a fuse of {THIN_FUSE_A:g} A or as the maker says",
        source=OC7.source,
        why="Its negative is thin, and a fault inside the relay would send a bank through it.",
        repair=f"Fit a fuse of {THIN_FUSE_A:g} A in the negative of {relay.name}.",
        parts=(relay.id,),
        change=SetPart(part=relay.id, fields={"negative_fuse_a": THIN_FUSE_A}),
        about="negative",
    )


RULES = ((OC1, at_source), (OC4, device_at_each_end), (OC7, thin_leads))
