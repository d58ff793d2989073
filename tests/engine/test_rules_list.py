"""The list of rules, and what holds of every finding."""

from __future__ import annotations

import pytest
from strom_engine.design import apply_change, parse_design
from strom_engine.rules import RULES, findings

from bench.generated import generated_design


@pytest.mark.parametrize("seed", range(0, 60, 4))
def test_every_finding_is_whole_and_repairs_end(seed: int) -> None:
    design = generated_design(seed)
    ids = {p.id for p in design.components} | set(design.cables_by_id)
    for finding in findings(design):
        assert finding.arithmetic
        assert "confirm in the edition in force" in finding.source
        assert finding.repair
        assert set(finding.parts) <= ids
    for _ in range(80):
        change = next((f.change for f in findings(design) if f.change), None)
        if change is None:
            return
        design = apply_change(design, change)
    pytest.fail("repairs do not end")


def test_every_rule_of_switching_and_charging_is_there() -> None:
    ids = {rule.id for rule, _ in RULES}
    assert {f"SW-{n}" for n in range(1, 10)} <= ids
    assert {f"CH-{n}" for n in range(1, 18)} <= ids


def test_ids_are_never_used_twice() -> None:
    ids = [rule.id for rule, _ in RULES]
    assert len(ids) == len(set(ids))


def test_a_design_without_anything_breaks_no_rule() -> None:
    assert findings(parse_design({"components": [], "cables": []})) == ()
