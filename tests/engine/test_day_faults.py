"""Parts that fail in a day, and gear as a moment shows it."""

from __future__ import annotations

import pytest
from strom_engine.dayrun import (
    Plan,
    day_report,
    day_run,
    day_sheet,
    kept_moments,
    moment_of,
)
from strom_engine.dayrun.plan import (
    ShoreSpan,
    WindSpan,
)
from strom_engine.design import Design
from strom_engine.faults import effects_of, possible_faults

from bench.classics import CLASSICS
from tests.engine.boats import bare_banks, two_banks, with_cables

BOATS = {c.id: c for c in CLASSICS}


def test_every_fault_can_be_lived_through() -> None:
    seen = set()
    for classic in CLASSICS:
        design = next(iter(classic.boats.values()))()
        for fault in possible_faults(design):
            if fault.kind in seen:
                continue
            seen.add(fault.kind)
            plan = classic.plan.model_copy(update={"hours": 9.0, "engine": classic.plan.engine[:1]})
            plan = plan.model_copy(update={"shore": (), "living": (), "moves": ()})
            day = day_run(design, None, plan, effects_of(design, fault))
            assert day.ledger.residual < 1e-3, fault
    assert seen == {
        "stuck_open", "stuck_closed", "source_dead", "source_fading", "sense_off", "dead_cell",
        "negative_open", "diode_short",
    }  # fmt: skip
    relay = BOATS["stuck_relay"]
    design = relay.boats["AGM house bank"]()
    stuck = {f.kind: f for f in possible_faults(design) if f.part == "relay"}
    never = day_run(design, None, relay.plan, effects_of(design, stuck["stuck_open"]))
    always = day_run(design, None, relay.plan, effects_of(design, stuck["stuck_closed"]))
    assert never.tallies.closed_h == {} and always.tallies.closed_h["relay"] == pytest.approx(18)


def _gear_boat() -> Design:
    """A house bank with one of everything that can fail, a panel behind each; an engine bank."""
    draft = bare_banks({"unit_ah": 200, "soc": 0.8}, soc=0.9)
    draft.part("fuse_block", "block", branch_a=[20, 20])
    draft.part("breaker", "breaker", rating_a=30, position="on")
    draft.part("switch", "remote", drive="held", position="on")
    draft.part("isolator", "isolator")
    draft.part("one_way", "topper", limit_a=10)
    points = [{"speed_kn": 5, "current_a": 0}, {"speed_kn": 20, "current_a": 15}]
    draft.part("generator", "wind", driven_by="wind", points=points, set_v=14.2)
    items = [{"id": "heater", "name": "Heater", "power_w": 20, "always_on": True}]
    draft.part("inverter", "inverter", rated_w=600, items=items)
    for name in ("first", "second", "third", "fourth"):
        item = {"id": "lamp", "name": f"Lamp {name}", "draw_a": 1.0, "always_on": True}
        draft.part("loads", name, items=[item])
    return with_cables(
        draft,
        *((f"{name}.neg", "bar") for name in ("first", "second", "third", "fourth", "inverter")),
        ("wind.neg", "bar"), ("topper.neg", "bar"), ("remote.ctrl_neg", "bar"),
        ("house_bank.pos", "block.in"), ("block.b1", "first.pos"), ("block.b2", "second.pos"),
        ("house_bank.pos", "breaker.a"), ("breaker.b", "third.pos"),
        ("house_bank.pos", "remote.a"), ("remote.b", "fourth.pos"),
        ("house_bank.pos", "remote.ctrl_pos"), ("house_bank.pos", "inverter.pos"),
        ("wind.pos", "isolator.in"), ("isolator.out1", "house_bank.pos"),
        ("isolator.out2", "engine_bank.pos"),
        ("house_bank.pos", "topper.in"), ("topper.out", "engine_bank.pos"),
    )  # fmt: skip


def test_every_part_that_fails_takes_with_it_what_hangs_on_it() -> None:
    design = _gear_boat()
    wind = (WindSpan(start_h=0, end_h=6, wind_kn=20),)
    plan = Plan(name="P", hours=6, wind=wind, soc={"engine_bank": 0.7, "house_bank": 0.7})
    faults = {f.key: f for f in possible_faults(design)}

    def lived(key: str | None) -> tuple[set[str], float, set[str], float]:
        """Loads that are dead all along, what the engine bank took [Ah], what stirred by itself,
        and what the house bank took [Ah]."""
        day = day_run(design, None, plan, effects_of(design, faults[key]) if key else None)
        dead = {u.item for u in day_report(day).unmet if u.hours > 5.9}
        engine_ah, house_ah = (day.ledger.banks[b].in_ah for b in ("engine_bank", "house_bank"))
        return dead, engine_ah, {e.part for e in day.events}, house_ah

    dead, engine_ah, stirred, house_ah = lived(None)
    assert not dead and engine_ah > 5 and "topper" in stirred
    for key, item in (
        ("fuse_open block b1", "first.lamp"),
        ("fuse_open block b2", "second.lamp"),
        ("fuse_open breaker b", "third.lamp"),
        ("stuck_open remote", "fourth.lamp"),
        ("stuck_open inverter", "inverter.heater"),
    ):
        assert lived(key)[0] == {item}, key
    assert lived("source_dead wind")[1] == pytest.approx(0, abs=1e-6)
    assert "topper" not in lived("stuck_open topper")[2]
    # Without its own drop the bank behind the shorted diode takes more.
    assert lived("diode_short isolator in-out1")[3] > house_ah + 3
    assert lived("diode_short isolator in-out2")[1] > engine_ah + 3
    assert {f.kind for f in faults.values()} == {
        "fuse_open", "stuck_open", "source_dead", "diode_short", "dead_cell", "negative_open",
    }  # fmt: skip


def test_a_moment_shows_what_moves_by_itself_as_it_stands() -> None:
    design = _gear_boat()
    plan = Plan(name="P", hours=6, wind=(WindSpan(start_h=0, end_h=6, wind_kn=20),))
    coil = next(f for f in possible_faults(design) if f.part == "remote")
    for fault, pulled in ((None, True), (effects_of(design, coil), False)):
        day = day_run(design, None, plan, fault)
        started = next(e.at_s for e in day.events if e.part == "topper")
        strips = {s.part: s for s in day_sheet(day).strips if s.kind == "gear"}
        assert [p.state for p in strips["topper"].pieces] == ["rests", "runs"]
        assert strips["topper"].rest == "rests" and strips["topper"].pieces[1].start_s == started
        assert ("remote" in strips) is not pulled and "inverter" not in strips
        for at_s, runs in ((started - 60, False), (started + 60, True)):
            kept = kept_moments(day).at(at_s)
            _, found = moment_of(design, None, plan, kept, fault)
            topper, remote = found.point.converters["topper"], found.point.contacts["remote"]
            assert (topper.closed, topper.verdict) == (runs, "closed" if runs else "open")
            assert topper.in_v is not None and topper.out_v is not None
            # Nothing comes back: with more volts behind it than before it, nothing passes.
            assert (topper.in_a > 0) == (runs and topper.in_v > topper.out_v)
            assert remote.closed is pulled
            assert (found.point.loads["fourth"].current_a > 0.9) == pulled


def test_a_shore_lead_that_charges_nothing_is_told_of() -> None:
    plan = Plan(name="P", hours=9, shore=(ShoreSpan(start_h=1, end_h=8),))
    bare, fitted = two_banks(), two_banks()
    fitted.part("charger", "charger", rated_a=20, set_v=14.4, float_v=13.5)
    fitted.cable("charger.out1", "house_bank.pos")
    fitted.cable("charger.neg", "bar.s8")
    for draft, told in ((bare, True), (fitted, False)):
        words = [s.words for s in day_report(day_run(draft.design(), None, plan)).verdict]
        shore = [w for w in words if w.startswith("The shore lead is in for 7 h, and nothing")]
        assert bool(shore) is told
