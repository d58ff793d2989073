"""A day as it is shown, kept and sent: thinned series, strips, events, accounts."""

from __future__ import annotations

import math
from bisect import bisect_right
from collections.abc import Sequence
from dataclasses import dataclass

from strom_engine.batteries import BankWells
from strom_engine.dayrun.day import Day
from strom_engine.dayrun.day_report import DayReport, day_report
from strom_engine.dayrun.discrete_state import DiscreteState
from strom_engine.dayrun.events import Event
from strom_engine.dayrun.ledger import Ledger
from strom_engine.dayrun.moment import KeptMoment
from strom_engine.dayrun.plan import Plan
from strom_engine.dayrun.recording import Recording
from strom_engine.dayrun.strips import Strip, strips

__all__ = [
    "DaySheet",
    "Flow",
    "KeptMoments",
    "Series",
    "day_sheet",
    "flows",
    "kept_moments",
]

MOST_POINTS = 1500
TRACE_AH = 0.005
LOADS = "loads"


@dataclass(frozen=True)
class Series:
    """Columns over ``at_s`` [s]; a moment in which something jumps stands twice.

    ``source_v`` are the volts at each source's own posts, None where no bank defines them.
    """

    at_s: list[float]
    soc: dict[str, list[float]]
    volts_v: dict[str, list[float]]
    bank_a: dict[str, list[float]]
    source_a: dict[str, list[float]]
    loads_a: list[float]
    warmth_c: dict[str, list[float]]
    source_v: dict[str, list[float | None]]


@dataclass(frozen=True)
class KeptMoments:
    """What a moment is made from again: what stood, and what the banks held, over time [s]."""

    at_s: list[float]
    discrete: list[int]
    standings: list[DiscreteState]
    wells: dict[str, list[BankWells]]
    warmth_c: dict[str, list[float]]

    def at(self, at_s: float) -> KeptMoment:
        """The last kept moment that is not after another one [s]; the first where all are."""
        i = max(0, bisect_right(self.at_s, at_s) - 1)
        return KeptMoment(
            at_s=self.at_s[i],
            discrete=self.standings[self.discrete[i]],
            wells={n: wells[i] for n, wells in self.wells.items()},
            warmth_c={n: column[i] for n, column in self.warmth_c.items()},
        )


@dataclass(frozen=True)
class Flow:
    """Ampere-hours from one thing to another.

    Sources are shared among what they flow into in proportion; the sums are exact.
    """

    start: str
    end: str
    charge_ah: float


@dataclass(frozen=True)
class DaySheet:
    """Everything about a day that is shown."""

    plan: Plan
    report: DayReport
    ledger: Ledger
    flows: list[Flow]
    events: list[Event]
    strips: list[Strip]
    series: Series
    steps: int


def day_sheet(day: Day, most_points: int = MOST_POINTS) -> DaySheet:
    """A day with its series thinned to about so many points, no jump and no extreme lost.

    Args:
        day: a computed day.
        most_points: points of a series [-], about.

    Returns:
        Plan, strips, series (times in [s]), events and report.
    """
    record = day.recording
    kept = _kept(record, most_points)
    return DaySheet(
        plan=day.plan,
        report=day_report(day),
        ledger=day.ledger,
        flows=list(flows(day.ledger)),
        events=list(day.events),
        strips=list(strips(day)),
        series=Series(
            at_s=_column(record.at_s, kept, 2),
            soc={n: _column(c, kept, 4) for n, c in record.soc.items()},
            volts_v={n: _column(c, kept, 3) for n, c in record.volts_v.items()},
            bank_a={n: _column(c, kept, 2) for n, c in record.bank_a.items()},
            source_a={n: _column(c, kept, 2) for n, c in record.source_a.items()},
            loads_a=_column(record.loads_a, kept, 2),
            warmth_c={n: _column(c, kept, 1) for n, c in record.warmth_c.items()},
            source_v={n: _with_gaps(c, kept, 3) for n, c in record.source_v.items()},
        ),
        steps=day.steps,
    )


def kept_moments(day: Day, most_points: int = MOST_POINTS) -> KeptMoments:
    """What every shown moment of a day is made from again.

    Args:
        day: a computed day.
        most_points: moments [-], about; those of the sheet.

    Returns:
        Times [s] with the states there.
    """
    record = day.recording
    kept = _kept(record, most_points)
    return KeptMoments(
        at_s=_column(record.at_s, kept, 2),
        discrete=[int(record.discrete[i]) for i in kept],
        standings=list(record.standings),
        wells={
            n: [BankWells(*(round(column[i], 5) for column in columns)) for i in kept]
            for n, columns in record.wells.items()
        },
        warmth_c={n: _column(c, kept, 1) for n, c in record.warmth_c.items()},
    )


def _column(column: Sequence[float], kept: Sequence[int], digits: int) -> list[float]:
    return [round(column[i], digits) for i in kept]


def _with_gaps(column: Sequence[float], kept: Sequence[int], digits: int) -> list[float | None]:
    """A column in which what is no number is not known."""
    return [None if math.isnan(column[i]) else round(column[i], digits) for i in kept]


def _kept(record: Recording, most: int) -> list[int]:
    """Numbers of the points to keep: all of them, or of each stretch its ends and extremes."""
    count = len(record.at_s)
    if count <= most:
        return list(range(count))
    columns = [*record.volts_v.values(), *record.soc.values()]
    each = max(2, count * (2 * len(columns) + 2) // most)
    kept = {0, count - 1}
    for start in range(0, count, each):
        stretch = range(start, min(start + each, count))
        kept |= {stretch[0], stretch[-1]}
        for column in columns:
            kept |= {min(stretch, key=column.__getitem__), max(stretch, key=column.__getitem__)}
    return sorted(kept)


def flows(ledger: Ledger) -> list[Flow]:
    """The ledger as ampere-hours from sources through banks to ``loads``, and on to each load.

    What goes into banks is taken to come from sources first. Losses inside banks end at
    ``lost``, what dc-dc chargers take beyond what they give at ``converted``.
    """
    given = {n: line.charge_ah for n, line in ledger.given.items()}
    into = {n: a.in_ah for n, a in ledger.banks.items()}
    out = {n: a.out_ah for n, a in ledger.banks.items()}
    all_given, all_in, all_out = (sum(d.values()) for d in (given, into, out))
    to_banks = min(all_given, all_in)
    between = all_in - to_banks
    found = [
        Flow(source, bank, to_banks * _share(ah, all_given) * _share(amount, all_in))
        for source, ah in given.items()
        for bank, amount in into.items()
    ]
    straight, drawn = all_given - to_banks, max(0.0, all_out - between)
    found += [Flow(n, LOADS, straight * _share(ah, all_given)) for n, ah in given.items()]
    found += [Flow(n, LOADS, drawn * _share(ah, all_out)) for n, ah in out.items()]
    found += [Flow(n, "other banks", between * _share(ah, all_out)) for n, ah in out.items()]
    found += [Flow(LOADS, name, line.charge_ah) for name, line in ledger.taken.items()]
    found.append(Flow(LOADS, "converted", ledger.converted_ah))
    found += [Flow(name, "lost", a.lost_ah) for name, a in ledger.banks.items()]
    return [f for f in found if f.charge_ah > TRACE_AH]


def _share(part: float, whole: float) -> float:
    return part / whole if whole > 0 else 0.0
