"""A bank in the circuit whose voltage moves with its charge while a step is taken."""

from __future__ import annotations

from dataclasses import dataclass

from strom_engine.batteries import BankModel, StepFigures
from strom_engine.circuit.elements import AMP_TOLERANCE, OwnVoltage, Stamp

__all__ = ["StoringBankElement"]

TRACE_A = 1e-12


@dataclass
class StoringBankElement(OwnVoltage):
    """A bank at the end of a step: its voltage is that which its own current leads to.

    So the step is implicit, and long steps stay stable. A stage of no length is the moment
    itself, with what is left of charging as it stands.
    """

    bank: BankModel
    at: StepFigures

    def __post_init__(self) -> None:
        super().__post_init__()
        self._about_a = 0.0
        self.stand(self.at)

    def stand(self, stage: StepFigures) -> None:
        """Set the end of a step."""
        self.at = stage
        self._known: tuple[str, float, tuple[float, float]] = ("", 0.0, (0.0, 0.0))

    def modes(self) -> tuple[str, ...]:
        return ("discharge", "charge")

    def _law(self, mode: str, amps: float) -> tuple[float, float]:
        """Terminal voltage [V] at a current, and its slope [ohm]."""
        known = self._known
        if known[1] == amps and known[0] == mode:
            return known[2]  # what was checked in one round is what the next starts from
        # At no current the two modes part: one fills both wells, the other draws on one.
        volts, ohm = self.bank.law(self.at, amps if amps or mode == "discharge" else TRACE_A)
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
