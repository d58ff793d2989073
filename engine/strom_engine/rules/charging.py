"""Rules about charging: CH-1, CH-4, CH-7, CH-12, CH-15, CH-16."""

from __future__ import annotations

from collections.abc import Iterator, Mapping
from itertools import combinations
from typing import Literal

from strom_engine.batteries import bank_source
from strom_engine.circuit.network import Network
from strom_engine.circuit.reach import OUTPUTS
from strom_engine.circuit.results import SourceNow
from strom_engine.design import (
    Alternator,
    Bank,
    Cable,
    Charger,
    Relay,
    SetCableGauge,
    SetRelaySensing,
    Solar,
    default_positions,
)
from strom_engine.reference import chemistry
from strom_engine.rules.context import Context, Situation
from strom_engine.rules.finding import CONFIRM, Figure, Finding, Rule
from strom_engine.rules.paths import widest_path

__all__ = [
    "RULES",
    "common_negative",
    "never_charged",
    "relay_negative",
    "sensed_voltage",
    "sensing_side",
    "unlike_joined",
]

OPEN = frozenset[str]()
SENSE_RPM = 2000.0
SENSE_CAUTION_V = 0.1  # a tenth of a volt moves the end of absorption noticeably
SENSE_FAULT_SHARE = 0.03

CH1 = Rule(
    "CH-1",
    "Unlike chemistries are never joined directly",
    "Every position with every set of closed relays.",
    f"ABYC E-13 (lithium batteries) and E-10; makers' charging voltages; {CONFIRM}",
)
CH4 = Rule(
    "CH-4",
    "A relay that watches one side watches the side where the sources land",
    "Which sources reach each side of every single-sensing relay while it is open.",
    f"Makers' manuals of combining relays as commonly published; {CONFIRM}",
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
CH15 = Rule(
    "CH-15",
    "The regulator senses what the bank has",
    "Volts where the regulator senses against volts at the bank, engine at speed.",
    f"ABYC E-11, 3 % voltage drop for charging circuits; makers' manuals of regulators; {CONFIRM}",
)
CH16 = Rule(
    "CH-16",
    "A relay has its negative wire",
    "Whether the thin negative of every relay leads to a bank.",
    f"Makers' manuals of combining relays as commonly published; {CONFIRM}",
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
    if situation.closed_relays:
        how += f", {context.names(sorted(situation.closed_relays))} closed"
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
        repair="Put a dc-dc charger between them, and take the direct link out.",
        parts=(a.id, b.id, *sorted(situation.closed_relays)),
    )


def _emf_and_ohm(bank: Bank) -> tuple[float, float]:
    source = bank_source(bank)
    return source.emf_v, source.resistance_ohm


def sensing_side(context: Context) -> Iterator[Finding]:
    """CH-4: single sensing on the wrong side."""
    for relay in context.design.of_type(Relay):
        if relay.sensing == "dual":
            continue
        other: Literal["a", "b"] = "b" if relay.sensing == "a" else "a"
        blind = [
            (positions, sorted(unseen))
            for positions in context.combinations
            if (unseen := _sources_at(context, relay, other, positions))
            and not _sources_at(context, relay, relay.sensing, positions)
        ]
        if blind:
            yield _sensing_finding(context, relay, other, blind)


def _sources_at(context: Context, relay: Relay, post: str, positions: dict[str, str]) -> set[str]:
    """Sources that land on a side of a relay with the switches so and all relays open."""
    net = context.network(Situation(positions, OPEN))
    return {s.id for s in context.sources if _lands(net, s, f"{relay.id}.{post}")}


def _lands(net: Network, source: Alternator | Charger | Solar, ref: str) -> bool:
    posts = (p for p in OUTPUTS[source.kind] if p in source.posts())
    return any(net.group(f"{source.id}.{post}") == net.group(ref) for post in posts)


def _sensing_finding(
    context: Context,
    relay: Relay,
    other: Literal["a", "b"],
    blind: list[tuple[dict[str, str], list[str]]],
) -> Finding:
    drawn = default_positions(context.design)
    positions, unseen = next((b for b in blind if b[0] == drawn), blind[0])
    point = context.point(engine="on", rpm=2000.0, shore=True, sun=0.6, positions=positions)
    sees_v, other_v = (
        _against_negative(point.post_v, relay, post) for post in (relay.sensing, other)
    )
    wrong = positions == drawn or len(blind) == len(context.combinations)
    return Finding(
        rule=CH4.id,
        severity="fault" if wrong else "caution",
        title=(
            f"{relay.name} watches the side where nothing charges"
            if wrong
            else f"{relay.name} does not see {context.names(unseen)} in every position"
        ),
        arithmetic=(
            f"{context.positions_words(positions)}, relay open: sources that reach the watched "
            f"side {relay.sensing}: 0; side {other}: {context.names(unseen)}.",
            f"All sources on, engine at 2000 rpm: side {relay.sensing} {sees_v:.2f} V, "
            f"side {other} {other_v:.2f} V, cut-in {relay.cut_in_v:g} V.",
            f"Positions in which it is blind: {len(blind)} of {len(context.combinations)}.",
        ),
        figures=(
            Figure("Watched side", sees_v, "V"),
            Figure("Other side", other_v, "V"),
            Figure("Cut-in", relay.cut_in_v, "V"),
        ),
        limit=f"the watched side reaches {relay.cut_in_v:g} V from every source",
        source=CH4.source,
        why="It never closes there, and the other bank is never charged.",
        repair=f"Turn {relay.name} round so that it watches the other side."
        if wrong
        else f"Set {relay.name} to watch both sides.",
        parts=(relay.id, *unseen),
        change=SetRelaySensing(relay=relay.id, sensing=other if wrong else "dual"),
    )


def _against_negative(post_v: Mapping[str, float | None], relay: Relay, post: str) -> float:
    plus, minus = post_v[f"{relay.id}.{post}"], post_v[f"{relay.id}.neg"]
    return 0.0 if plus is None or minus is None else plus - minus


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
        away = [s for s in reached if not isinstance(s, Charger)]
        machines = [s for s in missing if isinstance(s, Alternator)]
        if missing and (machines or not away):
            yield _uncharged_finding(context, bank, reached, missing, bool(away))


def _uncharged_finding(
    context: Context,
    bank: Bank,
    reached: list[Alternator | Charger | Solar],
    missing: list[Alternator | Charger | Solar],
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


def sensed_voltage(context: Context) -> Iterator[Finding]:
    """CH-15: a regulator that believes another voltage than its bank has."""
    point = context.point(engine="on", rpm=SENSE_RPM)
    for alternator in context.design.of_type(Alternator):
        now = point.sources[alternator.id]
        taken = {b: n.given_by_a.get(alternator.id, 0.0) for b, n in point.banks.items()}
        bank = max(taken, key=lambda b: taken[b], default=None)
        if bank is None or now.sense_v is None or taken[bank] < 1.0:
            continue
        error_v = now.sense_v - point.banks[bank].volts_v
        if error_v > SENSE_CAUTION_V:
            yield _sense_finding(context, alternator, bank, now, error_v)


def _sense_finding(
    context: Context, alternator: Alternator, bank: str, now: SourceNow, error_v: float
) -> Finding:
    limit_v = SENSE_FAULT_SHARE * alternator.set_v
    sense_v = now.sense_v or 0.0
    landed = {c.start for c in context.design.cables} | {c.end for c in context.design.cables}
    leads = [p for p in ("sense_pos", "sense_neg") if f"{alternator.id}.{p}" in landed]
    where = {
        0: "at its own posts",
        1: f"by its {'positive' if leads == ['sense_pos'] else 'negative'} lead alone",
        2: "by both leads",
    }[len(leads)]
    return Finding(
        rule=CH15.id,
        severity="fault" if error_v > limit_v else "caution",
        title=f"{alternator.name} believes {context.name(bank)} {error_v:.2f} V higher than it is",
        arithmetic=(
            f"As drawn, engine at {SENSE_RPM:.0f} rpm, {now.current_a:.1f} A: it senses {where}, "
            f"{sense_v:.2f} V.",
            f"{context.name(bank)} has {sense_v - error_v:.2f} V: "
            f"{sense_v:.2f} - {sense_v - error_v:.2f} = {error_v:.2f} V.",
            f"3 % of {alternator.set_v:g} V = {limit_v:.2f} V.",
        ),
        figures=(
            Figure("Sensed", sense_v, "V"),
            Figure("At the bank", sense_v - error_v, "V"),
            Figure("Error", error_v, "V"),
        ),
        limit=f"{limit_v:.2f} V; {SENSE_CAUTION_V:g} V is worth mending",
        source=CH15.source,
        why="It ends the charge by a voltage that the bank does not have: it floats too early.",
        repair=f"Lead both sense wires of an external regulator to {context.name(bank)}, the "
        "positive one fused, and run a thicker cable on both sides.",
        parts=(alternator.id, bank),
    )


def relay_negative(context: Context) -> Iterator[Finding]:
    """CH-16: a relay whose negative wire leads to no bank measures nothing and never closes."""
    for relay in context.design.of_type(Relay):
        net = context.network(Situation(context.combinations[0], OPEN))
        banks = [
            b for b in context.banks if net.group(f"{b.id}.neg") == net.group(f"{relay.id}.neg")
        ]
        if not banks:
            yield Finding(
                rule=CH16.id,
                severity="fault",
                title=f"{relay.name} has no negative",
                arithmetic=("Banks whose negative its thin wire leads to: 0.",),
                figures=(Figure("Banks reached", 0.0, ""),),
                limit="1 bank at least",
                source=CH16.source,
                why="Without its reference it never closes.",
                repair="Lead its negative wire, with its own small fuse, to the common negative.",
                parts=(relay.id,),
            )


RULES = (
    (CH1, unlike_joined),
    (CH4, sensing_side),
    (CH7, never_charged),
    (CH12, common_negative),
    (CH15, sensed_voltage),
    (CH16, relay_negative),
)
