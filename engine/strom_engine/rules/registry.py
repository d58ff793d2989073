"""The one list of rules, and the run over all of them."""

from __future__ import annotations

from collections.abc import Callable, Iterable
from functools import lru_cache

from strom_engine.design import Design
from strom_engine.errors import StromError, TooLargeError, computing
from strom_engine.rules import (
    ac_rules,
    banks,
    breaking,
    charge_limits,
    charging_rules,
    chatter,
    clearing_rules,
    conductor_rules,
    drops,
    fit_rules,
    isolators,
    joining_rules,
    lithium_rules,
    load_dump,
    overcurrent,
    places,
    protective_rules,
    regulation,
    relay_rules,
    sensing,
    surge_rules,
    switchgear,
    switching,
    terminal_rules,
    voltages,
)
from strom_engine.rules.context import Context
from strom_engine.rules.finding import Finding, Rule
from strom_engine.runs import Stock
from strom_engine.survey import Survey, surveyed

__all__ = ["RULES", "findings"]

Check = Callable[[Context], Iterable[Finding]]
RULES: tuple[tuple[Rule, Check], ...] = (
    *load_dump.RULES,
    *switching.RULES,
    *switchgear.RULES,
    *charging_rules.RULES,
    *joining_rules.RULES,
    *chatter.RULES,
    *voltages.RULES,
    *regulation.RULES,
    *isolators.RULES,
    *relay_rules.RULES,
    *sensing.RULES,
    *banks.RULES,
    *overcurrent.RULES,
    *protective_rules.RULES,
    *breaking.RULES,
    *clearing_rules.RULES,
    *surge_rules.RULES,
    *conductor_rules.RULES,
    *drops.RULES,
    *terminal_rules.RULES,
    *places.RULES,
    *charge_limits.RULES,
    *lithium_rules.RULES,
    *ac_rules.RULES,
    *fit_rules.RULES,
)
ORDER = ("danger", "fault", "caution", "cannot_tell", "note")


@lru_cache(maxsize=64)
def _found(design_text: str, survey_text: str | None, stock: Stock | None) -> tuple[Finding, ...]:
    design = Design.model_validate_json(design_text)
    survey = None if survey_text is None else Survey.model_validate_json(survey_text)
    context = Context(surveyed(design, survey), survey, stock)
    found = [finding for rule, check in RULES for finding in _of_rule(rule, check, context)]
    return tuple(sorted(found, key=lambda f: ORDER.index(f.severity)))


def _of_rule(rule: Rule, check: Check, context: Context) -> list[Finding]:
    """What one rule finds. One that cannot be worked out says so, and the others still speak."""
    try:
        with computing(f"rule {rule.id}"):
            return list(check(context))
    except TooLargeError:
        raise
    except StromError as error:
        return [not_computed(rule, str(error))]


def not_computed(rule: Rule, why: str) -> Finding:
    """The finding that a rule could not be worked out on a design."""
    return Finding(
        rule=rule.id,
        severity="cannot_tell",
        title=f"{rule.title}: this rule cannot be worked out here",
        arithmetic=(f"{why[:1].upper()}{why[1:]}.",),
        figures=(),
        limit="none reached",
        source=rule.source,
        why="A rule that was not worked out has passed nothing.",
        repair="Look at the figures of the parts that are named, and put right what cannot be.",
        parts=(),
        missing="Figures with which the circuit can be computed.",
        about="not computed",
    )


def findings(
    design: Design, survey: Survey | None = None, stock: Stock | None = None
) -> tuple[Finding, ...]:
    """Findings of every rule on a design as surveyed, the gravest first.

    Args:
        design: the boat as drawn.
        survey: what is known of it; its practice says which standards count.
        stock: what repairs are made from; None is every usual size.

    Returns:
        The same design, survey and stock, the same list. A rule that cannot be worked out says so.

    >>> from strom_engine.survey import new_boat
    >>> survey, design = new_boat("cruising_yacht", "selector")
    >>> found = findings(design, survey)
    >>> found[0].rule, found[0].severity
    ('SW-4', 'danger')
    """
    survey_text = survey.model_dump_json() if survey else None
    return _found(design.model_dump_json(), survey_text, stock)
