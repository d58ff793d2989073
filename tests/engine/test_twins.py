"""Twins at 24 V: every voltage and every cable's resistance doubled, the amps as before."""

from __future__ import annotations

import pytest
from strom_engine.circuit import operating_point
from strom_engine.dayrun import Day, day_run
from strom_engine.design import (
    Component,
    Design,
    FittedInverter,
    Isolator,
    Solar,
    State,
    apply_change,
)
from strom_engine.design.part_changes import SetSystemVolts

from bench.classics import CLASSICS, Classic
from tests.engine.boats import DEMO_FILES, demo_job, relay_boat, two_banks

BOATS = [(classic, name) for classic in CLASSICS for name in classic.boats]
STATES = (
    State(),
    State(engine="on", rpm=2400.0),
    State(shore=True, sun=0.6),
    State(engine="on", cranking=True),
)


def twin(design: Design) -> Design:
    """The same boat at twice the volts, and twice the ohms between: the same amps everywhere.

    What diodes lose stays what it is, whatever the system.
    """
    doubled = apply_change(design, SetSystemVolts(system_v=24))
    cables = (c.model_copy(update={"length_m": 2 * c.length_m}) for c in doubled.cables)
    return doubled.replace_unchecked(
        components=tuple(_of_twice_the_watts(p) for p in doubled.components),
        cables=tuple(cables),
        termination_mohm=2 * design.termination_mohm,
    )


def _of_twice_the_watts(part: Component) -> Component:
    match part:
        case Solar():
            return part.model_copy(update={"panel_w": 2 * part.panel_w})
        case FittedInverter():
            items = (i.model_copy(update={"power_w": 2 * i.power_w}) for i in part.items)
            watts = {"rated_w": 2 * part.rated_w, "idle_w": 2 * part.idle_w}
            return part.model_copy(update=watts | {"items": tuple(items)})
        case _:
            return part


def events(day: Day) -> list[tuple[str, str, str | None]]:
    return [(e.kind, e.part, e.to) for e in day.events]


@pytest.mark.parametrize(("classic", "name"), BOATS, ids=[f"{c.id} {n}" for c, n in BOATS])
def test_a_day_at_24_v_goes_like_that_at_12(classic: Classic, name: str) -> None:
    design = classic.boats[name]()
    day, doubled = (day_run(d, None, classic.plan) for d in (design, twin(design)))
    if design.of_type(Isolator) and "machine" in name:
        # Its knee is the same half volt at 24 V: less of the charge is lost to it.
        assert doubled.ended_soc["house_bank"] > day.ended_soc["house_bank"] + 0.02
        return
    for bank, soc in day.ended_soc.items():
        assert doubled.ended_soc[bank] == pytest.approx(soc, abs=0.01)
    if classic.id == "chatter" and len(day.events) > 50:
        assert len(doubled.events) == pytest.approx(len(day.events), rel=0.15)
    else:
        assert events(doubled) == events(day)
    volts = [d.recording.volts_v["house_bank"][-1] for d in (day, doubled)]
    assert volts[1] == pytest.approx(2 * volts[0], rel=0.01)


def demos() -> list[tuple[str, Design]]:
    found = [(f, v.design) for f in DEMO_FILES for v in demo_job(f).variants]
    return [(f, d) for f, d in found if d.system_v == 12 and not d.of_type(Isolator)]


@pytest.mark.parametrize(
    "design",
    [two_banks().design(), relay_boat().design(), *(d for _, d in demos())],
    ids=["selector", "relay", *(f"{f} {n}" for n, (f, _) in enumerate(demos()))],
)
def test_a_moment_at_24_v_has_the_amps_of_that_at_12(design: Design) -> None:
    doubled = twin(design)
    profile = design.profiles[0].id if design.profiles else None
    for state in STATES:
        state = state.model_copy(update={"profile": profile})
        point, twice = operating_point(design, state), operating_point(doubled, state)
        assert twice.moved() == point.moved()
        for bank, now in point.banks.items():
            # Contacts and rectifiers lose the same millivolts whatever the system.
            assert twice.banks[bank].volts_v == pytest.approx(2 * now.volts_v, rel=0.005)
            amps = twice.banks[bank].current_a
            assert amps == pytest.approx(now.current_a, rel=0.06, abs=0.8)


def test_what_a_meter_and_a_clamp_show() -> None:
    for design in (relay_boat().design(), twin(relay_boat().design())):
        point = operating_point(design, State(engine="on", rpm=2400.0))
        cable = next(c for c in design.cables if c.start == "engine_bank.pos")
        drop_v = point.volts_between(cable.start, cable.end)
        assert drop_v is not None
        assert abs(drop_v) == pytest.approx(point.conductor_drop_v[cable.id], abs=1e-9)
        assert point.amps_in(cable.id) * drop_v >= 0, "amps flow down the volts"
        bank = point.volts_between("house_bank.pos", "house_bank.neg")
        assert bank == pytest.approx(point.banks["house_bank"].volts_v)
        assert point.volts_between("house_bank.neg", "house_bank.pos") == pytest.approx(-bank)
        # With the contact open, the starter's post hangs on nothing.
        still = operating_point(design, State(positions={"starter_switch": "off"}))
        assert still.volts_between("starter.pos", "bar.s1") is None
        with pytest.raises(KeyError):
            point.volts_between("house_bank.pos", "nowhere.pos")
        with pytest.raises(KeyError):
            point.amps_in("no cable")
