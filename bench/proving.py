"""How honest ranges are, and how soon hidden faults are found, on boats drawn anew."""

from __future__ import annotations

import statistics
import time
from collections.abc import Callable, Iterator, Sequence
from dataclasses import dataclass

import numpy as np
from strom_engine.circuit import operating_point
from strom_engine.design import Design, State
from strom_engine.errors import StromError
from strom_engine.faults import Fault
from strom_engine.prove import (
    Probe,
    ProvingTest,
    Reading,
    Today,
    boats_drawn,
    diagnosis,
    instrument_for,
    judged,
    proving_tests,
    search_drafts,
)
from strom_engine.prove.hypotheses import HEALTHY, NONE_OF_THESE, Hypothesis, hypotheses

__all__ = ["print_diagnosis", "print_honest_ranges"]

MOST = 8
LEAST_BIT = 0.05
Candidate = tuple[Probe, State, float]
Chooser = Callable[[Sequence[Reading], Sequence[Candidate]], int | None]


class DrawnBoat:
    """A boat drawn from what is not known, with faults, and a meter on it."""

    def __init__(self, design: Design, faults: tuple[Fault, ...], seed: int) -> None:
        self.boat = boats_drawn(design, Today(), 1, seed)[0]
        self.faults, self.rng = faults, np.random.default_rng(seed)

    def read(self, probe: Probe, state: State) -> Reading:
        """What its meter shows."""
        at = state.model_copy(update={"soc": dict(self.boat.soc)})
        value = probe.value(operating_point(self.boat.design, at, *self.faults), self.boat.design)
        meter = instrument_for(probe.measures, ())
        shown = value + meter.error(value) * float(self.rng.uniform(-1, 1))
        return Reading(probe, state, round(round(shown / meter.resolution) * meter.resolution, 6))


def _measured(design: Design) -> list[ProvingTest]:
    return [t for t in proving_tests(design) if t.probe and t.state and not t.charged]


def print_honest_ranges(designs: dict[str, Design], boats: int = 40) -> None:
    """Print how many readings of sound boats fall inside their ranges."""
    inside = total = 0
    for name, design in designs.items():
        start = time.perf_counter()
        tests = _measured(design)
        seconds = time.perf_counter() - start
        here = 0
        for seed in range(boats):
            drawn = DrawnBoat(design, (), 5000 + seed)
            for test in tests:
                assert test.probe and test.state and test.wanted
                value = drawn.read(test.probe, test.state).value
                here += test.wanted.low <= value <= test.wanted.high
        count = boats * len(tests)
        inside, total = inside + here, total + count
        print(f"  {name:<34} {len(tests):3} tests in {seconds:4.1f} s   inside {here / count:.1%}")
    print(f"  readings inside their 95 % ranges: {inside / total:.1%}   wanted: 93 to 97 %")


@dataclass
class Score:
    """How a way of searching did."""

    first: int = 0
    three: int = 0
    count: int = 0
    undetected: int = 0
    accused: int = 0
    taken: list[int] | None = None


def print_diagnosis(designs: dict[str, Design], cases: int = 300) -> None:
    """Print how often the right cause comes first, against two plain ways of searching."""
    rng = np.random.default_rng(11)
    scores = {name: Score(taken=[]) for name in ("next best", "in order", "halving")}
    slow: list[float] = []
    for n in range(cases):
        name = list(designs)[n % len(designs)]
        design = designs[name]
        causes = [h for h in hypotheses(design) if h.key not in (HEALTHY, NONE_OF_THESE)]
        cause = causes[int(rng.integers(len(causes)))]
        variant = cause.variants[int(rng.integers(len(cause.variants)))]
        for way, score in scores.items():
            _search(design, cause, variant, (way, 9000 + n), score, slow)
    for way, score in scores.items():
        told = max(1, score.count)
        print(
            f"  {way:<10} first {score.first / told:.0%}, among three {score.three / told:.0%}, "
            f"median readings {statistics.median(score.taken or [0]):g}, of {score.count} faults "
            f"that some test shows ({score.undetected} none does)"
        )
    print(f"  a suggestion: median {statistics.median(slow):.2f} s, most {max(slow):.2f} s")


def _search(
    design: Design,
    cause: Hypothesis,
    variant: tuple[Fault, ...],
    way: tuple[str, int],
    score: Score,
    slow: list[float],
) -> None:
    """One boat: its complaint is the first test that misses; then readings until one is sure."""
    drawn = DrawnBoat(design, variant, way[1])
    try:
        complaint = next(_misses(design, drawn), None)
        if complaint is None:
            score.undetected += 1
            return
        readings = [complaint]
        drafts = [
            (d.probe, d.state, d.minutes) for d in search_drafts(design) if d.probe and d.state
        ]
        for _ in range(MOST - 1):
            done = [(r.probe, r.state) for r in readings]
            left = [(p, s, m) for p, s, m in drafts if (p, s) not in done]
            start = time.perf_counter()
            told = diagnosis(design, readings, left if way[0] == "next best" else ())
            slow.append(time.perf_counter() - start)
            if told.found:
                break
            at = told.next if way[0] == "next best" else _plain(way[0], left)
            if at is None or (way[0] == "next best" and told.gain_bit < LEAST_BIT):
                break
            readings.append(drawn.read(*left[at][:2]))
        told = diagnosis(design, readings)
    except StromError:
        return
    score.count += 1
    score.first += cause.key in told.causes[0].keys
    score.three += any(cause.key in c.keys for c in told.causes[:3])
    assert score.taken is not None
    score.taken.append(len(readings))


def _plain(way: str, left: Sequence[Candidate]) -> int | None:
    """Through the list in order, or always in the middle of what is left."""
    if not left:
        return None
    return 0 if way == "in order" else len(left) // 2


def _misses(design: Design, drawn: DrawnBoat) -> Iterator[Reading]:
    for test in _measured(design):
        assert test.probe and test.state
        reading = drawn.read(test.probe, test.state)
        if judged(test, reading.value, float(design.system_v)).misses:
            yield reading
