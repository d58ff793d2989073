"""What is not known exactly of a boat, and boats drawn from that."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, field

import numpy as np

from strom_engine.batteries import soc_from_rest
from strom_engine.batteries.source import unit_resistance_ohm
from strom_engine.design import (
    Alternator,
    Bank,
    Cable,
    Charger,
    Component,
    DcDc,
    Design,
    LoadGroup,
    Relay,
    Solar,
    Starter,
)
from strom_engine.prove.instruments import Instrument
from strom_engine.reference import BLOCK_V, resistivity_ohm_mm2_per_m

__all__ = ["BOATS", "BoatDrawn", "Today", "boats_drawn"]

# Standard deviations of what is not known exactly; own judgement but where a source stands.
MEASURED_SHARE = 0.02  # of a run that was measured: the tape, and tails
ESTIMATED_SHARE = 0.15  # of a run that was estimated
# Of a crimped and bolted end [ohm]: 0.1 to 0.3 mohm as commonly published, all equally likely.
TERMINATION_OHM = 0.2e-3 / 12**0.5
COPPER_SHARE = 0.02  # 5 K of the conductors' temperature, 0.393 %/K (IEC 60228)
RESISTANCE_SHARE = 0.15  # of a bank against its chemistry's or its label's
MEASURED_RESISTANCE_SHARE = 0.05
SOC_AS_DRAWN = 0.10  # where nobody measured
SET_SHARE = 0.004  # of a set voltage: 0.05 V at 12 V
OUTPUT_SHARE = 0.05  # of what a source can give
DRAW_SHARE = 0.10  # of a load against its label
CRANKING_SHARE = 0.10
NEVER_BELOW = 0.2  # of what a figure is as drawn
LEAST_SOC = 0.02
BOATS = 14  # drawn for a range; more make it no truer: the law of ranges counts how few they are


@dataclass(frozen=True)
class Today:
    """What was found today: air [degC], rest volts of banks [V] with hours of rest [h], meters."""

    temperature_c: float | None = None
    rest_v: Mapping[str, float] = field(default_factory=dict)
    rested_h: float = 4.0
    instruments: tuple[Instrument, ...] = ()


@dataclass(frozen=True)
class BoatDrawn:
    """A boat as it may really be, with the charge of its banks [-].

    ``drawn`` tells for every figure that somebody could find out how far it lies from what is
    known, in standard deviations: ``soc:BANK`` and ``length:CABLE``.
    """

    design: Design
    soc: Mapping[str, float]
    drawn: Mapping[str, float]


def boats_drawn(design: Design, today: Today, count: int, seed: int = 1) -> tuple[BoatDrawn, ...]:
    """Boats drawn from what is not known exactly, the same seed the same boats.

    Args:
        design: the boat as built, as surveyed.
        today: what was found today.
        count: how many.
        seed: of the draw.
    """
    design = _at(design, today)
    known = {b.id: _soc(b, today) for b in design.of_type(Bank)}
    rng = np.random.default_rng(seed)
    return tuple(_drawn(design, known, rng) for _ in range(count))


def _at(design: Design, today: Today) -> Design:
    """The boat at today's temperature."""
    if today.temperature_c is None:
        return design
    warm = {"temperature_c": today.temperature_c}
    parts = (p.model_copy(update=warm) if isinstance(p, Bank) else p for p in design.components)
    return design.replace_unchecked(components=tuple(parts))


def _soc(bank: Bank, today: Today) -> tuple[float, float]:
    """Charge of a bank and its standard deviation [-], from its rest volts where they tell."""
    volts_v = today.rest_v.get(bank.id)
    if volts_v is None:
        return bank.soc, SOC_AS_DRAWN
    told = soc_from_rest(bank, volts_v, today.rested_h)
    if told.soc is None or told.low is None or told.high is None:
        return bank.soc, SOC_AS_DRAWN
    # The doubt of a rest voltage is told as limits that hold nearly always: two deviations a side.
    return told.soc, max(0.01, (told.high - told.low) / 4)


def _drawn(
    design: Design, known: Mapping[str, tuple[float, float]], rng: np.random.Generator
) -> BoatDrawn:
    told: dict[str, float] = {}
    copper = 1 + COPPER_SHARE * rng.standard_normal()
    cables = tuple(_cable(design, c, copper, told, rng) for c in design.cables)
    parts = tuple(_part(p, rng) for p in design.components)
    soc = {}
    for bank, (middle, deviation) in known.items():
        told[f"soc:{bank}"] = rng.standard_normal()
        soc[bank] = float(np.clip(middle + deviation * told[f"soc:{bank}"], LEAST_SOC, 1.0))
    return BoatDrawn(design.replace_unchecked(cables=cables, components=parts), soc, told)


def _cable(
    design: Design,
    cable: Cable,
    copper: float,
    told: dict[str, float],
    rng: np.random.Generator,
) -> Cable:
    """A cable with its resistance drawn, kept as the length that has it."""
    share = ESTIMATED_SHARE if cable.estimated else MEASURED_SHARE
    off = float(rng.standard_normal())
    if cable.estimated:
        told[f"length:{cable.id}"] = off
    rho = resistivity_ohm_mm2_per_m(design.conductor_temperature_c)
    ends_ohm = TERMINATION_OHM * 2**0.5 * rng.standard_normal()
    length_m = cable.length_m * (1 + share * off) * copper + ends_ohm * cable.area_mm2 / rho
    return cable.model_copy(update={"length_m": max(length_m, NEVER_BELOW * cable.length_m)})


def _part(part: Component, rng: np.random.Generator) -> Component:
    def near(value: float, share: float) -> float:
        return value * max(NEVER_BELOW, 1 + share * float(rng.standard_normal()))

    match part:
        case Bank():
            measured = part.unit_resistance_ohm is not None
            share = MEASURED_RESISTANCE_SHARE if measured else RESISTANCE_SHARE
            return part.model_copy(
                update={"unit_resistance_ohm": near(unit_resistance_ohm(part), share)}
            )
        case Alternator() | Charger():
            rated, held = near(part.rated_a, OUTPUT_SHARE), near(part.set_v, SET_SHARE)
            return part.model_copy(update={"rated_a": rated, "set_v": held})
        case Solar():
            return part.model_copy(update={"panel_w": near(part.panel_w, OUTPUT_SHARE)})
        case DcDc():
            limit, held = near(part.limit_a, OUTPUT_SHARE), near(part.set_v, SET_SHARE)
            return part.model_copy(update={"limit_a": limit, "set_v": held})
        case Relay():
            off = SET_SHARE * BLOCK_V * float(rng.standard_normal())
            return part.model_copy(
                update={"cut_in_v": part.cut_in_v + off, "cut_out_v": part.cut_out_v + off}
            )
        case Starter():
            return part.model_copy(update={"cranking_a": near(part.cranking_a, CRANKING_SHARE)})
        case LoadGroup():
            items = tuple(
                i.model_copy(update={"draw_a": near(i.draw_a, DRAW_SHARE)}) for i in part.items
            )
            return part.model_copy(update={"items": items})
        case _:
            return part
