"""Scenes for a boat: everyday ones from her handling, others from her slips and faults.

The others begin at the moment of a failed start, with the charge that the banks have then. A scene
is only set where somebody can solve it with the switches of the boat.
"""

from __future__ import annotations

from bisect import bisect_right
from collections.abc import Iterator
from itertools import islice, product

from strom_engine.dayrun import Case, Outcome, Plan, consequence, day_of_case, day_run, outcome_of
from strom_engine.dayrun.slips import ORDER, plan_of, possible_cases
from strom_engine.design.state import battery_switches, default_positions, switch_positions
from strom_engine.errors import DayRunError, NotSettledError, PlanError
from strom_engine.handover.aboard import Aboard, morning_of
from strom_engine.handover.scene import Scene, reached, starts

__all__ = ["scenes"]

USUAL_SOC = 0.9
MORNINGS = 3
RUN_H = 0.5  # of the engine every morning, so that hands have something to forget
MOST_TROUBLES = 8
MOST_TURNS = 200  # combinations of positions that a way out is looked for in


def scenes(aboard: Aboard) -> tuple[Scene, ...]:
    """Scenes for a boat and its handling, the gravest first.

    Runs the slip test and the fault sweep of three mornings at anchor: a minute of computing.

    Args:
        aboard: the boat.
    """
    found = [s for s in _everyday(aboard) if not _solved(aboard, s)]
    found += _troubles(aboard)
    return tuple(sorted(found, key=lambda s: ORDER.index(s.grade)))


def _solved(aboard: Aboard, scene: Scene) -> bool:
    """Whether nothing needs to be turned, so that there is nothing to practise."""
    if scene.goal == "started":
        return starts(aboard, scene, scene.positions)[0]
    return reached(aboard, scene, scene.positions, scene.engine)


def _everyday(aboard: Aboard) -> Iterator[Scene]:
    way = aboard.way
    trip = dict(way.trips[0]) if way.trips else {}
    charged = {b.id: USUAL_SOC for b in aboard.banks}
    rest, start, run = (default_positions(aboard.design) | dict(p) | trip
                        for p in (way.rest, way.start, way.run))  # fmt: skip
    away = default_positions(aboard.design) | dict(way.away)
    if aboard.starters:
        yield Scene(key="leaving", words="leaving", goal="off", grade="charge_lost", engine="on",
                    positions=run, soc=charged)  # fmt: skip
        yield Scene(key="smoke", words="smoke", goal="off", grade="hazard", engine="on",
                    positions=run, soc=charged)  # fmt: skip
        yield Scene(key="starting", words="starting", goal="started", grade="stranded",
                    positions=away, soc=charged)  # fmt: skip
        yield Scene(key="under_way", words="under_way", goal="charging", grade="charge_lost",
                    engine="on", positions=start, soc=charged)  # fmt: skip
    yield Scene(key="anchor", words="anchor", goal="kept", grade="stranded", engine="off",
                positions=run if aboard.starters else rest, soc=charged)  # fmt: skip


def _troubles(aboard: Aboard) -> list[Scene]:
    """Mornings on which the engine does not turn, after a slip or with a fault."""
    if not aboard.starters:
        return []
    try:
        plan = aboard.handled(aboard.mornings(MORNINGS, RUN_H, USUAL_SOC))
        planned = outcome_of(day_run(aboard.design, aboard.survey, plan))
        cases = possible_cases(aboard.design, aboard.survey, plan)
    except (DayRunError, PlanError):
        return []
    found: dict[object, tuple[float, Scene]] = {}
    for case in cases:
        made = _trouble(aboard, plan, case, planned)
        if made is None:
            continue
        weight, scene = made
        like = (
            tuple(scene.positions.items()),
            scene.fault and (scene.fault.kind, scene.fault.part),
        )
        if like not in found or found[like][0] < weight:
            found[like] = made
    worst = sorted(found.values(), key=lambda pair: -pair[0])[:MOST_TROUBLES]
    return [scene for _, scene in worst]


def _trouble(
    aboard: Aboard, plan: Plan, case: Case, planned: Outcome
) -> tuple[float, Scene] | None:
    """The scene of a case that leaves the engine dead, where a way out is left."""
    try:
        day = day_of_case(aboard.design, aboard.survey, plan, case)
    except (DayRunError, NotSettledError):
        return None
    failed = next((t for t in day.tries if not t.started), None)
    if failed is None:
        return None
    told = consequence(aboard.design, planned, outcome_of(day))
    if told.rank not in ("stranded", "hazard"):
        return None
    at = max(bisect_right(day.recording.at_s, failed.at_s) - 1, 0)
    soc = {name: round(min(max(column[at], 0.0), 1.0), 3)
           for name, column in day.recording.soc.items()}  # fmt: skip
    positions = default_positions(aboard.design)
    for move in sorted(plan_of(plan, case).moves, key=lambda m: m.at_h):
        if move.at_h * 3600 <= failed.at_s:
            positions[move.switch] = move.position
    scene = Scene(
        key=f"trouble {case.key}", words="trouble", number=morning_of(failed.at_s), goal="started",
        grade=told.rank, positions=positions, soc=soc, fault=case.fault, starter=failed.starter,
        hint=case.words,
    )  # fmt: skip
    # What answers moves has no loads running: near the limit it may start what the day could not.
    dead = not starts(aboard, scene, positions)[0]
    return (told.weight, scene) if dead and _can_be_solved(aboard, scene) else None


def _can_be_solved(aboard: Aboard, scene: Scene) -> bool:
    switches = battery_switches(aboard.design)
    ways = islice(product(*(switch_positions(s) for s in switches)), MOST_TURNS)
    turned = ({s.id: p for s, p in zip(switches, way, strict=True)} for way in ways)
    return any(starts(aboard, scene, scene.positions | way)[0] for way in turned)
