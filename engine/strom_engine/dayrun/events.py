"""What happened in a day, in order."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass, field
from typing import Literal

__all__ = ["Event", "EventKind", "StartTry", "moments_of"]

EventKind = Literal[
    "start",
    "engine",
    "shore",
    "move",
    "relay",
    "gear",
    "stage",
    "fuse",
    "load",
    "hazard",
    "sun",
    "join",
    "fault",
]


@dataclass(frozen=True)
class Event:
    """At a moment [s]: what happened to a part, in words; ``value`` in ``unit`` where there is one.

    ``to`` is where it went: a position, a stage, closed or open, failed. ``soc`` is how full each
    bank was [-], ``charges`` which banks a source charged when its stage changed. With ``rounds``
    the part closes and opens so many times more within ``lasts_s``.
    """

    at_s: float
    kind: EventKind
    part: str
    words: str
    to: str = ""
    value: float | None = None
    unit: str = ""
    soc: dict[str, float] = field(default_factory=dict)
    charges: tuple[str, ...] = ()
    rounds: int = 0
    lasts_s: float = 0.0


def moments_of(events: Iterable[Event], part: str, to: str) -> list[float]:
    """When [s] a part went to where, those of rounds that were counted on among them."""
    found: list[float] = []
    for event in events:
        if event.part != part:
            continue
        if event.to == to:
            found.append(event.at_s)
        elif event.rounds:
            each_s = event.lasts_s / event.rounds
            found += (event.at_s + n * each_s for n in range(1, event.rounds + 1))
    return found


@dataclass(frozen=True)
class StartTry:
    """One try to start an engine: volts at the starter [V], the banks behind it, and whether.

    With ``fresh`` a bank behind it still holds a charge pressed in beyond full: an hour of rest
    or a load takes that off, and then it has less. ``alone_v`` are the volts at the starter that
    each of several joined banks would give by itself.
    """

    at_s: float
    engine: str
    starter: str
    volts_v: float | None
    current_a: float
    limit_v: float
    banks: tuple[str, ...]
    started: bool
    in_emergency: bool
    fresh: bool = False
    alone_v: dict[str, float | None] = field(default_factory=dict)

    @property
    def only_together(self) -> bool:
        """Whether it started, and none of the joined banks would have done it alone."""
        weak = [v is None or v < self.limit_v for v in self.alone_v.values()]
        return self.started and bool(weak) and all(weak)
