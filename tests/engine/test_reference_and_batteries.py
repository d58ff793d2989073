"""Tables are whole and carry their sources; banks agree with figures worked out by hand."""

import math
from importlib.resources import files

import pytest
from strom_engine.batteries import bank_source, rest_voltage_v
from strom_engine.design import Bank
from strom_engine.errors import ReferenceDataError
from strom_engine.reference import (
    CHEMISTRIES,
    CONDUCTOR_SIZES,
    ampacity_a,
    area_mm2,
    chemistry,
    load_table,
    resistivity_ohm_mm2_per_m,
)

TABLES = sorted(p.name[:-4] for p in (files("strom_engine.reference") / "data").iterdir())


@pytest.mark.parametrize("name", TABLES)
def test_every_table_says_where_its_figures_come_from(name: str) -> None:
    table = load_table(name)
    assert table.source
    assert "edition in force" in table.citation or "data sheet" in table.citation
    assert table.confidence.split(":")[0] in ("high", "medium", "low")


@pytest.mark.parametrize(
    ("size", "area"), [("2/0 AWG", 67.43), ("16 AWG", 1.309), ("50 mm2", 50.0), ("6 AWG", 13.3)]
)
def test_spot_values_of_conductor_areas(size: str, area: float) -> None:
    assert area_mm2(size) == area


def test_what_is_not_in_a_table_is_an_error() -> None:
    with pytest.raises(ReferenceDataError, match="unknown conductor size '5 AWG'"):
        area_mm2("5 AWG")
    with pytest.raises(ReferenceDataError, match="unknown chemistry"):
        chemistry("nickel")
    with pytest.raises(ReferenceDataError, match="no reference table"):
        load_table("nothing")


def test_copper_at_twenty_degrees_and_warm() -> None:
    # 0.01724 x 1.03 = 0.0177572; at 60 degC x (1 + 0.00393 x 40) = x 1.1572
    assert resistivity_ohm_mm2_per_m(20) == pytest.approx(0.0177572)
    assert resistivity_ohm_mm2_per_m(60) == pytest.approx(0.0205486, rel=1e-4)


@pytest.mark.parametrize("name", CHEMISTRIES)
def test_rest_voltage_rises_with_charge(name: str) -> None:
    figures = chemistry(name)
    assert list(figures.rest_v) == sorted(figures.rest_v)
    assert figures.heads[0] == 0.0
    assert rest_voltage_v(figures, -1) == figures.rest_v[0]


def agm(**fields: object) -> Bank:
    plain = {"id": "b", "name": "B", "role": "house", "chemistry": "agm", "unit_ah": 100}
    return Bank.model_validate(plain | {"soc": 0.55, "temperature_c": 25} | fields)


@pytest.mark.parametrize(
    ("bank", "emf_v", "milliohm"),
    [
        # full: as the table says
        (agm(soc=1), 12.85, 4.0),
        # between 12.28 V at 50 % and 12.40 V at 60 %; it conducts 0.3 + 0.7 x 0.55 = 0.685 as well
        (agm(), 12.34, 4.0 / 0.685),
        # two in parallel: half the resistance; 200 Ah each: half again
        (agm(parallel=2, unit_ah=200), 12.34, 1.0 / 0.685),
        # two 12 V in series, 24 V
        (agm(series=2), 24.68, 8.0 / 0.685),
        # two 6 V in series: each half the volts and half the resistance of a 12 V block
        (agm(unit_v=6, series=2), 12.34, 4.0 / 0.685),
        # at 15 degC cranking amps are 0.9218 of those at 27, at 25 degC 0.9867
        (agm(temperature_c=15), 12.34, 4.0 * 0.98667 / 0.92182 / 0.685),
        # by its label: (12.85 - 7.2) V / 600 A at -18 degC, where 0.667 are left
        (agm(unit_cca_a=600), 12.34, 9.41667 * 0.667 / 0.98667 / 0.685),
        # what a tester found goes before the label, and marine amps are 1.23 times the cold ones
        (agm(unit_cca_a=600, unit_tested_cca_a=300), 12.34, 18.8333 * 0.667 / 0.98667 / 0.685),
        (agm(unit_mca_a=738, series=2), 24.68, 2 * 9.41667 * 0.667 / 0.98667 / 0.685),
        # the data sheet goes before
        (agm(unit_resistance_ohm=0.003, parallel=3), 12.34, 1.0 / 0.685),
        # lithium conducts alike down to a fifth, and half as well when empty: 0.5 + 0.5 x 0.1 / 0.2
        (agm(chemistry="lfp", soc=0.5), 13.15, 8.0),
        (agm(chemistry="lfp", soc=0.1), 12.60, 8.0 / 0.75),
    ],
)
def test_banks_by_hand(bank: Bank, emf_v: float, milliohm: float) -> None:
    source = bank_source(bank)
    assert source.emf_v == pytest.approx(emf_v)
    assert source.resistance_ohm * 1000 == pytest.approx(milliohm, rel=1e-4)


def test_charging_needs_the_overpotential_and_discharging_does_not() -> None:
    source = bank_source(agm(soc=0.5))
    # 20 A out of 12.28 V behind 4 / (0.3 + 0.7 x 0.5) = 6.154 mohm: 12.28 - 0.1231
    drop_v = 20 * 0.004 / 0.65
    assert source.terminal_v(-20) == pytest.approx(12.28 - drop_v)
    # 20 A in: 12.28 + 0.1231 + 6 x 0.0514 x asinh(20 / exchange), and that at half charge is
    # 2 x 0.009 x 100 x 0.9991 + 2 x 0.000065 x 100 x (1 + 0.5 / 0.02)
    exchange_a = 1.8 / (1 + math.exp((0.5 - 0.71) / 0.03)) + 0.013 * 26
    eta = 0.3084 * math.asinh(20 / exchange_a)
    assert source.terminal_v(20) == pytest.approx(12.28 + drop_v + eta)
    assert eta == pytest.approx(0.905, abs=0.002)


@pytest.mark.parametrize(
    ("size", "insulation_c", "engine_space", "amps"),
    [
        ("16 AWG", 105, False, 25),
        ("4/0 AWG", 105, False, 445),
        ("2 AWG", 105, True, 210 * 0.85),
        ("2 AWG", 60, True, 140 * 0.58),
        ("2 AWG", 85, False, 175),  # no column: the next lower one, 80 degC
        ("35 mm2", 105, False, 210),
        ("35 mm2", 70, True, 160 * 0.75),
        ("35 mm2", 60, True, 0),  # not allowed there
    ],
)
def test_allowable_current(size: str, insulation_c: int, engine_space: bool, amps: float) -> None:
    assert ampacity_a(size, insulation_c, engine_space=engine_space) == pytest.approx(amps)


@pytest.mark.parametrize("size", CONDUCTOR_SIZES)
def test_every_size_is_allowed_more_than_the_next_thinner_one(size: str) -> None:
    own = [s for s in CONDUCTOR_SIZES if s.endswith("AWG") == size.endswith("AWG")]
    thinner = own[own.index(size) - 1] if own.index(size) else None
    for rating in (60, 75, 80, 90, 105, 125, 200):
        amps = ampacity_a(size, rating)
        assert amps > 0
        assert thinner is None or amps >= ampacity_a(thinner, rating)
        assert ampacity_a(size, rating, engine_space=True) <= amps
