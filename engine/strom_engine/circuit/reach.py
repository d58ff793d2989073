"""Who reaches whom through closed metal: decided by the graph alone, without a number."""

from __future__ import annotations

from dataclasses import dataclass

from strom_engine.circuit.build import source_running
from strom_engine.circuit.network import Network, network, passages
from strom_engine.design import (
    Alternator,
    Bank,
    Charger,
    Design,
    LoadGroup,
    Solar,
    Starter,
    State,
)

__all__ = ["Reach", "reach"]

OUTPUTS = {"alternator": ("out",), "charger": ("out1", "out2", "out3"), "solar": ("pos",)}


@dataclass(frozen=True)
class Reach:
    """Paths in one state: load or starter -> banks, source -> banks, and banks joined together."""

    fed_by: dict[str, tuple[str, ...]]
    charges: dict[str, tuple[str, ...]]
    joined_banks: tuple[tuple[str, ...], ...]
    loose_sources: tuple[str, ...]
    dead_loads: tuple[str, ...]


def reach(design: Design, state: State, closed_relays: frozenset[str]) -> Reach:
    """Reach of a checked state with the relays as given.

    A bank feeds a load when closed metal leads from its plus to the load's plus, isolators
    passed the way they let through, and metal from the load's minus back to its minus; a source
    charges a bank in the same way.
    """
    net = network(design, state.positions, closed_relays)
    banks = design.of_type(Bank)
    takers = [*design.of_type(LoadGroup), *design.of_type(Starter)]
    sources = [p for p in design.components if isinstance(p, Alternator | Charger | Solar)]
    onward = _Onward(net, passages(design, net))
    fed_by = {
        t.id: tuple(b.id for b in banks if onward.leads((b.id, "pos"), (t.id, "pos")))
        for t in takers
    }
    charges = {
        s.id: tuple(
            b.id
            for b in banks
            if any(
                onward.leads((s.id, out), (b.id, "pos"))
                for out in OUTPUTS[s.kind]
                if out in s.posts()
            )
        )
        for s in sources
    }
    return Reach(
        fed_by=fed_by,
        charges=charges,
        joined_banks=_joined(net, banks),
        loose_sources=tuple(
            s.id for s in sources if not charges[s.id] and source_running(design, s, state)
        ),
        dead_loads=tuple(name for name, by in fed_by.items() if not by),
    )


class _Onward:
    """Where current can go from a piece of metal, one-way passages taken as they let through."""

    def __init__(self, net: Network, ways: tuple[tuple[int, int], ...]) -> None:
        self._net = net
        self._ways = ways

    def leads(self, giver: tuple[str, str], taker: tuple[str, str]) -> bool:
        """Whether a giver's plus post leads to a taker's, and their minus posts are joined."""
        net = self._net
        if net.group(f"{giver[0]}.neg") != net.group(f"{taker[0]}.neg"):
            return False
        reached = {net.group(".".join(giver))}
        while more := {end for start, end in self._ways if start in reached} - reached:
            reached |= more
        return net.group(".".join(taker)) in reached


def _joined(net: Network, banks: tuple[Bank, ...]) -> tuple[tuple[str, ...], ...]:
    """Sets of two or more banks in parallel: both their posts on the same metal."""
    sets: dict[tuple[int, int], list[str]] = {}
    for bank in banks:
        key = (net.group(f"{bank.id}.pos"), net.group(f"{bank.id}.neg"))
        sets.setdefault(key, []).append(bank.id)
    return tuple(tuple(ids) for ids in sets.values() if len(ids) > 1)
