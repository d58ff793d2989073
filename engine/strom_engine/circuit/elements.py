"""Everything that is not metal: banks, sources, one-way outputs, loads, the starter.

Each element sits between two nodes and has a **mode**; in its mode it is a conductance and
a current source, ``I = g * V_control + i0``, about its last voltage or current. After each
linear solution it says which mode it wants: that is the whole interface of the solver.
"""

from __future__ import annotations

import math
from dataclasses import dataclass
from typing import ClassVar, Literal, Protocol

from strom_engine.batteries import BankSource

__all__ = [
    "BankElement",
    "Element",
    "LoadElement",
    "OneWayElement",
    "OwnVoltage",
    "PowerDrawElement",
    "ResistorElement",
    "SourceElement",
    "Stamp",
]

VOLT_TOLERANCE = 1e-9
AMP_TOLERANCE = 1e-7


# Current from ``plus`` through the element to ``minus`` is g * (V_cp - V_cm) + i0: the conductance
# g [S] and the current i0 [A].
Stamp = tuple[float, float]


class Element(Protocol):
    """What the solver knows of an element."""

    name: str
    plus: int
    minus: int
    control_plus: int
    control_minus: int
    local: ClassVar[bool]  # whether its mode follows from its own voltage alone
    curved: ClassVar[bool]  # whether a linear model can be off its law within a mode
    gentle: bool  # leave a slope that falls out of the linear model

    def modes(self) -> tuple[str, ...]:
        """Every mode, the one to start from first."""
        ...

    def stamp(self, mode: str, volts: float, control_v: float) -> Stamp:
        """Linear model in a mode about the last voltages [V]."""
        ...

    def wanted(self, mode: str, volts: float, control_v: float, amps: float) -> str:
        """The mode that fits the solution; the same one when nothing is violated."""
        ...

    def residual_a(self, mode: str, volts: float, amps: float) -> float:
        """How far the linear model is from the element's own law at the solution [A]."""
        ...


@dataclass
class OwnVoltage:
    """Between two nodes, and ruled by the voltage between those two alone."""

    local: ClassVar[bool] = True
    curved: ClassVar[bool] = True
    name: str
    plus: int
    minus: int

    def __post_init__(self) -> None:
        self.control_plus, self.control_minus = self.plus, self.minus
        self.gentle = False


@dataclass
class BankElement(OwnVoltage):
    """A bank: EMF behind its resistance, with charge overpotential while current flows in.

    On charge its law is followed by Newton's method over the current: in most boats a source
    at its limit decides the current, and the voltage follows. The overpotential is concave in
    the current, so that from below the steps only rise.
    """

    source: BankSource

    def __post_init__(self) -> None:
        super().__post_init__()
        self._about_a = 0.0

    def modes(self) -> tuple[str, ...]:
        return ("discharge", "charge")

    def _slope_ohm(self, amps: float) -> float:
        s = self.source
        return s.resistance_ohm + s.eta_slope_v / math.hypot(s.eta_current_a, amps)

    def stamp(self, mode: str, volts: float, control_v: float) -> Stamp:
        s = self.source
        if mode == "discharge":
            return 1 / s.resistance_ohm, -s.emf_v / s.resistance_ohm
        slope_ohm = self._slope_ohm(self._about_a)
        open_v = s.terminal_v(self._about_a) - slope_ohm * self._about_a
        return 1 / slope_ohm, -open_v / slope_ohm

    def wanted(self, mode: str, volts: float, control_v: float, amps: float) -> str:
        if mode == "discharge":
            self._about_a = 0.0  # a first step on charge is taken from below
            return "charge" if amps > AMP_TOLERANCE else mode
        self._about_a = max(amps, 0.0)
        return "discharge" if amps < -AMP_TOLERANCE else mode

    def residual_a(self, mode: str, volts: float, amps: float) -> float:
        if mode == "discharge":
            return 0.0
        return (volts - self.source.terminal_v(amps)) / self._slope_ohm(max(amps, 0.0))


@dataclass
class SourceElement:
    """A regulated source: off, at its limit, or holding its voltage where it senses.

    The limit is a current [A], or a power [W] for a source that tracks its power point.
    Current is counted from plus through the element, so a delivering source is negative.
    """

    local: ClassVar[bool] = False
    curved: ClassVar[bool] = True
    name: str
    plus: int
    minus: int
    control_plus: int
    control_minus: int
    set_v: float
    droop_ohm: float
    limit_a: float | None = None
    limit_w: float | None = None
    given_w: float = 0.0  # what it gave in the round before
    gentle: bool = False

    def modes(self) -> tuple[str, ...]:
        return ("limit", "voltage", "off")

    def limit_now_a(self, volts: float) -> float:
        """Largest current [A] at an output voltage [V]."""
        if self.limit_a is not None:
            return self.limit_a
        return (self.limit_w or 0.0) / max(volts, 0.25 * self.set_v)

    def stamp(self, mode: str, volts: float, control_v: float) -> Stamp:
        if mode == "off":
            return 0.0, 0.0
        if mode == "voltage":
            return 1 / self.droop_ohm, -self.set_v / self.droop_ohm
        return 0.0, -self.limit_now_a(volts)

    def wanted(self, mode: str, volts: float, control_v: float, amps: float) -> str:
        self.given_w = max(0.0, -amps * volts)
        given_a = (self.set_v - control_v) / self.droop_ohm
        limit_a = self.limit_now_a(volts)
        if mode == "voltage" and -AMP_TOLERANCE <= given_a <= limit_a * (1 + 1e-9) + AMP_TOLERANCE:
            return mode
        if mode == "limit" and given_a >= limit_a - AMP_TOLERANCE:
            return mode
        if mode == "off" and given_a <= AMP_TOLERANCE:
            return mode
        if given_a <= 0:
            return "voltage" if mode == "limit" else "off"
        if mode == "off":
            return "voltage"
        return "limit" if given_a > limit_a else "voltage"

    def residual_a(self, mode: str, volts: float, amps: float) -> float:
        return amps + self.limit_now_a(volts) if mode == "limit" else 0.0


@dataclass
class PowerDrawElement(OwnVoltage):
    """The input of a dc-dc charger: what its output gives, over its efficiency, as power.

    The output's power is that of the round before: a bank's voltage hardly follows it, so that
    both settle together. Below ``floor_v`` the draw no longer rises.
    """

    output: SourceElement
    efficiency: float
    floor_v: float

    def modes(self) -> tuple[str, ...]:
        return ("drawing",)

    def _drawn_a(self, volts: float) -> float:
        return self.output.given_w / self.efficiency / max(volts, self.floor_v)

    def stamp(self, mode: str, volts: float, control_v: float) -> Stamp:
        if self.gentle or volts <= self.floor_v:
            return 0.0, self._drawn_a(volts)
        g = -self._drawn_a(volts) / volts
        return g, 2 * self._drawn_a(volts)

    def wanted(self, mode: str, volts: float, control_v: float, amps: float) -> str:
        return mode

    def residual_a(self, mode: str, volts: float, amps: float) -> float:
        return amps - self._drawn_a(volts)


@dataclass
class OneWayElement(OwnVoltage):
    """Lets current through from plus to minus only, past its knee voltage, up to its limit."""

    local: ClassVar[bool] = False
    curved: ClassVar[bool] = False
    resistance_ohm: float
    knee_v: float = 0.0
    limit_a: float = math.inf

    def modes(self) -> tuple[str, ...]:
        return ("open", "passing") if math.isinf(self.limit_a) else ("open", "passing", "limit")

    def stamp(self, mode: str, volts: float, control_v: float) -> Stamp:
        if mode == "open":
            return 0.0, 0.0
        if mode == "limit":
            return 0.0, self.limit_a
        return 1 / self.resistance_ohm, -self.knee_v / self.resistance_ohm

    def wanted(self, mode: str, volts: float, control_v: float, amps: float) -> str:
        if mode == "open":
            return "passing" if volts > self.knee_v + VOLT_TOLERANCE else mode
        if mode == "limit":
            at_limit_v = self.knee_v + self.limit_a * self.resistance_ohm
            return "passing" if volts < at_limit_v - VOLT_TOLERANCE else mode
        if amps > self.limit_a + AMP_TOLERANCE:
            return "limit"
        return "open" if amps < -AMP_TOLERANCE else mode

    def residual_a(self, mode: str, volts: float, amps: float) -> float:
        return 0.0


@dataclass
class LoadElement(OwnVoltage):
    """Loads behind one feed: constant power, current and resistance, folding back when low."""

    power_w: float
    current_a: float
    conductance_s: float
    fold_v: float

    def modes(self) -> tuple[str, ...]:
        return ("holding", "folded")

    def drawn_a(self, volts: float) -> float:
        """Current drawn [A] at a voltage [V]."""
        if volts >= self.fold_v:
            return self.power_w / volts + self.current_a + self.conductance_s * volts
        folded = self.power_w / self.fold_v**2 + self.current_a / self.fold_v
        return (folded + self.conductance_s) * volts

    def stamp(self, mode: str, volts: float, control_v: float) -> Stamp:
        if mode == "folded":
            folded = self.power_w / self.fold_v**2 + self.current_a / self.fold_v
            return folded + self.conductance_s, 0.0
        at_v = volts if volts > self.fold_v else self.fold_v
        power_a = self.power_w / at_v
        if self.gentle:
            return self.conductance_s, power_a + self.current_a
        return self.conductance_s - power_a / at_v, 2 * power_a + self.current_a

    def wanted(self, mode: str, volts: float, control_v: float, amps: float) -> str:
        if mode == "holding":
            return "folded" if volts < self.fold_v - VOLT_TOLERANCE else mode
        return "holding" if volts > self.fold_v + VOLT_TOLERANCE else mode

    def residual_a(self, mode: str, volts: float, amps: float) -> float:
        return amps - self.drawn_a(volts)


@dataclass
class ResistorElement(OwnVoltage):
    """A plain resistance: the starter while it cranks, a coil, gear at rest, a leak inside."""

    curved: ClassVar[bool] = False
    resistance_ohm: float
    kind: Literal["starter", "coil", "standing_draw", "leak"] = "leak"

    def modes(self) -> tuple[str, ...]:
        return ("resistor",)

    def stamp(self, mode: str, volts: float, control_v: float) -> Stamp:
        return 1 / self.resistance_ohm, 0.0

    def wanted(self, mode: str, volts: float, control_v: float, amps: float) -> str:
        return mode

    def residual_a(self, mode: str, volts: float, amps: float) -> float:
        return 0.0
