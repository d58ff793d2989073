"""What draws aboard and for how long: items, measurements, counted days, the inverter."""

from __future__ import annotations

import datetime
from typing import Annotated, Literal

from pydantic import Field, model_validator

from strom_engine.design import DropClass
from strom_engine.design.choices import LoadLaw
from strom_engine.design.fields import Amps, Frozen, Identifier, Name, Share, Text, Volts, Watts

__all__ = [
    "AuditItem",
    "Basis",
    "CountedDay",
    "Hours",
    "Inverter",
    "Measurement",
    "Method",
    "Season",
    "Window",
]

Season = Literal["summer", "spring", "autumn", "winter"]
Window = Literal["all_day", "night", "evening", "daylight", "meals", "morning"]
Method = Literal["difference", "clamp", "plate"]
Basis = Literal["assumed", "difference", "clamp", "plate", "typed"]
NotNegative = Annotated[float, Field(ge=0, le=100_000, allow_inf_nan=False)]
Draw = Annotated[float, Field(ge=1e-4, le=100_000, allow_inf_nan=False)]  # [A] or [W]
HoursADay = Annotated[float, Field(ge=0, le=24, allow_inf_nan=False)]


# The largest thrusters draw about 1000 A at 12 V; mains aboard end far below 400 A.
MOST_DC_A = 2000
MOST_AC_A = 400


class Hours(Frozen):
    """How long an item is switched on in a day: hours, or times x minutes."""

    hours: HoursADay | None = None
    times: NotNegative | None = None
    minutes: NotNegative | None = None

    @model_validator(mode="after")
    def _one_way(self) -> Hours:
        counted = self.times is not None and self.minutes is not None
        if (self.hours is not None) == counted or (self.times is None) != (self.minutes is None):
            raise ValueError("give either hours, or times and minutes")
        if self.a_day_h > 24:
            raise ValueError(f"{self.a_day_h:g} h are more than a day has")
        return self

    @property
    def a_day_h(self) -> float:
        """Hours a day [h]."""
        if self.hours is not None:
            return self.hours
        return (self.times or 0.0) * (self.minutes or 0.0) / 60


class AuditItem(Frozen):
    """One appliance: its running draw, and its hours in each profile.

    ``draw`` is in amps at the stated voltage of the system (DC) or of the mains (AC), or in
    watts; None is *to find out*. ``duty`` is the share of the switched-on time in which it
    really draws. A ``standing`` item draws round the clock whatever the profile says.
    ``start_a`` is what it takes for seconds as it starts, and stuck; ``thermal_cutout``: it stops
    by itself when hot; ``fuse_a`` is the fuse that its maker asks for; ``drop`` how much its
    circuit may lose, as its name proposes where it is None.
    """

    id: Identifier
    name: Name
    group: Name = "Other"
    draw: Draw | None = None
    unit: Literal["A", "W"] = "A"
    current: Literal["dc", "ac"] = "dc"
    law: LoadLaw = "power"
    duty: Share = 1.0
    window: Window = "all_day"
    standing: bool = False
    always_on: bool = False
    min_v: Volts | None = None
    start_a: Amps | None = None
    thermal_cutout: bool | None = None
    fuse_a: Amps | None = None
    drop: DropClass | None = None
    feed: Identifier | None = None
    basis: Basis = "assumed"
    uses: dict[Identifier, Hours] = Field(default_factory=dict)
    seasons: dict[Season, Annotated[float, Field(ge=0, le=10, allow_inf_nan=False)]] = Field(
        default_factory=dict
    )

    @model_validator(mode="after")
    def _amps(self) -> AuditItem:
        most_a = MOST_DC_A if self.current == "dc" else MOST_AC_A
        if self.unit == "A" and self.draw is not None and self.draw > most_a:
            words = self.current.upper()
            raise ValueError(f"{self.draw:g} A is more than any {words} load aboard, {most_a} A")
        return self

    def hours_in(self, profile: str, season: Season) -> float:
        """Hours a day [h] in a profile and season, at most 24; a standing item has 24."""
        if self.standing:
            return 24.0
        used = self.uses.get(profile)
        return min(24.0, used.a_day_h * self.seasons.get(season, 1.0)) if used else 0.0


class Measurement(Frozen):
    """One measurement of an item, kept for good: by difference, by clamp meter or by plate.

    By difference ``before`` and ``after`` are two readings of the same meter, in the order in
    which they were read; else ``after`` alone is the reading.
    """

    id: Identifier
    item: Identifier
    method: Method
    unit: Literal["A", "W"] = "A"
    before: Annotated[float, Field(ge=-1e5, le=1e5, allow_inf_nan=False)] | None = None
    after: Annotated[float, Field(ge=-1e5, le=1e5, allow_inf_nan=False)]
    date: datetime.date
    by: Name

    @model_validator(mode="after")
    def _draws(self) -> Measurement:
        if (self.method == "difference") != (self.before is not None):
            raise ValueError("a reading before goes with a measurement by difference, and only so")
        if self.draw <= 0:
            raise ValueError("the readings show no draw: was the item on in one, off in the other?")
        return self

    @property
    def draw(self) -> float:
        """The draw [A] or [W]; a monitor that counts discharge negative gives the same."""
        # Differences of readings carry the noise of binary fractions.
        return round(abs(self.after - (self.before or 0.0)), 6)


class CountedDay(Frozen):
    """Ampere-hours that a battery monitor counted out in one day, no source charging."""

    id: Identifier
    date: datetime.date
    used_ah: NotNegative
    profile: Identifier
    season: Season = "summer"
    note: Text = ""


class Inverter(Frozen):
    """The inverter that feeds AC items from the house bank."""

    rated_w: Watts
    idle_w: NotNegative
    on_h: dict[Identifier, HoursADay] = Field(default_factory=dict)
    mains_v: Literal[100, 110, 120, 220, 230, 240] = 230
