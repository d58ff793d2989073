"""Days of records that count for the audit: nothing charged, so what left the bank was used."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import date
from statistics import mean

from strom_engine.design import Alternator, Bank, Charger, Design, FittedInverter, Solar
from strom_engine.records.happened import Happened, LocalDay
from strom_engine.sizing.solar import DEFAULT_LATITUDE_DEG, season_of
from strom_engine.survey import Survey
from strom_engine.survey.audit_items import Season

__all__ = ["CountableDay", "CountableDays", "countable_days"]

# Own judgement: the clamp of a monitor at rest reads so much of a day's use as charge; a sun that
# gives so much of what is drawn makes the count that much too low.
NOISE_SHARE = 0.02
SUN_SHARE = 0.05
# What gives enough to charge whenever it gives: the trace shows when that was.
SEEN = (Alternator, Charger, FittedInverter)


@dataclass(frozen=True)
class CountableDay:
    """A day from nine to nine in which nothing charged: date, what was used [Ah], season."""

    date: str
    used_ah: float
    season: Season


@dataclass(frozen=True)
class CountableDays:
    """Those of a trace, with their mean and most [Ah], and ``why`` its other days do not count.

    ``doubt``: what only somebody aboard knows of these days; empty where there is none.
    """

    days: tuple[CountableDay, ...]
    left_out: int
    why: str
    doubt: str
    mean_ah: float | None
    most_ah: float | None


def countable_days(
    told: Happened, designs: Sequence[Design], survey: Survey, shunted: str
) -> CountableDays:
    """The days of a trace that the audit can be held against.

    Args:
        told: what happened in the trace.
        designs: the boat as she may have been while it was recorded, for her sources.
        survey: where she lies: seasons are turned round south of the line.
        shunted: the bank that was recorded; the audit is that of a house bank.

    Returns:
        Use in [Ah] at the bank's terminals. A day does not count where something charged the bank
        or the sun is seen to have carried loads past the monitor. What sun, wind or water carried
        by day while more was used than by night is not to be seen: that is the ``doubt``.
    """
    banks = [d.by_id.get(shunted) for d in designs]
    if not any(isinstance(b, Bank) and b.role == "house" for b in banks):
        why = "The audit is that of the house bank."
        return CountableDays((), len(told.days), why, "", None, None)
    passing = [s for d in designs for s in d.sources if not isinstance(s, SEEN)]
    sunny = any(isinstance(s, Solar) for s in passing)
    latitude_deg = survey.boat.latitude_deg or DEFAULT_LATITUDE_DEG
    found = tuple(
        CountableDay(
            day.date,
            round(day.used_ah, 1),
            season_of(date.fromisoformat(day.date).month, latitude_deg),
        )
        for day in told.days
        if day.used_ah > 0 and _uncharged(day) and (not sunny or _dull(day))
    )
    names = ", ".join(dict.fromkeys(s.name for s in passing))
    used_ah = [day.used_ah for day in found]
    return CountableDays(
        days=found,
        left_out=len(told.days) - len(found),
        why=f"Something charged{', or the sun carried loads' if sunny else ''}.",
        doubt=f"{names}: what it gave may have passed the monitor by. Take these days only if it "
        "was off or covered."
        if found and passing
        else "",
        mean_ah=mean(used_ah) if used_ah else None,
        most_ah=max(used_ah, default=None),
    )


def _uncharged(day: LocalDay) -> bool:
    return day.idle and day.put_in_ah <= NOISE_SHARE * day.used_ah


def _dull(day: LocalDay) -> bool:
    return day.sun_a is not None and day.sun_a <= SUN_SHARE * day.used_ah / 24
