"""What does not change while a plan is run: its parts, its banks, the sun."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import replace
from typing import cast

from strom_engine.batteries import BankModel, BankWells, bank_model
from strom_engine.dayrun.conditions import Condition
from strom_engine.dayrun.discrete_state import DiscreteState
from strom_engine.dayrun.gear import gear_conditions
from strom_engine.dayrun.heat import AMBIENT_C
from strom_engine.dayrun.kernel import Kernel, Snapshot
from strom_engine.dayrun.notes import LoadNotes, heat_conditions
from strom_engine.dayrun.plan import Plan
from strom_engine.dayrun.regulators import first_stage, holds, stage_conditions, staged
from strom_engine.dayrun.stepping import Surroundings, instant
from strom_engine.dayrun.sun import Sunlight
from strom_engine.design import (
    Alternator,
    Automatic,
    Bank,
    Design,
    Staged,
    Starter,
)
from strom_engine.design.state import default_positions
from strom_engine.faults import Effects
from strom_engine.sizing import cold_start
from strom_engine.survey import Survey

__all__ = ["SimulationContext"]

KERNELS_KEPT = 200
WARM_C = 20.0


class SimulationContext:
    """A design, perhaps with a fault, and everything about it that a plan does not change."""

    def __init__(
        self, design: Design, survey: Survey | None, plan: Plan, effects: Effects | None = None
    ) -> None:
        effects = effects or Effects(design)
        self.effects = effects
        self.design, self.stuck = effects.design, effects.stuck
        self.sunlight = Sunlight(plan, survey)
        self.staged = {p.id: p for p in staged(self.design)}
        self._sensing = [
            p
            for p in self.design.components
            if isinstance(p, Staged) and p.temperature_sensor and p.id not in self.staged
        ]
        self._automatic = [
            cast(Automatic, p)
            for p in self.design.components
            if p.moves_itself and p.id not in effects.stuck
        ]
        first_c = next((s.temperature_c for s in plan.temperature if s.start_h <= 0), None)
        self.banks = self._banks_at(first_c)
        self._figures: dict[float | None, dict[str, BankModel]] = {None: self.banks}
        self.began: dict[str, BankWells] = {
            b.id: self.banks[b.id].rested(plan.soc.get(b.id, b.soc))
            for b in self.design.of_type(Bank)
        }
        self.first_discrete = DiscreteState(
            positions=tuple(sorted(default_positions(self.design).items())),
            moved=frozenset(name for name, moved in self.stuck.items() if moved),
            lit=self.sunlight.at(1e-6) > 0,
            holding=tuple((name, first_stage(part)) for name, part in self.staged.items()),
            temperature_c=first_c,
        )
        self._kernels: dict[tuple[object, ...], Kernel] = {}
        self._gear_conditions: dict[tuple[object, ...], tuple[Condition, ...]] = {}
        self._served = LoadNotes(self.design)

    def _banks_at(self, temperature_c: float | None) -> dict[str, BankModel]:
        return {
            b.id: bank_model(
                b,
                temperature_c,
                dead_cells=self.effects.dead_cells.get(b.id, 0),
                added_ohm=self.effects.bank_ohm.get(b.id, 0.0),
            )
            for b in self.design.of_type(Bank)
        }

    def banks_at(self, temperature_c: float | None) -> Mapping[str, BankModel]:
        """Figures of the banks at a temperature [degC]; what they hold stays what it was."""
        if temperature_c not in self._figures:
            self._figures[temperature_c] = {
                name: replace(
                    self.banks[name],
                    resistance_ohm=bank.resistance_ohm,
                    kinetics=bank.kinetics,
                    self_a=bank.self_a,
                )
                for name, bank in self._banks_at(temperature_c).items()
            }
        return self._figures[temperature_c]

    def around(self, discrete: DiscreteState) -> Surroundings:
        """The sun and the air of a discrete state."""
        return Surroundings(self.sunlight, discrete.temperature_c, self.effects.failing)

    def cranked_at_c(self, aboard_c: float | None) -> float:
        """Temperature [degC] at which an engine is cranked: aboard, else of the coldest bank."""
        own = (b.temperature_c for b in self.design.of_type(Bank))
        return min(own, default=WARM_C) if aboard_c is None else aboard_c

    def kernel(self, discrete: DiscreteState) -> Kernel:
        """The circuit of a discrete state, everything in it as that says."""
        key = discrete.circuit_key
        kernel = self._kernels.pop(key, None)
        if kernel is None:
            design = self.design
            if discrete.cranking:
                design = cold_start(design, self.cranked_at_c(discrete.temperature_c))
            kernel = self._kernel(design, discrete)
            if len(self._kernels) >= KERNELS_KEPT:
                self._kernels.pop(next(iter(self._kernels)))
        self._kernels[key] = kernel
        kernel.run(discrete.running)
        kernel.silence(discrete.silent_sources)
        for name, stage in discrete.holding:
            if name in discrete.silent_sources:
                continue
            told = holds(self.design, self.staged[name], stage, discrete.temperature_c)
            kernel.hold(name, told)
        for part in self._sensing:
            if part.id in discrete.silent_sources:
                continue
            told = holds(self.design, part, "absorption", discrete.temperature_c)
            kernel.hold(part.id, told)
        return kernel

    def _kernel(self, design: Design, discrete: DiscreteState) -> Kernel:
        banks = self.banks_at(discrete.temperature_c)
        return Kernel(design, discrete, banks, self.effects.added)

    def first_moment(self) -> Snapshot:
        """The circuit before anything has happened."""
        kernel = self.kernel(self.first_discrete)
        kernel.follow(None)
        warmth = {p.id: AMBIENT_C for p in self.design.of_type(Alternator)}
        return self.moment(self.first_discrete, 0.0, self.began, warmth)

    def moment(
        self,
        discrete: DiscreteState,
        at_s: float,
        wells: Mapping[str, BankWells],
        warmth_c: Mapping[str, float],
        like: Kernel | None = None,
    ) -> Snapshot:
        """The circuit of a discrete state at a moment [s], before any time has passed in it."""
        kernel = self.kernel(discrete)
        if like is not None and like is not kernel:
            kernel.follow(like)
        banks, around = self.banks_at(discrete.temperature_c), self.around(discrete)
        return instant(kernel, banks, at_s, wells, warmth_c, around)

    def first_instant(self, discrete: DiscreteState, at_s: float, now: Snapshot) -> Snapshot | None:
        """The first instant of a start, where a starter's own peak is known: it takes that."""
        peaks = {
            p.id: p.peak_a
            for p in self.design.of_type(Starter)
            if p.engine in discrete.cranking and p.peak_a is not None
        }
        if not peaks:
            return None
        parts = (
            p.model_copy(update={"cranking_a": peaks[p.id]}) if p.id in peaks else p
            for p in self.design.components
        )
        design = cold_start(
            self.design.replace_unchecked(components=tuple(parts)),
            self.cranked_at_c(discrete.temperature_c),
        )
        banks = self.banks_at(discrete.temperature_c)
        kernel = self._kernel(design, discrete)
        kernel.run(discrete.running)
        kernel.follow(now.kernel)
        return instant(kernel, banks, at_s, now.wells, now.warmth_c, self.around(discrete))

    def conditions(self, discrete: DiscreteState) -> tuple[Condition, ...]:
        """Everything that is watched while things stand so."""
        key = (
            discrete.moved,
            discrete.engines,
            discrete.cranking,
            discrete.holding,
            discrete.silent,
            discrete.temperature_c,
        )
        if key not in self._gear_conditions:
            found: list[Condition] = []
            for part in self._automatic:
                found += gear_conditions(self.design, part, discrete)
            for source in self.staged.values():
                found += stage_conditions(self.design, source, discrete)
            self._gear_conditions[key] = (*found, *heat_conditions(self.design))
        return (*self._gear_conditions[key], *self._served.conditions(discrete.running))

    @property
    def automatic(self) -> list[Automatic]:
        """What moves by itself and does not stick."""
        return self._automatic
