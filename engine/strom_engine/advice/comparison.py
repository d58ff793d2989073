"""Two variants side by side: what differs, what each comes to, findings gained and lost."""

from __future__ import annotations

from dataclasses import dataclass

from strom_engine.advice.measures import Measures, measures
from strom_engine.design import Design
from strom_engine.design.differences import Difference, differences
from strom_engine.rules import Finding, findings
from strom_engine.survey import Survey

__all__ = ["SchemeComparison", "compare"]


@dataclass(frozen=True)
class SchemeComparison:
    """From a first design to a second one."""

    differences: tuple[Difference, ...]
    first: Measures
    second: Measures
    lost: tuple[Finding, ...]
    gained: tuple[Finding, ...]
    kept: int


def compare(first: Design, second: Design, survey: Survey | None) -> SchemeComparison:
    """Compare two designs of one boat. A finding is the same by its rule, severity and title.

    Args:
        first: the design compared from.
        second: the design compared to.
        survey: its survey; None where there is none.

    Returns:
        What differs, what each comes to, findings lost, gained and kept.
    """
    before, after = findings(first, survey), findings(second, survey)
    had, has = {_key(f) for f in before}, {_key(f) for f in after}
    return SchemeComparison(
        differences=differences(first, second),
        first=measures(first, survey),
        second=measures(second, survey),
        lost=tuple(f for f in before if _key(f) not in has),
        gained=tuple(f for f in after if _key(f) not in had),
        kept=sum(_key(f) in has for f in before),
    )


def _key(finding: Finding) -> tuple[str, str, str]:
    return finding.rule, finding.severity, finding.title
