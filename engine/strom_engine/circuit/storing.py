"""A bank in the circuit whose voltage moves with its charge while a step is taken."""

from __future__ import annotations

import math
from dataclasses import dataclass

from strom_engine.batteries import LivingBank
from strom_engine.circuit.elements import AMP_TOLERANCE, OwnVoltage, Stamp

__all__ = ["StoringBankElement"]


@dataclass
class StoringBankElement(OwnVoltage):
    """A bank at the end of a step: its EMF is that of the head which its own current leads to.

    So the step is implicit, and long steps stay stable. ``free`` [-] is the head without
    current, ``per_a`` [1/A] what an ampere adds, ``inside_a`` [A] what leaks away meanwhile;
    a step of no length has ``per_a`` 0. Without ``kinetics`` there is no overpotential: that is
    the first instant of a change.
    """

    bank: LivingBank
    free: float
    per_a: float = 0.0
    inside_a: float = 0.0
    kinetics: bool = True

    def __post_init__(self) -> None:
        super().__post_init__()
        self._about_a = 0.0
        self.stand(self.free, self.per_a, self.inside_a, kinetics=self.kinetics)

    def stand(self, free: float, per_a: float, inside_a: float, *, kinetics: bool) -> None:
        """Set the end of a step."""
        self.free, self.per_a, self.inside_a = free, per_a, inside_a
        self.kinetics = kinetics
        self._own_ohm = self.bank.ohm(free)
        self._known: tuple[str, float, tuple[float, float]] = ("", 0.0, (0.0, 0.0))

    def modes(self) -> tuple[str, ...]:
        return ("discharge", "charge")

    def _law(self, mode: str, amps: float) -> tuple[float, float]:
        """Terminal voltage [V] at a current, and its slope [ohm]."""
        known = self._known
        if known[1] == amps and known[0] == mode:
            return known[2]  # what was checked in one round is what the next starts from
        bank = self.bank
        share = bank.efficiency if mode == "charge" else 1.0
        emf, slope = bank.curve.at(self.free + self.per_a * (share * amps - self.inside_a))
        volts = emf + amps * self._own_ohm
        ohm = self._own_ohm + slope * self.per_a * share
        if mode == "charge" and self.kinetics:
            volts += bank.eta_slope_v * math.asinh(amps / bank.eta_current_a)
            ohm += bank.eta_slope_v / math.hypot(bank.eta_current_a, amps)
        self._known = mode, amps, (volts, ohm)
        return volts, ohm

    def stamp(self, mode: str, volts: float, control_v: float) -> Stamp:
        at_v, ohm = self._law(mode, self._about_a)
        return 1 / ohm, self._about_a - at_v / ohm

    def wanted(self, mode: str, volts: float, control_v: float, amps: float) -> str:
        if mode == "discharge":
            self._about_a = amps if amps < 0.0 else 0.0
            return "charge" if amps > AMP_TOLERANCE else mode
        self._about_a = amps if amps > 0.0 else 0.0
        return "discharge" if amps < -AMP_TOLERANCE else mode

    def residual_a(self, mode: str, volts: float, amps: float) -> float:
        at_v, ohm = self._law(mode, amps)
        return (volts - at_v) / ohm
