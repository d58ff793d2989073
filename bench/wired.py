"""Whole boats wired to the standard, and the same boats spoiled as one finds them."""

from __future__ import annotations

from random import Random
from typing import Any

from strom_engine.design import Design, parse_design

from bench.designs import Draft

__all__ = ["sound_boat", "spoiled_boat", "wide_boat"]

THICK, THIN = "4/0 AWG", ("14 AWG", "12 AWG", "10 AWG", "8 AWG", "6 AWG")
GOOD = {
    "held": True,
    "boxed": True,
    "vented": True,
    "boots": True,
    "clear_of_fuel": True,
    "terminals": "stud",
}


def _fused(
    draft: Draft, name: str, source: str, taker: str, rating_a: float, gauge: str, length_m: float
) -> None:
    """A cable with a fuse 0.15 m from its source."""
    draft.part("fuse", name, rating_a=rating_a, device="terminal_stud")
    draft.cable(source, f"{name}.a", gauge, 0.15)
    draft.cable(f"{name}.b", taker, gauge, length_m)


def sound_boat(seed: int) -> Draft:
    """Engine and house bank, a relay between them, a dual-circuit switch, sources, circuits.

    Amps, lengths and what is fitted change with the seed; nothing in it breaks a rule of runs.
    """
    rng = Random(seed)
    far = rng.uniform(0.5, 1.5)
    draft = Draft()
    draft.bank("engine_bank", role="engine", unit_cca_a=900, unit_ah=100, soc=1.0, **GOOD)
    draft.bank("house_bank", unit_ah=90, parallel=2, unit_cca_a=350, soc=0.8, **GOOD)
    draft.part("dual_switch", "main", position="on", rating_a=400, intermittent_a=900)
    draft.part("starter", "starter", cranking_a=rng.choice((180, 220)))
    draft.part("alternator", "alternator", rated_a=rng.choice((50, 70)), set_v=14.4)
    draft.part(
        "relay",
        "relay",
        rating_a=150,
        negative_fuse_a=3,
        cut_in_v=13.3,
        cut_in_s=60,
        cut_out_v=12.75,
        cut_out_s=30,
    )
    draft.part("bus_bar", "plus", polarity="pos", studs=8, rating_a=250)
    draft.part("bus_bar", "bar", polarity="neg", studs=20, engine_block=True)
    draft.cable("engine_bank.pos", "main.engine_in", THICK, 0.6)
    draft.cable("main.engine_out", "starter.pos", THICK, 0.5 + far)
    _fused(draft, "alternator_fuse", "house_bank.pos", "alternator.out", 100, "1/0 AWG", 1.5)
    _fused(draft, "relay_fuse_a", "engine_bank.pos", "relay.a", 100, "1/0 AWG", 0.6)
    _fused(draft, "relay_fuse_b", "house_bank.pos", "relay.b", 100, "1/0 AWG", 0.6)
    _fused(draft, "house_fuse", "house_bank.pos", "main.house_in", 200, THICK, 0.6)
    _fused(draft, "bus_fuse", "main.house_out", "plus.s1", 150, THICK, far)
    grounded = ["engine_bank", "house_bank", "starter", "alternator", "relay"]
    for n, amps in enumerate(rng.sample((3.0, 5.0, 8.0, 12.0), rng.randint(2, 3)), start=1):
        draft.load(f"feed{n}", amps)
        _fused(draft, f"feed_fuse{n}", f"plus.s{n + 1}", f"feed{n}.pos", 30, "6 AWG", 2 * far)
        grounded.append(f"feed{n}")
    if rng.random() < 0.5:
        draft.part("charger", "charger", rated_a=30, set_v=14.4, float_v=13.6, over_bank=False)
        _fused(draft, "charger_fuse", "house_bank.pos", "charger.out1", 40, "2 AWG", 1.5)
        grounded.append("charger")
    for n, part in enumerate(grounded, start=1):
        gauge = "14 AWG" if part == "relay" else "6 AWG" if part.startswith("feed") else THICK
        draft.cable(f"{part}.neg", f"bar.s{n}", gauge, 0.5 + 0.5 * far)
    return draft


def spoiled_boat(seed: int, flaws: int = 6) -> Design:
    """A sound boat with cables, devices and lugs as a careless hand left them."""
    rng = Random(10_000 + seed)
    draft = sound_boat(seed)
    spoil = (_thin, _long, _cooked, _wrong_fuse, _no_fuse, _far_fuse, _bad_lug, _wing_nuts)
    for _ in range(rng.randint(2, flaws)):
        rng.choice(spoil)(rng, draft)
    return draft.design()


def _any_cable(rng: Random, draft: Draft) -> dict[str, Any]:  # Any: JSON data
    return rng.choice([c for c in draft.cables if not c["start"].startswith("relay.neg")])


def _thin(rng: Random, draft: Draft) -> None:
    _any_cable(rng, draft)["gauge"] = rng.choice(THIN)


def _long(rng: Random, draft: Draft) -> None:
    cable = _any_cable(rng, draft)
    cable["length_m"] = round(cable["length_m"] * rng.uniform(1.1, 1.6), 2)


def _cooked(rng: Random, draft: Draft) -> None:
    _any_cable(rng, draft)["insulation_c"] = 60
    draft.extra["places"] = [{"id": "engine", "name": "Engine space", "engine_space": True}]
    rng.choice([p for p in draft.parts if p["kind"] in ("starter", "alternator")])["place"] = (
        "engine"
    )


def _fuses(draft: Draft) -> list[dict[str, Any]]:
    return [p for p in draft.parts if p["kind"] == "fuse"]


def _wrong_fuse(rng: Random, draft: Draft) -> None:
    if _fuses(draft):
        fuse = rng.choice(_fuses(draft))
        fuse["rating_a"] = fuse["rating_a"] * rng.choice((0.25, 0.5, 2, 4))


def _no_fuse(rng: Random, draft: Draft) -> None:
    """A fuse taken out, its two cables made one."""
    if not _fuses(draft):
        return
    fuse = rng.choice(_fuses(draft))
    before = next(c for c in draft.cables if c["end"] == f"{fuse['id']}.a")
    after = next(c for c in draft.cables if c["start"] == f"{fuse['id']}.b")
    after["start"] = before["start"]
    draft.cables.remove(before)
    draft.parts.remove(fuse)


def _far_fuse(rng: Random, draft: Draft) -> None:
    if _fuses(draft):
        fuse = rng.choice(_fuses(draft))
        before = next(c for c in draft.cables if c["end"] == f"{fuse['id']}.a")
        before["length_m"] = rng.choice((0.3, 0.8, 2.0))


def _bad_lug(rng: Random, draft: Draft) -> None:
    _any_cable(rng, draft)["end_lug"] = rng.choice(("M5", "M12"))


def _wing_nuts(rng: Random, draft: Draft) -> None:
    rng.choice([p for p in draft.parts if p["kind"] == "bank"])["terminals"] = "wing_nut"


def wide_boat(cables: int) -> Design:
    """Two banks and so many circuits that they have about a number of cables."""
    draft = sound_boat(1)
    feeds = max(1, (cables - len(draft.cables)) // 3)
    bars = (feeds - 1) // 20 + 1
    for b in range(bars):
        draft.part("bus_bar", f"plus{b}", polarity="pos", studs=24, rating_a=250)
        draft.part("bus_bar", f"minus{b}", polarity="neg", studs=24)
        draft.cable("plus.s8" if b == 0 else f"plus{b - 1}.s24", f"plus{b}.s1", THICK, 0.3)
        draft.cable("bar.s20" if b == 0 else f"minus{b - 1}.s24", f"minus{b}.s1", THICK, 0.3)
    for n in range(feeds):
        b, stud = n // 20, n % 20 + 2
        draft.load(f"circuit{n}", 0.1 + 0.05 * (n % 5))
        draft.part("fuse", f"circuit_fuse{n}", rating_a=5, device="blade_regular")
        draft.cable(f"plus{b}.s{stud}", f"circuit_fuse{n}.a", "14 AWG", 0.1)
        draft.cable(f"circuit_fuse{n}.b", f"circuit{n}.pos", "14 AWG", 2.0 + n % 7)
        draft.cable(f"circuit{n}.neg", f"minus{b}.s{stud}", "14 AWG", 2.0 + n % 7)
    raw = {"profiles": [{"id": "living", "name": "Living"}], "components": draft.parts}
    return parse_design(raw | {"cables": draft.cables})
