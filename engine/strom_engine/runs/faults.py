"""Fault current: what flows into a dead short."""

from __future__ import annotations

import heapq
from dataclasses import dataclass
from functools import lru_cache
from typing import Literal

from strom_engine.batteries import bank_source, least_resistance_ohm
from strom_engine.circuit.network import cable_resistance_ohm
from strom_engine.design import Bank, Design
from strom_engine.runs.wiring import wiring

__all__ = ["FaultCurrent", "fault_currents", "least_ohms"]

CONTACT_OHM = 0.0002  # a contact or fuse on the way, about 50 mV at 250 A
FULL = 1.0


@dataclass(frozen=True)
class FaultCurrent:
    """Fault current at a post [A]: the sum over banks of ``E / (R_bank + R_way)``.

    The way is the positive one alone, so that the figure is not too small.
    """

    amps: float
    working: tuple[str, ...]


@lru_cache(maxsize=32)
def fault_currents(design: Design) -> dict[str, FaultCurrent]:
    """Fault current at every positive post, banks full and every contact closed."""
    sums: dict[str, float] = {}
    lines: dict[str, list[str]] = {}
    for bank in design.of_type(Bank):
        emf_v, inside_ohm = bank_source(bank, FULL).emf_v, least_resistance_ohm(bank)
        for post, ohm in least_ohms(design, f"{bank.id}.pos").items():
            amps = emf_v / (inside_ohm + ohm)
            sums[post] = sums.get(post, 0.0) + amps
            lines.setdefault(post, []).append(
                f"{bank.name}: {emf_v:.1f} V / ({1000 * inside_ohm:.2f} mΩ inside, the least for "
                f"its kind, + {1000 * ohm:.2f} mΩ of cable) = {amps:.0f} A."
            )
    return {post: FaultCurrent(amps, tuple(lines[post])) for post, amps in sums.items()}


@lru_cache(maxsize=128)
def least_ohms(design: Design, start: str, side: Literal["pos", "neg"] = "pos") -> dict[str, float]:
    """Least resistance [ohm] of metal from a post of a bank to every other on its side.

    Every contact is thought closed; the way ends at the posts of other banks.

    Args:
        design: the boat as drawn.
        start: a post of a bank.
        side: of the circuit on which it lies.
    """
    wires = wiring(design)
    other = "neg" if side == "pos" else "pos"
    banks = {f"{b.id}.{side}" for b in design.of_type(Bank)}
    found: dict[str, float] = {}
    queue = [(0.0, start)]
    while queue:
        ohm, at = heapq.heappop(queue)
        if at in found:
            continue
        found[at] = ohm
        if at != start and at in banks:
            continue
        for link in wires.links[at]:
            if link.cable is None:
                more = CONTACT_OHM
            elif wires.side(design.cables_by_id[link.cable]) == other:
                continue
            else:
                more = cable_resistance_ohm(design, design.cables_by_id[link.cable])
            heapq.heappush(queue, (ohm + more, link.to))
    return found
