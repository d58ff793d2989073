"""Volts and amps: by hand where that can be done, by their properties on generated designs."""

import math

import pytest
from hypothesis import example, given, settings
from hypothesis import strategies as st
from strom_engine.circuit import bench, operating_point
from strom_engine.design import State
from strom_engine.errors import StateError

from bench.designs import Draft
from bench.generated import generated_design, generated_state
from tests.engine.boats import demo_designs, one_bank, relay_boat, two_banks

LIVING = {"profile": "living"}
# One leg of one_bank: 0.0177572 x 2 / 13.3 + 2 x 0.0002 = 3.0703 mohm
LEG_OHM = 0.0177572 * 2 / 13.3 + 0.0004


def test_a_lamp_by_hand() -> None:
    # 10 A out of 12.85 V: 40 mV in the bank, 2 x 30.7 mV in the cable
    point = operating_point(one_bank().design(), State(**LIVING))
    assert point.banks["bank"].current_a == pytest.approx(-10.0)
    assert point.banks["bank"].volts_v == pytest.approx(12.81)
    assert point.loads["lamp"].volts_v == pytest.approx(12.81 - 20 * LEG_OHM, abs=1e-6)
    assert point.conductor_drop_v["c0"] == pytest.approx(10 * LEG_OHM)
    assert point.totals.lost_w == pytest.approx(200 * LEG_OHM)


def test_a_load_of_constant_power_draws_more_as_its_volts_fall() -> None:
    # 10 A at 12.6 V are 126 W; I (12.85 - I R) = 126 with R = 4 mohm + two legs
    ohm = 0.004 + 2 * LEG_OHM
    amps = (12.85 - math.sqrt(12.85**2 - 4 * ohm * 126)) / (2 * ohm)
    point = operating_point(one_bank(law="power").design(), State(**LIVING))
    assert point.loads["lamp"].current_a == pytest.approx(amps, abs=1e-6)


def test_a_load_folds_back_instead_of_asking_the_impossible() -> None:
    # 2000 A at 12.6 V cannot be had through 10 mohm: below 9 V it behaves as a resistance
    point = operating_point(one_bank(load_a=2000, law="power").design(), State(**LIVING))
    resistance = 9.0**2 / (2000 * 12.6)
    amps = 12.85 / (resistance + 0.004 + 2 * LEG_OHM)
    assert point.loads["lamp"].current_a == pytest.approx(amps, rel=1e-6)


@pytest.mark.parametrize(
    ("rpm", "amps"),
    [
        (600, 0.0),  # below cut-in
        (1425, 80 * 0.75 * 0.75),  # half way: 1 - 0.5^2 of the hot output
        (2200, 80 * 0.75),
        (4000, 80 * 0.75),
    ],
)
def test_alternator_at_its_limit(rpm: float, amps: float) -> None:
    point = operating_point(two_banks().design(), State(engine="on", rpm=rpm, **LIVING))
    assert point.sources["alternator"].current_a == pytest.approx(amps)
    assert point.sources["alternator"].mode == ("limit" if amps else "idle")


def test_alternator_holds_its_voltage_on_full_banks() -> None:
    state = State(engine="on", rpm=2200, soc={"engine_bank": 1}, **LIVING)
    design = two_banks(selector={"position": "1"}).design()
    now = operating_point(design, state).sources["alternator"]
    assert now.mode == "voltage"
    assert now.sense_v == pytest.approx(14.4 - 0.0002 * now.current_a)


def long_charge_run(**alternator: object) -> Draft:
    draft = Draft()
    draft.bank("bank", soc=1.0)
    draft.part("alternator", "alternator", rated_a=80, set_v=14.4, **alternator)
    draft.cable("alternator.out", "bank.pos", "8 AWG", 6.0)
    draft.cable("alternator.neg", "bank.neg", "8 AWG", 6.0)
    return draft


def test_sense_leads_move_the_held_voltage_to_the_bank() -> None:
    state = State(engine="on", rpm=2200)
    machine = operating_point(long_charge_run().design(), state)
    draft = long_charge_run(sensing="external")
    draft.cable("alternator.sense_pos", "bank.pos", "10 AWG", 6.0)
    half = operating_point(draft.design(), state)
    draft.cable("alternator.sense_neg", "bank.neg", "10 AWG", 6.0)
    both = operating_point(draft.design(), state)
    drop_v = {name: p.conductor_drop_v["c0"] for name, p in (("machine", machine), ("half", half))}
    volts = [p.banks["bank"].volts_v for p in (machine, half, both)]
    assert volts == sorted(volts)
    assert both.banks["bank"].volts_v == pytest.approx(14.4, abs=0.02)
    # with the positive lead alone the drop of one leg is still believed
    assert half.banks["bank"].volts_v == pytest.approx(14.4 - drop_v["half"], abs=0.02)
    assert machine.banks["bank"].volts_v == pytest.approx(14.4 - 2 * drop_v["machine"], abs=0.02)


def test_a_charger_shares_its_limit_among_its_outputs() -> None:
    draft = two_banks(selector={"position": "off"})
    draft.part("charger", "charger", outputs=2, rated_a=20, set_v=14.4, float_v=13.5)
    draft.cable("charger.out1", "engine_bank.pos")
    draft.cable("charger.out2", "house_bank.pos")
    draft.cable("charger.neg", "bar.s8")
    point = operating_point(draft.design(), State(shore=True))
    given = [point.banks[b].given_by_a["charger"] for b in ("engine_bank", "house_bank")]
    assert sum(given) == pytest.approx(20.0, abs=1e-3)
    assert given[1] > given[0] > 0  # the emptier bank takes more


@pytest.mark.parametrize(
    ("controller", "amps_at"),
    [("mppt", lambda volts: 300 * 0.5 * 0.95 / volts), ("pwm", lambda volts: 300 * 0.5 / 18)],
)
def test_solar_by_controller(controller: str, amps_at: object) -> None:
    draft = one_bank(soc=0.4)
    draft.part("solar", "solar", panel_w=300, controller=controller, set_v=14.4)
    draft.cable("solar.pos", "bank.pos")
    draft.cable("solar.neg", "bank.neg")
    now = operating_point(draft.design(), State(sun=0.5)).sources["solar"]
    assert callable(amps_at)
    assert now.current_a == pytest.approx(amps_at(now.volts_v), rel=1e-6)


def test_cranking_pulls_the_bank_down() -> None:
    # 10.5 V / 300 A = 35 mohm; the 1 m cables, contact and bank in series
    point = operating_point(two_banks(selector={"position": "1"}).design(), State(cranking=True))
    starter = point.starters["starter"]
    assert starter.current_a == pytest.approx(starter.volts_v / 0.035)
    assert 10.0 < starter.volts_v < point.banks["engine_bank"].volts_v < 12.0


def test_what_no_bank_reaches_is_named_not_guessed() -> None:
    point = operating_point(
        two_banks(selector={"position": "off"}).design(), State(engine="on", **LIVING)
    )
    assert point.loose_sources == ("alternator",)
    assert point.sources["alternator"].mode == "loose"
    assert point.loads["panel"].volts_v is None
    assert "panel" in point.dead_parts
    assert point.post_v["panel.pos"] is None


def test_a_field_contact_shuts_the_alternator_down_first() -> None:
    design = two_banks(selector={"position": "off", "field_contact_of": "alternator"}).design()
    assert operating_point(design, State(engine="on")).loose_sources == ()


@pytest.mark.parametrize(
    ("sensing", "changes", "state", "verdict"),
    [
        ("dual", {}, {}, "open"),
        ("dual", {}, {"engine": "on", "rpm": 2000}, "closed"),
        # the source lands on side a, the relay watches b
        ("b", {}, {"engine": "on", "rpm": 2000}, "open"),
        ("a", {}, {"engine": "on", "rpm": 2000}, "closed"),
        # a weak alternator on the small full bank, a deep large one behind the relay
        (
            "dual",
            {"alternator": {"rated_a": 12}, "house_bank": {"soc": 0.3, "parallel": 4}},
            {"engine": "on", "rpm": 2000, "profile": "living"},
            "chatters",
        ),
    ],
)
def test_relay_verdicts(sensing: str, changes: dict, state: dict, verdict: str) -> None:
    relay = operating_point(relay_boat(sensing, **changes).design(), State(**state)).relays["relay"]
    assert relay.verdict == verdict
    assert relay.closed == (verdict == "closed")
    assert relay.why


def test_a_relay_between_its_thresholds_stays_as_it_was() -> None:
    design = relay_boat(house_bank={"chemistry": "lfp", "soc": 0.7}).design()
    assert operating_point(design, State()).relays["relay"].closed is False
    held = operating_point(design, State(previous_states={"relay": "closed"})).relays["relay"]
    assert held.closed
    assert operating_point(design, State()).relays["relay"].holds


def test_a_relay_without_its_negative_never_closes() -> None:
    draft = relay_boat()
    draft.cables = [c for c in draft.cables if c["start"] != "relay.neg"]
    relay = operating_point(draft.design(), State(engine="on", rpm=2200)).relays["relay"]
    assert (relay.verdict, relay.sees_open_v["a"]) == ("open", None)
    assert "negative" in relay.why


def test_a_state_that_names_what_is_not_there_tells_all_of_it() -> None:
    state = State(positions={"selektor": "1", "selector": "3"}, profile="party", soc={"bilge": 0.5})
    with pytest.raises(StateError) as caught:
        operating_point(two_banks().design(), state)
    assert {p.path for p in caught.value.problems} == {
        "positions.selektor",
        "positions.selector",
        "profile",
        "soc.bilge",
    }


@given(st.integers(0, 10**6))
@example(243669)  # an isolator with one output to a bank whose minus is loose
@example(23507)  # a regulator that senses behind an isolator, beside a solar panel
@example(300859)  # a relay and a dc-dc charger that drive each other round
@example(501698)  # a dc-dc charger that pulls its own input down
@example(33654)  # a bank with a loose minus, its protection drawing on its posts
@example(354920)  # a start from a circuit alike that goes round
@example(372977)  # a bank about no current at all
@settings(max_examples=120, deadline=None)
def test_power_balances_and_reach_agrees_with_the_numbers(seed: int) -> None:
    design = generated_design(seed)
    result = bench(design, generated_state(design, seed))
    point = result.point
    assert point.balance_residual < 1e-6
    assert set(point.loose_sources) == set(result.reach.loose_sources)
    for name, now in point.loads.items():
        # fed by the numbers only where the graph has a path, and dead where it has none
        assert (now.volts_v is None) == (not result.reach.fed_by[name])
        # below a milliamp is the solver's rounding
        givers = {g for g, amps in now.given_by_a.items() if g in point.banks and amps > 1e-3}
        assert givers <= set(result.reach.fed_by[name])
        assert sum(now.given_by_a.values()) == pytest.approx(max(now.current_a, 0), rel=1e-4)
    for bank, now in point.banks.items():
        sources = {g for g in now.given_by_a if g in point.sources}
        assert all(bank in result.reach.charges[source] for source in sources)
    sums = point.totals
    assert sums.given_a == pytest.approx(
        sums.used_a + sums.stored_a + sums.converted_a, rel=1e-6, abs=1e-3
    )


@given(st.integers(0, 10**6))
@settings(max_examples=40, deadline=None)
def test_the_same_question_has_the_same_answer(seed: int) -> None:
    design = generated_design(seed)
    state = generated_state(design, seed)
    again = type(design).model_validate_json(design.model_dump_json())
    assert bench(design, state) == bench(again, state)


@pytest.mark.parametrize("design", demo_designs())
def test_more_rpm_never_charges_less(design: object) -> None:
    points = [bench(design, State(engine="on", rpm=r)).point for r in (700, 1000, 1600, 2600)]
    # In watts: a dc-dc charger makes few amps of many.
    stored_w = [sum(b.volts_v * b.current_a for b in p.banks.values()) for p in points]
    assert stored_w == sorted(stored_w)


def test_brief_items_run_when_they_are_asked_for() -> None:
    draft = two_banks(selector={"position": "2"})
    panel = next(part for part in draft.parts if part["id"] == "panel")
    panel["items"].append(
        {"id": "windlass", "name": "Windlass", "draw_a": 80.0, "law": "current", "brief": True}
    )
    design = draft.design()
    quiet = operating_point(design, State(profile="living")).loads["panel"].current_a
    pulled = operating_point(design, State(profile="living", running=("panel.windlass",)))
    assert pulled.loads["panel"].current_a == pytest.approx(quiet + 80, abs=1)
    with pytest.raises(StateError, match=r"did you mean 'panel\.windlass'"):
        operating_point(design, State(running=("panel.windlas",)))
