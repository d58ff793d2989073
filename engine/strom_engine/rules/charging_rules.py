"""Rules about who may be charged and joined: CH-1, CH-7, CH-12."""

from __future__ import annotations

from collections.abc import Iterator
from itertools import combinations

from strom_engine.batteries import bank_source
from strom_engine.circuit.network import Network
from strom_engine.circuit.widest_path import widest_path
from strom_engine.design import (
    Alternator,
    Bank,
    Cable,
    Charger,
    FittedInverter,
    SetCableGauge,
    Source,
)
from strom_engine.reference import chemistry
from strom_engine.rules.context import Context, Situation
from strom_engine.rules.finding import CONFIRM, Figure, Finding, Rule

__all__ = ["RULES", "common_negative", "never_charged", "unlike_joined"]


CH1 = Rule(
    "CH-1",
    "Unlike chemistries are never joined directly",
    "Every position with every set of closed relays.",
    f"ABYC E-13 (lithium batteries) and E-10; makers' charging voltages; {CONFIRM}",
)

CH7 = Rule(
    "CH-7",
    "Every bank has a charging path from the sources aboard",
    "The table of sources and banks over all positions and closed relays.",
    f"Trade practice: charge together, discharge apart; {CONFIRM}",
)

CH12 = Rule(
    "CH-12",
    "Banks that can be joined share a negative as large as the positive link",
    "Smallest conductor on the widest path between each pair of banks, on both sides.",
    f"ABYC E-11, common negative of paralleled batteries; {CONFIRM}",
)


def unlike_joined(context: Context) -> Iterator[Finding]:
    """CH-1: banks of unlike chemistry joined in any reachable state."""
    pairs: dict[tuple[str, str], Situation] = {}
    for situation in context.situations():
        for joined in context.reach(situation).joined_banks:
            for pair in combinations(sorted(joined), 2):
                pairs.setdefault((pair[0], pair[1]), situation)
    for (first, second), situation in pairs.items():
        a, b = (bank for i in (first, second) for bank in context.banks if bank.id == i)
        if a.chemistry != b.chemistry and a.nominal_v == b.nominal_v:
            yield from _unlike_finding(context, a, b, situation)


def _unlike_finding(context: Context, a: Bank, b: Bank, situation: Situation) -> Iterator[Finding]:
    fa, fb = chemistry(a.chemistry), chemistry(b.chemistry)
    blocks = a.nominal_v / 12
    absorb_v = abs(fa.absorption_v - fb.absorption_v) * blocks
    lithium = fa.family != fb.family
    if not lithium and absorb_v < 0.15 * blocks:
        return
    (ea, ra), (eb, rb) = _emf_and_ohm(a), _emf_and_ohm(b)
    inrush_a = abs(ea - eb) / (ra + rb)
    how = context.positions_words(situation.positions)
    if situation.moved:
        how += f", {context.names(sorted(situation.moved))} closed"
    yield Finding(
        rule=CH1.id,
        severity="danger" if lithium else "caution",
        title=f"{a.name} and {b.name} can be joined: {fa.label} with {fb.label}",
        arithmetic=(
            f"Joined by: {how}.",
            f"At rest now {a.name} {ea:.2f} V, {b.name} {eb:.2f} V: "
            f"{abs(ea - eb):.2f} V / ({ra * 1000:.1f} + {rb * 1000:.1f} mohm) = "
            f"at most {inrush_a:.0f} A at the moment of joining, less by the cables.",
            f"Absorption {fa.absorption_v * blocks:.1f} V and {fb.absorption_v * blocks:.1f} V "
            f"(typical): {absorb_v:.1f} V apart.",
        ),
        figures=(
            Figure("Rest volts apart", abs(ea - eb), "V"),
            Figure("Largest inrush", inrush_a, "A"),
            Figure("Absorption volts apart", absorb_v, "V"),
        ),
        limit="no path of metal between unlike chemistries",
        source=CH1.source,
        why="One of them is charged wrongly for as long as they are joined, and the lithium bank "
        "pours into the other without a limit."
        if lithium
        else "One of them is always over- or undercharged.",
        repair="Put a dc-dc charger between them, and take the direct link out"
        + (
            "; for a start in an emergency a spare start battery, a post for a jump pack, or a "
            "dc-dc charger that charges back is accepted, and none of these joins the two."
            if lithium
            else "."
        ),
        parts=(a.id, b.id, *sorted(situation.moved)),
    )


def _emf_and_ohm(bank: Bank) -> tuple[float, float]:
    source = bank_source(bank)
    return source.emf_v, source.resistance_ohm


def never_charged(context: Context) -> Iterator[Finding]:
    """CH-7: a bank with no charging path from a source that is aboard."""
    paths: dict[str, set[str]] = {b.id: set() for b in context.banks}
    for situation in context.situations():
        for source, reached_banks in context.reach(situation).charges.items():
            for reached_bank in reached_banks:
                paths[reached_bank].add(source)
    for bank in context.banks:
        reached = [s for s in context.sources if s.id in paths[bank.id]]
        missing = [s for s in context.sources if s.id not in paths[bank.id]]
        away = [s for s in reached if not isinstance(s, Charger | FittedInverter)]
        machines = [s for s in missing if isinstance(s, Alternator)]
        if missing and (machines or not away):
            yield _uncharged_finding(context, bank, reached, missing, bool(away))


def _uncharged_finding(
    context: Context,
    bank: Bank,
    reached: list[Source],
    missing: list[Source],
    away: bool,
) -> Finding:
    lost = ", ".join(s.name.lower() for s in missing)
    by = ", ".join(s.name.lower() for s in reached) or "nothing"
    states = sum(1 for _ in context.situations())
    return Finding(
        rule=CH7.id,
        severity="caution" if away else "fault",
        title=(
            f"{bank.name}: {lost} never {'reach' if len(missing) > 1 else 'reaches'} it"
            if reached
            else f"{bank.name}: no source ever reaches it"
        ),
        arithmetic=(
            f"States tried, all positions with all relays: {states}.",
            f"Charged by: {by}. Not by: {lost}.",
            f"Sources with a path: {len(reached)} of {len(context.sources)}.",
        ),
        figures=(
            Figure("Sources with a path", float(len(reached)), ""),
            Figure("Sources aboard", float(len(context.sources)), ""),
        ),
        limit="a path from the alternator, and one away from shore",
        source=CH7.source,
        why="Away from the quay it only goes down."
        if not away
        else "It gets nothing from the engine.",
        repair=f"Share the charge with {bank.name} by a relay or a dc-dc charger from a bank that "
        "is charged.",
        parts=(bank.id, *(s.id for s in missing)),
    )


def common_negative(context: Context) -> Iterator[Finding]:
    """CH-12: banks that can be joined need a negative link as large as the positive one."""
    done: set[tuple[str, str]] = set()
    for situation in context.situations():
        net = context.network(situation)
        for a, b in combinations(context.banks, 2):
            if (a.id, b.id) in done or net.group(f"{a.id}.pos") != net.group(f"{b.id}.pos"):
                continue
            done.add((a.id, b.id))
            yield from _negative_finding(context, situation, net, a, b)


def _negative_finding(
    context: Context, situation: Situation, net: Network, a: Bank, b: Bank
) -> Iterator[Finding]:
    how = context.positions_words(situation.positions)
    positive = widest_path(context.design, net, f"{a.id}.pos", f"{b.id}.pos")
    negative = widest_path(context.design, net, f"{a.id}.neg", f"{b.id}.neg")
    if positive is None:
        return
    if negative is None:
        yield Finding(
            rule=CH12.id,
            severity="danger",
            title=f"{a.name} and {b.name} have no common negative",
            arithmetic=(
                f"{how}: the positives meet through {positive.gauge} at the narrowest; "
                "conductors between the negatives: 0.",
            ),
            figures=(Figure("Positive link", positive.area_mm2, "mm²"),),
            limit=f"at least {positive.area_mm2:g} mm² between the negatives",
            source=CH12.source,
            why="Nothing parallels and nothing charges, and current finds other ways back.",
            repair=f"Run {positive.gauge} between the negatives of {a.name} and {b.name}.",
            parts=(a.id, b.id),
        )
    elif negative.area_mm2 < positive.area_mm2:
        yield _narrow_finding(context, how, positive, negative, a, b)


def _narrow_finding(
    context: Context, how: str, positive: Cable, negative: Cable, a: Bank, b: Bank
) -> Finding:
    name = context.design.cable_name(negative)
    return Finding(
        rule=CH12.id,
        severity="fault",
        title=f"The negative between {a.name} and {b.name} is thinner than the positive",
        arithmetic=(
            f"{how}: narrowest of the positive link: "
            f"{context.design.cable_name(positive)}, "
            f"{positive.gauge} = {positive.area_mm2:g} mm².",
            f"Narrowest of the negative link: {name}, "
            f"{negative.gauge} = {negative.area_mm2:g} mm².",
            f"{negative.area_mm2:g} / {positive.area_mm2:g} = "
            f"{negative.area_mm2 / positive.area_mm2:.0%}.",
        ),
        figures=(
            Figure("Positive link", positive.area_mm2, "mm²"),
            Figure("Negative link", negative.area_mm2, "mm²"),
        ),
        limit=f"at least {positive.area_mm2:g} mm²",
        source=CH12.source,
        why="Whatever passes between the banks must come back; here it heats the thinner wire.",
        repair=f"Replace {name} by {positive.gauge}.",
        parts=(negative.id, a.id, b.id),
        change=SetCableGauge(cable=negative.id, gauge=positive.gauge),
    )


RULES = (
    (CH1, unlike_joined),
    (CH7, never_charged),
    (CH12, common_negative),
)
