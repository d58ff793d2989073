"""What cannot be computed is an error of the tree, and stays alone."""

from __future__ import annotations

import pytest
from strom_engine.circuit import operating_point
from strom_engine.design import Design, State
from strom_engine.errors import ComputationError, TooLargeError
from strom_engine.interchange import variant_problems
from strom_engine.interruption import interrupted_by
from strom_engine.rules import findings, registry

from tests.engine.boats import demo_job


def with_resistance(ohm: float) -> Design:
    """A design past its checks, as an older program may have kept one."""
    design = demo_job("pilot_3.json").variants[0].design
    parts = (
        p.model_copy(update={"unit_resistance_ohm": ohm}) if p.kind == "bank" else p
        for p in design.components
    )
    return design.replace_unchecked(components=tuple(parts))


def test_a_circuit_without_a_solution_names_its_parts() -> None:
    with pytest.raises(ComputationError, match="house_bank"):
        operating_point(with_resistance(float("nan")), State())
    with pytest.raises(ComputationError, match="gives no number"):
        operating_point(with_resistance(0.0), State())
    [problem] = variant_problems(with_resistance(0.0), None, "variants[0].design")
    assert problem.path == "variants[0].design" and "no number" in problem.message


def test_a_rule_that_fails_says_so_and_the_others_speak(monkeypatch: pytest.MonkeyPatch) -> None:
    job = demo_job("pilot_3.json")
    before = findings(job.variants[0].design, job.survey)
    (rule, _), *others = registry.RULES

    def fails(_: object) -> list[object]:
        return [1 / 0]

    monkeypatch.setattr(registry, "RULES", ((rule, fails), *others))
    registry._found.cache_clear()
    after = findings(job.variants[0].design, job.survey)
    registry._found.cache_clear()
    told = next(f for f in after if f.about == "not computed")
    assert (told.rule, told.severity) == (rule.id, "cannot_tell")
    assert "division by zero" in told.arithmetic[0]
    assert {f.key for f in before if f.rule != rule.id} <= {f.key for f in after}


def test_a_computation_ends_when_it_is_no_longer_wanted() -> None:
    def stop() -> None:
        raise TooLargeError("it takes too long")

    job = demo_job("pilot_3.json")
    registry._found.cache_clear()
    with interrupted_by(stop), pytest.raises(TooLargeError):
        findings(job.variants[0].design, job.survey)
    assert findings(job.variants[0].design, job.survey)  # nothing half done was kept
