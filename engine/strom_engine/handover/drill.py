"""The drill: a scene played move by move, each answered by the computation of the real boat."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field
from typing import Annotated, Literal

from pydantic import Field

from strom_engine.circuit.bench import BenchResult
from strom_engine.design.fields import Frozen, Name
from strom_engine.handover.aboard import Aboard
from strom_engine.handover.line import Line, SwitchAt
from strom_engine.handover.scene import EngineState, Scene, bench_of, reached, starts

__all__ = ["Act", "DrillMove", "PlayOutcome", "Played", "Reply", "Turn", "played"]

PlayOutcome = Literal["open", "right", "wrong", "harm"]


class Turn(Frozen):
    """A switch turned to a position."""

    do: Literal["turn"] = "turn"
    switch: Name
    position: Annotated[str, Field(min_length=1, max_length=40)]


class Act(Frozen):
    """The key turned, the engine stopped, or *this is how I leave it*."""

    do: Literal["start", "stop", "done"]


DrillMove = Annotated[Turn | Act, Field(discriminator="do")]


@dataclass(frozen=True)
class Reply:
    """What follows from a move: words, volts of every bank [V], and whether it harms or helps."""

    line: Line
    outcome: PlayOutcome
    volts_v: Mapping[str, float] = field(default_factory=dict)


@dataclass(frozen=True)
class Played:
    """A scene after some moves: how everything stands, the answers, and how it went."""

    engine: EngineState
    switches: tuple[SwitchAt, ...]
    replies: tuple[Reply, ...]
    outcome: PlayOutcome


def played(aboard: Aboard, scene: Scene, moves: Sequence[DrillMove]) -> Played:
    """A scene with the moves made so far, each answered by the computation.

    Args:
        aboard: the boat.
        scene: one of hers.
        moves: in order; what comes after the end of a scene is left out.
    """
    game = _Game(aboard, scene)
    for move in moves:
        if game.outcome != "open":
            break
        game.make(move)
    return Played(game.engine, aboard.shown(game.positions), tuple(game.replies), game.outcome)


class _Game:
    """A scene under way."""

    def __init__(self, aboard: Aboard, scene: Scene) -> None:
        self.aboard, self.scene = aboard, scene
        self.positions = dict(scene.positions)
        self.engine: EngineState = scene.engine
        self.replies: list[Reply] = []
        self.wrong = 0

    @property
    def outcome(self) -> PlayOutcome:
        """Open until something is harmed or reached; with a wrong move in between it is wrong."""
        return self.replies[-1].outcome if self.replies else "open"

    def make(self, move: Turn | Act) -> None:
        if isinstance(move, Turn):
            self._turn(move)
        elif move.do == "start":
            self._start()
        elif move.do == "stop":
            self.engine = "off"
            self._say("drill.stopped")
        else:
            self._done()

    def _turn(self, move: Turn) -> None:
        self.positions[move.switch] = move.position
        shown = self.aboard.shown(self.positions)
        switch = next((s for s in shown if s.switch == move.switch), None)
        result = self._bench()
        if result is None or switch is None:
            self._say("drill.unknown")
            return
        values: dict[str, float | str] = {"switch": switch.name, "position": switch.mark}
        if source := self._loose(result):
            self._say("drill.loose", values | {"source": source}, "harm", result)
            return
        fed = self._fed(result)
        key = "drill.turned" if fed else "drill.turned_dark"
        self._say(key, values | {"fed": fed}, result=result)

    def _start(self) -> None:
        runs, starter, volts, need_v = starts(self.aboard, self.scene, self.positions)
        values: dict[str, float | str] = {
            "engine": starter.name, "volts": volts, "need": need_v,
        }  # fmt: skip
        if not runs:
            self.wrong += 1
            self._say("drill.dead" if volts > 0 else "drill.nothing", values)
            return
        self.engine = "on"
        result = self._bench()
        if result is not None and (source := self._loose(result)):
            self._say("drill.runs_loose", values | {"source": source}, "harm", result)
        elif self.scene.goal == "started":
            self._end("drill.runs", values)
        else:
            self._say("drill.runs", values)

    def _done(self) -> None:
        if reached(self.aboard, self.scene, self.positions, self.engine):
            self._end(f"drill.done.{self.scene.goal}")
            return
        self.wrong += 1
        result = self._bench()
        alive = [] if result is None else self.aboard.alive(result)
        fed = "" if result is None else self._fed(result)
        values = {"fed": fed, "alive": ", ".join(alive) or "–"}
        self._say(f"drill.not_yet.{self.scene.goal}", values, result=result)

    def _bench(self) -> BenchResult | None:
        return bench_of(self.aboard, self.scene, self.positions, self.engine)

    def _loose(self, result: BenchResult) -> str:
        """The name of a source that runs with no bank behind it; empty where none does."""
        loose = result.point.loose_sources if self.engine == "on" else ()
        return self.aboard.design.by_id[loose[0]].name if loose else ""

    def _fed(self, result: BenchResult) -> str:
        """Names of banks that feed what is not always on."""
        feeding = self.aboard.feeding(result)
        return ", ".join(b.name for b in self.aboard.banks if b.id in feeding)

    def _end(self, key: str, values: Mapping[str, float | str] | None = None) -> None:
        self._say(key, values, "wrong" if self.wrong else "right")

    def _say(
        self,
        key: str,
        values: Mapping[str, float | str] | None = None,
        outcome: PlayOutcome = "open",
        result: BenchResult | None = None,
    ) -> None:
        if result is None:
            result = self._bench()
        volts = {} if result is None else {
            b.name: result.point.banks[b.id].volts_v for b in self.aboard.banks
        }  # fmt: skip
        self.replies.append(Reply(Line(key, values or {}), outcome, volts))
