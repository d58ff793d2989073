"""Patterns: built on every demo boat, sound, kept to what is aboard, and as ngspice sees them."""

from __future__ import annotations

from concurrent.futures import ThreadPoolExecutor
from itertools import product

import pytest
from strom_engine.circuit import bench
from strom_engine.design import Design, State, apply_change
from strom_engine.design.differences import differences as differing
from strom_engine.design.state import switch_positions, switches
from strom_engine.drawing import lay_out
from strom_engine.errors import ChangeError
from strom_engine.patterns import (
    PATTERNS,
    Aboard,
    Pattern,
    pattern_change,
    pattern_design,
    pattern_named,
)
from strom_engine.patterns.builder import fuse_rating_a, gauge_for
from strom_engine.rules import findings
from strom_engine.survey import Survey

from bench.designs import Draft
from tests.engine.boats import DEMO_FILES, demo_job, one_bank, twin_engines, two_banks
from tests.engine.test_against_ngspice import differences

BOATS = [
    (job, v.design, demo_job(job).survey) for job in DEMO_FILES for v in demo_job(job).variants
]
KEPT = ("bank", "alternator", "charger", "solar", "starter", "inverter", "generator")


def fits(design: Design) -> list[Pattern]:
    return [p for p in PATTERNS if not p.against(Aboard(design))]


SMALL = two_banks().design()  # 100 Ah: small enough for a one-way combiner
CASES = [(d, s, p) for _, d, s in BOATS for p in fits(d)]
CASES += [(SMALL, BOATS[0][2], p) for p in fits(SMALL) if p.id == "start_one_way"]


def test_there_are_at_least_twelve_and_each_fits_some_boat() -> None:
    assert len({p.id for p in PATTERNS}) == len(PATTERNS) >= 12
    boats = [d for _, d, _ in BOATS] + [twin_engines(), one_engine_bank(), SMALL]
    assert {p.id for p in PATTERNS} == {p.id for d in boats for p in fits(d)}


def one_engine_bank() -> Design:
    draft = one_bank(4.0)
    draft.part("starter", "starter", cranking_a=180)
    draft.cable("bank.pos", "starter.pos")
    draft.cable("bank.neg", "starter.neg")
    return draft.design()


@pytest.mark.parametrize(("design", "survey", "pattern"), CASES)
def test_no_pattern_makes_a_danger_of_its_own(
    design: Design, survey: Survey, pattern: Pattern
) -> None:
    before = {(f.rule, f.parts) for f in findings(design, survey) if f.severity == "danger"}
    built = pattern_design(design, pattern, survey)
    dangers = [f for f in findings(built, survey) if f.severity == "danger"]
    assert [f.title for f in dangers if (f.rule, f.parts) not in before] == []


@pytest.mark.parametrize(("design", "survey", "pattern"), CASES)
def test_what_is_aboard_stays(design: Design, survey: Survey, pattern: Pattern) -> None:
    built = pattern_design(design, pattern, survey)
    for part in design.components:
        if part.kind in KEPT:
            assert built.by_id[part.id].name == part.name
    items = {i.id for p in design.components if p.kind == "loads" for i in p.items}
    assert items <= {i.id for p in built.components if p.kind == "loads" for i in p.items}
    # Every load, source and starter is landed on both sides; no cable lands on nothing.
    landed = {ref for c in built.cables for ref in (c.start, c.end)}
    for part in built.components:
        if part.kind in (*KEPT, "loads", "relay", "dcdc", "one_way", "fuse", "switch"):
            assert {f"{part.id}.{p}" for p in part.posts() if "out" not in p} <= landed, part.id
    # Where places are known, new gear has one too.
    if all(p.place for p in design.components if p.kind == "bank"):
        gear = ("fuse", "switch", "relay", "dcdc")
        assert all(p.place for p in built.components if p.kind in gear)
    # Rewiring once more as the same pattern changes nothing.
    again = pattern_design(built, pattern, survey)
    assert differing(built, again) == ()


@pytest.mark.parametrize(("design", "survey", "pattern"), CASES[::3])
def test_patterns_are_drawn_without_a_fault(
    design: Design, survey: Survey, pattern: Pattern
) -> None:
    built = pattern_design(design, pattern, survey)
    layout = lay_out(built, "pos")
    for n, box in enumerate(layout.boxes):
        for other in layout.boxes[n + 1 :]:
            apart = (
                box.x + box.width <= other.x
                or other.x + other.width <= box.x
                or box.y + box.height <= other.y
                or other.y + other.height <= box.y
            )
            assert apart, (box.id, other.id)


def states_of(design: Design) -> list[State]:
    """Every position of every switch, of many switches each by itself; under way and alongside."""
    turned = [(s.id, switch_positions(s)) for s in switches(design)]
    if len(turned) <= 2:
        ways = [
            dict(zip([i for i, _ in turned], w, strict=True))
            for w in product(*(p for _, p in turned))
        ]
    else:
        ways = [{i: position} for i, positions in turned for position in positions]
    profile = design.profiles[0].id if design.profiles else None
    conditions = (
        {"engine": "on", "rpm": 1800.0, "sun": 0.5},
        {"shore": True, "sun": 0.0},
    )
    return [
        State(profile=profile, positions=way, **conditions[n % 2]) for n, way in enumerate(ways)
    ]


PATTERN_BOATS = [
    (design, pattern)
    for design in (BOATS[2][1], BOATS[-1][1], twin_engines())
    for pattern in fits(design)
]


@pytest.mark.parametrize(("design", "pattern"), PATTERN_BOATS)
def test_patterns_in_every_position_against_ngspice(design: Design, pattern: Pattern) -> None:
    built = pattern_design(design, pattern)
    with ThreadPoolExecutor(2) as pool:
        found = pool.map(lambda state: differences(built, state, pattern.id), states_of(built))
        assert [w for wrong in found for w in wrong] == []


@pytest.mark.parametrize("pattern", ["dual_relay", "engine_dcdc", "diode_isolator", "two_engines"])
def test_every_bank_is_charged_under_way(pattern: str) -> None:
    design = twin_engines() if pattern == "two_engines" else two_banks().design()
    built = pattern_design(design, pattern_named(pattern))
    result = bench(built, State(engine="on", rpm=2400))
    for bank, now in result.point.banks.items():
        assert now.current_a > 0, bank
        assert any(bank in reached for reached in result.reach.charges.values())


def test_a_pattern_that_does_not_fit_says_why() -> None:
    design = demo_job("ebb_tide.json").variants[0].design
    with pytest.raises(ChangeError, match="nothing may join them"):
        pattern_change(design, pattern_named("dual_relay"))
    with pytest.raises(ChangeError, match="known: single_on_off"):
        pattern_named("dual_realy")


def test_applying_is_one_named_change_that_keeps_gear_and_its_figures() -> None:
    job = demo_job("marsh_wren.json")
    found = job.variants[0].design
    change = pattern_change(found, pattern_named("selector_relay"), job.survey)
    built = apply_change(found, change)
    # The selector aboard has no known break order: the pattern asks for one that makes first.
    kinds = [p for p in built.components if p.kind == "selector"]
    assert [p.make_before_break for p in kinds] == [True]
    # Gear keeps its figures; what nobody can reach is brought to where people stand.
    was, now = found.by_id["thruster_switch"], built.by_id["thruster_switch"]
    assert now == was.model_copy(update={"place": now.place})
    assert (was.place, now.place) == ("bow", "helm")
    assert built.cables_by_id["solar_house"] == found.cables_by_id["solar_house"]
    # What is always on behind the panel has a feed of its own now.
    fed = next(p for p in built.components if p.kind == "loads" and "always on" in p.name)
    assert [i.id for i in fed.items] == ["co_alarm"]


@pytest.mark.parametrize(
    ("amps", "rating"), [(2, 3), (4.0, 5), (4.1, 7.5), (80, 100), (80.1, 125), (2000, 600)]
)
def test_the_fuse_carries_its_current_for_long(amps: float, rating: float) -> None:
    # at most 80 % of the rating: 4 / 0.8 = 5, 80 / 0.8 = 100
    assert fuse_rating_a(amps) == rating


def test_a_first_size_by_drop_and_by_current() -> None:
    # 10 A over 5 m of a 12 V system: 0.019153 x 10 x 10 / 0.36 V = 5.3 mm2: 8 AWG is 8.37 mm2
    assert gauge_for(10, 5.0, 12) == "8 AWG"
    # short, it is the current that decides: 16 AWG is allowed 25 x 0.85 = 21.25 A, 14 AWG 29.75 A
    assert gauge_for(21, 0.2, 12) == "16 AWG"
    assert gauge_for(22, 0.2, 12) == "14 AWG"
    assert gauge_for(0.1, 0.2, 12) == "16 AWG"  # never thinner


def test_unlike_banks_get_a_dcdc_charger_set_for_them() -> None:
    draft = two_banks()
    draft.bank("bow_bank", role="thruster", chemistry="lfp", unit_ah=60)
    draft.load("thruster", 120.0, brief=True, profiles=[])
    draft.cable("bow_bank.pos", "thruster.pos")
    draft.cable("bow_bank.neg", "thruster.neg")
    draft.cable("bow_bank.neg", "bar.s9")
    built = pattern_design(draft.design(), pattern_named("dual_relay"))
    [charger] = [p for p in built.components if p.kind == "dcdc"]
    # lithium iron phosphate: 14.2 V absorption by the table
    assert charger.set_v == pytest.approx(14.2, abs=0.3)
    assert not [f for f in findings(built) if f.rule == "CH-1" and f.severity == "danger"]


def test_a_boat_without_a_house_bank_is_offered_little() -> None:
    draft = Draft()
    draft.bank("a_bank", role="engine")
    draft.bank("b_bank", role="engine")
    assert fits(draft.design()) == []
