"""What happened in a day, in order."""

from __future__ import annotations

from dataclasses import dataclass, field
from typing import Literal

__all__ = ["Event", "EventKind", "StartTry"]

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
]


@dataclass(frozen=True)
class Event:
    """At a moment [s]: what happened to a part, in words; ``value`` in ``unit`` where there is one.

    ``to`` is where it went: a position, a stage, closed or open, failed. ``soc`` is how full each
    bank was [-], ``charges`` which banks a source charged when its stage changed.
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


@dataclass(frozen=True)
class StartTry:
    """One try to start an engine: volts at the starter [V], the banks behind it, and whether.

    With ``fresh`` a bank behind it still holds a charge pressed in beyond full: an hour of rest
    or a load takes that off, and then it has less.
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
