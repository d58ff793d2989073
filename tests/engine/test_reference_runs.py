"""Tables of cables and devices: how they are built, and figures looked up by hand."""

from __future__ import annotations

import pytest
from strom_engine.errors import ReferenceDataError
from strom_engine.reference import (
    CONDUCTOR_SIZES,
    DEVICES,
    area_mm2,
    base_ampacity_a,
    breaker_class_a,
    bundling_factor,
    crimp_pull_n,
    device_type,
    engine_space_factor,
    load_table,
    opening_s,
    resistivity_ohm_mm2_per_m,
    size_in_table,
    stud_torque,
    usual_fuse,
    usual_stud,
)
from strom_engine.runs.drop import area_for_drop_mm2, circular_mils_for_drop

from tests.engine.boats import one_bank

TABLES = (
    "ampacity_awg", "ampacity_mm2", "ampacity_engine_space", "bundling", "conductor_least_area",
    "conductor_resistance", "crimp_pull", "drop_classes", "interrupting_cca", "opening_time",
    "overcurrent_devices", "overcurrent_interrupting", "overcurrent_ratings", "studs",
    "usual_studs",
)  # fmt: skip
CMIL_MM2 = 5.067e-4


@pytest.mark.parametrize("name", TABLES)
def test_tables_say_where_their_figures_are_published(name: str) -> None:
    table = load_table(name)
    assert table.source and table.edition
    assert table.confidence in ("low", "medium", "high")


@pytest.mark.parametrize("table", ["ampacity_awg", "ampacity_mm2"])
def test_more_copper_and_better_insulation_carry_no_less(table: str) -> None:
    rows = load_table(table).rows
    columns = [name for name in rows[0] if name != "size"]
    for row in rows:
        amps = [float(row[c]) for c in columns]
        assert amps == sorted(amps), row["size"]
    by_area = sorted(rows, key=lambda r: area_mm2(r["size"]))
    for column in columns:
        amps = [float(r[column]) for r in by_area]
        assert amps == sorted(amps), column


@pytest.mark.parametrize(
    ("size", "insulation_c", "amps"),
    [
        ("16 AWG", 60, 15),
        ("10 AWG", 105, 60),
        ("6 AWG", 105, 120),
        ("4 AWG", 75, 125),
        ("2/0 AWG", 105, 330),
        ("4/0 AWG", 105, 445),
        ("16 mm2", 105, 130),
        ("6 mm2", 70, 45),
    ],
)
def test_allowable_currents_looked_up_by_hand(size: str, insulation_c: int, amps: float) -> None:
    assert base_ampacity_a(size, insulation_c) == amps


def test_factors_and_classes_looked_up_by_hand() -> None:
    assert engine_space_factor("6 AWG", 105) == 0.85
    assert engine_space_factor("16 mm2", 105) == 0.86
    assert engine_space_factor("16 mm2", 60) == 0  # not allowed there (ISO)
    assert [bundling_factor(n) for n in (1, 2, 3, 6, 7, 24, 25)] == [1, 1, 0.7, 0.6, 0.5, 0.5, 0.4]
    assert [breaker_class_a(cca, main=True) for cca in (650, 651, 1100, 1101)] == [
        1500, 3000, 3000, 5000,
    ]  # fmt: skip
    assert breaker_class_a(2000, main=False) == 2500
    assert (crimp_pull_n("1/0 AWG"), crimp_pull_n("16 mm2")) == (556, None)
    m8 = stud_torque("M8", battery=True)
    assert m8 is not None and (m8.ring_hole_mm, m8.least_nm, m8.most_nm) == (8.4, 9.0, 13.6)
    assert stud_torque("M12", battery=True) is not None and stud_torque("M9", battery=True) is None
    assert (usual_stud("bank", "pos"), usual_stud("relay", "ctrl_pos")) == ("M8", "M5")
    assert opening_s(1.3) is None and opening_s(1.6) == 20 and opening_s(9) == 0.1


def test_devices_have_rising_ratings_and_what_they_break() -> None:
    for device in DEVICES:
        assert device.ratings_a == tuple(sorted(set(device.ratings_a)))
        assert device.interrupts_a(device.max_v) and device.interrupts_a(device.max_v + 1) is None
    stud = device_type("terminal_stud")
    assert stud is not None
    assert [stud.interrupts_a(v) for v in (12, 14, 15, 32, 58)] == [10000, 10000, 5000, 5000, 2000]
    assert device_type("unknown") is None
    assert [usual_fuse(a) for a in (10, 80, 250, 600)] == [
        "blade_regular", "bolt_30mm", "bolt_51mm", "anl",
    ]  # fmt: skip
    assert usual_fuse(300, lithium=True) == "class_t"


def test_areas_agree_between_the_tables() -> None:
    for row in load_table("conductor_least_area").rows:
        nominal = float(row["area_cmil"]) * CMIL_MM2
        assert area_mm2(row["size"]) == pytest.approx(nominal, rel=0.005)
        if row["least_cmil"]:
            assert 0.87 < float(row["least_cmil"]) / float(row["area_cmil"]) <= 1


def test_resistance_stays_below_what_a_flexible_conductor_may_have() -> None:
    """IEC 60228 class 5 gives the largest resistance: ours is a typical one, just below."""
    rho = resistivity_ohm_mm2_per_m(20.0)
    for row in load_table("conductor_resistance").rows:
        ours = 1000 * rho / area_mm2(row["size"])
        assert 0.85 < ours / float(row["plain_ohm_per_km"]) <= 1.0, row["size"]
        assert float(row["plain_ohm_per_km"]) < float(row["tinned_ohm_per_km"])


@pytest.mark.parametrize("amps", [5.0, 60.0, 200.0])
@pytest.mark.parametrize("length_m", [1.0, 12.0])
def test_drop_in_circular_mils_and_in_ohms_agree_within_two_percent(
    amps: float, length_m: float
) -> None:
    design = one_bank().design()  # conductors at 20 degC
    mils = circular_mils_for_drop(amps, length_m, 0.36)
    assert mils * CMIL_MM2 == pytest.approx(
        area_for_drop_mm2(design, amps, length_m, 0.36), rel=0.02
    )
    # 10.75 x 60 A x 39.37 ft / 0.36 V = 70 538 circular mils = 35.7 mm2
    assert circular_mils_for_drop(60, 12, 0.36) == pytest.approx(70_538, rel=1e-3)


def test_a_size_is_read_in_the_table_of_the_standard() -> None:
    assert size_in_table("2/0 AWG", area_mm2("2/0 AWG"), "abyc") == "2/0 AWG"
    assert size_in_table("50 mm2", 50.0, "abyc") == "1 AWG"  # 42.4 mm2, the next thinner one
    assert size_in_table("2/0 AWG", 67.43, "iso") == "50 mm2"
    assert all(size_in_table(s, area_mm2(s), "iso") for s in CONDUCTOR_SIZES)
    with pytest.raises(ReferenceDataError, match="no allowable current"):
        base_ampacity_a("7 AWG", 105)
