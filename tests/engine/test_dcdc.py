"""The dc-dc charger: what it takes and gives, when it runs, whom it charges."""

from __future__ import annotations

from typing import Any

import pytest
from strom_engine.circuit import bench, operating_point
from strom_engine.design import State
from strom_engine.rules import findings

from bench.designs import Draft
from tests.engine.test_against_ngspice import differences

RUNNING = State(engine="on", rpm=3000, profile="living")


def converted(engine_soc: float = 0.95, alternator_a: float = 90, **dcdc: Any) -> Draft:
    """An engine bank with the alternator, and a lithium house bank behind a dc-dc charger."""
    draft = Draft()
    draft.bank("engine_bank", role="engine", unit_cca_a=700, soc=engine_soc)
    draft.bank("house_bank", chemistry="lfp", unit_ah=200, soc=0.5)
    draft.part("alternator", "alternator", rated_a=alternator_a, hot_share=1.0, set_v=14.4)
    figures = {"limit_a": 30, "set_v": 14.2, "start_v": 13.3, "stop_v": 12.8} | dcdc
    draft.part("dcdc", "dcdc", **figures)
    draft.part("bus_bar", "bar", polarity="neg", studs=12)
    draft.load("panel", 6.0)
    for start, end in (
        ("alternator.out", "engine_bank.pos"),
        ("engine_bank.pos", "dcdc.in"),
        ("dcdc.out", "house_bank.pos"),
        ("house_bank.pos", "panel.pos"),
    ):
        draft.cable(start, end, "4 AWG")
    grounded = ("engine_bank", "house_bank", "alternator", "dcdc", "panel")
    for n, part in enumerate(grounded):
        draft.cable(f"{part}.neg", f"bar.s{n + 1}", "4 AWG")
    return draft


def test_power_in_is_power_out_over_efficiency() -> None:
    point = operating_point(converted(efficiency=0.92).design(), RUNNING)
    now = point.converters["dcdc"]
    assert (now.verdict, now.mode, now.out_a) == ("closed", "limit", pytest.approx(30))
    assert now.in_v is not None and now.out_v is not None
    assert now.in_a == pytest.approx(30 * now.out_v / 0.92 / now.in_v, rel=1e-6)
    assert point.balance_residual < 1e-6
    # It gives the house bank its 30 A less what the panel draws of them.
    panel = point.loads["panel"].current_a
    assert point.banks["house_bank"].current_a == pytest.approx(30 - panel, abs=1e-3)
    # Unlike chemistries, charged together and never joined.
    # The house bank's volts are the dc-dc charger's to rule, no error of the alternator's sensing.
    sensed = [f for f in findings(converted().design()) if f.rule in ("CH-1", "CH-15")]
    assert [f.parts for f in sensed] == [("alternator", "engine_bank")]


@pytest.mark.parametrize(
    ("draft", "state", "verdict", "words"),
    [
        (converted(), State(), "open", "below its start at 13.3 V"),
        (
            converted(),
            State(previous_states={"dcdc": "closed"}),
            "open",
            "below its stop at 12.8 V",
        ),
        (
            converted(stop_v=12.0),
            State(previous_states={"dcdc": "closed"}),
            "closed",
            "above its stop",
        ),
        (converted(ignition=True, start_v=12.5, stop_v=12.0), State(), "open", "ignition"),
        (converted(ignition=True), RUNNING, "closed", "above its stop"),
        # an alternator of 8 A holds the engine bank above the start, but not with 40 A taken
        (converted(1.0, 8, limit_a=40), RUNNING, "chatters", "below its stop"),
    ],
)
def test_when_it_runs(draft: Draft, state: State, verdict: str, words: str) -> None:
    now = operating_point(draft.design(), state).converters["dcdc"]
    assert (now.verdict, now.closed) == (verdict, verdict == "closed")
    assert words in now.why
    if not now.closed:
        assert (now.in_a, now.out_a) == (0.0, 0.0)


def test_who_charges_through_it() -> None:
    running = bench(converted().design(), RUNNING)
    assert running.reach.charges["alternator"] == ("engine_bank", "house_bank")
    assert running.reach.joined_banks == ()
    cells = running.sources_by_bank["alternator"]
    given = cells["house_bank"].current_a
    assert cells["house_bank"].joined and 15 < given < 30
    resting = bench(converted().design(), State(profile="living"))
    assert resting.reach.charges["alternator"] == ("engine_bank",)
    assert resting.reach.fed_by["panel"] == ("house_bank",)
    lonely = converted()
    lonely.cables = [c for c in lonely.cables if c["end"] != "house_bank.pos"]
    told = [f for f in findings(lonely.design()) if f.rule == "CH-7"]
    assert any("house_bank" in f.parts for f in told)
    assert not [f for f in findings(converted().design()) if f.rule == "CH-7"]


def test_a_full_bank_is_held_at_its_own_voltage() -> None:
    draft = converted(set_v=13.6)
    draft.parts[1]["soc"] = 1.0
    now = operating_point(draft.design(), RUNNING).converters["dcdc"]
    assert now.mode in ("voltage", "limit")
    assert now.out_v is not None and now.out_v <= 13.6 + 1e-3


@pytest.mark.parametrize("limit_a", [10, 30, 60])
@pytest.mark.parametrize("efficiency", [0.8, 0.95])
def test_against_ngspice(limit_a: float, efficiency: float) -> None:
    draft = converted(limit_a=limit_a, efficiency=efficiency)
    for state in (RUNNING, State(engine="on", rpm=1100), State(profile="living")):
        assert differences(draft.design(), state, f"{limit_a} A") == []
