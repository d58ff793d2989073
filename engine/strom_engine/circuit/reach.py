"""Who reaches whom through closed metal: decided by the graph alone, without a number."""

from __future__ import annotations

from dataclasses import dataclass

from strom_engine.circuit.network import Network, Passage, network, passages
from strom_engine.circuit.supply import source_running
from strom_engine.design import (
    Bank,
    Design,
    FittedInverter,
    LoadGroup,
    Starter,
    State,
)

__all__ = ["Reach", "reach"]


@dataclass(frozen=True)
class Reach:
    """Paths in one state: load or starter -> banks, source -> banks, and banks joined together."""

    fed_by: dict[str, tuple[str, ...]]
    charges: dict[str, tuple[str, ...]]
    joined_banks: tuple[tuple[str, ...], ...]
    loose_sources: tuple[str, ...]
    dead_loads: tuple[str, ...]


def reach(design: Design, state: State, moved: frozenset[str]) -> Reach:
    """Reach of a checked state with the relays as given.

    A bank feeds a load when closed metal leads from its plus to the load's plus, isolators
    passed the way they let through, and metal from the load's minus back to its minus; a source
    charges a bank in the same way.

    Args:
        design: the boat, as surveyed.
        state: one that was checked.
        moved: parts whose contact stands otherwise than at rest.

    Returns:
        Which banks feed each load, which sources charge each bank.
    """
    net = network(design, state.positions, moved)
    banks = design.of_type(Bank)
    takers = [*design.of_type(LoadGroup), *design.of_type(Starter), *design.of_type(FittedInverter)]
    sources = design.sources
    onward = _Onward(net, passages(design, net))
    fed_by = {
        t.id: tuple(b.id for b in banks if onward.leads((b.id, "pos"), (t.id, "pos")))
        for t in takers
    }
    charges = {
        s.id: tuple(
            b.id
            for b in banks
            if any(onward.leads((s.id, out), (b.id, "pos")) for out in s.charging_posts())
        )
        for s in sources
    }
    return Reach(
        fed_by=fed_by,
        charges=charges,
        joined_banks=_joined(net, banks),
        loose_sources=tuple(
            s.id for s in sources if not charges[s.id] and source_running(design, s, state, net)
        ),
        dead_loads=tuple(name for name, by in fed_by.items() if not by),
    )


class _Onward:
    """Where current can go from a piece of metal, one-way passages taken as they let through."""

    def __init__(self, net: Network, ways: tuple[Passage, ...]) -> None:
        self._net = net
        self._ways = ways

    def leads(self, giver: tuple[str, str], taker: tuple[str, str]) -> bool:
        """Whether a giver's plus post leads to a taker's, and metal or a charger back."""
        net = self._net
        reached = {(net.group(".".join(giver)), net.group(f"{giver[0]}.neg"))}
        while more := {self._after(way, at) for way in self._ways for at in reached} - reached:
            reached |= more
        return (net.group(".".join(taker)), net.group(f"{taker[0]}.neg")) in reached

    def _after(self, way: Passage, at: tuple[int, int]) -> tuple[int, int]:
        """Where a pair of pieces, plus and minus, is led by a passage; the same when it is not."""
        plus, minus = at
        if way.start != plus or (way.returns is not None and way.returns[0] != minus):
            return at
        return way.end, minus if way.returns is None else way.returns[1]


def _joined(net: Network, banks: tuple[Bank, ...]) -> tuple[tuple[str, ...], ...]:
    """Sets of two or more banks in parallel: both their posts on the same metal."""
    sets: dict[tuple[int, int], list[str]] = {}
    for bank in banks:
        key = (net.group(f"{bank.id}.pos"), net.group(f"{bank.id}.neg"))
        sets.setdefault(key, []).append(bank.id)
    return tuple(tuple(ids) for ids in sets.values() if len(ids) > 1)
