"""``calc day``: a plan run with a variant of a job file."""

from __future__ import annotations

import json
from dataclasses import dataclass
from pathlib import Path
from typing import get_args

from strom_engine.dayrun import (
    Plan,
    SchoolId,
    day_run,
    day_sheet,
    parse_plan,
    ready_plans,
    with_school,
)
from strom_engine.dayrun.plan import PlannedFault, check_plan
from strom_engine.design import Design
from strom_engine.errors import PlanError, Problem
from strom_engine.interchange import dump_day
from strom_engine.rules import DayRun, day_findings
from strom_engine.survey import Survey, surveyed

__all__ = ["DayAsked", "lived", "plan_asked"]


@dataclass(frozen=True)
class DayAsked:
    """Which plan, handled by whom, told how; what fails, by its key, and when [h]."""

    plan: str
    school: str | None
    as_csv: bool
    fault: str | None = None
    fault_at_h: float = 0.0


def lived(drawn: Design, survey: Survey, asked: DayAsked) -> object:
    """The report, events, accounts and series of a day; as text the series alone in CSV."""
    design = surveyed(drawn, survey)
    plan = plan_asked(design, asked)
    sheet = day_sheet(day_run(drawn, survey, plan))
    if asked.as_csv:
        return dump_day(design, sheet.plan, sheet.series)
    found = day_findings(DayRun(design, survey, plan, sheet.report))
    return {"sheet": sheet, "findings": found}


def plan_asked(design: Design, asked: DayAsked) -> Plan:
    """The plan that is asked for, handled and failing as told. Raises PlanError."""
    plan = _plan(design, asked.plan)
    if asked.school is not None:
        schools = [s for s in get_args(SchoolId) if s == asked.school]
        if not schools:
            known = ", ".join(get_args(SchoolId))
            raise PlanError([Problem("school", f"{asked.school!r} is none of {known}")])
        plan = with_school(plan, design, schools[0])
    if asked.fault is not None:
        fault = PlannedFault(key=asked.fault, at_h=asked.fault_at_h)
        plan = check_plan(design, plan.model_copy(update={"fault": fault}))
    return plan


def _plan(design: Design, asked: str) -> Plan:
    """A ready plan, or the one in a file."""
    ready = {r.id: r.plan for r in ready_plans(design)}
    if asked in ready:
        return ready[asked]
    path = Path(asked)
    try:
        raw = json.loads(path.read_text(encoding="utf-8"))
    except FileNotFoundError:
        known = ", ".join(ready)
        text = f"there is neither a ready plan nor a file {asked!r}; ready plans: {known}"
        raise PlanError([Problem("plan", text)]) from None
    except (OSError, UnicodeDecodeError, json.JSONDecodeError) as error:
        raise PlanError([Problem("plan", f"{asked} is no plan: {error}")]) from None
    return parse_plan(raw, design)
