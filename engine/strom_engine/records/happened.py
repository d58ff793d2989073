"""What happened, found in a trace: charging, nights, days, rests, cranks, resets of the count."""

from __future__ import annotations

from collections.abc import Iterable, Iterator
from dataclasses import dataclass
from datetime import UTC, datetime, timedelta
from zoneinfo import ZoneInfo

import numpy as np

from strom_engine.design import Bank, Design, Solar
from strom_engine.records.spells import ChargingSpell, Shunted, charging_spells
from strom_engine.records.trace import Trace

__all__ = [
    "CountReset",
    "Crank",
    "Deepest",
    "Gap",
    "Happened",
    "LocalDay",
    "Night",
    "Usual",
    "happened",
]

NIGHT_H = (0.0, 5.0)
SUN_H = (10.0, 16.0)  # when the sun gives most of what it gives
LEAST_SUN_S = 2 * 3600.0
BEDTIME_H = (21.75, 22.75)
DAY_BEGINS_H = 9.0  # a day of use is counted from nine to nine, as the trade does
COVERED = 0.9  # of a day or night that has to be recorded
BASE_PERCENT = 15.0
RESET_SHARE = 0.01
CRANK_V, CRANK_LASTS_S, SEES_CRANKS_S = 0.9, 20.0, 5.0
SEES_CYCLES_S = 300.0  # a refrigerator's cycle is 10 to 40 minutes
LEAST_CYCLE_A = 2.0
SEES_TIMERS_S = 180.0  # relays and regulators have timers of some minutes


@dataclass(frozen=True)
class Night:
    """A night: its date, the base of what was drawn [A], the mean [A], what it came to [Ah].

    ``duty``: share of the time that something cycling ran [-]; ``cycle_a``: how much it draws.
    """

    date: str
    base_a: float
    mean_a: float
    used_ah: float
    duty: float | None
    cycle_a: float | None


@dataclass(frozen=True)
class LocalDay:
    """A day from nine to nine: charge taken out and put in [Ah], the least charge [-], the draw at
    bedtime [A]; ``sun_a``: what the sun gives from ten to four, on average [A], against the draw
    of the night before; ``idle``: whether no source charged throughout."""

    date: str
    used_ah: float
    put_in_ah: float
    sun_a: float | None
    least_charge: float | None
    bedtime_a: float | None
    idle: bool = False


@dataclass(frozen=True)
class CountReset:
    """The monitor took the bank for full, and by how much its count jumped [-]."""

    at_s: float
    jump: float


@dataclass(frozen=True)
class Crank:
    """A start: when, and the least volts [V]."""

    at_s: float
    least_v: float


@dataclass(frozen=True)
class Gap:
    """Nothing was recorded from [s] to [s]."""

    start_s: float
    end_s: float


@dataclass(frozen=True)
class Deepest:
    """The least charge [-] by the monitor, and when [s]."""

    at_s: float
    charge: float


@dataclass(frozen=True)
class Usual:
    """What is usual in a trace, medians over nights and days; None where it cannot be told.

    ``base_a``: base draw at night, ``bedtime_a`` at bedtime [A]; ``used_ah``: from nine to nine
    [Ah]; ``duty`` [-] and ``cycle_a`` [A] of what cycles at night; ``least_float``: the least
    charge at which float began [-]; ``most_jump``: by how much the count was off at most [-].
    """

    base_a: float | None
    bedtime_a: float | None
    used_ah: float | None
    duty: float | None
    cycle_a: float | None
    least_float: float | None
    most_jump: float | None


@dataclass(frozen=True)
class Happened:
    """All that a trace tells. ``unseen`` says what its spacing is too coarse for."""

    every_s: float
    rows: int
    start_s: float
    end_s: float
    gaps: tuple[Gap, ...]
    spells: tuple[ChargingSpell, ...]
    nights: tuple[Night, ...]
    days: tuple[LocalDay, ...]
    resets: tuple[CountReset, ...]
    cranks: tuple[Crank, ...]
    deepest: Deepest | None
    usual: Usual
    unseen: tuple[str, ...]


def happened(trace: Trace, design: Design, shunt: Shunted) -> Happened:
    """Everything that a trace of a bank tells by itself.

    Args:
        trace: of the bank, its times rising.
        design: the boat, for its sources.
        shunt: the bank that was recorded, the zone of the boat, what charged it.

    Returns:
        Spells, nights, days, resets, cranks; times in [s], UTC.
    """
    bank, zone = shunt.of(design), shunt.zone
    spells = charging_spells(trace, design, shunt)
    nights = tuple(_nights(trace, spells, zone))
    charge = trace.column("charge")
    known = np.flatnonzero(np.isfinite(charge))
    deepest = None
    if len(known):
        row = known[charge[known].argmin()]
        deepest = Deepest(float(trace.at_s[row]), float(charge[row]))
    days = tuple(_days(trace, spells, nights, zone))
    resets = tuple(_resets(trace))
    steps = np.diff(trace.at_s)
    gaps = [
        Gap(float(trace.at_s[n]), float(trace.at_s[n + 1]))
        for n in np.flatnonzero(steps > trace.gap_s)
    ]
    return Happened(
        every_s=trace.every_s,
        rows=len(trace),
        start_s=float(trace.at_s[0]) if len(trace) else 0.0,
        end_s=float(trace.at_s[-1]) if len(trace) else 0.0,
        gaps=tuple(gaps),
        spells=spells,
        nights=nights,
        days=days,
        resets=resets,
        cranks=tuple(_cranks(trace, bank)),
        deepest=deepest,
        usual=_usual(spells, nights, days, resets),
        unseen=tuple(_unseen(trace, design)),
    )


def _usual(
    spells: tuple[ChargingSpell, ...],
    nights: tuple[Night, ...],
    days: tuple[LocalDay, ...],
    resets: tuple[CountReset, ...],
) -> Usual:
    def middle(values: Iterable[float | None]) -> float | None:
        known = [v for v in values if v is not None]
        return float(np.median(known)) if known else None

    floats = [s.charge_at_float for s in spells if s.source != "sun"]
    return Usual(
        base_a=middle(n.base_a for n in nights),
        bedtime_a=middle(d.bedtime_a for d in days),
        used_ah=middle(d.used_ah for d in days),
        duty=middle(n.duty for n in nights),
        cycle_a=middle(n.cycle_a for n in nights),
        least_float=min((c for c in floats if c is not None), default=None),
        most_jump=max((r.jump for r in resets), default=None),
    )


def _local_days(trace: Trace, zone: str, begins_h: float) -> Iterator[tuple[str, float, float]]:
    """Dates with their beginning and end [s], each beginning at an hour of the clock."""
    if not len(trace):
        return
    local = ZoneInfo(zone)
    first = datetime.fromtimestamp(float(trace.at_s[0]), UTC).astimezone(local)
    day = first.replace(hour=0, minute=0, second=0, microsecond=0)
    day -= timedelta(days=1)
    while day.timestamp() < trace.at_s[-1]:
        following = day + timedelta(days=1)
        start = day.timestamp() + begins_h * 3600
        yield day.date().isoformat(), start, following.timestamp() + begins_h * 3600
        day = following


def _outside(trace: Trace, spells: tuple[ChargingSpell, ...]) -> np.ndarray:
    """Rows in which nothing charges."""
    free = np.ones(len(trace), dtype=bool)
    for spell in spells:
        first, last = np.searchsorted(trace.at_s, (spell.start_s, spell.end_s))
        free[first:last] = False
    return free


def _covered(part: Trace, seconds: float) -> bool:
    return len(part) > 1 and float(part.lasts_s.sum()) >= COVERED * seconds


def _nights(trace: Trace, spells: tuple[ChargingSpell, ...], zone: str) -> Iterator[Night]:
    if not trace.has("amps_a"):
        return
    free = _outside(trace, spells)
    for date, start, _ in _local_days(trace, zone, 0.0):
        low, high = (start + h * 3600 for h in NIGHT_H)
        first, last = np.searchsorted(trace.at_s, (low, high))
        part = trace.part(int(first), int(last))
        if not _covered(part, high - low) or not free[first:last].all():
            continue
        draw_a = -part.column("amps_a")
        if np.isfinite(draw_a).mean() < COVERED:
            continue
        duty, cycle_a = _cycling(part, draw_a)
        yield Night(
            date=date,
            base_a=float(np.nanpercentile(draw_a, BASE_PERCENT)),
            mean_a=float(np.nanmean(draw_a)),
            used_ah=float(np.nansum(draw_a * part.lasts_s)) / 3600,
            duty=duty,
            cycle_a=cycle_a,
        )


def _cycling(part: Trace, draw_a: np.ndarray) -> tuple[float | None, float | None]:
    """Share of a night in which something that cycles ran, and its amps; two levels apart."""
    if part.every_s > SEES_CYCLES_S:
        return None, None
    low, high = np.nanpercentile(draw_a, (BASE_PERCENT, 97))
    if high - low < LEAST_CYCLE_A:
        return None, None
    on = draw_a > (low + high) / 2
    if not int((on[1:] & ~on[:-1]).sum()) >= 2:
        return None, None
    return float(on.mean()), float(np.nanmean(draw_a[on]) - np.nanmean(draw_a[~on]))


def _days(
    trace: Trace, spells: tuple[ChargingSpell, ...], nights: tuple[Night, ...], zone: str
) -> Iterator[LocalDay]:
    if not trace.has("amps_a"):
        return
    for date, start, end in _local_days(trace, zone, DAY_BEGINS_H):
        part = trace.between(start, end)
        if not _covered(part, end - start):
            continue
        amps_a, charge = part.column("amps_a"), part.column("charge")
        night = next((n.mean_a for n in nights if n.date == date), None)
        bedtime_s = (start + (h - DAY_BEGINS_H) * 3600 for h in BEDTIME_H)
        bedtime = part.between(*bedtime_s).column("amps_a")
        yield LocalDay(
            date=date,
            used_ah=float(np.nansum(np.maximum(-amps_a, 0) * part.lasts_s)) / 3600,
            put_in_ah=float(np.nansum(np.maximum(amps_a, 0) * part.lasts_s)) / 3600,
            sun_a=None if night is None else sun_a(trace, spells, start, night),
            least_charge=float(np.nanmin(charge)) if np.isfinite(charge).any() else None,
            bedtime_a=-float(np.nanmean(bedtime)) if np.isfinite(bedtime).any() else None,
            idle=not any(s.start_s < end and s.end_s > start for s in spells),
        )


def sun_a(
    trace: Trace, spells: tuple[ChargingSpell, ...], day_s: float, night_a: float
) -> float | None:
    """What the sun gives from ten to four of a day that begins at nine [s], on average [A]."""
    low, high = (day_s + (h - DAY_BEGINS_H) * 3600 for h in SUN_H)
    first, last = np.searchsorted(trace.at_s, (low, high))
    part = trace.part(int(first), int(last))
    driven = tuple(s for s in spells if s.source != "sun")
    free = _outside(trace, driven)[first:last]
    lasts_s = part.lasts_s[free] if len(part) else np.zeros(0)
    if lasts_s.sum() < LEAST_SUN_S:
        return None
    return float(np.nansum(part.column("amps_a")[free] * lasts_s) / lasts_s.sum()) + night_a


def _resets(trace: Trace) -> Iterator[CountReset]:
    charge = trace.column("charge")
    jumps = np.diff(charge)
    for row in np.flatnonzero((charge[1:] >= 0.995) & (jumps > RESET_SHARE)):
        yield CountReset(float(trace.at_s[row + 1]), float(jumps[row]))


def _cranks(trace: Trace, bank: Bank) -> Iterator[Crank]:
    if not trace.has("volts_v") or trace.every_s > SEES_CRANKS_S:
        return
    volts_v = trace.column("volts_v")
    wide = max(2, int(CRANK_LASTS_S / max(trace.every_s, 0.5)))
    deep_v = CRANK_V * bank.nominal_v / 12
    n = 1
    while n < len(trace):
        before = volts_v[max(0, n - wide) : n]
        if volts_v[n] < np.median(before) - deep_v:
            dip = volts_v[n : n + wide]
            yield Crank(float(trace.at_s[n]), float(dip.min()))
            n += wide
        n += 1


def _unseen(trace: Trace, design: Design) -> Iterator[str]:
    """What the spacing is too coarse to tell, and what to do about it."""
    minutes = trace.every_s / 60
    between = (
        f"{minutes:g} minutes between rows" if minutes >= 1 else f"{trace.every_s:g} s between rows"
    )
    if trace.every_s > SEES_CRANKS_S:
        yield f"{between}: starts cannot be seen; record one start at one second."
    if trace.every_s > SEES_TIMERS_S:
        yield (
            f"{between}: timers of six minutes and a relay that chatters cannot be seen; record "
            "one hour at one minute."
        )
    if trace.every_s > SEES_CYCLES_S:
        yield f"{between}: what a refrigerator does cannot be seen; record a night at one minute."
    if not trace.has("amps_a"):
        yield "No amps were recorded: charge, use and what charges cannot be told."
    if not trace.has("volts_v"):
        yield "No volts were recorded: stages of charging cannot be told."
    panels_w = sum(p.panel_w for p in design.of_type(Solar))
    if panels_w:
        yield (
            f"By day an engine or charger that gives less than {panels_w:.0f} W cannot be told "
            "from the sun."
        )
