"""What a plan says beyond switches: single loads, sources off, leads moved, a fault that begins."""

from __future__ import annotations

import json
from pathlib import Path
from typing import Any

import pytest
from strom_calc.__main__ import main
from strom_engine.dayrun import Day, Plan, day_report, day_run, parse_plan
from strom_engine.dayrun.pattern import load_spans
from strom_engine.dayrun.plan import EngineSpan, LivingSpan, ShoreSpan
from strom_engine.design import Design
from strom_engine.errors import PlanError
from strom_engine.faults import possible_faults
from strom_engine.rules import DayRun, day_findings
from strom_engine.survey import surveyed

from tests.engine.boats import DEMO, bare_banks, demo_job, relay_boat, told, two_banks, with_cables

MARSH = str(Path(DEMO) / "marsh_wren.json")


def lived(design: Design, hours: float = 4.0, **fields: Any) -> Day:
    return day_run(design, None, Plan.model_validate({"name": "P", "hours": hours} | fields))


def at(day: Day, column: list[float], hour: float) -> float:
    i = max(n for n, t in enumerate(day.recording.at_s) if t <= hour * 3600)
    return column[i]


def charged(**charger: Any) -> Design:
    draft = bare_banks({"soc": 0.5})
    plain = {"rated_a": 20, "set_v": 14.4, "float_v": 13.6}
    draft.part("charger", "charger", **(plain | charger))
    draft.load("panel", 5.0)
    return with_cables(draft, ("charger.out1", "house_bank.pos"), ("charger.neg", "bar"),
                       ("house_bank.pos", "panel.pos"), ("panel.neg", "bar"))  # fmt: skip


def test_a_load_with_a_lane_runs_as_that_says_and_nothing_else() -> None:
    living = (LivingSpan(start_h=0, end_h=4, profile="living"),)
    lane = [{"start_h": 1, "end_h": 3, "item": "panel.i0"}]
    whole, two_h = lived(charged(), living=living), lived(charged(), living=living, loads=lane)
    drawn = [d.ledger.taken["panel"].charge_ah for d in (whole, two_h)]
    assert drawn[1] == pytest.approx(drawn[0] / 2, rel=0.01)
    assert lived(charged(), loads=lane).ledger.taken["panel"].charge_ah == pytest.approx(
        drawn[1], rel=0.01
    )


def test_a_source_that_is_off_gives_nothing_meanwhile_and_begins_with_bulk() -> None:
    shore = (ShoreSpan(start_h=0, end_h=4),)
    off = [{"start_h": 1, "end_h": 2, "source": "charger"}]
    day = lived(charged(), shore=shore, sources_off=off)
    given = day.recording.source_a["charger"]
    assert at(day, given, 0.9) == pytest.approx(20) and at(day, given, 1.5) == pytest.approx(
        0, abs=1e-6
    )
    assert at(day, given, 2.5) == pytest.approx(20)
    # 3 h x 20 A
    assert day.ledger.given["charger"].charge_ah == pytest.approx(60, rel=0.01)
    assert day.tallies.stage_h == {("charger", "bulk"): pytest.approx(3.0)}


def test_a_lead_moved_charges_the_other_bank_from_then_on() -> None:
    design = charged()
    lead = next(c.id for c in design.cables if c.start == "charger.out1")
    moves = [{"at_h": 2, "cable": lead, "end": "end", "to": "engine_bank.pos"}]
    day = lived(design, shore=(ShoreSpan(start_h=0, end_h=4),), leads=moves)
    amps = day.recording.bank_a
    assert at(day, amps["house_bank"], 1.9) == pytest.approx(20, abs=0.1)
    assert at(day, amps["house_bank"], 2.1) == pytest.approx(0, abs=0.1)
    assert at(day, amps["engine_bank"], 1.9) == pytest.approx(0, abs=0.1)
    assert at(day, amps["engine_bank"], 2.01) > 3
    [event] = [e for e in day.events if e.to == "engine_bank.pos"]
    assert event.at_s == 7200 and "Engine bank +" in event.words
    assert day.ledger.residual < 1e-3


@pytest.mark.parametrize("fault", [f.key for f in possible_faults(relay_boat().design())])
def test_a_fault_begins_when_the_plan_says(fault: str) -> None:
    engine = (EngineSpan(start_h=0.1, end_h=3.5),)
    broken = {"at_h": 2.0, "key": fault}
    sound = lived(relay_boat().design(), engine=engine)
    day = lived(relay_boat().design(), engine=engine, fault=broken)
    before = [(e.at_s, e.words) for e in day.events if e.at_s < 7200]
    assert before == [(e.at_s, e.words) for e in sound.events if e.at_s < 7200]
    [event] = [e for e in day.events if e.kind == "fault"]
    assert event.at_s == 7200 and event.words.startswith("From here on")
    if fault == "source_dead alternator":
        assert at(day, day.recording.source_a["alternator"], 1.9) > 10
        assert at(day, day.recording.source_a["alternator"], 2.1) == 0


def test_what_a_plan_names_and_the_boat_has_not_is_told_at_once() -> None:
    raw = {
        "name": "P",
        "hours": 4,
        "loads": [{"start_h": 0, "end_h": 1, "item": "panel.nothing"},
                  {"start_h": 3, "end_h": 5, "item": "panel.i0"},
                  {"start_h": 3.5, "end_h": 4, "item": "panel.i0"}],
        "sources_off": [{"start_h": 0, "end_h": 1, "source": "chargr"}],
        "leads": [{"at_h": 5, "cable": "nope", "end": "end", "to": "house_bank.plus"}],
        "fault": {"at_h": 9, "key": "source_dead chargr"},
    }  # fmt: skip
    with pytest.raises(PlanError) as error:
        parse_plan(raw, charged())
    told_at = {p.path for p in error.value.problems}
    assert told_at == {"loads[0].item", "loads[1].end_h", "loads[2]", "sources_off[0].source",
                       "leads[0].at_h", "leads[0].cable", "leads[0].to", "fault.at_h",
                       "fault.key"}  # fmt: skip
    assert "did you mean 'charger'" in str(error.value)


def test_calc_day_takes_a_fault(capsys: pytest.CaptureFixture[str]) -> None:
    asked = ["day", MARSH, "--plan", "day_trip", "--school", "a"]
    assert main([*asked, "--fault", "source_dead alternator", "--fault-at", "1.2"]) == 0
    events = json.loads(capsys.readouterr().out)["sheet"]["events"]
    assert [e["at_s"] for e in events if e["kind"] == "fault"] == [pytest.approx(1.2 * 3600)]
    assert main([*asked, "--fault", "source_dead windmill"]) == 2
    assert "there is no fault" in capsys.readouterr().err


def test_an_alternator_that_waits_gives_nothing_at_first() -> None:
    draft = two_banks(alternator={"start_delay_s": 60})
    day = lived(draft.design(), hours=1, engine=(EngineSpan(start_h=0.1, end_h=0.9),))
    started = next(e.at_s for e in day.events if e.kind == "engine") / 3600
    given = day.recording.source_a["alternator"]
    assert at(day, given, started + 50 / 3600) == 0 < at(day, given, started + 70 / 3600)


def test_least_bulk_keeps_a_full_bank_from_absorption() -> None:
    shore = (ShoreSpan(start_h=0, end_h=4),)
    for least_h, begins in ((None, 0.0), (1.5, 1.5)):
        fields = {} if least_h is None else {"bulk_least_h": least_h}
        draft = charged(rated_a=60, set_v=14.4, **fields)
        day = day_run(draft, None, Plan(name="P", hours=4, shore=shore, soc={"house_bank": 0.97}))
        first = next(e for e in day.events if e.to == "absorption").at_s / 3600
        assert begins <= first < begins + 0.4
        assert day.tallies.stage_h["charger", "bulk"] == pytest.approx(first, abs=0.01)
    # Bulk may go on to more than absorption holds.
    high = day_run(charged(bulk_v=14.8), None, Plan(name="P", hours=12, shore=(
        ShoreSpan(start_h=0, end_h=12),)))  # fmt: skip
    volts = high.recording.volts_v["house_bank"]
    turn = next(e.at_s for e in high.events if e.to == "absorption") / 3600
    assert at(high, volts, turn - 0.01) > 14.6 > 14.45 > at(high, volts, turn + 0.5)


RELAY_PLAN = {
    "engine": (EngineSpan(start_h=0.1, end_h=2),),
    "living": (LivingSpan(start_h=0, end_h=12, profile="living"),),
    "soc": {"house_bank": 0.9},
}


def relay_times(**fields: Any) -> list[tuple[float, str]]:
    day = lived(relay_boat(relay=fields).design(), hours=12, **RELAY_PLAN)
    return told(day, "relay")


def test_a_second_pair_of_thresholds_and_a_measured_time_decide() -> None:
    slow = relay_times(cut_in_s=600)
    quick = relay_times(cut_in_s=600, cut_in_high_v=13.6, cut_in_high_s=10)
    assert slow[0][0] - quick[0][0] > 5
    late, soon = relay_times(cut_out_s=1800), relay_times(
        cut_out_s=1800, cut_out_low_v=12.78, cut_out_low_s=10)  # fmt: skip
    assert late[-1][1] == soon[-1][1] == "open" and late[-1][0] - soon[-1][0] > 5
    # Taken aboard: half an hour after charging had ended it opened, whatever the table says.
    measured = relay_times(opens_after_s=1800)
    closed = [t for t, to in measured if to == "closed"][-1]
    opened = next(t for t, to in measured if to == "open" and t > closed)
    assert opened == pytest.approx(2 * 60 + 30, abs=2.5)


def test_what_a_start_brings_down_is_counted_with_the_starters_own_peak() -> None:
    living = (LivingSpan(start_h=0, end_h=1, profile="living"),)
    plan = {"engine": (EngineSpan(start_h=0.5, end_h=0.9),), "living": living}
    worst = []
    for peak in (None, 900.0):
        starter = {} if peak is None else {"peak_a": peak}
        draft = two_banks(selector={"position": "2"}, starter=starter)
        draft.parts[5]["items"][0]["min_v"] = 11.5
        day = lived(draft.design(), hours=1, **plan)
        report = day_report(day)
        [dip] = report.dips
        assert (dip.item, dip.limit_v) == ("panel.i0", 11.5)
        assert dip.volts_v == pytest.approx(day.tallies.worst_v["panel"])
        worst.append(dip.volts_v)
    # 300 A then 900 A through the same resistance: three times as deep below the rest voltage.
    assert 9 < worst[0] < 11.5 and worst[1] < worst[0] - 1


def test_pumps_and_alarms_go_on_when_nobody_is_aboard() -> None:
    job = demo_job("marsh_wren.json")
    design = surveyed(job.variants[0].design, job.survey)
    pump = next(i for i in job.survey.items if i.always_on and not i.standing and i.uses)
    left = Plan(name="Left", hours=72)
    spans = [s for s in load_spans(design, job.survey, left) if s.item.endswith(f".{pump.id}")]
    hours = sum(s.end_h - s.start_h for s in spans)
    most = max(pump.hours_in(p, job.survey.use.season) for p in pump.uses)
    assert hours == pytest.approx(3 * most, rel=0.5)
    assert len({int(s.start_h // 24) for s in spans}) == 3
    lit = next(i for i in job.survey.items if not i.always_on and not i.standing and i.uses)
    assert not [s for s in load_spans(design, job.survey, left) if s.item.endswith(f".{lit.id}")]


def behind(**house: Any) -> Design:
    """A charger on the start bank, a dc-dc charger on to the house bank."""
    draft = bare_banks({"soc": 0.3, "unit_ah": 400} | house, soc=1.0)
    draft.part("charger", "charger", rated_a=60, set_v=14.4, float_v=13.6, absorption_h=0.5)
    draft.part("dcdc", "dcdc", limit_a=20, set_v=14.4)
    draft.load("panel", 2.0)
    return with_cables(draft, ("charger.out1", "engine_bank.pos"), ("charger.neg", "bar"),
                       ("engine_bank.pos", "dcdc.in"), ("dcdc.out", "house_bank.pos"),
                       ("dcdc.neg", "bar"), ("house_bank.pos", "panel.pos"),
                       ("panel.neg", "bar"))  # fmt: skip


def found_in(day: Day) -> dict[str, str]:
    lived_day = DayRun(day.design, None, day.plan, day_report(day))
    return {f.rule: f.severity for f in day_findings(lived_day)}


def test_a_source_is_judged_on_the_banks_that_it_regulates() -> None:
    day = lived(behind(), hours=3, shore=(ShoreSpan(start_h=0, end_h=3),))
    [floated] = [f for f in day_report(day).floats if f.source == "charger"]
    assert floated.bank == "engine_bank" and floated.soc > 0.95
    assert day.ended_soc["house_bank"] < 0.6 and "CH-15" not in found_in(day)


def test_a_lithium_bank_run_empty_is_a_fault() -> None:
    living = (LivingSpan(start_h=0, end_h=4, profile="living"),)
    for soc, told_as in ((0.02, "fault"), (0.6, None)):
        draft = bare_banks({"chemistry": "lfp", "unit_ah": 50})
        draft.load("panel", 2.0, law="current")
        design = with_cables(draft, ("house_bank.pos", "panel.pos"), ("panel.neg", "bar"))
        day = lived(design, living=living, soc={"house_bank": soc})
        assert found_in(day).get("BA-1") == told_as


def test_a_start_bank_that_only_the_sun_could_charge_is_told() -> None:
    for onto, told_as in (("house_bank", "caution"), ("engine_bank", None)):
        draft = bare_banks({"soc": 0.5}, soc=0.6)
        draft.part("solar", "solar", panel_w=200, set_v=14.4, float_v=13.6)
        design = with_cables(draft, ("solar.pos", f"{onto}.pos"), ("solar.neg", "bar"))
        assert found_in(lived(design, hours=24)).get("CH-7") == told_as
