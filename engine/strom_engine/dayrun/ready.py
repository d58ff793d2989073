"""Ready plans: a day trip, a weekend at anchor, a passage, a week alongside, a winter laid up."""

from __future__ import annotations

from dataclasses import dataclass

from strom_engine.dayrun.plan import (
    BoatSpan,
    EngineSpan,
    LivingSpan,
    Plan,
    ShoreSpan,
    TemperatureSpan,
    WindSpan,
)
from strom_engine.design import Design, FittedGenerator

__all__ = ["ReadyPlan", "ready_plans"]

MOTORING_RPM = 1800.0
USUAL_WIND_KN = 12.0
USUAL_SPEED_KN = 5.5


@dataclass(frozen=True)
class ReadyPlan:
    """A plan to begin with: its id, what it is about in a sentence, and the plan."""

    id: str
    about: str
    plan: Plan


def ready_plans(design: Design) -> tuple[ReadyPlan, ...]:
    """Every ready plan, made for the profiles and gear of a design; no switch is turned yet.

    Args:
        design: the boat, as surveyed.

    Returns:
        Plans with the reason for each; none that the gear cannot do.
    """
    return (_day_trip(design), _weekend(design), _passage(design), _alongside(design), _winter())


def _profile(design: Design, wanted: str, *, shore: bool = False) -> str | None:
    """The profile that a plan means: by its id, else the likest one, else the first."""
    ids = [p.id for p in design.profiles]
    if wanted in ids:
        return wanted
    alike = [p.id for p in design.profiles if p.shore == shore]
    return next(iter(alike or ids), None)


def _living(design: Design, *spans: tuple[float, float, str]) -> tuple[LivingSpan, ...]:
    found = []
    for start_h, end_h, wanted in spans:
        profile = _profile(design, wanted, shore=wanted == "alongside")
        if profile is not None:
            found.append(LivingSpan(start_h=start_h, end_h=end_h, profile=profile))
    return tuple(found)


def _engine(*spans: tuple[float, float]) -> tuple[EngineSpan, ...]:
    return tuple(EngineSpan(start_h=a, end_h=b, rpm=MOTORING_RPM) for a, b in spans)


def _weather(design: Design, hours: float, sailing: tuple[tuple[float, float], ...]) -> Plan:
    """Wind all the time and speed while sailing, where the boat has what they drive."""
    driven = {g.driven_by for g in design.of_type(FittedGenerator)}
    wind = (WindSpan(start_h=0, end_h=hours, wind_kn=USUAL_WIND_KN),) if "wind" in driven else ()
    boat: tuple[BoatSpan, ...] = ()
    if "water" in driven:
        boat = tuple(BoatSpan(start_h=a, end_h=b, boat_kn=USUAL_SPEED_KN) for a, b in sailing)
    return Plan(name="Weather", hours=hours, wind=wind, boat=boat)


def _of(base: Plan, **fields: object) -> Plan:
    return base.model_copy(update=fields)


def _day_trip(design: Design) -> ReadyPlan:
    base = _weather(design, 24, ((1.7, 9),))
    plan = _of(
        base,
        name="Day trip",
        clock_h=8.0,
        living=_living(design, (0.5, 10, "under_way")),
        engine=_engine((1, 1.7), (9, 9.7)),
    )
    about = (
        "Out under engine in the morning, a day's sail, home in the evening, left for the night."
    )
    return ReadyPlan("day_trip", about, plan)


def _weekend(design: Design) -> ReadyPlan:
    base = _weather(design, 50, ((2, 3), (46, 47)))
    plan = _of(
        base,
        name="Weekend at anchor",
        clock_h=17.0,
        living=_living(
            design, (0, 3, "under_way"), (3, 45.5, "at_anchor"), (45.5, 49, "under_way")
        ),
        engine=_engine((0.5, 1.5), (46, 48.5)),
    )
    about = "Out on Friday evening, two nights at anchor without engine or shore, home on Sunday."
    return ReadyPlan("weekend", about, plan)


def _passage(design: Design) -> ReadyPlan:
    base = _weather(design, 72, ((1.5, 70),))
    plan = _of(
        base,
        name="Passage of three days",
        clock_h=6.0,
        living=_living(design, (0, 72, "under_way")),
        engine=_engine((0.5, 1.5), (24, 26), (48, 50), (70, 71.5)),
    )
    about = "Three days and nights under way, two hours of engine a day."
    return ReadyPlan("passage", about, plan)


def _alongside(design: Design) -> ReadyPlan:
    plan = Plan(
        name="Week alongside",
        hours=168,
        clock_h=18.0,
        living=_living(design, (0, 167, "alongside")),
        shore=(ShoreSpan(start_h=0.5, end_h=166),),
        engine=_engine((166.5, 167)),
    )
    about = "A week in harbour on shore power, then the engine is started."
    return ReadyPlan("alongside", about, plan)


def _winter() -> ReadyPlan:
    hours = 24.0 * 120
    plan = Plan(
        name="Winter laid up",
        hours=hours,
        clock_h=12.0,
        month=12,
        temperature=(TemperatureSpan(start_h=0, end_h=hours, temperature_c=3.0),),
        engine=_engine((hours - 1, hours - 0.5)),
    )
    about = "Left for 120 days in the cold with what never sleeps, then the engine is started."
    return ReadyPlan("winter", about, plan)
