"""One rule, one function, one id; a finding is data, never text put together elsewhere."""

from strom_engine.rules.finding import Figure, Finding, Rule, Severity
from strom_engine.rules.registry import RULES, findings

__all__ = ["RULES", "Figure", "Finding", "Rule", "Severity", "findings"]
