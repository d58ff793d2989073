"""A day as its rules look at it."""

from __future__ import annotations

from dataclasses import dataclass
from functools import cached_property

from strom_engine.dayrun.day_report import DayReport
from strom_engine.dayrun.lines import clock_words
from strom_engine.dayrun.plan import Plan
from strom_engine.design import Design
from strom_engine.survey import Survey

__all__ = ["DayRun"]


@dataclass(frozen=True)
class DayRun:
    """A day with what it was run with: the design as surveyed, the plan, the report."""

    design: Design
    survey: Survey | None
    plan: Plan
    report: DayReport

    @cached_property
    def during(self) -> str:
        """The plan in words, for the arithmetic."""
        return f"In the plan {self.plan.name}"

    def at(self, at_s: float) -> str:
        """A moment by the clock."""
        return clock_words(self.plan.clock_h, at_s, self.plan.hours)

    def name(self, part: str) -> str:
        """The name people use for a part."""
        return self.design.by_id[part].name
