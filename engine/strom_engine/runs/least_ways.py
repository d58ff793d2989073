"""Ways of least resistance from a bank's post over its side of the circuit."""

from __future__ import annotations

from collections.abc import Iterator, Mapping
from functools import lru_cache
from typing import Literal

from strom_engine.circuit.least_path import Edge, Reached, least_paths, path_to
from strom_engine.circuit.network import cable_resistance_ohm
from strom_engine.design import Bank, Design
from strom_engine.runs.wiring import wiring

__all__ = ["CONTACT_OHM", "least_ohms", "least_way"]

CONTACT_OHM = 0.0002  # a contact or fuse on the way, about 50 mV at 250 A
Side = Literal["pos", "neg"]


@lru_cache(maxsize=128)
def least_ohms(design: Design, start: str, side: Side = "pos") -> Mapping[str, float]:
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
    path = path_to(end, _walk(design, start, side)) or ()
    return tuple(cable for _, _, cable in path if cable)


@lru_cache(maxsize=128)
def _walk(design: Design, start: str, side: Side) -> dict[str, Reached[str]]:
    wires = wiring(design)
    other = "neg" if side == "pos" else "pos"
    banks = {f"{b.id}.{side}" for b in design.of_type(Bank)}

    def onward(post: str) -> Iterator[Edge[str]]:
        if post != start and post in banks:
            return
        for link in wires.links[post]:
            if link.cable is None:
                yield Edge(link.to, CONTACT_OHM)
                continue
            cable = design.cables_by_id[link.cable]
            if wires.side(cable) != other:
                yield Edge(link.to, cable_resistance_ohm(design, cable), cable.id)

    return least_paths(start, onward)
