"""Positive and negative that belong together: one run, out and back."""

from __future__ import annotations

from dataclasses import dataclass
from functools import lru_cache

from strom_engine.design import Bank, Cable, Design
from strom_engine.runs.wiring import wiring

__all__ = ["Leg", "legs"]


@dataclass(frozen=True)
class Leg:
    """A cable and the one that leads the same current back; either may be None."""

    out: Cable | None
    back: Cable | None

    @property
    def key(self) -> Cable:
        """The cable that the run is named after."""
        found = self.out or self.back
        assert found is not None
        return found

    @property
    def cables(self) -> tuple[Cable, ...]:
        """Its cables."""
        return tuple(c for c in (self.out, self.back) if c)


@lru_cache(maxsize=32)
def legs(design: Design) -> tuple[Leg, ...]:
    """Every cable in one run: a part's positive with the same part's negative, the widest first.

    A cable that no part joins to one of the other side is a run of its own.
    """
    wires = wiring(design)
    partner: dict[str, Cable] = {}
    taken: set[str] = set()
    # A part with one cable in and one back is the clearest pair; banks, with many, come last.
    paired = (p for p in design.components if p.facts.paired)
    for part in sorted(paired, key=lambda p: isinstance(p, Bank)):
        sides: dict[str, list[Cable]] = {"pos": [], "neg": []}
        for post in part.posts():
            for cable in wires.on_post[f"{part.id}.{post}"]:
                side = wires.side(cable)
                if side in sides and cable.id not in taken:
                    sides[side].append(cable)
        if isinstance(part, Bank) and len(wires.on_post[f"{part.id}.neg"]) != 1:
            continue  # which of several negatives carries what, nothing but the circuit tells
        thin = [[c for c in found if c.purpose == "sense"] for found in sides.values()]
        thick = [[c for c in found if c.purpose != "sense"] for found in sides.values()]
        for plus, minus in (thick, thin):
            plus, minus = (sorted(cs, key=lambda c: -c.area_mm2) for cs in (plus, minus))
            for a, b in zip(plus, minus, strict=False):
                partner[a.id] = b
                taken |= {a.id, b.id}
    made = []
    backs = {b.id for b in partner.values()}
    for cable in design.cables:
        if cable.id in backs:
            continue
        if wires.side(cable) == "neg":
            made.append(Leg(None, cable))
        else:
            made.append(Leg(cable, partner.get(cable.id)))
    return tuple(made)
