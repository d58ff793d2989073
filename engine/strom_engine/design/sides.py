"""Which side of the circuit a post is on, positive or negative, found through the metal."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Iterable

from strom_engine.design.document import Design

__all__ = ["post_sides", "shorts"]


def _edges(design: Design) -> Iterable[tuple[str, str]]:
    for cable in design.cables:
        yield cable.start, cable.end
    for part in design.components:
        yield from part.links()


def post_sides(design: Design) -> dict[str, str]:
    """Side of every post: ``pos``, ``neg``, or ``any`` for metal that nothing is joined to yet."""
    near: dict[str, set[str]] = defaultdict(set)
    for a, b in _edges(design):
        near[a].add(b)
        near[b].add(a)
    sides: dict[str, str] = dict(design.post_polarity)
    queue = [(other, side) for post, side in sides.items() if side != "any" for other in near[post]]
    while queue:
        post, side = queue.pop()
        if sides[post] != "any":
            continue
        sides[post] = side
        queue += [(other, side) for other in near[post] if sides[other] == "any"]
    return sides


def shorts(design: Design) -> tuple[tuple[str, str], ...]:
    """Pairs of joined posts, one positive and one negative, every contact thought closed."""
    sides = post_sides(design)
    return tuple((a, b) for a, b in _edges(design) if {sides[a], sides[b]} == {"pos", "neg"})
