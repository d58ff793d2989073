"""What a day comes to, small enough to lay beside others."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass

from strom_engine.dayrun.day import Day
from strom_engine.dayrun.day_report import DayReport, day_report
from strom_engine.dayrun.lines import BankDay, Hazard, Rank, Unmet, clock_words
from strom_engine.design import Bank

__all__ = ["Outcome", "outcome_of"]


@dataclass(frozen=True)
class Outcome:
    """One day in a row of a table.

    ``lowest_engine_soc`` [-] is that of the engine banks, ``end_soc`` of every bank; ``unmet``
    are items that went without, what must always run first; ``weakest_v`` the lowest at a
    starter [V], 0 where no bank reached one; ``failed_v`` what it had in the first start that
    failed.
    """

    rank: Rank
    stranded: bool
    starts: int
    started: int
    in_emergency: int
    weakest_v: float | None
    failed_at: str | None
    failed_v: float | None
    lowest_engine_soc: float | None
    lowest_soc: Mapping[str, float]
    end_soc: Mapping[str, float]
    house_end_soc: float | None
    relay_closures: int
    most_closures_an_hour: int
    hot_h: float
    moves_a_day: float
    unmet: tuple[Unmet, ...]
    charged_ah: float
    hazards: tuple[Hazard, ...]
    never_charged: tuple[str, ...]
    float_soc: float | None


def outcome_of(day: Day, report: DayReport | None = None) -> Outcome:
    """The row of a day, as sweeps and comparisons keep it.

    Args:
        day: a day that was run.
        report: its report, where it is at hand already.

    Returns:
        Charge [0 to 1], starts and their volts [V], hours without [h], hazards.

    >>> from strom_engine.survey import new_boat
    >>> survey, design = new_boat("cruising_yacht", "selector")
    >>> from strom_engine.dayrun import Plan, day_run
    >>> outcome_of(day_run(design, survey, Plan(name="Night", hours=12))).stranded
    False
    """
    report = report or day_report(day)
    engine = [b.id for b in day.design.of_type(Bank) if b.role == "engine"]
    house = [b.id for b in day.design.of_type(Bank) if b.role == "house"]
    banks: dict[str, BankDay] = {b.bank: b for b in report.banks}
    failed = next((t for t in report.starts if not t.started), None)
    volts = [t.volts_v or 0.0 for t in report.starts]
    return Outcome(
        rank=report.rank,
        stranded=report.stranded,
        starts=sum(not t.in_emergency for t in report.starts),
        started=sum(t.started for t in report.starts),
        in_emergency=sum(t.started and t.in_emergency for t in report.starts),
        weakest_v=min(volts, default=None),
        failed_at=None
        if failed is None
        else clock_words(day.plan.clock_h, failed.at_s, day.plan.hours),
        failed_v=None if failed is None else failed.volts_v,
        lowest_engine_soc=min((banks[n].lowest_soc for n in engine), default=None),
        lowest_soc={n: b.lowest_soc for n, b in banks.items()},
        end_soc={n: b.end_soc for n, b in banks.items()},
        house_end_soc=min((banks[n].end_soc for n in house), default=None),
        relay_closures=sum(r.closures for r in report.relays),
        most_closures_an_hour=max((r.most_an_hour for r in report.relays), default=0),
        hot_h=sum(report.hot_h.values()),
        moves_a_day=report.moves_a_day,
        unmet=report.unmet,
        charged_ah=sum(b.in_ah for b in report.banks),
        hazards=report.hazards,
        never_charged=tuple(n for n, b in banks.items() if not b.was_charged),
        float_soc=min((f.soc for f in report.floats), default=None),
    )
