"""Diagnosis: hidden faults found from readings of a simulated boat, and what cannot be told."""

from __future__ import annotations

import json
from collections.abc import Sequence
from pathlib import Path

import numpy as np
import pytest
from strom_calc.__main__ import main
from strom_engine.circuit import operating_point
from strom_engine.design import Design, State, apply_change
from strom_engine.design.part_changes import SetSystemVolts
from strom_engine.faults import Fault
from strom_engine.prove import (
    Diagnosis,
    Probe,
    Reading,
    Today,
    boats_drawn,
    diagnosis,
    instrument_for,
    search_drafts,
)
from strom_engine.prove.probing import clamp, volts

from tests.engine.boats import DEMO, relay_boat, two_banks

CRANK = State(cranking=True)
MOST = 8


def boat(system_v: int = 12) -> Design:
    design = two_banks(selector={"position": "1"}).design()
    return design if system_v == 12 else apply_change(design, SetSystemVolts(system_v=24))


class Meter:
    """Reads a boat as it may really be, with a fault."""

    def __init__(self, design: Design, *faults: Fault, seed: int = 5) -> None:
        self.boat = boats_drawn(design, Today(), 1, seed)[0]
        self.faults, self.rng = faults, np.random.default_rng(seed)

    def read(self, probe: Probe, state: State) -> Reading:
        at = state.model_copy(update={"soc": dict(self.boat.soc)})
        point = operating_point(self.boat.design, at, *self.faults)
        value = probe.value(point, self.boat.design)
        error = instrument_for(probe.measures, ()).error(value)
        return Reading(probe, state, round(value + error * float(self.rng.uniform(-1, 1)), 2))


def searched(design: Design, meter: Meter, first: Sequence[Reading]) -> tuple[Diagnosis, int]:
    """Follow what is told to be read next, until one cause is believed."""
    readings = list(first)
    drafts = [(d.probe, d.state, d.minutes) for d in search_drafts(design) if d.probe and d.state]
    while True:
        left = [
            (p, s, m) for p, s, m in drafts if (p, s) not in [(r.probe, r.state) for r in readings]
        ]
        told = diagnosis(design, readings, left)
        if told.found or told.next is None or told.gain_bit < 0.05 or len(readings) >= MOST:
            return told, len(readings)
        probe, state, _ = left[told.next]
        readings.append(meter.read(probe, state))


def crank_minus(design: Design) -> Probe:
    return volts("starter.neg", "engine_bank.neg")


@pytest.mark.parametrize("system_v", [12, 24])
def test_a_bad_crimp_in_a_starter_path_is_found(system_v: int) -> None:
    design = boat(system_v)
    lead = next(c.id for c in design.cables if c.start == "starter.neg")
    meter = Meter(design, Fault(kind="added_resistance", part=lead, magnitude=0.004))
    told, taken = searched(design, meter, [meter.read(crank_minus(design), CRANK)])
    assert told.found and told.causes[0].keys == (f"added_resistance {lead} end",)
    assert taken <= 4 and told.causes[0].parts == (lead,)
    assert "crimp anew" in told.causes[0].cure
    fits = [line.endswith("fits.") for line in told.causes[0].speaks]
    assert all(fits) and len(fits) == taken


@pytest.mark.parametrize(
    ("fault", "key"),
    [
        (Fault(kind="dead_cell", part="house_bank"), "dead_cell house_bank"),
        (
            Fault(kind="source_limited", part="alternator", magnitude=0.3),
            "source_limited alternator",
        ),
    ],
)
def test_single_faults_are_found_by_what_is_asked_next(fault: Fault, key: str) -> None:
    design = two_banks().design()  # on both: the machine has a bank to fill
    meter = Meter(design, fault, seed=9)
    rest = volts("house_bank.pos", "house_bank.neg")
    out = clamp(design.cables_on("alternator.out")[0], away_from="alternator.out")
    first = [meter.read(rest, State()), meter.read(out, State(engine="on", rpm=2000))]
    told, taken = searched(design, meter, first)
    assert key in told.causes[0].keys and taken <= MOST


def test_a_standing_draw_is_found_by_a_clamp() -> None:
    design = boat()
    meter = Meter(design, Fault(kind="standing_draw", part="house_bank", magnitude=3.0))
    negative = design.cables_on("house_bank.neg")[0]
    off = State(positions={"selector": "off"})
    around = clamp(negative, towards="house_bank.neg")
    reading = meter.read(around, off)
    assert reading.value == pytest.approx(3.0, abs=0.7)
    told = diagnosis(design, [reading])
    assert "standing_draw house_bank" in told.causes[0].keys
    assert "one by one" in told.causes[0].cure


def test_a_relay_without_its_negative_and_one_that_sticks_cannot_be_parted_at_its_posts() -> None:
    design = relay_boat().design()
    lead = next(c.id for c in design.cables if "relay.neg" in (c.start, c.end))
    meter = Meter(design, Fault(kind="cable_open", part=lead))
    across = meter.read(volts("relay.a", "relay.b"), State(engine="on", rpm=2000))
    told = diagnosis(design, [across])
    top = told.causes[0]
    assert {"stuck_open relay", f"cable_open {lead}"} <= set(top.keys), "one group, told as such"
    assert len(top.words) == len(top.keys) and "negative" in top.cure


def test_a_sound_boat_is_not_accused() -> None:
    design = boat()
    accused = 0
    for seed in range(8):
        meter = Meter(design, seed=seed)
        probes = [volts(f"{b}.pos", f"{b}.neg") for b in ("engine_bank", "house_bank", "starter")]
        readings = [meter.read(p, s) for p in probes for s in (State(), CRANK)]
        top = diagnosis(design, readings).causes[0]
        accused += top.keys[0] != "healthy" and not top.words[0].startswith("a fault that no")
    assert accused == 0


def test_what_no_cause_explains_is_none_of_these_and_odd_is_said() -> None:
    design = boat()
    rest = volts("house_bank.pos", "house_bank.neg")
    told = diagnosis(design, [Reading(rest, State(), 15.9)])
    assert told.causes[0].keys == ("none of these",) and not told.found
    [odd] = told.odd
    assert "no cause comes nearer" in odd and "15.9 V" in odd
    plain = diagnosis(design, [])
    assert plain.causes[0].words[0].startswith("a fault that no") and plain.odd == ()


def test_the_next_reading_says_what_each_answer_would_mean() -> None:
    design = boat()
    lead = next(c.id for c in design.cables if c.start == "starter.neg")
    meter = Meter(design, Fault(kind="added_resistance", part=lead, magnitude=0.004))
    drafts = [d for d in search_drafts(design) if d.probe and d.state]
    told = diagnosis(
        design,
        [meter.read(crank_minus(design), CRANK)],
        [(d.probe, d.state, d.minutes) for d in drafts if d.probe and d.state],
    )
    assert told.next is not None and told.gain_bit > 0.3
    assert drafts[told.next].state == CRANK and len({v for _, v in told.means}) > 1
    # Ten times the effort for nothing more is not asked for.
    dear = [(d.probe, d.state, 600.0) for d in drafts if d.probe and d.state]
    cheap = [(p, s, 1.0) for p, s, _ in dear]
    both = diagnosis(design, [meter.read(crank_minus(design), CRANK)], [*dear, *cheap])
    assert both.next is not None and both.next >= len(dear)


def test_on_the_command_line(tmp_path: Path, capsys: pytest.CaptureFixture[str]) -> None:
    job = str(DEMO / "pilot_3.json")
    file = tmp_path / "readings.json"
    rest = {"measures": "volts", "plus": "house_bank.pos", "minus": "house_bank.neg"}
    file.write_text(json.dumps([{"probe": rest, "value": 10.4}]))
    assert main(["diagnose", job, str(file)]) == 0
    told = json.loads(capsys.readouterr().out)
    assert told["causes"][0]["keys"] == ["dead_cell house_bank"] and told["next"]["how"]
    file.write_text(json.dumps([{"probe": rest | {"plus": "no.pos"}, "value": 10.4}]))
    assert main(["diagnose", job, str(file)]) == 2
    assert "[0].probe.plus: there is no post 'no.pos'" in capsys.readouterr().err
    assert main(["tests", job]) == 0
    assert json.loads(capsys.readouterr().out)[0]["group"] == "cold"
