"""Yield, need, candidates, start bank and faded cables, with the arithmetic beside each."""

from __future__ import annotations

import math
import re
from typing import Any

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from strom_engine.design import Design, Solar, Starter
from strom_engine.errors import StateError
from strom_engine.reference import cranking_amps
from strom_engine.sizing import (
    BankPlan,
    Need,
    bank_plan,
    needs,
    read_gauge,
    solar_yield,
    start_check,
    usable_window,
)
from strom_engine.sizing.generators import generator_day
from strom_engine.sizing.solar import horizontal_irradiation_kwh, month_of, season_of
from strom_engine.survey import Generator, Sun, Survey, surveyed

from bench.designs import Draft
from tests.engine.boats import demo_job, two_banks
from tests.engine.test_audit import a_survey, counted, load


def panel(watts: float = 300, **more: Any) -> Solar:
    fields = {"id": "solar", "name": "Solar", "panel_w": watts, "set_v": 14.4}
    return Solar.model_validate(fields | more)


@pytest.mark.parametrize("latitude", [35.0, 42.0, 48.0, 54.0])
@pytest.mark.parametrize("sky", ["blue", "average", "dull"])
def test_three_ways_of_the_sun_agree_in_a_mid_latitude_summer(latitude: float, sky: str) -> None:
    found = solar_yield((panel(),), Sun(sky=sky), "summer", latitude, 12.8)  # type: ignore[arg-type]
    amounts = [way.charge_ah for way in found.ways]
    assert max(amounts) / min(amounts) <= 1.4
    assert found.why_not is None and len(amounts) == 3
    assert all(way.working and way.source for way in found.ways)


@pytest.mark.parametrize(
    ("latitude", "season", "sun", "words"),
    [
        (68.0, "summer", Sun(adjustment=0.3), "middle latitudes"),
        (50.0, "winter", Sun(), "summer"),
        (45.0, "summer", Sun(divisor=9), "figure of your own"),
        (45.0, "summer", Sun(shading=0.8), "shade"),
    ],
)
def test_where_they_do_not_agree_the_reason_is_told(
    latitude: float, season: Any, sun: Sun, words: str
) -> None:
    found = solar_yield((panel(),), sun, season, latitude, 12.8)
    assert found.spread > 0.4 and words in str(found.why_not)


def test_the_ways_by_hand() -> None:
    sun = Sun(sky="average", shading=0.1, divisor=4, peak_sun_h=5, adjustment=0.7)
    by_k, by_hours, computed = solar_yield((panel(360),), sun, "summer", 48.0, 12.8).ways
    assert by_k.charge_ah == pytest.approx(360 / 4)
    assert by_hours.charge_ah == pytest.approx(360 * 5 * 0.7 / 12.8)
    kwh = horizontal_irradiation_kwh(48.0, 7, 0.5)
    assert computed.charge_ah == pytest.approx(kwh * 360 * 0.85 * 0.95 * 0.9 / 12.8)
    old = solar_yield((panel(360),), Sun(panel_age_years=10), "summer", 48.0, 12.8)
    new = solar_yield((panel(360),), Sun(), "summer", 48.0, 12.8)
    assert old.charge_ah == pytest.approx(new.charge_ah * 0.994**10)
    # A switching controller holds a 36-cell panel at the battery's 12.8 V of its 18 V.
    switching = solar_yield((panel(360, controller="pwm"),), Sun(), "summer", 48.0, 12.8)
    assert switching.charge_ah == pytest.approx(new.charge_ah * (12.8 / 18) / 0.95)


@pytest.mark.parametrize(
    ("latitude", "month", "kwh"),
    [
        # Extraterrestrial daily sums by FAO-56, times 0.5 for half the sunshine (0.25 + 0.5/2)
        (0.0, 3, 0.5 * 37.9 / 3.6),
        (20.0, 6, 0.5 * 40.0 / 3.6),
        (50.0, 6, 0.5 * 41.7 / 3.6),
        (-30.0, 1, 0.5 * 43.9 / 3.6),
        (50.0, 12, 0.5 * 7.5 / 3.6),
        (40.0, 12, 0.5 * 13.6 / 3.6),
    ],
)
def test_irradiation_against_published_sums(latitude: float, month: int, kwh: float) -> None:
    assert horizontal_irradiation_kwh(latitude, month, 0.5) == pytest.approx(kwh, rel=0.03)


def test_a_month_decides_the_season_of_the_second_way() -> None:
    december, winter = Sun(month=12), Sun()
    ways = [
        solar_yield((panel(),), sun, season, 45.0, 12.8).ways[1]
        for sun, season in ((december, "summer"), (winter, "winter"), (winter, "summer"))
    ]
    assert ways[0].charge_ah == ways[1].charge_ah < ways[2].charge_ah
    assert [season_of(m, 50) for m in (12, 2, 3, 6, 11)] == [
        "winter", "winter", "spring", "summer", "autumn"]  # fmt: skip
    assert season_of(12, -34) == "summer"


def test_seasons_turn_round_south_of_the_line() -> None:
    assert [month_of(s, 50) for s in ("summer", "winter")] == [7, 1]
    assert [month_of(s, -34) for s in ("summer", "winter")] == [1, 7]


def test_wind_and_water() -> None:
    points = [{"speed_kn": 5, "current_a": 0}, {"speed_kn": 6, "current_a": 4}]
    raw = {"id": "g", "name": "G", "kind": "towed", "points": points, "speed_kn": 5.5}
    towed = Generator.model_validate(raw | {"hours": {"under_way": 10}})
    assert generator_day(towed, "under_way", 12).charge_ah == pytest.approx(2 * 10)
    assert generator_day(towed, "under_way", 24).charge_ah == pytest.approx(2 * 10 / 2)
    assert generator_day(towed, "at_anchor", 12).charge_ah == 0
    # A curve that rises with the wind for ever gives its mean at the mean wind, ...
    line = [{"speed_kn": 0, "current_a": 0}, {"speed_kn": 200, "current_a": 100}]
    wind = {"kind": "wind", "points": line, "speed_kn": 12, "hours": {"at_anchor": 24}}
    steady = Generator.model_validate(raw | wind)
    assert generator_day(steady, "at_anchor", 12).mean_a == pytest.approx(6, rel=0.01)
    # ... and one that gives 10 A from the mean wind up runs for exp(-pi / 4) of the time.
    step = [{"speed_kn": 11.99, "current_a": 0}, {"speed_kn": 12, "current_a": 10}]
    above = Generator.model_validate(raw | wind | {"points": step})
    expected = 10 * math.exp(-math.pi / 4)
    assert generator_day(above, "at_anchor", 12).mean_a == pytest.approx(expected, rel=0.01)


def sunny(watts: float) -> Design:
    """Two banks, an alternator and a panel on the house bank."""
    draft: Draft = two_banks(house_bank={"parallel": 2})
    if watts > 0:
        draft.part("solar", "solar", panel_w=watts, set_v=14.4)
        draft.cable("house_bank.pos", "solar.pos")
        draft.cable("solar.neg", "bar.s9")
    return draft.design()


def need_of(design: Design, survey: Survey, way: str = "audit_worst") -> Need:
    return next(n for n in needs(design, survey, 12.8) if n.way == way)


def test_the_need_by_hand() -> None:
    wish = {"days_between_charges": 2, "growth": 0.25, "ageing": 0.1, "bank_temperature_c": 25}
    survey = a_survey(load("fridge", 4, 24, duty=0.5), sizing=wish)  # 48 Ah
    need = need_of(sunny(0), survey)
    # 48 Ah x 2 days / 35 % x 1.25 / 0.9
    assert need.need_ah["lead"] == pytest.approx(48 * 2 / 0.35 * 1.25 / 0.9)
    assert need.need_ah["lithium"] == pytest.approx(48 * 2 / 0.8 * 1.25 / 0.9)
    ashore = a_survey(load("fridge", 4, 24, duty=0.5), sizing=wish, use={"shore_power": True})
    assert need_of(sunny(0), ashore).need_ah["lead"] == pytest.approx(48 * 2 / 0.5 * 1.25 / 0.9)
    assert usable_window(a_survey(sizing={"window": 0.6}), "lead").share == 0.6
    cold = a_survey(load("fridge", 4, 24, duty=0.5), sizing=wish | {"bank_temperature_c": -10})
    assert need_of(sunny(0), cold).need_ah["lead"] == pytest.approx(need.need_ah["lead"] / 0.72)


def test_dark_days_decide_where_the_sun_covers_the_use() -> None:
    survey = a_survey(load("fridge", 4, 24, duty=0.5), sizing={"dark_days": 1.5})
    covered = need_of(sunny(600), survey)
    assert covered.net_ah < 0 and covered.dark
    assert covered.period_ah == pytest.approx(1.5 * 48)
    assert not need_of(sunny(0), survey).dark


def test_counted_ways_stand_beside_the_audit() -> None:
    survey = a_survey(load("fridge", 4, 24, duty=0.5), counted=counted(60, 80))
    found = {n.way: n.use_ah for n in needs(sunny(0), survey, 12.8)}
    assert found == {
        "audit_worst": pytest.approx(48),
        "audit_average": pytest.approx(48),
        "counted_worst": 80,
        "counted_average": 70,
    }


@settings(max_examples=40, deadline=None)
@given(
    draw=st.floats(0.1, 20),
    more=st.floats(0.0, 20),
    watts=st.floats(1, 1200),
    panels=st.floats(0, 1200),
    days=st.floats(0.5, 5),
    dark=st.floats(0.5, 5),
)
def test_more_load_never_needs_less_and_more_sun_never_more(
    draw: float, more: float, watts: float, panels: float, days: float, dark: float
) -> None:
    wish = {"sizing": {"days_between_charges": days, "dark_days": dark}}
    little, much = (a_survey(load("x", amps, 10), **wish) for amps in (draw, draw + more))
    for family in ("lead", "lithium"):
        base = need_of(sunny(watts), little).need_ah[family]
        assert need_of(sunny(watts), much).need_ah[family] >= base - 1e-9
        assert need_of(sunny(watts + panels), little).need_ah[family] <= base + 1e-9


def plan(survey: Survey, design: Design | None = None) -> BankPlan:
    return bank_plan(surveyed(design or sunny(0), survey), survey)


def test_candidates_side_by_side() -> None:
    wish = {"candidates": [{"id": "own", "unit": "agm_12_80", "parallel": 6}]}
    wish["prices"] = {"agm_12_80": 200.0, "lfp_12_200": 900.0}  # type: ignore[assignment]
    survey = a_survey(load("fridge", 4, 24, duty=0.5), sizing=wish)
    found = plan(survey)
    fitted, *others = found.candidates
    assert (fitted.fitted, fitted.capacity_ah, fitted.enough) == (True, 200, False)
    assert all(c.enough and c.batteries >= 1 for c in others if c.id != "own")
    by_id = {c.id: c for c in found.candidates}
    own = by_id["own"]
    assert (own.capacity_ah, own.energy_wh, own.weight_kg) == (480, 5760, 6 * 24)
    assert own.usable_ah == pytest.approx(0.35 * 480 * 0.953, rel=0.01)  # 15 degC
    assert own.days == pytest.approx(own.usable_ah / 48)
    assert own.depth == pytest.approx(48 * 2 / 480)
    assert own.price == 1200
    expected = 1200 / (own.usable_wh / 1000) / own.years
    assert own.cost_per_kwh_year == pytest.approx(expected)
    words = " ".join(a.words for a in own.advice)
    assert "not more than 4" in words
    # 480 Ah of 3 mohm per 100 Ah, the least of its kind; full at 12.85 V
    assert own.fault_a == pytest.approx(12.85 / (0.003 * 100 / 480), rel=0.001)
    lithium = next(c for c in others if c.family == "lithium")
    assert "never joined directly" in " ".join(a.words for a in lithium.advice)
    # charging: alternator 80 A x 0.75 hot, less 48 Ah / 24 h
    assert own.charge[0].current_a == pytest.approx(80 * 0.75 - 2, abs=0.01)
    divided_h = 0.45 * 480 / own.charge[0].current_a
    assert own.charge[0].hours is not None and own.charge[0].hours > divided_h


def test_the_arithmetic_of_a_candidate_gives_its_figures() -> None:
    job = demo_job("marsh_wren.json")
    found = bank_plan(surveyed(job.variants[0].design, job.survey), job.survey)
    for candidate in found.candidates:
        label, usable, _, *_, fault = candidate.working
        ah, volts, wh = _numbers(label)
        assert wh == pytest.approx(ah * volts) == pytest.approx(candidate.energy_wh)
        assert fault.endswith(f"= {candidate.fault_a:.0f} A.")
        emf_v, mohm, amps = _numbers(fault)
        assert amps == pytest.approx(1000 * emf_v / mohm, rel=0.002)
        product, rest = usable.split(" = ")
        whole, share, _, warmth, _ = _numbers(product)
        assert _numbers(rest)[0] == pytest.approx(whole * share * warmth, rel=0.005)
        assert _numbers(rest)[-1] == pytest.approx(candidate.usable_ah, abs=0.06)


def _numbers(words: str) -> list[float]:
    return [float(number) for number in re.findall(r"\d+(?:\.\d+)?", words)]


def test_one_battery_alone_is_advised_against_and_nothing_is_said_without_loads() -> None:
    small = plan(a_survey(load("lamp", 0.5, 4)))
    alone = next(c for c in small.candidates if c.batteries == 1)
    assert any("At least two batteries" in a.words for a in alone.advice)
    empty = plan(a_survey())
    assert empty.candidates == () and "loads" in empty.missing[0]


@pytest.mark.parametrize(
    ("coldest", "factor", "share"),
    # marine cranking amps are 1.23 times the cold ones, warm ones 1.5 times; -9 is two fifths of
    # the way from -7 (0.765) to -12 (0.72)
    [(27, 1.0, 1 / 0.667), (0, 1.6, 0.82 / 0.667), (-18, 2.3, 1.0), (-9, 1.9, 0.747 / 0.667)],
)
def test_cranking_need_and_supply_by_temperature(
    coldest: float, factor: float, share: float
) -> None:
    boat = {"kind": "Yacht", "length_m": 11, "coldest_c": coldest}
    survey = a_survey(boat=boat)
    design = two_banks(starter={"cranking_a": 200}).design()
    check = start_check(design, survey, design.of_type(Starter)[0])
    assert (check.bank, check.positions["selector"]) == ("engine_bank", "1")
    assert check.need_a == pytest.approx(200 * factor)
    assert check.available_a == pytest.approx(700 * share)
    assert check.missing == ()


def test_starts_in_reserve_and_what_stands_in_their_way() -> None:
    survey = a_survey(boat={"kind": "Yacht", "length_m": 11, "coldest_c": 20})
    good = two_banks(starter={"cranking_a": 250}, engine_bank={"unit_ah": 80}).design()
    check = start_check(good, survey, good.of_type(Starter)[0])
    assert check.volts_v is not None and check.volts_v > check.limit_v == pytest.approx(
        9.58, abs=0.01
    )
    # Tens of starts, and more of them where the wells may level out between.
    assert check.starts is not None and check.starts_rested is not None
    assert 10 < check.starts < check.starts_rested <= 99
    thin = two_banks(starter={"cranking_a": 250})
    for cable in thin.cables:
        cable |= {"gauge": "6 AWG", "length_m": 6, "estimated": True}
    weak = start_check(thin.design(), survey, good.of_type(Starter)[0])
    assert weak.volts_v is not None and weak.volts_v < check.volts_v
    assert weak.starts == 0 and len(weak.estimated) >= 3
    assert cranking_amps(1.8, 12) == pytest.approx(1800 / (0.55 * 10.5))


@pytest.mark.parametrize(
    ("measured", "gauge"),
    [
        ({"strands": 19, "strand_mm": 1.5}, "2 AWG"),  # 19 x pi/4 x 1.5^2 = 33.6 mm2
        ({"conductor_mm": 7.6}, "2 AWG"),  # pi/4 x 7.6^2 x 0.74 = 33.6 mm2
        ({"outside_mm": 4.7}, "10 AWG"),
        ({"outside_mm": 13.6}, "1/0 AWG"),
    ],
)
def test_faded_cables(measured: dict[str, Any], gauge: str) -> None:
    found = read_gauge(**measured)
    likely = [g.gauge for g in found.guesses if g.likely]
    assert gauge in likely
    assert found.careful in likely and found.working and found.source


def test_a_faded_cable_needs_a_measurement() -> None:
    with pytest.raises(StateError, match="count the strands"):
        read_gauge()


def test_the_demo_boat() -> None:
    job = demo_job("marsh_wren.json")
    found = plan(job.survey, job.variants[0].design)
    assert found.counts == "counted_average" and found.missing == ()
    fitted = found.candidates[0]
    assert fitted.fitted and not fitted.enough
    assert {s.kind for s in found.sources} == {"engine", "shore"}
