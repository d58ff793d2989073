"""Small designs for the tests, each with one thing to look at."""

from __future__ import annotations

from pathlib import Path
from typing import Any

from strom_engine.dayrun import Day
from strom_engine.design import CableFields, Design, SetCables, apply_change
from strom_engine.interchange import JobFile, parse_job_text

from bench.designs import Draft

DEMO = Path(__file__).parents[2] / "server/apps/jobs/demo_data"
DEMO_FILES = ("marsh_wren.json", "pilot_3.json", "ebb_tide.json", "grey_plover.json")


def demo_job(name: str) -> JobFile:
    """A demo job as its file holds it."""
    return parse_job_text((DEMO / name).read_bytes())


def demo_designs() -> list[Design]:
    """Every variant of every demo job."""
    return [variant.design for name in DEMO_FILES for variant in demo_job(name).variants]


def two_banks(**changes: Any) -> Draft:
    """Engine and house bank on one selector, alternator at its common post, one negative bar.

    ``changes``: fields of parts by their id, such as ``selector={"position": "1"}``.
    """
    draft = Draft()
    draft.bank("engine_bank", role="engine", unit_cca_a=700, soc=0.95)
    draft.bank("house_bank", unit_cca_a=600, soc=0.6)
    draft.part("selector", "selector", make_before_break=True, position="both")
    draft.part("alternator", "alternator", rated_a=80, set_v=14.4)
    draft.part("starter", "starter", cranking_a=300)
    draft.load("panel", 5.0)
    draft.part("bus_bar", "bar", polarity="neg", studs=12)
    draft.cable("engine_bank.pos", "selector.one")
    draft.cable("house_bank.pos", "selector.two")
    draft.cable("selector.common", "starter.pos")
    draft.cable("starter.pos", "alternator.out")
    draft.cable("selector.common", "panel.pos", "8 AWG")
    for n, part in enumerate(("engine_bank", "house_bank", "starter", "alternator", "panel")):
        draft.cable(f"{part}.neg", f"bar.s{n + 1}")
    for part in draft.parts:
        part.update(changes.get(part["id"], {}))
    return draft


def twin_engines() -> Design:
    """A boat with two engines, each with its bank, and a house bank."""
    draft = two_banks()
    draft.bank("second_bank", role="engine", unit_cca_a=700, soc=0.95)
    draft.part("starter", "second_starter", cranking_a=300, engine="second")
    draft.part("alternator", "second_alternator", rated_a=80, set_v=14.4, engine="second")
    draft.cable("second_bank.pos", "second_starter.pos")
    draft.cable("second_starter.pos", "second_alternator.out")
    for n, part in enumerate(("second_bank", "second_starter", "second_alternator")):
        draft.cable(f"{part}.neg", f"bar.s{n + 7}")
    return draft.design()


def relay_boat(sensing: str = "dual", **changes: Any) -> Draft:
    """Engine bank with the alternator, house bank beyond a relay; the panel on the house bank."""
    draft = Draft()
    draft.bank("engine_bank", role="engine", unit_cca_a=700, soc=1.0)
    draft.bank("house_bank", soc=0.5, unit_cca_a=600, parallel=2)
    draft.part("alternator", "alternator", rated_a=100, set_v=14.4)
    thresholds = {"cut_in_v": 13.3, "cut_in_s": 60, "cut_out_v": 12.8, "cut_out_s": 30}
    draft.part("relay", "relay", sensing=sensing, **thresholds)
    draft.part("switch", "starter_switch", position="on")
    draft.part("switch", "parallel", purpose="parallel")
    draft.part("switch", "house_switch", position="on")
    draft.part("starter", "starter", cranking_a=300)
    draft.load("panel", 5.0)
    draft.part("bus_bar", "bar", polarity="neg", studs=12)
    for start, end in (
        ("engine_bank.pos", "alternator.out"),
        ("engine_bank.pos", "starter_switch.a"),
        ("starter_switch.b", "starter.pos"),
        ("engine_bank.pos", "relay.a"),
        ("relay.b", "house_bank.pos"),
        ("parallel.a", "starter.pos"),
        ("parallel.b", "house_bank.pos"),
        ("house_bank.pos", "house_switch.a"),
        ("house_switch.b", "panel.pos"),
    ):
        draft.cable(start, end)
    grounded = ("engine_bank", "house_bank", "alternator", "starter", "panel", "relay")
    for n, part in enumerate(grounded):
        draft.cable(f"{part}.neg", f"bar.s{n + 1}")
    for part in draft.parts:
        part.update(changes.get(part["id"], {}))
    return draft


def one_bank(load_a: float = 10.0, law: str = "current", **bank: Any) -> Draft:
    """One 100 Ah AGM bank, 2 m of 6 AWG out and 2 m back, one load."""
    draft = Draft()
    draft.bank("bank", **({"soc": 1.0, "temperature_c": 25} | bank))
    draft.load("lamp", load_a, law=law)
    draft.cable("bank.pos", "lamp.pos", "6 AWG", 2.0)
    draft.cable("bank.neg", "lamp.neg", "6 AWG", 2.0)
    draft.extra = {"conductor_temperature_c": 20, "termination_mohm": 0.2}
    return draft


def bare_banks(house: dict[str, Any] | None = None, **engine: Any) -> Draft:
    """An engine bank and a house bank on one negative bar, and nothing else."""
    draft = Draft()
    draft.bank(
        "engine_bank",
        **({"role": "engine", "unit_ah": 90, "unit_cca_a": 700, "soc": 0.95} | engine),
    )
    draft.bank("house_bank", **({"unit_ah": 200, "soc": 0.6} | (house or {})))
    draft.part("bus_bar", "bar", polarity="neg", studs=24)
    for n, bank in enumerate(("engine_bank", "house_bank")):
        draft.cable(f"{bank}.neg", f"bar.s{n + 1}")
    return draft


def with_cables(draft: Draft, *pairs: tuple[str, str]) -> Design:
    """The draft with a cable for every pair; each "bar" is a stud of its own."""
    for n, (start, end) in enumerate(pairs):
        draft.cable(start, f"bar.s{n + 5}" if end == "bar" else end, "2 AWG", 1.0)
    return draft.design()


def told(day: Day, part: str) -> list[tuple[float, str]]:
    """When [min] a part did what, in order."""
    return [(round(e.at_s / 60, 2), e.to) for e in day.events if e.part == part]


def with_cable(design: Design, cable: str, **fields: object) -> Design:
    return apply_change(design, SetCables(rows=(CableFields(cable=cable, fields=fields),)))
