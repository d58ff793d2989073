"""The day run: schedules, events, regulator stages, ledger; slips and faults."""

from strom_engine.dayrun.day import Day, day_run
from strom_engine.dayrun.day_report import DayReport, day_report
from strom_engine.dayrun.day_sheet import (
    DaySheet,
    KeptMoments,
    Series,
    day_sheet,
    kept_moments,
)
from strom_engine.dayrun.discrete_state import DiscreteState
from strom_engine.dayrun.events import Event, StartTry
from strom_engine.dayrun.ledger import BankAccount, Ledger, Line
from strom_engine.dayrun.limits import Limits
from strom_engine.dayrun.moment import KeptMoment, moment_of
from strom_engine.dayrun.outcome import Outcome, outcome_of
from strom_engine.dayrun.plan import PLAN_VERSION, Plan, check_plan, parse_plan
from strom_engine.dayrun.ready import ReadyPlan, ready_plans
from strom_engine.dayrun.recording import Recording
from strom_engine.dayrun.schools import SCHOOLS, Handling, School, SchoolId, handling, with_school
from strom_engine.dayrun.shared import SharedDay
from strom_engine.dayrun.slips import (
    Case,
    Consequence,
    consequence,
    day_of_case,
    plan_of,
    possible_cases,
    ranked,
)

__all__ = [
    "PLAN_VERSION",
    "SCHOOLS",
    "BankAccount",
    "Case",
    "Consequence",
    "Day",
    "DayReport",
    "DaySheet",
    "DiscreteState",
    "Event",
    "Handling",
    "KeptMoment",
    "KeptMoments",
    "Ledger",
    "Limits",
    "Line",
    "Outcome",
    "Plan",
    "ReadyPlan",
    "Recording",
    "School",
    "SchoolId",
    "Series",
    "SharedDay",
    "StartTry",
    "check_plan",
    "consequence",
    "day_of_case",
    "day_report",
    "day_run",
    "day_sheet",
    "handling",
    "kept_moments",
    "moment_of",
    "outcome_of",
    "parse_plan",
    "plan_of",
    "possible_cases",
    "ranked",
    "ready_plans",
    "with_school",
]
