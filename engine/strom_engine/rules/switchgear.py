"""Rules about the switches themselves: SW-1, SW-2, SW-3, SW-5, SW-7."""

from __future__ import annotations

from collections.abc import Iterator

from strom_engine.circuit.network import Network
from strom_engine.design import (
    Bank,
    Breaker,
    FittedInverter,
    Fuse,
    FuseBlock,
    LoadGroup,
    Place,
    Switch,
)
from strom_engine.design.fields import PostRef
from strom_engine.rules.context import Context, Situation, is_lithium
from strom_engine.rules.finding import CONFIRM, Figure, Finding, Rule
from strom_engine.rules.gathering import gathered
from strom_engine.runs.load_cases import LoadCase

__all__ = ["RULES"]

REST = frozenset[str]()
SWITCH_FROM_CCA_A = 800.0
CLOSE_M = 1.83  # 72 in, as far as a sheathed conductor runs unfused from a battery (ABYC E-11)

SW1 = Rule(
    "SW-1",
    "Every bank above 800 A CCA has a switch in its positive",
    "Whether turning every switch off cuts the bank from all but the always-on circuits; a lithium "
    "bank has a disconnect whatever it cranks.",
    f"ABYC E-11, battery switches; ABYC E-13, disconnect of lithium banks; {CONFIRM}",
)
SW2 = Rule(
    "SW-2",
    "Switches carry what runs through them, for long and while cranking",
    "Largest computed current through each switch against its continuous and intermittent rating.",
    f"ABYC E-11, ratings of battery switches; makers' manuals; {CONFIRM}",
)
SW3 = Rule(
    "SW-3",
    "Battery switches are within reach and close to their bank",
    "The place of each switch, and the length of cable from the bank to it.",
    f"ABYC E-11, place of battery switches; {CONFIRM}",
)
SW5 = Rule(
    "SW-5",
    "Always-on circuits live with every switch off, each behind a fuse",
    "Every item marked always-on: fed with all switches off, and through a fuse or breaker.",
    f"ABYC E-11, circuits before the battery switch; trade practice; {CONFIRM}",
)
SW7 = Rule(
    "SW-7",
    "Every load but the always-on ones can be cut by a switch",
    "Loads that are fed in every position of every switch, and with every breaker off.",
    f"ABYC E-11, battery switches; ISO 13297, isolation of the DC supply; {CONFIRM}",
)


def bank_switch(context: Context) -> Iterator[Finding]:
    """SW-1: a large bank that no switch cuts off."""
    off = context.reach(Situation(context.all_cut(), REST))
    for bank in context.banks:
        fed = [name for name, by in off.fed_by.items() if bank.id in by]
        uncut = [name for name in fed if not _all_always_on(context, name)]
        large = bank.cca_a is None or bank.cca_a > SWITCH_FROM_CCA_A
        if uncut and (large or is_lithium(bank)):
            yield _no_switch(context, bank, uncut)


def _all_always_on(context: Context, name: str) -> bool:
    part = context.design.by_id[name]
    return isinstance(part, LoadGroup) and all(item.always_on for item in part.items)


def _no_switch(context: Context, bank: Bank, uncut: list[str]) -> Finding:
    lithium = is_lithium(bank)
    unknown = bank.cca_a is None and not lithium
    known = "not known" if bank.cca_a is None else f"{bank.cca_a:.0f} A"
    asked = (
        "It is a lithium bank: a disconnect is asked for whatever it cranks."
        if lithium
        else f"Its cold cranking amps: {known}; a switch is asked for above "
        f"{SWITCH_FROM_CCA_A:.0f} A."
    )
    return Finding(
        rule=SW1.id,
        severity="cannot_tell" if unknown else "fault",
        title=f"No switch cuts {bank.name} off",
        arithmetic=(
            f"Every switch and breaker off: {bank.name} still feeds {context.names(uncut)}.",
            asked,
        ),
        figures=() if lithium else (Figure("Cold cranking amps", bank.cca_a or 0.0, "A"),),
        limit="a disconnect for every lithium bank"
        if lithium
        else f"a switch above {SWITCH_FROM_CCA_A:.0f} A CCA",
        source=SW1.source,
        why="An electrical fire is fought by cutting its bank off, at once.",
        repair=f"Put a switch into the positive of {bank.name}, close to it.",
        parts=(bank.id, *uncut),
        missing=f"Cold cranking amps of {bank.name}: on its label; enter them at the bank."
        if unknown
        else None,
    )


def switch_ratings(context: Context) -> Iterator[Finding]:
    """SW-2: continuous and intermittent ratings."""
    unknown = []
    for switch in context.switches:
        if isinstance(switch, FittedInverter):
            continue
        lasting = _most_through(context.strained, switch)
        if lasting is not None and lasting[0] > switch.rating_a:
            yield _overloaded(context, switch, lasting, switch.rating_a, "continuous")
        brief = _most_through(context.cranking, switch)
        least = getattr(switch, "intermittent_a", None)
        if brief is not None and brief[0] > (least or switch.rating_a):
            told = _overloaded(context, switch, brief, least, "intermittent")
            if least is None:
                unknown.append(told)
            else:
                yield told
    names = context.names([f.parts[0] for f in unknown])
    yield from gathered(unknown, f"The intermittent ratings of {names} are not known")


def _most_through(
    load_cases: tuple[LoadCase, ...], switch: Switch
) -> tuple[float, LoadCase] | None:
    """The most that a switch carries [A], and when; None where there is no such state."""
    found = ((_through_a(load_case, switch), load_case) for load_case in load_cases)
    return max(found, key=lambda pair: pair[0], default=None)


def _through_a(load_case: LoadCase, switch: Switch) -> float:
    own = f"{switch.id}."
    return max(
        (abs(a) for name, a in load_case.point.conductor_a.items() if name.startswith(own)),
        default=0.0,
    )


def _overloaded(
    context: Context,
    switch: Switch,
    found: tuple[float, LoadCase],
    rating_a: float | None,
    which: str,
) -> Finding:
    amps, load_case = found
    told = "not known" if rating_a is None else f"{rating_a:.0f} A"
    return Finding(
        rule=SW2.id,
        severity="cannot_tell" if rating_a is None else "fault",
        title=f"{switch.name} carries {amps:.0f} A, its {which} rating is {told}",
        arithmetic=(
            f"{load_case.words.capitalize()}: {amps:.0f} A through it; {which} rating {told}.",
        ),
        figures=(Figure("Through it", amps, "A"), Figure("Rating", rating_a or 0.0, "A")),
        limit="unknown until it is read" if rating_a is None else f"{rating_a:.0f} A",
        source=SW2.source,
        why="A contact that is too small burns, and then it neither opens nor closes.",
        repair=f"Fit a switch of at least {amps:.0f} A {which}.",
        parts=(switch.id,),
        missing=f"Intermittent rating of {switch.name}: on its back or in its maker's data; "
        "enter it at the switch."
        if rating_a is None
        else None,
    )


def switch_place(context: Context) -> Iterator[Finding]:
    """SW-3: reach and closeness."""
    for place in (p for p in context.design.places if not p.within_reach):
        here = [s for s in context.switches if s.place == place.id]
        names = context.names([s.id for s in here])
        yield from gathered(
            [_out_of_reach(switch, place) for switch in here],
            f"{names} are out of reach in {place.name}",
            f"Move {names}, or fit switches driven from afar in the straight path.",
            about=f"in {place.id}",
        )
    ways = [(switch, _cable_to_bank(context, switch)) for switch in context.switches]
    far = [(switch, *way) for switch, way in ways if way is not None and way[1] > CLOSE_M]
    yield from gathered(
        [_far_switch(context, *one) for one in far],
        f"{context.names([switch.id for switch, *_ in far])} are far from their banks by cable",
        "Bring them closer, or drive them from afar beside the banks.",
        about="far",
    )
    unplaced = [s for s in context.switches if s.place is None]
    if unplaced and context.design.places:
        yield _unplaced(context, unplaced)


def _out_of_reach(switch: Switch, place: Place) -> Finding:
    return Finding(
        rule=SW3.id,
        severity="fault",
        title=f"{switch.name} is out of reach in {place.name}",
        arithmetic=(f"{switch.name}: its place, {place.name}, is entered as out of reach.",),
        figures=(Figure("Within reach", 0.0, ""),),
        limit="reached without opening a machinery hatch",
        source=SW3.source,
        why="What cannot be reached in smoke cannot be cut off.",
        repair=f"Move {switch.name}, or fit one driven from afar in the straight path.",
        parts=(switch.id,),
        about=f"in {place.id}",
    )


def _cable_to_bank(context: Context, switch: Switch) -> tuple[str, float] | None:
    """The shortest way in cables [m] from a bank's positive to a switch, fuses passed."""
    design = context.design
    reached = {f"{b.id}.pos": (b.id, 0.0) for b in context.banks}
    ends = {f"{switch.id}.{post}" for post in switch.posts() if not post.startswith("ctrl_")}
    for _ in range(3):
        for cable in design.cables:
            for near, far in ((cable.start, cable.end), (cable.end, cable.start)):
                if near in reached:
                    bank, length_m = reached[near]
                    _shorter(reached, far, bank, length_m + cable.length_m)
        for fuse in (*design.of_type(Fuse), *design.of_type(Breaker)):
            for one, other in (fuse.links()[0], fuse.links()[0][::-1]):
                if one in reached:
                    _shorter(reached, other, *reached[one])
    found = [reached[end] for end in ends if end in reached]
    return min(found, key=lambda at: at[1]) if found else None


def _shorter(reached: dict[str, tuple[str, float]], ref: str, bank: str, length_m: float) -> None:
    if ref not in reached or reached[ref][1] > length_m:
        reached[ref] = (bank, length_m)


def _far_switch(context: Context, switch: Switch, bank: str, length_m: float) -> Finding:
    return Finding(
        rule=SW3.id,
        severity="note",
        title=f"{switch.name} is {length_m:.1f} m of cable from {context.name(bank)}",
        arithmetic=(
            f"Cables from {context.name(bank)} to {switch.name}: {length_m:.2f} m; "
            f"{CLOSE_M:g} m is as far as is called close here.",
        ),
        figures=(Figure("Cable", length_m, "m"),),
        limit=f"as close as may be; {CLOSE_M:g} m taken",
        source=SW3.source,
        why="The cable before the switch stays live whatever is turned off.",
        repair=f"Bring {switch.name} closer, or drive one from afar beside the bank.",
        parts=(switch.id, bank),
    )


def _unplaced(context: Context, unplaced: list[Switch]) -> Finding:
    names = context.names([s.id for s in unplaced])
    return Finding(
        rule=SW3.id,
        severity="cannot_tell",
        title=f"Where is {names}?",
        arithmetic=(f"Switches without a place: {len(unplaced)} of {len(context.switches)}.",),
        figures=(Figure("Without a place", float(len(unplaced)), ""),),
        limit="within reach, close to the bank",
        source=SW3.source,
        why="Reach and a short cable pull against each other; both must be looked at.",
        repair="Say where each stands.",
        parts=tuple(s.id for s in unplaced),
        missing=f"The place of {names}: enter it on the stage Survey.",
    )


def always_on(context: Context) -> Iterator[Finding]:
    """SW-5: always-on circuits are fed with all off, and fused."""
    off = Situation(context.all_off(), REST)
    reach, net = context.reach(off), context.network(off)
    for group in context.design.of_type(LoadGroup):
        kept = [item for item in group.items if item.always_on]
        if not kept:
            continue
        banks = reach.fed_by[group.id]
        names = ", ".join(item.name.lower() for item in kept)
        if not banks:
            yield _dead(context, group, names, len(kept))
        elif _unfused(context, net, group.id, banks):
            yield _bare(context, group, banks)


def _dead(context: Context, group: LoadGroup, names: str, count: int) -> Finding:
    return Finding(
        rule=SW5.id,
        severity="fault",
        title=f"{group.name} is dead with every switch off: {names}",
        arithmetic=(
            f"Items marked always-on: {count}. All {len(context.switches)} switches off: banks "
            f"that feed {group.name}: 0.",
        ),
        figures=(Figure("Always-on items", float(count), ""), Figure("Banks", 0.0, "")),
        limit="fed by a bank with every switch off",
        source=SW5.source,
        why=f"Left alone with everything off, the boat has no {names}.",
        repair=f"Take the feed of {names} before the switch, with its own fuse at the bank.",
        parts=(group.id,),
    )


def _unfused(context: Context, net: Network, group: str, banks: tuple[str, ...]) -> bool:
    """Whether metal without any fuse leads from a bank to a group."""
    guards = {p.id for p in context.design.components if isinstance(p, Fuse | Breaker | FuseBlock)}
    near: dict[int, set[int]] = {}
    for c in net.conductors:
        if PostRef(c.name).part not in guards or "." not in c.name:
            near.setdefault(c.a, set()).add(c.b)
            near.setdefault(c.b, set()).add(c.a)
    seen = {net.node(f"{bank}.pos") for bank in banks}
    while more := {n for at in seen for n in near.get(at, ())} - seen:
        seen |= more
    return net.node(f"{group}.pos") in seen


def _bare(context: Context, group: LoadGroup, banks: tuple[str, ...]) -> Finding:
    return Finding(
        rule=SW5.id,
        severity="fault",
        title=f"{group.name} is always on without a fuse",
        arithmetic=(f"Fuses and breakers between {context.names(banks)} and {group.name}: 0.",),
        figures=(Figure("Fuses on the way", 0.0, ""),),
        limit="1 fuse, close to the bank",
        source=SW5.source,
        why="A circuit that no switch cuts has only its fuse.",
        repair=f"Put a fuse into the feed of {group.name}, at the bank.",
        parts=(group.id, *banks),
    )


def uncut_loads(context: Context) -> Iterator[Finding]:
    """SW-7: loads that are fed in every position."""
    if not context.switches:
        return
    for group in context.design.of_type(LoadGroup):
        if all(item.always_on for item in group.items):
            continue
        turned = (*context.combinations, context.all_cut())
        fed = [context.reach(Situation(positions, REST)).fed_by[group.id] for positions in turned]
        if all(fed):
            yield _never_cut(context, group, fed[0])


def _never_cut(context: Context, group: LoadGroup, banks: tuple[str, ...]) -> Finding:
    drawn = sum(i.draw_a for i in group.items if not i.always_on)
    flat, capacity = context.flat_words(drawn, banks)
    return Finding(
        rule=SW7.id,
        severity="fault",
        title=f"No switch cuts {group.name}",
        arithmetic=(
            f"Positions tried: {len(context.combinations)}, and every breaker off too; "
            f"{group.name} is fed in all of them, by {context.names(banks)}.",
            flat,
        ),
        figures=(Figure("Draw that no switch cuts", drawn, "A"), Figure("Bank", capacity, "Ah")),
        limit="0 A but the always-on circuits",
        source=SW7.source,
        why="What cannot be cut off cannot be stopped when it burns, and flattens a bank unseen.",
        repair=f"Move the feed of {group.name} behind a switch, or mark its items always-on and "
        "give them a fuse of their own.",
        parts=(group.id, *banks),
    )


RULES = (
    (SW1, bank_switch),
    (SW2, switch_ratings),
    (SW3, switch_place),
    (SW5, always_on),
    (SW7, uncut_loads),
)
