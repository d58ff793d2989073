"""Batteries over time beside the bands that charts of makers span.

``python -m bench.battery_bands`` prints the table of docs/model.md. The bands are for a 12 V bank
of 100 Ah at 25 degC in good health; published charts and common experience, medium confidence.
The figures of reference table charge_overpotential were moved until every case lay inside.
"""

from __future__ import annotations

from collections.abc import Callable, Iterator
from dataclasses import dataclass
from functools import partial

from strom_engine.batteries import BatteryRun
from strom_engine.design import Bank

__all__ = ["BANDS", "Band", "measured"]

AH = 100.0
Rest = tuple[float, float, float]  # hours or state of charge, and the band
Charge = tuple[
    str, float, float, float
]  # chemistry, rate [C], volts held [V], charge to begin with
MINUTE_H = 1 / 60


@dataclass(frozen=True)
class Band:
    """A case, what is read in it, its unit, and between what figures it lies."""

    case: str
    read: str
    unit: str
    low: float
    high: float
    value: Callable[[], float]


def _bank(chemistry: str, soc: float = 1.0, temperature_c: float = 25.0) -> Bank:
    raw = {"id": "b", "name": "Bank", "role": "house", "chemistry": chemistry, "unit_ah": AH}
    return Bank.model_validate(raw | {"soc": soc, "temperature_c": temperature_c})


def _held(run: BatteryRun, volts_v: float, limit_a: float, hours: float) -> BatteryRun:
    for _ in range(round(hours / MINUTE_H)):
        run.advance(run.current_at_v(volts_v, limit_a, MINUTE_H), MINUTE_H)
    return run


def _rest(run: BatteryRun, hours: float) -> float:
    for _ in range(round(hours / MINUTE_H)):
        run.advance(0.0, MINUTE_H)
    return run.terminal_v(0.0)


def _floated(chemistry: str, float_v: float, rest_h: float) -> float:
    return _rest(_held(BatteryRun(_bank(chemistry)), float_v, 20.0, 24.0), rest_h)


def _lithium_after_charge(rest_h: float) -> float:
    return _rest(_held(BatteryRun(_bank("lfp", 0.5)), 14.2, 50.0, 2.0), rest_h)


def _minutes_below(chemistry: str) -> float:
    run = BatteryRun(_bank(chemistry, 0.7))
    for _ in range(10):
        run.advance(AH / 10, MINUTE_H)
    seconds = 0
    while run.terminal_v(0.0) > 12.8:
        run.advance(0.0, 1 / 3600)
        seconds += 1
    return seconds / 60


def _hours_below(floated: bool) -> float:
    run = BatteryRun(_bank("agm"))
    if floated:
        _held(run, 13.6, 20.0, 24.0)
    minutes = 0
    while run.terminal_v(-AH / 40) > 12.8:
        run.advance(-AH / 40, MINUTE_H)
        minutes += 1
    return minutes / 60


def _taper(chemistry: str, rate_c: float, hold_v: float, soc: float, began: float) -> float:
    """Current [C] when a charge from ``began`` comes to a state of charge."""
    run = BatteryRun(_bank(chemistry, began))
    while run.soc < soc:
        _held(run, hold_v, rate_c * AH, MINUTE_H)
    return run.current_at_v(hold_v, rate_c * AH, MINUTE_H) / AH


def _hours_to(chemistry: str, rate_c: float, hold_v: float, soc: float, began: float) -> float:
    run, minutes = BatteryRun(_bank(chemistry, began)), 0
    while run.soc < soc:
        _held(run, hold_v, rate_c * AH, MINUTE_H)
        minutes += 1
    return minutes / 60


def _cold_share() -> float:
    """Current that a nearly full bank takes at 0 degC over that at 25 degC, after ten minutes."""

    def takes(temperature_c: float) -> float:
        run = BatteryRun(_bank("flooded_deep", 0.9, temperature_c))
        return _held(run, 14.4, 30.0, 10 * MINUTE_H).current_at_v(14.4, 30.0, MINUTE_H)

    return takes(0.0) / takes(25.0)


def _lithium_tail() -> float:
    run, minutes = BatteryRun(_bank("lfp", 0.95)), 0
    while run.current_at_v(14.2, 50.0, MINUTE_H) > AH / 20 and minutes < 600:
        _held(run, 14.2, 50.0, MINUTE_H)
        minutes += 1
    return minutes / 60


def _rows(case: str, *rows: tuple[str, str, float, float, Callable[[], float]]) -> list[Band]:
    return [Band(case, *row) for row in rows]


def _float_rows(case: str, chemistry: str, float_v: float, *rows: Rest) -> list[Band]:
    return [
        Band(case, f"after {h:g} h", "V", low, high, partial(_floated, chemistry, float_v, h))
        for h, low, high in rows
    ]


def _taper_rows(case: str, charge: Charge, *rows: Rest) -> list[Band]:
    return [
        Band(case, f"at {soc:.0%}", "C", low, high, partial(_taper, *charge[:3], soc, charge[3]))
        for soc, low, high in rows
    ]


_FLOODED: Charge = ("flooded_deep", 0.2, 14.6, 0.5)
_AGM: Charge = ("agm", 0.5, 14.4, 0.5)
_LFP: Charge = ("lfp", 0.5, 14.2, 0.2)
BANDS: tuple[Band, ...] = (
    *_float_rows(
        "AGM floated a day, no load", "agm", 13.6,
        (1, 13.0, 13.15), (8, 12.85, 13.0), (24, 12.8, 12.92),
    ),
    *_float_rows(
        "flooded, same", "flooded_deep", 13.4,
        (1, 12.85, 13.0), (8, 12.65, 12.8), (24, 12.62, 12.72),
    ),
    *_rows(
        "LFP after 14.2 V, no load",
        ("after 30 min", "V", 13.45, 13.65, partial(_lithium_after_charge, 0.5)),
        ("after 24 h", "V", 13.33, 13.45, partial(_lithium_after_charge, 24)),
    ),
    *_rows(
        "charged ten minutes at C/10 from 70 %, then left: below 12.8 V",
        ("flooded", "min", 1, 10, partial(_minutes_below, "flooded_deep")),
        ("AGM", "min", 1, 10, partial(_minutes_below, "agm")),
    ),
    *_rows(
        "full AGM, C/40 load: below 12.8 V",
        ("rested", "h", 0.3, 2, partial(_hours_below, False)),
        ("off a day's float", "h", 0.3, 2, partial(_hours_below, True)),
    ),
    *_taper_rows(
        "flooded, C/5, 14.6 V from 50 %", _FLOODED,
        (0.85, 0.09, 0.15), (0.90, 0.05, 0.10), (0.95, 0.02, 0.05),
    ),
    *_rows(
        "flooded, C/5, 14.6 V from 50 %",
        ("98% after", "h", 4.5, 6.5, partial(_hours_to, "flooded_deep", 0.2, 14.6, 0.98, 0.5)),
    ),
    *_taper_rows(
        "AGM, C/2, 14.4 V from 50 %", _AGM,
        (0.80, 0.15, 0.30), (0.90, 0.07, 0.12), (0.97, 0.015, 0.04),
    ),
    *_taper_rows("LFP, C/2, 14.2 V from 20 %", _LFP, (0.95, 0.499, 0.501)),
    *_rows(
        "LFP at 14.2 V from 95 %", ("current down to C/20", "h", 0.05, 0.4, _lithium_tail)
    ),
    *_rows("flooded at 90 %, 14.4 V", ("0 °C over 25 °C", "-", 0.4, 0.6, _cold_share)),
)  # fmt: skip


def measured() -> Iterator[tuple[Band, float]]:
    """Every band with what the model gives."""
    for band in BANDS:
        yield band, band.value()


def main() -> None:
    """Print the table."""
    print("| case | read | band | model |\n|---|---|---|---|")
    for band, value in measured():
        mark = "" if band.low <= value <= band.high else " **outside**"
        span = f"{band.low:g} to {band.high:g} {band.unit}"
        print(f"| {band.case} | {band.read} | {span} | {value:.3f}{mark} |")


if __name__ == "__main__":
    main()
