"""A charge over time: current-limited, then voltage-held, on the two-well model."""

from __future__ import annotations

from dataclasses import dataclass, replace
from functools import lru_cache

from strom_engine.batteries.source import BankSource, bank_source, rest_voltage_v
from strom_engine.batteries.two_well import TwoWell, Wells, two_well
from strom_engine.design import Bank
from strom_engine.reference import Chemistry, chemistry

__all__ = ["BatteryRun", "ChargePoint", "ChargeRun", "charge_run"]

STEP_H = 1 / 20
MAX_HOURS = 72.0
EDGE_A = 1e-3
BLOCK_V = 12.0


@dataclass(frozen=True)
class ChargePoint:
    """One moment of a charge."""

    hours: float
    soc: float
    current_a: float
    volts_v: float


@dataclass(frozen=True)
class ChargeRun:
    """A charge from one state of charge to another; ``reached_h`` is None when it never was."""

    points: tuple[ChargePoint, ...]
    reached_h: float | None
    bulk_h: float
    charged_ah: float


class BatteryRun:
    """A bank that lives through currents, with its ledger of energy [Wh].

    ``given_wh`` at the terminals, ``lost_wh`` inside (resistance, overpotential, coulombic
    loss, and the charge that runs down between the wells), ``stored_wh`` in the wells.
    """

    def __init__(self, bank: Bank, soc: float | None = None) -> None:
        self.figures: Chemistry = chemistry(bank.chemistry)
        self.model: TwoWell = two_well(bank.chemistry, bank.capacity_ah)
        self.source: BankSource = bank_source(bank)
        self.scale = bank.unit_v / BLOCK_V * bank.series
        self.wells: Wells = self.model.rested(bank.soc if soc is None else soc)
        self.given_wh = 0.0
        self.lost_wh = 0.0

    @property
    def soc(self) -> float:
        """State of charge [-]."""
        return self.model.soc(self.wells)

    @property
    def stored_wh(self) -> float:
        """Energy in the wells [Wh]."""
        return self.model.stored_wh(self.wells, self.figures, self.scale)

    def emf_v(self, wells: Wells | None = None) -> float:
        """EMF [V] of the charge at hand."""
        head = self.model.head(wells or self.wells)
        return rest_voltage_v(self.figures, head) * self.scale

    def terminal_v(self, current_a: float) -> float:
        """Terminal voltage [V] at a current, charging positive [A]."""
        return replace(self.source, emf_v=self.emf_v()).terminal_v(current_a)

    def step(self, current_a: float, hours: float) -> None:
        """Live through a constant current, charging positive [A], and keep the ledger.

        The ledger is integrated by Simpson's rule over the step; keep steps within minutes
        while a charge is pressed in, when the rest voltage rises steeply.
        """
        stored = self._stored_a(current_a)
        middle = self.model.after(self.wells, -stored, hours / 2)
        end = self.model.after(self.wells, -stored, hours)
        rates = [self._rates(w, current_a, stored) for w in (self.wells, middle, end)]
        given, lost = (hours * (a + 4 * b + c) / 6 for a, b, c in zip(*rates, strict=True))
        self.given_wh += given
        self.lost_wh += lost
        self.wells = end

    def advance(self, current_a: float, hours: float) -> None:
        """Live through a constant current, charging positive [A], without the ledger."""
        self.wells = self.model.after(self.wells, -self._stored_a(current_a), hours)

    def _stored_a(self, current_a: float) -> float:
        return current_a * (self.figures.coulombic_efficiency if current_a > 0 else 1.0)

    def current_at_v(self, volts_v: float, limit_a: float) -> float:
        """Charging current [A] at a terminal voltage, between 0 and a limit."""
        source = replace(self.source, emf_v=self.emf_v())
        if source.terminal_v(limit_a) <= volts_v:
            return limit_a
        if source.emf_v >= volts_v:
            return 0.0
        low, high = 0.0, limit_a
        while high - low > EDGE_A:
            middle = (low + high) / 2
            low, high = (middle, high) if source.terminal_v(middle) <= volts_v else (low, middle)
        return low

    def _rates(self, wells: Wells, current_a: float, stored_a: float) -> tuple[float, float]:
        """Power given at the terminals and power lost inside [W]."""
        emf = self.emf_v(wells)
        bound_v = rest_voltage_v(self.figures, self.model.bound_head(wells)) * self.scale
        terminal = replace(self.source, emf_v=emf).terminal_v(current_a)
        gap = self.model.bound_head(wells) - self.model.head(wells)
        c, k, q = self.model.share, self.model.rate_per_h, self.model.total_ah
        flow_a = k * c * (1 - c) * q * gap  # from the bound well to the one at hand
        lost = (terminal - emf) * current_a + emf * (current_a - stored_a)
        return terminal * current_a, lost + flow_a * (bound_v - emf)


@lru_cache(maxsize=256)
def charge_run(bank: Bank, to_soc: float, limit_a: float, hold_v: float) -> ChargeRun:
    """Charge a rested bank with a current limit [A] and a voltage limit [V].

    Ends at ``to_soc`` [-] or after 72 h. The curve is thinned to a point every 12 minutes.
    """
    run = BatteryRun(bank)
    points: list[ChargePoint] = []
    charged, bulk, steps = 0.0, 0.0, 0
    while True:
        current = run.current_at_v(hold_v, limit_a)
        hours = steps * STEP_H
        done = run.soc >= to_soc - 1e-9
        if steps % 4 == 0 or done or hours >= MAX_HOURS:
            points.append(ChargePoint(hours, run.soc, current, run.terminal_v(current)))
        if done or hours >= MAX_HOURS or limit_a <= 0:
            return ChargeRun(tuple(points), hours if done else None, bulk, charged)
        bulk += STEP_H if current >= limit_a - EDGE_A else 0.0
        charged += current * STEP_H
        run.advance(current, STEP_H)
        steps += 1
