"""A day in numbers, with its verdict and its rank."""

from __future__ import annotations

from bisect import bisect_left
from collections import Counter
from collections.abc import Iterable, Mapping
from dataclasses import dataclass

from strom_engine.dayrun.day import Day
from strom_engine.dayrun.events import StartTry, moments_of
from strom_engine.dayrun.lines import (
    BankDay,
    Dip,
    FloatBegan,
    Hazard,
    Joined,
    Rank,
    RelayDay,
    Sentence,
    Unmet,
)
from strom_engine.dayrun.tallies import Overload
from strom_engine.dayrun.verdict import is_stranded, verdict_of
from strom_engine.design import Bank, Design, FittedInverter, LoadGroup, Relay
from strom_engine.design.fields import PostRef

__all__ = ["DayReport", "day_report"]

# Of the charge of a bank: less than this put in over the day, and it was not charged.
CHARGED_SHARE = 0.005
LATE_UNMET_H = 0.05
JOINED_H = 0.05  # banks joined for less are only on their way to other positions
OVER_S = 60.0  # a contact above its rating for longer than a start takes is overloaded


@dataclass(frozen=True)
class DayReport:
    """Everything that a day comes to."""

    hours: float
    starts: tuple[StartTry, ...]
    stranded: bool
    banks: tuple[BankDay, ...]
    relays: tuple[RelayDay, ...]
    gear: tuple[RelayDay, ...]
    joined: tuple[Joined, ...]
    stage_h: Mapping[str, Mapping[str, float]]
    floats: tuple[FloatBegan, ...]
    unmet: tuple[Unmet, ...]
    worst_v: Mapping[str, float]
    dips: tuple[Dip, ...]
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
    """The numbers and the verdict of a day.

    Args:
        day: a computed day.

    Returns:
        Energies [Wh], charge [Ah], starts, stages and the verdict.
    """
    design, tallies = day.design, day.tallies
    banks = tuple(_bank(day, b) for b in design.of_type(Bank))
    relays = tuple(_relay(day, r.id) for r in design.of_type(Relay))
    gear = tuple(
        _relay(day, p.id) for p in design.components if p.moves_itself and not isinstance(p, Relay)
    )
    floats = tuple(_floats(day))
    unmet = tuple(_unmet(day))
    hazards = tuple(_hazards(day))
    stranded = is_stranded(day.tries)
    moves = sum(e.kind == "move" for e in day.events)
    stage_h: dict[str, dict[str, float]] = {}
    for (source, stage), hours in tallies.stage_h.items():
        stage_h.setdefault(source, {})[stage] = hours
    verdict = tuple(verdict_of(day, banks, (*relays, *gear), floats, unmet, hazards))
    return DayReport(
        hours=day.plan.hours,
        starts=day.tries,
        stranded=stranded,
        banks=banks,
        relays=relays,
        gear=gear,
        joined=tuple(Joined(ids, h) for ids, h in tallies.joined_h.items() if h > JOINED_H),
        stage_h=stage_h,
        floats=floats,
        unmet=unmet,
        worst_v=tallies.worst_v,
        dips=tuple(_dips(day)),
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


def _relay(day: Day, part: str) -> RelayDay:
    closed = moments_of(day.events, part, "closed")
    hours, idle_h = (sums.get(part, 0.0) for sums in (day.tallies.closed_h, day.tallies.idle_h))
    return RelayDay(part, len(closed), hours, idle_h, _most_an_hour(closed))


def _most_an_hour(closed: list[float]) -> int:
    """Most closures within any hour."""
    return max((bisect_left(closed, a + 3600) - n for n, a in enumerate(closed)), default=0)


def _floats(day: Day) -> Iterable[FloatBegan]:
    """Float by source, with the emptiest bank among those that it is there to charge."""
    for event in day.events:
        if event.kind != "stage" or event.to != "float" or not event.charges:
            continue
        bank = min(event.charges, key=lambda b: event.soc[b])
        yield FloatBegan(event.part, event.at_s, bank, event.soc[bank])


def _fed(design: Design) -> list[LoadGroup | FittedInverter]:
    return [g for g in design.components if isinstance(g, LoadGroup | FittedInverter)]


def _item_names(design: Design) -> dict[str, str]:
    """Names of items, as ``group.item``; two of one name on two feeds are told apart."""
    feeds = _fed(design)
    often = Counter(i.name for g in feeds for i in g.items)
    return {
        f"{g.id}.{i.id}": f"{i.name} on {g.name}" if often[i.name] > 1 else i.name
        for g in feeds
        for i in g.items
    }


def _unmet(day: Day) -> Iterable[Unmet]:
    """What went without: what must always run first, then the longest."""
    feeds = _fed(day.design)
    always_on = {f"{g.id}.{i.id}" for g in feeds for i in g.items if i.always_on}
    names = _item_names(day.design)
    unmet_h = day.tallies.unmet_h
    for ref in sorted(unmet_h, key=lambda ref: (ref not in always_on, -unmet_h[ref])):
        if unmet_h[ref] >= LATE_UNMET_H:
            dead_h, wanted_h = day.tallies.dead_h.get(ref, 0.0), day.tallies.wanted_h(ref)
            yield Unmet(ref, names[ref], unmet_h[ref], wanted_h, dead_h, ref in always_on)


def _dips(day: Day) -> Iterable[Dip]:
    """What a start brings below the volts that it needs, the deepest first."""
    names = _item_names(day.design)
    for ref, (volts, limit_v) in sorted(day.tallies.dips.items(), key=lambda d: d[1][0] - d[1][1]):
        yield Dip(ref, names[ref], volts, limit_v)


def _hazards(day: Day) -> Iterable[Hazard]:
    for event in day.events:
        if event.to in ("load_dump", "unlike"):
            yield Hazard(event.to, event.part, event.at_s, event.words)
        elif event.kind == "fuse":
            yield Hazard("fuse_opened", event.part, event.at_s, event.words)
    for ref, over in day.tallies.overloads.items():
        name = PostRef(ref).part
        if over.seconds > OVER_S:
            yield Hazard("overload", name, None, _overload_words(day.design, name, over))


def _overload_words(design: Design, name: str, over: Overload) -> str:
    return (
        f"{design.by_id[name].name} carries {over.most_a:.0f} A, above its {over.rating_a:g} A, "
        f"for {over.seconds / 60:.0f} min"
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
