"""The energy audit, appliance by appliance: what a day costs in each profile."""

from __future__ import annotations

from dataclasses import dataclass
from functools import cache

from strom_engine.reference import load_table
from strom_engine.sizing.inverter import InverterDay, dc_power_w, inverter_day
from strom_engine.survey import AuditItem, Season, Survey

__all__ = ["Audit", "ItemDay", "ProfileDay", "audit", "energy_wh"]

HOURS = 24
DAYS = 7


@dataclass(frozen=True)
class ItemDay:
    """One item over one day of a profile, on the DC side."""

    item: str
    name: str
    group: str
    hours_h: float
    running_a: float
    energy_wh: float
    charge_ah: float
    week_ah: float
    share: float
    standing: bool


@dataclass(frozen=True)
class ProfileDay:
    """One day of a profile in a season.

    ``hourly_a`` are mean amps in each hour of the clock; ``all_on_a`` what runs when every
    item of the profile is on at once; ``unknown`` names items whose draw nobody knows yet.
    """

    profile: str
    name: str
    season: Season
    items: tuple[ItemDay, ...]
    energy_wh: float
    charge_ah: float
    mean_a: float
    hourly_a: tuple[float, ...]
    busiest_hour: int
    busiest_a: float
    all_on_a: float
    standing_ah: float
    standing_week_ah: float
    assumed_share: float
    inverter: InverterDay | None
    unknown: tuple[str, ...]


@dataclass(frozen=True)
class Audit:
    """Every profile in one season, at one stated voltage."""

    volts_v: float
    season: Season
    profiles: tuple[ProfileDay, ...]
    worst: str | None
    average_ah: float
    source: str

    def day(self, profile: str | None) -> ProfileDay | None:
        """The day of a profile; None where there is no such profile."""
        return next((p for p in self.profiles if p.profile == profile), None)


def energy_wh(power_w: float, hours_h: float, duty: float) -> float:
    """Energy of an item [Wh] = draw [W] x hours x duty."""
    return power_w * hours_h * duty


def audit(survey: Survey, volts_v: float, season: Season | None = None) -> Audit:
    """The audit of every profile in a season, that of the survey by default.

    ``volts_v``: voltage [V] at which amps and watts are converted. AC items pass the inverter
    with its efficiency at their load, and its idle draw is an item of its own.

    Args:
        survey: loads, profiles, inverter.
        volts_v: the conversion voltage [V], above zero.
        season: that of the survey when None.

    Returns:
        Wh and Ah a day by profile and load.
    """
    season = season or survey.use.season
    days = tuple(_profile_day(survey, p.id, p.name, volts_v, season) for p in survey.profiles)
    worst = max(days, key=lambda d: d.charge_ah, default=None)
    return Audit(
        volts_v=volts_v,
        season=season,
        profiles=days,
        worst=worst.profile if worst and worst.charge_ah > 0 else None,
        average_ah=sum(d.charge_ah for d in days) / len(days) if days else 0.0,
        source=load_table("load_examples").citation,
    )


def _running_w(survey: Survey, item: AuditItem, volts_v: float) -> float:
    """DC power [W] of an item while it runs; 0 while its draw is unknown."""
    if item.draw is None:
        return 0.0
    if item.current == "ac":
        mains_v = survey.inverter.mains_v if survey.inverter else 230.0
        power_w = item.draw if item.unit == "W" else item.draw * mains_v
        return dc_power_w(power_w, survey.inverter)
    return item.draw if item.unit == "W" else item.draw * volts_v


def _profile_day(
    survey: Survey, profile: str, name: str, volts_v: float, season: Season
) -> ProfileDay:
    rows: list[ItemDay] = []
    hourly_wh = [0.0] * HOURS
    assumed_wh = 0.0
    for item in survey.items:
        hours_h = item.hours_in(profile, season)
        if hours_h <= 0:
            continue
        power_w = _running_w(survey, item, volts_v)
        used_wh = energy_wh(power_w, hours_h, item.duty)
        rows.append(_item_day(item, hours_h, power_w / volts_v, used_wh, volts_v))
        window = "all_day" if item.standing else item.window
        for hour, share in enumerate(_spread(window, hours_h)):
            hourly_wh[hour] += used_wh * share
        assumed_wh += used_wh if item.basis == "assumed" else 0.0
    idle = inverter_day(survey, profile)
    if idle is not None and idle.idle_wh > 0:
        rows.append(_idle_row(idle, volts_v))
        for hour, share in enumerate(_spread("all_day", idle.on_h)):
            hourly_wh[hour] += idle.idle_wh * share
    total_wh = sum(row.energy_wh for row in rows)
    shared = tuple(_with_share(row, total_wh) for row in rows)
    hourly_a = tuple(wh / volts_v for wh in hourly_wh)
    busiest = max(range(HOURS), key=lambda h: hourly_a[h])
    standing_ah = sum(row.charge_ah for row in shared if row.standing)
    return ProfileDay(
        profile=profile,
        name=name,
        season=season,
        items=tuple(sorted(shared, key=lambda row: -row.energy_wh)),
        energy_wh=total_wh,
        charge_ah=total_wh / volts_v,
        mean_a=total_wh / volts_v / HOURS,
        hourly_a=hourly_a,
        busiest_hour=busiest,
        busiest_a=hourly_a[busiest],
        all_on_a=sum(row.running_a for row in shared),
        standing_ah=standing_ah,
        standing_week_ah=DAYS * standing_ah,
        assumed_share=assumed_wh / total_wh if total_wh else 0.0,
        inverter=idle,
        unknown=tuple(item.name for item in survey.items if item.draw is None),
    )


def _item_day(
    item: AuditItem, hours_h: float, running_a: float, used_wh: float, volts_v: float
) -> ItemDay:
    return ItemDay(
        item=item.id,
        name=item.name,
        group=item.group,
        hours_h=hours_h,
        running_a=running_a,
        energy_wh=used_wh,
        charge_ah=used_wh / volts_v,
        week_ah=DAYS * used_wh / volts_v,
        share=0.0,
        standing=item.standing,
    )


def _idle_row(idle: InverterDay, volts_v: float) -> ItemDay:
    # An inverter that is on for the whole day is a standing draw like any other.
    return ItemDay(
        item="inverter_idle",
        name="Inverter, idle draw",
        group="Inverter",
        hours_h=idle.on_h,
        running_a=idle.idle_w / volts_v,
        energy_wh=idle.idle_wh,
        charge_ah=idle.idle_wh / volts_v,
        week_ah=DAYS * idle.idle_wh / volts_v,
        share=0.0,
        standing=idle.on_h >= HOURS,
    )


def _with_share(row: ItemDay, total_wh: float) -> ItemDay:
    share = row.energy_wh / total_wh if total_wh else 0.0
    return ItemDay(**{**vars(row), "share": share})


@cache
def _window_hours(window: str) -> tuple[int, ...]:
    rows = [r for r in load_table("day_windows").rows if r["window"] == window]
    return tuple(h for r in rows for h in range(int(r["from_h"]), int(r["to_h"])))


@cache
def _spread(window: str, hours_h: float) -> tuple[float, ...]:
    """Share of a use that falls in each hour of the clock.

    It fills the hours of its window evenly; what does not fit spills over the rest of the day.
    """
    inside = _window_hours(window)
    outside = [h for h in range(HOURS) if h not in inside]
    fits = min(1.0, len(inside) / hours_h) if hours_h > 0 else 1.0
    shares = [0.0] * HOURS
    for hour in inside:
        shares[hour] += fits / len(inside)
    for hour in outside:
        shares[hour] += (1 - fits) / len(outside)
    return tuple(shares)
