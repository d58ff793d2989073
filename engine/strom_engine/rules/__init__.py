"""One rule, one function, one id; a finding is data, never text put together elsewhere."""

from strom_engine.rules.build_rules import BUILD_RULES, build_findings
from strom_engine.rules.day_rules import DayRun, day_findings
from strom_engine.rules.finding import Figure, Finding, Rule, Severity
from strom_engine.rules.registry import RULES, findings
from strom_engine.rules.repairing import Repair, RepairPlan, repair_plan, safe
from strom_engine.rules.standing import Standing, standing

__all__ = [
    "BUILD_RULES",
    "RULES",
    "DayRun",
    "Figure",
    "Finding",
    "Repair",
    "RepairPlan",
    "Rule",
    "Severity",
    "Standing",
    "build_findings",
    "day_findings",
    "findings",
    "repair_plan",
    "safe",
    "standing",
]
