"""Designs and states made up from a seed, for property tests and the circuit oracle."""

from __future__ import annotations

import random
from random import Random
from typing import Any

from strom_engine.design import Design, State, switch_positions
from strom_engine.design.state import switches
from strom_engine.reference import chemistry

from bench.designs import Draft

__all__ = ["generated_design", "generated_state"]

GAUGES = ("10 AWG", "8 AWG", "6 AWG", "4 AWG", "2 AWG", "1/0 AWG", "2/0 AWG", "35 mm2", "70 mm2")
PLAIN_SEEDS = 240  # designs below keep to the gear they were first made with
LAWS = ("power", "current", "resistance")
LEAD = ("flooded_start", "flooded_deep", "agm", "gel", "tppl")


def generated_design(seed: int) -> Design:
    """A random but sound design: two or three banks, gear of any kind, sources anywhere."""
    rng = Random(seed)
    draft = Draft(profiles=("living", "sailing"))
    draft.extra["conductor_temperature_c"] = rng.choice((20, 40, 60))
    draft.part("bus_bar", "minus_bar", polarity="neg", studs=24)
    banks = ["engine_bank", "house_bank", "bow_bank"][: rng.choice((2, 2, 3))]
    for bank in banks:
        _random_bank(draft, rng, bank)
    taps = [f"{bank}.pos" for bank in banks] + _random_gear(draft, rng, banks)
    for n in range(rng.randint(1, 4)):
        fields = {"min_v": 11.0} if rng.random() < 0.3 else {}
        draws = [round(rng.uniform(0.2, 12), 2) for _ in range(rng.randint(1, 4))]
        name = draft.load(f"load_{n}", *draws, law=rng.choice(LAWS), **fields)
        _land(draft, rng, f"{name}.pos", rng.choice(taps))
        _ground(draft, rng, name)
    draft.part("starter", "starter", cranking_a=rng.randint(120, 420))
    _land(draft, rng, "starter.pos", rng.choice(taps))
    _ground(draft, rng, "starter")
    _random_sources(draft, rng, taps)
    if rng.random() < 0.3:
        _random_dcdc(draft, rng, banks)
    if seed >= PLAIN_SEEDS:
        _random_late_gear(draft, random.Random(seed + 0.5), banks, taps)
    return draft.design()


def _run(draft: Draft, rng: Random, start: str, end: str) -> None:
    draft.cable(start, end, rng.choice(GAUGES), round(rng.uniform(0.2, 9), 2))


def _land(draft: Draft, rng: Random, start: str, end: str) -> None:
    """A cable, half of the time with a fuse in it."""
    if rng.random() < 0.5:
        fuse = draft.part("fuse", f"fuse_{len(draft.parts)}", rating_a=rng.choice((30, 100, 250)))
        _run(draft, rng, end, f"{fuse}.a")
        _run(draft, rng, f"{fuse}.b", start)
    else:
        _run(draft, rng, start, end)


def _ground(draft: Draft, rng: Random, part: str) -> None:
    taken = sum("minus_bar" in c["end"] for c in draft.cables)
    _run(draft, rng, f"{part}.neg", f"minus_bar.s{taken % 24 + 1}")


def _random_bank(draft: Draft, rng: Random, bank: str) -> None:
    kind = "lfp" if rng.random() < 0.2 else rng.choice(LEAD)
    draft.bank(
        bank,
        role=bank.removesuffix("_bank").replace("bow", "thruster"),
        chemistry=kind,
        unit_ah=rng.choice((60, 90, 120, 200)),
        unit_cca_a=rng.choice((None, 600)),
        parallel=rng.randint(1, 4),
        soc=round(rng.uniform(chemistry(kind).usable_low_soc, 1), 3),
        temperature_c=rng.choice((-5, 15, 30)),
    )
    if rng.random() < 0.2:
        shunt = draft.part("shunt", f"{bank}_shunt")
        _run(draft, rng, f"{bank}.neg", f"{shunt}.bank")
        _run(draft, rng, f"{shunt}.system", f"minus_bar.s{len(draft.cables) % 24 + 1}")
    elif rng.random() < 0.93:  # now and then a negative is forgotten
        _ground(draft, rng, bank)


def _random_gear(draft: Draft, rng: Random, banks: list[str]) -> list[str]:
    """Switches and relays between banks; gives the posts that others may land on."""
    engine, house = banks[0], banks[1]
    choice = rng.choice(("selector", "dual", "switches"))
    taps = []
    if choice == "selector":
        draft.part("selector", "selector", make_before_break=rng.choice((True, False, None)))
        _land(draft, rng, "selector.one", f"{engine}.pos")
        _land(draft, rng, "selector.two", f"{house}.pos")
        taps = ["selector.common"] * 3
    elif choice == "dual":
        draft.part("dual_switch", "dual")
        _land(draft, rng, "dual.engine_in", f"{engine}.pos")
        _land(draft, rng, "dual.house_in", f"{house}.pos")
        taps = ["dual.engine_out", "dual.house_out"]
    else:
        for name, a, b in (("engine_switch", engine, None), ("parallel", engine, house)):
            draft.part("switch", name)
            _land(draft, rng, f"{name}.a", f"{a}.pos")
            if b:
                _land(draft, rng, f"{name}.b", f"{b}.pos")
        taps = ["engine_switch.b"]
    for n in range(rng.randint(0, len(banks) - 1)):
        cut_in = round(rng.uniform(13.0, 13.7), 2)
        relay = {"cut_in_v": cut_in, "cut_in_s": 30, "cut_out_v": 12.75, "cut_out_s": 30}
        draft.part("relay", f"relay_{n}", sensing=rng.choice(("dual", "a", "b")), **relay)
        _land(draft, rng, f"relay_{n}.a", f"{banks[0]}.pos")
        _land(draft, rng, f"relay_{n}.b", f"{banks[n + 1]}.pos")
        _ground(draft, rng, f"relay_{n}")
    return taps


def _random_dcdc(draft: Draft, rng: Random, banks: list[str]) -> None:
    """A dc-dc charger from one bank to another."""
    start_v = round(rng.uniform(12.4, 13.6), 2)
    figures = {"limit_a": rng.choice((6, 20, 50)), "set_v": rng.choice((13.6, 14.2, 14.4))}
    figures |= {"start_v": start_v, "stop_v": round(start_v - rng.uniform(0.2, 0.8), 2)}
    draft.part("dcdc", "dcdc", ignition=rng.random() < 0.3, **figures)
    before, after = rng.sample(banks, 2)
    _land(draft, rng, "dcdc.in", f"{before}.pos")
    _land(draft, rng, "dcdc.out", f"{after}.pos")
    _ground(draft, rng, "dcdc")


def _random_late_gear(draft: Draft, rng: Random, banks: list[str], taps: list[str]) -> None:
    """Gear of the rarer kinds: each about every third time."""
    if rng.random() < 0.4:
        start_v = round(rng.uniform(12.5, 13.4), 2)
        figures = {"limit_a": rng.choice((5, 15, 30)), "start_v": start_v, "stop_v": start_v - 0.3}
        draft.part("one_way", "topper", **figures)
        before, after = rng.sample(banks, 2)
        _land(draft, rng, "topper.in", f"{before}.pos")
        _land(draft, rng, "topper.out", f"{after}.pos")
        _ground(draft, rng, "topper")
    if rng.random() < 0.4:
        _random_protection(draft, rng, rng.choice(banks))
    if rng.random() < 0.4:
        kettle: dict[str, Any] = {"id": "kettle", "name": "Kettle", "profiles": ["living"]}
        items = [kettle | {"power_w": rng.choice((80, 600, 1400))}]
        charger = {"charger_a": rng.choice((None, 40)), "idle_w": rng.choice((6, 20))}
        draft.part("inverter", "inverter", rated_w=1500, items=items, **charger)
        _land(draft, rng, "inverter.pos", rng.choice(taps))
        _ground(draft, rng, "inverter")
    if rng.random() < 0.4:
        points = [{"speed_kn": s, "current_a": a} for s, a in ((6, 0), (15, 6), (30, 22))]
        fields = {"driven_by": rng.choice(("wind", "water")), "points": points, "set_v": 14.2}
        draft.part("generator", "generator", **fields)
        _land(draft, rng, "generator.pos", rng.choice(taps))
        _ground(draft, rng, "generator")
    if rng.random() < 0.4:
        draft.part("fuse_block", "block", branch_a=[10, 20, 40])
        _land(draft, rng, "block.in", rng.choice(taps))
        for n in (1, 2):
            name = draft.load(f"branch_{n}", round(rng.uniform(0.5, 9), 2), law=rng.choice(LAWS))
            _run(draft, rng, f"block.b{n}", f"{name}.pos")
            _ground(draft, rng, name)
    if rng.random() < 0.4:
        draft.part("switch", "windlass_switch", drive="held")
        _land(draft, rng, "windlass_switch.a", rng.choice(taps))
        name = draft.load("windlass", rng.choice((30.0, 90.0)))
        _run(draft, rng, "windlass_switch.b", f"{name}.pos")
        _run(draft, rng, "windlass_switch.ctrl_pos", rng.choice(taps))
        _ground(draft, rng, name)
        draft.cable("windlass_switch.ctrl_neg", f"minus_bar.s{rng.randint(1, 24)}", "10 AWG")
    if rng.random() < 0.3:
        _random_other_voltage(draft, rng, banks[0])


def _random_protection(draft: Draft, rng: Random, bank: str) -> None:
    """A disconnect in the positive of a bank: all that was on the bank is behind it."""
    limits = {"high_v": rng.choice((14.0, 14.8)), "charge_limit_a": rng.choice((None, 40))}
    draft.part("protection", "guard", guards=bank, **limits)
    for cable in draft.cables:
        for end in ("start", "end"):
            if cable[end] == f"{bank}.pos":
                cable[end] = "guard.system"
    draft.cable(f"{bank}.pos", "guard.bank", "1/0 AWG", 0.4)


def _random_other_voltage(draft: Draft, rng: Random, bank: str) -> None:
    """A 24 V bank with a load of its own, charged from a 12 V bank."""
    draft.bank("upper_bank", role="other", series=2, soc=0.5)
    isolated = rng.random() < 0.5
    figures = {"limit_a": 15, "set_v": 28.4, "start_v": 12.6, "stop_v": 12.0}
    draft.part("dcdc", "booster", isolated=isolated, **figures)
    _land(draft, rng, "booster.in", f"{bank}.pos")
    _run(draft, rng, "booster.out", "upper_bank.pos")
    _ground(draft, rng, "booster")
    if isolated:
        _run(draft, rng, "booster.out_neg", "upper_bank.neg")
    else:
        _ground(draft, rng, "upper_bank")
    name = draft.load("upper_load", 4.0, law=rng.choice(LAWS))
    draft.parts[-1]["nominal_v"] = 24
    _run(draft, rng, "upper_bank.pos", f"{name}.pos")
    _run(draft, rng, f"{name}.neg", "upper_bank.neg")


def _random_isolator(draft: Draft, rng: Random) -> None:
    """The alternator behind an isolator with an output for each bank."""
    banks = [p["id"] for p in draft.parts if p["kind"] == "bank"]
    sort = rng.choice(("silicon", "schottky", "fet"))
    draft.part(
        "isolator", "isolator", sort=sort, outputs=len(banks), rating_a=rng.choice((70, 150))
    )
    _run(draft, rng, "alternator.out", "isolator.in")
    for n, bank in enumerate(banks):
        _land(draft, rng, f"isolator.out{n + 1}", f"{bank}.pos")


def _random_sources(draft: Draft, rng: Random, taps: list[str]) -> None:
    outside = rng.random() < 0.4
    sensing = "external" if outside else "machine"
    alternator = {"rated_a": rng.choice((35, 60, 90, 150)), "set_v": 14.3, "sensing": sensing}
    draft.part("alternator", "alternator", **alternator)
    if rng.random() < 0.3:
        _random_isolator(draft, rng)
    else:
        _land(draft, rng, "alternator.out", rng.choice(taps))
    _ground(draft, rng, "alternator")
    if outside:
        _run(draft, rng, "alternator.sense_pos", rng.choice(taps))
        if rng.random() < 0.5:
            _run(draft, rng, "alternator.sense_neg", "house_bank.neg")
    outputs = rng.randint(1, 3)
    draft.part("charger", "charger", outputs=outputs, rated_a=40, set_v=14.4, float_v=13.5)
    _ground(draft, rng, "charger")
    for n in range(outputs):
        _run(draft, rng, f"charger.out{n + 1}", rng.choice(taps))
    draft.part(
        "solar",
        "solar",
        panel_w=rng.choice((80, 360)),
        controller=rng.choice(("mppt", "pwm")),
        set_v=14.2,
    )
    _run(draft, rng, "solar.pos", rng.choice(taps))
    _ground(draft, rng, "solar")


def generated_state(design: Design, seed: int) -> State:
    """A random state of a design."""
    rng = Random(seed * 7919 + 1)
    return State(
        engine=rng.choice(("off", "on", "on")),
        rpm=rng.choice((500.0, 900.0, 1500.0, 2600.0)),
        cranking=rng.random() < 0.1,
        shore=rng.random() < 0.4,
        sun=rng.choice((0.0, 0.3, 1.0)),
        wind_kn=rng.choice((0.0, 12.0, 25.0)) if seed >= PLAIN_SEEDS else 0.0,
        boat_kn=rng.choice((0.0, 20.0)) if seed >= PLAIN_SEEDS else 0.0,
        profile=rng.choice((None, *(p.id for p in design.profiles))),
        positions={s.id: rng.choice(switch_positions(s)) for s in switches(design)},
    )
