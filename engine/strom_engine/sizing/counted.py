"""The counted way: what a battery monitor counted, beside what the audit says."""

from __future__ import annotations

import statistics
from dataclasses import dataclass

from strom_engine.sizing.audit import Audit, ItemDay, ProfileDay, audit
from strom_engine.survey import AuditItem, CountedDay, Season, Survey

__all__ = ["Comparison", "Count", "Reason", "compare_ways", "counts"]

# Below this share of the audit the two ways agree as well as either is known.
AGREE_SHARE = 0.10


@dataclass(frozen=True)
class Count:
    """Counted days of one profile and season; ``spread_ah`` is their standard deviation."""

    profile: str
    name: str
    season: Season
    days: int
    mean_ah: float
    spread_ah: float | None
    worst_ah: float
    worst_date: str


@dataclass(frozen=True)
class Reason:
    """Something that would explain the difference, with its size."""

    words: str
    explains_ah: float


@dataclass(frozen=True)
class Comparison:
    """Both ways for one profile and season: the count less the audit."""

    count: Count
    audited_ah: float
    difference_ah: float
    difference_share: float
    agree: bool
    reasons: tuple[Reason, ...]


def counts(survey: Survey) -> tuple[Count, ...]:
    """Counted days gathered by profile and season.

    Args:
        survey: with counted days.

    Returns:
        Days [-], least, mean and most [Ah].
    """
    names = {p.id: p.name for p in survey.profiles}
    groups: dict[tuple[str, Season], list[CountedDay]] = {}
    for day in survey.counted:
        groups.setdefault((day.profile, day.season), []).append(day)
    found = []
    for (profile, season), days in groups.items():
        used = [day.used_ah for day in days]
        worst = max(days, key=lambda day: day.used_ah)
        found.append(
            Count(
                profile=profile,
                name=names[profile],
                season=season,
                days=len(days),
                mean_ah=statistics.fmean(used),
                spread_ah=statistics.stdev(used) if len(used) > 1 else None,
                worst_ah=worst.used_ah,
                worst_date=worst.date.isoformat(),
            )
        )
    return tuple(found)


def compare_ways(survey: Survey, volts_v: float) -> tuple[Comparison, ...]:
    """Each count beside the audit of the same profile and season, with likely reasons.

    Args:
        survey: loads and counted days.
        volts_v: the conversion voltage [V].

    Returns:
        Ah a day both ways, with reasons.
    """
    audits: dict[Season, Audit] = {}
    found = []
    for count in counts(survey):
        if count.season not in audits:
            audits[count.season] = audit(survey, volts_v, count.season)
        day = audits[count.season].day(count.profile)
        if day is None:
            continue
        gap = count.mean_ah - day.charge_ah
        share = gap / day.charge_ah if day.charge_ah else 1.0
        agree = abs(share) <= AGREE_SHARE
        reasons = () if agree else tuple(_reasons(survey, count, day, gap, volts_v))
        found.append(Comparison(count, day.charge_ah, gap, share, agree, reasons))
    return tuple(found)


def _reasons(
    survey: Survey, count: Count, day: ProfileDay, gap_ah: float, volts_v: float
) -> list[Reason]:
    """Reasons for a gap [Ah a day], the most likely first."""
    cycling = [i for i in survey.items if i.duty < 1 and not i.standing and i.draw]
    rows = {row.item: row for row in day.items}
    found: list[Reason] = []
    if gap_ah > 0:
        words = f"A standing draw that is not listed: {gap_ah / 24:.2f} A round the clock."
        found.append(Reason(words, gap_ah))
        found += _duty_reasons(cycling, rows, gap_ah)
        inverter = survey.inverter
        if inverter and day.inverter and day.inverter.on_h < 24:
            more_ah = (24 - day.inverter.on_h) * inverter.idle_w / volts_v
            words = f"The inverter left on all day: {24 - day.inverter.on_h:g} h more of idle draw."
            found.append(Reason(words, more_ah))
        unknown = ", ".join(day.unknown[:3])
        if unknown:
            found.append(Reason(f"Loads whose draw is not known yet: {unknown}.", 0.0))
    else:
        found += _duty_reasons(cycling, rows, gap_ah)
        if day.assumed_share > 0:
            words = f"{day.assumed_share:.0%} of the audit is assumed: measure the largest first."
            found.append(Reason(words, 0.0))
        found.append(Reason("A source charged while the monitor counted: its day is too low.", 0.0))
    if count.days < 3:
        words = f"Only {count.days} counted day{'s' if count.days > 1 else ''}: count more."
        found.append(Reason(words, 0.0))
    return found


def _duty_reasons(
    cycling: list[AuditItem], rows: dict[str, ItemDay], gap_ah: float
) -> list[Reason]:
    """Items whose duty, set otherwise, would close the gap."""
    found = []
    for item in cycling:
        row = rows.get(item.id)
        if row is None or row.charge_ah <= 0:
            continue
        wanted = item.duty * (1 + gap_ah / row.charge_ah)
        if 0 < wanted <= 1:
            level = "low" if gap_ah > 0 else "high"
            words = (
                f"{item.name}: duty {item.duty:g} is too {level}; {wanted:.2f} would explain it."
            )
            found.append(Reason(words, gap_ah))
    return found
