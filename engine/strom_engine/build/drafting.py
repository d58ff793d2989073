"""What drafts of steps share: their shape, cautions, places, and how pieces are made and land."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Callable, Iterable, Sequence
from dataclasses import dataclass, field
from typing import Literal, TypeVar

from strom_engine.build.actions import Action, Site
from strom_engine.build.cuts import HEAVY_MM2, Piece, cable_labels
from strom_engine.build.stacks import Stack, stack_at
from strom_engine.design import Bank, Cable, Design
from strom_engine.reference import crimp_pull_n, work_minutes
from strom_engine.runs.wiring import wiring

__all__ = [
    "CRIMP",
    "ENERGISE",
    "LIFT",
    "NOWHERE",
    "POWER_OFF",
    "SPANNER",
    "Draft",
    "Phase",
    "by_place",
    "crimp",
    "depths",
    "land",
    "places",
]

Phase = Literal[
    "dry fit", "workshop", "board", "long leads", "power off", "take out", "fit", "power on"
]
LONG_LEAD_M = 2.0
NOWHERE = "place not entered"
T = TypeVar("T")

POWER_OFF = (
    "Engine off and its key out, shore lead out, panels covered or their breaker open, loads off. "
    "Say aloud what is dead from now on."
)
SPANNER = (
    "Rings and watch off. A spanner never between a post and metal; tape its shaft. A cloth below "
    "the work: what drops lands under the engine."
)
LIFT = "A battery is heavy: two people, back straight, box beside its final place. Goggles: acid."
CRIMP = "Use the die for the size and pull at every crimp; pliers are no crimper."
ENERGISE = "One hand, face away, no gas in the space: open it and let it air first."


@dataclass
class Draft:
    """A step before it is known what is live after it."""

    key: str
    phase: Phase
    title: str
    place: str | None = None
    doing: list[str] = field(default_factory=list)
    needs: list[str] = field(default_factory=list)
    minutes: float = 0.0
    caution: str = ""
    stacks: list[Stack] = field(default_factory=list)
    actions: list[Action] = field(default_factory=list)


def places(site: Site) -> dict[str | None, str]:
    found: dict[str | None, str] = {p.id: p.name for p in site.found.places}
    return found | {p.id: p.name for p in site.chosen.places} | {None: NOWHERE}


def by_place(
    site: Site, things: Iterable[T], place: Callable[[T], str | None]
) -> list[tuple[str | None, str, list[T]]]:
    found: dict[str | None, list[T]] = defaultdict(list)
    for thing in things:
        found[place(thing)].append(thing)
    names = places(site)
    order = sorted(found, key=lambda p: names.get(p, NOWHERE))
    return [(p, names.get(p, NOWHERE), found[p]) for p in order]


def crimp(key: str, phase: Phase, words: str, here: Sequence[Piece]) -> Draft:
    step = Draft(key, phase, f"Cut and crimp {words}", None, caution=CRIMP)
    for p in here:
        a, b = p.ends
        step.doing.append(
            f"{p.cut_m:.2f} m, {a.label} to {b.label}: strip {a.strip_mm:g} mm, lugs {a.stud} and "
            f"{b.stud}, shrink {p.shrink_bore_mm:g} mm."
        )
        work = "crimp_heavy" if p.area_mm2 >= HEAVY_MM2 else "crimp_light"
        step.minutes += 2 * work_minutes(work)
    pull = crimp_pull_n(here[0].gauge) if here else None
    if pull is not None:
        step.doing.append(f"Pull at every crimp; the standard asks for {pull:.0f} N.")
    step.needs = ["crimper with the die for the size", "stripper", "heat gun", "labels"]
    return step


def land(step: Draft, chosen: Design, cables: Sequence[Cable], posts: set[str]) -> None:
    names = cable_labels(chosen)
    for cable in cables:
        step.doing.append(f"{names[cable.id]}: {chosen.cable_name(cable)}, {cable.gauge}.")
        handles = tuple(r for r in (cable.start, cable.end) if r in posts)
        step.actions.append(Action("land cable", cable.id, "chosen", handles))
        step.minutes += 2 * work_minutes("land_end")
    for ref in dict.fromkeys(r for c in cables for r in (c.start, c.end)):
        stack = stack_at(chosen, ref)
        if stack is not None and len(stack.lugs) > 1:
            step.stacks.append(stack)


def depths(design: Design) -> dict[str, int]:
    """How many cables and devices lie between a post and the nearest bank."""
    links = wiring(design).links
    found = {f"{b.id}.pos": 0 for b in design.of_type(Bank)}
    queue = list(found)
    while queue:
        at = queue.pop(0)
        for to in sorted(link.to for link in links.get(at, ())):
            if to not in found:
                found[to] = found[at] + 1
                queue.append(to)
    return found
