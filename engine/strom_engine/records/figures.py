"""Figures of a record beside those of a run: each with its doubt, and how far they part."""

from __future__ import annotations

from collections.abc import Callable, Iterator, Sequence
from dataclasses import dataclass
from math import sqrt

import numpy as np

from strom_engine.design import Bank
from strom_engine.records.happened import Happened
from strom_engine.records.spells import ChargingSpell

__all__ = ["RecordFigure", "figures_of"]

# Doubts of one figure, own judgement: what loads nobody listed, contacts, meters and the model
# leave open. Shares of the expected value unless a unit is in the name.
FIRST_SHARE, FIRST_A = 0.18, 2.0  # the speed of the engine is not recorded
HELD_V = 0.15
LATE_SHARE, LATE_FROM_A = 0.20, 12.0
CHARGE_DOUBT = 0.06
BEFORE_SHARE, BEFORE_A = 0.35, 2.0
BASE_SHARE, BASE_A = 0.30, 0.35
SUN_SHARE, SUN_A = 0.40, 1.5
MINUTES_SHARE, MINUTES = 0.25, 20.0
MOST_DOUBTS = 8.0
OVERLAP, TOGETHER_S = 0.7, 1500.0


@dataclass(frozen=True)
class RecordFigure:
    """One figure, recorded and expected, in its unit; ``doubt`` is one standard deviation.

    ``count``: how many spells, nights or days it is the median of.
    """

    key: str
    words: str
    unit: str
    recorded: float
    expected: float
    doubt: float
    count: int

    @property
    def doubts_apart(self) -> float:
        """By how many doubts the record lies above what is expected [-]."""
        return (self.recorded - self.expected) / self.doubt

    def title(self) -> str:
        """Both values in a line."""
        return (
            f"{self.words}: {_value(self.recorded, self.unit)} recorded, "
            f"{_value(self.expected, self.unit)} expected"
        )

    def arithmetic(self) -> tuple[str, ...]:
        """Why they part."""
        off = self.recorded - self.expected
        return (
            f"{_value(self.recorded, self.unit)} - {_value(self.expected, self.unit)} = "
            f"{_value(off, self.unit)}; the doubt is {_value(self.doubt, self.unit)}: "
            f"{abs(self.doubts_apart):.1f} times as much.",
            f"Median of {self.count}.",
        )


def _value(value: float, unit: str) -> str:
    if unit == "%":
        return f"{100 * value:.0f} %"
    digits = 2 if unit == "V" else 0 if unit == "min" else 1
    return f"{value:.{digits}f} {unit}"


Pair = tuple[ChargingSpell, ChargingSpell]
Read = Callable[[ChargingSpell], float | None]


def figures_of(record: Happened, run: Happened, bank: Bank) -> Iterator[RecordFigure]:
    """Every figure that both have, medians over spells, nights and days.

    Args:
        record: what was found in the record.
        run: what was found in a run of the same plan.
        bank: the bank.
    """
    pairs = list(_pairs(record.spells, run.spells))
    scale, capacity_ah = bank.nominal_v / 12, bank.capacity_ah
    for source in ("engine", "shore"):
        own = [pair for pair in pairs if pair[0].source == source]
        of = f" from the {source}" if source == "engine" else " from shore"
        yield from _figure(
            own,
            f"first_a:{source}",
            f"Amps at first{of}",
            "A",
            lambda s: s.first_a,
            lambda x: max(FIRST_A, FIRST_SHARE * abs(x)),
        )
        yield from _figure(
            own,
            f"held_v:{source}",
            f"Volts it is held at{of}",
            "V",
            lambda s: s.held_v,
            lambda x: HELD_V * scale,
        )
        yield from _figure(
            own,
            f"late_share:{source}",
            f"Amps after 40 minutes, of the first{of}",
            "%",
            _late,
            lambda x: LATE_SHARE,
        )
        yield from _figure(
            own,
            f"charge_at_float:{source}",
            f"Charge when float begins{of}",
            "%",
            lambda s: s.charge_at_float,
            lambda x: CHARGE_DOUBT,
        )
        yield from _figure(
            own,
            f"minutes_to_float:{source}",
            f"Minutes to float{of}",
            "min",
            lambda s: s.minutes_to_float,
            lambda x: max(MINUTES, MINUTES_SHARE * x),
        )
        yield from _figure(
            own,
            f"before_float_a:{source}",
            f"Amps before float{of}",
            "A",
            lambda s: s.before_float_a,
            lambda x: max(BEFORE_A, BEFORE_SHARE * abs(x), 0.01 * capacity_ah),
        )
    yield from _by_date(record, run)


def _late(spell: ChargingSpell) -> float | None:
    if spell.late_a is None or spell.first_a is None or spell.first_a < LATE_FROM_A:
        return None
    return spell.late_a / spell.first_a


def _pairs(recorded: Sequence[ChargingSpell], run: Sequence[ChargingSpell]) -> Iterator[Pair]:
    """Spells of one source that begin together and last alike.

    Where one lasts longer, the end of an engine run was lost in the sun: nothing is compared.
    """
    for one in recorded:
        for two in run:
            common = min(one.end_s, two.end_s) - max(one.start_s, two.start_s)
            longer = max(one.end_s - one.start_s, two.end_s - two.start_s)
            together = abs(one.start_s - two.start_s) <= TOGETHER_S
            if two.source == one.source and together and common >= OVERLAP * longer:
                yield one, two
                break


def _figure(
    pairs: Sequence[Pair],
    key: str,
    words: str,
    unit: str,
    read: Read,
    doubt: Callable[[float], float],
) -> Iterator[RecordFigure]:
    values = [
        (a, b)
        for one, two in pairs
        if (a := read(one)) is not None and (b := read(two)) is not None
    ]
    if not values:
        return
    recorded = float(np.median([a for a, _ in values]))
    expected = float(np.median([b for _, b in values]))
    # What repeats from spell to spell, such as a load nobody listed, does not average out.
    width = doubt(expected) * sqrt(0.5 + 0.5 / len(values))
    yield RecordFigure(key, words, unit, recorded, expected, width, len(values))


def _by_date(record: Happened, run: Happened) -> Iterator[RecordFigure]:
    nights = {n.date: n for n in run.nights}
    both = [(n, nights[n.date]) for n in record.nights if n.date in nights]
    if both:
        base = float(np.median([a.base_a for a, _ in both]))
        expected = float(np.median([b.base_a for _, b in both]))
        width = max(BASE_A, BASE_SHARE * abs(expected))
        yield RecordFigure("base_a", "Base draw at night", "A", base, expected, width, len(both))
    days = {d.date: d.sun_a for d in run.days if d.sun_a is not None}
    suns = [(d.sun_a, days[d.date]) for d in record.days if d.sun_a is not None and d.date in days]
    if suns:
        mine, theirs = (float(np.median([pair[n] for pair in suns])) for n in (0, 1))
        width = max(SUN_A, SUN_SHARE * abs(theirs))
        words = "What the sun gives from ten to four"
        yield RecordFigure("sun_a", words, "A", mine, theirs, width, len(suns))
