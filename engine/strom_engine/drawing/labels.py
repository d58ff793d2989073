"""Where the amps of each line are written: on its own line, clear of all else where it can be."""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from dataclasses import replace

from strom_engine.drawing.geometry import Box, Spot, Wire

__all__ = ["LABEL_HEIGHT", "LABEL_WIDTH", "place_labels"]

LABEL_WIDTH = 50.0
LABEL_HEIGHT = 17.0
FRACTIONS = (0.5, 0.35, 0.65, 0.2, 0.8)

Rect = tuple[float, float, float, float]
Piece = tuple[Spot, Spot]


def place_labels(wires: Sequence[Wire], boxes: Sequence[Box]) -> tuple[Wire, ...]:
    """The wires with the middle of each label, the shortest wires choosing first."""
    taken = [(b.x, b.y, b.x + b.width, b.y + b.height) for b in boxes]
    pieces = {w.id: _pieces(w) for w in wires}
    lines = [(i, _around(piece)) for i, ps in pieces.items() for piece in ps]
    done: dict[str, Wire] = {}
    for wire in sorted(wires, key=lambda w: (sum(map(_length, pieces[w.id])), w.id)):
        others = [rect for i, rect in lines if i != wire.id]
        x, y = _best(_candidates(pieces[wire.id]), taken, others)
        taken.append(_rect(x, y))
        done[wire.id] = replace(wire, label_x=x, label_y=y)
    return tuple(done[w.id] for w in wires)


def _best(
    candidates: Iterable[tuple[float, float]], taken: Sequence[Rect], others: Sequence[Rect]
) -> tuple[float, float]:
    """The first place that is clear, else the one that covers least."""
    costs: list[tuple[float, int, tuple[float, float]]] = []
    for n, at in enumerate(candidates):
        cost = _cost(at, taken, others)
        if cost == 0:
            return at
        costs.append((cost, n, at))
    return min(costs)[2]


def _around(piece: Piece) -> Rect:
    a, b = piece
    return min(a.x, b.x), min(a.y, b.y), max(a.x, b.x), max(a.y, b.y)


def _pieces(wire: Wire) -> list[Piece]:
    return list(zip(wire.points, wire.points[1:], strict=False))


def _length(piece: Piece) -> float:
    a, b = piece
    return abs(a.x - b.x) + abs(a.y - b.y)


def _candidates(pieces: Sequence[Piece]) -> Iterable[tuple[float, float]]:
    for a, b in sorted(pieces, key=_length, reverse=True):
        for f in FRACTIONS:
            yield round(a.x + f * (b.x - a.x), 1), round(a.y + f * (b.y - a.y), 1)


def _rect(x: float, y: float) -> Rect:
    half_w, half_h = LABEL_WIDTH / 2, LABEL_HEIGHT / 2
    return x - half_w, y - half_h, x + half_w, y + half_h


def _cost(at: tuple[float, float], taken: Sequence[Rect], others: Sequence[Rect]) -> float:
    rect = _rect(*at)
    on_boxes = sum(_overlap(rect, other) for other in taken)
    return 10.0 * on_boxes + sum(_overlap(rect, other) for other in others)


def _overlap(a: Rect, b: Rect) -> int:
    return int(a[0] < b[2] and b[0] < a[2] and a[1] < b[3] and b[1] < a[3])
