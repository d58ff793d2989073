"""What is known of a boat, whatever is proposed for it: one survey for all variants of a job."""

from __future__ import annotations

import datetime
from functools import cached_property
from typing import Annotated, Literal

from pydantic import Field, field_validator

from strom_engine.design import CurvePoint, Place, Profile
from strom_engine.design.choices import Fuel, SizeSort, Sky, Standard
from strom_engine.design.fields import (
    Frozen,
    Identifier,
    Kilowatts,
    Name,
    Price,
    Share,
    Temperature,
    Text,
    Versioned,
    Volts,
)
from strom_engine.survey.audit_items import (
    AuditItem,
    CountedDay,
    HoursADay,
    Inverter,
    Measurement,
    NotNegative,
    Season,
)
from strom_engine.versions import Chain

__all__ = [
    "SURVEY_CHAIN",
    "SURVEY_VERSION",
    "Boat",
    "Candidate",
    "CurvePoint",
    "Generator",
    "Practice",
    "RestReading",
    "Run",
    "Sizing",
    "Sun",
    "Survey",
    "WayOfUse",
]

SURVEY_CHAIN = Chain()
SURVEY_VERSION = SURVEY_CHAIN.version


class Boat(Frozen):
    """The boat itself; what nobody knows yet stays None and is listed as *to find out*."""

    kind: Name
    length_m: Annotated[float, Field(ge=1, le=200, allow_inf_nan=False)]
    hull: Literal["keel", "planing", "multihull", "open", "other"] | None = None
    fuel: Fuel = "diesel"
    engine_kw: Kilowatts | None = None
    engine_count: Annotated[int, Field(ge=1, le=4)] = 1
    latitude_deg: Annotated[float, Field(ge=-75, le=75, allow_inf_nan=False)] | None = None
    coldest_c: Temperature | None = None
    notes: Text = ""


class WayOfUse(Frozen):
    """How the boat is lived in, and what the owner complains of."""

    complaint: Text = ""
    way: Literal["day_trips", "weekends", "weeks_at_anchor", "liveaboard"] | None = None
    shore_power: bool | None = None
    season: Season = "summer"
    days_a_year: Annotated[float, Field(ge=1, le=366, allow_inf_nan=False)] | None = None


class Run(Frozen):
    """The way of cables between two places, measured once and used by every cable on it."""

    id: Identifier
    start: Identifier
    end: Identifier
    length_m: Annotated[float, Field(ge=0.01, le=100, allow_inf_nan=False)]
    measured: bool = True


class RestReading(Frozen):
    """A bank's voltage at rest."""

    id: Identifier
    bank: Identifier
    volts_v: Volts
    rested_h: NotNegative = 0.0
    date: datetime.date
    by: Name


class Sun(Frozen):
    """What the panels meet: sky, shade, mounting, age; and the user's own figures."""

    sky: Sky = "average"
    month: Annotated[int, Field(ge=1, le=12)] | None = None
    shading: Annotated[float, Field(ge=0, le=0.95, allow_inf_nan=False)] = 0.1
    mounting: Literal["flat", "tended"] = "flat"
    panel_age_years: Annotated[float, Field(ge=0, le=40, allow_inf_nan=False)] = 0.0
    divisor: Annotated[float, Field(ge=1, le=20, allow_inf_nan=False)] | None = None
    peak_sun_h: Annotated[float, Field(ge=0, le=12, allow_inf_nan=False)] | None = None
    adjustment: Annotated[float, Field(ge=0.05, le=1, allow_inf_nan=False)] = 0.7
    counts: Literal["divisor", "peak_sun", "computed"] = "computed"


class Generator(Frozen):
    """A wind or towed generator: a curve picked or typed in, its speed, its hours."""

    id: Identifier
    name: Name
    kind: Literal["wind", "towed"]
    curve: Identifier | None = None
    points: Annotated[tuple[CurvePoint, ...], Field(max_length=30)] = ()
    speed_kn: Annotated[float, Field(ge=0, le=100, allow_inf_nan=False)]
    hours: dict[Identifier, HoursADay] = Field(default_factory=dict)

    @field_validator("points")
    @classmethod
    def _rising(cls, value: tuple[CurvePoint, ...]) -> tuple[CurvePoint, ...]:
        speeds = [point.speed_kn for point in value]
        if speeds != sorted(set(speeds)):
            raise ValueError("the speeds of a curve must rise")
        return value


class Candidate(Frozen):
    """A bank the user wants to see beside the others."""

    id: Identifier
    unit: Identifier
    parallel: Annotated[int, Field(ge=1, le=12)] | None = None


class Sizing(Frozen):
    """What the bank must do, and how cautious the sizing is.

    ``volts`` is the voltage at which Wh become Ah, of a 12 V system, ``own_v`` one's own.
    """

    volts: Literal["12.0", "12.8", "13.2", "computed", "own"] = "12.8"
    own_v: Annotated[float, Field(ge=10, le=16, allow_inf_nan=False)] = 12.9
    days_between_charges: Annotated[float, Field(ge=0.1, le=30, allow_inf_nan=False)] = 2.0
    dark_days: Annotated[float, Field(ge=0, le=30, allow_inf_nan=False)] = 1.0
    window: Annotated[float, Field(gt=0.05, le=1, allow_inf_nan=False)] | None = None
    growth: Annotated[float, Field(ge=0, le=2, allow_inf_nan=False)] = 0.25
    ageing: Annotated[float, Field(ge=0, le=0.6, allow_inf_nan=False)] = 0.1
    engine_h: dict[Identifier, HoursADay] = Field(default_factory=dict)
    basis: Literal["audit_worst", "audit_average", "counted_worst", "counted_average"] = (
        "audit_worst"
    )
    candidates: Annotated[tuple[Candidate, ...], Field(max_length=12)] = ()
    prices: dict[Identifier, Price] = Field(default_factory=dict)
    bank_temperature_c: Temperature = 15.0
    crank_s: Annotated[float, Field(ge=0.5, le=60, allow_inf_nan=False)] = 4.0
    charge_to: Share = 0.95


class Practice(Frozen):
    """Whose figures this job is held against, and in which sizes cable is bought for it."""

    standard: Standard = "abyc"
    sizes: SizeSort = "awg"


class Survey(Versioned):
    """Everything learnt aboard that does not depend on the variant. Immutable.

    ``ac_checks``: what was seen of the AC and bonding checklist, by the ids of its items; None, or
    nothing, is not looked at.
    """

    chain = SURVEY_CHAIN

    version: int = SURVEY_CHAIN.version
    boat: Boat
    use: WayOfUse = WayOfUse()
    places: Annotated[tuple[Place, ...], Field(max_length=40)] = ()
    runs: Annotated[tuple[Run, ...], Field(max_length=200)] = ()
    resting: Annotated[tuple[RestReading, ...], Field(max_length=200)] = ()
    profiles: Annotated[tuple[Profile, ...], Field(max_length=12)] = ()
    items: Annotated[tuple[AuditItem, ...], Field(max_length=400)] = ()
    measurements: Annotated[tuple[Measurement, ...], Field(max_length=2000)] = ()
    counted: Annotated[tuple[CountedDay, ...], Field(max_length=2000)] = ()
    inverter: Inverter | None = None
    sun: Sun = Sun()
    generators: Annotated[tuple[Generator, ...], Field(max_length=8)] = ()
    sizing: Sizing = Sizing()
    practice: Practice = Practice()
    ac_checks: dict[Identifier, Literal["yes", "no"] | None] = Field(default_factory=dict)

    @cached_property
    def items_by_id(self) -> dict[str, AuditItem]:
        """Items by id."""
        return {item.id: item for item in self.items}

    @cached_property
    def run_lengths_m(self) -> dict[frozenset[str], float]:
        """Measured runs [m] by the two places they join."""
        return {frozenset((r.start, r.end)): r.length_m for r in self.runs if r.measured}
