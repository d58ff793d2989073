"""Gear in time: delays, stages, protections, fuses, starts."""

from __future__ import annotations

from collections.abc import Callable
from typing import Any

import pytest
from strom_engine.dayrun import Day, Plan, day_report, day_run
from strom_engine.dayrun.plan import (
    EngineSpan,
    LivingSpan,
    Move,
    ShoreSpan,
    TemperatureSpan,
)
from strom_engine.design import Alternator, Design
from strom_engine.faults import effects_of, possible_faults
from strom_engine.reference import load_table

from bench.classics import CLASSICS
from tests.engine.boats import bare_banks, demo_job, told, twin_engines, with_cables


def _dcdc() -> Design:
    draft = bare_banks()
    draft.part("alternator", "alternator", rated_a=80, set_v=14.3)
    draft.part(
        "dcdc", "dcdc", limit_a=25, set_v=14.2, float_v=13.5, absorption_until="tail", tail_a=6
    )
    return with_cables(draft, ("alternator.out", "engine_bank.pos"), ("alternator.neg", "bar"),
                       ("engine_bank.pos", "dcdc.in"), ("dcdc.out", "house_bank.pos"),
                       ("dcdc.neg", "bar"))  # fmt: skip


def _protected() -> Design:
    draft = bare_banks({"chemistry": "lfp", "unit_ah": 100, "soc": 0.9})
    draft.part("protection", "protection", guards="house_bank", high_v=14.0)
    draft.part("charger", "charger", rated_a=40, set_v=14.6, float_v=13.6)
    draft.load("panel", 2.0)
    return with_cables(draft, ("house_bank.pos", "protection.bank"),
                       ("protection.system", "charger.out1"), ("charger.neg", "bar"),
                       ("protection.system", "panel.pos"), ("panel.neg", "bar"))  # fmt: skip


def _flat_inverter() -> Design:
    draft = bare_banks({"unit_ah": 60, "soc": 0.4})
    items = [{"id": "heater", "name": "Heater", "power_w": 500, "profiles": ["living"]}]
    draft.part("inverter", "inverter", rated_w=1200, cut_out_v=11.0, items=items)
    return with_cables(draft, ("house_bank.pos", "inverter.pos"), ("inverter.neg", "bar"))


def _thin_fuse() -> Design:
    draft = bare_banks()
    draft.part("fuse", "fuse", rating_a=10)
    draft.load("panel", 17.0, law="current")
    return with_cables(
        draft, ("house_bank.pos", "fuse.a"), ("fuse.b", "panel.pos"), ("panel.neg", "bar")
    )


def _held() -> Design:
    draft = bare_banks({"unit_ah": 40, "soc": 0.2})
    draft.part("switch", "remote", drive="held", position="on")
    draft.load("panel", 12.0, law="current")
    return with_cables(draft, ("house_bank.pos", "remote.a"), ("remote.b", "panel.pos"),
                       ("panel.neg", "bar"), ("house_bank.pos", "remote.ctrl_pos"),
                       ("remote.ctrl_neg", "bar"))  # fmt: skip


def _topper() -> Design:
    draft = bare_banks(soc=0.7)
    draft.part("solar", "solar", panel_w=300, set_v=14.2)
    draft.part("one_way", "topper", limit_a=15)
    return with_cables(draft, ("solar.pos", "house_bank.pos"), ("solar.neg", "bar"),
                       ("house_bank.pos", "topper.in"), ("topper.out", "engine_bank.pos"),
                       ("topper.neg", "bar"))  # fmt: skip


LIVING_10H = (LivingSpan(start_h=0, end_h=10, profile="living"),)
GEAR: tuple[tuple[str, Callable[[], Design], dict[str, Any], list[tuple[str, str]]], ...] = (
    ("dc-dc charger", _dcdc, {"engine": (EngineSpan(start_h=0.1, end_h=9.5),)},
     [("dcdc", "closed"), ("dcdc", "absorption"), ("dcdc", "float")]),
    ("protection", _protected, {"shore": (ShoreSpan(start_h=0, end_h=10),)},
     [("protection", "open"), ("panel", "low")]),
    ("inverter", _flat_inverter, {}, [("inverter", "open")]),
    ("fuse", _thin_fuse, {}, [("fuse", "open"), ("panel", "low")]),
    ("held switch", _held, {}, [("panel", "low"), ("remote", "open")]),
    ("one-way combiner", _topper, {"clock_h": 5.0}, [("topper", "closed")]),
)  # fmt: skip


@pytest.mark.parametrize(("name", "boat", "fields", "wanted"), GEAR, ids=lambda v: str(v)[:20])
def test_gear_answers_in_time(
    name: str, boat: Callable[[], Design], fields: dict[str, Any], wanted: list[tuple[str, str]]
) -> None:
    plan = Plan.model_validate({"name": name, "hours": 10, "living": LIVING_10H} | fields)
    day = day_run(boat(), None, plan)
    seen = list(dict.fromkeys((e.part, e.to) for e in day.events))
    at = [seen.index(one) for one in wanted]
    assert at == sorted(at), seen
    assert day.ledger.residual < 1e-3


def test_a_dcdc_charger_keeps_to_its_limit_and_its_stages() -> None:
    plan = Plan(name="P", hours=10, engine=(EngineSpan(start_h=0.1, end_h=9.5),))
    day = day_run(_dcdc(), None, plan)
    assert max(day.recording.source_a["dcdc"]) == pytest.approx(25, abs=0.01)
    tail = next(e for e in day.events if e.to == "float")
    i = next(n for n, t in enumerate(day.recording.at_s) if t >= tail.at_s)
    assert day.recording.source_a["dcdc"][i - 1] == pytest.approx(6, abs=0.7)
    assert tail.charges == ("house_bank",) and day_report(day).floats[0].soc > 0.8


def test_the_cold_of_a_plan_stiffens_the_banks_and_lithium_is_not_charged_in_it() -> None:
    one = next(c for c in CLASSICS if c.id == "inrush")
    cold = (TemperatureSpan(start_h=0, end_h=2, temperature_c=-10),)
    mild = day_report(day_run(one.boats["half-empty house bank"](), None, one.plan))
    warm = mild.starts[0].volts_v
    report = day_report(
        day_run(
            one.boats["half-empty house bank"](),
            None,
            one.plan.model_copy(update={"temperature": cold}),
        )
    )
    assert report.starts[0].volts_v < warm - 0.2  # type: ignore[operator]
    frozen = _protected()
    half = tuple(
        p.model_copy(update={"soc": 0.5}) if p.id == "house_bank" else p for p in frozen.components
    )
    plan = Plan(name="P", hours=2, shore=(ShoreSpan(start_h=0, end_h=2),))
    # At 20 degC it takes 40 A; as cold as the plan says the protection lets nothing in.
    warm_day = day_run(frozen.replace_unchecked(components=half), None, plan)
    assert warm_day.ledger.banks["house_bank"].in_ah > 40
    icy = (TemperatureSpan(start_h=0, end_h=2, temperature_c=-5),)
    cold_plan = plan.model_copy(update={"temperature": icy})
    day = day_run(frozen.replace_unchecked(components=half), None, cold_plan)
    assert any(e.part == "protection" and "charge at -5" in e.words for e in day.events)
    assert day.ledger.banks["house_bank"].in_ah < 0.5


def _relay_boat(engine: dict[str, Any] | None = None, **fields: Any) -> Design:
    draft = bare_banks({"soc": 0.9}, **(engine or {}))
    plain = {"cut_in_v": 13.3, "cut_in_s": 60, "cut_out_v": 12.75, "cut_out_s": 30}
    draft.part("relay", "relay", **(plain | fields))
    draft.part("alternator", "alternator", rated_a=80, set_v=14.3)
    draft.part("starter", "starter", cranking_a=250)
    return with_cables(draft, ("engine_bank.pos", "relay.a"), ("relay.b", "house_bank.pos"),
                       ("relay.neg", "bar"), ("alternator.out", "engine_bank.pos"),
                       ("alternator.neg", "bar"), ("starter.pos", "engine_bank.pos"),
                       ("starter.neg", "bar"))  # fmt: skip


RUN = (EngineSpan(start_h=0.5, end_h=1.5, rpm=2000),)


def relay_day(**fields: Any) -> Day:
    return day_run(_relay_boat(**fields), None, Plan(name="P", hours=3, engine=RUN))


def test_a_relay_closes_by_its_delay_after_the_start_and_not_before() -> None:
    # The engine runs after 3 s of cranking at 30 min; the bank rises for some seconds, and 60 s
    # of delay follow: 31.05 min and a little.
    assert told(relay_day(), "relay")[0] == (pytest.approx(31.15, abs=0.11), "closed")
    assert told(relay_day(cut_in_s=300), "relay")[0] == (pytest.approx(35.15, abs=0.11), "closed")
    # Looking at the house side alone it sees nothing of the alternator.
    assert told(relay_day(sensing="b"), "relay") == []
    # With an ignition wire it lets go the moment the engine stops, at 90 min.
    assert told(relay_day(ignition=True), "relay")[1] == (90.0, "open")


def test_a_relay_is_locked_out_above_its_highest_voltage() -> None:
    # A full engine bank stands above 13.7 V before the delay is over: open for the whole run,
    # and closed a minute after what is left of charging has sunk below.
    day = relay_day(cut_in_s=120, lock_high_v=13.7)
    engine = list(zip(day.recording.at_s, day.recording.volts_v["engine_bank"], strict=True))
    sunk_s = next(t for t, volts in engine if t > 90 * 60 and volts < 13.7)
    still_s = max(t for t, volts in engine if t < sunk_s)
    at_min, to = told(day, "relay")[0]
    assert to == "closed" and still_s / 60 + 1.9 <= at_min <= sunk_s / 60 + 2.1
    # A large one half empty holds the voltage down: it closes first, and opens again.
    plan = Plan(name="P", hours=10, engine=(EngineSpan(start_h=0.5, end_h=9, rpm=2000),))
    low = day_run(_relay_boat({"unit_ah": 300, "soc": 0.7}, lock_high_v=13.7), None, plan)
    (closed, _), (opened, what) = told(low, "relay")[:2]
    assert 31.05 < closed < 40 and what == "open"
    # Its post is the higher end of a cable that carries the charge: a little above the bank.
    at = next(n for n, t in enumerate(low.recording.at_s) if t >= opened * 60)
    assert 13.6 < low.recording.volts_v["engine_bank"][at - 1] < 13.7


def test_a_relay_that_gives_way_to_the_starter_is_open_while_it_cranks() -> None:
    plan = Plan(name="P", hours=2, engine=(*RUN, EngineSpan(start_h=1.55, end_h=1.9, rpm=2000)))
    together = day_run(_relay_boat(), None, plan)
    apart = day_run(_relay_boat(start_isolation=True), None, plan)
    # Still closed by surface charge three minutes after the stop, it lends the house bank.
    assert together.tries[1].banks == ("engine_bank", "house_bank")
    assert apart.tries[1].banks == ("engine_bank",)
    assert together.tries[1].volts_v > apart.tries[1].volts_v + 0.2  # type: ignore[operator]


def test_a_sensing_post_on_the_wrong_bank_never_shares_the_charge() -> None:
    job = demo_job("pilot_3.json")
    closures = {}
    for variant in job.variants:
        plan = Plan(name="P", hours=4, engine=(EngineSpan(start_h=0.5, end_h=3, rpm=3000),))
        plan = plan.model_copy(update={"moves": (Move(at_h=0, switch="selector", position="1"),)})
        day = day_run(variant.design, job.survey, plan)
        closures[variant.name] = day_report(day).relays[0].closures
        charged = {b.bank: b.was_charged for b in day_report(day).banks}
        assert charged["house_bank"] == (variant.name != "As found")
    assert closures["As found"] == 0 and closures["Relay turned round"] >= 1


def _lithium(**fields: Any) -> Design:
    draft = bare_banks({"chemistry": "lfp", "unit_ah": 100, "soc": 0.12})
    draft.part("protection", "protection", guards="house_bank", **fields)
    draft.part("charger", "charger", rated_a=30, set_v=14.2, float_v=13.5)
    draft.load("panel", 20.0, law="current")
    return with_cables(draft, ("house_bank.pos", "protection.bank"),
                       ("protection.system", "panel.pos"), ("panel.neg", "bar"),
                       ("protection.system", "charger.out1"), ("charger.neg", "bar"))  # fmt: skip


def test_a_protection_opens_on_low_volts_and_a_charger_wakes_it() -> None:
    plan = Plan(
        name="P",
        hours=6,
        living=(LivingSpan(start_h=0, end_h=3, profile="living"),),
        shore=(ShoreSpan(start_h=4, end_h=6),),
    )
    day = day_run(_lithium(low_v=11.5), None, plan)
    opened, closed = told(day, "protection")
    assert opened[1] == "open" and opened[0] < 120
    # Half a minute after the shore lead goes in, at 240 min.
    assert closed == (240.5, "closed")
    assert day.ended_soc["house_bank"] > 0.4
    assert day.tallies.dead_h["panel.i0"] == pytest.approx(3 - opened[0] / 60, abs=0.01)


def test_a_protection_opens_on_too_much_current() -> None:
    plan = Plan(name="P", hours=0.2, living=(LivingSpan(start_h=0, end_h=0.2, profile="living"),))
    first = told(day_run(_lithium(discharge_limit_a=15), None, plan), "protection")[0]
    assert first == (0.03, "open")  # two seconds of 20 A
    assert told(day_run(_lithium(discharge_limit_a=25), None, plan), "protection") == []


def test_a_breaker_trips_and_a_fuse_block_loses_one_branch() -> None:
    draft = bare_banks()
    draft.part("breaker", "breaker", rating_a=10)
    draft.part("fuse_block", "block", branch_a=[10, 40])
    for n, amps in enumerate((16.0, 16.0, 16.0)):
        draft.load(f"panel_{n}", amps, law="current")
        draft.cable(f"panel_{n}.neg", f"bar.s{n + 10}")
    design = with_cables(draft, ("house_bank.pos", "breaker.a"), ("breaker.b", "panel_0.pos"),
                         ("house_bank.pos", "block.in"), ("block.b1", "panel_1.pos"),
                         ("block.b2", "panel_2.pos"))  # fmt: skip
    plan = Plan(name="P", hours=1, living=(LivingSpan(start_h=0, end_h=1, profile="living"),))
    day = day_run(design, None, plan)
    # 1.6 times the rating: 20 s by the table of shortest opening times.
    table = load_table("opening_time")
    assert table.lookup("multiple", "shortest_s", 1.6) == 20
    opened = [(e.part, round(e.at_s), e.words) for e in day.events if e.kind == "fuse"]
    assert sorted(opened) == [
        ("block", 20, "Block opens: 16 A"), ("breaker", 20, "Breaker opens: 16 A"),
    ]  # fmt: skip
    served = {name: day.tallies.dead_h.get(f"{name}.i0", 0.0) for name in
              ("panel_0", "panel_1", "panel_2")}  # fmt: skip
    assert served["panel_2"] == 0 and min(served["panel_0"], served["panel_1"]) > 0.99


def test_a_selector_that_breaks_before_it_makes_drops_the_load() -> None:
    one = next(c for c in CLASSICS if c.id == "load_dump")
    from_bench = one.boats["no field contact"]()
    turned = (Move(at_h=0.5, switch="selector", position="1"),)
    plan = one.plan.model_copy(update={"moves": turned})
    kinds = []
    for makes in (True, False):
        parts = tuple(
            p.model_copy(update={"make_before_break": makes}) if p.id == "selector" else p
            for p in from_bench.components
        )
        report = day_report(day_run(from_bench.replace_unchecked(components=parts), None, plan))
        kinds.append([h.kind for h in report.hazards])
    # From 2 straight to 1: only the one that breaks first leaves the alternator alone.
    assert kinds == [[], ["load_dump"]]


def test_both_engines_are_started_one_after_the_other() -> None:
    plan = Plan(name="P", hours=1, engine=(EngineSpan(start_h=0.1, end_h=0.8, rpm=2000),))
    day = day_run(twin_engines(), None, plan)
    assert [(t.engine, t.started) for t in day.tries] == [("first", True), ("second", True)]
    assert day.tries[1].at_s - day.tries[0].at_s == pytest.approx(plan.crank_s + 1.0)
    words = [e.words for e in day.events if e.kind in ("start", "engine")]
    assert [w.split(":")[0] for w in words if w.startswith("Second")] == [
        "Second engine starts",
        "Second engine runs",
        "Second engine stopped",
    ]
    assert sum(w.startswith("First engine") for w in words) == 3
    assert all(max(day.recording.source_a[a.id]) > 5 for a in day.design.of_type(Alternator))
    alone = plan.model_copy(
        update={"engine": (plan.engine[0].model_copy(update={"engine": "second"}),)}
    )
    assert [t.engine for t in day_run(twin_engines(), None, alone).tries] == ["second"]


def test_an_alternator_that_fades_is_fine_cold() -> None:
    design = _relay_boat()
    fading = next(f for f in possible_faults(design) if f.kind == "source_fading")
    plan = Plan(name="P", hours=2, engine=(EngineSpan(start_h=0.1, end_h=1.9, rpm=2200),),
                soc={"house_bank": 0.2})  # fmt: skip
    well, ill = day_run(design, None, plan), day_run(design, None, plan, effects_of(design, fading))
    at_first, later = 60 * 6 + 60, 60 * 100

    def given(day: Day, at_s: float) -> float:
        i = next(n for n, t in enumerate(day.recording.at_s) if t >= at_s)
        return day.recording.source_a["alternator"][i]

    assert given(ill, at_first) > 0.7 * given(well, at_first)
    assert given(ill, later) < 0.7 * given(well, later)
