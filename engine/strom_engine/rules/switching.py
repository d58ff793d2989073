"""Rules about switches: SW-6, SW-8, SW-9."""

from __future__ import annotations

from collections.abc import Iterator

from strom_engine.design import Bank, LoadGroup, Protection, Starter
from strom_engine.rules.context import Context, Situation, is_lithium
from strom_engine.rules.finding import CONFIRM, Figure, Finding, Rule, Severity

__all__ = ["RULES", "drains_engine_bank", "off_is_off", "start_from_another"]

OPEN = frozenset[str]()

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
        unknown = [b for b in spare if _gives_starter_a(context, b) is None]
        if spare and len(unknown) == len(spare):
            yield _unknown_cranking(context, starter, unknown[0])


def _gives_starter_a(context: Context, bank: Bank) -> float | None:
    """What a bank gives a starter [A]: lead by its cranking amps, lithium by its protection."""
    if not is_lithium(bank):
        return bank.cca_a
    guards = [p for p in context.design.of_type(Protection) if p.guards == bank.id]
    told = [p.discharge_limit_a for p in guards if p.discharge_limit_a is not None]
    return min(told, default=None)


def _one_start_bank(
    context: Context, starter: Starter, able: list[Bank], banks: list[Bank]
) -> Finding:
    others = [b for b in banks if b not in able]
    reached = context.names([b.id for b in able]) if able else "no bank"
    # Another family must not be joined to the bank that starts (CH-1): then a spare counts.
    unlike = bool(able and others) and all(is_lithium(o) != is_lithium(able[0]) for o in others)
    severity: Severity = "fault" if others else "note"
    return Finding(
        rule=SW6.id,
        severity="caution" if unlike else severity,
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
        repair=f"Do not join {context.names([o.id for o in others])} to it, for they are unlike. "
        "What is accepted: a spare start battery, a post for a jump pack, or a dc-dc charger that "
        f"charges {reached} from the other bank."
        if unlike
        else "Fit a parallel switch, or a switch with a combine position, from a second bank.",
        parts=(starter.id, *(b.id for b in able)),
    )


def _unknown_cranking(context: Context, starter: Starter, bank: Bank) -> Finding:
    lead = not is_lithium(bank)
    figure = (
        f"the cold cranking amps of {bank.name}"
        if lead
        else f"the amps that the protection of {bank.name} lets pass"
    )
    where = "on its label; enter them at the bank" if lead else "in its manual; enter them there"
    return Finding(
        rule=SW6.id,
        severity="cannot_tell",
        title=f"Can {bank.name} crank the engine?",
        arithmetic=(f"{starter.name} takes {starter.cranking_a:.0f} A; not known: {figure}.",),
        figures=(Figure("Cranking current", starter.cranking_a, "A"),),
        limit=f"at least {starter.cranking_a:.0f} A" + (" CCA" if lead else ""),
        source=SW6.source,
        why="A second bank that sags or trips under the starter is no second bank.",
        repair=f"Read the {'label' if lead else 'manual'}, or crank once from this bank alone and "
        "read the volts.",
        parts=(bank.id, starter.id),
        missing=f"{figure[0].upper()}{figure[1:]}: {where}.",
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
        # A load that is fed in every position is SW-7's to tell.
        told = isinstance(part, LoadGroup) and all(
            context.reach(Situation(p, OPEN)).fed_by[part.id] for p in context.combinations
        )
        if banks and not always and not told:
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
    flat, capacity = context.flat_words(drawn, banks)
    return Finding(
        rule=SW8.id,
        severity="fault",
        title=f"{part.name} stays live with every switch off",
        arithmetic=(
            f"All {len(context.switches)} switches off: {part.name} is still fed by "
            f"{context.names(banks)}.",
            flat,
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
    (SW6, start_from_another),
    (SW8, off_is_off),
    (SW9, drains_engine_bank),
)
