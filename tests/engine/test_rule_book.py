"""The rule book: every rule with its words, figures and source."""

from __future__ import annotations

from strom_engine.reference import bundling_factor
from strom_engine.rules import RULES


def test_the_rule_book_is_whole() -> None:
    ids = [rule.id for rule, _ in RULES]
    assert len(ids) == len(set(ids))
    wanted = {"SW": 10, "OC": 14, "CO": 9, "CH": 20, "BA": 11, "PL": 6}
    assert {f"{family}-{n}" for family, last in wanted.items() for n in range(1, last + 1)} == set(
        ids
    )
    for rule, _ in RULES:
        assert rule.title and rule.checks and rule.source and rule.stage


def test_bundles_by_the_standard() -> None:
    steps = {"abyc": (1, 1, 0.7, 0.6, 0.5, 0.4), "iso": (1, 1, 1, 0.7, 0.6, 0.5)}
    for standard, factors in steps.items():
        assert tuple(bundling_factor(n, standard) for n in (1, 2, 3, 6, 24, 25)) == factors
