"""How a design stands, in one line: what a surveyor would say first."""

from __future__ import annotations

from collections import Counter
from collections.abc import Iterable
from dataclasses import dataclass
from typing import Literal

from strom_engine.rules.finding import Finding

__all__ = ["Standing", "standing"]

Verdict = Literal["fails", "not_yet", "passes"]
GRAVE = (("danger", "danger", "dangers"), ("fault", "fault", "faults"))


@dataclass(frozen=True)
class Standing:
    """The verdict, and in words what stands in its way or is left to do."""

    verdict: Verdict
    words: str


def standing(found: Iterable[Finding], waived: int = 0) -> Standing:
    """The verdict over what was found.

    Args:
        found: findings that nobody has waived.
        waived: how many were waived, with a reason.

    Returns:
        *Fails* while a danger or a fault stands, *not yet* while a caution does, else *passes*;
        what only the owner knows is counted as things to ask.

    >>> standing(()).words
    'Passes: nothing is left to do.'
    """
    by = Counter[str](f.severity for f in found)
    grave = [_count(by[s], one, many) for s, one, many in GRAVE if by[s]]
    rest = []
    if by["caution"]:
        rest.append(_count(by["caution"], "caution to weigh", "cautions to weigh"))
    if by["cannot_tell"]:
        rest.append(_count(by["cannot_tell"], "thing to find out", "things to find out"))
    if waived:
        rest.append(f"{waived} waived with a reason")
    if grave:
        verbs = "stands" if sum(by[s] for s, *_ in GRAVE) == 1 else "stand"
        return Standing("fails", f"Does not pass: {' and '.join(grave)} {verbs}.")
    if by["caution"]:
        return Standing("not_yet", f"No danger, no fault; {', '.join(rest)}.")
    return Standing("passes", f"Passes: {', '.join(rest) or 'nothing is left to do'}.")


def _count(number: int, one: str, many: str) -> str:
    return f"{number} {one if number == 1 else many}"
