"""Nodal analysis with an active set: guess modes, solve, change what is violated, repeat."""

from __future__ import annotations

import math
from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass, field
from functools import lru_cache
from itertools import product

import numpy as np
from numpy.typing import NDArray
from scipy.linalg.lapack import dgesv

from strom_engine.circuit.elements import Element, Stamp
from strom_engine.circuit.live_metal import Metal
from strom_engine.errors import ComputationError, NotSettledError

__all__ = ["Prepared", "Solution", "solve"]

Vector = NDArray[np.float64]
# The voltage [V] over each element, and over its control posts: one list when they are the same.
Spans = tuple[list[float], list[float]]
MAX_ROUNDS = 300
MAX_SETTLING_ROUNDS = 100
MAX_TRYING_ROUNDS = 6000
GENTLE_STEPS = (0.4, 0.1)
NEWTON_TOLERANCE_A = 1e-6
SINGULAR = "the equations of this state have no single solution"
BASE_S = 1.0  # of the order of what banks and loads have
KEPT = 16  # what was worked out of some metal, for states that differ in figures alone


@dataclass(frozen=True)
class Solution:
    """Node voltages [V]; of each element its current [A] plus to minus, its volts [V], its mode."""

    volts: Vector
    amps: tuple[float, ...]
    over_v: tuple[float, ...]
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

    ``first_modes`` names modes to start from, by element; all else is as for ``Prepared.solve``.
    """
    modes = [first_modes.get(element.name, element.modes()[0]) for element in elements]
    return Prepared(metal, extra, elements).solve(guess_v, modes)


class Prepared:
    """Elements on metal, ready to be solved again and again while only their figures change."""

    def __init__(self, metal: Metal, extra: int, elements: Sequence[Element]) -> None:
        self.elements = elements
        self._ports = _Ports.of(metal, extra, elements)
        self._gentle = False
        self._spans: Spans = ([], [])
        self._modes: list[str] = []

    def solve(
        self, guess_v: Vector, modes: Sequence[str], tolerance_a: float = NEWTON_TOLERANCE_A
    ) -> Solution:
        """Solve from a first guess.

        ``guess_v`` [V] has a voltage for every live node and then for those inside parts;
        ``modes`` has a mode to start from for every element; ``tolerance_a`` [A] is how far a
        linear model may be from its element's law.

        Every node must hang on a ground through conductors and banks: the caller looks for
        floating islands first. Deterministic. Once a set of modes comes back, sources change
        one at a time and the first violated one first (Bland's rule). A regulator that senses
        elsewhere can make even that go round: then every set of modes is tried in turn. Draws
        of constant power, whose slope falls, can throw it to and fro on a weak bank: then all
        is done once more in small steps without those slopes. Raises NotSettledError naming
        the elements that keep changing, ComputationError where there is no solution in numbers.
        """
        self.stand(guess_v, modes)
        return self.again(tolerance_a)

    def again(self, tolerance_a: float = NEWTON_TOLERANCE_A) -> Solution:
        """Solve once more from where the last solution stood. Raises NotSettledError."""
        for step in (1.0, *GENTLE_STEPS):
            self._be_gentle(step < 1)
            search = _Search(
                self._ports, self.elements, step, self._spans, list(self._modes), tolerance_a
            )
            now = search.follow() or search.try_all()
            if now is not None:
                self._spans, self._modes = now.spans, search.modes
                volts = self._ports.volts(now.beyond_a)
                amps, over_v = tuple(now.amps), tuple(now.spans[0])
                return Solution(volts, amps, over_v, tuple(search.modes), search.rounds)
        changed = tuple(dict.fromkeys(search.changed))
        raise NotSettledError(changed or tuple(e.name for e in self.elements))

    def stand(self, guess_v: Vector, modes: Sequence[str]) -> None:
        """Let the next ``again`` start from some voltages [V] and modes, as ``solve`` would."""
        self._spans, self._modes = self._ports.spans(guess_v), list(modes)

    def _be_gentle(self, gentle: bool) -> None:
        if gentle != self._gentle:
            self._gentle = gentle
            for element in self.elements:
                element.gentle = gentle


@dataclass(slots=True)
class _Round:
    """One linear solution, its modes, what they violate, and whether the curves have settled.

    ``beyond_a`` [A] are the currents beyond what the base of the ports draws.
    """

    ports: _Ports
    spans: Spans
    amps: list[float]
    beyond_a: Vector
    modes: list[str]
    violated: list[tuple[int, str]]
    tolerance_a: float

    @property
    def settled(self) -> bool:
        """Whether every linear model is as good as its law; asked for only where it decides."""
        own, amps, modes, allowed_a = self.spans[0], self.amps, self.modes, self.tolerance_a
        for i, residual_a in self.ports.curves:
            if not -allowed_a < residual_a(modes[i], own[i], amps[i]) < allowed_a:
                return False
        return True


@dataclass
class _Search:
    """The modes and voltages under way; ``step`` [-] is how far a round's voltages are believed."""

    ports: _Ports
    elements: Sequence[Element]
    step: float
    spans: Spans
    modes: list[str]
    tolerance_a: float
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
        ports, modes = self.ports, self.modes
        spans, amps, beyond_a = ports.linear(modes, self.spans)
        each = zip(ports.wishes, modes, *spans, amps, strict=True)
        violated = [
            (i, new)
            for i, (wanted, mode, u, w, a) in enumerate(each)
            if (new := wanted(mode, u, w, a)) != mode
        ]
        self.spans = spans if self.step == 1.0 else _towards(self.spans, spans, self.step)
        return _Round(ports, spans, amps, beyond_a, list(modes), violated, self.tolerance_a)


def _towards(old: Spans, new: Spans, step: float) -> Spans:
    """Voltages [V] a share of the way from some to others."""
    own, controls = (
        [v + step * (new_v - v) for v, new_v in zip(*both, strict=True)]
        for both in zip(old, new, strict=True)
    )
    return own, controls


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


Ends = tuple[tuple[int, int, int, int], ...]


@dataclass(frozen=True, eq=False)
class _Reached:
    """The metal as elements between some ends see it: what each current does to all voltages.

    With a base conductance ``base`` [S] laid beside every element that rules itself by its own
    voltage, the metal alone gives every node a voltage; the elements' laws take it off again.
    ``reach`` [ohm] turns currents beyond the base into the voltages of all live nodes and those
    inside parts, ``over`` into those over the elements and then, where any is ``remote``, those
    over their control posts; ``control_t`` is that last piece, transposed.
    """

    reach: Vector
    over: Vector
    control_t: Vector
    base: Vector
    remote: bool


@lru_cache(maxsize=KEPT)
def _reached(metal: Metal, extra: int, ends: Ends) -> _Reached:
    """What elements between some ends, each plus, minus and both control posts, see of the metal.

    Raises LinAlgError where an end hangs on nothing.
    """
    kept, count = len(metal.kept), len(ends)
    small_of = metal.small_of | {metal.count + i: kept + i for i in range(extra)}
    small = [[small_of[node] for node in four] for four in ends]
    p, m, cp, cm = np.array(small, dtype=np.intp).reshape(-1, 4).T
    base = np.where((p == cp) & (m == cm), BASE_S, 0.0)
    matrix = np.zeros((kept + extra, kept + extra))
    matrix[:kept, :kept] = metal.matrix
    for a, b, g in ((p, p, base), (m, m, base), (p, m, -base), (m, p, -base)):
        np.add.at(matrix, (a, b), g)
    columns = np.arange(count)
    incidence, controls = np.zeros((kept + extra, count)), np.zeros((kept + extra, count))
    np.add.at(incidence, (p, columns), 1.0)
    np.add.at(incidence, (m, columns), -1.0)
    np.add.at(controls, (cp, columns), 1.0)
    np.add.at(controls, (cm, columns), -1.0)
    grounds = np.array([small_of[g] for g in metal.grounds], dtype=np.intp)
    matrix[grounds, :] = 0.0
    matrix[grounds, grounds] = 1.0
    driven = incidence.copy()
    driven[grounds, :] = 0.0
    reach: Vector = np.asarray(np.linalg.solve(matrix, driven), dtype=np.float64)
    whole = np.empty((metal.count + extra, count))
    whole[metal.kept], whole[metal.count :] = reach[:kept], reach[kept:]
    whole[metal.gone] = metal.back @ reach[:kept]
    own, control = -incidence.T @ reach, -controls.T @ reach
    remote = bool((base == 0.0).any())
    return _Reached(
        reach=-whole,
        over=np.concatenate((own, control)) if remote else own,
        control_t=np.ascontiguousarray(control.T),
        base=base,
        remote=remote,
    )


@dataclass(frozen=True, eq=False)
class _Ports:
    """Elements where they sit on the metal.

    ``laws``, ``wishes`` and ``curves`` are what is asked of the elements in every round.
    """

    metal: _Reached
    unit: Vector
    ends: Ends
    names: list[str]
    laws: list[Callable[[str, float, float], Stamp]]
    wishes: list[Callable[[str, float, float, float], str]]
    curves: list[tuple[int, Callable[[str, float, float], float]]]

    @classmethod
    def of(cls, metal: Metal, extra: int, elements: Sequence[Element]) -> _Ports:
        """Ports of elements on some metal with room for nodes inside parts."""
        ends = tuple((e.plus, e.minus, e.control_plus, e.control_minus) for e in elements)
        try:
            reached = _reached(metal, extra, ends)
        except np.linalg.LinAlgError:
            raise ComputationError(SINGULAR, tuple(e.name for e in elements)) from None
        return cls(
            reached,
            unit=np.eye(len(elements)),
            ends=ends,
            names=[e.name for e in elements],
            laws=[e.stamp for e in elements],
            wishes=[e.wanted for e in elements],
            curves=[(i, e.residual_a) for i, e in enumerate(elements) if e.curved],
        )

    def spans(self, volts: Vector) -> Spans:
        """Own and control voltage [V] of each element at the voltages of all nodes."""
        v = volts.tolist()
        own = [v[p] - v[m] for p, m, _, _ in self.ends]
        return own, [v[cp] - v[cm] for _, _, cp, cm in self.ends] if self.metal.remote else own

    def volts(self, beyond_a: Vector) -> Vector:
        """Voltages [V] of all live nodes and of those inside parts."""
        return np.asarray(self.metal.reach.dot(beyond_a), dtype=np.float64)

    def _extreme(self, g: Vector, i0: Vector) -> tuple[str, ...]:
        """The elements most likely at fault: whose law is no number, else the stiffest ones."""
        odd = np.flatnonzero(~(np.isfinite(g) & np.isfinite(i0)))
        worst = odd if odd.size else np.argsort(-np.abs(g))[:3]
        return tuple(self.names[i] for i in worst)

    def linear(self, modes: Sequence[str], before: Spans) -> tuple[Spans, list[float], Vector]:
        """One linear solution about some voltages.

        Gives each element's voltages [V] and current [A], and the currents beyond the base [A].
        """
        count = len(modes)
        if not count:
            return ([], []), [], np.zeros(0)
        # The innermost loop of everything: plain lists, and no array made twice.
        each = zip(self.laws, modes, *before, strict=True)
        slopes, shifts = zip(*[law(mode, u, w) for law, mode, u, w in each], strict=True)
        # With C from currents to control voltages and B the slopes beyond the base, the currents
        # are j = B C j + i0. Transposed, the matrix lies in memory as LAPACK wants it; and LAPACK
        # at once: the matrices are small, and checks around it would take longer than it.
        g, i0 = np.array(slopes), np.array(shifts)
        metal = self.metal
        matrix = metal.control_t * (metal.base - g)
        matrix += self.unit
        _, _, beyond_a, info = dgesv(matrix.T, i0, overwrite_a=True)
        if info != 0 or not math.isfinite(beyond_a.sum()):
            raise ComputationError(SINGULAR, self._extreme(g, i0))
        beyond_a = beyond_a.reshape(-1)
        over = metal.over.dot(beyond_a)
        volts: list[float] = over.tolist()
        amps: list[float] = (g * over[-count:] + i0).tolist()
        spans = (volts[:count], volts[count:]) if metal.remote else (volts, volts)
        return spans, amps, beyond_a
