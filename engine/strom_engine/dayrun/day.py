"""A computed day: its series, its events, its accounts."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass

from strom_engine.batteries import BankWells
from strom_engine.dayrun.events import Event, StartTry
from strom_engine.dayrun.ledger import Ledger
from strom_engine.dayrun.limits import Limits
from strom_engine.dayrun.plan import Plan, check_plan
from strom_engine.dayrun.recording import Recording
from strom_engine.dayrun.simulation import DaySimulation, LaterFault
from strom_engine.dayrun.simulation_context import SimulationContext
from strom_engine.dayrun.tallies import Tallies
from strom_engine.design import Design, FittedInverter, LoadGroup, Starter
from strom_engine.errors import computing
from strom_engine.faults import Effects, effects_of, fault_from_key
from strom_engine.survey import Survey, surveyed

__all__ = ["Day", "day_begun", "day_ended", "day_run"]


@dataclass(frozen=True)
class Day:
    """What a design made of a plan. ``steps`` is how many steps it took."""

    design: Design
    plan: Plan
    recording: Recording
    events: tuple[Event, ...]
    tries: tuple[StartTry, ...]
    tallies: Tallies
    ledger: Ledger
    began: Mapping[str, BankWells]
    ended_soc: Mapping[str, float]
    steps: int


def day_run(
    design: Design,
    survey: Survey | None,
    plan: Plan,
    effects: Effects | None = None,
    limits: Limits | None = None,
) -> Day:
    """Run a plan with a design as the survey knows it, perhaps with faults.

    Args:
        design: the boat as drawn; with ``effects`` the survey is taken to be in it already.
        survey: loads, runs, sun and way of use; None to take the design as it is.
        plan: hours, spans of engine, shore, sky and life aboard, moves of hands.
        effects: faults that are there from the beginning; that of the plan begins at its own
            moment.
        limits: longest step [s], how much is kept, and who is told how far it is.

    Returns:
        Series, events, accounts and tallies of the day. The same design, survey, plan and faults
        give the
        same day to the last bit. Range: 0.1 to 1,000,000 h, banks from -20 to 50 degC.

    Raises:
        PlanError: the plan does not fit the design.
        DayRunError: the circuit finds no rest at some moment.
        ComputationError: there is no solution in numbers.

    Source: two wells a bank (Manwell and McGowan 1993), steps by Alexander 1977; decision 10.

    >>> from strom_engine.dayrun import Plan
    >>> from strom_engine.survey import new_boat
    >>> survey, design = new_boat("cruising_yacht", "selector")
    >>> day = day_run(design, survey, Plan(name="Night", hours=12))
    >>> round(day.ended_soc["house_bank"], 1)
    0.8
    """
    simulation = day_begun(design, survey, plan, effects, limits)
    with computing("this day"):
        simulation.run()
    return day_ended(simulation)


def day_begun(
    design: Design,
    survey: Survey | None,
    plan: Plan,
    effects: Effects | None = None,
    limits: Limits | None = None,
) -> DaySimulation:
    """The first moment of a day; all as for ``day_run``, which does not raise DayRunError yet."""
    if effects is None:
        design = surveyed(design, survey)
    plan = check_plan(design, plan)
    later = None
    with computing("the beginning of this day"):
        world = SimulationContext(design, survey, plan, effects)
        if plan.fault is not None:
            broken = effects_of(world.design, fault_from_key(world.design, plan.fault.key))
            later = LaterFault(
                plan.fault.at_h * 3600,
                SimulationContext(world.design, survey, plan, broken),
                broken.words,
            )
        return DaySimulation(world, survey, plan, limits, later)


def day_ended(simulation: DaySimulation) -> Day:
    """A day that has been run to its end."""
    world = simulation.world
    return Day(
        design=world.design,
        plan=simulation.plan,
        recording=simulation.recorder.recording(),
        events=tuple(simulation.events),
        tries=tuple(simulation.tries),
        tallies=simulation.tallies,
        ledger=simulation.tallies.book.ledger(
            world.banks,
            world.began,
            simulation.now.wells,
            _sources(world.design),
            _takers(world.design),
        ),
        began=world.began,
        ended_soc={n: b.soc(simulation.now.wells[n]) for n, b in world.banks.items()},
        steps=simulation.steps,
    )


def _sources(design: Design) -> dict[str, str]:
    """Elements that give from outside, with their parts."""
    return {s.id: s.id for s in design.sources}


def _takers(design: Design) -> dict[str, str]:
    """Elements that take for good, with their parts; coils and gear at rest among them."""
    found = {p.id: p.id for p in (*design.of_type(LoadGroup), *design.of_type(Starter))}
    found |= {f"{p.id}.dc": p.id for p in design.of_type(FittedInverter)}
    return found | {f"{p.id}.{own}": p.id for p in design.components for own in ("coil", "idle")}
