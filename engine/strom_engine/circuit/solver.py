"""Nodal analysis with an active set: guess modes, solve, change what is violated, repeat."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field
from itertools import product

import numpy as np
from numpy.typing import NDArray
from scipy.linalg.lapack import dgesv

from strom_engine.circuit.elements import Element
from strom_engine.circuit.metal import Metal
from strom_engine.errors import NotSettledError

__all__ = ["Solution", "solve"]

Vector = NDArray[np.float64]
MAX_ROUNDS = 300
MAX_SETTLING_ROUNDS = 100
MAX_TRYING_ROUNDS = 6000
GENTLE_STEP = 0.4
NEWTON_TOLERANCE_A = 1e-6


@dataclass(frozen=True)
class Solution:
    """Node voltages [V], element currents [A] plus to minus, and the mode of each element."""

    volts: Vector
    amps: tuple[float, ...]
    modes: tuple[str, ...]
    rounds: int


def solve(
    metal: Metal,
    extra: int,
    elements: Sequence[Element],
    guess_v: Vector,
    first_modes: Mapping[str, str],
) -> Solution:
    """Solve elements on metal, with ``extra`` nodes inside parts, from a first guess.

    ``guess_v`` [V] has a voltage for every live node and then for those inside parts;
    ``first_modes`` names modes to start from, by element.

    Every node must hang on a ground through conductors and banks: the caller looks for
    floating islands first. Deterministic. Once a set of modes comes back, sources change
    one at a time and the first violated one first (Bland's rule). A regulator that senses
    elsewhere can make even that go round: then every set of modes is tried in turn. Draws of
    constant power, whose slope falls, can throw it to and fro on a weak bank: then all is done
    once more in small steps without those slopes. Raises NotSettledError naming the elements
    that keep changing.
    """
    frame = _Frame.of(metal, extra)
    wiring = _Wiring.of(elements, frame.small_of, len(frame.matrix))
    first_v = np.concatenate((guess_v[metal.kept], guess_v[metal.count :]))
    first = [first_modes.get(element.name, element.modes()[0]) for element in elements]
    for step in (1.0, GENTLE_STEP):
        for element in elements:
            element.gentle = step < 1
        search = _Search(frame, wiring, elements, step, first_v, list(first))
        now = search.follow() or search.try_all()
        if now is not None:
            whole = _all_volts(metal, extra, now.volts)
            return Solution(whole, tuple(now.amps), tuple(search.modes), search.rounds)
    raise NotSettledError(tuple(dict.fromkeys(search.changed)) or tuple(e.name for e in elements))


@dataclass(frozen=True)
class _Round:
    """One linear solution, what its modes violate, and whether the curves have settled."""

    volts: Vector
    amps: list[float]
    violated: list[tuple[int, str]]
    states: list[tuple[Element, str, tuple[float, float], float]]

    @property
    def settled(self) -> bool:
        """Whether every linear model is as good as its law; asked for only where it decides."""
        return all(
            abs(e.residual_a(mode, span[0], a)) < NEWTON_TOLERANCE_A
            for e, mode, span, a in self.states
        )


@dataclass
class _Search:
    """The modes and voltages under way; ``step`` [-] is how far a round's voltages are believed."""

    frame: _Frame
    wiring: _Wiring
    elements: Sequence[Element]
    step: float
    volts: Vector
    modes: list[str]
    rounds: int = 0
    changed: list[str] = field(default_factory=list)

    def follow(self) -> _Round | None:
        """Change what is violated until nothing is; None when it goes round."""
        seen: set[tuple[str, ...]] = set()
        rested: set[tuple[str, ...]] = set()
        careful = False
        while self.rounds < MAX_ROUNDS:
            now = self._round()
            if not now.violated:
                if now.settled:
                    return now
                continue
            key = tuple(self.modes)
            careful = careful or key in seen
            seen.add(key)
            self.changed = [self.elements[i].name for i, _ in now.violated]
            if careful and now.settled:
                if key in rested:
                    return None
                rested.add(key)
            changes = _carefully(self.elements, self.modes, now) if careful else now.violated
            self._change(changes)
        return None

    def try_all(self) -> _Round | None:
        """Try every set of modes of what senses elsewhere, banks and loads following."""
        remote = [i for i, element in enumerate(self.elements) if not element.local]
        every = product(*(self.elements[i].modes() for i in remote))
        for chosen in every:
            if self.rounds > MAX_TRYING_ROUNDS:
                break
            self._change(list(zip(remote, chosen, strict=True)))
            now = self._at_rest()
            if now is not None and not now.violated:
                return now
        return None

    def _at_rest(self) -> _Round | None:
        for _ in range(MAX_SETTLING_ROUNDS):
            now = self._round()
            own = [(i, mode) for i, mode in now.violated if self.elements[i].local]
            if now.settled and not own:
                return now
            self._change(own[:1])
        return None

    def _change(self, changes: list[tuple[int, str]]) -> None:
        for i, mode in changes:
            self.modes[i] = mode

    def _round(self) -> _Round:
        self.rounds += 1
        volts, amps, spans = _linear(self.frame, self.wiring, self.elements, self.modes, self.volts)
        states = list(zip(self.elements, self.modes, spans, amps, strict=True))
        wanted = [e.wanted(mode, *span, a) for e, mode, span, a in states]
        violated = [(i, new) for i, new in enumerate(wanted) if new != self.modes[i]]
        self.volts = volts if self.step == 1.0 else self.volts + self.step * (volts - self.volts)
        return _Round(volts, amps, violated, states)


def _carefully(
    elements: Sequence[Element], modes: Sequence[str], now: _Round
) -> list[tuple[int, str]]:
    """What to change once a set of modes has come back.

    One at a time, for all at once can swing to and fro. Banks and loads follow their own
    voltage; a source changes only when all else has settled, and goes through its modes in a
    ring: a regulator that senses the wrong way round has no rest between off and its limit,
    and must be let through to the other.
    """
    own = [(i, mode) for i, mode in now.violated if elements[i].local]
    if own or not now.settled:
        return own[:1]
    i, _ = now.violated[0]
    ring = elements[i].modes()
    return [(i, ring[(ring.index(modes[i]) + 1) % len(ring)])]


def _all_volts(metal: Metal, extra: int, volts: Vector) -> Vector:
    """Voltages [V] of every live node, then of the nodes inside parts."""
    kept = len(metal.kept)
    whole = np.empty(metal.count + extra)
    whole[metal.kept] = volts[:kept]
    whole[metal.gone] = metal.back @ volts[:kept]
    whole[metal.count :] = volts[kept:]
    return whole


@dataclass(frozen=True)
class _Frame:
    """The kept nodes and those inside parts: conductances, and where a node stands."""

    matrix: Vector
    small_of: dict[int, int]
    grounds: NDArray[np.intp]

    @classmethod
    def of(cls, metal: Metal, extra: int) -> _Frame:
        """Frame of some metal with room for nodes inside parts."""
        kept = len(metal.kept)
        matrix = np.zeros((kept + extra, kept + extra))
        matrix[:kept, :kept] = metal.matrix
        small_of = metal.small_of | {metal.count + i: kept + i for i in range(extra)}
        grounds = np.array([small_of[g] for g in metal.grounds], dtype=np.intp)
        return cls(matrix, small_of, grounds)


@dataclass(frozen=True)
class _Wiring:
    """Where each element's stamp goes in the flattened matrix and the right-hand side."""

    ends: list[tuple[int, int, int, int]]
    cells: NDArray[np.intp]
    plus: NDArray[np.intp]
    minus: NDArray[np.intp]

    @classmethod
    def of(cls, elements: Sequence[Element], small_of: dict[int, int], size: int) -> _Wiring:
        """Wiring of elements among ``size`` kept nodes."""
        ends = [
            (
                small_of[e.plus],
                small_of[e.minus],
                small_of[e.control_plus],
                small_of[e.control_minus],
            )
            for e in elements
        ]
        table = np.array(ends, dtype=np.intp).reshape(-1, 4)
        p, m, cp, cm = table.T
        cells = np.concatenate((p * size + cp, p * size + cm, m * size + cp, m * size + cm))
        return cls(ends, cells, p, m)


def _linear(
    frame: _Frame,
    wiring: _Wiring,
    elements: Sequence[Element],
    modes: Sequence[str],
    volts: Vector,
) -> tuple[Vector, list[float], list[tuple[float, float]]]:
    """One linear solution: node volts, element amps, and each element's own and control volts."""
    before = _spans(wiring, volts)
    if not elements:
        return np.zeros(len(frame.matrix)), [], []
    stamps = [e.stamp(mode, *v) for e, mode, v in zip(elements, modes, before, strict=True)]
    g = np.array([s.g for s in stamps])
    i0 = np.array([s.i0 for s in stamps])
    size = len(frame.matrix)
    # Sums by cell: several times faster than adding in place at repeated indices.
    added = np.bincount(wiring.cells, np.concatenate((g, -g, -g, g)), size * size)
    matrix = frame.matrix + added.reshape(size, size)
    right = np.bincount(wiring.minus, i0, size) - np.bincount(wiring.plus, i0, size)
    matrix[frame.grounds, :] = 0.0
    matrix[frame.grounds, frame.grounds] = 1.0
    right[frame.grounds] = 0.0
    # LAPACK at once: the matrices are small, and checks around it would take longer than it.
    _, _, found, info = dgesv(matrix, right, overwrite_a=True, overwrite_b=True)
    if info != 0:
        raise np.linalg.LinAlgError("the matrix of a state is singular")
    solved = np.asarray(found, dtype=np.float64).reshape(-1)
    spans = _spans(wiring, solved)
    amps = [s.g * v[1] + s.i0 for s, v in zip(stamps, spans, strict=True)]
    return solved, amps, spans


def _spans(wiring: _Wiring, volts: Vector) -> list[tuple[float, float]]:
    v = volts.tolist()
    return [(v[p] - v[m], v[cp] - v[cm]) for p, m, cp, cm in wiring.ends]
