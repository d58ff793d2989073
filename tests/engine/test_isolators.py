"""Isolators: what they drop, that nothing comes back, who charges through them, and CH-6."""

from __future__ import annotations

import pytest
from strom_engine.circuit import bench, operating_point
from strom_engine.design import State, apply_change
from strom_engine.rules import findings

from bench.designs import Draft
from bench.generated import generated_design, generated_state
from tests.engine.test_against_ngspice import differences

RUNNING = State(engine="on", rpm=3000)


def isolated(sort: str = "silicon", sense: str | None = None, **banks: object) -> Draft:
    """An alternator, an isolator, an engine bank and a house bank with a panel on it."""
    draft = Draft()
    draft.bank("engine_bank", role="engine", unit_cca_a=700, **({"soc": 0.95} | banks))
    draft.bank("house_bank", **({"soc": 0.4, "parallel": 3} | banks))
    outside = {"sensing": "external"} if sense else {}
    draft.part("alternator", "alternator", rated_a=80, hot_share=1.0, set_v=14.4, **outside)
    draft.part("isolator", "isolator", sort=sort, rating_a=100)
    draft.part("bus_bar", "bar", polarity="neg", studs=12)
    draft.load("panel", 6.0)
    draft.cable("alternator.out", "isolator.in")
    draft.cable("isolator.out1", "engine_bank.pos")
    draft.cable("isolator.out2", "house_bank.pos")
    draft.cable("house_bank.pos", "panel.pos", "8 AWG")
    for n, part in enumerate(("engine_bank", "house_bank", "alternator", "panel")):
        draft.cable(f"{part}.neg", f"bar.s{n + 1}")
    if sense:
        draft.cable("alternator.sense_pos", sense, "14 AWG")
        draft.cable("alternator.sense_neg", "bar.s9", "14 AWG")
    return draft


@pytest.mark.parametrize(
    ("sort", "knee_v", "rated_v"),
    [("silicon", 0.6, 1.0), ("schottky", 0.3, 0.5), ("fet", 0.0, 0.1)],
)
def test_the_drop_by_hand(sort: str, knee_v: float, rated_v: float) -> None:
    point = operating_point(isolated(sort).design(), RUNNING)
    for now in point.passing.values():
        assert now.current_a > 0
        # knee + (rated drop - knee) x I / rating
        expected = knee_v + (rated_v - knee_v) * now.current_a / 100
        assert now.drop_v == pytest.approx(expected, abs=1e-4)
    given = sum(now.current_a for now in point.passing.values())
    assert point.sources["alternator"].current_a == pytest.approx(given)
    assert point.balance_residual < 1e-6


def test_full_banks_never_fill_until_the_regulator_senses_behind_it() -> None:
    full = {"soc": 1.0, "parallel": 1}
    machine = operating_point(isolated(**full).design(), RUNNING)
    assert machine.sources["alternator"].mode == "voltage"
    assert machine.banks["house_bank"].volts_v < 14.4 - 0.6
    behind = operating_point(isolated(sense="house_bank.pos", **full).design(), RUNNING)
    assert behind.banks["house_bank"].volts_v > machine.banks["house_bank"].volts_v + 0.3
    assert behind.banks["house_bank"].current_a > machine.banks["house_bank"].current_a


def test_nothing_comes_back_and_reach_knows_the_way() -> None:
    design = isolated().design()
    result = bench(design, State(profile="living"))
    # The house bank feeds its panel alone; the full engine bank gives nothing through it.
    assert result.point.banks["engine_bank"].current_a == pytest.approx(0.0, abs=1e-6)
    assert result.reach.fed_by["panel"] == ("house_bank",)
    assert result.reach.charges["alternator"] == ("engine_bank", "house_bank")
    assert result.reach.joined_banks == ()
    running = bench(design, RUNNING)
    cells = running.sources_by_bank["alternator"]
    assert all(cell.joined and cell.current_a > 0 for cell in cells.values())
    assert running.point.loose_sources == ()


def test_an_isolator_on_no_bank_leaves_its_source_loose() -> None:
    draft = isolated()
    draft.cables = [c for c in draft.cables if not str(c["start"]).startswith("isolator.")]
    point = operating_point(draft.design(), RUNNING)
    assert point.loose_sources == ("alternator",)


@pytest.mark.parametrize("sort", ["silicon", "schottky", "fet"])
@pytest.mark.parametrize("sense", [None, "house_bank.pos"])
def test_against_ngspice(sort: str, sense: str | None) -> None:
    for state in (RUNNING, State(profile="living"), State(engine="on", rpm=900, profile="living")):
        assert differences(isolated(sort, sense).design(), state, sort) == []


def test_generated_designs_hold_isolators() -> None:
    designs = {seed: generated_design(seed) for seed in range(40)}
    held = {s: d for s, d in designs.items() if any(p.kind == "isolator" for p in d.components)}
    assert len(held) > 6
    for seed, design in held.items():
        result = bench(design, generated_state(design, seed))
        for bank, cell in result.sources_by_bank["alternator"].items():
            assert cell.joined or cell.current_a < 0.01, (seed, bank)


def test_ch6_drop_heat_and_repair() -> None:
    [finding] = [f for f in findings(isolated().design()) if f.rule == "CH-6"]
    assert finding.severity == "fault"
    drop_v, heat_w = finding.figures[0].value, finding.figures[1].value
    point = operating_point(isolated().design(), RUNNING)
    assert drop_v == pytest.approx(max(n.drop_v for n in point.passing.values()), abs=0.05)
    heat = sum(n.current_a * n.drop_v for n in point.passing.values())
    assert heat_w == pytest.approx(heat, rel=0.1)
    assert finding.change is not None
    mended = apply_change(isolated().design(), finding.change)
    assert not [f for f in findings(mended) if f.rule == "CH-6"]
    sensed = isolated(sense="house_bank.pos").design()
    assert not [f for f in findings(sensed) if f.rule == "CH-6"]
    assert not [f for f in findings(isolated("fet").design()) if f.rule == "CH-6"]
    large = isolated("schottky")
    large.parts[3]["rating_a"] = 300  # 0.3 V + 0.2 V x 78 A / 300 A = 0.35 V, less than 3 %
    schottky = [f for f in findings(large.design()) if f.rule == "CH-6"]
    assert [f.severity for f in schottky] == ["caution"]
