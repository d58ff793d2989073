"""Days that begin alike are run together as far as they do."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import replace
from itertools import zip_longest

from strom_engine.dayrun.day import Day, day_begun, day_ended, day_run
from strom_engine.dayrun.limits import Limits
from strom_engine.dayrun.plan import Plan, check_plan
from strom_engine.dayrun.schedule import Entry, schedule
from strom_engine.dayrun.simulation import DaySimulation
from strom_engine.dayrun.slips import Case, plan_of
from strom_engine.design import Design
from strom_engine.errors import computing
from strom_engine.faults import Effects, effects_of
from strom_engine.survey import Survey, surveyed

__all__ = ["SharedDay"]


class SharedDay:
    """A planned day that is run once for all the slips of it.

    Every slip goes on from where its plan parts from the day as planned, and comes to the same to
    the last bit as when it is run from the beginning. Slips are best asked for in the order of
    the plan: for one that parts earlier than the one before, the day is begun anew.

    Args:
        design: the boat, as drawn.
        survey: its survey; None where there is none.
        plan: the day as meant.
        limits: longest step [s] and how much is kept, of all these days.
    """

    def __init__(
        self, design: Design, survey: Survey | None, plan: Plan, limits: Limits | None = None
    ) -> None:
        self._survey, self._plan, self._limits = survey, plan, limits or Limits(brief=True)
        self._design = surveyed(design, survey)
        self._day: DaySimulation | None = None
        self._reached = 0
        self._unchanged: Day | None = None

    def of_case(self, case: Case, progress: Callable[[float], None] = lambda share: None) -> Day:
        """The day in which one thing goes wrong. Errors as of ``day_run``.

        Args:
            case: what goes wrong; a fault that is there from the beginning shares nothing.
            progress: who is told how far it is [-].
        """
        limits = replace(self._limits, progress=progress)
        if case.fault is not None:
            effects = effects_of(self._design, case.fault)
            return day_run(self._design, self._survey, self._plan, effects, limits)
        plan = check_plan(self._design, plan_of(self._plan, case))
        with computing("this day"):
            day, entries = self._parted(plan, limits)
            if day is None:
                return self._as_planned(plan, limits)
            other = day.parted(plan, entries, limits)
            other.run()
        return day_ended(other)

    def _parted(self, plan: Plan, limits: Limits) -> tuple[DaySimulation | None, tuple[Entry, ...]]:
        """The planned day where another plan parts from it, with that one's schedule.

        None where the two do the same throughout.
        """
        day, self._day = self._day or self._begun(), None  # kept again once it has come through
        world = day.world
        entries = schedule(self._design, self._survey, plan, world.sunlight)
        pairs = enumerate(zip_longest(day.scheduled, entries))
        parts_at = next((n for n, (own, other) in pairs if own != other), None)
        if parts_at is not None:
            if parts_at < self._reached:
                day = self._begun()
            day.limits = limits
            day.run_until_done(parts_at)
            self._reached = parts_at
        self._day = day
        return (None if parts_at is None else day), entries

    def _begun(self) -> DaySimulation:
        self._reached = 0
        effects = Effects(self._design)
        return day_begun(self._design, self._survey, self._plan, effects, self._limits)

    def _as_planned(self, plan: Plan, limits: Limits) -> Day:
        if self._unchanged is None:
            effects = Effects(self._design)
            self._unchanged = day_run(self._design, self._survey, plan, effects, limits)
        return replace(self._unchanged, plan=plan)
