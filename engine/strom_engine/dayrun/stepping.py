"""One step through time: implicit, of second order, with an estimate of the error.

While little changes, the trapezoidal rule: half of the step at the current with which it begins,
half at that with which it ends; one solution of the circuit a step. Where much changes, the singly
diagonally implicit Runge-Kutta method of order 2 (R. Alexander, SIAM J. Numer. Anal. 14, 1977):
two solutions, and no ringing however long the step. With both, the last solution is the circuit at
the end of the step, and the wells follow each piece of constant current exactly.
"""

from __future__ import annotations

import math
from collections.abc import Mapping
from dataclasses import dataclass, field

from strom_engine.batteries import BankModel, BankWells, WellFlow
from strom_engine.dayrun.heat import (
    AMBIENT_C,
    failing_share,
    heat_share,
    settles_c,
    warmer,
)
from strom_engine.dayrun.kernel import Kernel, Point, Snapshot
from strom_engine.dayrun.sun import Sunlight
from strom_engine.faults import Failing

__all__ = ["Surroundings", "Taken", "instant", "take_step"]

GAMMA = 1 - 1 / math.sqrt(2)
STAGES = (1 - GAMMA, GAMMA)  # weights of the two stages
HALVES = (0.5, 0.5)
EMBEDDED = 0.5 - GAMMA  # weight by which the first-order companion differs
VOLTS_ALLOWED = 0.002  # error of a bank's EMF that one step may make [V]
MADE_V_ALLOWED = 0.015  # of what a current makes of the overpotential [V]
LEFT_V_ALLOWED = 0.003  # of what is washed away: thresholds of relays are met on its way down
KELVIN_ALLOWED = 0.5


@dataclass(frozen=True)
class Surroundings:
    """What a step needs besides the circuit: the sun, the air around [degC], failing machines."""

    sunlight: Sunlight
    aboard_c: float | None = None
    failing: Mapping[str, Failing] = field(default_factory=dict)


@dataclass(frozen=True)
class Taken:
    """A step of ``seconds``: both stages, where it ends, and its error in allowed ones [-].

    ``began`` are the wells [Ah] that it set out from, ``weights`` [-] the shares of the step that
    its first and last moment stand for, ``flows`` what went into the wells meanwhile, and
    ``middle`` the wells where the one gives way to the other.
    """

    seconds: float
    began: Mapping[str, BankWells]
    middle: Mapping[str, BankWells]
    weights: tuple[float, float]
    flows: tuple[Mapping[str, WellFlow], Mapping[str, WellFlow]]
    first: Snapshot
    last: Snapshot
    error: float


def instant(
    kernel: Kernel,
    banks: Mapping[str, BankModel],
    at_s: float,
    wells: Mapping[str, BankWells],
    warmth_c: Mapping[str, float],
    around: Surroundings,
) -> Snapshot:
    """The circuit at a moment [s], before any time has passed."""
    _set(kernel, at_s, warmth_c, around)
    point = kernel.solve(
        {name: bank.step_figures(wells[name], 0.0) for name, bank in banks.items()}
    )
    return Snapshot(kernel, point, wells, warmth_c)


def take_step(
    banks: Mapping[str, BankModel],
    at_s: float,
    now: Snapshot,
    seconds: float,
    around: Surroundings,
    *,
    quiet: bool = False,
) -> Taken:
    """Let some time [s] pass from a solved moment; ``quiet`` says that little changes."""
    kernel = now.kernel
    weights = HALVES if quiet else STAGES
    amps = {name: kernel.amps(now.point, name) for name in banks}
    if quiet:
        first = now
    else:
        late = GAMMA * seconds
        warmth = _warmer(now, now.point, late, around)
        point = _stage(kernel, banks, _Piece(now.wells, amps, late), at_s + late, warmth, around)
        early = _after(banks, now.wells, _flows(kernel, banks, point, now.wells), late)
        first = Snapshot(kernel, point, early, now.warmth_c)
    before_s, late = weights[0] * seconds, weights[1] * seconds
    flows = _flows(kernel, banks, first.point, now.wells, before_s)
    middle = _after(banks, now.wells, flows, before_s)
    warmth = _warmer(now, first.point, before_s, around)
    halfway = Snapshot(kernel, first.point, middle, warmth)
    ahead = _warmer(halfway, first.point, late, around)
    amps = {name: kernel.amps(first.point, name) for name in banks}
    last = _stage(kernel, banks, _Piece(middle, amps, late), at_s + seconds, ahead, around)
    flows_last = _flows(kernel, banks, last, middle, late)
    wells = _after(banks, middle, flows_last, late)
    warmth = _warmer(halfway, last, late, around)
    error = _error(kernel, banks, now.wells, wells, first.point, last, seconds)
    end = Snapshot(kernel, last, wells, warmth)
    return Taken(seconds, now.wells, middle, weights, (flows, flows_last), first, end, error)


@dataclass(frozen=True)
class _Piece:
    """A piece of a step: wells and currents [A] at its beginning, its length [s]."""

    wells: Mapping[str, BankWells]
    amps: Mapping[str, float]
    seconds: float


def _stage(
    kernel: Kernel,
    banks: Mapping[str, BankModel],
    piece: _Piece,
    at_s: float,
    warmth: Mapping[str, float],
    around: Surroundings,
) -> Point:
    """The circuit at the end of a piece, which is at a moment [s]."""
    _set(kernel, at_s, warmth, around)
    hours = piece.seconds / 3600
    stages = {
        n: bank.step_figures(piece.wells[n], hours, piece.amps[n]) for n, bank in banks.items()
    }
    return kernel.solve(stages)


def _set(kernel: Kernel, at_s: float, warmth: Mapping[str, float], around: Surroundings) -> None:
    if kernel.state.sun > 0:
        kernel.light(around.sunlight.at(at_s / 3600))
    if kernel.alternators:
        kernel.warm(
            {
                p.id: heat_share(p, warmth[p.id])
                * failing_share(around.failing.get(p.id), warmth[p.id])
                for p in kernel.alternators
            }
        )


def _flows(
    kernel: Kernel,
    banks: Mapping[str, BankModel],
    point: Point,
    wells: Mapping[str, BankWells],
    seconds: float = 0.0,
) -> dict[str, WellFlow]:
    """Currents into the wells at a point, as they are in the middle of a time [s]."""
    hours = seconds / 3600
    return {n: b.flow(wells[n], kernel.amps(point, n), hours) for n, b in banks.items()}


def _after(
    banks: Mapping[str, BankModel],
    wells: Mapping[str, BankWells],
    flows: Mapping[str, WellFlow],
    seconds: float,
) -> dict[str, BankWells]:
    hours = seconds / 3600
    return {n: b.after(wells[n], flows[n], hours) for n, b in banks.items()}


def _warmer(now: Snapshot, point: Point, seconds: float, around: Surroundings) -> dict[str, float]:
    """Temperatures [degC] of all alternators after some time [s] at the currents of a point."""
    kernel = now.kernel
    driven = {p.id: p for p in kernel.alternators}
    found = {}
    for name, warm_c in now.warmth_c.items():
        part = driven.get(name)
        # One that stands still cools down to what is aboard.
        to_c = (
            settles_c(part, -kernel.amps(point, name), around.aboard_c, kernel.state.rpm)
            if part is not None
            else (AMBIENT_C if around.aboard_c is None else around.aboard_c)
        )
        found[name] = warmer(warm_c, to_c, seconds)
    return found


def _error(
    kernel: Kernel,
    banks: Mapping[str, BankModel],
    began: Mapping[str, BankWells],
    wells: Mapping[str, BankWells],
    first: Point,
    last: Point,
    seconds: float,
) -> float:
    """The difference from the first-order companion, in allowed ones [-]."""
    worst, rpm = 0.0, kernel.state.rpm
    hours = seconds / 3600
    for name, bank in banks.items():
        amps = kernel.amps(first, name), kernel.amps(last, name)
        moved_ah = EMBEDDED * hours * abs(amps[1] - amps[0])
        whole = bank.model.share * bank.model.total_ah
        # Where the curve bends within the step, its steeper side counts.
        slope = max(bank.curve.at(bank.head(w[name]))[1] for w in (began, wells))
        worst = max(worst, moved_ah / whole * slope / VOLTS_ALLOWED)
        # What the current makes of the overpotential meanwhile.
        moved_v = abs(bank.eta_v(wells[name], amps[1]) - bank.eta_v(began[name], amps[0]))
        made = EMBEDDED * min(1.0, hours / bank.kinetics.rise_h)
        drawn_a = abs(min(0.0, amps[1]) - min(0.0, amps[0]))
        washed = min(1.0, hours * drawn_a / bank.kinetics.wash_ah)
        left_v = began[name].quick_v + began[name].surface_v
        worst = max(worst, made * moved_v / MADE_V_ALLOWED)
        worst = max(worst, EMBEDDED * washed * left_v / LEFT_V_ALLOWED)
    for part in kernel.alternators:
        # What a current does to the temperature within a step, by the time constant.
        a, b = (settles_c(part, kernel.amps(p, part.id), None, rpm) for p in (first, last))
        worst = max(worst, EMBEDDED * min(1.0, seconds / 900) * abs(b - a) / KELVIN_ALLOWED)
    return worst
