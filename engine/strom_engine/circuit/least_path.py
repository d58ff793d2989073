"""Ways of least resistance through metal: Dijkstra's algorithm over posts or nodes."""

from __future__ import annotations

import heapq
from collections.abc import Callable, Iterable, Mapping
from itertools import count
from typing import Generic, NamedTuple, TypeVar

__all__ = ["Edge", "Reached", "least_paths", "path_to"]

N = TypeVar("N", str, int)


class Edge(NamedTuple, Generic[N]):
    """A way on: where it leads, its resistance [ohm], and what it is made of."""

    to: N
    ohm: float
    by: str = ""


class Reached(NamedTuple, Generic[N]):
    """What was reached: resistance up to it [ohm], what comes before it, what lies between."""

    ohm: float
    before: N | None
    by: str


def least_paths(start: N, onward: Callable[[N], Iterable[Edge[N]]]) -> dict[N, Reached[N]]:
    """Everything that can be reached from a start, the nearest first, each by its least path.

    Args:
        start: a post, or a node of the network.
        onward: the edges that leave from one; asked once for each that is reached.

    Of paths that are alike the one found first is kept, so that an answer never changes by chance.
    """
    found: dict[N, Reached[N]] = {}
    order = count()
    queue: list[tuple[float, N, int, N | None, str]] = [(0.0, start, -1, None, "")]
    while queue:
        ohm, at, _, before, by = heapq.heappop(queue)
        if at in found:
            continue
        found[at] = Reached(ohm, before, by)
        for to, more_ohm, over in onward(at):
            if to not in found:
                heapq.heappush(queue, (ohm + more_ohm, to, next(order), at, over))
    return found


def path_to(end: N, found: Mapping[N, Reached[N]]) -> list[tuple[N, N, str]] | None:
    """The path to what was reached as (from, to, by) from the start on; None where it was not."""
    if end not in found:
        return None
    steps: list[tuple[N, N, str]] = []
    at = end
    while (before := found[at].before) is not None:
        steps.append((before, at, found[at].by))
        at = before
    return steps[::-1]
