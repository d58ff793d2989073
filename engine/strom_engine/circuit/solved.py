"""One state solved, with everything that moves by itself as given."""

from __future__ import annotations

from dataclasses import dataclass
from functools import cached_property

import numpy as np
from numpy.typing import NDArray

from strom_engine.circuit.build import Circuit, build_circuit
from strom_engine.circuit.demand import load_reference_v
from strom_engine.circuit.elements import BankElement, OneWayElement, SourceElement
from strom_engine.circuit.network import network
from strom_engine.circuit.solver import Solution, solve
from strom_engine.design import (
    Bank,
    Design,
    State,
)
from strom_engine.errors import NotSettledError
from strom_engine.faults import Effects

Vector = NDArray[np.float64]

__all__ = ["Solved", "first_guess", "first_modes", "solve_state"]


@dataclass(frozen=True)
class Solved:
    """A solved circuit, kept together with what it was made from."""

    design: Design
    state: State
    circuit: Circuit
    solution: Solution

    def volts(self, plus: str, minus: str) -> float | None:
        """Voltage [V] between two posts; None where no bank defines it."""
        span = self.circuit.span(plus, minus)
        if span is None:
            return None
        return float(self.solution.volts[span[0]] - self.solution.volts[span[1]])

    @cached_property
    def _place(self) -> dict[str, int]:
        return {e.name: i for i, e in enumerate(self.circuit.elements)}

    def amps(self, element: str) -> float | None:
        """Current [A] of an element, plus to minus; None when it is not in the circuit."""
        place = self._place.get(element)
        return None if place is None else self.solution.amps[place]

    def mode(self, element: str) -> str | None:
        """Mode of an element; None when it is not in the circuit."""
        place = self._place.get(element)
        return None if place is None else self.solution.modes[place]


def solve_state(
    design: Design,
    state: State,
    moved: frozenset[str],
    like: Solved | None = None,
    effects: Effects | None = None,
) -> Solved:
    """Solve one checked state with what moves by itself as given. Raises NotSettledError.

    ``like`` is the same state solved with some of that otherwise: a good place to start from.
    """
    added = effects.added if effects else ()
    net = network(design, state.positions, moved, added)
    circuit = build_circuit(design, state, net, effects)
    try:
        solution = _from(design, circuit, like)
    except NotSettledError:
        if like is None:
            raise
        solution = _from(design, circuit, None)
    return Solved(design, state, circuit, solution)


def _from(design: Design, circuit: Circuit, like: Solved | None) -> Solution:
    """The solution found from where a circuit alike stood, or from what is most usual."""
    guess, modes = first_guess(design, circuit, like), first_modes(design, circuit, like)
    return solve(circuit.metal, len(circuit.inside), circuit.elements, guess, modes)


def first_modes(design: Design, circuit: Circuit, like: Solved | None) -> dict[str, str]:
    """Modes to start from, by element: those of a circuit alike, else what is most usual."""
    if like is not None:
        names = (e.name for e in like.circuit.elements)
        return dict(zip(names, like.solution.modes, strict=True))
    # With a source running most banks take charge: start from there.
    if not any(isinstance(e, SourceElement) for e in circuit.elements):
        return {}
    modes = {b.id: "charge" for b in design.of_type(Bank)}
    ways = (e.name for e in circuit.elements if isinstance(e, OneWayElement) and e.knee_v > 0)
    return modes | dict.fromkeys(ways, "passing")


def first_guess(design: Design, circuit: Circuit, like: Solved | None) -> Vector:
    """Voltages [V] to start from: those of a circuit alike, else about nominal."""
    guess = np.zeros(circuit.metal.count + len(circuit.inside))
    metal, net = circuit.metal, circuit.net
    for element in circuit.elements:
        guess[element.plus] = load_reference_v(design.system_v)
    # Metal that a bank of another voltage is on is about at that bank's.
    banks = [e for e in circuit.elements if isinstance(e, BankElement)]
    at_v = {net.group(f"{e.name}.pos"): e.source.emf_v for e in banks}
    if at_v and max(at_v.values()) > 1.5 * min(at_v.values()):
        for node, live in metal.live_of.items():
            guess[live] = at_v.get(net.group_of_node[node], guess[live])
    if like is not None:
        for node, live in circuit.metal.live_of.items():
            known = like.circuit.metal.live_of.get(node)
            if known is not None:
                guess[live] = like.solution.volts[known]
    return guess
