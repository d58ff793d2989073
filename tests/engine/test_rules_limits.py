"""Rules of what happens in the worst of cases: a design that meets each, one that does not."""

from __future__ import annotations

from typing import Any

import pytest
from strom_engine.batteries.strings import string_shares
from strom_engine.design import Bank, apply_change
from strom_engine.reference import bears_s, longest_opening_s
from strom_engine.rules import Finding, findings
from strom_engine.rules.ac_rules import one_size_under
from strom_engine.runs import allowed_current, design_currents
from strom_engine.runs.conductor_heat import conductor_heat
from strom_engine.survey import AC_ITEMS, SetSection, Survey, apply_survey_change

from bench.designs import Draft
from tests.engine.boats import bare_banks, one_bank, two_banks, with_cable
from tests.engine.test_audit import a_survey


def found(draft: Draft, rule: str, survey: Survey | None = None) -> list[Finding]:
    return [f for f in findings(draft.design(), survey) if f.rule == rule]


def told(draft: Draft, rule: str, survey: Survey | None = None) -> list[str]:
    return [f.severity for f in found(draft, rule, survey)]


def fused(rating_a: float, length_m: float, gauge: str, device: str = "bolt_51mm") -> Draft:
    """The bank, a fuse 0.1 m from it, a load; out and back as long."""
    draft = one_bank(5.0, unit_resistance_ohm=0.004)
    draft.cables.clear()
    draft.part("fuse", "fuse", rating_a=rating_a, device=device)
    draft.cable("bank.pos", "fuse.a", "2 AWG", 0.1)
    draft.cable("fuse.b", "lamp.pos", gauge, length_m)
    draft.cable("lamp.neg", "bank.neg", gauge, length_m)
    return draft


@pytest.mark.parametrize(
    ("rating_a", "length_m", "gauge", "severities"),
    # Half charged: 12.25 V, 4 mohm / 0.65 = 6.15 mohm; 10 AWG, 5.26 mm2, at 105 °C 4.50 mohm/m:
    # 5 m out and 5 m back = 45 mohm and terminals: 12.25 V / 53.1 mohm = 231 A. From 30.5 °C on k
    # is 226 sqrt(ln(394.5 / 265)) = 142.6: it bears that for (142.6 x 5.26 / 231)^2 = 10.5 s.
    # 80 A: 2.89 times, within 7.3 s; 100 A: 2.31 times, 11.3 s.
    [(80, 5.0, "10 AWG", []), (100, 5.0, "10 AWG", ["fault"]), (100, 5.0, "6 AWG", [])],
)
def test_oc12_a_short_at_the_far_end(
    rating_a: float, length_m: float, gauge: str, severities: list[str]
) -> None:
    seen = found(fused(rating_a, length_m, gauge), "OC-12")
    assert [f.severity for f in seen] == severities
    for finding in seen:
        assert finding.figures[0].value == pytest.approx(231, rel=0.005)
        assert finding.figures[2].value == pytest.approx(10.5, rel=0.01)


def test_oc12_a_device_that_may_never_open() -> None:
    # 20 m of 10 AWG out and back: 12.22 V / (6 + 180 mohm) = 65 A, 1.3 times 50 A
    [finding] = found(fused(50, 20.0, "10 AWG"), "OC-12")
    assert "may not open" in finding.title and "may never" in finding.arithmetic[1]


def test_curves_and_copper() -> None:
    assert longest_opening_s("class_t", 1.3) is None
    # halfway between 2.0 (15 s) and 3.5 (5 s) on logarithms: sqrt(2.0 x 3.5) = 2.646: sqrt(75)
    assert longest_opening_s("bolt_51mm", 7.0**0.5) == pytest.approx(75**0.5)
    assert longest_opening_s("unknown", 6.0) == 3.5  # the slowest kind
    # beyond the table a fuse melts by the same heat, a breaker is no faster: 1 s x (6 / 12)^2
    assert longest_opening_s("bolt_51mm", 12.0) == 0.25
    assert longest_opening_s("breaker_thermal", 12.0) == 3.5
    # IEC 60364-4-43 lists k = 115 for PVC from 70 to 160 °C
    assert bears_s(1.0, 70, 1.0) ** 0.5 == pytest.approx(115, rel=0.005)
    assert bears_s(1.0, 90, 1.0) ** 0.5 == pytest.approx(100, rel=0.005)


def windlass(**item: Any) -> Draft:
    draft = fused(100, 3.0, "2 AWG")
    draft.parts[1]["items"][0].update({"name": "Windlass", "draw_a": 80, "brief": True} | item)
    return draft


@pytest.mark.parametrize(
    ("item", "severities"),
    [
        ({}, ["cannot_tell"]),
        ({"start_a": 180}, []),  # 1.8 times: the fuse opens
        ({"start_a": 130}, ["cannot_tell"]),  # 1.3 times: it may hold; a cut-out is not known
        ({"start_a": 130, "thermal_cutout": False}, ["caution"]),
        ({"start_a": 130, "thermal_cutout": True}, []),
    ],
)
def test_oc13_a_stuck_windlass(item: dict[str, Any], severities: list[str]) -> None:
    assert told(windlass(**item), "OC-13") == severities


@pytest.mark.parametrize(("start_a", "severities"), [(200, []), (210, ["caution"])])
def test_oc14_holds_while_it_starts(start_a: float, severities: list[str]) -> None:
    # 2.0 times: a slow fuse opens from 3 s on, and a motor is up by then
    assert told(windlass(start_a=start_a), "OC-14") == severities


def test_ba9_a_surge_that_shuts_the_inverter_or_a_plotter() -> None:
    # 12.25 V - 314 A x 6.15 mohm = 10.3 V at the bank; the thruster is a resistance of 12.6 / 400
    draft = one_bank(5.0, unit_resistance_ohm=0.004)
    draft.parts[1]["items"][0] |= {"name": "Plotter", "min_v": 10.5}
    draft.load("thruster", 100)
    draft.parts[-1]["items"][0] |= {"name": "Thruster", "start_a": 400, "brief": True}
    draft.cable("bank.pos", "thruster.pos", "2/0 AWG", 1.0)
    draft.cable("thruster.neg", "bank.neg", "2/0 AWG", 1.0)
    [finding] = found(draft, "BA-9")
    assert finding.title == "Thruster starts and Plotter drops out"
    assert finding.figures[1].value == pytest.approx(10.28, abs=0.01)
    draft.parts[0]["parallel"] = 4
    assert found(draft, "BA-9") == []
    draft.part("inverter", "inverter", rated_w=1500, cut_out_v=11)
    draft.cable("bank.pos", "inverter.pos", "2/0 AWG", 1.0)
    draft.cable("inverter.neg", "bank.neg", "2/0 AWG", 1.0)
    assert told(draft, "BA-9") == []
    draft.parts[0]["parallel"] = 1
    surging = [f for f in found(draft, "BA-9") if f.title.startswith("Inverter surges")]
    assert surging and surging[0].figures[2].value in (10.5, 11)


def lithium(warns: str | None = "all", **bank: Any) -> Draft:
    """A lithium house bank behind its protection, beside an engine bank it never meets."""
    draft = one_bank(100.0, **({"chemistry": "lfp", "soc": 0.8} | bank))
    draft.parts[1]["items"][0] |= {"always_on": True, "name": "Bilge pump"}
    draft.part("protection", "guard", guards="bank", rating_a=200, warns=warns)
    draft.part("charger", "charger", rated_a=30, set_v=14.2, float_v=13.5)
    draft.cables[0]["end"] = "guard.bank"
    draft.cable("guard.system", "lamp.pos", "2 AWG", 1.0)
    draft.cable("charger.out1", "lamp.pos", "8 AWG", 1.0)
    draft.cable("charger.neg", "bank.neg", "8 AWG", 1.0)
    return draft


@pytest.mark.parametrize(
    ("guard", "bank", "severities"),
    [
        ({"rating_a": 200}, {}, []),
        ({"rating_a": 90}, {}, ["fault", "cannot_tell"]),  # 100 A flow; for seconds is not known
        ({"rating_a": 90, "peak_a": 170}, {}, ["fault"]),  # 100 A and 60 A of starter
        # the lesser of the two: 2 batteries x 45 A inside
        ({"rating_a": 200}, {"parallel": 2, "unit_discharge_a": 45}, ["fault", "cannot_tell"]),
        ({"rating_a": 200}, {"parallel": 2, "unit_discharge_a": 90}, []),
    ],
)
def test_ba10_what_the_protection_passes(
    guard: dict[str, Any], bank: dict[str, Any], severities: list[str]
) -> None:
    draft = lithium(**({"string_fuses": True} | bank))
    next(p for p in draft.parts if p["id"] == "guard").update(guard)
    draft.part("starter", "starter", cranking_a=60)
    draft.cable("guard.system", "starter.pos", "2 AWG", 1.0)
    draft.cable("starter.neg", "bank.neg", "2 AWG", 1.0)
    assert sorted(told(draft, "BA-10")) == sorted(severities)


def test_ba10_ch18_sw10_of_a_protection() -> None:
    assert told(one_bank(5.0, chemistry="lfp"), "BA-10") == ["cannot_tell"]
    for warns, severities in (("all", []), ("alternator", ["fault"]), (None, ["cannot_tell"])):
        assert told(lithium(warns), "CH-18") == severities
    [finding] = found(lithium(), "SW-10")
    assert finding.title == "When Guard opens, Bilge pump is dead"
    twice = lithium()
    twice.bank("spare", chemistry="agm")
    twice.cable("spare.pos", "lamp.pos", "8 AWG", 1.0)
    twice.cable("spare.neg", "bank.neg", "8 AWG", 1.0)
    assert found(twice, "SW-10") == []


@pytest.mark.parametrize(
    ("bank", "coldest_c", "severities"),
    [
        # 100 Ah of AGM take 0.35 x 100 = 35 A, of lithium 50 A; a charger of 60 A
        ({"chemistry": "agm"}, 5, ["note"]),
        ({"chemistry": "lfp"}, 5, ["caution"]),
        ({"chemistry": "lfp", "unit_charge_a": 50}, 5, ["fault"]),
        ({"chemistry": "lfp", "unit_charge_a": 70}, 5, []),
        ({"chemistry": "lfp", "unit_charge_a": 70}, -5, ["caution"]),
    ],
)
def test_ch19_charged_with_too_much_or_in_frost(
    bank: dict[str, Any], coldest_c: float, severities: list[str]
) -> None:
    draft = one_bank(0.1, **bank)
    draft.part("charger", "charger", rated_a=60, set_v=14.4, float_v=13.5)
    draft.cable("charger.out1", "bank.pos", "2 AWG", 1.0)
    draft.cable("charger.neg", "bank.neg", "2 AWG", 1.0)
    cold = {"kind": "Yacht", "length_m": 11, "coldest_c": coldest_c}
    assert told(draft, "CH-19", a_survey(boat=cold)) == severities


def strings(**fields: Any) -> Bank:
    made = {"id": "b", "name": "B", "role": "house", "chemistry": "agm", "unit_ah": 100, "soc": 1}
    return Bank.model_validate(made | {"temperature_c": 25} | fields)


def test_ba3_shares_of_strings() -> None:
    # two strings of 4 mohm, 0.5 mohm of lead on either side: (4 + 1) / (4 + 1 + 4) = 55.6 %
    assert string_shares(strings(parallel=2), opposite=False) == pytest.approx((5 / 9, 4 / 9))
    # three, minus at the far end: the ladder is the same seen from either end
    three = string_shares(strings(parallel=3), opposite=True)
    assert three[0] == pytest.approx(three[2]) and sum(three) == pytest.approx(1)
    # round the first loop: 4 i1 = 4 i2 + 0.5 (i2 + i3) - 0.5 i1, and i3 = i1: 4 i1 = 4.5 i2
    assert 4 * three[0] == pytest.approx(4.5 * three[1])
    [finding] = found(two_banks(house_bank={"parallel": 2, "take_off": "one_end"}), "BA-3")
    assert "one string does" in finding.title and "50, 50 A" in finding.arithmetic[0]
    wide = {"parallel": 4, "take_off": "opposite", "link_ohm": 0.004}
    assert told(two_banks(house_bank=wide), "BA-3") == ["caution"]


def test_ba3_fuses_of_strings_and_taps() -> None:
    two = {"chemistry": "lfp", "parallel": 2, "unit_cca_a": None}
    for fuses, severities in ((True, []), (False, ["fault"]), (None, ["cannot_tell"])):
        assert told(two_banks(house_bank=two | {"string_fuses": fuses}), "BA-3") == severities
    [finding] = found(two_banks(house_bank={"series": 2, "unit_v": 6, "tap_a": 2}), "BA-3")
    assert "48 Ah a day" in finding.arithmetic[0]


@pytest.mark.parametrize(
    ("opening_cm2", "chemistry", "severities"),
    # 6 cells x 8 mA/Ah x 100 Ah x 0.05 = 0.24 m3/h; x 28 = 6.7 cm2; flooded 20 mA/Ah: 16.8 cm2
    [(7, "agm", []), (6, "agm", ["fault"]), (16, "flooded_deep", ["fault"]), (17, "lfp", [])],
)
def test_ba11_openings_for_gas(opening_cm2: float, chemistry: str, severities: list[str]) -> None:
    draft = one_bank(5.0, chemistry=chemistry, place="box")
    draft.extra["places"] = [{"id": "box", "name": "Box", "opening_cm2": opening_cm2}]
    assert told(draft, "BA-11") == severities


def test_ch17_a_machine_driven_too_fast() -> None:
    slow = {"rated_a": 60, "pulley_ratio": 2.5, "engine_top_rpm": 3600}
    assert told(two_banks(alternator=slow), "CH-17") == []  # 9000 rpm
    assert told(two_banks(alternator=slow | {"most_rpm": 8000}), "CH-17") == ["fault"]
    [finding] = found(two_banks(alternator=slow | {"engine_top_rpm": 6500}), "CH-17")
    assert finding.figures[0].value == 16250


def test_pl5_the_ac_side_is_looked_at() -> None:
    draft = two_banks()
    assert found(draft, "PL-5") == []
    draft.part("charger", "charger", rated_a=30, set_v=14.4, float_v=13.5)
    draft.cable("charger.out1", "house_bank.pos", "6 AWG")
    draft.cable("charger.neg", "bar.s9", "6 AWG")
    [finding] = found(draft, "PL-5", a_survey())
    assert finding.severity == "cannot_tell" and len(finding.arithmetic) == 8
    all_seen = SetSection(section="ac_checks", fields=dict.fromkeys(AC_ITEMS, "yes"))
    seen = apply_survey_change(a_survey(), all_seen)
    assert found(draft, "PL-5", seen) == []
    bare = apply_survey_change(seen, SetSection(section="ac_checks", fields={"case_ground": "no"}))
    [finding] = found(draft, "PL-5", bare)
    assert "DC positive 6 AWG, so at least 8 AWG" in finding.arithmetic[1]
    assert one_size_under("35 mm2") == "25 mm2"


def test_pl6_places_covers_and_studs() -> None:
    box = {"id": "box", "name": "Box", "width_mm": 350, "depth_mm": 200, "height_mm": 230}
    draft = one_bank(5.0, place="box")
    draft.extra["places"] = [box]
    assert found(draft, "PL-6") == []
    draft.parts[0]["parallel"] = 2  # 2 x 332 x 172 mm on 350 x 200 mm
    assert "side by side" in found(draft, "PL-6")[0].title
    draft.parts[0] |= {"parallel": 1, "height_mm": 235, "width_mm": 330, "depth_mm": 172}
    assert told(draft, "PL-6") == ["fault"]
    fuse = fused(100, 3.0, "6 AWG", "class_t")
    fuse.parts[-1]["cover_mm"] = 60  # a class T stands 70 mm high
    assert told(fuse, "PL-6") == ["caution"]
    fuse.parts[-1]["height_mm"] = 60
    assert told(fuse, "PL-6") == []
    # 6 AWG has 2.0 mm of tongue; nut and washers of M6 take 8: 10 mm
    for free_mm, severities in ((10, []), (9.9, ["fault"])):
        fuse.parts[1] |= {"stud": "M6", "stud_free_mm": free_mm}
        assert told(fuse, "PL-6") == (severities * 2)


def test_how_warm_a_cable_gets() -> None:
    # 10 AWG of 105 °C may carry 60 A at 30 °C; at half of it a quarter of the rise: 48.75 °C
    design = one_bank().design()
    cable = with_cable(design, design.cables[0].id, gauge="10 AWG").cables[0]
    heat = conductor_heat(30, allowed_current(cable, engine_space=False))
    assert heat and heat.copper_c == pytest.approx(30 + 75 / 4)
    hot = conductor_heat(30, allowed_current(cable, engine_space=True))
    assert hot and hot.copper_c == pytest.approx(50 + 55 * (30 / (60 * 0.85)) ** 2)


def lent(limit_a: float, house_v: int = 12, **dcdc: Any) -> Draft:
    """An engine bank with its alternator, a dc-dc charger from it to a half empty house bank."""
    draft = bare_banks({"unit_ah": 400, "soc": 0.5, "series": house_v // 12}, soc=0.95)
    draft.part("alternator", "alternator", rated_a=80, set_v=14.4)
    volts = {"set_v": 14.4 * house_v / 12, "float_v": 13.5 * house_v / 12}
    volts |= {"start_v": 13.3, "stop_v": 11.5}
    draft.part("dcdc", "dcdc", limit_a=limit_a, **(volts | dcdc))
    for post in ("alternator.out", "dcdc.in"):
        draft.cable("engine_bank.pos", post, "2/0 AWG", 1.0)
    draft.cable("dcdc.out", "house_bank.pos", "2 AWG", 1.0)
    draft.cable("alternator.neg", "bar.s3", "2/0 AWG", 1.0)
    draft.cable("dcdc.neg", "bar.s4", "2/0 AWG", 1.0)
    return draft


@pytest.mark.parametrize(
    ("limit_a", "house_v", "dcdc", "severities"),
    # 80 A x 0.75 = 60 A hot; 40 A out at 13 V of house take some 45 A; at 26 V twice as much
    [
        (40, 12, {}, []),
        (60, 12, {}, ["fault"]),
        (40, 24, {}, ["fault"]),
        (40, 24, {"input_limit_a": 45}, []),
    ],
)
def test_ch20_a_dcdc_charger_that_lives_on_its_bank(
    limit_a: float, house_v: int, dcdc: dict[str, Any], severities: list[str]
) -> None:
    draft = lent(limit_a, house_v, **dcdc)
    seen = found(draft, "CH-20")
    assert [f.severity for f in seen] == severities
    for finding in seen:
        assert finding.change is not None
        after = apply_change(draft.design(), finding.change)
        assert not [f for f in findings(after) if f.rule == "CH-20"]


def test_what_a_dcdc_charger_takes_comes_back_through_every_negative() -> None:
    draft = lent(30)
    currents = design_currents(draft.design())
    back = {c["id"] for c in draft.cables if c["start"] == "engine_bank.neg"}
    # 30 A x 14.4 V / 0.9 / 11.5 V = 41.7 A, whether it runs in some state or not
    assert {round(currents[c].rated_a or 0, 1) for c in back} == {41.7}
    stuck = lent(30, start_v=15, stop_v=14.9, input_limit_a=20)
    assert design_currents(stuck.design())[back.pop()].rated_a == pytest.approx(20, rel=0.01)
