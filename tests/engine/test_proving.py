"""Proving: which tests there are, their ranges by hand and by draw, verdicts, the meter."""

from __future__ import annotations

import json
import threading
import urllib.error
import urllib.request
from http.server import ThreadingHTTPServer

import numpy as np
import pytest
from strom_engine.circuit import operating_point
from strom_engine.design import Design, State, apply_change
from strom_engine.design.part_changes import SetSystemVolts
from strom_engine.errors import NotSettledError, StateError
from strom_engine.faults import Fault
from strom_engine.prove import (
    Instrument,
    ProvingTest,
    Today,
    boats_drawn,
    instrument_for,
    judged,
    proving_tests,
)
from strom_engine.survey import surveyed
from strom_meter.__main__ import handler
from strom_meter.played import PlayedBoat

from tests.engine.boats import DEMO_FILES, demo_job, relay_boat, two_banks


def plain_boat(system_v: int = 12) -> Design:
    design = two_banks(panel={"items": [PUMP]}).design()
    return design if system_v == 12 else apply_change(design, SetSystemVolts(system_v=24))


PUMP = {"id": "pump", "name": "Bilge pump", "draw_a": 5.0, "always_on": True, "law": "current"}


def by_key(design: Design, today: Today | None = None) -> dict[str, ProvingTest]:
    return {t.key: t for t in proving_tests(design, today)}


def test_the_list_has_what_the_scheme_has_in_working_order() -> None:
    tests = proving_tests(plain_boat())
    assert [t.group for t in tests] == sorted(
        (t.group for t in tests),
        key=["cold", "power on", "positions", "sharing", "engine", "runs"].index,
    )
    told = {t.key: t for t in tests}
    assert told["switch:selector:both"].expects == (
        "joined: one to common, two to common; nothing else"
    )
    assert told["switch:selector:off"].expects == "nothing joined"
    assert told["cut:selector"].expects == "dead: Panel; alive: nothing"
    assert not any(t.group == "sharing" for t in tests), "nothing shares charge here"
    assert {"crank:starter:plus", "crank:starter:minus", "charge:alternator:minus"} <= set(told)
    assert told["crank:starter:bank"].setup[0] == "Engine: turn the starter, fuel cut off"
    assert "Selector: both" in told["crank:starter:bank"].setup
    sharing = [t.key for t in proving_tests(relay_boat().design()) if t.group == "sharing"]
    assert sharing == ["closes:relay", "joined:relay", "opens:relay"]


@pytest.mark.parametrize("system_v", [12, 24])
def test_the_middle_of_a_range_is_the_operating_point(system_v: int) -> None:
    design = plain_boat(system_v)
    told = by_key(design)
    off = operating_point(design, State(positions={"selector": "off"}))
    both = operating_point(design, State(cranking=True))
    for key, value in (
        ("rest:house_bank", off.banks["house_bank"].volts_v),
        ("off:panel", 0.0),
        ("crank:starter:starter", both.starters["starter"].volts_v),
    ):
        wanted = told[key].wanted
        assert wanted is not None and value is not None
        assert wanted.middle == pytest.approx(value, abs=0.5 * wanted.half), key
        assert wanted.half < 0.06 * system_v, key
    # 0.5 % of nothing and two digits of 10 mV: 20 mV / sqrt(3) x 1.96
    dead = told["off:panel"].wanted
    assert dead is not None and dead.half == pytest.approx(0.02 / 3**0.5 * 1.96, rel=0.01)


def test_rest_volts_that_are_read_make_later_ranges_narrower_but_not_their_own() -> None:
    design = plain_boat()
    read = Today(rest_v={"house_bank": 12.60, "engine_bank": 12.75}, rested_h=12)
    before, after = by_key(design), by_key(design, read)
    own = before["rest:house_bank"].wanted, after["rest:house_bank"].wanted
    assert own[0] == own[1]
    crank = before["crank:starter:bank"].wanted, after["crank:starter:bank"].wanted
    assert crank[0] and crank[1] and crank[1].half < crank[0].half
    # An hour of rest is no rest: the voltage may mislead, and says less.
    short = by_key(design, Today(rest_v=read.rest_v, rested_h=1))["crank:starter:bank"].wanted
    assert short and crank[1].half < short.half


def test_a_range_that_proves_nothing_says_what_to_find_out_first() -> None:
    draft = two_banks(panel={"items": [{**PUMP, "draw_a": 30.0, "always_on": False}]})
    lead = next(c for c in draft.cables if c["end"] == "panel.pos")
    lead |= {"estimated": True, "length_m": 10.0}
    told = by_key(draft.design())["run:panel:plus"]
    assert "proves little: measure Selector common to Panel + first" in told.proves_nothing
    lead["estimated"] = False
    assert by_key(draft.design())["run:panel:plus"].proves_nothing == ""


def test_a_meter_with_a_worse_class_makes_a_range_wider() -> None:
    poor = Instrument(id="old", name="Old", measures="volts", percent=3, digits=1, resolution=0.1)
    assert poor.error(12.0) == pytest.approx(0.36 + 0.1)
    design = plain_boat()
    good, bad = by_key(design), by_key(design, Today(instruments=(poor,)))
    key = "charge:alternator:minus"
    assert bad[key].wanted and good[key].wanted
    assert bad[key].wanted.instrument == "old" and bad[key].wanted.half > good[key].wanted.half


@pytest.mark.parametrize("name", DEMO_FILES)
def test_ranges_are_honest(name: str) -> None:
    """Of readings on boats drawn anew, 95 of 100 fall inside; a few boats here, many in bench."""
    job = demo_job(name)
    design = surveyed(job.variants[0].design, job.survey)
    tests = [t for t in proving_tests(design) if t.probe and not t.charged]
    rng, inside, off = np.random.default_rng(3), [], []
    for boat in boats_drawn(design, Today(), 6, seed=70):
        points = {}
        for test in tests:
            assert test.probe and test.state and test.wanted
            key = test.state.model_dump_json()
            if key not in points:
                at = test.state.model_copy(update={"soc": dict(boat.soc)})
                points[key] = operating_point(boat.design, at)
            value = test.probe.value(points[key], boat.design)
            error = instrument_for(test.probe.measures, ()).error(value)
            read = value + error * rng.uniform(-1, 1)
            inside.append(test.wanted.low <= read <= test.wanted.high)
            off.append((read - test.wanted.middle) / test.wanted.half)
    assert np.mean(inside) >= 0.87
    # 95 % lie within 2.25 deviations of fourteen boats: neither too narrow nor too wide.
    assert 0.33 <= np.std(off) <= 0.62


def test_verdicts() -> None:
    test = by_key(plain_boat())["rest:house_bank"]
    wanted = test.wanted
    assert wanted is not None
    for value, word, why in (
        (wanted.middle, "within", "wanted"),
        (wanted.high + 0.2 * wanted.half, "doubtful", "measure again"),
        (wanted.high + 2 * wanted.half, "outside", "above"),
        (wanted.low - 2 * wanted.half, "outside", "below"),
        (-wanted.middle, "doubtful", "leads swapped"),
        (1250.0, "impossible", "millivolts"),
    ):
        told = judged(test, value, 12.0)
        assert told.word == word and why in told.why, value
    with pytest.raises(ValueError, match="looked at"):
        judged(by_key(plain_boat())["switch:selector:off"], 1.0, 12.0)


def test_a_hidden_fault_shows_at_the_simulated_meter() -> None:
    design = two_banks(selector={"position": "1"}).design()
    told = by_key(design)
    negative = next(c.id for c in design.cables if c.start == "engine_bank.neg")
    bad = Fault(kind="added_resistance", part=negative, magnitude=0.004)
    boat = PlayedBoat(design, (bad,), seed=4)
    words = {}
    for name in ("crank:starter:minus", "crank:starter:plus", "rest:engine_bank"):
        test = told[name]
        assert test.probe and test.state
        probe = {k: v for k, v in vars(test.probe).items() if v}
        shown = boat.reading({"probe": probe, "state": test.state.model_dump(mode="json")})
        assert shown["unit"] == "V" and round(float(str(shown["value"])), 2) == shown["value"]
        words[name] = judged(test, float(str(shown["value"])), 12.0).word
    assert words == {
        "crank:starter:minus": "outside",
        "crank:starter:plus": "within",
        "rest:engine_bank": "within",
    }
    with pytest.raises(StateError, match="probe"):
        boat.reading({"state": {}})


def test_the_meter_answers_over_http_with_its_token_only() -> None:
    boat = PlayedBoat(plain_boat(), (), seed=1)
    body = {"probe": {"measures": "volts", "plus": "house_bank.pos", "minus": "house_bank.neg"}}
    body |= {"state": {}}
    with ThreadingHTTPServer(("127.0.0.1", 0), handler(boat, "key")) as server:
        threading.Thread(target=server.serve_forever, daemon=True).start()

        def ask(token: str, raw: object) -> tuple[int, str]:
            url = f"http://127.0.0.1:{server.server_port}/reading"
            data, head = json.dumps(raw).encode(), {"Authorization": f"Bearer {token}"}
            try:
                with urllib.request.urlopen(urllib.request.Request(url, data, head)) as answer:
                    return answer.status, answer.read().decode()
            except urllib.error.HTTPError as error:
                with error:
                    return error.code, error.read().decode()

        status, text = ask("key", body)
        assert status == 200 and 11.5 < json.loads(text)["value"] < 13.2
        assert ask("other", body)[0] == 401
        nowhere = body | {"probe": {"measures": "volts", "plus": "x.pos", "minus": "y.neg"}}
        assert ask("key", nowhere)[0] == 422 and "x.pos" in ask("key", nowhere)[1]
        server.shutdown()


def test_a_state_without_rest_is_told_and_not_left_out(monkeypatch: pytest.MonkeyPatch) -> None:
    design = two_banks(panel={"items": [PUMP]}).design()
    plain = {t.key for t in proving_tests(design)}

    def restless(design: Design, state: State, *faults: Fault) -> object:
        if state.cranking or state.engine == "on":
            raise NotSettledError(("selector",))
        return operating_point(design, state, *faults)

    monkeypatch.setattr("strom_engine.prove.points.operating_point", restless)
    told = {t.key: t for t in proving_tests(design)}
    gone = {k.split(":")[0] for k in plain - set(told)}
    assert gone == {"crank", "charge", "fade"}
    for key in ("crank:starter", "charge:alternator"):
        assert told[key].expects.startswith("cannot be computed") and told[key].wanted is None
    assert told["rest:house_bank"].wanted is not None
