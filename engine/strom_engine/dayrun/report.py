"""A day in numbers, and what they come to in plain sentences."""

from __future__ import annotations

from collections.abc import Iterable, Mapping
from dataclasses import dataclass
from typing import Literal

from strom_engine.dayrun.day import Day
from strom_engine.dayrun.events import StartTry
from strom_engine.dayrun.tallies import Overload
from strom_engine.design import Alternator, Bank, Design, FittedInverter, LoadGroup, Relay
from strom_engine.reference import chemistry

__all__ = [
    "CHATTER_AN_HOUR",
    "FULL",
    "STUCK_H",
    "BankDay",
    "DayReport",
    "FloatBegan",
    "Hazard",
    "Rank",
    "RelayDay",
    "Sentence",
    "Unmet",
    "clock_words",
    "day_report",
]

Tone = Literal["good", "caution", "bad"]
Rank = Literal["hazard", "stranded", "load_lost", "charge_lost", "none"]
# Of the charge of a bank: less than this put in over the day, and it was not charged.
CHARGED_SHARE = 0.005
FULL = 0.95  # float that begins with less than this in the bank begins too early; own judgement
LATE_UNMET_H = 0.05
OVER_S = 60.0  # a contact above its rating for longer than a start takes is overloaded
CHATTER_AN_HOUR = 6.0
STUCK_H = 2.0  # closed for longer than surface charge lasts under a usual load; own judgement


@dataclass(frozen=True)
class Sentence:
    """One sentence of the verdict and how grave it is; ``fix`` is what would mend it."""

    tone: Tone
    words: str
    fix: str = ""


@dataclass(frozen=True)
class BankDay:
    """A bank over the day [-], [h], [Ah]; ``was_charged`` by more than a trace."""

    bank: str
    begin_soc: float
    lowest_soc: float
    lowest_at_s: float
    end_soc: float
    in_ah: float
    out_ah: float
    was_charged: bool


@dataclass(frozen=True)
class RelayDay:
    """A combining relay: how often it closed, how long [h], most closures within an hour.

    ``idle_h`` is how long it stood closed while no source gave anything.
    """

    relay: str
    closures: int
    closed_h: float
    idle_h: float
    most_an_hour: int


@dataclass(frozen=True)
class FloatBegan:
    """A source went to float: when, and how full the emptiest bank that it charges was [-]."""

    source: str
    at_s: float
    bank: str
    soc: float


@dataclass(frozen=True)
class Unmet:
    """An item that was on but not served [h]; ``dead_h`` of that it reached no bank at all."""

    item: str
    name: str
    hours: float
    wanted_h: float
    dead_h: float


@dataclass(frozen=True)
class Hazard:
    """Something that can hurt: its kind, the part, and words for it."""

    kind: str
    part: str
    at_s: float | None
    words: str


@dataclass(frozen=True)
class DayReport:
    """Everything that a day comes to."""

    hours: float
    starts: tuple[StartTry, ...]
    stranded: bool
    banks: tuple[BankDay, ...]
    relays: tuple[RelayDay, ...]
    joined_h: Mapping[str, float]
    stage_h: Mapping[str, Mapping[str, float]]
    floats: tuple[FloatBegan, ...]
    unmet: tuple[Unmet, ...]
    worst_v: Mapping[str, float]
    hot_h: Mapping[str, float]
    hottest_c: Mapping[str, float]
    hazards: tuple[Hazard, ...]
    engine_h: float
    moves: int
    moves_a_day: float
    residual: float
    verdict: tuple[Sentence, ...]
    rank: Rank


def day_report(day: Day) -> DayReport:
    """The numbers and the verdict of a day."""
    design, tallies = day.design, day.tallies
    banks = tuple(_bank(day, b) for b in design.of_type(Bank))
    relays = tuple(_relay(day, r) for r in design.of_type(Relay))
    floats = tuple(_floats(day))
    unmet = tuple(_unmet(day))
    hazards = tuple(_hazards(day))
    stranded = _stranded(day.tries)
    moves = sum(e.kind == "move" for e in day.events)
    stage_h: dict[str, dict[str, float]] = {}
    for (source, stage), hours in tallies.stage_h.items():
        stage_h.setdefault(source, {})[stage] = hours
    verdict = (
        *_about_starts(day),
        *_about_banks(day, banks),
        *_about_hazards(hazards),
        *_about_relays(design, relays, day),
        *_about_floats(design, floats),
        *_about_heat(design, tallies.hot_h, tallies.hottest_c),
        *_about_loads(unmet),
    )
    return DayReport(
        hours=day.plan.hours,
        starts=day.tries,
        stranded=stranded,
        banks=banks,
        relays=relays,
        joined_h={" + ".join(ids): h for ids, h in tallies.joined_h.items()},
        stage_h=stage_h,
        floats=floats,
        unmet=unmet,
        worst_v=tallies.worst_v,
        hot_h=tallies.hot_h,
        hottest_c=tallies.hottest_c,
        hazards=hazards,
        engine_h=tallies.engine_h,
        moves=moves,
        moves_a_day=moves / max(day.plan.hours / 24, 1.0),
        residual=day.ledger.residual,
        verdict=verdict,
        rank=_rank(hazards, stranded, unmet, verdict),
    )


def clock_words(day_clock_h: float, at_s: float, hours: float) -> str:
    """A moment by the clock, with its day where the plan has several."""
    minutes = round((day_clock_h + at_s / 3600) * 60)
    day, left = divmod(minutes, 24 * 60)
    clock = f"{left // 60:02d}:{left % 60:02d}"
    return f"day {day + 1}, {clock}" if hours > 24 - day_clock_h else clock


def _bank(day: Day, bank: Bank) -> BankDay:
    account = day.ledger.banks[bank.id]
    lowest, at_s = day.tallies.lowest_soc[bank.id]
    begin = day.plan.soc.get(bank.id, bank.soc)
    return BankDay(
        bank=bank.id,
        begin_soc=begin,
        lowest_soc=lowest,
        lowest_at_s=at_s,
        end_soc=day.ended_soc[bank.id],
        in_ah=account.in_ah,
        out_ah=account.out_ah,
        was_charged=account.in_ah > CHARGED_SHARE * bank.capacity_ah,
    )


def _relay(day: Day, relay: Relay) -> RelayDay:
    closed = [e.at_s for e in day.events if e.part == relay.id and e.to == "closed"]
    most = max((sum(a <= b < a + 3600 for b in closed) for a in closed), default=0)
    hours, idle_h = (sums.get(relay.id, 0.0) for sums in (day.tallies.closed_h, day.tallies.idle_h))
    return RelayDay(relay.id, len(closed), hours, idle_h, most)


def _floats(day: Day) -> Iterable[FloatBegan]:
    """Float by source, with the emptiest bank among those that it is there to charge."""
    for event in day.events:
        if event.kind != "stage" or event.to != "float" or not event.charges:
            continue
        bank = min(event.charges, key=lambda b: event.soc[b])
        yield FloatBegan(event.part, event.at_s, bank, event.soc[bank])


def _unmet(day: Day) -> Iterable[Unmet]:
    names = {
        f"{g.id}.{i.id}": i.name
        for g in day.design.components
        if isinstance(g, LoadGroup | FittedInverter)
        for i in g.items
    }
    for ref, hours in sorted(day.tallies.unmet_h.items(), key=lambda pair: -pair[1]):
        if hours >= LATE_UNMET_H:
            dead_h = day.tallies.dead_h.get(ref, 0.0)
            yield Unmet(ref, names[ref], hours, day.tallies.wanted_h(ref), dead_h)


def _hazards(day: Day) -> Iterable[Hazard]:
    for event in day.events:
        if event.to in ("load_dump", "unlike"):
            yield Hazard(event.to, event.part, event.at_s, event.words)
        elif event.kind == "fuse":
            yield Hazard("fuse_opened", event.part, event.at_s, event.words)
    for ref, over in day.tallies.overloads.items():
        name = ref.partition(".")[0]
        if over.seconds > OVER_S:
            yield Hazard("overload", name, None, _overload_words(day.design, name, over))


def _overload_words(design: Design, name: str, over: Overload) -> str:
    return (
        f"{design.by_id[name].name} carries {over.most_a:.0f} A, above its {over.rating_a:g} A, "
        f"for {over.seconds / 60:.0f} min"
    )


def _stranded(tries: tuple[StartTry, ...]) -> bool:
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
    if not failed:
        known = [t for t in tries if t.volts_v is not None]
        weakest = min(known, key=lambda t: t.volts_v or 0.0)
        times = "once" if len(tries) == 1 else f"{len(tries)} times out of {len(tries)}"
        margin = (weakest.volts_v or 0.0) - weakest.limit_v
        yield Sentence(
            "good" if margin > 0.3 else "caution",
            f"The engine starts {times}; the weakest has {weakest.volts_v:.1f} V at the starter, "
            f"{margin:.1f} V above the limit of {weakest.limit_v:g} V.",
            "" if margin > 0.3 else "Thicker starter cables, or a larger start bank.",
        )
        return
    first = failed[0]
    at = clock_words(day.plan.clock_h, first.at_s, day.plan.hours)
    has = "no bank" if first.volts_v is None else f"{first.volts_v:.1f} V"
    if _stranded(tries):
        yield Sentence(
            "bad",
            f"The engine does not start at {at}: {has} at the starter, limit {first.limit_v:g} V.",
            "Keep a bank for the engine alone at rest, and let charge be shared by itself.",
        )
    else:
        yield Sentence(
            "caution",
            f"At {at} the engine starts only with the banks joined in an emergency; alone it had "
            f"{has} at the starter.",
            "Start on the engine bank alone, and see that it is charged.",
        )


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
    engine_ran = day.tallies.engine_h > 0 or any(e.kind == "shore" for e in day.events)
    if never and engine_ran:
        yield Sentence(
            "caution",
            f"Never charged: {', '.join(never)}.",
            "Give each bank a way of charging: a relay, a dc-dc charger or an output.",
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
        name = design.by_id[one.relay].name
        if one.most_an_hour >= CHATTER_AN_HOUR:
            yield Sentence(
                "bad",
                f"{name} chatters: {one.closures} closures, up to {one.most_an_hour} in an hour.",
                "Land the weak source on the house bank.",
            )
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
            "Lead both sense wires to the bank, thicken the cable on both sides, lengthen "
            "absorption last."
            if early
            else "",
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
            "A regulator with a temperature probe, a belt or field limit, or a dc-dc charger.",
        )


def _about_loads(unmet: tuple[Unmet, ...]) -> Iterable[Sentence]:
    if unmet:
        worst = unmet[0]
        others = f"; so it is with {len(unmet) - 1} more" if len(unmet) > 1 else ""
        if worst.dead_h > 0.5 * worst.hours:
            yield Sentence(
                "bad",
                f"{worst.name} is dead for {worst.hours:.1f} h of the {worst.wanted_h:.1f} h it "
                f"is on: nothing reaches it{others}.",
                "What must always run is fed before the switch, through a fuse of its own.",
            )
            return
        yield Sentence(
            "bad",
            f"{worst.name} is without enough volts for {worst.hours:.1f} h of the "
            f"{worst.wanted_h:.1f} h it is on{others}.",
            "A fuller bank, or a shorter and thicker run to it.",
        )


def _rank(
    hazards: tuple[Hazard, ...],
    stranded: bool,
    unmet: tuple[Unmet, ...],
    verdict: tuple[Sentence, ...],
) -> Rank:
    if hazards:
        return "hazard"
    if stranded:
        return "stranded"
    if unmet:
        return "load_lost"
    return "charge_lost" if any(s.tone == "bad" for s in verdict) else "none"
