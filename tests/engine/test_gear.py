"""The rarer gear in the operating point, each by hand."""

from __future__ import annotations

from typing import Any

import pytest
from strom_engine.circuit import bench, operating_point
from strom_engine.design import Design, State
from strom_engine.errors import DesignError
from strom_engine.rules import findings

from bench.designs import Draft
from tests.engine.boats import one_bank
from tests.engine.test_against_ngspice import differences

RUNNING = State(engine="on", rpm=3000, profile="living")


def boat(**house: Any) -> Draft:
    """An engine bank with the alternator, a house bank with the panel, one negative bar."""
    draft = Draft()
    draft.bank("engine_bank", role="engine", unit_cca_a=700, soc=0.95)
    draft.bank("house_bank", **({"unit_ah": 200, "soc": 0.5} | house))
    draft.part("alternator", "alternator", rated_a=90, hot_share=1.0, set_v=14.4)
    draft.part("bus_bar", "bar", polarity="neg", studs=16)
    draft.load("panel", 6.0)
    draft.cable("alternator.out", "engine_bank.pos", "2 AWG")
    draft.cable("house_bank.pos", "panel.pos", "8 AWG")
    ground(draft, "engine_bank", "house_bank", "alternator", "panel")
    return draft


def ground(draft: Draft, *refs: str) -> None:
    """A negative lead for each part, or for a post of one."""
    for ref in refs:
        stud = sum("bar.s" in c["end"] for c in draft.cables) + 1
        start = ref if "." in ref else f"{ref}.neg"
        draft.cable(start, f"bar.s{stud}", "4 AWG")


def topped_up(**figures: Any) -> Draft:
    """A one-way combiner from the engine bank to the house bank."""
    draft = boat()
    draft.part("one_way", "topper", **({"start_v": 13.2, "stop_v": 12.9} | figures))
    draft.cable("engine_bank.pos", "topper.in", "6 AWG")
    draft.cable("topper.out", "house_bank.pos", "6 AWG")
    ground(draft, "topper")
    return draft


def test_a_one_way_combiner_passes_its_limit_and_changes_no_voltage() -> None:
    point = operating_point(topped_up(limit_a=15).design(), RUNNING)
    now = point.converters["topper"]
    assert (now.verdict, now.mode) == ("closed", "limit")
    assert now.in_a == now.out_a == pytest.approx(15)
    assert now.in_v is not None and now.out_v is not None and now.in_v > now.out_v
    assert point.totals.converted_a == 0  # what goes in comes out
    assert point.banks["house_bank"].given_by_a["alternator"] == pytest.approx(
        15 - point.loads["panel"].current_a, abs=1e-6
    )
    wide = operating_point(topped_up(limit_a=400).design(), RUNNING).converters["topper"]
    assert wide.mode == "passing" and 15 < wide.out_a < 90


@pytest.mark.parametrize(
    ("state", "figures", "verdict", "words"),
    [
        (State(), {}, "open", "below its start at 13.2 V"),
        (State(previous_states={"topper": "closed"}), {}, "open", "below its stop at 12.9 V"),
        (RUNNING, {}, "closed", "above its stop"),
        # 60 A cannot be had from an alternator that idles
        (
            State(engine="on", rpm=750),
            {"limit_a": 60, "start_v": 13.0, "stop_v": 12.95},
            "chatters",
            "below",
        ),
    ],
)
def test_when_it_passes(state: State, figures: dict[str, Any], verdict: str, words: str) -> None:
    now = operating_point(topped_up(**figures).design(), state).converters["topper"]
    assert (now.verdict, words in now.why) == (verdict, True), now.why


def test_it_never_passes_back() -> None:
    draft = topped_up(limit_a=40, start_v=12.0, stop_v=11.0)
    draft.parts[0]["soc"], draft.parts[1]["soc"] = 0.3, 1.0
    point = operating_point(draft.design(), State())
    assert point.passing["topper"].current_a == 0
    assert abs(point.banks["engine_bank"].current_a) < 1e-6


def guarded(state_c: float = 20.0, **limits: Any) -> Draft:
    """A lithium house bank behind its disconnect, the alternator and the panel behind that."""
    draft = Draft()
    draft.bank("house_bank", chemistry="lfp", unit_ah=200, soc=0.6, temperature_c=state_c)
    draft.part("protection", "guard", **({"guards": "house_bank"} | limits))
    draft.part("alternator", "alternator", rated_a=90, hot_share=1.0, set_v=14.2)
    draft.part("bus_bar", "bar", polarity="neg", studs=16)
    draft.load("panel", 6.0)
    draft.cable("house_bank.pos", "guard.bank")
    draft.cable("guard.system", "alternator.out", "2 AWG")
    draft.cable("guard.system", "panel.pos", "8 AWG")
    ground(draft, "house_bank", "alternator", "panel")
    return draft


@pytest.mark.parametrize(
    ("draft", "state", "why"),
    [
        (guarded(), RUNNING, None),
        (guarded(high_v=13.3), RUNNING, "above 13.3 V"),
        (guarded(charge_limit_a=50), RUNNING, "above 50 A"),
        (guarded(discharge_limit_a=4), State(profile="living"), "drawn, above 4 A"),
        (guarded(low_v=13.3), State(profile="living"), "below 13.3 V"),
        (guarded(-5.0), RUNNING, "of charge at -5 °C, below 0 °C"),
        (guarded(-5.0), State(profile="living"), None),
    ],
)
def test_the_disconnect_of_a_lithium_bank(draft: Draft, state: State, why: str | None) -> None:
    point = operating_point(draft.design(), state)
    now = point.contacts["guard"]
    assert now.closed is (why is None)
    assert why is None or why in now.why
    # What opens while it charges leaves the alternator without a bank.
    alone = why is not None and state.engine == "on"
    assert point.loose_sources == (("alternator",) if alone else ())
    assert ("panel" in point.dead_parts) is (why is not None)
    assert now.moved is (why is not None) and ("guard" in point.moved()) is now.moved


def windlass(control: str) -> Draft:
    """A held switch in the feed of a windlass, its coil fed from one post or the other."""
    draft = one_bank(0.0001)
    draft.part("switch", "contactor", drive="held", position="on")
    draft.load("windlass", 60.0, law="current")
    draft.cable("bank.pos", "contactor.a")
    draft.cable("contactor.b", "windlass.pos")
    draft.cable(control, "contactor.ctrl_pos", "16 AWG")
    draft.cable("contactor.ctrl_neg", "bank.neg", "16 AWG")
    draft.cable("windlass.neg", "bank.neg")
    return draft


def test_a_held_switch_needs_its_coil() -> None:
    fed = operating_point(windlass("bank.pos").design(), State(profile="living"))
    assert fed.contacts["contactor"].closed
    assert fed.loads["windlass"].current_a == pytest.approx(60, rel=0.01)
    # 0.8 A at 12 V: 15 ohm
    volts = fed.contacts["contactor"].volts_v or 0
    assert fed.contacts["contactor"].current_a == pytest.approx(volts / 15, rel=1e-3)
    assert fed.totals.given_a == pytest.approx(fed.totals.used_a + fed.totals.stored_a, abs=1e-3)
    # Fed from behind its own contact it holds once closed, and never pulls in.
    own = windlass("contactor.b").design()
    held = operating_point(own, State(previous_states={"contactor": "closed"}))
    assert held.contacts["contactor"].closed
    let_go = operating_point(own, State(previous_states={"contactor": "open"}))
    assert "it lets go" in let_go.contacts["contactor"].why
    assert let_go.loads["windlass"].volts_v is None
    off = operating_point(windlass("bank.pos").design(), State(positions={"contactor": "off"}))
    assert off.contacts["contactor"].rests and off.loads["windlass"].volts_v is None
    # A latching one stays where it stands, with or without a control circuit.
    latching = windlass("bank.pos")
    latching.parts[2]["drive"] = "latching"
    assert operating_point(latching.design(), State()).contacts == {}


def inverted(**fields: Any) -> Draft:
    """An inverter of 1500 W on one bank, with a kettle of 600 W."""
    draft = one_bank(0.0001, unit_ah=400)
    kettle = {"id": "kettle", "name": "Kettle", "power_w": 600, "profiles": ["living"]}
    fields = {"rated_w": 1500, "idle_w": 12, "items": [kettle]} | fields
    draft.part("inverter", "inverter", **fields)
    draft.cable("bank.pos", "inverter.pos")
    draft.cable("bank.neg", "inverter.neg")
    return draft


def test_an_inverter_takes_ac_over_its_efficiency_and_its_idling() -> None:
    # 600 W of 1500 W: 0.4, between 0.94 at 0.25 and 0.93 at 0.5: 0.934; 600 / 0.934 + 12 = 654.4 W
    point = operating_point(inverted().design(), State(profile="living"))
    now = point.loads["inverter"]
    assert now.volts_v is not None
    assert now.current_a * now.volts_v == pytest.approx(600 / 0.934 + 12, rel=1e-6)
    assert now.items[0].current_a == pytest.approx(600 / 0.934 / now.volts_v, rel=1e-6)
    idle = operating_point(inverted().design(), State()).loads["inverter"]
    assert idle.current_a * (idle.volts_v or 0) == pytest.approx(12, rel=1e-6)
    off = operating_point(inverted(position="off").design(), State(profile="living"))
    assert off.loads["inverter"].current_a == 0


def test_an_inverter_cuts_out_under_its_load() -> None:
    weak = inverted()
    weak.parts[0] |= {"unit_ah": 40, "soc": 0.25}
    point = operating_point(weak.design(), State(profile="living"))
    low = point.contacts["inverter"]
    assert low.verdict == "closed"
    strict = weak
    strict.parts[2]["cut_out_v"] = 11.5
    cut = operating_point(strict.design(), State(profile="living")).contacts["inverter"]
    assert (cut.verdict, cut.moved) == ("open", True)
    assert "under its load" in cut.why


def test_an_inverter_charger_passes_the_shore_through_and_charges() -> None:
    draft = inverted(charger_a=40)
    draft.parts[0]["soc"] = 0.5
    result = bench(draft.design(), State(profile="living", shore=True))
    assert result.point.loads["inverter"].current_a == 0
    assert result.point.sources["inverter"].current_a == pytest.approx(40, abs=0.01)
    assert result.reach.charges["inverter"] == ("bank",)
    away = bench(draft.design(), State(profile="living"))
    assert away.point.sources["inverter"].mode == "idle"
    assert away.point.loads["inverter"].current_a > 40


@pytest.mark.parametrize(
    ("driven_by", "state", "amps"),
    [
        ("wind", {"wind_kn": 5}, 0.0),
        ("wind", {"wind_kn": 12}, 4.0),  # halfway between 8 kn, 0 A and 16 kn, 8 A
        ("wind", {"wind_kn": 60}, 20.0),  # beyond the curve it gives what it gave last
        ("water", {"wind_kn": 12}, 0.0),
        ("water", {"boat_kn": 12}, 4.0),
    ],
)
def test_wind_and_towed_generators(driven_by: str, state: dict[str, Any], amps: float) -> None:
    draft = one_bank(0.0001, soc=0.5)
    points = [{"speed_kn": s, "current_a": a} for s, a in ((8, 0), (16, 8), (30, 20))]
    draft.part("generator", "generator", driven_by=driven_by, points=points, set_v=14.2)
    draft.cable("bank.pos", "generator.pos")
    draft.cable("bank.neg", "generator.neg")
    now = operating_point(draft.design(), State(**state)).sources["generator"]
    assert now.current_a == pytest.approx(amps, abs=1e-6)
    falling = draft.parts[-1] | {"points": points[::-1]}
    draft.parts[-1] = falling
    with pytest.raises(DesignError, match="must rise"):
        draft.design()


@pytest.mark.parametrize(
    ("limits", "amps"),
    [
        ({}, 90),
        ({"belt_limit_a": 60}, 60),
        ({"field_limit": 0.5}, 45),
        ({"belt_limit_a": 60, "field_limit": 0.5}, 45),
    ],
)
def test_what_an_external_regulator_lets_through(limits: dict[str, Any], amps: float) -> None:
    draft = boat()
    draft.parts[2] |= limits | {"full_rpm": 3000}
    draft.parts[0] |= {"unit_ah": 400, "soc": 0.2}
    now = operating_point(draft.design(), RUNNING).sources["alternator"]
    assert now.limit_a == pytest.approx(amps)


def excited(post: bool, own: str = "output") -> Draft:
    draft = boat()
    draft.parts[2]["excitation"] = own
    draft.cables[0]["end"] = "isolator.in"
    draft.part("isolator", "isolator", sort="silicon", excitation_post=post)
    draft.cable("isolator.out1", "engine_bank.pos", "2 AWG")
    draft.cable("isolator.out2", "house_bank.pos", "2 AWG")
    if post:
        draft.cable("engine_bank.pos", "isolator.excite", "16 AWG")
    return draft


HALF = RUNNING.model_copy(update={"soc": {"engine_bank": 0.5, "house_bank": 0.5}})


def test_an_alternator_that_starts_on_its_output_needs_an_excitation_post() -> None:
    dead = operating_point(excited(False).design(), RUNNING)
    assert dead.sources["alternator"].mode == "unexcited"
    assert dead.sources["alternator"].current_a == 0 and dead.loose_sources == ()
    for draft in (excited(True), excited(False, "own")):
        assert operating_point(draft.design(), HALF).sources["alternator"].current_a > 20
    assert operating_point(boat().design(), HALF).sources["alternator"].current_a > 20


def test_two_inputs_feed_the_same_outputs() -> None:
    draft = excited(False, "own")
    draft.parts[-1]["inputs"] = 2
    draft.part("alternator", "second", rated_a=40, hot_share=1.0, set_v=14.4, engine="second")
    draft.cable("second.out", "isolator.in2", "4 AWG")
    ground(draft, "second")
    both = operating_point(draft.design(), RUNNING)
    outs = [both.passing[f"isolator.out{n}"].current_a for n in (1, 2)]
    given = both.sources["alternator"].current_a + both.sources["second"].current_a
    assert sum(outs) == pytest.approx(given, abs=1e-3)
    assert set(both.passing) == {"isolator.out1", "isolator.out2"}
    one = operating_point(draft.design(), RUNNING.model_copy(update={"second_engine": "off"}))
    assert one.sources["second"].mode == "idle" and one.sources["alternator"].current_a > 0
    assert differences(draft.design(), RUNNING, "two inputs") == []


@pytest.mark.parametrize("isolated", [False, True])
def test_a_24_volt_bank_beside_a_12_volt_one(isolated: bool) -> None:
    draft = boat()
    draft.bank("upper_bank", role="other", series=2, soc=0.5)
    figures = {"limit_a": 10, "set_v": 28.8, "start_v": 13.2, "stop_v": 12.8}
    draft.part("dcdc", "booster", isolated=isolated, **figures)
    draft.load("heater", 5.0)
    draft.parts[-1]["nominal_v"] = 24
    draft.cable("engine_bank.pos", "booster.in", "4 AWG")
    draft.cable("booster.out", "upper_bank.pos", "6 AWG")
    draft.cable("upper_bank.pos", "heater.pos", "8 AWG")
    draft.cable("heater.neg", "upper_bank.neg", "8 AWG")
    ground(draft, "booster")
    if isolated:
        draft.cable("booster.out_neg", "upper_bank.neg", "6 AWG")
    else:
        ground(draft, "upper_bank")
    result = bench(draft.design(), RUNNING)
    point = result.point
    heater = point.loads["heater"]
    # 5 A at 25.2 V, as constant power
    assert heater.current_a * (heater.volts_v or 0) == pytest.approx(5 * 25.2, rel=1e-6)
    now = point.converters["booster"]
    assert now.out_a == pytest.approx(10)
    assert now.in_a == pytest.approx(10 * (now.out_v or 0) / 0.9 / (now.in_v or 1), rel=1e-6)
    assert set(result.reach.charges["alternator"]) == {"engine_bank", "upper_bank"}
    assert differences(draft.design(), RUNNING, "24 V") == []


def test_a_fused_bus_and_what_a_shunt_does_not_see() -> None:
    draft = one_bank(4.0)
    draft.part("fuse_block", "block", branch_a=[10, 20])
    draft.part("shunt", "shunt", idle_a=1e-6)
    draft.load("pump", 3.0, law="current")
    draft.cables = []
    for start, end in (
        ("bank.pos", "block.in"),
        ("block.b1", "lamp.pos"),
        ("block.b2", "pump.pos"),
        ("bank.neg", "shunt.bank"),
        ("shunt.system", "lamp.neg"),
        ("pump.neg", "bank.neg"),  # past the shunt
    ):
        draft.cable(start, end)
    point = operating_point(draft.design(), State(profile="living"))
    assert point.conductor_a["block.b1"] == pytest.approx(-4)
    assert point.conductor_a["block.b2"] == pytest.approx(-3)
    now = point.shunts["shunt"]
    assert (now.reads_a, now.bank_a) == (pytest.approx(-4), pytest.approx(-7))
    assert now.bypassed_a == pytest.approx(-3)


def test_relays_of_every_trim() -> None:
    def with_relay(**trim: Any) -> Design:
        draft = boat()
        thresholds = {"cut_in_v": 12.7, "cut_in_s": 60, "cut_out_v": 12.3, "cut_out_s": 30}
        draft.part("relay", "relay", **(thresholds | trim))
        draft.part("starter", "starter", cranking_a=200)
        draft.part("switch", "minus_switch", position="on")
        draft.cable("engine_bank.pos", "relay.a", "4 AWG")
        draft.cable("relay.b", "house_bank.pos", "4 AWG")
        draft.cable("engine_bank.pos", "starter.pos")
        draft.cable("relay.neg", "minus_switch.a", "16 AWG")
        draft.cable("minus_switch.b", "bar.s16", "16 AWG")
        ground(draft, "starter")
        return draft.design()

    rest = State()
    assert operating_point(with_relay(), rest).relays["relay"].closed
    dead = operating_point(with_relay(ignition=True), rest).relays["relay"]
    assert not dead.closed and "ignition" in dead.why
    cranking = State(cranking=True)
    held = operating_point(with_relay(start_isolation=True), cranking).relays["relay"]
    assert not held.closed and "cranks" in held.why
    off = State(positions={"minus_switch": "off"})
    blind = operating_point(with_relay(), off).relays["relay"]
    assert "no bank" in blind.why


def test_an_alternator_left_alone_by_the_protection_is_told() -> None:
    told = {
        clamp: [f.severity for f in findings(fitted(clamp)) if "without a bank" in f.title]
        for clamp in (None, False, True)
    }
    assert told == {None: ["cannot_tell"], False: ["danger"], True: []}


def fitted(clamp: bool | None) -> Design:
    draft = guarded()
    draft.parts[2] |= {"surge_clamp": clamp, "belt_limit_a": 50, "temperature_probe": True}
    return draft.design()
