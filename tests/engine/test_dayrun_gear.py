"""Gear in time: delays, stages, protections, fuses, starts, sun, wind, heat and leaks."""

from __future__ import annotations

from collections.abc import Callable
from typing import Any

import pytest
from strom_engine.batteries import living_bank
from strom_engine.dayrun import Day, Plan, day_report, day_run, faulty, possible_faults
from strom_engine.dayrun.heat import heat_share, settles_c, warmer
from strom_engine.dayrun.plan import (
    EngineSpan,
    LivingSpan,
    Move,
    ShoreSpan,
    SkySpan,
    TemperatureSpan,
    WindSpan,
)
from strom_engine.design import Alternator, Bank, Design
from strom_engine.reference import load_table
from strom_engine.sizing.solar import horizontal_irradiation_kwh
from strom_engine.survey import Boat, Survey

from bench.classics import CLASSICS
from bench.designs import Draft
from tests.engine.boats import demo_job, twin_engines


def _boat(house: dict[str, Any] | None = None, **engine: Any) -> Draft:
    draft = Draft()
    draft.bank(
        "engine_bank",
        **({"role": "engine", "unit_ah": 90, "unit_cca_a": 700, "soc": 0.95} | engine),
    )
    draft.bank("house_bank", **({"unit_ah": 200, "soc": 0.6} | (house or {})))
    draft.part("bus_bar", "bar", polarity="neg", studs=24)
    for n, bank in enumerate(("engine_bank", "house_bank")):
        draft.cable(f"{bank}.neg", f"bar.s{n + 1}")
    return draft


def _join(draft: Draft, *pairs: tuple[str, str]) -> Design:
    for n, (start, end) in enumerate(pairs):
        draft.cable(start, f"bar.s{n + 5}" if end == "bar" else end, "2 AWG", 1.0)
    return draft.design()


def _dcdc() -> Design:
    draft = _boat()
    draft.part("alternator", "alternator", rated_a=80, set_v=14.3)
    draft.part(
        "dcdc", "dcdc", limit_a=25, set_v=14.2, float_v=13.5, absorption_until="tail", tail_a=6
    )
    return _join(draft, ("alternator.out", "engine_bank.pos"), ("alternator.neg", "bar"),
                 ("engine_bank.pos", "dcdc.in"), ("dcdc.out", "house_bank.pos"),
                 ("dcdc.neg", "bar"))  # fmt: skip


def _protected() -> Design:
    draft = _boat({"chemistry": "lfp", "unit_ah": 100, "soc": 0.9})
    draft.part("protection", "protection", guards="house_bank", high_v=14.0)
    draft.part("charger", "charger", rated_a=40, set_v=14.6, float_v=13.6)
    draft.load("panel", 2.0)
    return _join(draft, ("house_bank.pos", "protection.bank"),
                 ("protection.system", "charger.out1"), ("charger.neg", "bar"),
                 ("protection.system", "panel.pos"), ("panel.neg", "bar"))  # fmt: skip


def _flat_inverter() -> Design:
    draft = _boat({"unit_ah": 60, "soc": 0.4})
    items = [{"id": "heater", "name": "Heater", "power_w": 500, "profiles": ["living"]}]
    draft.part("inverter", "inverter", rated_w=1200, cut_out_v=11.0, items=items)
    return _join(draft, ("house_bank.pos", "inverter.pos"), ("inverter.neg", "bar"))


def _thin_fuse() -> Design:
    draft = _boat()
    draft.part("fuse", "fuse", rating_a=10)
    draft.load("panel", 17.0, law="current")
    return _join(draft, ("house_bank.pos", "fuse.a"), ("fuse.b", "panel.pos"), ("panel.neg", "bar"))


def _held() -> Design:
    draft = _boat({"unit_ah": 40, "soc": 0.2})
    draft.part("switch", "remote", drive="held", position="on")
    draft.load("panel", 12.0, law="current")
    return _join(draft, ("house_bank.pos", "remote.a"), ("remote.b", "panel.pos"),
                 ("panel.neg", "bar"), ("house_bank.pos", "remote.ctrl_pos"),
                 ("remote.ctrl_neg", "bar"))  # fmt: skip


def _topper() -> Design:
    draft = _boat(soc=0.7)
    draft.part("solar", "solar", panel_w=300, set_v=14.2)
    draft.part("one_way", "topper", limit_a=15)
    return _join(draft, ("solar.pos", "house_bank.pos"), ("solar.neg", "bar"),
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
    warm_day = day_run(frozen.having(components=half), None, plan)
    assert warm_day.ledger.banks["house_bank"].in_ah > 40
    icy = (TemperatureSpan(start_h=0, end_h=2, temperature_c=-5),)
    cold_plan = plan.model_copy(update={"temperature": icy})
    day = day_run(frozen.having(components=half), None, cold_plan)
    assert any(e.part == "protection" and "charge at -5" in e.words for e in day.events)
    assert day.ledger.banks["house_bank"].in_ah < 0.5


def told(day: Day, part: str) -> list[tuple[float, str]]:
    """When [min] a part did what."""
    return [(round(e.at_s / 60, 2), e.to) for e in day.events if e.part == part]


def _relay_boat(engine: dict[str, Any] | None = None, **fields: Any) -> Design:
    draft = _boat({"soc": 0.9}, **(engine or {}))
    plain = {"cut_in_v": 13.3, "cut_in_s": 60, "cut_out_v": 12.75, "cut_out_s": 30}
    draft.part("relay", "relay", **(plain | fields))
    draft.part("alternator", "alternator", rated_a=80, set_v=14.3)
    draft.part("starter", "starter", cranking_a=250)
    return _join(draft, ("engine_bank.pos", "relay.a"), ("relay.b", "house_bank.pos"),
                 ("relay.neg", "bar"), ("alternator.out", "engine_bank.pos"),
                 ("alternator.neg", "bar"), ("starter.pos", "engine_bank.pos"),
                 ("starter.neg", "bar"))  # fmt: skip


RUN = (EngineSpan(start_h=0.5, end_h=1.5, rpm=2000),)


def relay_day(**fields: Any) -> Day:
    return day_run(_relay_boat(**fields), None, Plan(name="P", hours=3, engine=RUN))


def test_a_relay_closes_by_its_delay_after_the_start_and_not_before() -> None:
    # The engine runs after 3 s of cranking at 30 min; 60 s of delay: 31.05 min.
    assert told(relay_day(), "relay")[0] == (31.05, "closed")
    assert told(relay_day(cut_in_s=300), "relay")[0] == (35.05, "closed")
    # Looking at the house side alone it sees nothing of the alternator.
    assert told(relay_day(sensing="b"), "relay") == []
    # With an ignition wire it lets go the moment the engine stops, at 90 min.
    assert told(relay_day(ignition=True), "relay")[1] == (90.0, "open")


def test_a_relay_is_locked_out_above_its_highest_voltage() -> None:
    # A full engine bank stands above 13.7 V before the delay is over: open for the whole run,
    # and closed a minute after the surface charge has sunk below.
    day = relay_day(lock_high_v=13.7)
    engine = zip(day.recording.at_s, day.recording.volts_v["engine_bank"], strict=True)
    sunk_s = next(t for t, volts in engine if t > 90 * 60 and volts < 13.7)
    assert told(day, "relay")[0] == (pytest.approx(sunk_s / 60 + 1, abs=0.5), "closed")
    # A large one half empty holds the voltage down: it closes first, and opens again.
    plan = Plan(name="P", hours=10, engine=(EngineSpan(start_h=0.5, end_h=9, rpm=2000),))
    low = day_run(_relay_boat({"unit_ah": 300, "soc": 0.5}, lock_high_v=13.7), None, plan)
    (closed, _), (opened, what) = told(low, "relay")[:2]
    assert closed == 31.05 and what == "open"
    # Its post is the higher end of a cable that carries the charge: a little above the bank.
    at = next(n for n, t in enumerate(low.recording.at_s) if t >= opened * 60)
    assert 13.6 < low.recording.volts_v["engine_bank"][at - 1] < 13.7


def test_a_relay_that_gives_way_to_the_starter_is_open_while_it_cranks() -> None:
    plan = Plan(name="P", hours=2, engine=(*RUN, EngineSpan(start_h=1.55, end_h=1.9, rpm=2000)))
    joined = day_run(_relay_boat(), None, plan)
    apart = day_run(_relay_boat(start_isolation=True), None, plan)
    # Still closed by surface charge three minutes after the stop, it lends the house bank.
    assert joined.tries[1].banks == ("engine_bank", "house_bank")
    assert apart.tries[1].banks == ("engine_bank",)
    assert joined.tries[1].volts_v > apart.tries[1].volts_v + 0.2  # type: ignore[operator]


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
    draft = _boat({"chemistry": "lfp", "unit_ah": 100, "soc": 0.12})
    draft.part("protection", "protection", guards="house_bank", **fields)
    draft.part("charger", "charger", rated_a=30, set_v=14.2, float_v=13.5)
    draft.load("panel", 20.0, law="current")
    return _join(draft, ("house_bank.pos", "protection.bank"), ("protection.system", "panel.pos"),
                 ("panel.neg", "bar"), ("protection.system", "charger.out1"),
                 ("charger.neg", "bar"))  # fmt: skip


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
    draft = _boat()
    draft.part("breaker", "breaker", rating_a=10)
    draft.part("fuse_block", "block", branch_a=[10, 40])
    for n, amps in enumerate((16.0, 16.0, 16.0)):
        draft.load(f"panel_{n}", amps, law="current")
        draft.cable(f"panel_{n}.neg", f"bar.s{n + 10}")
    design = _join(draft, ("house_bank.pos", "breaker.a"), ("breaker.b", "panel_0.pos"),
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
        report = day_report(day_run(from_bench.having(components=parts), None, plan))
        kinds.append([h.kind for h in report.hazards])
    # From 2 straight to 1: only the one that breaks first leaves the alternator alone.
    assert kinds == [[], ["load_dump"]]


def test_both_engines_are_started_one_after_the_other() -> None:
    plan = Plan(name="P", hours=1, engine=(EngineSpan(start_h=0.1, end_h=0.8, rpm=2000),))
    day = day_run(twin_engines(), None, plan)
    assert [(t.engine, t.started) for t in day.tries] == [("first", True), ("second", True)]
    assert day.tries[1].at_s - day.tries[0].at_s == pytest.approx(plan.crank_s + 1.0)
    assert all(max(day.recording.source_a[a.id]) > 5 for a in day.design.of_type(Alternator))
    alone = plan.model_copy(
        update={"engine": (plan.engine[0].model_copy(update={"engine": "second"}),)}
    )
    assert [t.engine for t in day_run(twin_engines(), None, alone).tries] == ["second"]


def test_float_gives_way_to_bulk_when_the_volts_sag_and_both_waits_for_both() -> None:
    draft = _boat({"soc": 0.95})
    draft.part("charger", "charger", rated_a=20, set_v=14.4, float_v=13.5,
               absorption_h=0.5, absorption_until="both", tail_a=2.5)  # fmt: skip
    draft.load("panel", 60.0, law="current")
    design = _join(draft, ("charger.out1", "house_bank.pos"), ("charger.neg", "bar"),
                   ("house_bank.pos", "panel.pos"), ("panel.neg", "bar"))  # fmt: skip
    plan = Plan(
        name="P",
        hours=14,
        shore=(ShoreSpan(start_h=0, end_h=14),),
        living=(LivingSpan(start_h=11, end_h=13, profile="living"),),
    )
    day = day_run(design, None, plan)
    went = [to for _, to in told(day, "charger")]
    assert went[:4] == ["absorption", "tail", "float", "bulk"]
    absorbed, tail = (at for at, to in told(day, "charger") if to in ("absorption", "tail"))
    assert tail - absorbed == pytest.approx(30, abs=0.01)  # minutes
    i = next(n for n, e in enumerate(day.events) if e.to == "float")
    at = next(n for n, t in enumerate(day.recording.at_s) if t >= day.events[i].at_s)
    assert day.recording.source_a["charger"][at - 1] <= 2.5
    # 60 A against 20 A from 11 h on; half a volt under float for a minute brings bulk.
    house = zip(day.recording.at_s, day.recording.volts_v["house_bank"], strict=True)
    sagged_s = next(t for t, volts in house if t > 11 * 3600 and volts < 13.5 - 0.5)
    assert told(day, "charger")[3][0] == pytest.approx(sagged_s / 60 + 1, abs=0.5)


def test_panels_give_in_a_day_what_the_irradiation_says() -> None:
    draft = _boat({"unit_ah": 900, "soc": 0.4})
    draft.part("solar", "solar", panel_w=300, set_v=14.4, efficiency=0.95)
    design = _join(draft, ("solar.pos", "house_bank.pos"), ("solar.neg", "bar"))
    survey = Survey(boat=Boat(kind="Boat", length_m=10, latitude_deg=50))
    plan = Plan(name="P", hours=24, clock_h=0, month=6)
    day = day_run(design, survey, plan)
    # 300 W x kWh/m2 of an average sky x 0.85 (heat, dirt) x 0.90 (shade) x 0.95 (controller)
    wanted_wh = 300 * horizontal_irradiation_kwh(50, 6, 0.5) * 0.85 * 0.9 * 0.95
    assert day.ledger.given["solar"].energy_wh == pytest.approx(wanted_wh, rel=0.005)
    up, down = (round(e.at_s / 3600, 1) for e in day.events if e.kind == "sun")
    assert (up + down) / 2 == pytest.approx(12, abs=0.3)
    assert down - up == pytest.approx(16.3, abs=0.5)
    dull = plan.model_copy(update={"sky": (SkySpan(start_h=0, end_h=24, sky="dull"),)})
    less_wh = day_run(design, survey, dull).ledger.given["solar"].energy_wh
    # (0.25 + 0.5 x 0.2) / (0.25 + 0.5 x 0.5)
    assert less_wh / wanted_wh == pytest.approx(0.35 / 0.5, rel=0.01)


def test_a_wind_generator_gives_by_its_curve() -> None:
    draft = _boat({"unit_ah": 400, "soc": 0.4})
    points = [{"speed_kn": 8, "current_a": 0}, {"speed_kn": 16, "current_a": 8}]
    draft.part("generator", "wind", driven_by="wind", points=points, set_v=14.2)
    design = _join(draft, ("wind.pos", "house_bank.pos"), ("wind.neg", "bar"))
    plan = Plan(name="P", hours=10, wind=(WindSpan(start_h=2, end_h=7, wind_kn=12),))
    # Half way up the curve: 4 A for 5 h.
    given = day_run(design, None, plan).ledger.given["wind"]
    assert given.charge_ah == pytest.approx(20, rel=1e-3)


def test_a_bank_left_alone_loses_what_its_table_says() -> None:
    design = _join(_boat({"soc": 0.8}))
    plan = Plan(name="P", hours=730)
    day = day_run(design, None, plan)
    # AGM, 2 % of 200 Ah a month: 4 Ah of 200 / 0.934 x its capacity at 20 degC.
    bank = next(b for b in design.of_type(Bank) if b.id == "house_bank")
    total = living_bank(bank).model.total_ah
    assert 0.8 - day.ended_soc["house_bank"] == pytest.approx(4 / total, rel=1e-3)
    assert day.ledger.banks["house_bank"].lost_ah == pytest.approx(4, rel=1e-3)


def test_surface_charge_leaks_away_within_days() -> None:
    design = _join(_boat({"soc": 1.0}))
    day = day_run(design, None, Plan(name="P", hours=72, soc={"house_bank": 1.0}))
    assert day.recording.volts_v["house_bank"][-1] == pytest.approx(12.85, abs=0.03)
    # 1 mA per Ah at a head of 1.02: 0.2 A of 200 Ah; none at full but the self-discharge.
    bank = living_bank(next(b for b in design.of_type(Bank) if b.id == "house_bank"))
    full = bank.rested(1.0)
    pressed = (full[0] * 1.02, full[1])
    assert bank.inside_a(pressed) - bank.inside_a(full) == pytest.approx(0.2)


ALTERNATOR = Alternator(id="a", name="A", rated_a=100, hot_share=0.75, set_v=14.2)


@pytest.mark.parametrize(
    ("amps", "aboard_c", "settles"),
    [
        (0, None, 45.0),  # 20 + 25
        (75, None, 139.0),  # 45 + 94
        (60, 10.0, 95.16),  # 35 + 94 x (60 / 75)^2
    ],
)
def test_an_alternator_warms_up(amps: float, aboard_c: float | None, settles: float) -> None:
    assert settles_c(ALTERNATOR, amps, aboard_c) == pytest.approx(settles)
    # After a quarter of an hour 63 % of the way is done.
    assert warmer(20, 120, 900) == pytest.approx(20 + 100 * 0.63212, abs=0.01)


@pytest.mark.parametrize(
    ("warm_c", "probe", "share"),
    [
        (25, False, 1 / 0.75),  # cold: what the label says
        (95, False, 1.0),
        (60, False, 0.875 / 0.75),
        (105, True, (1 - 0.25 / 70 * 80) / 0.75 * 0.7),  # half way back to 0.4
        (130, True, (1 - 0.25 / 70 * 105) / 0.75 * 0.4),
    ],
)
def test_heat_takes_from_the_output(warm_c: float, probe: bool, share: float) -> None:
    part = ALTERNATOR.model_copy(update={"temperature_probe": probe})
    assert heat_share(part, warm_c) == pytest.approx(share)


def test_an_alternator_that_fades_is_fine_cold() -> None:
    design = _relay_boat()
    fading = next(f for f in possible_faults(design) if f.kind == "source_fading")
    plan = Plan(name="P", hours=2, engine=(EngineSpan(start_h=0.1, end_h=1.9, rpm=2200),),
                soc={"house_bank": 0.2})  # fmt: skip
    well, ill = day_run(design, None, plan), day_run(design, None, plan, faulty(design, fading))
    at_first, later = 60 * 6 + 60, 60 * 100

    def given(day: Day, at_s: float) -> float:
        i = next(n for n, t in enumerate(day.recording.at_s) if t >= at_s)
        return day.recording.source_a["alternator"][i]

    assert given(ill, at_first) > 0.7 * given(well, at_first)
    assert given(ill, later) < 0.6 * given(well, later)
