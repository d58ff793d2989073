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
from dataclasses import dataclass

from strom_engine.batteries import LivingBank, Well2
from strom_engine.dayrun.heat import AMBIENT_C, heat_share, settles_c, warmer
from strom_engine.dayrun.kernel import Kernel, Moment, Point, Stage
from strom_engine.dayrun.sun import Sunlight

__all__ = ["Surroundings", "Taken", "instant", "take_step"]

GAMMA = 1 - 1 / math.sqrt(2)
STAGES = (1 - GAMMA, GAMMA)  # weights of the two stages
HALVES = (0.5, 0.5)
EMBEDDED = 0.5 - GAMMA  # weight by which the first-order companion differs
VOLTS_ALLOWED = 0.002  # error of a bank's EMF that one step may make [V]
KELVIN_ALLOWED = 0.5


@dataclass(frozen=True)
class Surroundings:
    """What a step needs to know besides the circuit: the sun, and the air around [degC]."""

    sunlight: Sunlight
    aboard_c: float | None = None


@dataclass(frozen=True)
class Taken:
    """A step of ``seconds``: both stages, where it ends, and its error in allowed ones [-].

    ``began`` are the wells [Ah] that it set out from, ``weights`` [-] the shares of the step that
    its first and last moment stand for, ``stored_a`` [A] what went into the wells meanwhile, and
    ``middle`` the wells where the one gives way to the other.
    """

    seconds: float
    began: Mapping[str, Well2]
    middle: Mapping[str, Well2]
    weights: tuple[float, float]
    stored_a: tuple[Mapping[str, float], Mapping[str, float]]
    first: Moment
    last: Moment
    error: float


def instant(
    kernel: Kernel,
    banks: Mapping[str, LivingBank],
    at_s: float,
    wells: Mapping[str, Well2],
    warmth_c: Mapping[str, float],
    around: Surroundings,
    *,
    kinetics: bool = True,
) -> Moment:
    """The circuit at a moment [s], before any time has passed."""
    _set(kernel, at_s, warmth_c, around)
    stages = {name: Stage(bank.head(wells[name])) for name, bank in banks.items()}
    point = kernel.solve(stages, kinetics=kinetics)
    return Moment(kernel, point, wells, warmth_c)


def take_step(
    banks: Mapping[str, LivingBank],
    at_s: float,
    now: Moment,
    seconds: float,
    around: Surroundings,
    *,
    quiet: bool = False,
) -> Taken:
    """Let some time [s] pass from a solved moment; ``quiet`` says that little changes."""
    kernel = now.kernel
    weights = HALVES if quiet else STAGES
    inside = _inside(banks, now, now.wells, weights[0] * seconds)
    if quiet:
        first = now
    else:
        late = GAMMA * seconds
        warmth = _warmer(now, now.point, late, around)
        point = _stage(kernel, banks, _Piece(now.wells, inside, late), at_s + late, warmth, around)
        early = _after(banks, now.wells, _stored(kernel, banks, point, inside), late)
        first = Moment(kernel, point, early, now.warmth_c)
    before_s, late = weights[0] * seconds, weights[1] * seconds
    stored = _stored(kernel, banks, first.point, inside)
    middle = _after(banks, now.wells, stored, before_s)
    warmth = _warmer(now, first.point, before_s, around)
    halfway = Moment(kernel, first.point, middle, warmth)
    ahead = _warmer(halfway, first.point, late, around)
    inside = _inside(banks, first, middle, late)
    last = _stage(kernel, banks, _Piece(middle, inside, late), at_s + seconds, ahead, around)
    stored_last = _stored(kernel, banks, last, inside)
    wells = _after(banks, middle, stored_last, late)
    warmth = _warmer(halfway, last, late, around)
    error = _error(kernel, banks, now.wells, wells, first.point, last, seconds)
    end = Moment(kernel, last, wells, warmth)
    return Taken(seconds, now.wells, middle, weights, (stored, stored_last), first, end, error)


def _inside(
    banks: Mapping[str, LivingBank], now: Moment, wells: Mapping[str, Well2], seconds: float
) -> dict[str, float]:
    """What leaks away inside each bank [A] in the middle of a piece of a step."""
    found = {}
    for name, bank in banks.items():
        inside_a = bank.inside_a(wells[name])
        if inside_a > bank.self_a:
            stored_a = bank.stored_a(now.amps(name), inside_a)
            inside_a = bank.inside_a(bank.after(wells[name], stored_a, seconds / 7200))
        found[name] = inside_a
    return found


@dataclass(frozen=True)
class _Piece:
    """A piece of a step: wells at its beginning [Ah], leaks inside [A], its length [s]."""

    wells: Mapping[str, Well2]
    inside: Mapping[str, float]
    seconds: float


def _stage(
    kernel: Kernel,
    banks: Mapping[str, LivingBank],
    piece: _Piece,
    at_s: float,
    warmth: Mapping[str, float],
    around: Surroundings,
) -> Point:
    """The circuit at the end of a piece, which is at a moment [s]."""
    _set(kernel, at_s, warmth, around)
    hours = piece.seconds / 3600
    ends = {n: bank.reach(piece.wells[n], hours) for n, bank in banks.items()}
    return kernel.solve({n: Stage(*end, piece.inside[n]) for n, end in ends.items()})


def _set(kernel: Kernel, at_s: float, warmth: Mapping[str, float], around: Surroundings) -> None:
    if kernel.state.sun > 0:
        kernel.light(around.sunlight.at(at_s / 3600))
    if kernel.alternators:
        kernel.warm({p.id: heat_share(p, warmth[p.id]) for p in kernel.alternators})


def _stored(
    kernel: Kernel, banks: Mapping[str, LivingBank], point: Point, inside: Mapping[str, float]
) -> dict[str, float]:
    return {n: b.stored_a(kernel.amps(point, n), inside[n]) for n, b in banks.items()}


def _after(
    banks: Mapping[str, LivingBank],
    wells: Mapping[str, Well2],
    stored_a: Mapping[str, float],
    seconds: float,
) -> dict[str, Well2]:
    hours = seconds / 3600
    return {n: b.after(wells[n], stored_a[n], hours) for n, b in banks.items()}


def _warmer(now: Moment, point: Point, seconds: float, around: Surroundings) -> dict[str, float]:
    """Temperatures [degC] of all alternators after some time [s] at the currents of a point."""
    kernel = now.kernel
    driven = {p.id: p for p in kernel.alternators}
    found = {}
    for name, warm_c in now.warmth_c.items():
        part = driven.get(name)
        # One that stands still cools down to what is aboard.
        to_c = (
            settles_c(part, -kernel.amps(point, name), around.aboard_c)
            if part is not None
            else (AMBIENT_C if around.aboard_c is None else around.aboard_c)
        )
        found[name] = warmer(warm_c, to_c, seconds)
    return found


def _error(
    kernel: Kernel,
    banks: Mapping[str, LivingBank],
    began: Mapping[str, Well2],
    wells: Mapping[str, Well2],
    first: Point,
    last: Point,
    seconds: float,
) -> float:
    """The difference from the first-order companion, in allowed ones [-]."""
    worst = 0.0
    hours = seconds / 3600
    for name, bank in banks.items():
        moved_ah = EMBEDDED * hours * abs(kernel.amps(last, name) - kernel.amps(first, name))
        whole = bank.model.share * bank.model.total_ah
        # Where the curve bends within the step, its steeper side counts.
        slope = max(bank.curve.at(bank.head(w[name]))[1] for w in (began, wells))
        worst = max(worst, moved_ah / whole * slope / VOLTS_ALLOWED)
    for part in kernel.alternators:
        # What a current does to the temperature within a step, by the time constant.
        a, b = (settles_c(part, kernel.amps(p, part.id), None) for p in (first, last))
        worst = max(worst, EMBEDDED * min(1.0, seconds / 900) * abs(b - a) / KELVIN_ALLOWED)
    return worst
