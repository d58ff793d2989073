"""Days of records that count for the audit: nothing charged, so what left the bank was used."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import date

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


@dataclass(frozen=True)
class CountableDay:
    """A day from nine to nine in which nothing charged: date, what was used [Ah], season."""

    date: str
    used_ah: float
    season: Season


@dataclass(frozen=True)
class CountableDays:
    """Those of a trace, and why others of its days do not count."""

    days: tuple[CountableDay, ...]
    left_out: int
    why: str


def countable_days(told: Happened, design: Design, survey: Survey, shunted: str) -> CountableDays:
    """The days of a trace that the audit can be held against.

    Args:
        told: what happened in the trace.
        design: the boat, for its sources.
        survey: where she lies: seasons are turned round south of the line.
        shunted: the bank that was recorded; the audit is that of a house bank.

    Returns:
        Use in [Ah] at the bank's terminals. A day does not count where something charged the bank,
        or where a sun or wind may have carried loads past the monitor unseen.
    """
    bank = design.by_id.get(shunted)
    if not isinstance(bank, Bank) or bank.role != "house":
        return CountableDays((), len(told.days), "The audit is that of the house bank.")
    driven = (Alternator, Charger, FittedInverter, Solar)
    # Wind and water give at any hour, and what they carry passes the bank by.
    unseen = [s.name for s in design.sources if not isinstance(s, driven)]
    if unseen:
        why = f"{', '.join(unseen)} may give at any hour, and carries loads past the monitor."
        return CountableDays((), len(told.days), why)
    sunny = bool(design.of_type(Solar))
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
    sun = ", or the sun carried loads" if sunny else ""
    return CountableDays(found, len(told.days) - len(found), f"Something charged{sun}.")


def _uncharged(day: LocalDay) -> bool:
    return day.idle and day.put_in_ah <= NOISE_SHARE * day.used_ah


def _dull(day: LocalDay) -> bool:
    return day.sun_a is not None and day.sun_a <= SUN_SHARE * day.used_ah / 24
