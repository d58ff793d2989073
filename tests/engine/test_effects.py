"""Effects that must be noticed when they go missing: each in one number, by hand."""

from __future__ import annotations

from dataclasses import replace
from types import SimpleNamespace
from typing import Any

import pytest
from strom_engine.circuit import operating_point
from strom_engine.dayrun import Day, Plan, consequence, day_report, day_run, outcome_of
from strom_engine.dayrun.fuses import Fuses
from strom_engine.dayrun.plan import EngineSpan, LivingSpan, PlannedFault, ShoreSpan
from strom_engine.design import Design, State
from strom_engine.faults import effects_of, fault_from_key
from strom_engine.reference.protective import opening_s
from strom_engine.rules import DayRun, day_findings
from strom_engine.runs import design_currents
from strom_engine.runs.ladder import selectivity
from strom_engine.runs.picking import MARGIN, needed_rating_a

from bench.designs import Draft
from tests.engine.boats import bare_banks, demo_job, one_bank, two_banks, with_cables

EXTERNAL = {"sensing": "external", "set_v": 14.4, "rated_a": 80}


def broken(design: Design, fault: str, **plan: Any) -> Day:
    whole = Plan.model_validate({"name": "P", "hours": 2} | plan)
    return day_run(design, None, whole, effects_of(design, fault_from_key(design, fault)))


def test_a_dead_cell_takes_its_volts() -> None:
    design = one_bank(0.1).design()
    sound = day_run(design, None, Plan(name="P", hours=0.5)).recording.volts_v["bank"][-1]
    dead = broken(design, "dead_cell bank", hours=0.5).recording.volts_v["bank"][-1]
    # One of six cells of a full AGM block that rests at 12.85 V.
    assert sound - dead == pytest.approx(12.85 / 6, abs=0.05)


def sensed() -> Design:
    """An alternator that senses at the house bank, over thin output cables."""
    draft = bare_banks({"soc": 0.5, "unit_ah": 400})
    draft.part("alternator", "alternator", **EXTERNAL)
    draft.cable("alternator.out", "house_bank.pos", "4 AWG", 4.0)
    return with_cables(draft, ("alternator.neg", "bar"),
                       ("alternator.sense_pos", "house_bank.pos"),
                       ("alternator.sense_neg", "bar"))  # fmt: skip


def test_a_lost_sense_wire_leaves_the_bank_the_drop_short() -> None:
    engine = (EngineSpan(start_h=0, end_h=8),)
    design = sensed()
    plan = Plan(name="P", hours=8, engine=engine, soc={"house_bank": 0.9})
    sound = day_run(design, None, plan)
    lost = broken(design, "sense_off alternator", hours=8, engine=engine, soc={"house_bank": 0.9})
    at = [next(n for n, t in enumerate(d.recording.at_s) if t > 600) for d in (sound, lost)]
    volts = [d.recording.volts_v["house_bank"][n] for d, n in zip((sound, lost), at, strict=True)]
    assert volts[0] == pytest.approx(14.4, abs=0.03) and volts[1] < volts[0] - 0.06


def test_charge_lost_on_the_way_counts_though_it_comes_back() -> None:
    design = one_bank().design()
    lived = outcome_of(day_run(design, None, Plan(name="P", hours=1)))
    planned = replace(lived, end_soc={"bank": 0.8}, lowest_soc={"bank": 0.7})
    dip = replace(planned, lowest_soc={"bank": 0.4})
    gain = replace(planned, end_soc={"bank": 0.9}, lowest_soc={"bank": 0.75})
    assert consequence(design, planned, dip).rank == "charge_lost"
    assert consequence(design, planned, gain).rank == "none"


def test_a_fuse_remembers_how_warm_it_is() -> None:
    draft = one_bank()
    draft.part("fuse", "fuse", rating_a=100)
    fuses = Fuses(draft.design())
    over: Any = SimpleNamespace(beyond=[("fuse.a", 200.0, 100.0)])
    whole_s = opening_s(2.0)
    assert whole_s is not None
    fuses.heat(over, 0.6 * whole_s)
    assert not fuses.blown() and fuses.room_s(over) == pytest.approx(0.4 * whole_s)
    fuses.heat(over, 0.4 * whole_s)
    assert fuses.blown() == ["fuse.a"]
    # What carries less in between has cooled down.
    cool: Any = SimpleNamespace(beyond=[])
    for _ in range(2):
        fuses.heat(over, 0.6 * whole_s)
        fuses.heat(cool, 1.0)
    assert not fuses.blown()


@pytest.mark.parametrize(
    ("upper_a", "how"), [(40, "sure"), (39.9, "likely"), (20.1, "likely"), (20, "not")]
)
def test_twice_the_rating_stays(upper_a: float, how: str) -> None:
    assert selectivity(20, upper_a) == how


def test_what_labels_promise_over_their_efficiencies() -> None:
    draft = bare_banks()
    draft.part("inverter", "inverter", rated_w=1700, cut_out_v=10.5)
    draft.part("dcdc", "dcdc", limit_a=30, set_v=14.4, stop_v=12.0, efficiency=0.9)
    design = with_cables(draft, ("inverter.pos", "house_bank.pos"), ("inverter.neg", "bar"),
                         ("dcdc.in", "engine_bank.pos"), ("dcdc.out", "house_bank.pos"),
                         ("dcdc.neg", "bar"))  # fmt: skip
    rated = {c.start: design_currents(design)[c.id].rated_a for c in design.cables}
    assert rated["inverter.pos"] == pytest.approx(1700 / 0.85 / 10.5)
    # It takes 30 A x 14.4 V / 0.9 / 12 V = 40 A, and its negative carries the larger.
    assert rated["dcdc.in"] == rated["dcdc.neg"] == pytest.approx(40)
    assert rated["dcdc.out"] == 30


@pytest.mark.parametrize("system_v", [12, 24])
def test_coils_and_inverters_by_the_volts_of_the_system(system_v: int) -> None:
    scale, series = system_v / 12, system_v // 12
    draft = bare_banks({"series": series, "soc": 0.9}, series=series)
    draft.extra = {"system_v": system_v}
    draft.part("switch", "remote", drive="held", position="on")
    design = with_cables(draft, ("house_bank.pos", "remote.ctrl_pos"),
                         ("remote.ctrl_neg", "bar"), ("house_bank.pos", "remote.a"))  # fmt: skip
    volts = operating_point(design, State()).banks["house_bank"].volts_v
    # 0.8 A at 12 V is 9.6 W, 0.4 A at 24 V: 15 and 60 ohm.
    assert operating_point(design, State()).totals.used_a == pytest.approx(
        volts / (15 * scale**2), rel=0.01
    )
    # An inverter that cut out comes back 1.5 V (of 12 V) above: a charger lifts the bank there.
    draft = bare_banks({"series": series, "unit_ah": 40, "soc": 0.05}, series=series)
    draft.extra = {"system_v": system_v}
    draft.part("inverter", "inverter", rated_w=1000, idle_w=200, cut_out_v=11.6 * scale)
    draft.part("charger", "charger", rated_a=4, set_v=14.4 * scale, float_v=13.5 * scale)
    design = with_cables(draft, ("house_bank.pos", "inverter.pos"), ("inverter.neg", "bar"),
                         ("charger.out1", "house_bank.pos"), ("charger.neg", "bar"))  # fmt: skip
    shore = (ShoreSpan(start_h=0.5, end_h=10),)
    day = day_run(design, None, Plan(name="P", hours=10, shore=shore))
    back = next(e for e in day.events if e.part == "inverter" and e.to == "closed")
    i = max(n for n, t in enumerate(day.recording.at_s) if t < back.at_s)
    assert day.recording.volts_v["house_bank"][i] == pytest.approx(13.1 * scale, abs=0.15 * scale)


def test_cycles_of_a_year_by_the_days_of_a_plan() -> None:
    survey = demo_job("marsh_wren.json").survey
    use = survey.use.model_copy(update={"days_a_year": 300.0})
    survey = survey.model_copy(update={"use": use})
    draft = one_bank(3.0, unit_ah=100)
    living = (LivingSpan(start_h=0, end_h=20, profile="living"),)
    plan = Plan(name="P", hours=48, living=living)
    day = day_run(draft.design(), None, plan)
    found = day_findings(DayRun(day.design, survey, plan, day_report(day)))
    wear = next(f for f in found if f.rule == "BA-8")
    # 300 days a year in pieces of two days
    assert "150 times a year (300 days / 2.0)" in wear.arithmetic[0]


def test_a_field_contact_shuts_the_alternator_down() -> None:
    engine = (EngineSpan(start_h=0.1, end_h=1),)
    for contact, gives in (("alternator", False), (None, True)):
        selector = {"position": "1", "field_contact_of": contact}
        draft: Draft = two_banks(
            engine_bank={"soc": 0.5}, starter={"cranking_a": 150}, selector=selector
        )
        raw = {"at_h": 0.5, "switch": "selector", "position": "off"}
        plan = Plan.model_validate({"name": "P", "hours": 1, "engine": engine, "moves": [raw]})
        day = day_run(draft.design(), None, plan)
        assert any(e.to == "load_dump" for e in day.events) == gives


def test_a_long_crank_asks_a_fuse_for_an_inverse_share() -> None:
    # 480 A while cranking: a slow fuse holds 1.6 times its rating: 300 A, and 5 % to spare.
    assert needed_rating_a(None, 480.0) == pytest.approx(300)
    currents = design_currents(two_banks().design())
    some = replace(next(iter(currents.values())), amps=60.0, lasting_a=60.0)
    assert needed_rating_a(some, 480.0) == pytest.approx(MARGIN * 300)
    assert needed_rating_a(some, 0.0) == pytest.approx(MARGIN * 60 / 0.8)


def test_a_fault_of_a_plan_is_the_one_that_was_named() -> None:
    design = one_bank(5.0, law="current").design()
    fault = PlannedFault(at_h=1, key="negative_open bank")
    living = (LivingSpan(start_h=0, end_h=2, profile="living"),)
    day = day_run(design, None, Plan(name="P", hours=2, living=living, fault=fault))
    assert day.ledger.taken["lamp"].charge_ah == pytest.approx(5, rel=0.01)
