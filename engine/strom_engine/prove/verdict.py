"""What a reading says of its test: within, doubtful, outside, or not to be believed."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

from strom_engine.prove.proving import ProvingTest

__all__ = ["Verdict", "judged"]

Word = Literal["within", "doubtful", "outside", "impossible"]
# Of the half width: a normal law leaves 0.3 % beyond three deviations, 5 % beyond two.
DOUBTFUL_HALVES = 1.5
MOST_SYSTEMS = 2.5  # times the system's volts: more is on no boat that is wired as drawn


@dataclass(frozen=True)
class Verdict:
    """The word, and why in numbers."""

    word: Word
    why: str

    @property
    def misses(self) -> bool:
        """Whether the reading is not as it should be."""
        return self.word in ("outside", "impossible")


def judged(test: ProvingTest, value: float, system_v: float) -> Verdict:
    """What a reading says.

    Args:
        test: with its range.
        value: what the meter showed [V or A].
        system_v: of the boat [V].

    Raises:
        ValueError: the test has no range.
    """
    if test.wanted is None:
        raise ValueError(f"{test.key} is looked at, not measured")
    wanted, unit = test.wanted, test.unit
    between = f"{wanted.low:.2f} to {wanted.high:.2f} {unit}"
    if unit == "V" and abs(value) > MOST_SYSTEMS * system_v:
        why = f"{value:g} V on a {system_v:g} V boat: was it millivolts, or alternating?"
        return Verdict("impossible", why)
    if wanted.low <= value <= wanted.high:
        return Verdict("within", f"{value:g} {unit}, wanted {between}")
    off = abs(value - wanted.middle) / wanted.half
    flipped = wanted.low <= -value <= wanted.high and abs(wanted.middle) > wanted.half
    if flipped:
        return Verdict("doubtful", f"{value:g} {unit}: as wanted but for its sign; leads swapped?")
    if off <= DOUBTFUL_HALVES:
        return Verdict("doubtful", f"{value:g} {unit}, just beyond {between}: measure again")
    side = "below" if value < wanted.low else "above"
    gap = min(abs(value - wanted.low), abs(value - wanted.high))
    return Verdict("outside", f"{value:g} {unit}, {gap:.2f} {unit} {side} {between}")
