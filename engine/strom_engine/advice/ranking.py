"""Patterns ranked for a boat, each with its reasons for and against in numbers of this boat.

The marks are this program's own judgement and decide the order only; every reason shows the
number behind it, and where practitioners disagree the school is named.
"""

from __future__ import annotations

from dataclasses import dataclass
from typing import Annotated, Literal

from pydantic import Field

from strom_engine.advice.measures import Measures, measures
from strom_engine.design import Alternator, Design
from strom_engine.design.differences import differences
from strom_engine.design.fields import Frozen
from strom_engine.patterns import PATTERNS, Aboard, Pattern, pattern_design
from strom_engine.survey import Survey

__all__ = ["PatternAdvice", "PatternReason", "Refusal", "Wishes", "advise"]


class Wishes(Frozen):
    """What the owner wants, as far as anybody asked.

    ``crew``: whether someone who never forgets a switch is always aboard. ``first``: which bank
    the alternator charges first, for those who hold to a school.
    """

    crew: Literal["anyone", "attentive"] = "anyone"
    budget: Literal["low", "middle", "free"] = "middle"
    first: Literal["engine", "house"] | None = None
    shore_power: bool | None = None


@dataclass(frozen=True)
class PatternReason:
    """One reason: marks for (positive) or against (negative), in words with their number."""

    marks: Annotated[float, Field(description="added to the pattern's sum")]
    words: str


@dataclass(frozen=True)
class PatternAdvice:
    """A pattern on this boat."""

    pattern: str
    name: str
    words: str
    school: str
    marks: float
    reasons: tuple[PatternReason, ...]
    measures: Measures
    new_parts: int
    new_cables: int


@dataclass(frozen=True)
class Refusal:
    """A pattern that does not fit this boat, and why."""

    pattern: str
    name: str
    why: tuple[str, ...]


PER_PART = {"low": 2.2, "middle": 1.0, "free": 0.4}
PER_KG = {"low": 0.9, "middle": 0.4, "free": 0.1}
DANGER = 60.0
WEIGHTS = {"danger": DANGER, "fault": 7.0, "caution": 2.0}
USUAL = 5.0
REGULATOR_PARTS = 5  # an external regulator with its leads counts as so many parts


def advise(
    design: Design, survey: Survey | None, wishes: Wishes | None = None
) -> tuple[tuple[PatternAdvice, ...], tuple[Refusal, ...]]:
    """Every pattern that fits, the best first, and those that do not with their reasons.

    Args:
        design: the boat as drawn.
        survey: what is known of it.
        wishes: what the owner cares for; None for the usual.

    Returns:
        Advice with marks (own judgement), reasons and measures; and refusals with what speaks
        against.

    >>> from strom_engine.survey import new_boat
    >>> survey, design = new_boat("cruising_yacht", "selector")
    >>> found, refused = advise(design, survey)
    >>> found[0].pattern, len(refused)
    ('dual_relay', 6)
    """
    wishes = wishes or Wishes()
    if wishes.shore_power is None and survey is not None:
        wishes = wishes.model_copy(update={"shore_power": survey.use.shore_power})
    aboard, found, refused = Aboard(design), [], []
    for pattern in PATTERNS:
        against = pattern.against(aboard)
        if against:
            refused.append(Refusal(pattern.id, pattern.name, tuple(against)))
        else:
            found.append(_advice(design, survey, wishes, pattern))
    return tuple(sorted(found, key=lambda a: -a.marks)), tuple(refused)


def _advice(
    design: Design, survey: Survey | None, wishes: Wishes, pattern: Pattern
) -> PatternAdvice:
    built = pattern_design(design, pattern, survey)
    now = measures(built, survey)
    changes = differences(design, built)
    new_parts = sum(c.what == "part" and c.how == "new" for c in changes)
    machines = {a.id for a in design.of_type(Alternator)}
    regulators = sum(c.how == "changed" and c.id in machines for c in changes)
    new_cables = sum(c.what == "cable" and c.how == "new" for c in changes)
    every = _reasons(built, pattern, now, wishes, new_parts)
    if regulators:
        marks = -PER_PART[wishes.budget] * REGULATOR_PARTS * regulators
        words = (
            f"{regulators} alternator{'s' if regulators > 1 else ''} to be regulated from outside"
        )
        every.append(PatternReason(marks, words))
    reasons = tuple(r for r in every if abs(r.marks) >= 0.5)
    return PatternAdvice(
        pattern=pattern.id,
        name=pattern.name,
        words=pattern.words,
        school=pattern.school,
        marks=round(sum(r.marks for r in reasons), 1),
        reasons=tuple(sorted(reasons, key=lambda r: -abs(r.marks))),
        measures=now,
        new_parts=new_parts,
        new_cables=new_cables,
    )


def _reasons(
    built: Design, pattern: Pattern, now: Measures, wishes: Wishes, new_parts: int
) -> list[PatternReason]:
    return [
        *_charging(built, now, wishes),
        *_handling(pattern, now, wishes),
        *_health(built, now),
        *_effort(now, wishes, new_parts),
        *_school(pattern, wishes),
        *_usual(built, pattern),
    ]


def _charging(built: Design, now: Measures, wishes: Wishes) -> list[PatternReason]:
    reached, whole = sum(c.joined for c in now.charges), len(now.charges)
    found = [
        PatternReason(
            30 * now.coverage,
            f"{reached} of {whole} pairs of source and bank have a charging path by themselves",
        )
    ]
    rated = sum(a.rated_a * a.hot_share for a in built.of_type(Alternator))
    if rated:
        share = min(1.0, now.house_a / rated)
        weight = 8.0 if wishes.shore_power else 20.0
        found.append(
            PatternReason(
                weight * (share - 0.35),
                f"with the engine cruising the house bank takes {now.house_a:.0f} A of the "
                f"{rated:.0f} A the alternator gives hot",
            )
        )
    if now.error_v is not None and now.error_v > 0.1:
        found.append(
            PatternReason(
                -14 * (now.error_v - 0.05),
                f"the regulator believes the house bank {now.error_v:.2f} V higher than it is",
            )
        )
    return found


def _handling(pattern: Pattern, now: Measures, wishes: Wishes) -> list[PatternReason]:
    care = 24.0 if wishes.crew == "anyone" else 4.0
    found = []
    if now.draining:
        found.append(
            PatternReason(
                -care * now.draining,
                f"in {now.draining:.0%} of the positions at rest loads drain the engine bank: a "
                "forgotten switch strands the boat",
            )
        )
    if pattern.hands:
        found.append(
            PatternReason(
                -12.0 if wishes.crew == "anyone" else -3.0,
                "the house bank is charged by the engine only when somebody turns a switch",
            )
        )
    if now.cutting:
        words = f"{now.cutting} switch can cut the running alternator off"
        found.append(PatternReason(-DANGER / 2, words))
    found.append(
        PatternReason(6.0, "a second bank can start the engine")
        if now.spare_start
        else PatternReason(-6.0, "only its own bank can start the engine")
    )
    return found


def _health(built: Design, now: Measures) -> list[PatternReason]:
    found = []
    if now.unlike_joined:
        marks = -DANGER if now.unlike_joined == "danger" else -6.0
        found.append(PatternReason(marks, "banks of unlike chemistry can be joined"))
    if now.chattering:
        names = " and ".join(built.by_id[i].name for i in now.chattering)
        found.append(PatternReason(-6.0, f"{names} chatters with a weak source alone"))
    counted = {name: now.by_severity.get(name, 0) for name in WEIGHTS}
    if any(counted.values()):
        marks = -sum(WEIGHTS[name] * count for name, count in counted.items())
        words = [
            f"{count} {name}{'s' if count > 1 else ''}" for name, count in counted.items() if count
        ]
        found.append(
            PatternReason(marks, f"other findings on switching and charging: {', '.join(words)}")
        )
    if any(p.kind == "protection" for p in built.components):
        found.append(PatternReason(5.0, "the lithium bank has a disconnect of its own"))
    return found


def _effort(now: Measures, wishes: Wishes, new_parts: int) -> list[PatternReason]:
    return [
        PatternReason(
            -PER_PART[wishes.budget] * new_parts,
            f"{new_parts} parts to fit, {now.gear} pieces of gear in all",
        ),
        PatternReason(-PER_KG[wishes.budget] * now.copper_kg, f"{now.copper_kg:.1f} kg of copper"),
    ]


def _usual(built: Design, pattern: Pattern) -> list[PatternReason]:
    """What the trade picks where nothing speaks against it."""
    aboard = Aboard(built)
    if aboard.engine is None or aboard.house is None:
        return []
    same = "alike" if aboard.alike(aboard.engine, aboard.house) else "unlike"
    if pattern.usual_for != same:
        return []
    words = {
        "alike": "the usual pick of the trade for banks alike: a relay, sources on the house bank",
        "unlike": "the usual pick of the trade for unlike banks: a dc-dc charger",
    }
    return [PatternReason(USUAL, words[same])]


def _school(pattern: Pattern, wishes: Wishes) -> list[PatternReason]:
    if wishes.first is None or pattern.first == "both":
        return []
    agrees = pattern.first == wishes.first
    return [
        PatternReason(
            12.0 if agrees else -12.0,
            f"it charges the {pattern.first} bank first, "
            f"{'as' if agrees else 'against what'} the owner's school wants",
        )
    ]
