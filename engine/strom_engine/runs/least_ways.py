"""Ways of least resistance from a bank's post over its side of the circuit."""

from __future__ import annotations

import heapq
from dataclasses import dataclass
from functools import lru_cache
from typing import Literal

from strom_engine.circuit.network import cable_resistance_ohm
from strom_engine.design import Bank, Design
from strom_engine.runs.wiring import wiring

__all__ = ["CONTACT_OHM", "least_ohms", "least_way"]

CONTACT_OHM = 0.0002  # a contact or fuse on the way, about 50 mV at 250 A
Side = Literal["pos", "neg"]


@dataclass(frozen=True)
class _Reached:
    """A post on the walk: resistance up to it [ohm], the post before it, the cable between."""

    ohm: float
    before: str | None
    cable: str | None


def least_ohms(design: Design, start: str, side: Side = "pos") -> dict[str, float]:
    """Least resistance [ohm] of metal from a post of a bank to every other on its side.

    Every contact is thought closed; the way ends at the posts of other banks.

    Args:
        design: the boat as drawn.
        start: a post of a bank.
        side: of the circuit on which it lies.
    """
    return {post: reached.ohm for post, reached in _walk(design, start, side).items()}


def least_way(design: Design, start: str, end: str, side: Side = "pos") -> tuple[str, ...]:
    """Ids of the cables on that way, from the bank on; empty where it does not get there.

    Args:
        design: the boat as drawn.
        start: a post of a bank.
        end: the post to reach.
        side: of the circuit on which both lie.
    """
    walked, found = _walk(design, start, side), []
    at: str | None = end if end in walked else None
    while at is not None:
        cable = walked[at].cable
        found += [cable] if cable else []
        at = walked[at].before
    return tuple(reversed(found))


@lru_cache(maxsize=128)
def _walk(design: Design, start: str, side: Side) -> dict[str, _Reached]:
    wires = wiring(design)
    other = "neg" if side == "pos" else "pos"
    banks = {f"{b.id}.{side}" for b in design.of_type(Bank)}
    found: dict[str, _Reached] = {}
    queue: list[tuple[float, str, str | None, str | None]] = [(0.0, start, None, None)]
    while queue:
        ohm, at, before, by = heapq.heappop(queue)
        if at in found:
            continue
        found[at] = _Reached(ohm, before, by)
        if at != start and at in banks:
            continue
        for link in wires.links[at]:
            if link.cable is None:
                more = CONTACT_OHM
            elif wires.side(design.cables_by_id[link.cable]) == other:
                continue
            else:
                more = cable_resistance_ohm(design, design.cables_by_id[link.cable])
            if link.to not in found:
                heapq.heappush(queue, (ohm + more, link.to, at, link.cable or ""))
    return found
