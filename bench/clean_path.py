"""From any new boat to a proposal: findings of every kind, pattern and practice, step by step."""

from __future__ import annotations

import time
from collections import Counter
from collections.abc import Iterator
from dataclasses import dataclass
from typing import get_args

from strom_engine.advice import propose
from strom_engine.design import Design, apply_change
from strom_engine.patterns import PATTERNS, Aboard, Pattern, pattern_design
from strom_engine.rules import Finding, findings
from strom_engine.runs import choose, default_stock
from strom_engine.runs.allowed_current import Standard
from strom_engine.survey import Practice, Survey, boat_kinds, new_boat, surveyed

__all__ = ["Case", "Outcome", "cases", "outcome_of", "print_clean_paths"]

SEVERITIES = ("danger", "fault", "caution", "cannot_tell", "note")
STANDARDS: tuple[Standard, ...] = get_args(Standard)


@dataclass(frozen=True)
class Case:
    """One new boat, how it was found switched, and what is proposed."""

    kind: str
    switching: str
    pattern: Pattern
    standard: Standard
    survey: Survey
    found: Design


@dataclass(frozen=True)
class Outcome:
    """Findings after each step, and how long all of them took [s]."""

    applied: tuple[Finding, ...]
    chosen: tuple[Finding, ...]
    repaired: tuple[Finding, ...]
    by_nature: tuple[str, ...]
    seconds: float


def cases(*, all_ways: bool = False) -> Iterator[Case]:
    """Every kind of boat by pattern that fits and practice, found as usual or in every way."""
    for kind in boat_kinds():
        for way in [w.id for w in kind.switchings][: None if all_ways else 1]:
            for standard in STANDARDS:
                survey, found = new_boat(kind.kind, way)
                survey = survey.model_copy(update={"practice": Practice(standard=standard)})
                for pattern in PATTERNS:
                    if not pattern.against(Aboard(found)):
                        yield Case(kind.kind, way, pattern, standard, survey, found)


def outcome_of(case: Case) -> Outcome:
    """Apply the pattern, choose every size, make every safe repair."""
    start = time.perf_counter()
    stock = default_stock(case.survey.practice.sizes)
    applied = pattern_design(case.found, case.pattern, case.survey)
    change = choose(surveyed(applied, case.survey), stock, case.standard).change
    chosen = apply_change(applied, change) if change else applied
    first, second = (findings(design, case.survey, stock) for design in (applied, chosen))
    proposal = propose(case.found, case.pattern, case.survey, stock)
    seconds = time.perf_counter() - start
    return Outcome(first, second, proposal.left, proposal.by_nature, seconds)


def counts(found: tuple[Finding, ...]) -> str:
    """Findings by severity, in one short cell: danger, fault, caution, cannot tell, note."""
    by = Counter[str](f.severity for f in found)
    return " ".join(f"{by[s]:3}" for s in SEVERITIES)


def print_clean_paths(*, all_ways: bool = False) -> None:
    """Print the table, with the dangers and faults that stay; ``all_ways`` takes an hour."""
    head = "danger, fault, caution, cannot tell, note"
    print(
        f"{'boat, as found, pattern, practice':<70} {'applied':<20}{'chosen':<20}repaired ({head})"
    )
    standing = Counter[str]()
    total = clean = 0
    for case in cases(all_ways=all_ways):
        done = outcome_of(case)
        grave = [f for f in done.repaired if f.severity in ("danger", "fault")]
        total += 1
        clean += not grave
        label = f"{case.kind}, {case.switching}, {case.pattern.id}, {case.standard}"
        cells = "  ".join(counts(f) for f in (done.applied, done.chosen, done.repaired))
        print(f"{label:<70} {cells}  {done.seconds:5.1f} s", flush=True)
        for finding in grave:
            print(f"      {finding.severity} {finding.rule} {finding.title}")
        standing.update(f"{f.rule} {f.severity}" for f in done.repaired)
    print(f"{clean} of {total} proposals without danger or fault")
    print("left: " + ", ".join(f"{what} x{n}" for what, n in standing.most_common()))


if __name__ == "__main__":
    print_clean_paths(all_ways=True)
