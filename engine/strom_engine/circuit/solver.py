"""Nodal analysis with an active set: guess modes, solve, change what is violated, repeat."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from strom_engine.circuit.elements import Element
from strom_engine.errors import NotSettledError

__all__ = ["Branch", "Solution", "solve"]

Vector = NDArray[np.float64]
MAX_ROUNDS = 300
NEWTON_TOLERANCE_A = 1e-8


@dataclass(frozen=True)
class Branch:
    """A conductor between two of the solver's nodes."""

    a: int
    b: int
    conductance_s: float


@dataclass(frozen=True)
class Solution:
    """Node voltages [V], element currents [A] plus to minus, and the mode of each element."""

    volts: Vector
    amps: tuple[float, ...]
    modes: tuple[str, ...]
    rounds: int


def solve(
    count: int,
    grounds: Sequence[int],
    branches: Sequence[Branch],
    elements: Sequence[Element],
    guess_v: Vector,
) -> Solution:
    """Solve a network of ``count`` nodes, one ground for each island, from a first guess [V].

    Every node must hang on a ground through conductors and banks: the caller looks for
    floating islands first. Deterministic. Once a set of modes comes back, only the first
    violated element changes in each round (Bland's rule), so that it cannot cycle between
    the same sets. Raises NotSettledError naming the elements that keep changing.
    """
    base = _conductance_matrix(count, grounds, branches)
    volts = guess_v.copy()
    modes = [element.modes()[0] for element in elements]
    seen: set[tuple[str, ...]] = set()
    careful = False
    changed: list[str] = []
    for round_no in range(1, MAX_ROUNDS + 1):
        volts, amps = _linear(base, grounds, elements, modes, volts)
        violated = _violated(elements, modes, volts, amps)
        if violated:
            key = tuple(modes)
            careful = careful or key in seen
            seen.add(key)
            for i, mode in violated[:1] if careful else violated:
                modes[i] = mode
            changed = [elements[i].name for i, _ in violated]
        elif _newton_error_a(elements, modes, volts, amps) < NEWTON_TOLERANCE_A:
            return Solution(volts, tuple(amps), tuple(modes), round_no)
    raise NotSettledError(tuple(dict.fromkeys(changed)) or tuple(e.name for e in elements))


def _conductance_matrix(count: int, grounds: Sequence[int], branches: Sequence[Branch]) -> Vector:
    matrix = np.zeros((count, count))
    a = np.fromiter((b.a for b in branches), dtype=np.intp)
    b = np.fromiter((b.b for b in branches), dtype=np.intp)
    g = np.fromiter((b.conductance_s for b in branches), dtype=np.float64)
    np.add.at(matrix, (a, a), g)
    np.add.at(matrix, (b, b), g)
    np.add.at(matrix, (a, b), -g)
    np.add.at(matrix, (b, a), -g)
    return matrix


def _linear(
    base: Vector,
    grounds: Sequence[int],
    elements: Sequence[Element],
    modes: Sequence[str],
    volts: Vector,
) -> tuple[Vector, list[float]]:
    matrix = base.copy()
    right = np.zeros(len(base))
    stamps = []
    for element, mode in zip(elements, modes, strict=True):
        p, m = element.plus, element.minus
        cp, cm = element.control_plus, element.control_minus
        stamp = element.stamp(mode, volts[p] - volts[m], volts[cp] - volts[cm])
        stamps.append(stamp)
        if stamp.g:
            matrix[p, cp] += stamp.g
            matrix[p, cm] -= stamp.g
            matrix[m, cp] -= stamp.g
            matrix[m, cm] += stamp.g
        right[p] -= stamp.i0
        right[m] += stamp.i0
    for ground in grounds:
        matrix[ground, :] = 0.0
        matrix[ground, ground] = 1.0
        right[ground] = 0.0
    solved: Vector = np.linalg.solve(matrix, right)
    amps = [
        float(s.g * (solved[e.control_plus] - solved[e.control_minus]) + s.i0)
        for s, e in zip(stamps, elements, strict=True)
    ]
    return solved, amps


def _violated(
    elements: Sequence[Element], modes: Sequence[str], volts: Vector, amps: Sequence[float]
) -> list[tuple[int, str]]:
    found = []
    for i, (element, mode) in enumerate(zip(elements, modes, strict=True)):
        wanted = element.wanted(
            mode,
            float(volts[element.plus] - volts[element.minus]),
            float(volts[element.control_plus] - volts[element.control_minus]),
            amps[i],
        )
        if wanted != mode:
            found.append((i, wanted))
    return found


def _newton_error_a(
    elements: Sequence[Element], modes: Sequence[str], volts: Vector, amps: Sequence[float]
) -> float:
    errors = (
        abs(e.residual_a(mode, float(volts[e.plus] - volts[e.minus]), current))
        for e, mode, current in zip(elements, modes, amps, strict=True)
    )
    return max(errors, default=0.0)
