"""The positive side as a graph of posts: cables, devices, contacts, and chains of cables."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Iterator
from dataclasses import dataclass
from functools import cached_property, lru_cache

from strom_engine.design import Bank, Breaker, Cable, Design, Fuse, FuseBlock, Relay, Starter
from strom_engine.design.fields import PostRef
from strom_engine.design.sides import post_sides

__all__ = [
    "Link",
    "Wiring",
    "part_of",
    "wiring",
]


def part_of(ref: str) -> str:
    """The part that a post belongs to."""
    return PostRef(ref).part


@dataclass(frozen=True)
class Link:
    """A way from a post to another: a cable, or metal inside a part.

    ``device`` is the id of the fuse or breaker on the way, ``bus.b2`` for a branch of a fused bus.
    """

    to: str
    cable: str | None
    part: str | None
    device: str | None = None
    rating_a: float = 0.0


class Wiring:
    """Links between posts with every contact thought closed, and what follows from them."""

    def __init__(self, design: Design) -> None:
        self.design = design
        self.sides = post_sides(design)
        self.links: dict[str, list[Link]] = defaultdict(list)
        self.on_post: dict[str, list[Cable]] = defaultdict(list)
        for cable in design.cables:
            self.links[cable.start].append(Link(cable.end, cable.id, None))
            self.links[cable.end].append(Link(cable.start, cable.id, None))
            self.on_post[cable.start].append(cable)
            self.on_post[cable.end].append(cable)
        for part in design.components:
            for a, b in part.joins():
                device, rating_a = None, 0.0
                if isinstance(part, Fuse | Breaker):
                    device, rating_a = part.id, part.rating_a
                elif isinstance(part, FuseBlock):
                    device, rating_a = f"{part.id}.{b}", part.branch_a[int(b[1:]) - 1]
                for start, end in ((a, b), (b, a)):
                    link = Link(f"{part.id}.{end}", None, part.id, device, rating_a)
                    self.links[f"{part.id}.{start}"].append(link)

    def side(self, cable: Cable) -> str:
        """The side of the circuit that a cable is on: ``pos``, ``neg`` or ``any``."""
        return self.sides[cable.start]

    def chain(self, cable: Cable, start: str) -> Iterator[str]:
        """Cables in a row from a post: on through parts that only pass current, to a fork."""
        at, seen = start, set[str]()
        while cable.id not in seen:
            seen.add(cable.id)
            yield cable.id
            at = cable.end if at == cable.start else cable.start
            part = self.design.by_id[part_of(at)]
            if not part.facts.through or len(self.on_post[at]) != 1:
                return
            pair = part.joins()[0]
            at = f"{part.id}.{pair[1] if at == f'{part.id}.{pair[0]}' else pair[0]}"
            onward = self.on_post[at]
            if len(onward) != 1:
                return
            cable = onward[0]

    @cached_property
    def cranking_ways(self) -> dict[str, frozenset[str]]:
        """Cables on the ways of metal from each bank to the starters, positive side."""
        starters = [f"{s.id}.pos" for s in self.design.of_type(Starter)]
        return {
            bank.id: frozenset().union(*(self._shortest(f"{bank.id}.pos", to) for to in starters))
            for bank in self.design.of_type(Bank)
        }

    def cranking_cables(self) -> frozenset[str]:
        """Cables on the way from any bank to a starter."""
        return frozenset().union(*self.cranking_ways.values())

    def _shortest(self, start: str, end: str) -> set[str]:
        """Cables of the way with the fewest links, no relay on it; empty where there is none."""
        came: dict[str, tuple[str, Link] | None] = {start: None}
        queue = [start]
        for at in queue:
            for link in self.links[at]:
                relay = link.part and isinstance(self.design.by_id[link.part], Relay | FuseBlock)
                bank = isinstance(self.design.by_id[part_of(link.to)], Bank)
                if link.to in came or relay or bank or self._thin(link):
                    continue
                came[link.to] = (at, link)
                queue.append(link.to)
        found: set[str] = set()
        step = came.get(end)
        while step is not None:
            at, link = step
            if link.cable:
                found.add(link.cable)
            step = came[at]
        return found

    def _thin(self, link: Link) -> bool:
        return link.cable is not None and self.design.cables_by_id[link.cable].purpose == "sense"


@lru_cache(maxsize=32)
def wiring(design: Design) -> Wiring:
    """The wiring of a design, worked out once."""
    return Wiring(design)
