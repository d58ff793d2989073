"""What gives and takes in time: chargers, sun, wind, leaks inside a bank, heat."""

from __future__ import annotations

import math

import pytest
from strom_engine.batteries import bank_model
from strom_engine.dayrun import Plan, day_run
from strom_engine.dayrun.heat import Failing, failing_share, heat_share, settles_c, warmer
from strom_engine.dayrun.plan import (
    LivingSpan,
    ShoreSpan,
    SkySpan,
    WindSpan,
)
from strom_engine.design import Alternator, Bank
from strom_engine.sizing.solar import horizontal_irradiation_kwh
from strom_engine.survey import Boat, Survey

from tests.engine.boats import bare_banks, told, with_cables


def test_float_gives_way_to_bulk_when_the_volts_sag_and_both_waits_for_both() -> None:
    draft = bare_banks({"soc": 0.95})
    draft.part("charger", "charger", rated_a=20, set_v=14.4, float_v=13.5,
               absorption_h=0.5, absorption_until="both", tail_a=2.5)  # fmt: skip
    draft.load("panel", 60.0, law="current")
    design = with_cables(draft, ("charger.out1", "house_bank.pos"), ("charger.neg", "bar"),
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
    draft = bare_banks({"unit_ah": 900, "soc": 0.4})
    draft.part("solar", "solar", panel_w=300, set_v=14.4, efficiency=0.95)
    design = with_cables(draft, ("solar.pos", "house_bank.pos"), ("solar.neg", "bar"))
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
    draft = bare_banks({"unit_ah": 400, "soc": 0.4})
    points = [{"speed_kn": 8, "current_a": 0}, {"speed_kn": 16, "current_a": 8}]
    draft.part("generator", "wind", driven_by="wind", points=points, set_v=14.2)
    design = with_cables(draft, ("wind.pos", "house_bank.pos"), ("wind.neg", "bar"))
    plan = Plan(name="P", hours=10, wind=(WindSpan(start_h=2, end_h=7, wind_kn=12),))
    # Half way up the curve: 4 A for 5 h.
    given = day_run(design, None, plan).ledger.given["wind"]
    assert given.charge_ah == pytest.approx(20, rel=1e-3)


def test_a_bank_left_alone_loses_what_its_table_says() -> None:
    design = with_cables(bare_banks({"soc": 0.8}))
    plan = Plan(name="P", hours=730)
    day = day_run(design, None, plan)
    # AGM, 2 % of 200 Ah a month at 25 degC, half for every 10 K less: 4 Ah x 0.7071 at 20 degC, of
    # 200 / 0.934 x its capacity there.
    bank = next(b for b in design.of_type(Bank) if b.id == "house_bank")
    total = bank_model(bank).model.total_ah
    assert 0.8 - day.ended_soc["house_bank"] == pytest.approx(2.8284 / total, rel=1e-3)
    assert day.ledger.banks["house_bank"].lost_ah == pytest.approx(2.8284, rel=1e-3)


def test_surface_charge_leaks_away_within_days() -> None:
    design = with_cables(bare_banks({"soc": 1.0}))
    day = day_run(design, None, Plan(name="P", hours=72, soc={"house_bank": 1.0}))
    assert day.recording.volts_v["house_bank"][-1] == pytest.approx(12.85, abs=0.03)
    # 0.3 V of surface charge fade to exp(-8 h / 6 h) of that by themselves; washed away they are
    # gone once 1.5 % of 200 Ah have been drawn.
    bank = bank_model(next(b for b in design.of_type(Bank) if b.id == "house_bank"))
    left = bank.rested(1.0)._replace(surface_v=0.3)
    faded = bank.after(left, bank.flow(left, 0.0), 8.0)
    assert faded.surface_v == pytest.approx(0.3 * math.exp(-8 / 6))
    washed = bank.after(left, bank.flow(left, -3.0), 1.0)
    assert washed.surface_v == pytest.approx(0.3 * math.exp(-1 / 6 - 3 / (0.015 * 200)))


ALTERNATOR = Alternator(id="a", name="A", rated_a=100, hot_share=0.75, set_v=14.2)


@pytest.mark.parametrize(
    ("amps", "aboard_c", "rpm", "settles"),
    [
        (0, None, 2200, 45.0),  # 20 + 25
        (75, None, 2200, 120.0),  # 45 + 75
        (60, 10.0, 2200, 83.0),  # 35 + 75 x (60 / 75)^2
        (60, 10.0, 1100, 107.76),  # 35 + 75 x (60 / 75)^2 x 2^0.6
    ],
)
def test_an_alternator_warms_up(
    amps: float, aboard_c: float | None, rpm: float, settles: float
) -> None:
    assert settles_c(ALTERNATOR, amps, aboard_c, rpm) == pytest.approx(settles, abs=0.01)
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


def test_a_machine_that_fades_is_whole_while_it_is_cold() -> None:
    # whole up to 45 degC, half of the way down at 65, as weak as it gets from 85 degC on
    fading = Failing(1.0, 0.4)
    assert [failing_share(fading, c) for c in (20, 45, 65, 85, 120)] == pytest.approx(
        [1.0, 1.0, 0.7, 0.4, 0.4]
    )
