"""Findings that need time, from a day that was run: what a still moment cannot show."""

from __future__ import annotations

from collections.abc import Iterator

from strom_engine.batteries import expected_life
from strom_engine.dayrun.cures import calmer, source_to_house
from strom_engine.dayrun.heat import LIMIT_C
from strom_engine.dayrun.lines import CHATTER_AN_HOUR, FULL, STUCK_H, WHOLE_DAY_H
from strom_engine.design import Bank, Relay, SetPart, Solar
from strom_engine.design.fields import PostRef
from strom_engine.rules import (
    banks,
    charging_rules,
    chatter,
    drops,
    joining_rules,
    load_dump,
    regulation,
    sensing,
)
from strom_engine.rules.context import is_lithium
from strom_engine.rules.day_run import DayRun
from strom_engine.rules.finding import Figure, Finding, Rule

__all__ = ["DayRun", "day_findings"]

EARLY_FAULT = 0.8
HOT_H = 0.5
EMPTY = 0.02  # a bank that holds no more counts as empty; own judgement
# Closures under load that a relay's contact is made for (makers' data as commonly published).
CONTACT_LIFE = 100_000
ORDER = ("danger", "fault", "caution", "note")


def day_findings(day: DayRun) -> tuple[Finding, ...]:
    """Everything that rules of time find in a day, the gravest first.

    Args:
        day: a computed day with what it was run from.

    Raises:
        ComputationError: a rule's arithmetic fails.
    """
    checks = (
        *(_starts, _dumps, _unlike, _overloads, _chatter, _stuck),
        *(_early, _hot, _never, _empty, _wear, _dropped),
    )
    found = [finding for check in checks for finding in check(day)]
    return tuple(sorted(found, key=lambda f: ORDER.index(f.severity)))


def _rule(rules: tuple[tuple[Rule, object], ...], name: str) -> Rule:
    return next(rule for rule, _ in rules if rule.id == name)


def _starts(day: DayRun) -> Iterator[Finding]:
    """BA-2 by the day: a start that fails with what the banks hold at that moment."""
    rule = _rule(banks.RULES, "BA-2")
    failed = [t for t in day.report.starts if not t.started]
    if not failed:
        return
    one = failed[0]
    volts = 0.0 if one.volts_v is None else one.volts_v
    feeding = ", ".join(day.name(b) for b in one.banks) or "no bank"
    yield Finding(
        rule=rule.id,
        severity="danger" if day.report.stranded else "fault",
        title=f"The engine does not start at {day.at(one.at_s)}",
        arithmetic=(
            f"{day.during}: {one.current_a:.0f} A from {feeding}, {volts:.1f} V at the starter, "
            f"limit {one.limit_v:g} V: {one.limit_v - volts:.1f} V short.",
        ),
        figures=(Figure("At the starter", volts, "V"), Figure("Limit", one.limit_v, "V")),
        limit=f"{one.limit_v:g} V at the starter",
        source=rule.source,
        why="A boat that cannot start is the failure that all else is measured against.",
        repair="Keep a bank for the engine alone at rest, and share charge with it.",
        parts=(one.starter,),
        about="fails in a day",
    )


def _dumps(day: DayRun) -> Iterator[Finding]:
    """SW-4 and CH-9 by the day: an alternator lost its bank while it gave current."""
    rule = _rule(load_dump.RULES, "SW-4")
    for hazard in day.report.hazards:
        if hazard.kind != "load_dump" or hazard.at_s is None:
            continue
        yield Finding(
            rule=rule.id,
            severity="danger",
            title=f"{day.name(hazard.part)} loses its bank under load in a day",
            arithmetic=(f"{day.during}, {day.at(hazard.at_s)}: {hazard.words}.",),
            figures=(Figure("Moment", hazard.at_s / 3600, "h"),),
            limit="a bank on every alternator that gives current",
            source=rule.source,
            why="Its voltage jumps and kills diodes and electronics.",
            repair="A field contact, a surge clamp, or a bank that stays on the alternator.",
            parts=(hazard.part,),
            about="lost its bank in a day",
        )


def _unlike(day: DayRun) -> Iterator[Finding]:
    """CH-1 by the day: lead and lithium were joined."""
    rule = _rule(charging_rules.RULES, "CH-1")
    for hazard in day.report.hazards:
        if hazard.kind != "unlike" or hazard.at_s is None:
            continue
        yield Finding(
            rule=rule.id,
            severity="danger",
            title=f"{hazard.words} in a day",
            arithmetic=(f"{day.during}, {day.at(hazard.at_s)}: {hazard.words}.",),
            figures=(Figure("Moment", hazard.at_s / 3600, "h"),),
            limit="never",
            source=rule.source,
            why="Each is charged as the other needs it, and the one drains into the other.",
            repair="A dc-dc charger between them; no position of a switch that joins them.",
            parts=(hazard.part,),
            about="joined in a day",
        )
        return


def _overloads(day: DayRun) -> Iterator[Finding]:
    """CH-3 by the day: what shares charge carried more than it is rated for, for long."""
    rule = _rule(joining_rules.RULES, "CH-3")
    for hazard in day.report.hazards:
        if hazard.kind != "overload" or not isinstance(day.design.by_id[hazard.part], Relay):
            continue
        yield Finding(
            rule=rule.id,
            severity="fault",
            title=f"{day.name(hazard.part)} is overloaded in a day",
            arithmetic=(f"{day.during}: {hazard.words}.",),
            figures=(Figure("Plan", day.plan.hours, "h"),),
            limit="its continuous rating",
            source=rule.source,
            why="Its contact heats up and welds shut.",
            repair="A relay of a higher rating, or less current through it.",
            parts=(hazard.part,),
            about="overloaded in a day",
        )


def _chatter(day: DayRun) -> Iterator[Finding]:
    """CH-5 by the day: closures counted, with what they cost."""
    rule = _rule(chatter.RULES, "CH-5")
    to_house = source_to_house(day.design)
    for one in (*day.report.relays, *day.report.gear):
        if one.most_an_hour < CHATTER_AN_HOUR:
            continue
        kind = day.design.by_id[one.relay].kind
        moved = to_house if kind == "relay" else None
        a_day = one.closures / max(1.0, day.plan.hours / 24)
        years = CONTACT_LIFE / a_day / 365
        charges = (
            f"{day.name(b.bank)} {b.begin_soc:.0%} to {b.end_soc:.0%}" for b in day.report.banks
        )
        yield Finding(
            rule=rule.id,
            severity="fault",
            title=f"{day.name(one.relay)} chatters in a day",
            arithmetic=(
                f"{day.during}: {one.closures} closures, up to {one.most_an_hour} in one hour; "
                f"closed for {one.closed_h:.1f} h in all.",
                f"Over the plan: {', '.join(charges)}.",
                f"A contact made for {CONTACT_LIFE:,.0f} closures lasts {years:.1f} years of such "
                "days.",
            ),
            figures=(
                Figure("Closures an hour", one.most_an_hour, "1/h"),
                Figure("Closures", one.closures, ""),
            ),
            limit=f"fewer than {CHATTER_AN_HOUR:g} closures an hour",
            source=rule.source,
            why="While it is open the banks are charged apart, and its contact wears out.",
            repair=calmer(day.design, one.relay),
            parts=(one.relay,),
            change=moved,
            about="chatters in a day",
        )


def _stuck(day: DayRun) -> Iterator[Finding]:
    """CH-13 by the day: a relay stood closed while nothing charged."""
    rule = _rule(chatter.RULES, "CH-13")
    for one in day.report.relays:
        if one.idle_h <= STUCK_H:
            continue
        yield Finding(
            rule=rule.id,
            severity="fault" if one.idle_h > 4 * STUCK_H else "caution",
            title=f"{day.name(one.relay)} stands closed with nothing charging",
            arithmetic=(
                f"{day.during}: closed for {one.closed_h:.1f} h, {one.idle_h:.1f} h of them "
                "while no source gave half an ampere.",
            ),
            figures=(Figure("Closed with nothing charging", one.idle_h, "h"),),
            limit=f"{STUCK_H:g} h",
            source=rule.source,
            why="Nothing separates the banks: loads drain both, as far as the cut-out.",
            repair="A higher cut-out between like banks; a dc-dc charger between unlike ones.",
            parts=(one.relay,),
            about="stands closed in a day",
        )


def _early(day: DayRun) -> Iterator[Finding]:
    """CH-15 by the day: the charge at which float really begins."""
    rule = _rule(sensing.RULES, "CH-15")
    for source in dict.fromkeys(f.source for f in day.report.floats):
        worst = min((f for f in day.report.floats if f.source == source), key=lambda f: f.soc)
        if worst.soc >= FULL:
            continue
        yield Finding(
            rule=rule.id,
            severity="fault" if worst.soc < EARLY_FAULT else "caution",
            title=f"{day.name(source)} goes to float too early",
            arithmetic=(
                f"{day.during}, {day.at(worst.at_s)}: float begins with "
                f"{day.name(worst.bank)} at {worst.soc:.0%}; full is taken from {FULL:.0%}.",
            ),
            figures=(Figure("Charge when float begins", 100 * worst.soc, "%"),),
            limit=f"{FULL:.0%}",
            source=rule.source,
            why="The bank never fills, and lead that never fills turns to sulphate.",
            repair="Both sense leads to the bank, thicker cable on both sides; a longer absorption "
            "is a crutch.",
            parts=(source, worst.bank),
            about="floats early in a day",
        )


def _hot(day: DayRun) -> Iterator[Finding]:
    """CH-9 by the day: hours above the limit of an alternator."""
    rule = _rule(regulation.RULES, "CH-9")
    for name, hours in day.report.hot_h.items():
        if hours <= HOT_H:
            continue
        hottest = day.report.hottest_c[name]
        yield Finding(
            rule=rule.id,
            severity="fault",
            title=f"{day.name(name)} is too hot for {hours:.1f} h in a day",
            arithmetic=(
                f"{day.during}: up to {hottest:.0f} °C, above {LIMIT_C:g} °C for {hours:.1f} h of "
                f"{day.report.engine_h:.1f} h of engine.",
            ),
            figures=(Figure("Hottest", hottest, "°C"), Figure("Too hot", hours, "h")),
            limit=f"{HOT_H:g} h",
            source=rule.source,
            why="Windings and diodes age within months instead of years.",
            repair="A regulator with a temperature probe, a belt or field limit, or a dc-dc "
            "charger between.",
            parts=(name,),
            about="hot in a day",
        )


def _never(day: DayRun) -> Iterator[Finding]:
    """CH-7 by the day: a bank that nothing charged though something ran, or the sun shone."""
    rule = _rule(charging_rules.RULES, "CH-7")
    ran = day.report.engine_h >= 1 or bool(day.plan.shore)
    shone = bool(day.design.of_type(Solar)) and day.plan.hours >= WHOLE_DAY_H
    for one in day.report.banks:
        bank = day.design.by_id[one.bank]
        # With nothing but the sun a start bank counts: it is what must never be found flat.
        of_start = isinstance(bank, Bank) and bank.role == "engine"
        if one.was_charged or not (ran or (shone and of_start)):
            continue
        lost = 100 * (one.begin_soc - one.end_soc)
        yield Finding(
            rule=rule.id,
            severity="caution",
            title=f"{day.name(one.bank)} is never charged in a day",
            arithmetic=(
                f"{day.during}: {one.in_ah:.1f} Ah in, {one.out_ah:.1f} Ah out; from "
                f"{one.begin_soc:.0%} to {one.end_soc:.0%}, {lost:.1f} % less.",
            ),
            figures=(Figure("Charge in", one.in_ah, "Ah"),),
            limit="half a hundredth of its capacity",
            source=rule.source,
            why="It empties of itself, and is flat when it is needed.",
            repair="A relay, a dc-dc charger or an output of the charger for it.",
            parts=(one.bank,),
            about="never charged in a day",
        )


def _empty(day: DayRun) -> Iterator[Finding]:
    """BA-1 by the day: a bank that is run empty."""
    rule = _rule(banks.RULES, "BA-1")
    for one in day.report.banks:
        if one.lowest_soc > EMPTY:
            continue
        bank = day.design.by_id[one.bank]
        assert isinstance(bank, Bank)
        yield Finding(
            rule=rule.id,
            severity="fault",
            title=f"{bank.name} is run empty in a day",
            arithmetic=(
                f"{day.during}: down to {one.lowest_soc:.0%} at {day.at(one.lowest_at_s)}; "
                f"{one.out_ah:.0f} Ah out, {one.in_ah:.0f} Ah in, of {bank.capacity_ah:g} Ah.",
            ),
            figures=(Figure("Lowest charge", 100 * one.lowest_soc, "%"),),
            limit=f"above {EMPTY:.0%}",
            source=rule.source,
            why="Its protection opens, and everything on it is dark."
            if is_lithium(bank)
            else "A lead bank that is run empty loses capacity for good.",
            repair="A larger bank, more charging, or fewer loads.",
            parts=(bank.id,),
            about="empty in a day",
        )


def _wear(day: DayRun) -> Iterator[Finding]:
    """BA-8 by the day: years at the depth that this way of living takes."""
    rule = _rule(banks.RULES, "BA-8")
    if day.survey is None or day.survey.use.days_a_year is None:
        return
    for one in day.report.banks:
        bank = day.design.by_id[one.bank]
        assert isinstance(bank, Bank)
        depth = max(one.begin_soc, one.end_soc) - one.lowest_soc
        period = max(1.0, day.plan.hours / 24)
        cycles = day.survey.use.days_a_year / period
        life = expected_life(bank.chemistry, 1 - one.lowest_soc, cycles)
        if life.years >= banks.SHORT_LIFE_YEARS or depth < 0.1:
            continue
        yield Finding(
            rule=rule.id,
            severity="caution",
            title=f"{bank.name} lasts about {life.years:.1f} years used like this",
            arithmetic=(
                f"{day.during}: down to {one.lowest_soc:.0%}, {cycles:.0f} times a year "
                f"({day.survey.use.days_a_year:g} days / {period:.1f}).",
                *life.working,
            ),
            figures=(
                Figure("Depth", 100 * (1 - one.lowest_soc), "%"),
                Figure("Life", life.years, "years"),
            ),
            limit=f"{banks.SHORT_LIFE_YEARS:g} years",
            source=rule.source,
            why="Deep cycles wear a bank out; lead most of all.",
            repair="A larger bank, charging more often, or another chemistry.",
            parts=(bank.id,),
            about="wears out in a day",
        )


def _dropped(day: DayRun) -> Iterator[Finding]:
    """CO-8 by the day: what drops out while an engine is started."""
    rule = _rule(drops.RULES, "CO-8")
    relays = [r.relay for r in day.report.relays]
    apart = [r for r in relays if not getattr(day.design.by_id[r], "start_isolation", True)]
    if not day.report.dips:
        return
    worst, *others = day.report.dips
    names = ", ".join(dip.name for dip in day.report.dips)
    yield Finding(
        rule=rule.id,
        severity="caution",
        title=f"{names}: too few volts while the engine is started",
        arithmetic=tuple(
            f"{day.during}: {dip.name} {dip.volts_v:.2f} V, needs {dip.limit_v:g} V: "
            f"{dip.limit_v - dip.volts_v:.2f} V short."
            for dip in (worst, *others)
        ),
        figures=(Figure("Lowest", worst.volts_v, "V"), Figure("Needs", worst.limit_v, "V")),
        limit=f"{worst.limit_v:g} V",
        source=rule.source,
        why="Electronics start anew at every start, and lose what they were doing.",
        repair="Start isolation at the relay, or a feed from a bank that does not crank the "
        "engine.",
        parts=tuple(dict.fromkeys(PostRef(dip.item).part for dip in day.report.dips)),
        change=SetPart(part=apart[0], fields={"start_isolation": True})
        if len(apart) == 1
        else None,
        about="drops out at a start",
    )
