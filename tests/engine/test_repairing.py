"""Repairs of findings: they end, they heal, and they bring nothing graver about."""

from __future__ import annotations

import pytest
from strom_engine.design import AddPart, apply_change, change_from
from strom_engine.rules import findings, repair_plan, safe
from strom_engine.rules.registry import ORDER

from bench.wired import spoiled_boat
from tests.engine.boats import demo_job

BOATS = range(40)
GRAVE = ("danger", "fault")


def test_every_offered_repair_until_none_is_left_leaves_nothing_grave() -> None:
    left = []
    for seed in BOATS:
        plan = repair_plan(spoiled_boat(seed), safe_only=False)
        assert not [f for f in plan.left if f.change is not None], seed
        left.append([f.title for f in plan.left if f.severity in GRAVE])
    assert sum(not titles for titles in left) >= 0.95 * len(BOATS), left


@pytest.mark.parametrize("seed", range(12))
def test_no_repair_brings_a_graver_finding_about(seed: int) -> None:
    design = spoiled_boat(seed)
    for _ in range(60):
        before = findings(design)
        one = next((f for f in before if f.change is not None), None)
        if one is None:
            return
        assert one.change is not None
        design = apply_change(design, one.change)
        known = {f.key for f in before}
        graver = ORDER[: ORDER.index(one.severity)]
        new = [f for f in findings(design) if f.key not in known and f.severity in graver]
        assert not new, (one.title, [f.title for f in new])
    pytest.fail("repairs do not end")


def test_a_plan_is_one_change_that_does_what_it_says() -> None:
    job = demo_job("marsh_wren.json")
    design = job.variants[1].design
    plan = repair_plan(design, job.survey)
    assert plan.change is not None and len(plan.repairs) > 10
    assert all(safe(one) for one in plan.change.changes)
    again = change_from(plan.change.model_dump(mode="json"))
    assert apply_change(design, again) == plan.design
    assert findings(plan.design, job.survey) == plan.left
    names = [c.part.name for c in plan.change.changes if isinstance(c, AddPart)]
    assert len(names) == len(set(names))


def test_only_what_is_asked_for_is_repaired() -> None:
    design = spoiled_boat(5)
    one = next(f for f in findings(design) if safe(f.change))
    plan = repair_plan(design, only=frozenset({one.key}))
    assert {r.finding for r in plan.repairs} == {one.key}
    assert not repair_plan(design, only=frozenset()).repairs
    assert not safe(None)
