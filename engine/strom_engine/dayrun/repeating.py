"""Gear that opens and closes again and again: some rounds are followed, the rest counted on.

A round is the time from one discrete of everything to the same discrete again. Once a round comes
out as long as the one before, what it did to banks, timers and accounts is taken as many times more
as nothing else is due, and as long as no bank moves by more than half a hundredth of its capacity.
The count of rounds is exact where they are followed, and within a percent where counted on.
"""

from __future__ import annotations

from collections import Counter
from collections.abc import Mapping
from dataclasses import dataclass

from strom_engine.batteries import BankModel, BankWells
from strom_engine.dayrun.discrete_state import DiscreteState
from strom_engine.dayrun.stepping import Taken

__all__ = ["Ahead", "Repeats", "Step"]

LONGEST_ROUND_S = 900.0
ALIKE = 0.1  # two rounds so much alike are rounds of one sort [-]
SOC_AHEAD = 0.005  # no bank moves farther than this without being followed [-]
DRIFT_AHEAD = 0.1  # by so much a round may grow meanwhile [-]
LEAST_ROUNDS = 3
LOWEST = 0.1  # a bank that is emptier falls too steeply to be counted on [-]
MOST_STEPS = 4000


@dataclass(frozen=True)
class Step:
    """A step that was taken: as what stood, and when it ended [s]."""

    taken: Taken
    discrete: DiscreteState
    at_s: float


@dataclass(frozen=True)
class Ahead:
    """So many more rounds of some steps, in so many seconds; closings of each part in a round."""

    rounds: int
    seconds: float
    steps: tuple[Step, ...]
    wells: Mapping[str, BankWells]
    left_s: Mapping[str, float]
    closings: Mapping[str, int]


@dataclass(frozen=True)
class _Mark:
    at_s: float
    wells: Mapping[str, BankWells]
    left_s: Mapping[str, float]
    step: int
    closings: Counter[str]
    round_s: float | None


class Repeats:
    """Watches a day for rounds."""

    def __init__(self, banks: Mapping[str, BankModel]) -> None:
        self._banks = banks
        self.disturbed()

    def disturbed(self) -> None:
        """Something else happened: what was seen so far is no round."""
        self._marks: dict[DiscreteState, _Mark] = {}
        self._steps: list[Step] = []
        self._closings: Counter[str] = Counter()

    def step(self, step: Step) -> None:
        """A step was taken."""
        if not self._marks:
            return
        self._steps.append(step)
        if len(self._steps) > MOST_STEPS:
            self.disturbed()

    def counted_on(self, discrete: DiscreteState, at_s: float, ahead: Ahead) -> None:
        """Rounds were counted on to a moment [s]: from here one more is followed at least."""
        self.disturbed()
        round_s = ahead.seconds / ahead.rounds
        self._marks[discrete] = _Mark(at_s, ahead.wells, ahead.left_s, 0, Counter(), round_s)

    def moved(
        self,
        part: str,
        discrete: DiscreteState,
        at_s: float,
        wells: Mapping[str, BankWells],
        left_s: Mapping[str, float],
        room_s: float,
        *,
        closes: bool,
    ) -> Ahead | None:
        """A part has moved, and everything now stands so; what may be counted on from here.

        ``left_s`` is what each timer still has to run [s], ``room_s`` how long nothing else is due.
        """
        self._closings[part] += closes
        before = self._marks.get(discrete)
        round_s = None if before is None else at_s - before.at_s
        mark = _Mark(at_s, wells, left_s, len(self._steps), self._closings.copy(), round_s)
        self._marks[discrete] = mark
        if before is None or round_s is None or before.round_s is None:
            return None
        if round_s > LONGEST_ROUND_S or abs(round_s - before.round_s) > ALIKE * round_s:
            return None
        rounds = self._rounds(before, mark, round_s, room_s)
        if rounds < LEAST_ROUNDS:
            return None
        gone_s = {n: left - left_s[n] for n, left in before.left_s.items() if n in left_s}
        return Ahead(
            rounds=rounds,
            seconds=rounds * round_s,
            steps=tuple(self._steps[before.step :]),
            wells={n: _on(before.wells[n], own, rounds) for n, own in wells.items()},
            left_s={n: left - rounds * max(0.0, gone_s.get(n, 0.0)) for n, left in left_s.items()},
            closings={
                n: rounds * more
                for n, count in self._closings.items()
                if (more := count - before.closings[n])
            },
        )

    def _rounds(self, before: _Mark, now: _Mark, round_s: float, room_s: float) -> int:
        """How many rounds more may be counted on."""
        most = room_s / round_s - 1
        for name, bank in self._banks.items():
            soc = bank.soc(now.wells[name])
            if soc < LOWEST:
                return 0
            moved = abs(soc - bank.soc(before.wells[name]))
            if moved > 0:
                most = min(most, SOC_AHEAD / moved)
        assert before.round_s is not None
        drift = abs(round_s - before.round_s) / round_s
        if drift > 0:
            most = min(most, DRIFT_AHEAD / drift)
        for name, left in now.left_s.items():
            gone = before.left_s.get(name, left) - left
            if gone > 0:
                most = min(most, left / gone - 1)
        return int(min(most, 1e6))


def _on(before: BankWells, now: BankWells, rounds: int) -> BankWells:
    """Wells after more rounds like the one between two moments."""
    return BankWells(*(b + rounds * (b - a) for a, b in zip(before, now, strict=True)))
