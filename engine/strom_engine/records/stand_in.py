"""A simulated battery monitor: what it would have written down of a day that was run."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from strom_engine.dayrun import Day
from strom_engine.design import Bank
from strom_engine.records.trace import Column, Trace

__all__ = ["Monitor", "recorded"]


AT_ONCE_S = 10.0  # between rows: from here on a monitor writes means


@dataclass(frozen=True)
class Monitor:
    """How a monitor writes: resolution, noise, missing rows, drift of its count.

    ``volts_v``, ``amps_a``: its last digit; ``noise_v``, ``noise_a``: standard deviation before
    rounding; ``missing``: share of rows that are lost [-]; ``drift``: share by which it counts
    wrongly what flows in [-]; ``full_v`` at 12 V and ``full_share`` of the capacity: above and
    below them, for ``full_s``, it takes the bank for full.
    """

    every_s: float = 60.0
    volts_v: float = 0.01
    amps_a: float = 0.1
    noise_v: float = 0.008
    noise_a: float = 0.08
    missing: float = 0.002
    drift: float = 0.01
    full_v: float = 13.6
    full_share: float = 0.03
    full_s: float = 1200.0


def recorded(
    day: Day, bank: Bank, monitor: Monitor | None = None, begins_s: float = 0.0, seed: int = 1
) -> Trace:
    """What a monitor on a bank writes down while a day goes on.

    Args:
        day: a computed day.
        bank: the bank that its shunt is on.
        monitor: how it writes.
        begins_s: when the day begins [s since 1970, UTC].
        seed: of noise and lost rows.
    """
    told = monitor or Monitor()
    rng = np.random.default_rng(seed)
    series = np.asarray(day.recording.at_s)
    at_s = np.arange(0.0, day.plan.hours * 3600, told.every_s)
    volts_v = _written(series, np.asarray(day.recording.volts_v[bank.id]), at_s, told.every_s)
    amps_a = _written(series, np.asarray(day.recording.bank_a[bank.id]), at_s, told.every_s)
    capacity_ah = bank.capacity_ah
    begin = float(day.recording.soc[bank.id][0])
    counted_ah = _counted(at_s, volts_v, amps_a, bank, told, (begin - 1) * capacity_ah)
    keep = rng.random(len(at_s)) >= told.missing
    size = len(at_s)
    columns = {
        "volts_v": _rounded(volts_v + told.noise_v * rng.standard_normal(size), told.volts_v),
        "amps_a": _rounded(amps_a + told.noise_a * rng.standard_normal(size), told.amps_a),
        "counted_ah": _rounded(counted_ah, 0.1),
        "charge": _rounded(1 + counted_ah / capacity_ah, 0.001),
        "temperature_c": np.full(size, float(round(bank.temperature_c))),
    }
    return Trace(begins_s + at_s[keep], {name: c[keep] for name, c in columns.items()})


def _written(series: Column, values: Column, at_s: Column, every_s: float) -> Column:
    """A quantity as it is written down: the mean since the row before, at once where rows are
    close."""
    if every_s <= AT_ONCE_S:
        last = np.clip(np.searchsorted(series, at_s, side="right") - 1, 0, len(series) - 1)
        return values[last]
    steps = np.diff(series) * (values[1:] + values[:-1]) / 2
    summed = np.concatenate(([0.0], np.cumsum(steps)))
    ends = np.interp(at_s, series, summed)
    starts = np.interp(np.maximum(at_s - every_s, 0.0), series, summed)
    wide = np.minimum(at_s, every_s)
    found: Column = np.where(wide > 0, (ends - starts) / np.maximum(wide, 1e-9), values[0])
    return found


def _counted(
    at_s: Column, volts_v: Column, amps_a: Column, bank: Bank, told: Monitor, begin_ah: float
) -> Column:
    """Charge missing from full as it counts, set to nothing when it takes the bank for full."""
    full_v = told.full_v * bank.series * bank.unit_v / 12
    found = np.empty(len(at_s))
    held, full_for_s = begin_ah, 0.0
    for n, (volts, amps) in enumerate(zip(volts_v.tolist(), amps_a.tolist(), strict=True)):
        counts = amps * (1 + told.drift) if amps > 0 else amps
        held = min(0.0, held + counts * told.every_s / 3600)
        is_full = volts >= full_v and 0 <= amps <= told.full_share * bank.capacity_ah
        full_for_s = full_for_s + told.every_s if is_full else 0.0
        if full_for_s >= told.full_s:
            held = 0.0
        found[n] = held
    return found


def _rounded(values: Column, step: float) -> Column:
    return np.round(np.round(values / step) * step, 6)
