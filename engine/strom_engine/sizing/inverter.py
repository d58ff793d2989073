"""AC through the inverter: efficiency against load, and the draw of the inverter itself."""

from __future__ import annotations

from dataclasses import dataclass

from strom_engine.reference import load_table
from strom_engine.survey import Inverter, Survey

__all__ = ["InverterDay", "dc_power_w", "inverter_day"]

# Taken while nobody has said which inverter it is: 10 to 15 % more on the DC side (trade).
UNKNOWN_EFFICIENCY = 0.88


@dataclass(frozen=True)
class InverterDay:
    """The inverter's own draw over a day, and whether it is on when AC is wanted."""

    on_h: float
    idle_w: float
    idle_wh: float
    ac_items_h: float
    off_while_wanted: bool
    overload_w: float


def dc_power_w(ac_w: float, inverter: Inverter | None) -> float:
    """DC power [W] for an AC power [W] alone on the inverter, its idle draw left out.

    Above its rating the efficiency at full load is kept; the audit says that it is overloaded.
    Source: reference table inverter_efficiency.
    """
    if inverter is None:
        return ac_w / UNKNOWN_EFFICIENCY
    table = load_table("inverter_efficiency")
    return ac_w / table.lookup("load_share", "efficiency", ac_w / inverter.rated_w)


def inverter_day(survey: Survey, profile: str) -> InverterDay | None:
    """The inverter's own day in a profile; None where there is no inverter."""
    inverter = survey.inverter
    if inverter is None:
        return None
    ac = [i for i in survey.items if i.current == "ac" and i.draw is not None]
    wanted_h = max((i.hours_in(profile, survey.use.season) for i in ac), default=0.0)
    on_h = inverter.on_h.get(profile, 0.0)
    largest_w = max(
        (
            (i.draw or 0.0) * (1.0 if i.unit == "W" else inverter.mains_v)
            for i in ac
            if i.hours_in(profile, survey.use.season) > 0
        ),
        default=0.0,
    )
    return InverterDay(
        on_h=on_h,
        idle_w=inverter.idle_w,
        idle_wh=on_h * inverter.idle_w,
        ac_items_h=wanted_h,
        off_while_wanted=wanted_h > on_h,
        overload_w=max(0.0, largest_w - inverter.rated_w),
    )
