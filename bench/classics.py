"""The classic phenomena of boats with several banks, each as a small boat and a plan.

They appear from the physics: nothing in the day run knows of them.
"""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from typing import Any

from strom_engine.dayrun import Plan
from strom_engine.dayrun.plan import EngineSpan, LivingSpan, Move, ShoreSpan
from strom_engine.design import Design

from bench.designs import Draft

__all__ = ["CLASSICS", "Classic"]

RELAY: dict[str, Any] = {"cut_in_v": 13.3, "cut_in_s": 60, "cut_out_v": 12.75, "cut_out_s": 30}


@dataclass(frozen=True)
class Classic:
    """A phenomenon: what is seen, the plan, and boats by name, the ailing one first."""

    id: str
    title: str
    seen: str
    plan: Plan
    boats: dict[str, Callable[[], Design]]


def _living(hours: float) -> tuple[LivingSpan, ...]:
    return (LivingSpan(start_h=0, end_h=hours, profile="living"),)


def _two_banks(house: dict[str, Any], engine: dict[str, Any] | None = None) -> Draft:
    draft = Draft()
    first = {"role": "engine", "unit_ah": 80, "unit_cca_a": 700, "soc": 1.0}
    draft.bank("engine_bank", **(first | (engine or {})))
    draft.bank("house_bank", **house)
    draft.part("bus_bar", "minus_bar", polarity="neg", studs=24)
    draft.cable("engine_bank.neg", "minus_bar.s1", "1/0 AWG", 0.8)
    draft.cable("house_bank.neg", "minus_bar.s2", "1/0 AWG", 0.8)
    return draft


def _relay(draft: Draft) -> None:
    draft.part("relay", "relay", **RELAY)
    draft.cable("engine_bank.pos", "relay.a", "2 AWG", 1.5)
    draft.cable("relay.b", "house_bank.pos", "2 AWG", 1.5)
    draft.cable("relay.neg", "minus_bar.s3", "16 AWG", 1.0)


def _loads(draft: Draft, *amps: float, on: str = "house_bank.pos") -> None:
    draft.load("panel", *amps, law="current")
    draft.cable(on, "panel.pos", "6 AWG", 2.0)
    draft.cable("panel.neg", "minus_bar.s4", "6 AWG", 2.0)


def _alternator(draft: Draft, lands: str, gauge: str = "1/0 AWG", **fields: Any) -> None:
    draft.part("alternator", "alternator", **({"rated_a": 80, "set_v": 14.3} | fields))
    draft.cable("alternator.out", lands, gauge, 1.5)
    draft.cable("alternator.neg", "minus_bar.s5", gauge, 1.5)


def _starter(draft: Draft, lands: str) -> None:
    draft.part("starter", "starter", cranking_a=280)
    draft.cable(lands, "starter.pos", "1/0 AWG", 1.5)
    draft.cable("starter.neg", "minus_bar.s6", "1/0 AWG", 1.5)


def _weak_charger(lands: str) -> Design:
    draft = _two_banks({"unit_ah": 120, "parallel": 4, "soc": 0.35})
    _relay(draft)
    _loads(draft, 3.0)
    draft.part("charger", "charger", rated_a=5, set_v=14.4, float_v=13.5)
    draft.cable("charger.out1", lands, "10 AWG", 1.5)
    draft.cable("charger.neg", "minus_bar.s7", "10 AWG", 1.5)
    return draft.design()


def _isolated(*, senses_behind: bool) -> Design:
    draft = _two_banks({"unit_ah": 110, "parallel": 2, "soc": 0.5})
    draft.part("isolator", "isolator", sort="silicon", outputs=2, rating_a=120)
    draft.cable("isolator.out1", "engine_bank.pos", "2 AWG", 1.0)
    draft.cable("isolator.out2", "house_bank.pos", "2 AWG", 1.0)
    _alternator(draft, "isolator.in", sensing="external" if senses_behind else "machine")
    if senses_behind:
        draft.cable("house_bank.pos", "alternator.sense_pos", "16 AWG", 2.0)
        draft.cable("alternator.sense_neg", "minus_bar.s8", "16 AWG", 2.0)
    _starter(draft, "engine_bank.pos")
    _loads(draft, 2.0)
    return draft.design()


def _long_negative(*, both_leads: bool) -> Design:
    draft = _two_banks({"chemistry": "lfp", "unit_ah": 100, "parallel": 2, "soc": 0.4})
    draft.part("alternator", "alternator", rated_a=120, set_v=14.2, float_v=13.4,
               absorption_h=0.33, sensing="external")  # fmt: skip
    draft.cable("alternator.out", "house_bank.pos", "1/0 AWG", 3.0)
    draft.cable("alternator.neg", "minus_bar.s5", "4 AWG", 6.0)
    draft.cable("house_bank.pos", "alternator.sense_pos", "16 AWG", 3.0)
    if both_leads:
        draft.cable("house_bank.neg", "alternator.sense_neg", "16 AWG", 3.0)
    _starter(draft, "engine_bank.pos")
    _loads(draft, 2.0)
    return draft.design()


def _relay_between(chemistry: str, soc: float = 0.8) -> Design:
    draft = _two_banks({"chemistry": chemistry, "unit_ah": 100, "parallel": 2, "soc": soc})
    _relay(draft)
    _alternator(draft, "engine_bank.pos")
    _starter(draft, "engine_bank.pos")
    _loads(draft, 4.0)
    return draft.design()


def _selector(**fields: Any) -> Design:
    draft = _two_banks({"unit_ah": 100, "soc": 0.75}, {"unit_ah": 70, "unit_cca_a": 600})
    draft.part("selector", "selector", **({"make_before_break": True, "position": "2"} | fields))
    draft.cable("engine_bank.pos", "selector.one", "1/0 AWG", 1.5)
    draft.cable("house_bank.pos", "selector.two", "1/0 AWG", 1.5)
    _starter(draft, "selector.common")
    _alternator(draft, "starter.pos")
    _loads(draft, 3.6, on="selector.common")
    return draft.design()


def _hot(*, probe: bool) -> Design:
    draft = _two_banks({"chemistry": "lfp", "unit_ah": 100, "parallel": 4, "soc": 0.2})
    _alternator(draft, "house_bank.pos", rated_a=100, temperature_probe=probe)
    _starter(draft, "engine_bank.pos")
    _loads(draft, 2.0)
    return draft.design()


def _engine(hours: float, *spans: tuple[float, float], **more: Any) -> Plan:
    engine = tuple(EngineSpan(start_h=a, end_h=b, rpm=2200) for a, b in spans)
    return Plan(name="Classic", hours=hours, engine=engine, living=_living(hours), **more)


def _turned(at_h: float, position: str, through: str | None = None) -> tuple[Move, ...]:
    return (Move(at_h=at_h, switch="selector", position=position, through=through),)


CLASSICS: tuple[Classic, ...] = (
    Classic(
        "chatter",
        "A weak charger on the full small bank makes the relay chatter",
        "Five amps lift the engine bank to cut-in within minutes; the relay closes onto a large "
        "house bank at 35 %, the volts collapse below cut-out, it opens, and so on all night.",
        Plan(
            name="Night on a weak charger",
            hours=12,
            clock_h=20,
            shore=(ShoreSpan(start_h=0, end_h=12),),
            living=_living(12),
        ),
        {
            "charger on the engine bank": lambda: _weak_charger("engine_bank.pos"),
            "its lead moved to the house bank": lambda: _weak_charger("house_bank.pos"),
        },
    ),
    Classic(
        "isolator",
        "A silicon isolator never fills the banks",
        "The regulator holds its voltage before the diodes; the banks get 0.7 to 1 V less, however"
        " long the engine runs, until the regulator senses behind them.",
        _engine(4, (0.5, 3.5)),
        {
            "sensing at the machine": lambda: _isolated(senses_behind=False),
            "sensing at the house bank": lambda: _isolated(senses_behind=True),
        },
    ),
    Classic(
        "early_float",
        "Drop in the negative makes the regulator float early",
        "The positive sense lead goes to the bank, the negative one does not: what a thin negative "
        "loses is taken for bank voltage, absorption begins at once and is soon over.",
        _engine(4, (0.2, 3.7)),
        {
            "negative sensed at the machine": lambda: _long_negative(both_leads=False),
            "one sense lead moved to the bank": lambda: _long_negative(both_leads=True),
        },
    ),
    Classic(
        "stuck_relay",
        "Lithium holds a voltage relay closed",
        "Lithium rests above the cut-out of the relay: once closed it stays so, and the loads "
        "drain both banks all night.",
        _engine(18, (0.5, 1.5)),
        {
            "lithium house bank": lambda: _relay_between("lfp"),
            "AGM house bank": lambda: _relay_between("agm"),
        },
    ),
    Classic(
        "left_in_both",
        "A selector left in both for two nights",
        "Both banks sink together, and on the third morning nothing starts.",
        _engine(50, (0.5, 1.5), (48, 49), moves=_turned(0.4, "both")),
        {"selector left in both": _selector},
    ),
    Classic(
        "surface_charge",
        "Surface charge holds a relay closed",
        "After the engine stops the plates still hold the voltage of charging: the relay stays "
        "closed for hours with nothing charging, and lets go only when that is used up.",
        _engine(12, (0.5, 3.5)),
        {"AGM banks, light load": lambda: _relay_between("agm", 0.95)},
    ),
    Classic(
        "hot_alternator",
        "An alternator overheats into lithium",
        "Lithium takes all it has until the very end: a small frame passes its limit within "
        "half an hour. A regulator with a temperature probe holds it back.",
        _engine(5, (0.2, 4.2)),
        {"no probe": lambda: _hot(probe=False), "with a probe": lambda: _hot(probe=True)},
    ),
    Classic(
        "load_dump",
        "Through off with the engine running",
        "The alternator loses its bank while it gives tens of amps. A field contact shuts it down "
        "first.",
        _engine(2, (0.2, 1.8), moves=_turned(0.5, "1", "off")),
        {
            "no field contact": _selector,
            "with a field contact": lambda: _selector(field_contact_of="alternator"),
        },
    ),
    Classic(
        "inrush",
        "The inrush when banks are joined is less than a start",
        "The current of the first instant is the difference of voltages over all resistances; "
        "within seconds it is a fraction of that, and it is less than what the starter draws.",
        _engine(2, (0.2, 1.8)),
        {"half-empty house bank": lambda: _relay_between("agm", 0.4)},
    ),
)
