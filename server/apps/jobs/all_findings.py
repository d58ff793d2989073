"""Every finding of a variant: of the design as it stands, and those that other apps bring."""

from __future__ import annotations

from collections.abc import Callable

from strom_engine.rules import Finding, findings
from strom_engine.rules.registry import ORDER

from apps.jobs.documents import head_design, head_survey, stock_of
from apps.jobs.models import Variant

__all__ = ["FURTHER_FINDINGS", "all_findings", "own_findings"]

# What other apps find: in days that were run, say.
FURTHER_FINDINGS: list[Callable[[Variant], list[Finding]]] = []


def own_findings(variant: Variant) -> list[Finding]:
    """Findings of the design as it stands, the gravest first."""
    return list(findings(head_design(variant), head_survey(variant), stock_of(variant)))


def all_findings(variant: Variant) -> list[Finding]:
    """All of them, the gravest first."""
    found = own_findings(variant)
    for further in FURTHER_FINDINGS:
        found += further(variant)
    return sorted(found, key=lambda f: ORDER.index(f.severity))
