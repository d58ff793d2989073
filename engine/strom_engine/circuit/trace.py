"""Whose amps arrive where: proportional sharing of the flows at every node.

Source: J. Bialek, *Tracing the flow of electricity*, IEE Proc. Gener. Transm. Distrib. 143
(1996). Current leaving a node is thought to be mixed as the current entering it.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray
from scipy.sparse import csc_array, diags_array
from scipy.sparse.linalg import splu

from strom_engine.circuit.live_metal import Branch
from strom_engine.errors import ComputationError

__all__ = ["SMALLEST_A", "Injection", "Passage", "trace_shares"]

SMALLEST_A = 1e-6


@dataclass(frozen=True)
class Injection:
    """Current [A] that a bank or source puts into the positive side at a node."""

    giver: str
    node: int
    current_a: float


@dataclass(frozen=True)
class Passage:
    """Current [A] that passes a one-way part from a node to a node."""

    start: int
    end: int
    current_a: float


def trace_shares(
    branches: Sequence[Branch],
    volts: NDArray[np.float64],
    injections: Sequence[Injection],
    passages: Sequence[Passage] = (),
) -> dict[int, dict[str, float]]:
    """Share [-] of each giver in the current at each node that anything flows into.

    Raises ComputationError where current goes in a ring that no giver feeds.
    """
    givers = sorted({i.giver for i in injections})
    count, v = len(volts), volts.tolist()
    flows: list[tuple[float, int, int]] = []
    for branch in branches:
        amps = (v[branch.a] - v[branch.b]) * branch.conductance_s
        if amps > SMALLEST_A:
            flows.append((amps, branch.b, branch.a))
        elif amps < -SMALLEST_A:
            flows.append((-amps, branch.a, branch.b))
    flows += [(p.current_a, p.end, p.start) for p in passages if p.current_a > 0]
    amount, sink, source = np.array(flows).reshape(-1, 3).T
    inflow = csc_array((amount, (sink.astype(int), source.astype(int))), shape=(count, count))
    given = np.zeros((count, len(givers)))
    for injection in injections:
        given[injection.node, givers.index(injection.giver)] += injection.current_a
    throughput = inflow.sum(axis=1) + given.sum(axis=1)
    through = diags_array(np.where(throughput > 0, throughput, 1.0))
    try:
        shares = splu((through - inflow).tocsc()).solve(given).tolist()
    except RuntimeError:  # what goes round and round comes from nobody
        raise ComputationError("some current goes in a ring that nothing feeds") from None
    return {
        node: {g: share for g, share in zip(givers, row, strict=True) if share > SMALLEST_A}
        for node, (row, amps) in enumerate(zip(shares, throughput.tolist(), strict=True))
        if amps > 0
    }
