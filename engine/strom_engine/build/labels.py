"""Labels: both ends of every cable, devices, switches and their positions, banks, live circuits."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass
from typing import Literal

from strom_engine.build.cuts import cable_labels
from strom_engine.design import Bank, Breaker, Design, Fuse, FuseBlock, LoadGroup
from strom_engine.design.state import battery_switches, position_name, switch_positions

__all__ = ["Label", "labels"]

Sort = Literal["cable", "device", "switch", "bank", "live", "part"]


@dataclass(frozen=True)
class Label:
    """A label: what is printed large and small, on which part or cable, where it goes."""

    key: str
    sort: Sort
    large: str
    small: str
    about: str
    where: str


def labels(design: Design) -> tuple[Label, ...]:
    """Every label of a design as it is to be built.

    Args:
        design: the chosen one, as surveyed; its own words for switch positions are used.

    Returns:
        Two for every cable, one for every other thing that a stranger must know.
    """
    return (*_cables(design), *_parts(design))


def _cables(design: Design) -> Iterator[Label]:
    known = cable_labels(design)
    for cable in design.cables:
        for end, here, there in (("a", cable.start, cable.end), ("b", cable.end, cable.start)):
            yield Label(
                key=f"label:{cable.id}:{end}",
                sort="cable",
                large=known[cable.id],
                small=f"{design.post_name(here)} ← {design.post_name(there)}  {cable.gauge}",
                about=cable.id,
                where=design.post_name(here),
            )


def _parts(design: Design) -> Iterator[Label]:
    places = {p.id: p.name for p in design.places}
    turned = {s.id for s in battery_switches(design)}
    for part in design.components:
        where = places.get(part.place or "", "")
        key = f"label:{part.id}"
        match part:
            case Bank():
                count = part.series * part.parallel
                for n in range(1, count + 1):
                    words = f"{part.nominal_v:g} V {part.capacity_ah:.0f} Ah {part.chemistry}"
                    number = f"{part.name} {n}/{count}" if count > 1 else part.name
                    yield Label(f"{key}:{n}", "bank", number, words, part.id, where)
            case Fuse() | Breaker():
                yield Label(key, "device", f"{part.rating_a:g} A", part.name, part.id, where)
            case FuseBlock():
                for n, amps in enumerate(part.branch_a, start=1):
                    words = f"{part.name}, branch {n}"
                    yield Label(f"{key}:{n}", "device", f"{amps:g} A", words, part.id, where)
            case LoadGroup() if any(i.always_on for i in part.items):
                names = ", ".join(i.name for i in part.items if i.always_on)
                yield Label(key, "live", "ALWAYS LIVE", names, part.id, where)
            case _ if part.id in turned:
                positions = switch_positions(part)  # type: ignore[arg-type]  # it is a switch
                plate = " · ".join(position_name(part, p) for p in positions)  # type: ignore[arg-type]
                yield Label(key, "switch", part.name, plate, part.id, where)
            case _ if part.facts.stands == "gear" or part.facts.counted == "sources":
                yield Label(key, "part", part.name, part.facts.word, part.id, where)
            case _:
                pass
