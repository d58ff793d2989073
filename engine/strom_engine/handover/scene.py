"""A scene of the drill, and whether what it asks for is reached as everything stands."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Annotated, Literal

from pydantic import Field

from strom_engine.circuit.bench import BenchResult
from strom_engine.dayrun.lines import Rank
from strom_engine.design import Starter
from strom_engine.design.fields import Frozen
from strom_engine.faults import Fault
from strom_engine.handover.aboard import Aboard

__all__ = ["EngineState", "Scene", "SceneGoal", "bench_of", "reached", "starts"]

SceneGoal = Literal["started", "off", "kept", "charging"]
EngineState = Literal["off", "on"]


class Scene(Frozen):
    """A scene: what the owner is told, how everything stands, and what shall be reached.

    ``grade`` is what getting it wrong leads to. ``soc`` is the charge of every bank [0 to 1].
    ``hint`` is what went wrong before it; told when it is over.
    """

    key: Annotated[str, Field(min_length=1, max_length=120)]
    words: str
    number: int = 0
    goal: SceneGoal
    grade: Rank
    engine: EngineState = "off"
    positions: dict[str, str] = Field(default_factory=dict)
    soc: dict[str, float] = Field(default_factory=dict)
    fault: Fault | None = None
    starter: str | None = None
    hint: str = ""


def bench_of(
    aboard: Aboard, scene: Scene, positions: Mapping[str, str], engine: EngineState
) -> BenchResult | None:
    """The boat as a scene has her, with switches and engine so; None where that finds no rest."""
    faults = (scene.fault,) if scene.fault else ()
    return aboard.bench(positions, *faults, engine=engine, soc=scene.soc)


def starts(
    aboard: Aboard, scene: Scene, positions: Mapping[str, str]
) -> tuple[bool, Starter, float, float]:
    """Whether the engine turns; its starter, the volts there, and what it needs [V]."""
    asked = (s for s in aboard.starters if scene.starter in (None, s.id))
    starter = next(asked, aboard.starters[0])
    faults = (scene.fault,) if scene.fault else ()
    volts = aboard.turning_v(starter, positions, scene.soc, *faults) or 0.0
    need_v = aboard.needs_v(starter)
    return volts >= need_v, starter, volts, need_v


def reached(
    aboard: Aboard, scene: Scene, positions: Mapping[str, str], engine: EngineState
) -> bool:
    """Whether a scene's goal is reached as everything stands."""
    result = bench_of(aboard, scene, positions, engine)
    if result is None or scene.goal == "started":
        return False
    if scene.goal == "charging":
        if engine == "off" or result.point.loose_sources:
            return False
        way = bench_of(aboard, scene, scene.positions | dict(aboard.way.run), "on")
        wanted = _charged(way) if way else set()
        return bool(wanted) and wanted <= _charged(result)
    if engine == "on":
        return False
    feeding = aboard.feeding(result)
    if scene.goal == "off":
        least = aboard.bench(aboard.way.away)
        return feeding <= (aboard.feeding(least) if least else set())
    kept = {b.id for b in aboard.banks if b.role == "engine"}
    return bool(feeding) and not feeding & kept


def _charged(result: BenchResult) -> set[str]:
    """Banks that some source charges."""
    return {bank for banks in result.reach.charges.values() for bank in banks}
