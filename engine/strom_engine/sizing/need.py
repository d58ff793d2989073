"""How large a bank has to be: use less yield, times days, over what may be used of it."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass
from typing import Literal

from strom_engine.design import Alternator, Design, Solar
from strom_engine.reference import load_table
from strom_engine.sizing.audit import Audit, audit
from strom_engine.sizing.counted import Count, counts
from strom_engine.sizing.generators import GeneratorDay, generator_day
from strom_engine.sizing.solar import SolarYield, solar_yield
from strom_engine.survey import Season, Survey

__all__ = ["Family", "Need", "ProfileNet", "Window", "Yields", "needs", "usable_window", "yields"]

Family = Literal["lead", "lithium"]
WAYS = {
    "audit_worst": "Audit, worst profile",
    "audit_average": "Audit, average of the profiles",
    "counted_worst": "Counted, worst day",
    "counted_average": "Counted, average",
}


@dataclass(frozen=True)
class ProfileNet:
    """A day of a profile: what it uses, what sun, wind and water give back."""

    profile: str
    name: str
    shore: bool
    use_ah: float
    solar_ah: float
    generators_ah: float
    engine_ah: float
    net_ah: float


@dataclass(frozen=True)
class Yields:
    """Everything that charges without shore power, profile by profile."""

    solar: SolarYield
    generators: tuple[GeneratorDay, ...]
    alternator_hot_a: float
    profiles: tuple[ProfileNet, ...]


@dataclass(frozen=True)
class Window:
    """Share of a bank that everyday living may use [-], and whose word that is."""

    family: Family
    share: float
    words: str
    source: str


@dataclass(frozen=True)
class Need:
    """One of the four ways to say what the bank must hold [Ah at the 20 h rate].

    ``dark``: the days without sun, wind and water decide, not the days between charges.
    """

    way: str
    label: str
    use_ah: float
    yield_ah: float
    net_ah: float
    days: float
    period_ah: float
    dark: bool
    need_ah: dict[str, float]
    working: tuple[str, ...]


def usable_window(survey: Survey, family: Family) -> Window:
    """What may be used of a bank of a chemistry family at this way of life.

    Args:
        survey: the way of life aboard.
        family: lead or lithium.

    Returns:
        Upper and lower state of charge [-] with the reason.
    """
    if survey.sizing.window is not None:
        share = survey.sizing.window
        return Window(family, share, f"{share:.0%} by your own choice", "your own choice")
    table = load_table("usable_window")
    shore = bool(survey.use.shore_power)
    row = next(r for r in table.rows if r["family"] == family and (r["shore"] == "yes") == shore)
    share = float(row["window"])
    life = "with shore power" if shore else "away from shore"
    return Window(family, share, f"{share:.0%} of {family} {life}", table.citation)


def yields(design: Design, survey: Survey, used: Audit) -> Yields:
    """What sun, wind, water and engine give in a day of each profile.

    Args:
        design: the boat, as surveyed.
        survey: sun, wind, engine hours.
        used: the audit of the same season.

    Returns:
        Ah a day by source and profile.
    """
    solar = solar_yield(
        design.of_type(Solar),
        survey.sun,
        used.season,
        survey.boat.latitude_deg,
        used.volts_v,
    )
    hot_a = sum(a.rated_a * a.hot_share for a in design.of_type(Alternator))
    all_days: list[GeneratorDay] = []
    rows = []
    shore = {p.id: p.shore for p in survey.profiles}
    for day in used.profiles:
        given = [generator_day(g, day.profile, design.system_v) for g in survey.generators]
        all_days += [g for g in given if g.hours_h > 0]
        blown_ah = sum(g.charge_ah for g in given)
        rows.append(
            ProfileNet(
                profile=day.profile,
                name=day.name,
                shore=shore[day.profile],
                use_ah=day.charge_ah,
                solar_ah=solar.charge_ah,
                generators_ah=blown_ah,
                engine_ah=hot_a * survey.sizing.engine_h.get(day.profile, 0.0),
                net_ah=day.charge_ah - solar.charge_ah - blown_ah,
            )
        )
    return Yields(solar, tuple(all_days), hot_a, tuple(rows))


def needs(design: Design, survey: Survey, volts_v: float) -> tuple[Need, ...]:
    """The need by both audit ways, worst and average; ways without data are left out.

    Profiles with the shore lead in ask nothing of the bank and are left out. What the bank must
    give is the net use over the days between charges, but never less than the whole use over
    the dark days: so more sun never asks for a larger bank.

    Args:
        design: the boat, as surveyed.
        survey: the way of life aboard.
        volts_v: the conversion voltage [V].

    Returns:
        Ah that the house bank must hold, with the arithmetic.
    """
    found = []
    for way, season, pairs in (
        *_audited(design, survey, volts_v),
        *_counted_ways(design, survey, volts_v),
    ):
        use_ah, yield_ah = pairs
        found.append(_need(survey, way, use_ah, yield_ah, season))
    return tuple(found)


Way = tuple[str, Season, tuple[float, float]]


def _audited(design: Design, survey: Survey, volts_v: float) -> Iterable[Way]:
    used = audit(survey, volts_v)
    away = [p for p in yields(design, survey, used).profiles if not p.shore and p.use_ah > 0]
    if not away:
        return
    worst = max(away, key=lambda p: p.net_ah)
    yield "audit_worst", used.season, (worst.use_ah, worst.use_ah - worst.net_ah)
    mean = sum(p.use_ah for p in away) / len(away)
    net = sum(p.net_ah for p in away) / len(away)
    yield "audit_average", used.season, (mean, mean - net)


def _counted_ways(design: Design, survey: Survey, volts_v: float) -> Iterable[Way]:
    """Each count against the yield of its own season."""
    shore = {p.id for p in survey.profiles if p.shore}
    away = [c for c in counts(survey) if c.profile not in shore]
    if not away:
        return
    given = {c: _yield_of(design, survey, volts_v, c) for c in away}
    worst = max(away, key=lambda c: c.worst_ah - given[c])
    yield "counted_worst", worst.season, (worst.worst_ah, given[worst])
    days = sum(c.days for c in away)
    mean = sum(c.mean_ah * c.days for c in away) / days
    mean_given = sum(given[c] * c.days for c in away) / days
    yield "counted_average", away[0].season, (mean, mean_given)


def _yield_of(design: Design, survey: Survey, volts_v: float, count: Count) -> float:
    found = yields(design, survey, audit(survey, volts_v, count.season))
    row = next(p for p in found.profiles if p.profile == count.profile)
    return row.use_ah - row.net_ah


def _need(survey: Survey, way: str, use_ah: float, yield_ah: float, season: Season) -> Need:
    wish = survey.sizing
    net_ah = use_ah - yield_ah
    steady_ah = max(0.0, net_ah) * wish.days_between_charges
    dark_ah = use_ah * wish.dark_days
    dark = dark_ah > steady_ah
    days = wish.dark_days if dark else wish.days_between_charges
    period_ah = max(steady_ah, dark_ah)
    cold = load_table("capacity_cold")
    held: dict[str, float] = {}
    working = [
        f"{season.capitalize()}: {use_ah:.0f} Ah used - {yield_ah:.0f} Ah from sun, wind and "
        f"water = {net_ah:.0f} Ah a day.",
        f"{net_ah:.0f} x {wish.days_between_charges:g} days between charges = {steady_ah:.0f} Ah."
        if net_ah > 0
        else "The yield covers the use: the dark days decide.",
        f"{wish.dark_days:g} dark days x {use_ah:.0f} = {dark_ah:.0f} Ah: "
        + ("more, it decides." if dark else "less."),
    ]
    families: tuple[Family, ...] = ("lead", "lithium")
    for family in families:
        window = usable_window(survey, family)
        warmth = cold.lookup("temperature_c", family, wish.bank_temperature_c)
        held[family] = period_ah / window.share * (1 + wish.growth) / (1 - wish.ageing) / warmth
        working.append(
            f"{family.capitalize()}: {period_ah:.0f} Ah / {window.share:.0%} x (1 + growth "
            f"{wish.growth:.0%}) / (1 - ageing {wish.ageing:.0%}) / {warmth:.2f} at "
            f"{wish.bank_temperature_c:g} °C = {held[family]:.0f} Ah."
        )
    return Need(
        way=way,
        label=WAYS[way],
        use_ah=use_ah,
        yield_ah=yield_ah,
        net_ah=net_ah,
        days=days,
        period_ah=period_ah,
        dark=dark,
        need_ah=held,
        working=tuple(working),
    )
