"""Ampere-hours and watt-hours of a day: from sources through banks to loads and losses."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, field

import numpy as np
from numpy.typing import NDArray

from strom_engine.batteries import BankModel, BankWells
from strom_engine.circuit.elements import OneWayElement
from strom_engine.dayrun.kernel import Kernel, Point
from strom_engine.dayrun.stepping import Taken
from strom_engine.design.fields import PostRef

__all__ = ["BankAccount", "Book", "Heat", "Ledger", "Line"]

Vector = NDArray[np.float64]
# In longer steps charge flows between the wells along a curve that two points do not show.
LONG_S = 300.0
PAGE = 200  # so many moments are added up at once


@dataclass(frozen=True)
class Line:
    """What one part gave or took."""

    charge_ah: float
    energy_wh: float


@dataclass(frozen=True)
class BankAccount:
    """A bank over the day: in and out at its terminals, lost inside, and what it holds more."""

    in_ah: float
    out_ah: float
    in_wh: float
    out_wh: float
    lost_ah: float
    lost_wh: float
    more_ah: float
    more_wh: float


@dataclass(frozen=True)
class Heat:
    """What was turned into heat, in all banks, in all cables and contacts, in all gear [Wh]."""

    banks_wh: float
    cables_wh: float
    gear_wh: float


@dataclass(frozen=True)
class Ledger:
    """All accounts. ``residual`` [-] is what does not close, as a share of all that flowed.

    Energy: given by sources = taken by loads + kept in banks + lost in banks, cables, gear.
    ``taken`` are loads, starters and coils, ``gear`` what isolators, chargers' outputs and
    dc-dc chargers turned into heat, ``converted`` [Ah] what dc-dc chargers took beyond what
    they gave at another voltage.
    """

    given: Mapping[str, Line]
    taken: Mapping[str, Line]
    banks: Mapping[str, BankAccount]
    gear: Mapping[str, float]
    heat: Heat
    converted_ah: float
    residual: float


@dataclass
class Book:
    """The accounts while the day is run."""

    sums: dict[str, Vector] = field(default_factory=dict)  # ah in, ah out, wh in, wh out
    lost_wh: dict[str, float] = field(default_factory=dict)
    cables_wh: float = 0.0
    brief: bool = False
    one_way: set[str] = field(default_factory=set)
    _kernel: Kernel | None = None
    _page: list[tuple[float, Point]] = field(default_factory=list)

    def add(self, taken: Taken, banks: Mapping[str, BankModel], times: int = 1) -> None:
        """Enter a step, so many times."""
        if self._kernel is not taken.last.kernel or len(self._page) >= PAGE:
            self.close()
            self._kernel = taken.last.kernel
        hours = times * taken.seconds / 3600
        first, last = taken.weights
        self._page += ((first * hours, taken.first.point), (last * hours, taken.last.point))
        if self.brief:
            return
        for name, bank in banks.items():
            lost_wh = times * _lost_wh(name, bank, taken)
            self.lost_wh[name] = self.lost_wh.get(name, 0.0) + lost_wh

    def close(self) -> None:
        """Carry the open page over to the sums by name."""
        kernel, page = self._kernel, self._page
        if kernel is None or not page:
            return
        hours = np.array([h for h, _ in page])
        amps = np.array([p.amps for _, p in page])
        over_v = np.array([p.over_v for _, p in page])
        into, out = np.maximum(amps, 0.0), np.maximum(-amps, 0.0)
        sums = hours @ np.array([into, out, into * over_v, out * over_v])
        for i, name in enumerate(kernel.names):
            self.sums[name] = self.sums.get(name, np.zeros(4)) + sums[:, i]
            if isinstance(kernel.circuit.elements[i], OneWayElement):
                self.one_way.add(name)
        if not self.brief:
            self.cables_wh += kernel.lost_wh(np.array([p.volts for _, p in page]), hours)
        self._page = []

    def ledger(
        self,
        banks: Mapping[str, BankModel],
        began: Mapping[str, BankWells],
        ended: Mapping[str, BankWells],
        sources: Mapping[str, str],
        takers: Mapping[str, str],
    ) -> Ledger:
        """The accounts at the end; ``sources`` and ``takers`` give the part of an element."""
        self.close()
        given = _lines(self.sums, sources, sign=1)
        taken = _lines(self.sums, takers, sign=0)
        accounts = {n: self._account(b, began[n], ended[n]) for n, b in banks.items()}
        known = set(sources) | set(takers) | set(banks)
        gear: dict[str, float] = {}
        converted_ah = 0.0
        for name, (into_ah, out_ah, into_wh, out_wh) in self.sums.items():
            if name in known:
                continue
            part = PostRef(name).part
            gear[part] = gear.get(part, 0.0) + float(into_wh - out_wh)
            converted_ah += 0.0 if name in self.one_way else float(into_ah - out_ah)
        heat = Heat(sum(a.lost_wh for a in accounts.values()), self.cables_wh, sum(gear.values()))
        given_wh = sum(line.energy_wh for line in given.values())
        gone_wh = sum(line.energy_wh for line in taken.values())
        gone_wh += sum(a.more_wh for a in accounts.values())
        gone_wh += heat.banks_wh + heat.cables_wh + heat.gear_wh
        moved_wh = given_wh + sum(a.out_wh for a in accounts.values())
        residual = abs(given_wh - gone_wh) / moved_wh if moved_wh > 1e-6 else 0.0
        return Ledger(given, taken, accounts, gear, heat, converted_ah, residual)

    def _account(self, bank: BankModel, began: BankWells, ended: BankWells) -> BankAccount:
        into_ah, out_ah, into_wh, out_wh = (
            float(v) for v in self.sums.get(bank.id, np.zeros(4)).tolist()
        )
        more_ah = ended.charge_ah - began.charge_ah
        return BankAccount(
            in_ah=into_ah,
            out_ah=out_ah,
            in_wh=into_wh,
            out_wh=out_wh,
            lost_ah=into_ah - out_ah - more_ah,
            lost_wh=self.lost_wh.get(bank.id, 0.0),
            more_ah=more_ah,
            more_wh=bank.stored_wh(ended) - bank.stored_wh(began),
        )


def _lost_wh(name: str, bank: BankModel, taken: Taken) -> float:
    """What a bank turned into heat within a step [Wh]: taken in at its terminals, not kept."""
    i = taken.last.kernel.index[name]
    hours, lost_wh = taken.seconds / 3600, 0.0
    pieces = zip(
        (taken.first, taken.last),
        taken.weights,
        taken.flows,
        (taken.began, taken.middle),
        strict=True,
    )
    for moment, weight, flows, began in pieces:
        point, flow = moment.point, flows[name]
        if taken.seconds > LONG_S:
            kept_wh = bank.kept_wh(began[name], flow, weight * hours)
        else:
            kept_wh = weight * hours * bank.kept_w(moment.wells[name], flow)
        lost_wh += weight * hours * point.amps[i] * point.over_v[i] - kept_wh
    return lost_wh


def _lines(sums: Mapping[str, Vector], parts: Mapping[str, str], sign: int) -> dict[str, Line]:
    """Sums of the elements of each part; given counts out of the element, taken into it."""
    found: dict[str, Line] = {}
    for name, part in parts.items():
        if name in sums:
            into_ah, out_ah, into_wh, out_wh = (float(v) for v in sums[name].tolist())
            ah, wh = (out_ah - into_ah, out_wh - into_wh) if sign else (into_ah, into_wh)
            before = found.get(part, Line(0.0, 0.0))
            found[part] = Line(before.charge_ah + ah, before.energy_wh + wh)
    return found
