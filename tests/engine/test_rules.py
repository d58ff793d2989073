"""Each rule by a design that meets it, one that does not, and what lies at its edge."""

from typing import Any

import pytest
from strom_engine.design import Design, apply_change
from strom_engine.rules import Finding, findings

from bench.designs import Draft
from tests.engine.boats import demo_job, relay_boat, two_banks


def found(design: Design, rule: str) -> list[Finding]:
    return [f for f in findings(design) if f.rule == rule]


def cut(draft: Draft, start: str, end: str) -> Draft:
    """Take a cable out."""
    before = len(draft.cables)
    draft.cables = [c for c in draft.cables if (c["start"], c["end"]) != (start, end)]
    assert len(draft.cables) == before - 1
    return draft


def gauge(draft: Draft, start: str, size: str) -> Draft:
    """Change the size of the cable that starts at a post."""
    for cable in draft.cables:
        if cable["start"] == start:
            cable["gauge"] = size
    return draft


LITHIUM: dict[str, Any] = {"chemistry": "lfp"}


def uncut(draft: Draft) -> Draft:
    """Bring the panel straight to the house bank."""
    for cable in draft.cables:
        if cable["end"] == "panel.pos":
            cable["start"] = "house_bank.pos"
    return draft


def guarded(discharge_limit_a: float | None) -> Draft:
    """A lithium house bank that some position joins to the starter, through its protection."""
    draft = relay_boat(house_bank=LITHIUM | {"unit_cca_a": None})
    limit = {"guards": "house_bank", "discharge_limit_a": discharge_limit_a}
    draft.part("protection", "guard", **limit)
    return draft


def direct_alternator(draft: Draft) -> Draft:
    """Bring the alternator to the engine bank, ahead of every switch."""
    for cable in draft.cables:
        if cable["end"] == "alternator.out":
            cable["start"] = "engine_bank.pos"
    return draft


def placed(draft: Draft, part: str, **place: bool) -> Draft:
    """Put a part in a place of its own, all others in the saloon."""
    draft.extra["places"] = [
        {"id": "saloon", "name": "Saloon"},
        {"id": "hold", "name": "Hold"} | place,
    ]
    for one in draft.parts:
        one["place"] = "hold" if one["id"] == part else "saloon"
    return draft


def near_switches(draft: Draft, length_m: float) -> Draft:
    """Every switch of the relay boat this many metres of cable from its bank."""
    for cable in draft.cables:
        if "switch" in cable["end"] or "parallel" in cable["start"]:
            cable["length_m"] = length_m
    return draft


def bilge(fused: bool, before: bool = True) -> Draft:
    """The relay boat with an always-on bilge pump, before its switch and fused, or not."""
    draft = relay_boat()
    draft.load("bilge", 4.0, always_on=True)
    start = "house_bank.pos" if before else "house_switch.b"
    if fused:
        draft.part("fuse", "bilge_fuse", rating_a=10)
        draft.cable(start, "bilge_fuse.a", "12 AWG", 0.2)
        start = "bilge_fuse.b"
    draft.cable(start, "bilge.pos", "12 AWG")
    draft.cable("bilge.neg", "bar.s9", "12 AWG")
    return draft


def charged(**charger: object) -> Draft:
    """The relay boat with a weak charger on the engine bank, or as told."""
    draft = relay_boat(engine_bank={"unit_ah": 60}, house_bank={"unit_ah": 200, "soc": 0.5})
    land = charger.pop("land", "engine_bank.pos")
    figures = {"rated_a": 8, "set_v": 14.4, "float_v": 13.5} | charger
    draft.part("charger", "charger", **figures)
    draft.cable("charger.out1", str(land), "8 AWG")
    draft.cable("charger.neg", "bar.s10", "8 AWG")
    return draft


def doubled(kind: str, **figures: object) -> Draft:
    """The relay boat with a second device between its banks."""
    draft = relay_boat()
    draft.part(kind, "second", **figures)
    ends = ("a", "b") if kind == "relay" else ("in", "out")
    draft.cable(f"second.{ends[0]}", "engine_bank.pos", "4 AWG")
    draft.cable(f"second.{ends[1]}", "house_bank.pos", "4 AWG")
    draft.cable("second.neg", "bar.s11", "16 AWG")
    return draft


RELAY = {"cut_in_v": 13.3, "cut_in_s": 60, "cut_out_v": 12.8, "cut_out_s": 30}
DCDC = {"limit_a": 20, "set_v": 14.4}
AT_25 = {"engine_bank": {"temperature_c": 25}, "house_bank": {"temperature_c": 25}}
CALM = {"belt_limit_a": 60, "temperature_probe": True}
CASES = [
    # rule, a design that meets it, one that does not, and how grave that is
    ("SW-4", direct_alternator(two_banks()), two_banks(), "danger"),
    (
        "SW-4",
        two_banks(selector={"field_contact_of": "alternator"}),
        two_banks(selector={"make_before_break": False}),
        "danger",
    ),
    ("SW-6", relay_boat(), cut(relay_boat(), "parallel.a", "starter.pos"), "fault"),
    ("SW-6", relay_boat(), relay_boat(house_bank={"unit_cca_a": None}), "cannot_tell"),
    # lithium: not its cold cranking amps count, and it is not joined to the lead that starts
    (
        "SW-6",
        relay_boat(),
        cut(relay_boat(house_bank=LITHIUM), "parallel.a", "starter.pos"),
        "caution",
    ),
    ("SW-6", guarded(400), guarded(None), "cannot_tell"),
    ("SW-9", cut(two_banks(), "engine_bank.pos", "selector.one"), two_banks(), "caution"),
    ("CH-1", two_banks(), two_banks(house_bank=LITHIUM), "danger"),
    ("CH-1", relay_boat(), relay_boat(house_bank={"chemistry": "gel"}), "caution"),
    ("CH-4", relay_boat("a"), relay_boat("b"), "fault"),
    ("CH-7", two_banks(), cut(two_banks(), "house_bank.pos", "selector.two"), "fault"),
    ("CH-12", two_banks(), gauge(two_banks(), "house_bank.neg", "4 AWG"), "fault"),
    ("CH-12", two_banks(), cut(two_banks(), "house_bank.neg", "bar.s2"), "danger"),
    # switches: 2 x 600 A CCA is above 800 A
    ("SW-1", relay_boat(), uncut(relay_boat()), "fault"),
    (
        "SW-1",
        relay_boat(),
        uncut(relay_boat(house_bank={"unit_cca_a": None})),
        "cannot_tell",
    ),
    ("SW-1", relay_boat(), uncut(relay_boat(house_bank=LITHIUM | {"unit_cca_a": None})), "fault"),
    (
        "SW-2",
        relay_boat(starter_switch={"intermittent_a": 900}, parallel={"intermittent_a": 900}),
        relay_boat(starter_switch={"rating_a": 100, "intermittent_a": 250}),
        "fault",
    ),
    (
        "SW-2",
        relay_boat(starter_switch={"rating_a": 400}, parallel={"rating_a": 400}),
        relay_boat(starter_switch={"rating_a": 100}, parallel={"rating_a": 400}),
        "cannot_tell",
    ),
    (
        "SW-3",
        placed(relay_boat(), "bar"),
        placed(relay_boat(), "parallel", within_reach=False),
        "fault",
    ),
    ("SW-3", near_switches(relay_boat(), 1.8), near_switches(relay_boat(), 1.9), "note"),
    ("SW-5", bilge(True), bilge(False), "fault"),
    ("SW-5", bilge(True), bilge(True, before=False), "fault"),
    ("SW-7", relay_boat(), uncut(relay_boat()), "fault"),
    # joining: 300 Ah against 200 Ah is a factor of 1.5, and let pass
    (
        "CH-2",
        two_banks(house_bank={"unit_ah": 150}),
        two_banks(house_bank={"unit_ah": 151}),
        "note",
    ),
    (
        "CH-2",
        two_banks(house_bank={"age_years": 3}, engine_bank={"age_years": 1}),
        two_banks(house_bank={"age_years": 4}, engine_bank={"age_years": 1}),
        "note",
    ),
    ("CH-3", relay_boat(relay={"rating_a": 100}), relay_boat(relay={"rating_a": 99}), "caution"),
    # closed while 300 A are cranked, the house bank of 200 Ah gives more than half of them
    (
        "CH-3",
        relay_boat(relay={"peak_a": 300}),
        relay_boat(relay={"peak_a": 100}),
        "fault",
    ),
    (
        "CH-3",
        relay_boat(relay={"peak_a": 100, "start_isolation": True}),
        relay_boat(relay={"peak_a": 100}),
        "fault",
    ),
    ("CH-14", relay_boat(), doubled("relay", **RELAY), "caution"),
    ("CH-14", relay_boat(), doubled("dcdc", **DCDC), "fault"),
    # a weak charger on the small full bank, and the same lead moved to the house bank
    ("CH-5", charged(land="house_bank.pos"), charged(), "fault"),
    ("CH-13", charged(float_v=12.8), charged(float_v=12.79), "caution"),
    ("CH-13", relay_boat(), relay_boat(house_bank=LITHIUM), "fault"),
    # regulation: AGM wants 14.5 V, 0.3 V above and 0.5 V below are let pass
    (
        "CH-10",
        relay_boat(alternator={"set_v": 14.8, "rated_a": 80}),
        relay_boat(alternator={"set_v": 14.81, "rated_a": 80}),
        "fault",
    ),
    (
        "CH-10",
        relay_boat(alternator={"set_v": 14.0, "rated_a": 80}, **AT_25),
        relay_boat(alternator={"set_v": 13.99, "rated_a": 80}, **AT_25),
        "caution",
    ),
    ("CH-11", relay_boat(), gauge(relay_boat(), "alternator.neg", "16 AWG"), "fault"),
    (
        "CH-9",
        two_banks(house_bank=LITHIUM, engine_bank=LITHIUM, alternator=CALM | {"belt_limit_a": 56}),
        two_banks(house_bank=LITHIUM, engine_bank=LITHIUM),
        "fault",
    ),
    (
        "CH-9",
        two_banks(house_bank=LITHIUM, alternator={"belt_limit_a": 56, "temperature_probe": True}),
        two_banks(house_bank=LITHIUM, alternator={"belt_limit_a": 56}),
        "cannot_tell",
    ),
    ("CH-17", relay_boat(alternator={"belt": "v_13"}), relay_boat(), "cannot_tell"),
    (
        "CH-17",
        relay_boat(alternator={"rated_a": 120, "belt": "v_13"}),
        relay_boat(alternator={"rated_a": 130, "hot_share": 1.0, "belt": "v_13"}),
        "fault",
    ),
    (
        "CH-17",
        relay_boat(alternator={"hot_share": 0.7, "belt": "v_10"}),
        relay_boat(alternator={"hot_share": 0.8, "belt": "v_10"}),
        "caution",
    ),
    ("CH-16", relay_boat(), cut(relay_boat(), "relay.neg", "bar.s6"), "fault"),
]


@pytest.mark.parametrize(("rule", "good", "bad", "severity"), CASES)
def test_a_rule_knows_good_from_bad(rule: str, good: Draft, bad: Draft, severity: str) -> None:
    fine = found(good.design(), rule)
    assert [f for f in fine if f.severity != "note" or severity == "note"] == []
    assert found(bad.design(), rule)[0].severity == severity


def test_off_that_is_not_off() -> None:
    draft = relay_boat()
    draft.load("stereo", 3.0)
    draft.cable("house_bank.pos", "stereo.pos", "10 AWG")
    draft.cable("stereo.neg", "bar.s8", "10 AWG")
    assert found(draft.design(), "SW-8") == []  # no position cuts it: SW-7 tells
    [finding] = found(draft.design(), "SW-7")
    assert (finding.severity, finding.parts) == ("fault", ("stereo", "house_bank"))
    # 2 x 100 Ah / 3 A
    assert "200 Ah / 3.0 A = 67 h" in finding.arithmetic[1]
    draft.parts[-1]["items"][0]["always_on"] = True
    assert found(draft.design(), "SW-7") == []


def test_off_that_leaves_banks_joined() -> None:
    draft = two_banks()
    draft.cable("engine_bank.pos", "house_bank.pos")
    assert "stay joined" in found(draft.design(), "SW-8")[0].title


def test_an_alternator_cut_off_is_told_with_its_amps_and_a_repair() -> None:
    [finding] = found(two_banks().design(), "SW-4")
    assert finding.title == "Selector to off cuts the running alternator off"
    assert [f.unit for f in finding.figures] == ["A", ""]
    assert finding.figures[0].value > 20
    assert finding.change is not None
    assert found(apply_change(two_banks().design(), finding.change), "SW-4") == []


@pytest.mark.parametrize(
    ("makes", "severities"), [(None, ["cannot_tell"]), (False, ["danger"]), (True, [])]
)
def test_the_moment_between_one_and_both(makes: bool | None, severities: list[str]) -> None:
    # the field contact saves the alternator in off, not while a contact changes over
    selector = {"make_before_break": makes, "field_contact_of": "alternator"}
    told = found(two_banks(selector=selector).design(), "SW-4")
    assert [f.severity for f in told] == severities
    assert all(("Ohmmeter" in (f.missing or "")) == (makes is None) for f in told)


def test_drain_by_hand() -> None:
    # on 1 the engine bank alone feeds 5 A x 12.6 V = 63 W; 100 Ah x 0.5 at about 5 A: 10 h
    [finding] = found(two_banks(panel={"name": "Panel"}).design(), "SW-9")
    amps = finding.figures[0].value
    assert amps == pytest.approx(63 / 12.8, rel=0.02)
    assert f"50 Ah / {amps:.1f} A = {50 / amps:.1f} h" in finding.arithmetic[1]


def test_inrush_of_unlike_banks_by_hand() -> None:
    # lithium at 60 %: 13.18 V, 8 mohm x 1.05 at 20 degC; AGM at 95 %: between 12.74 and 12.85 =
    # 12.795 V, by its 700 A CCA 5.65 / 700 x 0.667 / 0.95364 = 5.645 mohm / 0.965
    [finding] = found(two_banks(house_bank=LITHIUM).design(), "CH-1")
    assert finding.figures[0].value == pytest.approx(13.18 - 12.795)
    assert finding.figures[1].value == pytest.approx(0.385 / (0.005645 / 0.965 + 0.0084), rel=1e-3)


def test_a_negative_as_large_as_the_positive_is_enough() -> None:
    equal = gauge(gauge(two_banks(), "house_bank.neg", "4 AWG"), "house_bank.pos", "4 AWG")
    assert found(equal.design(), "CH-12") == []
    smaller = gauge(equal, "house_bank.neg", "6 AWG").design()
    [finding] = found(smaller, "CH-12")
    # 13.3 / 21.15
    assert finding.arithmetic[2] == "13.3 / 21.15 = 63%."
    assert finding.change is not None
    assert found(apply_change(smaller, finding.change), "CH-12") == []


def test_what_the_regulator_believes_by_hand() -> None:
    # 3 m of 8 AWG out and back at 40 degC: 2 x (0.019153 x 3 / 8.366 + 0.3 mohm) = 14.336 mohm;
    # alternator 80 A x 0.75, at 2000 rpm u = 1350 / 1550: 59.0 A: 0.846 V, more than 3 %
    draft = Draft()
    draft.bank("bank", role="engine", soc=0.2, unit_ah=400)
    draft.part("alternator", "alternator", rated_a=80, set_v=14.4, sensing="external")
    draft.cable("alternator.out", "bank.pos", "8 AWG", 3.0)
    draft.cable("alternator.neg", "bank.neg", "8 AWG", 3.0)
    [finding] = found(draft.design(), "CH-15")
    amps = 80 * 0.75 * (1 - (1 - 1350 / 1550) ** 2)
    assert finding.severity == "fault"
    assert finding.figures[2].value == pytest.approx(amps * 0.014336, rel=0.001)
    assert "at its own posts" in finding.arithmetic[0]
    draft.cable("alternator.sense_pos", "bank.pos", "10 AWG", 6.0)
    [half] = found(draft.design(), "CH-15")
    assert half.figures[2].value == pytest.approx(amps * 0.014336 / 2, rel=0.001)
    draft.cable("alternator.sense_neg", "bank.neg", "10 AWG", 6.0)
    assert found(draft.design(), "CH-15") == []


def test_the_ketch_floats_early_for_its_long_thin_negative() -> None:
    before, after, _ = (v.design for v in demo_job("ebb_tide.json").variants)
    [finding] = found(before, "CH-15")
    assert finding.severity == "fault"
    assert "positive lead alone" in finding.arithmetic[0]
    # its leads end on the bars: fuse, switch and shunt still lie between
    assert [f.severity for f in found(after, "CH-15")] == ["caution"]


def test_the_workboat_relay_is_found_turned_round_and_repaired() -> None:
    design = demo_job("pilot_3.json").variants[0].design
    [finding] = found(design, "CH-4")
    assert finding.severity == "fault"
    assert finding.change is not None
    after = found(apply_change(design, finding.change), "CH-4")
    assert all(f.severity == "caution" for f in after)


def test_the_motor_sailer_as_found() -> None:
    design = demo_job("marsh_wren.json").variants[0].design
    assert {(f.rule, f.severity) for f in findings(design)} >= {
        ("SW-4", "danger"),
        ("CH-7", "fault"),
        ("CH-12", "fault"),
        ("SW-9", "caution"),
    }


def test_chatter_is_told_with_its_rounds_and_cured_by_moving_one_lead() -> None:
    design = charged().design()
    [finding] = found(design, "CH-5")
    # 60 s and 30 s: 3600 / 90 = 40
    assert finding.figures[0].value == pytest.approx(40)
    assert "up to 3600 / 90 = 40 times an hour" in finding.arithmetic[1]
    assert finding.change is not None
    assert found(apply_change(design, finding.change), "CH-5") == []


def test_an_output_cable_is_judged_by_its_heat_and_by_its_drop() -> None:
    # 100 A: 8 AWG is allowed 80 x 0.85 = 68 A beside an engine; 1 m of it drops 0.26 V, no fault
    [hot] = found(gauge(relay_boat(), "alternator.neg", "8 AWG").design(), "CH-11")
    assert "not allowed 100 A" in hot.title and "68 A allowed" in hot.arithmetic[0]
    # 1/0 AWG is allowed 285 x 0.85 = 242 A; 12 m: 100 x (0.019153 x 12 / 53.48 + 0.0003) = 0.46 V
    long = relay_boat()
    next(c for c in long.cables if c["start"] == "alternator.neg")["length_m"] = 12.0
    [drop] = found(long.design(), "CH-11")
    assert "0.07 V + 0.46 V = 0.53 V" in drop.arithmetic[0]
