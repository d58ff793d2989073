"""The kinetic two-well model: charge at hand, charge bound, and what flows between them."""

from __future__ import annotations

import math
from bisect import bisect_right
from dataclasses import dataclass
from functools import cache

from strom_engine.reference import Chemistry, chemistry

__all__ = ["TwoWell", "Wells", "two_well"]


@dataclass(frozen=True)
class Wells:
    """Charge of both wells [Ah]."""

    available_ah: float
    bound_ah: float

    @property
    def total_ah(self) -> float:
        """Charge in both [Ah]."""
        return self.available_ah + self.bound_ah


@dataclass(frozen=True)
class TwoWell:
    """Two wells of one bank: ``share`` of the total is at hand, ``rate_per_h`` joins them.

    Source: Manwell and McGowan, Lead acid battery storage model for hybrid energy systems,
    Solar Energy 50 (1993); figures per chemistry in reference table battery_chemistry.
    Valid for currents between about C/100 and 1 C.
    """

    share: float
    rate_per_h: float
    total_ah: float

    def rested(self, soc: float) -> Wells:
        """Wells of a bank rested at a state of charge [-]."""
        charge = soc * self.total_ah
        return Wells(self.share * charge, (1 - self.share) * charge)

    def head(self, wells: Wells) -> float:
        """Head of the charge at hand [-]; above 1 while a charge is being pressed in."""
        return wells.available_ah / (self.share * self.total_ah)

    def bound_head(self, wells: Wells) -> float:
        """Head of the bound charge [-]."""
        return wells.bound_ah / ((1 - self.share) * self.total_ah)

    def soc(self, wells: Wells) -> float:
        """State of charge [-] of both wells together."""
        return wells.total_ah / self.total_ah

    def after(self, wells: Wells, drawn_a: float, hours: float) -> Wells:
        """Wells after a constant current, discharge positive [A], for a time [h]. Exact."""
        c, k, q = self.share, self.rate_per_h, wells.total_ah
        e = math.exp(-k * hours)
        level = (k * hours - 1 + e) / k
        return Wells(
            wells.available_ah * e + (q * k * c - drawn_a) * (1 - e) / k - drawn_a * c * level,
            wells.bound_ah * e + q * (1 - c) * (1 - e) - drawn_a * (1 - c) * level,
        )

    def capacity_ah(self, hours: float) -> float:
        """Charge [Ah] that a full bank gives when a constant current empties it in a time [h]."""
        return self.total_ah * _given_share(self.share, self.rate_per_h, hours)

    def stored_wh(self, wells: Wells, figures: Chemistry, volts_scale: float) -> float:
        """Energy in both wells [Wh], each at the rest voltage of its own head.

        ``volts_scale``: volts of the bank over those of a 12 V block.
        """
        at_hand = self.share * self.total_ah * _integral_v(figures, self.head(wells))
        bound = (1 - self.share) * self.total_ah * _integral_v(figures, self.bound_head(wells))
        return volts_scale * (at_hand + bound)


def two_well(chemistry_name: str, ah_20h: float) -> TwoWell:
    """The model of a bank by its 20 h capacity [Ah], which it then gives back exactly.

    Args:
        chemistry_name: a chemistry of the table.
        ah_20h: capacity at the 20 h rate [Ah], above zero.

    Returns:
        Both wells [Ah] and the rate between them [1/h].

    Raises:
        ReferenceDataError: the chemistry is unknown.
    """
    figures = chemistry(chemistry_name)
    share, rate = figures.well_share, figures.well_rate_per_h
    return TwoWell(share, rate, ah_20h / _given_share(share, rate, 20.0))


@cache
def _given_share(c: float, k: float, hours: float) -> float:
    """Share of the total that a constant current draws in a time [h] until nothing is at hand."""
    e = math.exp(-k * hours)
    return k * c * hours / (1 - e + c * (k * hours - 1 + e))


def _integral_v(figures: Chemistry, head: float) -> float:
    """Integral of the rest voltage over the head, from 0 [V]."""
    heads, volts = figures.heads, figures.rest_v
    if head <= heads[0]:
        return volts[0] * (head - heads[0])
    total = 0.0
    last = bisect_right(heads, head) - 1
    for i in range(last):
        total += (volts[i] + volts[i + 1]) / 2 * (heads[i + 1] - heads[i])
    if last == len(heads) - 1:
        return total + volts[-1] * (head - heads[-1])
    slope = (volts[last + 1] - volts[last]) / (heads[last + 1] - heads[last])
    step = head - heads[last]
    return total + step * (volts[last] + slope * step / 2)
