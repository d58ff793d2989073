"""A bank that lives through time: its curve, its wells, and what leaks away inside."""

from __future__ import annotations

import math
from bisect import bisect_right
from dataclasses import dataclass

from strom_engine.batteries.source import bank_source, resistance_share
from strom_engine.batteries.two_well import TwoWell, two_well
from strom_engine.design import Bank
from strom_engine.reference import chemistry, load_table

__all__ = ["EmfCurve", "LivingBank", "Well2", "living_bank"]

Well2 = tuple[float, float]  # charge at hand and charge bound [Ah]

BLOCK_V = 12.0
HOURS_A_MONTH = 730.0
# Below empty the voltage of a lead or lithium cell collapses within a few hundredths of its
# charge; the table ends at empty, so that the curve goes on from there to nothing.
EMPTY_SPAN = 0.02
# Flat plates in watery acid conduct badly: a bank run below empty has many times its resistance,
# so that what joins it is not short-circuited. Own judgement; low confidence.
FLAT_GAIN = 6.0
# Charge pressed in above full leaks off as gas and heat: at a float of 2.23 V a cell, a head of
# about 1.02, about 1 mA per Ah flows for good (typical float current in EN 62485-2, both vented
# and valve-regulated). In proportion to the head above 1; medium confidence.
FLOAT_A_PER_AH = 0.001
FLOAT_HEAD = 0.02
# At the end of its calendar life a bank has 80 % of its capacity and about one and a half times
# its resistance (makers' definitions of end of life as commonly published). Medium confidence.
AGED_CAPACITY_LOSS = 0.2
AGED_RESISTANCE_GAIN = 0.5


class EmfCurve:
    """Rest voltage of a whole bank over the head, straight between the rows of its table."""

    def __init__(self, heads: tuple[float, ...], volts: tuple[float, ...]) -> None:
        self.heads = (-EMPTY_SPAN, *heads)
        self.volts = (0.0, *volts)
        self.slopes = tuple(
            (self.volts[i + 1] - self.volts[i]) / (self.heads[i + 1] - self.heads[i])
            for i in range(len(self.heads) - 1)
        )
        area = [0.0]
        for i, slope in enumerate(self.slopes):
            width = self.heads[i + 1] - self.heads[i]
            area.append(area[-1] + width * (self.volts[i] + slope * width / 2))
        self._area = tuple(area)
        self._inner = self.heads[1:-1]  # where one straight piece gives way to the next

    def at(self, head: float) -> tuple[float, float]:
        """Voltage [V] and slope [V per head] at a head [-]; beyond the ends the end goes on."""
        i = bisect_right(self._inner, head)
        slope = self.slopes[i]
        volts = self.volts[i] + slope * (head - self.heads[i])
        return (volts if volts > 0.0 else 0.0), slope

    def integral(self, head: float) -> float:
        """Integral of the voltage over the head, from the lower end [V]."""
        i = bisect_right(self._inner, head)
        step = head - self.heads[i]
        return self._area[i] + step * (self.volts[i] + self.slopes[i] * step / 2)


@dataclass(frozen=True)
class LivingBank:
    """Figures of one bank for as long as it lives through a day; its wells are kept outside.

    ``resistance_ohm`` is that of a full one, ``self_a`` [A] its self-discharge, ``leak_a`` [A per
    head above full] the float current that presses against gassing.
    """

    id: str
    family: str
    model: TwoWell
    curve: EmfCurve
    resistance_ohm: float
    eta_slope_v: float
    eta_current_a: float
    efficiency: float
    self_a: float
    leak_a: float

    def rested(self, soc: float) -> Well2:
        """Wells of the bank rested at a state of charge [-]."""
        wells = self.model.rested(soc)
        return wells.available_ah, wells.bound_ah

    def soc(self, wells: Well2) -> float:
        """State of charge [-]; what is pressed in beyond full does not count."""
        return min(1.0, max(0.0, (wells[0] + wells[1]) / self.model.total_ah))

    def head(self, wells: Well2) -> float:
        """Head of the charge at hand [-]."""
        return wells[0] / (self.model.share * self.model.total_ah)

    def bound_head(self, wells: Well2) -> float:
        """Head of the bound charge [-]."""
        return wells[1] / ((1 - self.model.share) * self.model.total_ah)

    def emf_v(self, wells: Well2) -> float:
        """Rest voltage [V] of the charge at hand."""
        return self.curve.at(self.head(wells))[0]

    def ohm(self, head: float) -> float:
        """Resistance [ohm] at a head [-]: more the emptier it is, and much more below empty."""
        ohm = self.resistance_ohm * resistance_share(self.family, head)
        return ohm if head >= 0.0 else ohm * (1 + FLAT_GAIN * min(1.0, -head / EMPTY_SPAN))

    def inside_a(self, wells: Well2) -> float:
        """Current [A] that is lost inside: self-discharge, and the leak above full."""
        over = self.head(wells) - 1.0
        standing = self.self_a if wells[0] > 0 else 0.0
        return standing + self.leak_a * over if over > 0.0 else standing

    def stored_a(self, current_a: float, inside_a: float) -> float:
        """Current [A] that reaches the wells from one at the terminals, charging positive."""
        return (self.efficiency * current_a if current_a > 0 else current_a) - inside_a

    def after(self, wells: Well2, stored_a: float, hours: float) -> Well2:
        """Wells after a constant current into them [A] for a time [h]. Exact."""
        c, k = self.model.share, self.model.rate_per_h
        gone = -math.expm1(-k * hours)  # exact for short steps, where 1 - exp would lose digits
        e = 1 - gone
        level = hours - gone / k
        q = wells[0] + wells[1]
        return (
            wells[0] * e + q * c * gone + stored_a * (gone / k + c * level),
            wells[1] * e + q * (1 - c) * gone + stored_a * (1 - c) * level,
        )

    def reach(self, wells: Well2, hours: float) -> tuple[float, float]:
        """Head at the end of a time [h] without current, and what an ampere adds to it [1/A]."""
        c, k = self.model.share, self.model.rate_per_h
        gone = -math.expm1(-k * hours)
        e = 1 - gone
        whole = c * self.model.total_ah
        free = (wells[0] * e + (wells[0] + wells[1]) * c * gone) / whole
        return free, (gone / k + c * (hours - gone / k)) / whole

    def stored_wh(self, wells: Well2) -> float:
        """Energy in both wells [Wh], each at the rest voltage of its own head."""
        c, total = self.model.share, self.model.total_ah
        at_hand = c * total * self.curve.integral(self.head(wells))
        return at_hand + (1 - c) * total * self.curve.integral(self.bound_head(wells))

    def kept_w(self, wells: Well2, stored_a: float) -> float:
        """Power [W] that the wells take in at a current into them, what flows between them off."""
        c, k, total = self.model.share, self.model.rate_per_h, self.model.total_ah
        head, bound = wells[0] / (c * total), wells[1] / ((1 - c) * total)
        emf, bound_v = self.curve.at(head)[0], self.curve.at(bound)[0]
        flow_a = k * c * (1 - c) * total * (bound - head)
        return emf * stored_a - flow_a * (bound_v - emf)

    def kept_wh(self, wells: Well2, stored_a: float, hours: float) -> float:
        """Energy [Wh] that the wells take in within a time at a constant current, by Simpson."""
        middle = self.after(wells, stored_a, hours / 2)
        end = self.after(wells, stored_a, hours)
        a, b, c = (self.kept_w(w, stored_a) for w in (wells, middle, end))
        return hours * (a + 4 * b + c) / 6


def living_bank(bank: Bank, temperature_c: float | None = None, dead_cells: int = 0) -> LivingBank:
    """A bank's figures over time, at its own temperature or another one [degC].

    Capacity falls in the cold and with age, resistance rises; a dead cell takes its voltage off
    and leaves its resistance. Sources: reference tables battery_chemistry, battery_ocv,
    capacity_cold, battery_life.
    """
    figures = chemistry(bank.chemistry)
    if temperature_c is not None:
        bank = bank.model_copy(update={"temperature_c": temperature_c})
    source = bank_source(bank, 1.0)
    aged = min(1.5, (bank.age_years or 0.0) / figures.calendar_years)
    cold = load_table("capacity_cold").lookup("temperature_c", figures.family, bank.temperature_c)
    capacity_ah = bank.capacity_ah * cold * (1 - AGED_CAPACITY_LOSS * aged)
    blocks = bank.unit_v / BLOCK_V * bank.series
    cells = figures.cells * blocks
    scale = blocks * (cells - dead_cells) / cells
    row = next(r for r in load_table("battery_chemistry").rows if r["chemistry"] == figures.name)
    monthly = float(row["self_discharge_pct_month"]) / 100
    return LivingBank(
        id=bank.id,
        family=figures.family,
        model=two_well(bank.chemistry, capacity_ah),
        curve=EmfCurve(figures.heads, tuple(v * scale for v in figures.rest_v)),
        resistance_ohm=source.resistance_ohm * (1 + AGED_RESISTANCE_GAIN * aged),
        eta_slope_v=source.eta_slope_v * (cells - dead_cells) / cells,
        eta_current_a=source.eta_current_a,
        efficiency=figures.coulombic_efficiency,
        self_a=monthly * bank.capacity_ah / HOURS_A_MONTH,
        leak_a=FLOAT_A_PER_AH * bank.capacity_ah / FLOAT_HEAD,
    )
