"""What a rule says: a finding with its arithmetic, its source and its repair."""

from __future__ import annotations

import re
from dataclasses import dataclass, field
from typing import Literal

from strom_engine.design import Change
from strom_engine.reference import CONFIRM

__all__ = ["CONFIRM", "Figure", "Finding", "Rule", "Severity"]

Severity = Literal["danger", "fault", "caution", "note", "cannot_tell"]
STAGES = {"SW": "scheme", "CH": "scheme", "BA": "banks", "OC": "runs", "CO": "runs"}
STAGES |= {"PL": "survey", "BU": "build"}
MOST_WORDS = 160  # letters of a title in a key


@dataclass(frozen=True)
class Figure:
    """One number of the arithmetic, with its unit."""

    label: str
    value: float
    unit: str


@dataclass(frozen=True)
class Rule:
    """A rule as the rule book shows it; ``figures`` are the limits that it holds things against."""

    id: str
    title: str
    checks: str
    source: str
    figures: tuple[Figure, ...] = ()

    @property
    def stage(self) -> str:
        """The stage of the work in which it is met."""
        return STAGES[self.id.partition("-")[0]]


@dataclass(frozen=True)
class Finding:
    """One thing found by one rule.

    ``arithmetic`` is the working in words and numbers, line by line, and is never empty.
    ``missing`` names what to find out when the severity is ``cannot_tell``. ``change``
    repairs it where the computation knows how. ``estimated`` names the cables whose length
    decides here and was never measured. ``about`` tells findings of one rule on the same parts
    apart, or else the words of the title do; ``key`` stays the same while the numbers move, so that
    a waiver can hang on it.
    """

    rule: str
    severity: Severity
    title: str
    arithmetic: tuple[str, ...]
    figures: tuple[Figure, ...]
    limit: str
    source: str
    why: str
    repair: str
    parts: tuple[str, ...]
    change: Change | None = None
    missing: str | None = None
    estimated: tuple[str, ...] = ()
    about: str = ""
    key: str = field(init=False, default="")

    def __post_init__(self) -> None:
        told = self.about or " ".join(re.findall(r"[^\W\d_]+", self.title.lower()))[:MOST_WORDS]
        key = " ".join((self.rule, *sorted(self.parts), told)).strip()
        object.__setattr__(self, "key", key)
        if not self.arithmetic:
            raise ValueError(f"{self.rule}: a finding needs its arithmetic")
        if (self.severity == "cannot_tell") != (self.missing is not None):
            raise ValueError(f"{self.rule}: 'cannot tell' and what is missing go together")
