"""Advice for twelve made-up boats: which pattern comes first, and why."""

from __future__ import annotations

from typing import Any

import pytest
from strom_engine.advice import Wishes, advise, compare, measures
from strom_engine.design import Design
from strom_engine.patterns import PATTERNS

from bench.designs import Draft
from tests.engine.boats import demo_job, relay_boat, twin_engines, two_banks


def boat(
    house: dict[str, Any] | None = None,
    engine: dict[str, Any] | None = None,
    alternator_a: float = 80,
    charger: int = 0,
    solar_w: float = 0,
    thruster_m: float = 0,
    **alternator: Any,
) -> Design:
    """Engine and house bank joined by nothing yet; sources and a bow bank as asked."""
    draft = Draft(profiles=("anchor",))
    draft.bank("engine_bank", role="engine", unit_cca_a=700, soc=0.95, **(engine or {}))
    draft.bank("house_bank", **({"unit_ah": 200, "unit_cca_a": 700, "soc": 0.6} | (house or {})))
    draft.part("alternator", "alternator", rated_a=alternator_a, set_v=14.3, **alternator)
    draft.part("starter", "starter", cranking_a=300)
    draft.part("bus_bar", "bar", polarity="neg", studs=20)
    draft.load("panel", 6.0, 3.0)
    draft.load("bilge", 4.0, always_on=True)
    pairs = [("engine_bank.pos", "starter.pos"), ("starter.pos", "alternator.out")]
    pairs += [("house_bank.pos", "panel.pos"), ("house_bank.pos", "bilge.pos")]
    grounded = ["engine_bank", "house_bank", "alternator", "starter", "panel", "bilge"]
    if charger:
        draft.part("charger", "charger", outputs=charger, rated_a=40, set_v=14.4, float_v=13.5)
        pairs.append(("charger.out1", "house_bank.pos"))
        grounded.append("charger")
    if solar_w:
        draft.part("solar", "solar", panel_w=solar_w, set_v=14.3)
        pairs.append(("solar.pos", "house_bank.pos"))
        grounded.append("solar")
    if thruster_m:
        draft.bank("bow_bank", role="thruster", unit_ah=90, soc=0.9)
        draft.load("thruster", 150.0, brief=True, profiles=[])
        pairs.append(("bow_bank.pos", "thruster.pos"))
        grounded += ["bow_bank", "thruster"]
    for start, end in pairs:
        draft.cable(start, end, "2 AWG", 1.5)
    for n, part in enumerate(grounded):
        draft.cable(f"{part}.neg", f"bar.s{n + 1}", "1/0 AWG")
    return draft.design()


def single() -> Design:
    draft = Draft()
    draft.bank("bank", role="house", unit_cca_a=600, soc=0.9)
    draft.part("starter", "starter", cranking_a=180)
    draft.part("alternator", "alternator", rated_a=35, set_v=14.2)
    draft.load("lights", 3.0)
    for part in ("starter", "lights"):
        draft.cable("bank.pos", f"{part}.pos")
        draft.cable("bank.neg", f"{part}.neg")
    draft.cable("starter.pos", "alternator.out")
    draft.cable("bank.neg", "alternator.neg")
    return draft.design()


LFP = {"chemistry": "lfp", "unit_ah": 300}
REGULATED = {
    "sensing": "external",
    "belt_limit_a": 100,
    "temperature_probe": True,
    "surge_clamp": True,
    "belt": "rib_6",
}
ATTENTIVE = Wishes(crew="attentive", budget="low")
BOATS = [
    # what it is, wishes, the first choice, and the reason that must be among those shown
    ("day boat, one battery", single(), Wishes(), "single_on_off", "parts to fit"),
    ("cruiser, two AGM banks", boat(), Wishes(), "dual_relay", "charging path"),
    ("the same with sun and shore", boat(charger=1, solar_w=200), Wishes(), "dual_relay", "path"),
    (
        "one that holds to the engine first",
        boat(),
        Wishes(first="engine"),
        "single_sensing",
        "as the owner's school wants",
    ),
    ("lithium house, small machine", boat(LFP, alternator_a=60), Wishes(), "lithium_dcdc", ""),
    (
        "lithium house, regulator with probe and limit",
        boat(LFP, alternator_a=150, **REGULATED),
        Wishes(),
        "lithium_alternator",
        "the house bank takes",
    ),
    ("two engines", twin_engines(), Wishes(), "two_engines", "charging path"),
    ("a bow thruster far away", boat(thruster_m=9), Wishes(), "dual_relay", "copper"),
    (
        "regulated from outside already",
        boat(alternator_a=110, sensing="external"),
        Wishes(first="house"),
        "dual_relay",
        "charges the house bank first",
    ),
    (
        "a selector aboard, attentive crew",
        two_banks().design(),
        ATTENTIVE,
        "dual_relay",
        "usual pick",
    ),
    (
        "gel house beside a flooded start battery",
        boat({"chemistry": "gel"}, {"chemistry": "flooded_start"}),
        Wishes(),
        "dual_relay",
        "unlike chemistry",
    ),
    ("a weak outboard", boat({"unit_ah": 90}, alternator_a=20), Wishes(), "fet_isolator", "path"),
]


@pytest.mark.parametrize(("what", "design", "wishes", "first", "why"), BOATS)
def test_the_first_choice(what: str, design: Design, wishes: Wishes, first: str, why: str) -> None:
    found, refused = advise(design, None, wishes)
    ranked = [(a.pattern, a.marks) for a in found]
    assert ranked[0][0] == first, (what, ranked[:4])
    assert any(why in r.words for r in found[0].reasons)
    # Never one answer without its reasons, and every pattern is answered for.
    assert all(a.reasons for a in found) and all(r.why for r in refused)
    assert {a.pattern for a in found} | {r.pattern for r in refused} == {p.id for p in PATTERNS}
    for one in found:
        assert one.marks == pytest.approx(sum(r.marks for r in one.reasons), abs=0.06)


def test_wishes_move_the_order() -> None:
    design = boat(charger=2)

    def marks(wishes: Wishes) -> dict[str, float]:
        return {a.pattern: a.marks for a in advise(design, None, wishes)[0]}

    careless, careful = marks(Wishes()), marks(Wishes(crew="attentive"))
    assert careful["selector_only"] - careless["selector_only"] > 10
    poor, rich = marks(Wishes(budget="low")), marks(Wishes(budget="free"))
    assert (
        rich["house_one_way"] - poor["house_one_way"]
        > rich["selector_only"] - poor["selector_only"]
    )
    engine, house = marks(Wishes(first="engine")), marks(Wishes(first="house"))
    assert engine["engine_dcdc"] - house["engine_dcdc"] == pytest.approx(24)


def test_measures_by_hand() -> None:
    now = measures(relay_boat().design(), None)
    # One source, two banks, and the relay closes under way: two pairs of two.
    assert now.coverage == 1.0
    # The house switch cuts loads alone, and is on; of the four positions of the two others the
    # loads reach the engine bank only with both on.
    assert now.draining == pytest.approx(1 / 4)
    assert now.spare_start and now.cutting == 0 and now.unlike_joined is None
    cables = relay_boat().design().cables
    # copper, 8.96 g/cm3: 1 m of 1 mm2 is 8.96 g
    assert now.copper_kg == pytest.approx(sum(c.area_mm2 * c.length_m for c in cables) * 0.00896)
    assert (now.gear, now.cables) == (5, 15)


def test_a_comparison_says_what_is_lost_and_gained() -> None:
    job = demo_job("marsh_wren.json")
    found, after = (v.design for v in job.variants[:2])
    both = compare(found, after, job.survey)
    assert "SW-4" in {f.rule for f in both.lost}
    assert "SW-4" not in {f.rule for f in both.gained}
    assert (both.first.cutting, both.second.cutting) == (1, 0)
    turned = compare(after, found, job.survey)
    assert {f.title for f in turned.gained} == {f.title for f in both.lost}
    assert turned.kept == both.kept
    same = compare(found, found, job.survey)
    assert (same.differences, same.lost, same.gained) == ((), (), ())
