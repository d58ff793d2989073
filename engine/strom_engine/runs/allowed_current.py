"""What a cable is allowed to carry, with every factor."""

from __future__ import annotations

import math
from dataclasses import dataclass

from strom_engine.design import Cable, Design
from strom_engine.design.choices import Standard
from strom_engine.reference import (
    DEVICES,
    ampacity_table,
    area_mm2,
    base_ampacity_a,
    bundling_factor,
    engine_space_c,
    engine_space_factor,
    load_table,
    resistivity_ohm_mm2_per_m,
    size_in_table,
)

__all__ = ["Allowed", "Standard", "allowed_current", "in_engine_space", "most_rating_a"]

NEXT_STEP_SHARE = 1.5  # the next standard rating above the ampacity may reach this much of it
# Insulation that an engine space allows [degC]: ABYC E-11 tables from 75, ISO 13297 from 70.
LEAST_IN_ENGINE_SPACE_C: dict[Standard, int] = {"abyc": 75, "iso": 70}
# A load that is brief runs for so long at a time: windlasses and thrusters are made for duties of
# 3 to 5 minutes (makers' plates, S2 of IEC 60034-1); the longer end is taken.
SHORT_S = 300.0
AMBIENT_C = 30.0  # of the tables
# Heat that a conductor with its insulation takes up: copper 3.45 J/(cm3 K), and about half as much
# again in the insulation.
HEAT_J_PER_MM2_M_K = 1.4 * 3.45
# Standard ratings, whatever a workshop keeps of them: those of every generic type [A].
STANDARD_STEPS_A = tuple(sorted({r for device in DEVICES for r in device.ratings_a}))


@dataclass(frozen=True)
class Allowed:
    """Allowable current [A] of a cable as it runs, step by step, and where it is published."""

    amps: float
    base_a: float
    table_size: str
    insulation_c: int
    engine_factor: float
    bundling_factor: float
    working: tuple[str, ...]
    source: str
    confidence: str
    around_c: float = AMBIENT_C
    short_share: float = 1.0

    @property
    def short_a(self) -> float:
        """Allowable current [A] of what flows for minutes at a time."""
        return self.amps * self.short_share


def in_engine_space(design: Design, cable: Cable) -> bool:
    """Whether a cable runs through an engine space: as told, else where either end is in one.

    Args:
        design: the boat, as surveyed.
        cable: one of it.
    """
    if cable.engine_space is not None:
        return cable.engine_space
    hot = {p.id for p in design.places if p.engine_space}
    return any(design.by_id[ref.part].place in hot for ref in (cable.start, cable.end))


def allowed_current(cable: Cable, *, engine_space: bool, standard: Standard = "abyc") -> Allowed:
    """What a cable may carry for long [A].

    ``amps = table * engine space * bundling``: table ampacity_awg (ABYC) or ampacity_mm2 (ISO)
    for its insulation, factors of tables ampacity_engine_space and bundling. A size that the
    standard does not list is read as the next thinner one that it does.

    Args:
        cable: size, insulation [degC], bundle.
        engine_space: whether it runs through one.
        standard: whose table.

    Returns:
        Amps [A] with each factor [-], or why they cannot be told.
    """
    size = size_in_table(cable.gauge, cable.area_mm2, standard)
    base = base_ampacity_a(size, cable.insulation_c)
    hot = engine_space_factor(size, cable.insulation_c) if engine_space else 1.0
    together = bundling_factor(cable.bundled, standard)
    amps = base * hot * together
    table = ampacity_table(size)
    read = f"{size}, insulation {cable.insulation_c} °C: {base:g} A"
    if size != cable.gauge:
        read = f"{cable.gauge} is not listed there; read as {read}"
    working = [f"{read} ({table.title.lower()})."]
    if engine_space:
        working.append(f"In an engine space: x {hot:g} = {base * hot:.0f} A.")
    if together < 1:
        working.append(f"{cable.bundled} conductors bundled: x {together:g} = {amps:.0f} A.")
    return Allowed(
        amps=amps,
        base_a=base,
        table_size=size,
        insulation_c=cable.insulation_c,
        engine_factor=hot,
        bundling_factor=together,
        working=tuple(working),
        source=table.citation,
        around_c=engine_space_c(size) if engine_space else AMBIENT_C,
        short_share=_short_share(cable, base, size),
        confidence=_lower(
            [table.confidence]
            + ([load_table("ampacity_engine_space").confidence] if engine_space else [])
            + ([load_table("bundling").confidence] if together < 1 else [])
        ),
    )


def _short_share(cable: Cable, base_a: float, size: str) -> float:
    """How much more than its allowable current a cable stands for ``SHORT_S`` from cold [-].

    It warms with a time constant: the heat that a metre takes up on the way to the temperature of
    its insulation, over the heat that its allowable current makes there. The share is
    ``1 / sqrt(1 - exp(-t / tau))`` (a body with one time constant).
    """
    area, rise_k = area_mm2(size), cable.insulation_c - AMBIENT_C
    heat_w = base_a**2 * resistivity_ohm_mm2_per_m(float(cable.insulation_c)) / area
    tau_s = HEAT_J_PER_MM2_M_K * area * rise_k / heat_w
    return 1 / math.sqrt(1 - math.exp(-SHORT_S / tau_s))


def _lower(confidences: list[str]) -> str:
    return min(confidences, key=("low", "medium", "high").index)


def most_rating_a(allowed_a: float, steps_a: tuple[float, ...] = STANDARD_STEPS_A) -> float:
    """The largest device [A] that protects a cable: its ampacity, or the next step above it.

    The next standard step is taken where no step is the ampacity itself, and only up to 150 %
    of it. Source: ABYC E-11, rating of overcurrent protection.
    """
    if allowed_a <= 0:
        return 0.0
    above = min((s for s in steps_a if s >= allowed_a - 1e-9), default=allowed_a)
    return above if above <= NEXT_STEP_SHARE * allowed_a else allowed_a
