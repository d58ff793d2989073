"""The verdict of a day: plain sentences with numbers, and what would mend what is wrong."""

from __future__ import annotations

from collections.abc import Iterable, Mapping

from strom_engine.dayrun.cures import calmer, charging_cure, cooler, sense_cure, start_cure
from strom_engine.dayrun.day import Day
from strom_engine.dayrun.events import StartTry
from strom_engine.dayrun.lines import (
    CHATTER_AN_HOUR,
    FULL,
    STUCK_H,
    WHOLE_DAY_H,
    BankDay,
    FloatBegan,
    Hazard,
    RelayDay,
    Sentence,
    Unmet,
    clock_words,
)
from strom_engine.design import Alternator, Bank, Charger, Design, FittedInverter, Solar
from strom_engine.reference import chemistry

__all__ = ["is_stranded", "verdict_of"]

WELL_CHARGED = 0.8  # a start bank that is fuller does not fail for lack of charge; own judgement


def verdict_of(
    day: Day,
    banks: tuple[BankDay, ...],
    relays: tuple[RelayDay, ...],
    floats: tuple[FloatBegan, ...],
    unmet: tuple[Unmet, ...],
    hazards: tuple[Hazard, ...],
) -> Iterable[Sentence]:
    """Every sentence that a day deserves, in the order of what people ask first."""
    design, tallies = day.design, day.tallies
    yield from _about_starts(day)
    yield from _about_banks(day, banks)
    yield from _about_shore(day)
    yield from _about_hazards(hazards)
    yield from _about_relays(design, relays, day)
    yield from _about_floats(design, floats)
    yield from _about_heat(design, tallies.hot_h, tallies.hottest_c)
    yield from _about_loads(unmet)


def is_stranded(tries: tuple[StartTry, ...]) -> bool:
    """Whether some start failed for good, its second try in an emergency too."""
    for i, one in enumerate(tries):
        later = tries[i + 1] if i + 1 < len(tries) else None
        mended = later is not None and later.in_emergency and later.engine == one.engine
        if not one.started and not mended:
            return True
    return False


def _about_starts(day: Day) -> Iterable[Sentence]:
    tries = day.tries
    if not tries:
        if day.plan.engine:
            yield Sentence("caution", "The engine was to be started, but has no starter drawn.")
        return
    failed = [t for t in tries if not t.started]
    together = next((t for t in tries if t.only_together), None)
    if not failed and together is not None:
        yield _together(day, together)
        return
    if not failed:
        known = [t for t in tries if t.volts_v is not None]
        weakest = min(known, key=lambda t: t.volts_v or 0.0)
        times = "once" if len(tries) == 1 else f"{len(tries)} times out of {len(tries)}"
        margin = (weakest.volts_v or 0.0) - weakest.limit_v
        fresh = ", fresh from charging; a rested bank has less" if weakest.fresh else ""
        yield Sentence(
            "good" if margin > 0.3 else "caution",
            f"The engine starts {times}; the weakest has {weakest.volts_v:.1f} V at the starter, "
            f"{margin:.1f} V above the limit of {weakest.limit_v:.1f} V{fresh}.",
            "" if margin > 0.3 else "Thicker starter cables, or a larger start bank.",
        )
        return
    first = failed[0]
    at = clock_words(day.plan.clock_h, first.at_s, day.plan.hours)
    has = "no bank" if first.volts_v is None else f"{first.volts_v:.2f} V"
    if is_stranded(tries):
        yield Sentence(
            "bad",
            f"The engine does not start at {at}: {has} at the starter, "
            f"limit {first.limit_v:.2f} V.",
            start_cure(day.design),
        )
    else:
        yield Sentence(
            "caution",
            f"At {at} the engine starts only with the banks joined in an emergency; alone it had "
            f"{has} at the starter.",
            "Start on the engine bank alone, and see that it is charged.",
        )


def _together(day: Day, one: StartTry) -> Sentence:
    """An engine that starts only because its banks are joined: what each would have alone."""
    by_id = day.design.by_id
    alone = ", ".join(
        f"{by_id[name].name} {'nothing' if volts is None else f'{volts:.1f} V'}"
        for name, volts in one.alone_v.items()
    )
    begun = {b.id: day.plan.soc.get(b.id, b.soc) for b in day.design.of_type(Bank)}
    taken = max(begun[name] - day.ended_soc[name] for name in one.banks)
    days = max(1.0, day.plan.hours / 24)
    more = f" One more such day takes {taken / days:.0%} more." if taken > 0.005 else ""
    at = clock_words(day.plan.clock_h, one.at_s, day.plan.hours)
    return Sentence(
        "bad",
        f"At {at} the engine starts only because banks are joined: together "
        f"{one.volts_v or 0.0:.1f} V at the starter, alone {alone}; limit {one.limit_v:.1f} V."
        f"{more}",
        _cure_of_a_start(day, one),
    )


def _cure_of_a_start(day: Day, one: StartTry) -> str:
    """What helps: copper or cranking amps where the start bank is well charged, else charge."""
    starts = {b.id for b in day.design.of_type(Bank) if b.role == "engine"} & set(one.banks)
    if any(day.tallies.lowest_soc[name][0] >= WELL_CHARGED for name in starts):
        return "Thicker or shorter starter cables, or a start bank with more cranking amps."
    return start_cure(day.design)


def _about_banks(day: Day, banks: tuple[BankDay, ...]) -> Iterable[Sentence]:
    by_id = day.design.by_id
    within = []
    for one in sorted(banks, key=lambda b: b.lowest_soc):
        bank = by_id[one.bank]
        assert isinstance(bank, Bank)
        usable = chemistry(bank.chemistry).usable_low_soc
        if one.lowest_soc >= usable - 0.005:
            within.append(f"{bank.name} {one.lowest_soc:.0%}")
            continue
        at = clock_words(day.plan.clock_h, one.lowest_at_s, day.plan.hours)
        yield Sentence(
            "bad" if one.lowest_soc < usable - 0.2 else "caution",
            f"{bank.name} falls to {one.lowest_soc:.0%} at {at}; below {usable:.0%} it wears out "
            f"fast. At the end it holds {one.end_soc:.0%}.",
            "A larger bank, more charging, or fewer loads.",
        )
    if within:
        yield Sentence("good", f"Lowest charge within what may be used: {', '.join(within)}.")
    never = [by_id[b.bank].name for b in banks if not b.was_charged]
    ran = day.tallies.engine_h > 0 or any(e.kind == "shore" for e in day.events)
    if not ran and day.design.of_type(Solar) and day.plan.hours >= WHOLE_DAY_H:
        # With nothing but the sun a start bank counts: it must never be found flat.
        starts = {b.id for b in day.design.of_type(Bank) if b.role == "engine"}
        never = [by_id[b.bank].name for b in banks if not b.was_charged and b.bank in starts]
        ran = True
    if never and ran:
        yield Sentence(
            "caution",
            f"Never charged: {', '.join(never)}.",
            charging_cure(day.design),
        )


def _about_shore(day: Day) -> Iterable[Sentence]:
    design, hours = day.design, sum(s.end_h - s.start_h for s in day.plan.shore)
    charges = design.of_type(Charger) or any(i.charger_a for i in design.of_type(FittedInverter))
    if hours and not charges:
        yield Sentence(
            "caution",
            f"The shore lead is in for {hours:.0f} h, and nothing aboard charges from it.",
            "A shore charger, or an inverter that charges.",
        )


def _about_hazards(hazards: tuple[Hazard, ...]) -> Iterable[Sentence]:
    fixes = {
        "load_dump": "A switch that makes before it breaks and has a field contact, or a bank "
        "left on the alternator.",
        "unlike": "A dc-dc charger between unlike banks; no switch that joins them.",
        "fuse_opened": "Look at what the cable has to carry: the fuse guards it.",
        "overload": "A part of a higher rating, or less current through it.",
    }
    for kind in dict.fromkeys(h.kind for h in hazards):
        same = [h for h in hazards if h.kind == kind]
        more = f" ({len(same)} times)" if len(same) > 1 else ""
        yield Sentence("bad", f"{same[0].words}{more}.", fixes.get(kind, ""))


def _about_relays(design: Design, relays: tuple[RelayDay, ...], day: Day) -> Iterable[Sentence]:
    for one in relays:
        name, kind = design.by_id[one.relay].name, design.by_id[one.relay].kind
        if one.most_an_hour >= CHATTER_AN_HOUR:
            how = "closures" if kind == "relay" else "times in and out"
            yield Sentence(
                "bad",
                f"{name} chatters: {one.closures} {how}, up to {one.most_an_hour} in an hour.",
                calmer(design, one.relay),
            )
        elif kind != "relay":
            continue
        elif one.closures:
            times = "once" if one.closures == 1 else f"{one.closures} times"
            share = one.closed_h / day.plan.hours
            stuck = one.idle_h > STUCK_H
            idle = f", {one.idle_h:.1f} h of them with nothing charging" if stuck else ""
            yield Sentence(
                "caution" if stuck else "good",
                f"{name} closes {times} and holds the banks together for {one.closed_h:.1f} h, "
                f"{share:.0%} of the time{idle}.",
                "A dc-dc charger between unlike banks; a higher cut-out between like ones."
                if stuck
                else "",
            )
        elif day.tallies.engine_h > 0 or one.closed_h > 0:
            yield Sentence(
                "caution",
                f"{name} never closes of itself."
                if one.closed_h == 0
                else f"{name} stays closed for {one.closed_h:.1f} h without ever opening.",
                "Look at its sensing post, its negative wire and its thresholds.",
            )


def _about_floats(design: Design, floats: tuple[FloatBegan, ...]) -> Iterable[Sentence]:
    for source in dict.fromkeys(f.source for f in floats):
        worst = min((f for f in floats if f.source == source), key=lambda f: f.soc)
        early = worst.soc < FULL
        yield Sentence(
            "bad" if worst.soc < 0.8 else "caution" if early else "good",
            f"{design.by_id[source].name} goes to float with {design.by_id[worst.bank].name} at "
            f"{worst.soc:.0%}.",
            sense_cure(design, source) if early else "",
        )


def _about_heat(
    design: Design, hot_h: Mapping[str, float], hottest_c: Mapping[str, float]
) -> Iterable[Sentence]:
    for name, hours in hot_h.items():
        part = design.by_id[name]
        assert isinstance(part, Alternator)
        yield Sentence(
            "bad" if hours > 0.5 else "caution",
            f"{part.name} is too hot for {hours:.1f} h, up to {hottest_c[name]:.0f} °C.",
            cooler(part),
        )


def _about_loads(unmet: tuple[Unmet, ...]) -> Iterable[Sentence]:
    if unmet:
        worst = unmet[0]
        more = len(unmet) - 1
        others = f"; {more} more load{' goes' if more == 1 else 's go'} without too" if more else ""
        if worst.dead_h > 0.5 * worst.hours:
            yield Sentence(
                "bad",
                f"{worst.name} is dead for {worst.hours:.1f} h of the {worst.wanted_h:.1f} h it "
                f"is on: nothing reaches it{others}.",
                "What must always run is fed before the switch, through a fuse of its own."
                if worst.always_on
                else "Turn its switch on in this plan, or see what cuts its bank off.",
            )
            return
        yield Sentence(
            "bad",
            f"{worst.name} is without enough volts for {worst.hours:.1f} h of the "
            f"{worst.wanted_h:.1f} h it is on{others}.",
            "A fuller bank, or a shorter and thicker run to it.",
        )
