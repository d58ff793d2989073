"""Rules about switches: SW-4, SW-6, SW-8, SW-9."""

from __future__ import annotations

from collections.abc import Iterator
from itertools import pairwise

from strom_engine.design import (
    Alternator,
    Bank,
    LoadGroup,
    Selector,
    SetFieldContact,
    Starter,
    switch_positions,
)
from strom_engine.design.state import Switch
from strom_engine.rules.context import Context, Situation
from strom_engine.rules.finding import CONFIRM, Figure, Finding, Rule

__all__ = ["RULES", "drains_engine_bank", "loose_alternator", "off_is_off", "start_from_another"]

OPEN = frozenset[str]()
RUNNING_RPM = 2000.0

SW4 = Rule(
    "SW-4",
    "No turn of a switch leaves a running alternator without a bank",
    "Every position and every move of every switch, with the engine running.",
    f"Load dump of an alternator cut off from its battery: ISO 16750-2 (transients); "
    f"makers' manuals of switches and alternators; {CONFIRM}",
)
SW6 = Rule(
    "SW-6",
    "The engine can be started from a second bank",
    "Which banks some position joins to the starter, and whether they can crank it.",
    f"Trade practice; cranking amps from the makers of engine and battery; {CONFIRM}",
)
SW8 = Rule(
    "SW-8",
    "Off is off",
    "With every switch off no load but the always-on ones is fed, and no banks are joined.",
    f"ABYC E-11, battery switches; ISO 13297, isolation of the DC supply; {CONFIRM}",
)
SW9 = Rule(
    "SW-9",
    "No load can drain the engine bank at rest",
    "What the engine bank feeds with the engine stopped, and for how long it could.",
    f"Trade practice: the bank that must start feeds nothing at rest; {CONFIRM}",
)


def loose_alternator(context: Context) -> Iterator[Finding]:
    """SW-4: a position or a move that leaves a running alternator without a bank."""
    for alternator in context.design.of_type(Alternator):
        for switch in context.switches:
            moves = list(_cutting_moves(context, alternator, switch))
            if moves:
                yield _cut_finding(context, alternator, switch, moves)
            if isinstance(switch, Selector):
                yield from _break_finding(context, alternator, switch)


def _loose(context: Context, alternator: Alternator, positions: dict[str, str]) -> bool:
    # By the graph, no relay closed: the field contact has already been thought of there.
    return alternator.id in context.reach(Situation(positions, OPEN), engine="on").loose_sources


def _cutting_moves(
    context: Context, alternator: Alternator, switch: Switch
) -> Iterator[tuple[str, str, dict[str, str]]]:
    """Moves to a next position that cut the alternator off: from, to, the other switches."""
    order = switch_positions(switch)
    neighbours = [*pairwise(order), (order[-1], order[0])]
    steps = neighbours + [(b, a) for a, b in neighbours]
    for positions in context.combinations:
        for here, there in dict.fromkeys(steps):
            if positions[switch.id] != here or _loose(context, alternator, positions):
                continue
            charges = context.reach(Situation(positions, OPEN), engine="on").charges[alternator.id]
            if charges and _loose(context, alternator, positions | {switch.id: there}):
                yield here, there, positions


def _cut_finding(
    context: Context,
    alternator: Alternator,
    switch: Switch,
    moves: list[tuple[str, str, dict[str, str]]],
) -> Finding:
    here, there, positions = _plainest(context, moves)
    point = context.point(engine="on", rpm=RUNNING_RPM, positions=positions)
    now = point.sources[alternator.id]
    into = context.reach(Situation(positions, OPEN), engine="on").charges[alternator.id]
    selector = isinstance(switch, Selector) and switch.field_contact_of is None and there == "off"
    return Finding(
        rule=SW4.id,
        severity="danger",
        title=f"{switch.name} to {there} cuts the running alternator off",
        arithmetic=(
            f"{context.positions_words(positions)}, engine at {RUNNING_RPM:.0f} rpm: "
            f"{alternator.name} gives {now.current_a:.1f} A at {now.volts_v or 0:.2f} V "
            f"into {context.names(into)}.",
            f"Turned from {here} to {there}: no closed path from {alternator.name} to any bank; "
            f"{now.current_a:.1f} A have nowhere to go.",
            f"Such moves found over all positions: {len(moves)}.",
        ),
        figures=(
            Figure("Current cut off", now.current_a, "A"),
            Figure("Moves that cut it off", float(len(moves)), ""),
        ),
        limit="0 moves may do this",
        source=SW4.source,
        why="Its voltage jumps within milliseconds and kills its diodes and the electronics.",
        repair=(
            f"Lead the field of {alternator.name} through a field contact of {switch.name}, "
            "so that it shuts down first."
            if selector
            else f"Bring {alternator.name} to a bank ahead of {switch.name}."
        ),
        parts=(switch.id, alternator.id),
        change=SetFieldContact(selector=switch.id, alternator=alternator.id) if selector else None,
    )


def _plainest(
    context: Context, moves: list[tuple[str, str, dict[str, str]]]
) -> tuple[str, str, dict[str, str]]:
    """The move with the fewest switches away from where they stand as drawn."""
    drawn = {s.id: s.position for s in context.switches}
    return min(moves, key=lambda m: sum(m[2][s] != p for s, p in drawn.items()))


def _break_finding(context: Context, alternator: Alternator, switch: Selector) -> Iterator[Finding]:
    """Between two good positions a selector must not open the circuit on its way."""
    if switch.make_before_break:
        return
    # Whether this selector alone holds the alternator to a bank, its field contact left aside:
    # that acts in off only, not between 1 and both.
    held = next(
        (
            p
            for p in context.combinations
            if p[switch.id] == "1"
            and _charges(context, alternator, p)
            and _charges(context, alternator, p | {switch.id: "both"})
            and not _charges(context, alternator, p | {switch.id: "off"})
        ),
        None,
    )
    if held is None:
        return
    point = context.point(engine="on", rpm=RUNNING_RPM, positions=held)
    amps = point.sources[alternator.id].current_a
    unknown = switch.make_before_break is None
    yield Finding(
        rule=SW4.id,
        severity="cannot_tell" if unknown else "danger",
        title=(
            f"Does {switch.name} make before it breaks?"
            if unknown
            else f"{switch.name} opens the alternator's circuit between 1 and both"
        ),
        arithmetic=(
            f"From 1 to both, engine at {RUNNING_RPM:.0f} rpm: {amps:.1f} A would be cut for the "
            "moment in which neither contact is closed.",
        ),
        figures=(Figure("Current at stake", amps, "A"),),
        limit="0 A may be cut off",
        source=SW4.source,
        why="A running alternator that loses its battery even for milliseconds is damaged.",
        repair=f"Turn {switch.name} only with the engine stopped, or fit one that makes before it "
        "breaks.",
        parts=(switch.id, alternator.id),
        missing=(
            "Ohmmeter from common to 1 while turning from 1 to both, switch out of circuit: "
            "a reading that never opens means make-before-break. Enter it at the switch."
            if unknown
            else None
        ),
    )


def _charges(context: Context, alternator: Alternator, positions: dict[str, str]) -> bool:
    return bool(context.reach(Situation(positions, OPEN), engine="on").charges[alternator.id])


def start_from_another(context: Context) -> Iterator[Finding]:
    """SW-6: some position starts the engine from a bank other than its own."""
    for starter in context.design.of_type(Starter):
        able = {
            bank
            for positions in context.combinations
            for bank in context.reach(Situation(positions, OPEN)).fed_by[starter.id]
        }
        banks = [b for b in context.banks if b.nominal_v == context.design.system_v]
        if len(able) < 2:
            yield _one_start_bank(context, starter, [b for b in banks if b.id in able], banks)
            continue
        spare = [b for b in banks if b.id in able and b.role != "engine"]
        unknown = [b for b in spare if b.cca_a is None]
        if spare and len(unknown) == len(spare):
            yield _unknown_cranking(context, starter, unknown[0])


def _one_start_bank(
    context: Context, starter: Starter, able: list[Bank], banks: list[Bank]
) -> Finding:
    others = [b for b in banks if b not in able]
    reached = context.names([b.id for b in able]) if able else "no bank"
    return Finding(
        rule=SW6.id,
        severity="fault" if others else "note",
        title=f"{starter.name} can be fed by {reached} alone",
        arithmetic=(
            f"Positions tried: {len(context.combinations)}. "
            f"Banks that some position joins to {starter.name}: {len(able)} of {len(banks)}.",
            *(
                f"{b.name}: {b.cca_a:.0f} A CCA against {starter.cranking_a:.0f} A cranking"
                + (", it could start the engine." if b.cca_a >= starter.cranking_a else ".")
                for b in others
                if b.cca_a is not None
            ),
        ),
        figures=(
            Figure("Banks that can start", float(len(able)), ""),
            Figure("Cranking current", starter.cranking_a, "A"),
        ),
        limit="at least 2 banks",
        source=SW6.source,
        why="A boat that cannot start is the failure that everything else is measured against.",
        repair="Fit a parallel switch, or a switch with a combine position, from a second bank.",
        parts=(starter.id, *(b.id for b in able)),
    )


def _unknown_cranking(context: Context, starter: Starter, bank: Bank) -> Finding:
    return Finding(
        rule=SW6.id,
        severity="cannot_tell",
        title=f"Can {bank.name} crank the engine?",
        arithmetic=(
            f"{starter.name} takes {starter.cranking_a:.0f} A; "
            f"the cold cranking amps of {bank.name} are not known.",
        ),
        figures=(Figure("Cranking current", starter.cranking_a, "A"),),
        limit=f"at least {starter.cranking_a:.0f} A CCA",
        source=SW6.source,
        why="A second bank that sags under the starter is no second bank.",
        repair="Read the label, or crank once from this bank alone and read the volts.",
        parts=(bank.id, starter.id),
        missing=f"Cold cranking amps of {bank.name}: on its label; enter them at the bank.",
    )


def off_is_off(context: Context) -> Iterator[Finding]:
    """SW-8: what stays fed or joined with every switch off."""
    reach = context.reach(Situation(context.all_off(), OPEN))
    if not context.switches:
        return
    takers: list[LoadGroup | Starter] = [*context.design.of_type(LoadGroup)]
    takers += context.design.of_type(Starter)
    for part in takers:
        banks = reach.fed_by[part.id]
        always = isinstance(part, LoadGroup) and all(i.always_on for i in part.items)
        if banks and not always:
            yield _still_fed(context, part, banks)
    for joined in reach.joined_banks:
        yield Finding(
            rule=SW8.id,
            severity="fault",
            title=f"{context.names(joined)} stay joined with every switch off",
            arithmetic=(
                f"Switches off: {len(context.switches)}. Banks still joined: {len(joined)}.",
            ),
            figures=(Figure("Banks joined", float(len(joined)), ""),),
            limit="0 banks joined",
            source=SW8.source,
            why="Banks that nothing parts drain each other.",
            repair="Lead the join through a switch or a relay.",
            parts=joined,
        )


def _still_fed(context: Context, part: LoadGroup | Starter, banks: tuple[str, ...]) -> Finding:
    drawn = (
        sum(i.draw_a for i in part.items if not i.always_on)
        if isinstance(part, LoadGroup)
        else part.cranking_a
    )
    capacity = sum(b.capacity_ah for b in context.banks if b.id in banks)
    return Finding(
        rule=SW8.id,
        severity="fault",
        title=f"{part.name} stays live with every switch off",
        arithmetic=(
            f"All {len(context.switches)} switches off: {part.name} is still fed by "
            f"{context.names(banks)}.",
            f"It can draw {drawn:.1f} A: {capacity:.0f} Ah / {drawn:.1f} A = "
            f"{capacity / drawn:.0f} h to flat with all of it on.",
        ),
        figures=(Figure("Draw that no switch cuts", drawn, "A"), Figure("Bank", capacity, "Ah")),
        limit="0 A but the always-on circuits",
        source=SW8.source,
        why="What cannot be cut off cannot be stopped when it burns, and flattens a bank unseen.",
        repair=f"Move the feed of {part.name} behind a switch, or mark its items always-on and "
        "give them a fuse of their own.",
        parts=(part.id, *banks),
    )


def drains_engine_bank(context: Context) -> Iterator[Finding]:
    """SW-9: loads that draw on the engine bank with the engine stopped."""
    profile = context.busiest_profile()
    for bank in (b for b in context.banks if b.role == "engine"):
        draining = [
            (positions, groups)
            for positions in context.combinations
            if (groups := _fed_groups(context, bank, positions))
        ]
        if draining:
            yield _drain_finding(context, bank, profile, draining)


def _fed_groups(context: Context, bank: Bank, positions: dict[str, str]) -> tuple[str, ...]:
    fed_by = context.reach(Situation(positions, OPEN)).fed_by
    return tuple(g.id for g in context.design.of_type(LoadGroup) if bank.id in fed_by[g.id])


def _drain_finding(
    context: Context,
    bank: Bank,
    profile: str | None,
    draining: list[tuple[dict[str, str], tuple[str, ...]]],
) -> Finding:
    drawn = {s.id: s.position for s in context.switches}

    def amps(positions: dict[str, str]) -> float:
        point = context.point(profile=profile, positions=positions, soc=full)
        return sum(now.given_by_a.get(bank.id, 0.0) for now in point.loads.values())

    full = {b.id: 1.0 for b in context.banks}
    worst, groups = max(
        draining, key=lambda d: (round(amps(d[0]), 6), d[0].items() >= drawn.items())
    )
    worst_a = amps(worst)
    limit = context.design.drain_limit_soc
    usable_ah = bank.capacity_ah * (1 - limit)
    lines = [
        f"{context.positions_words(worst)}, engine stopped"
        + (f", {_profile_name(context, profile)}" if profile else "")
        + f": {bank.name} gives {worst_a:.1f} A to {context.names(groups)}.",
    ]
    if worst_a > 0:
        lines.append(
            f"{bank.capacity_ah:.0f} Ah x (1 - {limit:g}) = {usable_ah:.0f} Ah / {worst_a:.1f} A = "
            f"{usable_ah / worst_a:.1f} h from full to {limit:.0%}."
        )
    as_drawn = any(positions.items() >= drawn.items() for positions, _ in draining)
    lines.append(f"Positions that do this: {len(draining)} of {len(context.combinations)}.")
    always = len(draining) == len(context.combinations)
    return Finding(
        rule=SW9.id,
        severity="fault" if always else "caution" if worst_a > 0 or as_drawn else "note",
        title=f"{context.names(groups)} can drain {bank.name} at rest",
        arithmetic=tuple(lines),
        figures=(
            Figure("Draw on the engine bank", worst_a, "A"),
            Figure("Usable charge", usable_ah, "Ah"),
        ),
        limit="0 A from the bank that must start the engine",
        source=SW9.source,
        why="After a quiet night nothing starts.",
        repair=f"Feed {context.names(groups)} from a bank of their own, and share the charge by a "
        "relay instead of by hand.",
        parts=(bank.id, *groups),
    )


def _profile_name(context: Context, profile: str) -> str:
    return next(p.name.lower() for p in context.design.profiles if p.id == profile)


RULES = (
    (SW4, loose_alternator),
    (SW6, start_from_another),
    (SW8, off_is_off),
    (SW9, drains_engine_bank),
)
