"""The two-well model, charging over time, charge from rest voltage, and expected life."""

from __future__ import annotations

import math
from itertools import pairwise

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from strom_engine.batteries import (
    BatteryRun,
    charge_run,
    expected_life,
    soc_from_rest,
    two_well,
)
from strom_engine.design import Bank
from strom_engine.reference import CHEMISTRIES, load_table

from bench.battery_bands import BANDS, Band

PEUKERT = {r["chemistry"]: float(r["peukert"]) for r in load_table("battery_chemistry").rows}


def bank(chemistry: str = "agm", **more: object) -> Bank:
    fields = {"unit_ah": 115, "parallel": 2, "soc": 0.5, "temperature_c": 25} | more
    return Bank.model_validate(
        {"id": "b", "name": "B", "role": "house", "chemistry": chemistry} | fields
    )


@pytest.mark.parametrize("name", CHEMISTRIES)
def test_capacities_follow_peukert_and_the_rating_exactly(name: str) -> None:
    model = two_well(name, 100.0)
    assert model.capacity_ah(20.0) == pytest.approx(100.0, rel=1e-12)
    for hours in (1, 1.5, 2, 3, 5, 8, 10, 15, 20):
        # I^p t is the same at every rate: C = C20 (t / 20 h)^(1 - 1/p)
        peukert_ah = 100.0 * (hours / 20) ** (1 - 1 / PEUKERT[name])
        assert model.capacity_ah(hours) == pytest.approx(peukert_ah, rel=0.03)


@pytest.mark.parametrize("name", CHEMISTRIES)
def test_a_discharge_ends_when_its_capacity_says(name: str) -> None:
    model = two_well(name, 100.0)
    amps = model.capacity_ah(5.0) / 5.0
    wells = model.rested(1.0)
    for _ in range(50):
        wells = model.after(wells, amps, 0.1)
    assert model.head(wells) == pytest.approx(0.0, abs=1e-9)
    rested = model.after(wells, 0.0, 10.0)
    # At rest the bound charge comes up: the head rises, nothing is gained or lost.
    assert model.head(rested) > 0.05 or name == "lfp"
    assert rested.total_ah == pytest.approx(wells.total_ah)


@given(
    amps=st.floats(-80, 80),
    parts=st.lists(st.floats(0.01, 2), min_size=1, max_size=6),
    soc=st.floats(0.3, 0.9),
)
def test_steps_add_up_to_one(amps: float, parts: list[float], soc: float) -> None:
    model = two_well("agm", 230.0)
    steps = model.rested(soc)
    for hours in parts:
        steps = model.after(steps, amps, hours)
    once = model.after(model.rested(soc), amps, sum(parts))
    assert steps.available_ah == pytest.approx(once.available_ah, abs=1e-9)
    assert steps.total_ah == pytest.approx(soc * model.total_ah - amps * sum(parts), abs=1e-9)


@settings(max_examples=30)
@given(
    name=st.sampled_from(CHEMISTRIES),
    moves=st.lists(st.tuples(st.floats(-90, 55), st.floats(0.01, 0.1)), min_size=20, max_size=120),
)
def test_energy_in_less_out_less_losses_is_stored(
    name: str, moves: list[tuple[float, float]]
) -> None:
    run = BatteryRun(bank(name), 0.7)
    began_wh, moved_wh = run.stored_wh, 0.0
    for amps, hours in moves:
        amps = abs(amps) / 2 if run.soc < 0.35 else -abs(amps) if run.soc > 0.9 else amps
        moved_wh += abs(run.terminal_v(amps) * amps * hours)
        run.advance(amps, hours)
    assert run.lost_wh >= 0
    kept = run.given_wh - run.lost_wh - (run.stored_wh - began_wh)
    assert abs(kept) <= 1e-4 * moved_wh + 1e-9


def test_a_charge_from_half_is_limited_then_tapers() -> None:
    run = charge_run(bank(), 1.0, 60.0, 14.4)
    currents = [p.current_a for p in run.points]
    bulk = [p for p in run.points if p.current_a == 60.0]
    assert run.reached_h is not None and bulk[-1].hours == pytest.approx(run.bulk_h, abs=0.25)
    assert all(later <= before + 1e-6 for before, later in pairwise(currents))
    # The voltage is held; what a current that ends as it began would come to is shown.
    assert max(p.volts_v for p in run.points) <= 14.4 + 0.01
    # Dividing 0.5 x 230 Ah / 0.934 by 60 A would say 2 h: the taper takes three times that.
    assert run.reached_h > 3 * 0.5 * 230 / 60
    # What went in, times the coulombic efficiency, is what was missing of both wells; the last
    # hundredths go into gas.
    missing_ah = 0.45 * two_well("agm", 230).total_ah
    assert charge_run(bank(), 0.95, 60.0, 14.4).charged_ah * 0.96 == pytest.approx(
        missing_ah, rel=0.01
    )


def test_a_charge_that_never_gets_there_says_so() -> None:
    assert charge_run(bank(), 1.0, 60.0, 12.7).reached_h is None
    assert charge_run(bank(), 1.0, 0.0, 14.4).reached_h is None


@pytest.mark.parametrize(
    ("chemistry", "volts", "rested_h", "soc", "doubt"),
    [
        ("agm", 12.28, 12, 0.50, 0.10),  # a row of the table
        ("agm", 12.34, 12, 0.55, 0.10),  # half way between 12.28 and 12.40
        ("agm", 12.28, 1, 0.50, 0.25),  # not rested for four hours
        ("flooded_deep", 12.65, 12, 1.00, 0.10),
        ("lfp", 12.96, 24, 0.25, 0.10),
    ],
)
def test_charge_from_rest(
    chemistry: str, volts: float, rested_h: float, soc: float, doubt: float
) -> None:
    found = soc_from_rest(bank(chemistry), volts, rested_h)
    assert found.soc == pytest.approx(soc)
    assert (found.low, found.high) == pytest.approx((soc - doubt, min(1.0, soc + doubt)))
    # two 6 V batteries in series for 12 V, four for 24 V: the same charge
    doubled = bank(chemistry, unit_v=6, series=4)
    assert soc_from_rest(doubled, 2 * volts, rested_h).soc == pytest.approx(soc)


@pytest.mark.parametrize(
    ("chemistry", "volts", "words"),
    [
        ("lfp", 13.2, "says nothing"),
        ("agm", 14.2, "being charged"),
        ("agm", 10.2, "dead cell"),
    ],
)
def test_charge_from_rest_is_refused(chemistry: str, volts: float, words: str) -> None:
    found = soc_from_rest(bank(chemistry), volts, 24)
    assert found.soc is None and words in str(found.refused)
    assert found.working and found.source


@pytest.mark.parametrize(
    ("chemistry", "depth", "a_year", "years", "ended_by"),
    [
        ("agm", 0.5, 130, 650 / 130, "cycles"),
        ("agm", 0.8, 100, 400 / 100, "cycles"),
        ("agm", 0.5, 20, 8.0, "calendar"),
        ("lfp", 0.8, 100, 14.0, "calendar"),
    ],
)
def test_expected_life(
    chemistry: str, depth: float, a_year: float, years: float, ended_by: str
) -> None:
    life = expected_life(chemistry, depth, a_year)
    assert (life.years, life.ended_by) == (pytest.approx(years), ended_by)
    assert expected_life(chemistry, depth + 0.1, a_year).cycles < life.cycles


@pytest.mark.parametrize("band", BANDS, ids=lambda b: f"{b.case}, {b.read}")
def test_a_battery_behaves_over_time_as_makers_charts_say(band: Band) -> None:
    assert band.low <= band.value() <= band.high


@pytest.mark.parametrize("volts", [12, 24])
def test_a_charge_agrees_with_a_fine_integration(volts: int) -> None:
    """The same equations by Euler steps of five seconds, written out independently."""
    flooded = bank("flooded_deep", soc=0.5, series=volts // 12)
    limit_a, hold_v, blocks = 60.0, 14.4 * volts / 12, volts / 12
    figures = next(
        r for r in load_table("battery_chemistry").rows if r["chemistry"] == "flooded_deep"
    )
    made = next(
        r for r in load_table("charge_overpotential").rows if r["chemistry"] == "flooded_deep"
    )
    n = {name: float(value) for name, value in made.items() if name != "chemistry"}
    table = [(float(r["head"]), float(r["flooded"])) for r in load_table("battery_ocv").rows]
    total = 230 / float(figures["q20_over_qmax"])
    ohm = float(figures["r_mohm_100ah"]) / 1000 * 100 / 230 * blocks
    soc, quick, surface, at, step = 0.5, 0.0, 0.0, 0.0, 5 / 3600

    def rest(head: float) -> float:
        for (x0, y0), (x1, y1) in pairwise(table):
            if head <= x1:
                return blocks * (y0 + (y1 - y0) * (head - x0) / (x1 - x0))
        return blocks * table[-1][1]

    while soc < 0.9 and at < 40:
        ready = 1 / (1 + math.exp((soc - n["knee_soc"]) / n["knee_width"]))
        exchange = 2 * 230.0
        exchange *= n["exchange_c"] * ready + n["full_exchange_c"] * (
            1 + (1 - soc) / n["finish_width"]
        )
        full_ohm = ohm / (0.3 + 0.7 * soc)
        # A held voltage decides the current by the resistance alone; the rest follows in time.
        amps = min(limit_a, max(0.0, (hold_v - rest(soc) - quick - surface) / full_ohm))
        eta = blocks * n["cells"] * n["slope_v"] * math.asinh(amps / exchange)
        over = n["surface_share"] * (1 - ready) * eta
        quick += step * (eta - over - quick) / (n["rise_min"] / 60)
        fast = over > surface
        surface += step * (over - surface) / (n["rise_min"] / 60 if fast else n["fade_h"])
        gas = math.exp(-(1 - soc) / n["gassing_width"])
        soc += step * amps * float(figures["coulombic_efficiency"]) * (1 - gas) / total
        at += step
    run = charge_run(flooded, 0.9, limit_a, hold_v)
    assert run.reached_h == pytest.approx(at, rel=0.03, abs=0.06)
