"""A charge over time: current-limited, then voltage-held, by the bank's own kinetics."""

from __future__ import annotations

from dataclasses import dataclass
from functools import lru_cache

from strom_engine.batteries.bank_model import BankModel, BankWells, bank_model
from strom_engine.design import Bank

__all__ = ["BatteryRun", "ChargePoint", "ChargeRun", "charge_run"]

STEP_H = 1 / 20
MAX_HOURS = 72.0
EDGE_A = 1e-3
FULL_SPAN = 0.001  # the last thousandth is pressed in for ever


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
    """A bank by itself through currents, as in a day, with its energy [Wh].

    ``given_wh`` at the terminals, ``lost_wh`` inside: resistance, overpotential, gas, and the
    charge that runs down between the wells; ``stored_wh`` is in the wells.
    """

    def __init__(self, bank: Bank, soc: float | None = None) -> None:
        self.bank: BankModel = bank_model(bank)
        self.wells: BankWells = self.bank.rested(bank.soc if soc is None else soc)
        self.given_wh = 0.0
        self.lost_wh = 0.0

    @property
    def soc(self) -> float:
        """State of charge [-]."""
        return self.bank.soc(self.wells)

    @property
    def stored_wh(self) -> float:
        """Energy in the wells [Wh]."""
        return self.bank.stored_wh(self.wells)

    def terminal_v(self, current_a: float, hours: float = 0.0) -> float:
        """Terminal voltage [V] that a current, charging positive [A], has come to after a time."""
        return self.bank.terminal_v(self.bank.step_figures(self.wells, hours, current_a), current_a)

    def advance(self, current_a: float, hours: float) -> None:
        """Run a constant current, charging positive [A], and keep the ledger.

        Keep steps within minutes where the current does not last.
        """
        flow = self.bank.flow(self.wells, current_a, hours)
        kept_wh = self.bank.kept_wh(self.wells, flow, hours)
        given_wh = self.terminal_v(current_a, hours / 2) * current_a * hours
        self.given_wh += given_wh
        self.lost_wh += given_wh - kept_wh
        self.wells = self.bank.after(self.wells, flow, hours)

    def current_at_v(self, volts_v: float, limit_a: float, hours: float) -> float:
        """Charging current [A] that has come to a terminal voltage after a time, up to a limit."""
        stage = self.bank.step_figures(self.wells, hours)
        if self.bank.terminal_v(stage, limit_a) <= volts_v:
            return limit_a
        low, high = 0.0, limit_a
        while high - low > EDGE_A:
            middle = (low + high) / 2
            above = self.bank.terminal_v(stage, middle) > volts_v
            low, high = (low, middle) if above else (middle, high)
        return low


@lru_cache(maxsize=256)
def charge_run(bank: Bank, to_soc: float, limit_a: float, hold_v: float) -> ChargeRun:
    """Charge a rested bank with a current limit [A] and a voltage limit [V].

    Ends at ``to_soc`` [-] or after 72 h. The curve is thinned to a point every 12 minutes.
    """
    run = BatteryRun(bank)
    points: list[ChargePoint] = []
    charged, bulk, steps = 0.0, 0.0, 0
    while True:
        current = run.current_at_v(hold_v, limit_a, STEP_H)
        hours = steps * STEP_H
        done = run.soc >= to_soc - FULL_SPAN
        if steps % 4 == 0 or done or hours >= MAX_HOURS:
            volts = run.terminal_v(current, STEP_H)
            points.append(ChargePoint(hours, run.soc, current, volts))
        if done or hours >= MAX_HOURS or limit_a <= 0:
            return ChargeRun(tuple(points), hours if done else None, bulk, charged)
        bulk += STEP_H if current >= limit_a - EDGE_A else 0.0
        charged += current * STEP_H
        run.advance(current, STEP_H)
        steps += 1
