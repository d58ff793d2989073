"""What the stage Day waits for: days, weeks, sweeps, their memory and their growth."""

from __future__ import annotations

import gc
import math
import statistics
import time
import tracemalloc
from concurrent.futures import ProcessPoolExecutor
from multiprocessing import get_context

from strom_engine.circuit.network import nodes_of
from strom_engine.dayrun import (
    Case,
    Limits,
    Plan,
    SharedDay,
    day_of_case,
    day_run,
    outcome_of,
    possible_cases,
)
from strom_engine.dayrun.plan import EngineSpan, LivingSpan
from strom_engine.design import Design
from strom_engine.survey import Survey

from bench.classics import CLASSICS
from bench.days import reference_day
from bench.designs import sized_design
from bench.spice_day import largest_soc_difference, spice_soc, strom_day

__all__ = ["print_day_times"]

CORES = 2
SIZES = (20, 40, 80, 160, 200)


def print_day_times() -> None:
    """Print all of it."""
    day, week = reference_day(), reference_day(7)
    day_run(*day)
    print("\nthe reference lives through a day")
    _line("24 h", [_seconds(*day) for _ in range(9)], "wanted: <= 0.4 s")
    _line("a week", [_seconds(*week) for _ in range(3)], "wanted: <= 1.5 s")
    with ProcessPoolExecutor(1, mp_context=get_context("spawn")) as pool:
        grown = pool.submit(_memory_mb).result()
    print(f"  {'memory that a week takes more':<30} {grown:6.1f} MB   wanted: <= 50 MB")
    _sweep(*day)
    _slips_of_a_week()
    _by_events()
    _by_nodes()
    _beside_ngspice()


def _seconds(design: Design, survey: Survey | None, plan: Plan) -> float:
    gc.collect()
    start = time.perf_counter()
    day_run(design, survey, plan)
    return time.perf_counter() - start


def _line(label: str, found: list[float], target: str = "") -> None:
    median = statistics.median(found)
    print(f"  {label:<30} best {min(found):6.3f}   median {median:6.3f} s   {target}", flush=True)


def _memory_mb() -> float:
    """Most memory [MB] that living through a week takes at once, after a day has been lived."""
    day_run(*reference_day())
    week = reference_day(7)
    tracemalloc.start()
    day_run(*week)
    return tracemalloc.get_traced_memory()[1] / 1e6


def _sweep(design: Design, survey: Survey | None, plan: Plan) -> None:
    cases = possible_cases(design, survey, plan)
    with ProcessPoolExecutor(
        CORES, get_context("spawn"), _sweeping, (design, survey, plan)
    ) as pool:
        list(pool.map(_case, cases[:1] * CORES))  # workers that are there, as the server's are
        start = time.perf_counter()
        list(pool.map(_case, cases))
        took = time.perf_counter() - start
    per_60 = took * 60 / len(cases)
    words = f"{took:6.2f} s, {per_60:.2f} s for 60"
    print(f"  {f'sweep of {len(cases)} on {CORES} cores':<30} {words}   wanted for 60: <= 5 s")


_shared: list[SharedDay] = []  # the one of this process


def _sweeping(design: Design, survey: Survey | None, plan: Plan) -> None:
    _shared.append(SharedDay(design, survey, plan))


def _case(case: Case) -> object:
    return outcome_of(_shared[0].of_case(case)).rank


def _slips_of_a_week() -> None:
    """What sharing leaves of the slips of a week: one kind of slip of every move."""
    design, survey, plan = reference_day(7)
    cases = [c for c in possible_cases(design, survey, plan) if c.kind == "omitted"]
    shared = SharedDay(design, survey, plan)
    start = time.perf_counter()
    for case in cases:
        shared.of_case(case)
    middle = time.perf_counter()
    for case in cases:
        day_of_case(design, survey, plan, case, Limits(brief=True))
    together, alone = middle - start, time.perf_counter() - middle
    words = f"{together:6.2f} s, {together / alone:.0%} of each from the beginning"
    print(f"  {f'{len(cases)} slips of a week':<30} {words}")


def _by_events() -> None:
    """Cost against what happens: the chattering boat for longer and longer."""
    print("\na day by what happens in it (a chattering relay)")
    classic = CLASSICS[0]
    design = classic.boats["charger on the engine bank"]()
    rows = []
    for hours in (1.5, 3, 6, 12):
        plan = classic.plan.model_copy(
            update={
                "hours": hours,
                "shore": (classic.plan.shore[0].model_copy(update={"end_h": hours}),),
                "living": (classic.plan.living[0].model_copy(update={"end_h": hours}),),
            }
        )
        day = day_run(design, None, plan)
        took = min(_seconds(design, None, plan) for _ in range(3))
        rows.append((len(day.events), took))
        print(f"  {len(day.events):5d} events, {day.steps:5d} steps   {took:6.3f} s")
    growth = math.log(rows[-1][1] / rows[0][1]) / math.log(rows[-1][0] / rows[0][0])
    print(f"  growth with events: n^{growth:.2f}   wanted: about n^1")


def _by_nodes() -> None:
    print("\na day by number of nodes")
    rows = []
    for size in SIZES:
        design = sized_design(size)
        plan = Plan(
            name="Sized",
            hours=24,
            engine=(EngineSpan(start_h=2, end_h=4),),
            living=(LivingSpan(start_h=0, end_h=24, profile="living"),),
        )
        day = day_run(design, None, plan)
        took = min(_seconds(design, None, plan) for _ in range(3))
        per_step = took / max(1, day.steps)
        rows.append((nodes_of(design).count, per_step))
        print(f"  {rows[-1][0]:5d} nodes   {took:6.3f} s, {per_step * 1000:6.2f} ms a step")
    growth = math.log(rows[-1][1] / rows[1][1]) / math.log(rows[-1][0] / rows[1][0])
    print(f"  growth of a step with nodes: n^{growth:.2f}   wanted: no worse than n^1.5")


def _beside_ngspice() -> None:
    """The two-bank day of docs/days in both."""
    ours, theirs = [], []
    for _ in range(3):
        start = time.perf_counter()
        strom_day()
        ours.append(time.perf_counter() - start)
        start = time.perf_counter()
        spice_soc()
        theirs.append(time.perf_counter() - start)
    ratio = statistics.median(theirs) / statistics.median(ours)
    worst = largest_soc_difference()
    print(f"\ntwo banks for a day: ngspice takes {ratio:.1f} times as long; ", end="")
    print(f"largest difference of state of charge {100 * worst:.3f} %   wanted: <= 0.2 %")
