"""Rules about banks and what fills them: a boat that meets each, one that does not, the edge."""

from __future__ import annotations

from typing import Any

import pytest
from strom_engine.rules import Finding, findings
from strom_engine.survey import Survey

from bench.designs import Draft
from tests.engine.boats import demo_job, two_banks
from tests.engine.test_audit import a_survey, load


def found(draft: Draft, rule: str, survey: Survey | None = None) -> list[Finding]:
    return [f for f in findings(draft.design(), survey) if f.rule == rule]


def lived(amps: float, **more: Any) -> Survey:
    """24 h of a steady draw; window 50 %, no margins, 25 degC, so that need is 24 h x amps x 4."""
    wish = {"days_between_charges": 2, "growth": 0, "ageing": 0, "bank_temperature_c": 25}
    return a_survey(load("x", amps, 24), sizing=wish | {"window": 0.5}, **more)


@pytest.mark.parametrize(
    ("amps", "severities"),
    # 2 A x 24 h x 2 days / 0.5 = 192 Ah of 200; 2.083 A: 199.97; 2.1 A: 201.6
    [(2.0, []), (2.083, []), (2.1, ["caution"])],
)
def test_ba1_size_against_the_audit(amps: float, severities: list[str]) -> None:
    boat = two_banks(house_bank={"parallel": 2})
    told = found(boat, "BA-1", lived(amps))
    assert [f.severity for f in told] == severities
    if told:
        assert told[0].figures[1].value == pytest.approx(amps * 24 * 2 / 0.5)
        assert "201.6" in "".join(told[0].arithmetic) or "202 Ah" in told[0].title


def test_ba1_without_an_audit_says_what_is_missing() -> None:
    for survey in (None, a_survey()):
        [finding] = found(two_banks(), "BA-1", survey)
        assert finding.severity == "cannot_tell" and "stage Loads" in str(finding.missing)


COLD = {"kind": "Yacht", "length_m": 11, "coldest_c": -10}
WARM = COLD | {"coldest_c": 25}


@pytest.mark.parametrize(
    ("boat", "changes", "severities"),
    [
        (WARM, {"starter": {"cranking_a": 120}}, []),
        (COLD, {"starter": {"cranking_a": 380}}, ["fault"]),
        (COLD, {"starter": {"cranking_a": 1500}}, ["danger"]),
        # 560 A CCA give 560 x 0.65 / 0.4 = 910 A at 0 degC; wanted 600 x 1.6 = 960 A
        (
            COLD | {"coldest_c": 0},
            {"starter": {"cranking_a": 600}, "engine_bank": {"unit_cca_a": 560}},
            ["danger"],
        ),
        (COLD, {"engine_bank": {"unit_cca_a": None}}, ["cannot_tell"]),
        (COLD, {"starter": {"cranking_a": 120, "assumed": ["cranking_a"]}}, ["cannot_tell"]),
        (COLD | {"coldest_c": None}, {"starter": {"cranking_a": 120}}, ["cannot_tell"]),
    ],
)
def test_ba2_the_start_bank(
    boat: dict[str, Any], changes: dict[str, Any], severities: list[str]
) -> None:
    told = found(two_banks(**changes), "BA-2", a_survey(boat=boat))
    assert [f.severity for f in told] == severities
    for finding in told:
        assert "A warm x" in finding.arithmetic[0]
        assert (finding.missing is None) == (severities != ["cannot_tell"])


def test_ba2_names_the_lengths_that_nobody_measured() -> None:
    boat = two_banks(starter={"cranking_a": 380})
    for cable in boat.cables:
        cable["estimated"] = cable["start"] == "engine_bank.pos"
    [finding] = found(boat, "BA-2", a_survey(boat=COLD))
    assert len(finding.estimated) == 1 and "Engine_bank" in finding.estimated[0].replace(" ", "_")


@pytest.mark.parametrize(
    ("house", "severities"),
    [
        ({"parallel": 4, "members_alike": True, "take_off": "opposite"}, []),
        ({"parallel": 5, "members_alike": True, "take_off": "opposite"}, ["caution"]),
        ({"parallel": 2, "members_alike": False, "take_off": "opposite"}, ["fault"]),
        ({"parallel": 2, "take_off": "one_end"}, ["caution"]),
        ({"parallel": 1, "take_off": "one_end"}, []),
    ],
)
def test_ba3_members(house: dict[str, Any], severities: list[str]) -> None:
    assert [f.severity for f in found(two_banks(house_bank=house), "BA-3")] == severities


def test_ba8_a_bank_worn_out_early() -> None:
    # 4 A x 24 h x 2 days of 200 Ah is 96 % deep: 950 x (0.96 / 0.5)^-1.163 = 445 cycles of
    # flooded deep-cycle; 330 days / 2 a year = 165 cycles: 2.7 years
    boat = two_banks(house_bank={"parallel": 2, "chemistry": "flooded_deep"})
    [finding] = found(boat, "BA-8", lived(4.0, use={"way": "liveaboard"}))
    assert finding.figures[0].value == pytest.approx(96)
    assert finding.figures[1].value == pytest.approx(2.7, abs=0.05)
    assert found(boat, "BA-8", lived(4.0, use={"way": "weekends"})) == []
    assert found(boat, "BA-8") == []


@pytest.mark.parametrize(("amps", "severities"), [(25.0, []), (24.9, ["caution"])])
def test_ch8_what_the_charger_has_left(amps: float, severities: list[str]) -> None:
    # 200 Ah of lead want 20 A; 5 A run alongside
    boat = two_banks(house_bank={"parallel": 2})
    boat.part("charger", "charger", rated_a=amps, set_v=14.4, float_v=13.5)
    boat.cable("charger.out1", "house_bank.pos")
    boat.cable("charger.neg", "bar.s9")
    ashore = a_survey(load("x", 5.0) | {"uses": {"alongside": {"hours": 24}}})
    told = found(boat, "CH-8", ashore)
    assert [f.severity for f in told] == severities
    if told:
        assert told[0].arithmetic[0] == "25 A - 5.0 A of loads running = 19.9 A."


@pytest.mark.parametrize(
    ("amps", "severities"),
    [
        (25.0, []),
        (9.0, ["caution"]),
    ],  # 200 Ah from 10 to 95 %: 170 / 0.99 = 171.7 Ah; 6.9 and 19.1 h
)
@pytest.mark.parametrize("kind", ["charger", "inverter"])
def test_ch8_of_lithium_asks_for_a_night_not_for_a_tenth(
    kind: str, amps: float, severities: list[str]
) -> None:
    boat = two_banks(house_bank={"parallel": 2, "chemistry": "lfp", "unit_cca_a": None})
    rated = {"rated_a": amps} if kind == "charger" else {"rated_w": 1200, "charger_a": amps}
    boat.part(kind, "feeder", set_v=14.2, float_v=13.5, **rated)
    boat.cable("feeder.out1" if kind == "charger" else "feeder.pos", "house_bank.pos")
    boat.cable("feeder.neg", "bar.s9")
    told = found(boat, "CH-8")
    assert [f.severity for f in told] == severities
    if told:
        assert told[0].figures[1].value == pytest.approx(171.7 / amps, rel=0.02)


def test_sw9_follows_the_surveyed_loads() -> None:
    # 9 A stated at 12.6 V are 113.4 W; about 12.8 V at the panel, in the profile that uses most
    [finding] = found(two_banks(), "SW-9", a_survey(load("x", 9.0, 10, feed="panel")))
    assert finding.figures[0].value == pytest.approx(9 * 12.6 / 12.8, rel=0.02)
    assert "at anchor" in finding.arithmetic[0]


def test_the_demo_boats_show_what_their_owners_complain_of() -> None:
    marsh = demo_job("marsh_wren.json")
    rules = {f.rule: f.severity for f in findings(marsh.variants[0].design, marsh.survey)}
    assert rules["BA-1"] == "caution" and rules["BA-2"] == "fault" and rules["SW-9"] == "caution"
    ebb = demo_job("ebb_tide.json")
    rules = {f.rule: f.severity for f in findings(ebb.variants[0].design, ebb.survey)}
    # it floats too early; and its 60 A fill 480 Ah of lithium between an evening and a morning
    assert "CH-15" in rules and "CH-8" not in rules
