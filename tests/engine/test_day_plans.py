"""Plans, schools of handling, slips and faults, findings of a day, and the command line."""

from __future__ import annotations

import csv
import io
import json
from pathlib import Path
from typing import Any

import pytest
from strom_calc.__main__ import main
from strom_engine.dayrun import (
    SCHOOLS,
    Limits,
    Plan,
    consequence,
    day_of_case,
    day_report,
    day_run,
    day_sheet,
    handling,
    kept_moments,
    outcome_of,
    parse_plan,
    plan_of,
    possible_cases,
    ranked,
    ready_plans,
    with_school,
)
from strom_engine.dayrun.plan import EngineSpan, LivingSpan, Move
from strom_engine.design import Design
from strom_engine.errors import PlanError
from strom_engine.rules import DayRun, day_findings
from strom_engine.survey import surveyed

from bench.classics import CLASSICS
from tests.engine.boats import DEMO, demo_job, relay_boat

BOATS = {c.id: c for c in CLASSICS}
SELECTOR = BOATS["left_in_both"].boats["selector left in both"]


def marsh(variant: int) -> Design:
    job = demo_job("marsh_wren.json")
    return surveyed(job.variants[variant].design, job.survey)


@pytest.mark.parametrize(
    ("raw", "told"),
    [
        ([], [("", "must be an object")]),
        ({"name": "P", "version": 9}, [("version", "written by a later one")]),
        ({"name": "P", "hours": 24 * 400}, [("hours", "400 days; the longest plan has 200")]),
        (
            {
                "name": "P",
                "engine": [{"start_h": 1, "end_h": 3}, {"start_h": 2, "end_h": 4}],
                "moves": [
                    {"at_h": 1, "switch": "selecter", "position": "1"},
                    {"at_h": 30, "switch": "selector", "position": "3"},
                ],
                "living": [{"start_h": 20, "end_h": 25, "profile": "livng"}],
                "soc": {"hose_bank": 0.5},
            },
            [
                ("engine[1]", "begins at 2 h, while engine[0] lasts until 3 h"),
                ("living[0].end_h", "25 h is after the end of the plan at 24 h"),
                ("moves[1].at_h", "30 h is after the end"),
                ("moves[0]", "there is no switch 'selecter' (did you mean 'selector'?)"),
                ("moves[1]", "'3' is not a position of Selector; known: off, 1, both, 2"),
                ("living[0].profile", "did you mean 'living'?"),
                ("soc.hose_bank", "did you mean 'house_bank'?"),
            ],
        ),
        (
            {"name": "P", "shore": [{"start_h": 3, "end_h": 3}], "engine": [{"start_h": -1}]},
            [
                ("shore[0]", "not after it begins"),
                ("engine[0].start_h", ""),
                ("engine[0].end_h", ""),
            ],
        ),
    ],
)
def test_a_bad_plan_is_told_of_in_full(raw: Any, told: list[tuple[str, str]]) -> None:
    with pytest.raises(PlanError) as caught:
        parse_plan(raw, SELECTOR())
    found = [(p.path, p.message) for p in caught.value.problems]
    assert len(found) == len(told)
    for (path, message), (at, words) in zip(sorted(found), sorted(told), strict=True):
        assert path == at and words in message


def turned(plan: Plan) -> list[tuple[float, str, str]]:
    return [(round(m.at_h, 2), m.switch, m.position) for m in plan.moves]


def test_schools_on_a_selector() -> None:
    design = SELECTOR()
    plan = Plan(
        name="P",
        hours=24,
        engine=(EngineSpan(start_h=2, end_h=3), EngineSpan(start_h=10, end_h=11)),
        living=(LivingSpan(start_h=1, end_h=12, profile="living"),),
    )
    # Position 1 takes the engine bank, 2 the house bank, by the cables.
    assert turned(with_school(plan, design, "a")) == [
        (0, "selector", "off"), (1, "selector", "2"), (2, "selector", "both"),
        (3.02, "selector", "2"), (10, "selector", "both"), (11.02, "selector", "2"),
        (12, "selector", "off"),
    ]  # fmt: skip
    assert turned(with_school(plan, design, "b")) == [
        (0, "selector", "off"), (1, "selector", "2"),
        (10, "selector", "1"), (12, "selector", "off"),
    ]  # fmt: skip
    assert with_school(plan, design, "b").emergency == {"selector": "both"}
    assert handling(design, "c").why_not == "nothing aboard shares charge by itself"
    assert "no switches of their own" in str(handling(design, "d").why_not)
    assert turned(with_school(plan, design, "as_drawn"))[0] == (0, "selector", "2")


def test_schools_on_a_dual_switch() -> None:
    design = marsh(1)
    assert [s.id for s in SCHOOLS if handling(design, s.id).why_not is None] == [
        "a", "c", "d", "as_drawn",
    ]  # fmt: skip
    way = handling(design, "a")
    assert (way.rest["main_switch"], way.run["main_switch"]) == ("on", "combine")
    assert handling(design, "d").emergency["main_switch"] == "combine"


@pytest.mark.parametrize("variant", [0, 1, 2])
def test_ready_plans_fit_every_variant_and_every_school(variant: int) -> None:
    design = marsh(variant)
    assert [r.id for r in ready_plans(design)] == [
        "day_trip", "weekend", "passage", "alongside", "winter",
    ]  # fmt: skip
    for ready in ready_plans(design):
        for school in SCHOOLS:
            plan = with_school(ready.plan, design, school.id)
            assert parse_plan(plan.model_dump(mode="json"), design) == plan


def test_slips_leave_out_delay_and_turn_the_wrong_way() -> None:
    design = SELECTOR()
    plan = Plan(
        name="P",
        hours=6,
        moves=(
            Move(at_h=1, switch="selector", position="both"),
            Move(at_h=3, switch="selector", position="2"),
        ),
    )
    cases = {c.key: c for c in possible_cases(design, None, plan) if c.kind != "fault"}
    # From 2 to both: wrong to 1 or off, or past off; from both to 2: the same.
    assert set(cases) == {
        "omitted 0", "delayed 0", "wrong 0 1", "wrong 0 off", "through 0 off",
        "omitted 1", "delayed 1", "wrong 1 1", "wrong 1 off", "through 1 off",
    }  # fmt: skip
    assert turned(plan_of(plan, cases["omitted 0"])) == [(3, "selector", "2")]
    assert turned(plan_of(plan, cases["delayed 0"]))[0] == (2, "selector", "both")  # half of 2 h
    assert plan_of(plan, cases["through 1 off"]).moves[1].through == "off"
    assert turned(plan_of(plan, cases["wrong 1 off"]))[1] == (3, "selector", "off")
    # A switch turned off instead of on stays off; one that stands right needs no turning.
    switches = Plan(
        name="P",
        hours=6,
        moves=(
            Move(at_h=1, switch="house_switch", position="on"),
            Move(at_h=2, switch="house_switch", position="off"),
            Move(at_h=3, switch="house_switch", position="on"),
        ),
    )
    boat = relay_boat().design()
    found = {c.key: c for c in possible_cases(boat, None, switches) if c.kind != "fault"}
    assert set(found) == {
        "wrong 0 off", "omitted 1", "delayed 1", "omitted 2", "delayed 2",
    }  # fmt: skip
    assert turned(plan_of(switches, found["wrong 0 off"]))[0] == (1, "house_switch", "off")
    assert turned(plan_of(plan, cases["wrong 0 1"]))[0] == (1, "selector", "1")


def test_consequences_are_ranked_against_the_day_as_planned() -> None:
    one = BOATS["left_in_both"]
    design, last = SELECTOR(), 48.0
    plan = Plan(
        name="P",
        hours=50,
        engine=one.plan.engine,
        living=one.plan.living,
        moves=(
            Move(at_h=0.4, switch="selector", position="both"),
            Move(at_h=1.0, switch="selector", position="1"),
            Move(at_h=1.6, switch="selector", position="2"),
            Move(at_h=last - 0.1, switch="selector", position="1"),
        ),
    )
    planned = outcome_of(day_run(design, None, plan))
    assert planned.starts == planned.started == 2 and not planned.stranded
    cases = {c.key: c for c in possible_cases(design, None, plan)}
    found = {
        key: consequence(design, planned, outcome_of(day_of_case(design, None, plan, cases[key])))
        for key in ("omitted 2", "through 1 off", "negative_open engine_bank", "delayed 0")
    }
    # Left on the engine bank, the loads drain it; through off with the engine running is a dump.
    assert found["omitted 2"].rank == "stranded" and "does not start" in found["omitted 2"].story
    dump = found["through 1 off"]
    assert dump.rank == "hazard" and "load dump" in dump.story
    # With its negative loose the engine bank takes nothing: turned to it, the alternator is alone.
    assert found["negative_open engine_bank"].rank == "hazard"
    assert found["delayed 0"].rank == "none"
    order = [case.key for case, _ in ranked((cases[k], c) for k, c in found.items())]
    assert order[2:] == ["omitted 2", "delayed 0"]


def test_a_brief_day_comes_to_the_same() -> None:
    one = BOATS["chatter"]
    design = one.boats["charger on the engine bank"]()
    whole, brief = (
        outcome_of(day_run(design, None, one.plan, limits=Limits(brief=b))) for b in (False, True)
    )
    assert whole == brief and whole.relay_closures > 100


def found_in(classic: str, boat: str) -> dict[str, str]:
    one = BOATS[classic]
    day = day_run(one.boats[boat](), None, one.plan)
    report = day_report(day)
    return {f.rule: f.severity for f in day_findings(DayRun(day.design, None, one.plan, report))}


@pytest.mark.parametrize(
    ("classic", "bad", "good", "rule", "severity"),
    [
        ("chatter", 0, 1, "CH-5", "fault"),
        ("stuck_relay", 0, None, "CH-13", "fault"),
        ("stuck_relay", 0, 1, "CH-1", "danger"),
        ("early_float", 0, 1, "CH-15", "fault"),
        ("hot_alternator", 0, 1, "CH-9", "fault"),
        ("load_dump", 0, 1, "SW-4", "danger"),
        ("left_in_both", 0, None, "BA-2", "danger"),
        ("early_float", 0, None, "CH-7", "caution"),
    ],
)
def test_findings_of_a_day(
    classic: str, bad: int, good: int | None, rule: str, severity: str
) -> None:
    boats = list(BOATS[classic].boats)
    assert found_in(classic, boats[bad])[rule] == severity
    if good is not None:
        assert rule not in found_in(classic, boats[good])


def test_the_chatter_of_a_day_offers_to_move_the_lead_and_wear_is_told_in_years() -> None:
    one = BOATS["chatter"]
    day = day_run(one.boats["charger on the engine bank"](), None, one.plan)
    lived = DayRun(day.design, None, one.plan, day_report(day))
    chatter = next(f for f in day_findings(lived) if f.rule == "CH-5")
    assert chatter.change is not None and "house_bank" in str(chatter.change)
    # A flat house bank makes a relay chatter with no weak source to move.
    job = demo_job("pilot_3.json")
    turned = surveyed(job.variants[1].design, job.survey)
    plan = next(r.plan for r in ready_plans(turned) if r.id == "weekend")
    plan = with_school(plan, turned, "c")
    lived = DayRun(turned, job.survey, plan, day_report(day_run(turned, job.survey, plan)))
    chatter = next(f for f in day_findings(lived) if f.rule == "CH-5")
    assert chatter.change is None and "No weak source" in chatter.repair
    # A hundred such days a year down to 15 %: some hundreds of cycles are soon over.
    design = surveyed(job.variants[0].design, job.survey)
    plan = next(r.plan for r in ready_plans(design) if r.id == "day_trip")
    plan = with_school(plan, design, "c").model_copy(update={"soc": {"house_bank": 0.35}})
    lived = DayRun(design, job.survey, plan, day_report(day_run(design, None, plan)))
    [wear] = [f for f in day_findings(lived) if f.rule == "BA-8"]
    assert wear.parts == ("house_bank",) and "years used like this" in wear.title
    assert "170 times a year" in wear.arithmetic[0]


def test_a_sheet_keeps_every_jump_and_extreme() -> None:
    one = BOATS["chatter"]
    day = day_run(one.boats["charger on the engine bank"](), None, one.plan)
    sheet, moments = day_sheet(day, 400), kept_moments(day, 400)
    assert len(sheet.series.at_s) < 0.6 * len(day.recording.at_s)
    assert moments.at_s == sheet.series.at_s
    for bank, column in day.recording.volts_v.items():
        assert min(sheet.series.volts_v[bank]) == pytest.approx(min(column), abs=1e-3)
        assert max(sheet.series.volts_v[bank]) == pytest.approx(max(column), abs=1e-3)
    strip = next(s for s in sheet.strips if s.kind == "relay")
    # What was followed stands in the strip, what was counted on as one piece that says so.
    followed = sum(p.state == "closed" for p in strip.pieces)
    counted = sum(e.rounds for e in day.events if e.part == "relay")
    assert followed + counted == day_report(day).relays[0].closures
    assert all(p.end_s - p.start_s > 3 * 60 for p in strip.pieces if p.state == "opens and closes")
    given = sum(f.charge_ah for f in sheet.flows if f.start == "charger")
    assert given == pytest.approx(day.ledger.given["charger"].charge_ah, rel=1e-3)
    loads = [f for f in sheet.flows if "loads" in (f.start, f.end)]
    into = sum(f.charge_ah for f in loads if f.end == "loads")
    assert into == pytest.approx(sum(f.charge_ah for f in loads if f.start == "loads"), rel=0.02)


def test_calc_day(capsys: pytest.CaptureFixture[str], tmp_path: Path) -> None:
    job = str(DEMO / "marsh_wren.json")
    base = ["day", job, "--variant", "Proposal A"]
    assert main([*base, "--plan", "day_trip", "--school", "c"]) == 0
    told = json.loads(capsys.readouterr().out)
    assert told["sheet"]["report"]["stranded"] is False and told["sheet"]["events"]
    path = tmp_path / "plan.json"
    path.write_text(json.dumps({"name": "Mine", "hours": 2}))
    assert main([*base, "--plan", str(path), "--csv"]) == 0
    rows = list(csv.reader(io.StringIO(capsys.readouterr().out)))
    assert rows[0][:3] == ["time [h]", "clock", "Engine bank: state of charge [-]"]
    assert float(rows[-1][0]) == pytest.approx(2.0)
    path.write_text(
        '{"name": "Mine", "hours": 9600, "moves": [{"at_h": 1, "switch": "x", "position": "1"}]}'
    )
    assert main([*base, "--plan", str(path)]) == 2
    errors = capsys.readouterr().err
    assert "hours: 400 days" in errors and "moves[0]: there is no switch 'x'" in errors
    assert main([*base, "--plan", "nonsuch"]) == 2 and "ready plans" in capsys.readouterr().err
    assert main([*base, "--plan", "weekend", "--school", "z"]) == 2
