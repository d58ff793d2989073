"""The live metal of a state, seen from the nodes where banks, sources and loads sit.

Nodes with nothing but metal on them are eliminated once (G. Kron's reduction, 1939); the
solver then works on the few that are left, for as long as no contact moves.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from functools import lru_cache

import numpy as np
from numpy.typing import NDArray

from strom_engine.circuit.network import Network, powered_islands
from strom_engine.design import Bank, Design, Relay, Shunt
from strom_engine.errors import computing

__all__ = ["Branch", "Metal", "live_metal"]

CONTROL_POSTS = ("ctrl_pos", "ctrl_neg")  # the coil of a held switch hangs there
DRAWING = (Relay, Shunt)  # metal for what passes, with a draw of their own between their posts
Vector = NDArray[np.float64]
Indices = NDArray[np.intp]


@dataclass(frozen=True)
class Branch:
    """A conductor between two live nodes."""

    a: int
    b: int
    conductance_s: float


@dataclass(frozen=True, eq=False)
class Metal:
    """Live nodes, numbered afresh; which are kept, and the conductances among those.

    ``live_of`` gives the live number of a network's node, ``island`` the island of each live
    node, ``small_of`` the place of a kept node in the reduced ``matrix`` [S]. The voltages of
    the eliminated nodes are ``back`` times those of the kept ones.
    """

    live_of: dict[int, int]
    island: tuple[int, ...]
    grounds: tuple[int, ...]
    branches: tuple[Branch, ...]
    kept: Indices
    gone: Indices
    small_of: dict[int, int]
    matrix: Vector
    back: Vector

    @property
    def count(self) -> int:
        """How many nodes are live."""
        return len(self.island)

    def span(self, plus: int, minus: int) -> tuple[int, int] | None:
        """Live numbers of two of the network's nodes when both are in one island."""
        p, m = self.live_of.get(plus), self.live_of.get(minus)
        if p is None or m is None or self.island[p] != self.island[m]:
            return None
        return p, m


@lru_cache(maxsize=256)
def live_metal(design: Design, net: Network) -> Metal:
    """Everything in a network that a bank gives a voltage."""
    islands = powered_islands(design, net)
    live = [n for n, group in enumerate(net.group_of_node) if group in islands]
    live_of = {node: i for i, node in enumerate(live)}
    branches = tuple(
        Branch(live_of[c.a], live_of[c.b], 1 / c.resistance_ohm)
        for c in net.conductors
        if c.a in live_of
    )
    grounds = _grounds(design, net, live_of, islands)
    ends = {
        live_of[node]
        for part in design.components
        for post in part.posts()
        if (post in CONTROL_POSTS or not part.joins() or isinstance(part, DRAWING))
        and (node := net.node(f"{part.id}.{post}")) in live_of
    }
    matrix = _conductance_matrix(len(live), branches)
    kept = np.array(sorted(ends), dtype=np.intp)
    gone = np.setdiff1d(np.arange(len(live), dtype=np.intp), kept)
    inner = matrix[np.ix_(gone, gone)]
    with computing("the metal of this state"):
        back = np.asarray(-np.linalg.solve(inner, matrix[np.ix_(gone, kept)]), dtype=np.float64)
    return Metal(
        live_of=live_of,
        island=tuple(islands[net.group_of_node[n]] for n in live),
        grounds=grounds,
        branches=branches,
        kept=kept,
        gone=gone,
        small_of={int(node): i for i, node in enumerate(kept)},
        matrix=matrix[np.ix_(kept, kept)] + matrix[np.ix_(kept, gone)] @ back,
        back=back,
    )


def _grounds(
    design: Design, net: Network, live_of: dict[int, int], islands: dict[int, int]
) -> tuple[int, ...]:
    """One ground an island: the negative post of its first bank."""
    found: dict[int, int] = {}
    for bank in design.of_type(Bank):
        node = net.node(f"{bank.id}.neg")
        found.setdefault(islands[net.group_of_node[node]], live_of[node])
    return tuple(found.values())


def _conductance_matrix(count: int, branches: Sequence[Branch]) -> Vector:
    matrix = np.zeros((count, count))
    a = np.fromiter((b.a for b in branches), dtype=np.intp)
    b = np.fromiter((b.b for b in branches), dtype=np.intp)
    g = np.fromiter((b.conductance_s for b in branches), dtype=np.float64)
    np.add.at(matrix, (a, a), g)
    np.add.at(matrix, (b, b), g)
    np.add.at(matrix, (a, b), -g)
    np.add.at(matrix, (b, a), -g)
    return matrix
