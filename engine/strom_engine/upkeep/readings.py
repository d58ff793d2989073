"""Readings over the years: each kind with its unit, its limits, and what it says of a bank."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from typing import Literal, get_args

from strom_engine.batteries import soc_from_rest
from strom_engine.design import Bank, Design, Starter
from strom_engine.reference import BLOCK_V, CONFIRM, chemistry, load_table
from strom_engine.sizing.cranking import turning_v

__all__ = [
    "READING_KINDS",
    "Judgement",
    "ReadingKind",
    "ReadingKindId",
    "judged_reading",
    "reading_problem",
]

ReadingKindId = Literal[
    "rest_v", "crank_v", "float_a", "tested_cca_a", "cells", "capacity_ah", "engine_h",
    "insulation_kohm",
]  # fmt: skip
Mark = Literal["good", "caution", "bad", "unknown"]
WARM_C = 20.0
# Own judgement after what workshops go by: a battery is spent at 80 % of its capacity, weak below
# 85 % of its cranking amps; float current of a sound full bank is below 1 % of its capacity; a cell
# that stands apart from the others by 0.03 is failing.
SPENT_SHARE, WEAK_SHARE = 0.80, 0.85
FLOAT_SHARE, FLOAT_BAD_SHARE = 0.01, 0.03
CELLS_APART = 0.03
NEAR_LIMIT, SPENT_BELOW = 1.04, 0.15
LOW_REST, EMPTY_REST = 0.60, 0.50
OWN = "own judgement after the practice of workshops; the maker's figure goes first"


@dataclass(frozen=True)
class ReadingKind:
    """A kind of reading: its words and unit, the least and the most that is believed, and what it
    is read on. ``several``: one value a cell."""

    id: ReadingKindId
    words: str
    unit: str
    least: float
    most: float
    on: Literal["bank", "engine"]
    how: str
    several: bool = False


READING_KINDS: tuple[ReadingKind, ...] = (
    ReadingKind("rest_v", "Rest volts", "V", 0, 80, "bank", "everything off, hours of rest told"),
    ReadingKind(
        "crank_v", "Least volts while cranking", "V", 0, 80, "bank", "a meter that holds the least"
    ),
    ReadingKind("float_a", "Amps on float", "A", 0, 200, "bank", "full, an hour or more on float"),
    ReadingKind(
        "tested_cca_a", "Cranking amps, tested", "A", 10, 1e4, "bank",
        "a conductance tester, each battery alone; the mean of them",
    ),
    ReadingKind(
        "cells", "Density of the cells", "", 1.0, 1.4, "bank",
        "a hydrometer, one value a cell with spaces between", several=True,
    ),
    ReadingKind("capacity_ah", "Capacity, tested", "Ah", 1, 2e4, "bank", "full, a load to its end"),
    ReadingKind("engine_h", "Engine hours", "h", 0, 1e6, "engine", "from its counter"),
    ReadingKind(
        "insulation_kohm", "Insulation to the hull", "kΩ", 0, 1e6, "bank",
        "parted from the boat, plus and minus",
    ),
)  # fmt: skip
BY_ID = {kind.id: kind for kind in READING_KINDS}
assert set(get_args(ReadingKindId)) == set(BY_ID)


@dataclass(frozen=True)
class Judgement:
    """What a reading says: a mark, why in words and numbers, where its limit comes from.

    ``low`` and ``high`` are the band in which it lies on a sound boat, None where there is none.
    """

    mark: Mark
    why: str
    low: float | None = None
    high: float | None = None
    source: str = ""


def reading_problem(kind: ReadingKindId, values: Sequence[float]) -> str:
    """Why values are none of a kind; empty where they are.

    Args:
        kind: of the reading.
        values: in its unit, one unless there are several.
    """
    known = BY_ID[kind]
    if len(values) != 1 and not known.several:
        return f"{known.words} is one value"
    for value in values:
        if not known.least <= value <= known.most:
            unit = f" {known.unit}" if known.unit else ""
            return f"{value:g} is not between {known.least:g} and {known.most:g}{unit}"
    return ""


def judged_reading(
    design: Design,
    target: str,
    kind: ReadingKindId,
    values: Sequence[float],
    rested_h: float = 0.0,
) -> Judgement:
    """What a reading says of the bank it was read on.

    Args:
        design: the boat, as surveyed.
        target: id of the bank or engine.
        kind: of the reading.
        values: in the unit of the kind.
        rested_h: hours of rest before, for rest volts [h].
    """
    bank = design.by_id.get(target)
    if not isinstance(bank, Bank):
        return Judgement("unknown", "nothing to hold it against")
    match kind:
        case "rest_v":
            return _rest(bank, values[0], rested_h)
        case "crank_v":
            return _crank(design, bank, values[0])
        case "float_a":
            return _float(bank, values[0])
        case "tested_cca_a":
            return _share(values[0], bank.unit_cca_a, "cranking amps on the label", "A", WEAK_SHARE)
        case "capacity_ah":
            return _share(values[0], bank.capacity_ah, "capacity on the label", "Ah", SPENT_SHARE)
        case "cells":
            return _cells(values)
        case _:
            return Judgement("unknown", "nothing to hold it against")


def _mark(value: float, good: float, least: float) -> Mark:
    return "good" if value >= good else "caution" if value >= least else "bad"


def _rest(bank: Bank, volts_v: float, rested_h: float) -> Judgement:
    told = soc_from_rest(bank, volts_v, rested_h)
    full, half = _rest_band(bank)
    if told.soc is None:
        mark: Mark = "unknown" if told.low is not None else "bad"
        return Judgement(mark, told.refused or "", half, full, told.source)
    mark = _mark(told.soc, LOW_REST, EMPTY_REST)
    doubt = (told.high or told.soc) - told.soc
    why = f"about {100 * told.soc:.0f} % charged, give or take {100 * doubt:.0f} %"
    if rested_h < 4:
        why += f"; rested only {rested_h:g} h"
    return Judgement(mark, why, half, full, told.source)


def _rest_band(bank: Bank) -> tuple[float, float]:
    """Rest volts of a bank, full and half full [V]."""
    figures = chemistry(bank.chemistry)
    blocks = bank.nominal_v / BLOCK_V
    pairs = [(h, v) for h, v in zip(figures.heads, figures.rest_v, strict=True) if h <= 1]
    full = pairs[-1][1] * blocks
    half = min(pairs, key=lambda pair: abs(pair[0] - EMPTY_REST))[1] * blocks
    return full, half


def _crank(design: Design, bank: Bank, volts_v: float) -> Judgement:
    starters = design.of_type(Starter)
    if not starters:
        return Judgement("unknown", "no engine is started from a bank of this boat")
    limit_v = (
        turning_v(design, starters[0], WARM_C) * bank.nominal_v / design.nominal_v(starters[0])
    )
    full, _ = _rest_band(bank)
    mark = _mark(volts_v, NEAR_LIMIT * limit_v, limit_v)
    side = "below" if volts_v < limit_v else "above"
    gap = abs(volts_v - limit_v)
    why = f"{gap:.1f} V {side} the {limit_v:.1f} V down to which an engine turns over in the warm"
    source = f"{load_table('cranking_cold').citation}; {CONFIRM}"
    return Judgement(mark, why, limit_v, full, source)


def _float(bank: Bank, amps_a: float) -> Judgement:
    share = amps_a / bank.capacity_ah
    good_a = FLOAT_SHARE * bank.capacity_ah
    mark: Mark = (
        "good" if share <= FLOAT_SHARE else "caution" if share <= FLOAT_BAD_SHARE else "bad"
    )
    why = (
        f"{amps_a:g} A / {bank.capacity_ah:g} Ah = {100 * share:.1f} %; a sound full bank takes "
        f"{100 * FLOAT_SHARE:.0f} % at most: loads on it, not full, or ageing"
        if mark != "good"
        else f"{100 * share:.1f} % of its capacity"
    )
    return Judgement(mark, why, 0.0, good_a, OWN)


def _share(value: float, label: float | None, of: str, unit: str, least: float) -> Judgement:
    if not label:
        return Judgement("unknown", f"the {of} is not known")
    share = value / label
    mark = _mark(share, least, least - SPENT_BELOW)
    why = f"{value:g} {unit} / {label:g} {unit} = {100 * share:.0f} % of the {of}"
    return Judgement(mark, why, least * label, label, OWN)


def _cells(values: Sequence[float]) -> Judgement:
    apart = max(values) - min(values)
    mark: Mark = "good" if apart <= CELLS_APART else "bad"
    why = f"{apart:.3f} between the cells; more than {CELLS_APART:g} points to a failing one"
    return Judgement(mark, why, None, None, OWN)
