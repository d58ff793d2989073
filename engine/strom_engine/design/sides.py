"""Which side of the circuit a post is on, positive or negative, found through the metal."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Iterable

from strom_engine.design.document import Design
from strom_engine.design.parts import Component

__all__ = ["metal_joins", "post_sides", "shorts"]

_JOINED = {
    "selector": (("one", "common"), ("two", "common")),
    "dual_switch": (
        ("house_in", "house_out"),
        ("engine_in", "engine_out"),
        ("house_out", "engine_out"),
    ),
    "switch": (("a", "b"),),
    "breaker": (("a", "b"),),
    "fuse": (("a", "b"),),
    "relay": (("a", "b"),),
    "shunt": (("bank", "system"),),
    "protection": (("bank", "system"),),
}


def metal_joins(part: Component) -> tuple[tuple[str, str], ...]:
    """Pairs of posts that metal can join inside a part, every contact thought closed."""
    if part.kind == "bus_bar":
        return tuple(("s1", f"s{i}") for i in range(2, part.studs + 1))
    if part.kind == "fuse_block":
        return tuple(("in", f"b{i}") for i in range(1, len(part.branch_a) + 1))
    return _JOINED.get(part.kind, ())


def _edges(design: Design) -> Iterable[tuple[str, str]]:
    for cable in design.cables:
        yield cable.start, cable.end
    for part in design.components:
        for a, b in metal_joins(part):
            yield f"{part.id}.{a}", f"{part.id}.{b}"


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
