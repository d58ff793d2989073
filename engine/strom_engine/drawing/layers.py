"""Rows of the drawing: sources above, banks, gear below them, loads and the engine at the foot."""

from __future__ import annotations

from collections import deque
from collections.abc import Iterable, Mapping

from strom_engine.design import Bank, BusBar, Component

__all__ = ["Graph", "affinities", "layer_of_parts"]

Graph = Mapping[str, frozenset[str]]
MOST_FEEDS_IN_A_ROW = 6


def layer_of_parts(parts: Mapping[str, Component], graph: Graph) -> dict[str, int]:
    """Row of every part, 0 at the top, with no empty row between."""
    banks = [i for i, p in parts.items() if isinstance(p, Bank)]
    upper, sources = _upper(parts, graph)
    gear = {i for i in parts if parts[i].facts.stands == "gear"}
    depth = _depths(graph, banks, gear, gear)
    rows: dict[str, int] = dict.fromkeys(banks, 0)
    for i in parts:
        if i in upper:
            rows[i] = -depth.get(i, 1)
        elif parts[i].facts.stands == "gear":
            rows[i] = depth.get(i, 1)
    _part_neighbours(parts, graph, rows, upper)
    foot = max([row for row in rows.values() if row > 0], default=0) + 1
    top = min(rows.values(), default=0) - 1
    for i in parts:
        if i not in rows:
            rows[i] = top if i in sources else foot
    # Many feeds stand in two rows, so that the whole does not grow too wide to be read.
    feeds = [i for i in parts if rows[i] == foot and parts[i].facts.stands == "load"]
    if len(feeds) > MOST_FEEDS_IN_A_ROW:
        rows |= dict.fromkeys(feeds[1::2], foot + 1)
    used = sorted(set(rows.values()))
    return {i: used.index(row) for i, row in rows.items()}


def _upper(parts: Mapping[str, Component], graph: Graph) -> tuple[set[str], set[str]]:
    """Gear that only leads from sources to one bank, and the sources that stand above."""
    upper: set[str] = set()
    for piece in _gear_pieces(parts, graph):
        ends = {parts[n].facts.stands for i in piece for n in graph[i]} - {"gear"}
        banks = {n for i in piece for n in graph[i] if isinstance(parts[n], Bank)}
        if "source" in ends and ends <= {"source", "bank"} and len(banks) == 1:
            upper |= piece
    sources = {
        i
        for i, part in parts.items()
        if part.facts.stands == "source"
        and any(n in upper or isinstance(parts[n], Bank | BusBar) for n in graph[i])
    }
    return upper, sources


def _gear_pieces(parts: Mapping[str, Component], graph: Graph) -> Iterable[set[str]]:
    left = {i for i in parts if parts[i].facts.stands == "gear"}
    while left:
        piece, queue = set[str](), [min(left)]
        while queue:
            i = queue.pop()
            if i in left:
                left.discard(i)
                piece.add(i)
                queue += sorted(graph[i] & left)
        yield piece


def _depths(graph: Graph, banks: list[str], wanted: set[str], gear: set[str]) -> dict[str, int]:
    """Steps from the nearest bank to every wanted part, passing through gear only."""
    depth = dict.fromkeys(banks, 0)
    queue = deque(banks)
    while queue:
        i = queue.popleft()
        for n in sorted(graph[i]):
            if n in wanted and n not in depth:
                depth[n] = depth[i] + 1
                if n in gear:
                    queue.append(n)
    return depth


def _part_neighbours(
    parts: Mapping[str, Component], graph: Graph, rows: dict[str, int], upper: set[str]
) -> None:
    """Move one of two joined pieces of gear a row on, so that no cable stays within a row."""
    for _ in range(len(rows)):
        pair = next(
            (
                (i, n)
                for i in sorted(rows)
                for n in sorted(graph[i])
                if i < n and rows.get(n) == rows[i] and parts[i].facts.stands == "gear"
            ),
            None,
        )
        if pair is None:
            return
        # What joins more moves down: bars and switches hang below fuses.
        moved = max(pair, key=lambda i: (len(graph[i]), i))
        rows[moved] += -1 if moved in upper else 1


def affinities(parts: Mapping[str, Component], graph: Graph, banks: list[str]) -> dict[str, float]:
    """Which bank's bay a part belongs to, as a place among the banks; for two: in between."""
    others = {i for i in parts if not isinstance(parts[i], Bank)}
    gear = {i for i in others if parts[i].facts.stands == "gear"}
    distance = {bank: _depths(graph, [bank], others, gear) for bank in banks}
    found = {}
    # Where several banks are about equally near, the engine stands with its own bank and loads
    # with the house.
    for i in parts:
        near = [(distance[b].get(i, 99), n) for n, b in enumerate(banks)]
        closest = min((d for d, _ in near), default=0)
        at = [n for d, n in near if d == closest]
        home = parts[i].facts.home
        slack = 2 if closest > 1 else 0
        own = [n for d, n in near if d <= closest + slack and _role(parts[banks[n]]) == home]
        found[i] = sum(own or at) / len(own or at) if at else 0.0
    return found


def _role(part: Component) -> str:
    return part.role if isinstance(part, Bank) else ""
