"""The circuit of one discrete state, solved again and again while only its figures change."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from functools import cached_property
from typing import NamedTuple

import numpy as np
from numpy.typing import NDArray

from strom_engine.batteries import BankModel, BankWells, StepFigures
from strom_engine.circuit.assembling import assemble
from strom_engine.circuit.build import Circuit, build_circuit
from strom_engine.circuit.demand import inverting, load_reference_v
from strom_engine.circuit.elements import LoadElement, OneWayElement, SourceElement
from strom_engine.circuit.held import Held
from strom_engine.circuit.live_metal import Metal
from strom_engine.circuit.network import AddedOhm, Network, network
from strom_engine.circuit.positions import unlike_sets
from strom_engine.circuit.results import OperatingPoint
from strom_engine.circuit.solved import Solved, first_guess, first_modes
from strom_engine.circuit.solver import Prepared, Solution
from strom_engine.circuit.storing import StoringBankElement
from strom_engine.dayrun.discrete_state import DiscreteState, as_it_stands
from strom_engine.design import (
    Alternator,
    Bank,
    Design,
    FittedInverter,
    FuseBlock,
    LoadGroup,
    Solar,
    State,
)
from strom_engine.reference import load_table

__all__ = ["Kernel", "Point", "Snapshot"]

# How far a linear model may be from its law within a day [A]: some thousandths of an ampere-hour
# in a day are far below what anybody can measure.
TOLERANCE_A = 1e-3
SILENT_V = 0.01
Vector = NDArray[np.float64]


class Point(NamedTuple):
    """A solved moment: node volts [V], element amps [A], and each element's own volts [V].

    ``beyond`` are contacts and fuses with more than they are rated for: their post, amps and
    rating [A].
    """

    volts: list[float]
    amps: tuple[float, ...]
    over_v: tuple[float, ...]
    solution: Solution
    beyond: list[tuple[str, float, float]]


class Kernel:
    """The circuit of one discrete state; what a moment's current depends on is set before each."""

    def __init__(
        self,
        design: Design,
        discrete: DiscreteState,
        banks: Mapping[str, BankModel],
        added: AddedOhm = (),
    ) -> None:
        self.design = as_it_stands(design, discrete)
        self.aboard_c = discrete.temperature_c
        self.state: State = discrete.state()
        moved = discrete.moved
        self.net: Network = network(self.design, self.state.positions, moved, added)
        self.circuit: Circuit = build_circuit(self.design, self.state, self.net)
        elements = self.circuit.elements
        for i, element in enumerate(elements):
            if element.name in banks:
                bank = banks[element.name]
                half = bank.step_figures(bank.rested(0.5), 0.0)
                elements[i] = StoringBankElement(
                    element.name, element.plus, element.minus, bank, half
                )
        self.names = [e.name for e in elements]
        self.index = {name: i for i, name in enumerate(self.names)}
        self._banks = [e for e in elements if isinstance(e, StoringBankElement)]
        self._sources = {e.name: e for e in elements if isinstance(e, SourceElement)}
        self._outputs = {e.name: e for e in elements if isinstance(e, OneWayElement)}
        self._built_v = {n: e.set_v for n, e in self._sources.items()}
        self._limits = {n: (e.limit_a, e.limit_w) for n, e in self._sources.items()}
        loads = {e.name: e for e in elements if isinstance(e, LoadElement)}
        self._groups = [
            (loads[g.id], load_reference_v(self.design.nominal_v(g)), _drawing(g))
            for g in self.design.of_type(LoadGroup)
            if g.id in loads
        ]
        self._inverters = [
            (loads[f"{p.id}.dc"], p)
            for p in self.design.of_type(FittedInverter)
            if f"{p.id}.dc" in loads and inverting(p, self.state, self.net)
        ]
        self._panels = {p.id for p in self.design.of_type(Solar)} & set(self._sources)
        self.alternators = [p for p in self.design.of_type(Alternator) if p.id in self._sources]
        self._prepared = Prepared(self.circuit.metal, len(self.circuit.inside), elements)
        branches = self.circuit.metal.branches
        self._from = np.array([b.a for b in branches], dtype=np.intp)
        self._to = np.array([b.b for b in branches], dtype=np.intp)
        self._conductance = np.array([b.conductance_s for b in branches])
        self._rated = _Rated.of(self.design, self.net, self.circuit.metal)
        self._spans: dict[tuple[str, str], tuple[int, int] | None] = {}
        self._last: Solution | None = None

    def follow(self, other: Kernel | None) -> None:
        """Start from where another circuit of the same boat stood."""
        like = None
        if other is not None and other._last is not None:
            like = Solved(other.design, other.state, other.circuit, other._last)
        guess = first_guess(self.design, self.circuit, like)
        modes = first_modes(self.design, self.circuit, like)
        starts = [modes.get(e.name, e.modes()[0]) for e in self.circuit.elements]
        self._prepared.stand(guess, starts)

    def run(self, running: frozenset[str]) -> None:
        """Switch items on, as ``group.item``; all others off."""
        for element, reference_v, items in self._groups:
            drawn = {"power": 0.0, "current": 0.0, "resistance": 0.0}
            for ref, law, draw_a in items:
                if ref in running:
                    drawn[law] += draw_a
            element.power_w = drawn["power"] * reference_v
            element.current_a = drawn["current"]
            element.conductance_s = drawn["resistance"] / reference_v
        for element, part in self._inverters:
            ac_w = sum(it.power_w for it in part.items if f"{part.id}.{it.id}" in running)
            table = load_table("inverter_efficiency")
            share = table.lookup("load_share", "efficiency", ac_w / part.rated_w)
            element.power_w = ac_w / share + part.idle_w

    def hold(self, source: str, holds: Held) -> None:
        """Set the voltage [V] that a source holds, and how much lower its outputs lie [V]."""
        if source in self._sources:
            self._sources[source].set_v = holds.volts_v
        for out, lower_v in holds.lower_v.items():
            output = self._outputs.get(f"{source}.{out}")
            if output is not None:
                output.knee_v = lower_v

    def silence(self, silent: frozenset[str]) -> None:
        """Let some sources give nothing, holding less than anything aboard has, and all others."""
        for name, source in self._sources.items():
            source.set_v = SILENT_V if name in silent else self._built_v[name]

    def warm(self, shares: Mapping[str, float]) -> None:
        """Set what heat leaves of each alternator's limit [-]."""
        for name, share in shares.items():
            limit = self._limits.get(name)
            if limit is not None and limit[0] is not None:
                self._sources[name].limit_a = limit[0] * share

    def light(self, sun: float) -> None:
        """Set the share of rated power [-] that the panels have."""
        for name in self._panels:
            source, (limit_a, limit_w) = self._sources[name], self._limits[name]
            if limit_a is not None:
                source.limit_a = limit_a * sun
            if limit_w is not None:
                source.limit_w = limit_w * sun

    def solve(self, stages: Mapping[str, StepFigures]) -> Point:
        """Solve with the banks at the end of a stage. Raises NotSettledError.

        ``follow`` comes before the first time.
        """
        for element in self._banks:
            element.stand(stages[element.name])
        found = self._last = self._prepared.again(TOLERANCE_A)
        beyond = self._rated.beyond(found.volts)
        return Point(found.volts.tolist(), found.amps, found.over_v, found, beyond)

    def span(self, plus: str, minus: str) -> tuple[int, int] | None:
        """Live nodes of two posts when a bank gives the voltage between them."""
        key = plus, minus
        if key not in self._spans:
            self._spans[key] = self.circuit.span(plus, minus)
        return self._spans[key]

    def volts(self, point: Point, plus: str, minus: str) -> float | None:
        """Voltage [V] between two posts; None where no bank defines it."""
        at = self.span(plus, minus)
        return None if at is None else point.volts[at[0]] - point.volts[at[1]]

    def amps(self, point: Point, element: str) -> float:
        """Current [A] through an element, plus to minus; 0 when it is not in the circuit."""
        i = self.index.get(element)
        return 0.0 if i is None else point.amps[i]

    def lost_wh(self, volts: Vector, hours: Vector) -> float:
        """Heat [Wh] of cables and contacts at node volts [V], in rows, each for some time [h]."""
        drops = volts[:, self._from] - volts[:, self._to]
        return float(hours @ (drops * drops) @ self._conductance)

    def is_charging(self, point: Point, least_a: float) -> bool:
        """Whether sources hold their voltage, or give at least some current together [A]."""
        places = [self.index[name] for name in self._sources]
        if any(point.solution.modes[i] == "voltage" for i in places):
            return True
        return -sum(point.amps[i] for i in places) >= least_a

    def control_v(self, point: Point, source: str) -> float | None:
        """Voltage [V] that a source senses; None when it is not in the circuit."""
        element = self._sources.get(source)
        if element is None:
            return None
        return point.volts[element.control_plus] - point.volts[element.control_minus]

    def assembled(self, point: Point) -> OperatingPoint:
        """The moment in the words of the design."""
        return assemble(Solved(self.design, self.state, self.circuit, point.solution))

    @cached_property
    def joined_banks(self) -> tuple[tuple[str, ...], ...]:
        """Sets of banks whose plus posts hang together through metal."""
        groups: dict[int, list[str]] = {}
        for bank in self.design.of_type(Bank):
            groups.setdefault(self.net.group(f"{bank.id}.pos"), []).append(bank.id)
        return tuple(tuple(g) for g in groups.values() if len(g) > 1)

    @cached_property
    def unlike_banks(self) -> tuple[tuple[str, ...], ...]:
        """Of the joined sets those that mix lead and lithium."""
        return unlike_sets(self.design, self.joined_banks)


def _drawing(group: LoadGroup) -> list[tuple[str, str, float]]:
    """Items of a group as ``group.item``, with the law they follow and what they draw [A]."""
    return [(f"{group.id}.{item.id}", item.law, item.draw_a) for item in group.items]


@dataclass(frozen=True, eq=False)
class _Rated:
    """Contacts and fuses by post; what ``amps`` [S] makes of node volts; their ratings [A]."""

    posts: list[str]
    amps: Vector
    ratings_a: Vector

    @classmethod
    def of(cls, design: Design, net: Network, metal: Metal) -> _Rated:
        """Those of live metal."""
        live = metal.live_of
        found = [
            (c.name, live[c.a], live[c.b], 1 / c.resistance_ohm, rating_a)
            for c in net.conductors
            if c.a in live and (rating_a := _rating_a(design, c.name)) is not None
        ]
        amps = np.zeros((len(found), metal.count))
        for row, (_, a, b, conductance_s, _) in enumerate(found):
            amps[row, a] += conductance_s
            amps[row, b] -= conductance_s
        return cls([row[0] for row in found], amps, np.array([row[4] for row in found]))

    def beyond(self, volts: Vector) -> list[tuple[str, float, float]]:
        """Those with more than they are rated for, with both [A]."""
        amps = np.abs(self.amps @ volts[: self.amps.shape[1]])
        over = amps > self.ratings_a
        if not over.any():
            return []
        pairs = zip(amps.tolist(), self.ratings_a.tolist(), strict=True)
        return [(self.posts[i], *both) for i, both in enumerate(pairs) if over[i]]


def _rating_a(design: Design, conductor: str) -> float | None:
    """Rating [A] of the contact or fuse that a conductor is; None for a cable."""
    name, _, post = conductor.partition(".")
    part = design.by_id.get(name)
    if part is None or not post:
        return None
    if isinstance(part, FuseBlock):
        return part.branch_a[int(post.removeprefix("b")) - 1]
    return getattr(part, "rating_a", None)


@dataclass(frozen=True)
class Snapshot:
    """A solved moment with what the banks hold [Ah] and how warm the alternators are [degC]."""

    kernel: Kernel
    point: Point
    wells: Mapping[str, BankWells]
    warmth_c: Mapping[str, float]

    def volts(self, plus: str, minus: str) -> float | None:
        """Voltage [V] between two posts; None where no bank defines it."""
        return self.kernel.volts(self.point, plus, minus)

    def amps(self, element: str) -> float:
        """Current [A] through an element, plus to minus."""
        return self.kernel.amps(self.point, element)

    def control_v(self, source: str) -> float | None:
        """Voltage [V] that a source senses; None when it is not in the circuit."""
        return self.kernel.control_v(self.point, source)
