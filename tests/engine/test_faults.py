"""Each kind of fault by its effect in numbers, at an operating point and in a day."""

from __future__ import annotations

import pytest
from strom_engine.circuit import OperatingPoint, operating_point
from strom_engine.dayrun import Plan, day_run
from strom_engine.dayrun.plan import EngineSpan, LivingSpan
from strom_engine.design import Design, State
from strom_engine.errors import FaultError
from strom_engine.faults import (
    FAULT_KINDS,
    Fault,
    effects_of,
    fault_from_key,
    possible_faults,
)

from tests.engine.boats import bare_banks, demo_job, one_bank, relay_boat, with_cables

CRANKS = State(cranking=True, engine="on")


def fault(kind: str, part: str, **more: object) -> Fault:
    return Fault.model_validate({"kind": kind, "part": part} | more)


def lamp(system_v: int = 12, amps: float = 20.0) -> Design:
    """A bank that feeds one steady current through a switch and a fuse."""
    draft = bare_banks({"series": system_v // 12, "soc": 0.9})
    draft.extra = {"system_v": system_v}
    draft.part("switch", "switch", position="on", rating_a=200)
    draft.part("fuse", "fuse", rating_a=60)
    item = {"id": "lamp", "name": "Lamp", "draw_a": amps, "law": "current", "always_on": True}
    draft.part("loads", "panel", items=[item])
    return with_cables(draft, ("house_bank.pos", "fuse.a"), ("fuse.b", "switch.a"),
                       ("switch.b", "panel.pos"), ("panel.neg", "bar"))  # fmt: skip


def panel_v(design: Design, *faults: Fault) -> float | None:
    return operating_point(design, State(), *faults).loads["panel"].volts_v


@pytest.mark.parametrize("system_v", [12, 24])
@pytest.mark.parametrize(
    ("part", "at"), [("c", ""), ("switch", ""), ("switch", "a"), ("fuse", "a")]
)
def test_added_resistance_costs_its_volts(system_v: int, part: str, at: str) -> None:
    design = lamp(system_v)
    if part == "c":
        part, at = next(c.id for c in design.cables if c.end == "panel.pos"), "end"
    bad = fault("added_resistance", part, at=at, magnitude=0.05)
    sound, less = panel_v(design), panel_v(design, bad)
    assert sound is not None and less is not None
    # 20 A x 0.05 ohm
    assert sound - less == pytest.approx(1.0, abs=0.01)
    twice = panel_v(design, bad, bad)
    assert twice is not None and sound - twice == pytest.approx(2.0, abs=0.02)
    day = day_run(design, None, Plan(name="P", hours=0.2), effects_of(design, bad))
    well = day_run(design, None, Plan(name="P", hours=0.2))
    lost = [d.ledger.heat.cables_wh for d in (day, well)]
    # 20 A x 20 A x 0.05 ohm for a fifth of an hour
    assert lost[0] - lost[1] == pytest.approx(20 * 20 * 0.05 * 0.2, rel=0.02)


@pytest.mark.parametrize(
    ("kind", "part", "more"),
    [
        ("contact_open", "switch", {}),
        ("fuse_open", "fuse", {"at": "b"}),
        ("cable_open", "panel.pos", {}),
        ("negative_open", "panel", {}),
    ],
)
def test_what_is_open_carries_nothing(kind: str, part: str, more: dict) -> None:
    design = lamp()
    if kind == "cable_open":
        part = next(c.id for c in design.cables if c.end == part)
    point = operating_point(design, State(), fault(kind, part, **more))
    assert point.loads["panel"].current_a == 0 and point.loads["panel"].volts_v is None
    living = (LivingSpan(start_h=0, end_h=1, profile="living"),)
    plan = Plan(name="P", hours=1, living=living)
    day = day_run(design, None, plan, effects_of(design, fault(kind, part, **more)))
    assert "panel" not in day.ledger.taken


def test_a_wrong_landing_feeds_from_the_other_bank() -> None:
    design = relay_boat().design()
    cable = next(c for c in design.cables if "starter.pos" in (c.start, c.end))
    end = "start" if cable.end == "starter.pos" else "end"
    wrong = fault("wrong_landing", cable.id, at=end, to="house_bank.pos")
    sound = operating_point(design, CRANKS).banks
    mixed = operating_point(design, CRANKS, wrong).banks
    assert sound["house_bank"].current_a > -20 and mixed["house_bank"].current_a < -100


@pytest.mark.parametrize("system_v", [12, 24])
def test_a_dead_cell_and_resistance_inside_a_bank(system_v: int) -> None:
    design = lamp(system_v)
    sound = operating_point(design, State()).banks["house_bank"].volts_v
    dead = operating_point(design, State(), fault("dead_cell", "house_bank", magnitude=1))
    # One cell of six in every block: the bank's rest volts over its cells.
    assert sound - dead.banks["house_bank"].volts_v == pytest.approx(12.7 / 6, abs=0.06)
    more = fault("bank_resistance", "house_bank", magnitude=0.02)
    weak = operating_point(design, State(), more).banks["house_bank"].volts_v
    assert sound - weak == pytest.approx(20 * 0.02, abs=0.005)
    day = day_run(design, None, Plan(name="P", hours=0.1), effects_of(design, more))
    well = day_run(design, None, Plan(name="P", hours=0.1))
    fell = [d.recording.volts_v["house_bank"][-1] for d in (well, day)]
    assert fell[0] - fell[1] == pytest.approx(20 * 0.02, abs=0.01)


def test_lost_capacity_empties_sooner() -> None:
    design = one_bank(10.0, law="current").design()
    living = (LivingSpan(start_h=0, end_h=2, profile="living"),)
    plan = Plan(name="P", hours=2, living=living, soc={"bank": 1.0})
    lost = effects_of(design, fault("lost_capacity", "bank", magnitude=0.5))
    ends = [day_run(design, None, plan, e).ended_soc["bank"] for e in (None, lost)]
    assert 1 - ends[1] == pytest.approx(2 * (1 - ends[0]), rel=0.05)


@pytest.mark.parametrize("system_v", [12, 24])
def test_a_standing_draw_takes_its_amps_whatever_is_switched(system_v: int) -> None:
    design = lamp(system_v)
    off = State(positions={"switch": "off"})
    plain = operating_point(design, off).banks["house_bank"].current_a
    leak = fault("standing_draw", "house_bank", magnitude=2.0)
    assert operating_point(design, off, leak).banks["house_bank"].current_a == pytest.approx(
        plain - 2.0, abs=0.01
    )
    day = day_run(design, None, Plan(name="P", hours=1), effects_of(design, leak))
    assert day.ledger.taken["unlisted_house_bank"].charge_ah == pytest.approx(2.0, abs=0.001)
    with pytest.raises(FaultError, match="is of banks"):
        effects_of(design, fault("standing_draw", "panel"))


def given(point: OperatingPoint) -> float:
    return point.sources["alternator"].current_a


@pytest.mark.parametrize(
    ("kind", "magnitude", "share"),
    [
        ("source_limited", 0.4, 0.4),
        ("source_dead", None, 0.0),
        ("source_fading", 0.25, 0.25),  # an operating point has the machine warm
    ],
)
def test_a_source_gives_its_share(kind: str, magnitude: float | None, share: float) -> None:
    design = relay_boat(engine_bank={"soc": 0.3, "unit_ah": 900, "unit_cca_a": None}).design()
    state = State(engine="on", rpm=3000)
    bad = fault(kind, "alternator", magnitude=magnitude)
    sound, ill = (operating_point(design, state, *f) for f in ((), (bad,)))
    assert given(ill) == pytest.approx(share * given(sound), rel=0.02, abs=0.01)
    engine = (EngineSpan(start_h=0, end_h=1, rpm=3000),)
    plan = Plan(name="P", hours=1, engine=engine)
    well, less = (day_run(design, None, plan, e) for e in (None, effects_of(design, bad)))
    first, last = (less.recording.source_a["alternator"][n] for n in (2, -2))
    cold = well.recording.source_a["alternator"][2]
    # In a day it begins cold: what fades still gives all it has, and less from then on.
    assert first == pytest.approx((1.0 if kind == "source_fading" else share) * cold, abs=0.6)
    assert kind != "source_fading" or last < 0.8 * well.recording.source_a["alternator"][-2]


@pytest.mark.parametrize(("kind", "closed"), [("stuck_open", False), ("stuck_closed", True)])
def test_a_stuck_relay_stands_whatever_it_sees(kind: str, closed: bool) -> None:
    design = relay_boat().design()
    for state in (State(), State(engine="on", rpm=2500)):
        relay = operating_point(design, state, fault(kind, "relay")).relays["relay"]
        assert (relay.closed, relay.why) == (closed, f"stuck {'closed' if closed else 'open'}")


def test_a_lost_sense_wire_and_one_at_another_post() -> None:
    draft = bare_banks({"soc": 0.97, "unit_ah": 400})
    draft.part("alternator", "alternator", sensing="external", set_v=14.4, rated_a=80)
    draft.cable("alternator.out", "house_bank.pos", "4 AWG", 6.0)
    design = with_cables(draft, ("alternator.neg", "bar"),
                         ("alternator.sense_pos", "house_bank.pos"),
                         ("alternator.sense_neg", "bar"))  # fmt: skip
    state = State(engine="on", rpm=3000)
    sense = next(c for c in design.cables if c.start == "alternator.sense_pos")
    lost = fault("sense_off", "alternator")
    moved = fault("wrong_landing", sense.id, at="end", to="alternator.out")
    volts = [
        operating_point(design, state, *f).banks["house_bank"].volts_v
        for f in ((), (lost,), (moved,))
    ]
    assert volts[0] == pytest.approx(14.4, abs=0.02)
    assert volts[1] == pytest.approx(volts[2], abs=0.02) and volts[1] < volts[0] - 0.05


def test_a_shorted_diode_passes_back_and_an_open_one_nothing() -> None:
    draft = bare_banks({"soc": 0.4}, soc=0.95)
    draft.part("alternator", "alternator", rated_a=80, set_v=14.4)
    draft.part("isolator", "isolator", sort="silicon", outputs=2, rating_a=120)
    design = with_cables(draft, ("alternator.out", "isolator.in"), ("alternator.neg", "bar"),
                         ("isolator.out1", "engine_bank.pos"),
                         ("isolator.out2", "house_bank.pos"))  # fmt: skip
    rest = operating_point(design, State()).banks["house_bank"].current_a
    short = [fault("diode_short", "isolator", at=f"in-out{n}") for n in (1, 2)]
    through = operating_point(design, State(), *short[:1]).banks["house_bank"].current_a
    assert abs(rest) < 0.1 < through
    runs = State(engine="on", rpm=3000)
    lost = operating_point(design, runs, fault("diode_open", "isolator", at="in-out2"))
    assert operating_point(design, runs).banks["house_bank"].current_a > 5
    assert abs(lost.banks["house_bank"].current_a) < 0.1


def test_what_a_design_cannot_have_is_said_all_at_once() -> None:
    design = relay_boat().design()
    wrong = [
        fault("dead_cell", "relay"),
        fault("stuck_open", "house_bank"),
        fault("cable_open", "nothing"),
        fault("diode_short", "relay", at="a-b"),
        fault("source_fading", "house_bank"),
        fault("wrong_landing", design.cables[0].id, at="end"),
        fault("contact_open", "house_bank"),
        fault("sense_off", "relay"),
    ]
    with pytest.raises(FaultError) as caught:
        operating_point(design, State(), *wrong)
    assert [p.path for p in caught.value.problems] == [f"faults[{i}]" for i in range(8)]
    with pytest.raises(ValueError, match="magnitude is 0 to 1"):
        fault("source_limited", "alternator", magnitude=2)
    with pytest.raises(ValueError, match="has no magnitude"):
        fault("stuck_open", "relay", magnitude=1)


def test_keys_name_faults_with_their_magnitudes() -> None:
    design = demo_job("marsh_wren.json").variants[0].design
    found = possible_faults(design)
    assert len({f.key for f in found}) == len(found) > 10
    assert {f.kind for f in found} <= set(FAULT_KINDS)
    assert all(fault_from_key(design, f.key) == f for f in found)
    much = fault_from_key(design, "dead_cell house_bank =2")
    assert (much.amount, much.part) == (2, "house_bank") and "dead cell" in much.words
    cable = design.cables[0].id
    told = fault_from_key(design, f"added_resistance {cable} end =0.01")
    assert (told.at, told.amount) == ("end", 0.01)
    assert fault_from_key(design, told.key) == told
    for key in ("nothing", "dead_cell nobody", "dead_cell house_bank =x", "", "stuck_open x =1"):
        with pytest.raises(FaultError):
            fault_from_key(design, key)
