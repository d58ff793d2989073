"""A bank over time: its curve, its wells, and what leaks away inside."""

from __future__ import annotations

import math
from bisect import bisect_right
from dataclasses import dataclass, replace
from typing import NamedTuple

from strom_engine.batteries.kinetics import Kinetics, kinetics_of
from strom_engine.batteries.source import alive_share, bank_source, resistance_share
from strom_engine.batteries.two_well import TwoWell, two_well
from strom_engine.design import Bank
from strom_engine.reference import BLOCK_V, chemistry, load_table

__all__ = ["BankModel", "BankWells", "EmfCurve", "StepFigures", "WellFlow", "bank_model"]


class BankWells(NamedTuple):
    """What a bank holds: charge at hand and bound [Ah], and what is left of charging [V].

    ``quick_v`` is the overpotential that follows the current within minutes, ``surface_v`` the
    surface charge that fades over hours.
    """

    hand_ah: float
    bound_ah: float
    quick_v: float = 0.0
    surface_v: float = 0.0

    @property
    def charge_ah(self) -> float:
        """Charge in both wells [Ah]."""
        return self.hand_ah + self.bound_ah


class WellFlow(NamedTuple):
    """Currents [A] for a time: at the terminals, charging positive, and into the wells."""

    amps: float
    hand_a: float
    bound_a: float

    @property
    def stored_a(self) -> float:
        """Into both wells together [A]."""
        return self.hand_a + self.bound_a


class StepFigures(NamedTuple):
    """A bank at the end of a piece of a step, as its own current will have made it.

    Without current it has the head ``free`` [-] and the resistance ``own_ohm``; an ampere drawn
    moves the head by ``per_drawn``, one put in by ``per_put`` [1/A]. ``exchange_a`` [A] is the
    exchange current; of the overpotential ``quick_v`` [V] is left from before and ``quick`` [-] is
    made anew. So it is with the surface charge: from ``was_v`` it comes nearer to its share
    ``surface`` of the overpotential by ``rising`` where that is above it, by ``fading`` where it is
    below [-].
    """

    free: float
    own_ohm: float
    per_drawn: float
    per_put: float
    exchange_a: float
    quick_v: float
    quick: float
    was_v: float
    surface: float
    rising: float
    fading: float


HOURS_A_MONTH = 730.0
# Below empty the voltage of a lead or lithium cell collapses within a few hundredths of its
# charge; the table ends at empty, so that the curve goes on from there to nothing.
EMPTY_SPAN = 0.02
# Flat plates in watery acid conduct badly: a bank run below empty has many times its resistance,
# so that what joins it is not short-circuited. Own judgement; low confidence.
FLAT_GAIN = 6.0
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
        """Voltage [V] and slope [V per head] at a head [-]; above full it is that of a full one."""
        if head >= 1.0:
            return self.volts[-1], 0.0
        i = bisect_right(self._inner, head)
        slope = self.slopes[i]
        volts = self.volts[i] + slope * (head - self.heads[i])
        return (volts if volts > 0.0 else 0.0), slope

    def integral(self, head: float) -> float:
        """Integral of the voltage over the head, from the lower end [V]."""
        if head > 1.0:
            return self._area[-1] + (head - 1.0) * self.volts[-1]
        i = bisect_right(self._inner, head)
        step = head - self.heads[i]
        return self._area[i] + step * (self.volts[i] + self.slopes[i] * step / 2)


@dataclass(frozen=True)
class BankModel:
    """Figures of one bank throughout a day; its wells are kept outside.

    ``resistance_ohm`` is that of a full one, ``added_ohm`` what a bad joint inside adds whatever
    its charge, ``self_a`` [A] its self-discharge.
    """

    id: str
    family: str
    model: TwoWell
    curve: EmfCurve
    resistance_ohm: float
    kinetics: Kinetics
    efficiency: float
    self_a: float
    added_ohm: float = 0.0

    def rested(self, soc: float) -> BankWells:
        """Wells of the bank rested at a state of charge [-]."""
        wells = self.model.rested(soc)
        return BankWells(wells.available_ah, wells.bound_ah)

    def soc(self, wells: BankWells) -> float:
        """State of charge [-]."""
        soc = (wells[0] + wells[1]) / self.model.total_ah
        return 0.0 if soc < 0.0 else 1.0 if soc > 1.0 else soc

    def head(self, wells: BankWells) -> float:
        """Head of the charge at hand [-]."""
        return wells[0] / (self.model.share * self.model.total_ah)

    def bound_head(self, wells: BankWells) -> float:
        """Head of the bound charge [-]."""
        return wells[1] / ((1 - self.model.share) * self.model.total_ah)

    def emf_v(self, wells: BankWells) -> float:
        """Rest voltage [V] of the charge at hand."""
        return self.curve.at(self.head(wells))[0]

    def open_v(self, wells: BankWells) -> float:
        """Voltage [V] without current at this moment: what is left of charging included."""
        return self.emf_v(wells) + wells.quick_v + wells.surface_v

    def ohm(self, head: float) -> float:
        """Resistance [ohm] at a head [-]: more the emptier it is, and much more below empty."""
        ohm = self.resistance_ohm * resistance_share(self.family, head) + self.added_ohm
        return ohm if head >= 0.0 else ohm * (1 + FLAT_GAIN * min(1.0, -head / EMPTY_SPAN))

    def flow(self, wells: BankWells, amps: float, hours: float = 0.0) -> WellFlow:
        """What a current at the terminals [A], charging positive, does to the wells for a time [h].

        What is put in fills both alike, less what goes into gas, as it does when half of the time
        has passed; what is drawn comes from the charge at hand.
        """
        inside_a = self.self_a if wells[0] > 0 else 0.0
        if amps <= 0:
            return WellFlow(amps, amps - inside_a, 0.0)
        into_a, charge_ah = amps * self.efficiency, wells[0] + wells[1]
        stored, total_ah = self.kinetics.stored, self.model.total_ah
        share = stored(charge_ah / total_ah)
        if hours:
            share = stored((charge_ah + into_a * share * hours / 2) / total_ah)
        put_a, c = into_a * share, self.model.share
        return WellFlow(amps, c * put_a - inside_a, (1 - c) * put_a)

    def _charges(self, wells: BankWells, flow: WellFlow, hours: float) -> tuple[float, float]:
        """Charge at hand and bound [Ah] after constant currents for a time [h]. Exact."""
        c, k = self.model.share, self.model.rate_per_h
        gone = -math.expm1(-k * hours)  # exact for short steps, where 1 - exp would lose digits
        q, stored_a = wells[0] + wells[1], flow[1] + flow[2]
        hand = wells[0] * (1 - gone) + q * c * gone
        hand += flow[1] * gone / k + c * stored_a * (hours - gone / k)
        return hand, q + stored_a * hours - hand

    def after(self, wells: BankWells, flow: WellFlow, hours: float) -> BankWells:
        """Wells after constant currents for a time [h]; exact but for what the charge does to the
        kinetics meanwhile."""
        hand, bound = self._charges(wells, flow, hours)
        amps = flow[0]
        rise, fade = self._left(hours, amps)
        quick_v, surface_v = wells[2] * rise, wells[3]
        if amps > 0:
            kinetics = self.kinetics
            soc = self._halfway_soc(wells, flow[1] + flow[2], hours)
            ready = kinetics.ready(soc)
            eta = kinetics.slope_v * math.asinh(amps / kinetics.exchange_a(soc, ready))
            surface = kinetics.surface(ready) * eta
            quick_v += (eta - surface) * (1 - rise)
            rate = rise if surface > surface_v else fade
            surface_v = surface_v * rate + surface * (1 - rate)
        else:
            surface_v *= fade
        return BankWells(hand, bound, quick_v, surface_v)

    def _halfway_soc(self, wells: BankWells, stored_a: float, hours: float) -> float:
        """State of charge [-] when half of a time [h] has passed at a current into the wells."""
        soc = (wells[0] + wells[1] + stored_a * hours / 2) / self.model.total_ah
        return 0.0 if soc < 0.0 else 1.0 if soc > 1.0 else soc

    def eta_v(self, wells: BankWells, amps: float) -> float:
        """Overpotential [V] that a current [A] leads to; none where it is drawn."""
        if amps <= 0:
            return 0.0
        soc = self.soc(wells)
        exchange_a = self.kinetics.exchange_a(soc, self.kinetics.ready(soc))
        return self.kinetics.slope_v * math.asinh(amps / exchange_a)

    def _left(self, hours: float, amps: float) -> tuple[float, float]:
        """What is left after a time [h] of what rises and fades in minutes, and in hours [-]."""
        kinetics = self.kinetics
        washed = -amps / kinetics.wash_ah if amps < 0 else 0.0
        return (
            math.exp(-hours * (1 / kinetics.rise_h + washed)),
            math.exp(-hours * (1 / kinetics.fade_h + washed)),
        )

    def step_figures(self, wells: BankWells, hours: float, before_a: float = 0.0) -> StepFigures:
        """The bank at the end of a time [h] for any current; ``before_a`` flows as it begins."""
        c, k = self.model.share, self.model.rate_per_h
        gone = -math.expm1(-k * hours)
        whole = c * self.model.total_ah
        per_drawn = (gone / k + c * (hours - gone / k)) / whole
        free = (wells[0] * (1 - gone) + (wells[0] + wells[1]) * c * gone) / whole
        if wells[0] > 0:
            free -= per_drawn * self.self_a
        kinetics = self.kinetics
        soc = self._halfway_soc(wells, before_a, hours)
        ready = kinetics.ready(soc)
        rise, fade = self._left(hours, before_a)
        return StepFigures(
            free,
            self.ohm(free),
            per_drawn,
            self.efficiency * kinetics.stored(soc) * hours / self.model.total_ah,
            kinetics.exchange_a(soc, ready),
            wells[2] * rise,
            1 - rise,
            wells[3],
            kinetics.surface(ready),
            1 - rise,
            1 - fade,
        )

    def law(self, at: StepFigures, amps: float) -> tuple[float, float]:
        """Terminal voltage [V] at the end of a stage at a current [A], and its slope [ohm]."""
        per_a = at.per_put if amps > 0 else at.per_drawn
        emf, slope = self.curve.at(at.free + per_a * amps)
        volts = emf + amps * at.own_ohm + at.quick_v + at.was_v * (1 - at.fading)
        ohm = at.own_ohm + slope * per_a
        if amps > 0 and at.quick > 0.0:
            slope_v = self.kinetics.slope_v
            eta = slope_v * math.asinh(amps / at.exchange_a)
            made, surface_v = at.quick * (1 - at.surface), at.surface * eta
            volts += made * eta
            if surface_v > at.was_v:
                volts += at.fading * at.was_v + at.rising * (surface_v - at.was_v)
                made += at.rising * at.surface
            else:
                volts += at.fading * surface_v
                made += at.fading * at.surface
            ohm += made * slope_v / math.hypot(at.exchange_a, amps)
        return volts, ohm

    def terminal_v(self, at: StepFigures, amps: float) -> float:
        """Terminal voltage [V] at the end of a stage at a current [A]."""
        return self.law(at, amps)[0]

    def stored_wh(self, wells: BankWells) -> float:
        """Energy in both wells [Wh], each at the rest voltage of its own head."""
        c, total = self.model.share, self.model.total_ah
        at_hand = c * total * self.curve.integral(self.head(wells))
        return at_hand + (1 - c) * total * self.curve.integral(self.bound_head(wells))

    def kept_w(self, wells: BankWells, flow: WellFlow) -> float:
        """Power [W] that the wells take in, what runs down between them off."""
        return self._kept_w(wells[0], wells[1], flow)

    def _kept_w(self, hand_ah: float, bound_ah: float, flow: WellFlow) -> float:
        c, k, total = self.model.share, self.model.rate_per_h, self.model.total_ah
        head, bound = hand_ah / (c * total), bound_ah / ((1 - c) * total)
        emf, bound_v = self.curve.at(head)[0], self.curve.at(bound)[0]
        between_a = k * c * (1 - c) * total * (bound - head)
        return emf * flow.hand_a + bound_v * flow.bound_a - between_a * (bound_v - emf)

    def kept_wh(self, wells: BankWells, flow: WellFlow, hours: float) -> float:
        """Energy [Wh] that the wells take in within a time at constant currents, by Simpson."""
        middle = self._charges(wells, flow, hours / 2)
        end = self._charges(wells, flow, hours)
        a, b, c = (self._kept_w(*w, flow) for w in ((wells[0], wells[1]), middle, end))
        return hours * (a + 4 * b + c) / 6


def bank_model(
    bank: Bank,
    temperature_c: float | None = None,
    *,
    dead_cells: int = 0,
    added_ohm: float = 0.0,
) -> BankModel:
    """A bank's figures over time, at its own temperature or another one [degC].

    Capacity falls in the cold and with age, resistance rises; a dead cell takes its voltage off
    and leaves its resistance. Sources: reference tables battery_chemistry, battery_ocv,
    capacity_cold, battery_life.

    Args:
        bank: its label, age and place.
        temperature_c: of the whole bank [degC], -20 to 50; its own when None.
        dead_cells: cells without voltage [-].
        added_ohm: resistance inside beyond its own [ohm].

    Returns:
        Capacity [Ah], wells, resistance [ohm] and limits of the whole bank.

    Raises:
        ReferenceDataError: its chemistry is unknown.
    """
    figures = chemistry(bank.chemistry)
    if temperature_c is not None:
        bank = bank.model_copy(update={"temperature_c": temperature_c})
    source = bank_source(bank, 1.0)
    aged = min(1.5, (bank.age_years or 0.0) / figures.calendar_years)
    cold = load_table("capacity_cold").lookup("temperature_c", figures.family, bank.temperature_c)
    capacity_ah = bank.capacity_ah * cold * (1 - AGED_CAPACITY_LOSS * aged)
    blocks = bank.unit_v / BLOCK_V * bank.series
    alive = alive_share(bank, dead_cells)
    scale = blocks * alive
    row = next(r for r in load_table("battery_chemistry").rows if r["chemistry"] == figures.name)
    kinetics = kinetics_of(bank, figures)
    # Self-discharge halves with every ten degrees (Arrhenius; makers' storage charts).
    slower = 2 ** ((bank.temperature_c - 25.0) / 10.0)
    monthly = float(row["self_discharge_pct_month"]) / 100
    return BankModel(
        id=bank.id,
        family=figures.family,
        model=two_well(bank.chemistry, capacity_ah),
        curve=EmfCurve(figures.heads, tuple(v * scale for v in figures.rest_v)),
        resistance_ohm=source.resistance_ohm * (1 + AGED_RESISTANCE_GAIN * aged),
        added_ohm=added_ohm,
        kinetics=replace(kinetics, slope_v=kinetics.slope_v * alive),
        efficiency=figures.coulombic_efficiency,
        self_a=monthly * bank.capacity_ah / HOURS_A_MONTH * slower,
    )
