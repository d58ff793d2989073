"""What panels give in a day, by three ways side by side."""

from __future__ import annotations

import math
from dataclasses import dataclass
from datetime import date
from functools import lru_cache

import numpy as np

from strom_engine.design import Solar
from strom_engine.reference import load_table
from strom_engine.survey import Season, Sun

__all__ = [
    "DEFAULT_LATITUDE_DEG",
    "PANEL_PERFORMANCE",
    "STEP_H",
    "SolarWay",
    "SolarYield",
    "clear_sky_w",
    "extraterrestrial_kwh",
    "horizontal_irradiation_kwh",
    "month_of",
    "panel_condition",
    "season_of",
    "sky_share",
    "solar_yield",
]

DEFAULT_LATITUDE_DEG = 45.0
# Heat, dirt, mismatch and wiring of a warm panel lying on a deck (IEC 61724 performance ratios
# of small systems run from 0.75 to 0.9 before the controller). Medium confidence.
PANEL_PERFORMANCE = 0.85
AGEING_PER_YEAR = 0.006  # makers' warranties: 0.5 to 0.7 % a year
TENDED_GAIN = 1.2  # a panel turned to the sun by hand a few times a day; low confidence
CLEAR_TURBIDITY = 3.5  # Linke turbidity of coasts, yearly mean as commonly published
PANEL_MATCH_V = 12.8  # battery voltage at which a pulse-width controller holds the panel
STEP_H = 24 / 288
CLEAR_SHARE = 0.75  # of the irradiation above the atmosphere, on a clear day (FAO-56)
SOLAR_CONSTANT_MJ_MIN = 0.0820  # [MJ/(m2 min)] (FAO-56)
MJ_PER_KWH = 3.6
MONTHS: dict[Season, int] = {"winter": 1, "spring": 4, "summer": 7, "autumn": 10}
USUAL_SHADE = 0.10  # what the rule of thumb already stands for: rigging, a boom, a gull
AGREE_SHARE = 0.40
MID_LATITUDE = (30.0, 55.0)


@dataclass(frozen=True)
class SolarWay:
    """One way of estimating, with its arithmetic."""

    way: str
    label: str
    charge_ah: float
    energy_wh: float
    working: tuple[str, ...]
    source: str


@dataclass(frozen=True)
class SolarYield:
    """All three ways; ``why_not`` says why they differ by more than 40 % where they do."""

    panel_w: float
    ways: tuple[SolarWay, ...]
    counted: str
    spread: float
    why_not: str | None

    @property
    def charge_ah(self) -> float:
        """The way that counts [Ah a day]."""
        return next((w.charge_ah for w in self.ways if w.way == self.counted), 0.0)


def month_of(season: Season, latitude_deg: float) -> int:
    """The middle month of a season, on either half of the earth."""
    month = MONTHS[season]
    return month if latitude_deg >= 0 else (month + 5) % 12 + 1


def season_of(month: int, latitude_deg: float) -> Season:
    """The season that a month lies in, on either half of the earth."""
    seasons: tuple[Season, ...] = ("winter", "spring", "summer", "autumn")
    return seasons[(month % 12 // 3 + (0 if latitude_deg >= 0 else 2)) % 4]


def extraterrestrial_kwh(latitude_deg: float, month: int) -> float:
    """Daily irradiation above the atmosphere on the horizontal [kWh/m2], on the 15th of a month.

    Source: FAO-56, equations 21 to 25.
    """
    day = date(2025, month, 15).timetuple().tm_yday
    year = 2 * math.pi * day / 365
    distance, declination = 1 + 0.033 * math.cos(year), 0.409 * math.sin(year - 1.39)
    latitude = math.radians(latitude_deg)
    sunset = math.acos(min(1.0, max(-1.0, -math.tan(latitude) * math.tan(declination))))
    mj = (24 * 60 / math.pi) * SOLAR_CONSTANT_MJ_MIN * distance
    mj *= sunset * math.sin(latitude) * math.sin(declination) + math.cos(latitude) * math.cos(
        declination
    ) * math.sin(sunset)
    return max(0.0, mj / MJ_PER_KWH)


@lru_cache(maxsize=128)
def clear_sky_w(latitude_deg: float, month: int) -> tuple[float, ...]:
    """Irradiance on the horizontal [W/m2] every 5 min on the 15th of a month, by solar time.

    The course of the day is that of a clear sky by Ineichen and Perez (2002) as in pvlib, Linke
    turbidity 3.5, at sea level; its sum is what FAO-56 gives for a clear day, 0.75 of that above
    the atmosphere. Ineichen's own sums lie 5 to 10 % lower in summer, and 30 to 50 % lower where
    the winter sun is low, which measured winters do not bear out.
    """
    course = _clear_course_w(latitude_deg, month)
    own_kwh = sum(course) * STEP_H / 1000
    if own_kwh <= 0:
        return course
    share = CLEAR_SHARE * extraterrestrial_kwh(latitude_deg, month) / own_kwh
    return tuple(watts * share for watts in course)


def _clear_course_w(latitude_deg: float, month: int) -> tuple[float, ...]:
    # Loading pvlib takes a second, which only this function needs.
    import pandas as pd  # noqa: PLC0415
    from pvlib import atmosphere, clearsky, irradiance, solarposition  # noqa: PLC0415

    times = pd.date_range(f"2025-{month:02d}-15", periods=288, freq="5min", tz="UTC")
    sun = solarposition.get_solarposition(times, latitude_deg, 0.0, method="nrel_numpy")
    airmass = atmosphere.get_relative_airmass(sun["apparent_zenith"].clip(upper=89.9))
    extra = irradiance.get_extra_radiation(int(times.day_of_year[0]))
    clear = clearsky.ineichen(sun["apparent_zenith"], airmass, CLEAR_TURBIDITY, dni_extra=extra)[
        "ghi"
    ]
    return tuple(np.nan_to_num(clear.to_numpy()).tolist())


def sky_share(sunshine: float) -> float:
    """Irradiation under a mean sky over that of a clear one [-], by its share of sunshine [-].

    Angstrom and Prescott with the coefficients of FAO-56: ``(0.25 + 0.50 n) / 0.75``.
    """
    return (0.25 + 0.50 * sunshine) / CLEAR_SHARE


def horizontal_irradiation_kwh(latitude_deg: float, month: int, sunshine: float) -> float:
    """Mean daily irradiation on the horizontal [kWh/m2] on the 15th of a month.

    A clear sky brought to a mean one for a share of sunshine [-]. Good to about 15 %.
    """
    clear_kwh = sum(clear_sky_w(latitude_deg, month)) * STEP_H / 1000
    return clear_kwh * sky_share(sunshine)


def panel_condition(sun: Sun) -> float:
    """What shade, age and mounting leave of a panel's power [-]."""
    return (1 - sun.shading) * _age(sun) * (TENDED_GAIN if sun.mounting == "tended" else 1.0)


def solar_yield(
    panels: tuple[Solar, ...], sun: Sun, season: Season, latitude_deg: float | None, volts_v: float
) -> SolarYield:
    """Ampere-hours a day of all panels by the three ways, at the audit's voltage [V].

    Args:
        panels: all of them, watts [W] and how they lie.
        sun: shade, clouds, k.
        season: of the year.
        latitude_deg: north positive [deg]; None leaves out the computed way.
        volts_v: the conversion voltage [V].

    Returns:
        Ah a day by each way.
    """
    latitude = DEFAULT_LATITUDE_DEG if latitude_deg is None else latitude_deg
    month = sun.month or month_of(season, latitude)
    if sun.month is not None:
        season = season_of(sun.month, latitude)
    panel_w = sum(p.panel_w for p in panels)
    condition = panel_condition(sun)
    nominal = 12.0 * max(1, round(volts_v / 12.8))
    ways = (
        _by_divisor(panel_w, sun, condition, nominal),
        _by_peak_sun(panel_w, sun, season, latitude, condition, volts_v),
        _computed(panels, sun, month, latitude, condition, volts_v),
    )
    amounts = [w.charge_ah for w in ways]
    spread = max(amounts) / min(amounts) - 1 if min(amounts) > 0 else 0.0
    why = None
    if panel_w and (spread > AGREE_SHARE or min(amounts) <= 0):
        why = _why_not(latitude, season, sun, panels)
    return SolarYield(panel_w, ways, sun.counts, spread, why)


def _age(sun: Sun) -> float:
    return float((1 - AGEING_PER_YEAR) ** sun.panel_age_years)


def _condition_words(sun: Sun) -> str:
    age = _age(sun)
    tended = f" x tended {TENDED_GAIN:g}" if sun.mounting == "tended" else ""
    return f"(1 - shade {sun.shading:.0%}) x age {age:.2f}{tended} = {panel_condition(sun):.2f}"


def _by_divisor(panel_w: float, sun: Sun, condition: float, nominal_v: float) -> SolarWay:
    row = next(r for r in load_table("skies").rows if r["sky"] == sun.sky)
    k = sun.divisor or float(row["divisor"])
    beyond = condition / (1 - USUAL_SHADE)
    energy_wh = panel_w / k * 12.0 * beyond
    return SolarWay(
        "divisor",
        "Watts divided by k",
        energy_wh / nominal_v,
        energy_wh,
        (
            f"{panel_w:g} W / {k:g} = {panel_w / k:.0f} Ah a day at 12 V, "
            f"{row['label'].lower()} sky, with the usual {USUAL_SHADE:.0%} of shade.",
            f"Aboard: {_condition_words(sun)}, / {1 - USUAL_SHADE:g}: "
            f"{energy_wh / nominal_v:.0f} Ah at {nominal_v:g} V.",
        ),
        load_table("skies").citation,
    )


def _by_peak_sun(
    panel_w: float, sun: Sun, season: Season, latitude: float, condition: float, volts_v: float
) -> SolarWay:
    table = load_table("peak_sun_hours")
    row = next(r for r in load_table("skies").rows if r["sky"] == sun.sky)
    usual_h = table.lookup("latitude_deg", season, abs(latitude)) * float(row["psh_factor"])
    hours = usual_h if sun.peak_sun_h is None else sun.peak_sun_h
    # The adjustment stands for flat, warm and shaded together: shade is not taken off twice.
    unshaded = condition / (1 - sun.shading)
    energy_wh = panel_w * hours * sun.adjustment * unshaded
    return SolarWay(
        "peak_sun",
        "Watts x peak-sun hours x adjustment",
        energy_wh / volts_v,
        energy_wh,
        (
            f"{panel_w:g} W x {hours:.1f} h x {sun.adjustment:g} x age and mounting "
            f"{unshaded:.2f} = {energy_wh:.0f} Wh.",
            f"{energy_wh:.0f} Wh / {volts_v:g} V = {energy_wh / volts_v:.0f} Ah a day.",
        ),
        table.citation,
    )


def _computed(
    panels: tuple[Solar, ...],
    sun: Sun,
    month: int,
    latitude: float,
    condition: float,
    volts_v: float,
) -> SolarWay:
    row = next(r for r in load_table("skies").rows if r["sky"] == sun.sky)
    kwh = horizontal_irradiation_kwh(round(latitude, 1), month, float(row["sunshine"]))
    energy_wh = sum(kwh * p.panel_w * PANEL_PERFORMANCE * _controller(p) for p in panels)
    energy_wh *= condition
    return SolarWay(
        "computed",
        "Computed irradiation",
        energy_wh / volts_v,
        energy_wh,
        (
            f"Latitude {latitude:g}°, month {month}, {float(row['sunshine']):.0%} of the possible "
            f"sunshine: {kwh:.2f} kWh/m2 a day on the horizontal.",
            f"x {sum(p.panel_w for p in panels):g} W x {PANEL_PERFORMANCE:g} (heat, dirt, wiring) "
            f"x controller x {_condition_words(sun)} = {energy_wh:.0f} Wh.",
            f"{energy_wh:.0f} Wh / {volts_v:g} V = {energy_wh / volts_v:.0f} Ah a day.",
        ),
        "FAO-56, Angstrom-Prescott (sum of a day); Ineichen and Perez 2002 (its course)",
    )


def _controller(panel: Solar) -> float:
    """Share of a panel's power that its controller passes on [-]."""
    if panel.controller == "mppt":
        return panel.efficiency
    cells = max(1, round(panel.panel_vmp_v / 18.0))
    return min(1.0, PANEL_MATCH_V * cells / panel.panel_vmp_v)


def _why_not(latitude: float, season: Season, sun: Sun, panels: tuple[Solar, ...]) -> str:
    low, high = MID_LATITUDE
    if not low <= abs(latitude) <= high:
        return "The rule of thumb is for middle latitudes; here the sun stands otherwise."
    if season != "summer":
        return "The rule of thumb is for summer; in this season the sun stands lower."
    if sun.divisor or sun.peak_sun_h is not None or not 0.6 <= sun.adjustment <= 0.8:
        return "A figure of your own is far from the usual one."
    if sun.shading > 0.25:
        return "Much shade: the adjustment of the second way does not know how much."
    if any(p.controller == "pwm" for p in panels):
        return "A controller without tracking wastes what the rules of thumb take as given."
    return "The ways rest on different figures: count a few days with the monitor."
