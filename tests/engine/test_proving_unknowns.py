"""What is drawn of a boat, which readings are offered, and which causes are held against them."""

from __future__ import annotations

from typing import get_args

import numpy as np
import pytest
from strom_engine.batteries import soc_from_rest
from strom_engine.circuit import operating_point
from strom_engine.design import Alternator, Bank, Design, State
from strom_engine.design.state import battery_switches
from strom_engine.faults import FaultKind, effects_of
from strom_engine.prove import Today, boats_drawn, proving_tests, search_drafts
from strom_engine.prove.hypotheses import CURES, OFTEN, hypotheses
from strom_engine.prove.probing import clamp
from strom_engine.reference import resistivity_ohm_mm2_per_m
from strom_engine.survey import surveyed

from tests.engine.boats import DEMO_FILES, demo_job, relay_boat, two_banks

MANY = 400


def boat() -> Design:
    draft = two_banks()
    draft.cables[0] |= {"estimated": True, "length_m": 8.0, "gauge": "4/0 AWG"}
    draft.cables[1] |= {"estimated": False, "length_m": 8.0, "gauge": "4/0 AWG"}
    return draft.design()


def test_lengths_are_drawn_as_they_are_known() -> None:
    design = boat()
    drawn = boats_drawn(design, Today(), MANY)
    guessed, taped = (
        np.array([b.design.cables_by_id[c].length_m for b in drawn]) for c in ("c0", "c1")
    )
    # Of 8 m of 107 mm2: ends of 0.2 mohm / sqrt(12) each are 0.082 mohm, as much as 0.46 m.
    rho = resistivity_ohm_mm2_per_m(design.conductor_temperature_c)
    area = design.cables_by_id["c0"].area_mm2
    ends_m = 0.2e-3 / 12**0.5 * 2**0.5 * area / rho
    assert ends_m == pytest.approx(0.46, abs=0.03)
    # sqrt((8 x 0.15)^2 + (8 x 0.02)^2 + ends^2) and with 0.02 for 0.15
    assert guessed.std() == pytest.approx(np.hypot(8 * np.hypot(0.15, 0.02), ends_m), rel=0.12)
    assert taped.std() == pytest.approx(np.hypot(8 * np.hypot(0.02, 0.02), ends_m), rel=0.12)
    assert taped.mean() == pytest.approx(8.0, abs=0.1)
    # What can be found out is told by name: the estimated cable and every bank's charge.
    assert set(drawn[0].drawn) == {"length:c0", "soc:engine_bank", "soc:house_bank"}
    told = np.array([b.drawn["length:c0"] for b in drawn])
    assert np.corrcoef(told, guessed)[0, 1] > 0.9


def test_charge_is_drawn_by_rest_volts_where_they_tell() -> None:
    design = boat()
    bank = next(b for b in design.of_type(Bank) if b.id == "house_bank")

    def charge(today: Today) -> np.ndarray:
        return np.array([b.soc["house_bank"] for b in boats_drawn(design, today, MANY)])

    plain = charge(Today())
    assert plain.mean() == pytest.approx(0.6, abs=0.02) and plain.std() == pytest.approx(
        0.1, rel=0.1
    )
    told = soc_from_rest(bank, 12.5, 12)
    read = charge(Today(rest_v={"house_bank": 12.5}, rested_h=12))
    assert told.soc is not None
    assert read.mean() == pytest.approx(told.soc, abs=0.02)
    assert read.std() == pytest.approx(0.05, rel=0.15)  # 10 % either way are two deviations
    # A reading that no rest can have says nothing: the bank is as drawn.
    assert charge(Today(rest_v={"house_bank": 14.4})).std() == pytest.approx(plain.std())
    assert max(charge(Today(rest_v={"house_bank": 12.85}))) == 1.0


def test_sources_loads_and_meters_are_drawn_too() -> None:
    design = boat()
    drawn = boats_drawn(design, Today(temperature_c=5.0), MANY)
    machines = [b.design.of_type(Alternator)[0] for b in drawn]
    rated = np.array([m.rated_a for m in machines])
    held = np.array([m.set_v for m in machines])
    assert rated.std() / rated.mean() == pytest.approx(0.05, rel=0.12)
    assert held.std() == pytest.approx(0.004 * 14.4, rel=0.12)
    assert {b.temperature_c for b in drawn[0].design.of_type(Bank)} == {5.0}
    again = boats_drawn(design, Today(temperature_c=5.0), MANY)
    assert again[7] == drawn[7], "the same seed, the same boats"
    assert boats_drawn(design, Today(), 1, seed=2) != boats_drawn(design, Today(), 1, seed=3)


def test_a_clamp_reads_along_its_arrow() -> None:
    design = boat()
    cable = design.cables_on("alternator.out")[0]
    point = operating_point(design, State(engine="on", rpm=2000))
    out = clamp(cable, away_from="alternator.out")
    back = clamp(cable, towards="alternator.out")
    assert out.value(point, design) > 5
    assert back.value(point, design) == pytest.approx(-out.value(point, design))
    assert "arrow towards Starter +" in out.words(design)


@pytest.mark.parametrize("name", DEMO_FILES)
def test_readings_that_are_offered_can_be_taken_and_endanger_nobody(name: str) -> None:
    job = demo_job(name)
    design = surveyed(job.variants[-1].design, job.survey)
    drafts = search_drafts(design)
    assert len({d.key for d in drafts}) == len(drafts)
    switches = {s.id for s in battery_switches(design)}
    for draft in drafts:
        assert draft.probe and draft.state
        point = operating_point(design, draft.state)
        value = draft.probe.value(point, design)
        if ":drop:" in draft.key:
            assert value > 0, "red where the current comes from"
        if ":across:" in draft.key:
            assert abs(value) < 0.3 * design.system_v / 12, "only over contacts that are closed"
        running = draft.state.engine == "on" or draft.state.cranking
        turned = set(draft.state.positions) & switches
        assert not (draft.state.engine == "on" and turned), "no switch is turned while it runs"
        assert bool(draft.caution) == running
        assert draft.minutes == (3.0 if running else 1.0)


def test_every_kind_of_fault_has_its_odds_and_its_cure() -> None:
    kinds = set(get_args(FaultKind))
    assert set(OFTEN) == set(CURES)
    # What needs time or a record to be told is not among the causes of a moment.
    assert kinds - set(OFTEN) == {"lost_capacity"}


@pytest.mark.parametrize("name", DEMO_FILES)
def test_every_cause_is_one_that_the_boat_can_have(name: str) -> None:
    job = demo_job(name)
    design = surveyed(job.variants[0].design, job.survey)
    causes = hypotheses(design)
    keys = [h.key for h in causes]
    assert len(keys) == len(set(keys)) and keys[0] == "healthy" and keys[-1] == "none of these"
    for cause in causes[1:-1]:
        assert cause.cure and cause.words and cause.odds > 0 and cause.part
        for faults in cause.variants:
            effects_of(design, *faults)
    several = [h for h in causes if len(h.variants) > 1]
    for cause in several:
        amounts = [faults[0].amount for faults in cause.variants]
        falling = cause.key.startswith("source_limited")
        assert amounts == sorted(amounts, reverse=falling), "from the mildest to the worst"


def test_every_lead_joint_and_bank_is_among_the_causes() -> None:
    design = relay_boat().design()
    keys = {h.key for h in hypotheses(design)}
    for cable in design.cables:
        assert {f"added_resistance {cable.id} end", f"cable_open {cable.id}"} <= keys
    assert {f"bank_resistance {b.id}" for b in design.of_type(Bank)} <= keys
    assert {"stuck_open relay", "stuck_closed relay", "added_resistance relay a"} <= keys
    assert "wrong_landing" in {k.partition(" ")[0] for k in keys}


def test_switches_are_proved_in_every_position_and_alone() -> None:
    design = two_banks().design()
    keys = [t.key for t in proving_tests(design) if t.key.startswith("switch:")]
    assert keys == [f"switch:selector:{p}" for p in ("off", "1", "both", "2")]
