"""Lanes in the channels between rows: every level piece of a line gets one of its own."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

__all__ = ["Lanes", "Leg", "Route", "route_channels"]

CLEAR = 9.0
NEAR = 8.0


@dataclass(frozen=True)
class Route:
    """A cable's ends, the channels they open into, and the rows it passes through."""

    id: str
    parts: tuple[str, str]
    posts: tuple[str, str]
    channels: tuple[int, int]
    passes: tuple[int, ...]


@dataclass(frozen=True)
class Leg:
    """A cable's way through one channel; its ends come from the row above or below."""

    cable: str
    channel: int
    start_x: float
    end_x: float
    start_from_top: bool
    end_from_top: bool

    @property
    def straight(self) -> bool:
        """Whether it needs no level piece."""
        return abs(self.start_x - self.end_x) < 0.5 and self.start_from_top != self.end_from_top

    def reach(self) -> tuple[float, float]:
        """From where to where it runs level."""
        return min(self.start_x, self.end_x), max(self.start_x, self.end_x)

    def drops(self) -> tuple[tuple[float, bool], tuple[float, bool]]:
        """Where it leaves the lane, and whether upwards."""
        return (self.start_x, self.start_from_top), (self.end_x, self.end_from_top)


@dataclass(frozen=True)
class Lanes:
    """Lane of every leg, counted from the top of its channel, and lanes per channel."""

    lane: list[int | None]
    count: list[int]


def route_channels(legs: Sequence[Leg], channels: int) -> Lanes:
    """Give every leg a lane in which nothing else runs, upright pieces kept apart."""
    lane: list[int | None] = [None] * len(legs)
    count = [0] * channels
    for channel in range(channels):
        own = [n for n, leg in enumerate(legs) if leg.channel == channel and not leg.straight]
        above = {n: {m for m in own if m != n and _must_be_above(legs[m], legs[n])} for n in own}
        todo = sorted(own, key=lambda n: (legs[n].reach()[0], legs[n].cable))
        while todo:
            # A ring of demands cannot be met; the first of it is then taken as it comes.
            n = next((n for n in todo if not above[n] & set(todo)), todo[0])
            todo.remove(n)
            lane[n] = _free_lane(legs, lane, own, n, above[n])
        count[channel] = max((k + 1 for n in own if (k := lane[n]) is not None), default=0)
    return Lanes(lane, count)


def _must_be_above(upper: Leg, lower: Leg) -> bool:
    """Whether one leg drops from above where the other comes up from below."""
    return any(
        from_top and not other_top and abs(x - other_x) < NEAR
        for x, from_top in upper.drops()
        for other_x, other_top in lower.drops()
    )


def _free_lane(
    legs: Sequence[Leg], lane: Sequence[int | None], own: Sequence[int], n: int, above: set[int]
) -> int:
    low, high = legs[n].reach()
    first = max((k + 1 for m in above if (k := lane[m]) is not None), default=0)
    taken = {
        lane[m]
        for m in own
        if lane[m] is not None
        and legs[m].reach()[0] < high + CLEAR
        and low < legs[m].reach()[1] + CLEAR
    }
    while first in taken:
        first += 1
    return first
