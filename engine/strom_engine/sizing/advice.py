"""Advice on a candidate bank, in words with its reasons."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass
from typing import Literal

from strom_engine.design import Bank, Design
from strom_engine.reference import chemistry
from strom_engine.sizing.sources_aboard import ChargeSource

__all__ = ["MAX_STRINGS", "Advice", "advise"]

MAX_STRINGS = 4
HOLD_DOUBT_V = 0.25
HEAVY_KG = 30.0


@dataclass(frozen=True)
class Advice:
    """One reason for or against, or something that goes with the choice."""

    sense: Literal["for", "against", "needs"]
    words: str


def advise(
    design: Design, house: Bank, bank: Bank, need_ah: float, sources: tuple[ChargeSource, ...]
) -> tuple[Advice, ...]:
    """What speaks for and against a candidate, and what it needs."""
    return (
        *_size(bank, need_ah),
        *_members(bank),
        *_charging(design, house, bank, sources),
        *_place(design, bank),
    )


def _size(bank: Bank, need_ah: float) -> Iterator[Advice]:
    if bank.capacity_ah < need_ah - 1e-6:
        words = f"Too small: {bank.capacity_ah:.0f} Ah against {need_ah:.0f} Ah needed."
        yield Advice("against", words)
    elif bank.capacity_ah > 1.5 * need_ah > 0:
        words = f"Half as large again as needed ({need_ah:.0f} Ah): weight and money to spare."
        yield Advice("against", words)
    else:
        yield Advice("for", f"Meets the {need_ah:.0f} Ah needed.")


def _members(bank: Bank) -> Iterator[Advice]:
    if bank.series * bank.parallel == 1:
        words = "One battery alone: when it fails nothing is left. At least two batteries."
        yield Advice("against", words)
    if bank.parallel > MAX_STRINGS:
        words = (
            f"{bank.parallel} strings in parallel share badly: not more than {MAX_STRINGS}; "
            "take larger batteries."
        )
        yield Advice("against", words)
    if bank.parallel > 1:
        words = "Same make, size and age; positive and negative taken off opposite ends."
        yield Advice("needs", words)
    if bank.unit_weight_kg is not None and bank.unit_weight_kg > HEAVY_KG:
        words = f"{bank.unit_weight_kg:g} kg each: two people, and the box beside the place."
        yield Advice("needs", words)


def _charging(
    design: Design, house: Bank, bank: Bank, sources: tuple[ChargeSource, ...]
) -> Iterator[Advice]:
    figures = chemistry(bank.chemistry)
    blocks = bank.nominal_v / 12.0
    wanted_v = figures.absorption_v * blocks
    wrong = [s for s in sources if abs(s.hold_v - wanted_v) > HOLD_DOUBT_V * blocks]
    for source in wrong:
        words = (
            f"{source.name} holds {source.hold_v:g} V; {figures.label} wants about "
            f"{wanted_v:.1f} V: this chemistry needs other charging."
        )
        yield Advice("needs", words)
    others = [
        b
        for b in design.of_type(Bank)
        if b.id != house.id and chemistry(b.chemistry).family != figures.family
    ]
    if others:
        names = ", ".join(b.name for b in others)
        words = f"Unlike {names}: never joined directly; a dc-dc charger between them."
        yield Advice("needs", words)
    if figures.family == "lithium":
        words = (
            "Takes all an alternator has: limit its field, watch its heat; protection with an "
            "alarm before it disconnects; a class T fuse or its equal."
        )
        yield Advice("needs", words)
    for source in sources:
        low_a = (0.2 if figures.family == "lithium" else 0.1) * bank.capacity_ah
        if source.net_a < low_a:
            words = (
                f"{source.name}: {source.gross_a:.0f} A less {source.loads_a:.0f} A of loads is "
                f"weak for {bank.capacity_ah:.0f} Ah; at least {low_a:.0f} A wanted."
            )
            yield Advice("against", words)


def _place(design: Design, bank: Bank) -> Iterator[Advice]:
    place = next((p for p in design.places if p.id == bank.place), None)
    if place is None:
        return
    if place.engine_space and chemistry(bank.chemistry).family == "lithium":
        yield Advice("against", f"{place.name} is an engine space: too hot for lithium.")
    if bank.chemistry.startswith("flooded"):
        yield Advice("needs", f"A vented box in {place.name}, reached for topping up.")
