"""Single acts of the work as data, and what each makes of a moment."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass
from functools import cached_property
from typing import Literal

from strom_engine.build.difference import Work
from strom_engine.build.moment import Moment
from strom_engine.design import Bank, Cable, Design, Fuse, FuseBlock, LoadGroup
from strom_engine.design.fields import PostRef
from strom_engine.runs.wiring import wiring

__all__ = ["Action", "Site", "done"]

Does = Literal[
    "switches off", "lift negative", "take cable", "take part", "fit part", "lay cable",
    "land cable", "take fuse out", "put fuse in", "land negative", "switches on",
]  # fmt: skip


@dataclass(frozen=True)
class Action:
    """One act: what is done to which part or cable; ``handles`` are the posts that are touched.

    ``from_``: of the boat as found or of the design that is built.
    """

    does: Does
    about: str = ""
    from_: Literal["found", "chosen"] = "chosen"
    handles: tuple[str, ...] = ()


class Site:
    """The boat as found and as chosen, the work between, and what every step may look up."""

    def __init__(self, found: Design | None, chosen: Design, job: Work) -> None:
        self.found = found or Design.model_validate({"components": [], "cables": []})
        self.chosen, self.job = chosen, job
        # In a boat without a bank nothing was ever on.
        self.start = Moment.of(self.found).with_(switches_off=not self.found.of_type(Bank))
        self.gone = {p.part for p in job.parts_by("out")} - {p.id for p in chosen.components}

    @cached_property
    def must_run(self) -> tuple[LoadGroup, ...]:
        """Loads that must always run."""
        groups = (*self.found.of_type(LoadGroup), *self.chosen.of_type(LoadGroup))
        return tuple({g.id: g for g in groups if any(i.always_on for i in g.items)}.values())

    @cached_property
    def off_banks(self) -> tuple[str, ...]:
        """Banks whose negative comes off: whose metal, either side, the work touches."""
        touched_parts = {p.part for p in self.job.parts_by("out", "new")}
        was = {c.was for c in self.job.cables_by("out", "again") if c.was}
        now = {c.cable for c in self.job.cables_by("new", "again") if c.cable}
        found = [
            *_banks_on(self.found, was, touched_parts),
            *_banks_on(self.chosen, now, touched_parts),
        ]
        return tuple(dict.fromkeys(found))

    @cached_property
    def board(self) -> tuple[str, ...]:
        """New gear, no bank, that takes nothing's place: fitted while the boat is alive."""
        taken = {p.part for p in self.job.parts_by("out")}
        new = (self.chosen.by_id[p.part] for p in self.job.parts_by("new"))
        return tuple(p.id for p in new if p.id not in taken and not isinstance(p, Bank))

    @cached_property
    def board_cables(self) -> frozenset[str]:
        """New cables that run between such gear alone."""
        fitted = set(self.board)
        new = (self.chosen.cables_by_id[c.cable] for c in self.job.cables_by("new") if c.cable)
        return frozenset(
            c.id for c in new if {PostRef(c.start).part, PostRef(c.end).part} <= fitted
        )

    def cable(self, action: Action) -> Cable:
        """The cable that an act is about."""
        design = self.found if action.from_ == "found" else self.chosen
        return design.cables_by_id[action.about]


def _banks_on(design: Design, cables: Iterable[str], parts: Iterable[str]) -> list[str]:
    """Banks that are joined, contacts closed, by either side's metal to what is touched."""
    touched: set[str] = set()
    for cable in (design.cables_by_id[i] for i in cables):
        touched |= {cable.start, cable.end}
    touched |= {ref for ref in design.post_polarity if PostRef(ref).part in set(parts)}
    links = wiring(design).links
    seen: set[str] = set(touched)
    queue: list[str] = list(touched)
    while queue:
        for link in links.get(queue.pop(), ()):
            if link.to not in seen:
                seen.add(link.to)
                queue.append(link.to)
    return [b.id for b in design.of_type(Bank) if {f"{b.id}.pos", f"{b.id}.neg"} & seen]


def done(site: Site, moment: Moment, action: Action) -> Moment:
    """The moment after an act; acts that move no metal leave it as it is.

    Args:
        site: both designs.
        moment: before it.
        action: what is done.
    """
    parts, cables = dict(moment.parts), dict(moment.cables)
    match action.does:
        case "switches off":
            return moment.with_(switches_off=True)
        case "switches on":
            return moment.with_(switches_off=False)
        case "lift negative":
            return moment.with_(lifted=moment.lifted | {action.about})
        case "land negative":
            return moment.with_(lifted=moment.lifted - {action.about})
        case "take fuse out":
            return moment.with_(fuses_out=moment.fuses_out | {action.about})
        case "put fuse in":
            return moment.with_(fuses_out=moment.fuses_out - {action.about})
        case "take cable":
            cables.pop(f"found:{action.about}", None)
            cables.pop(action.about, None)
            return moment.with_(cables=cables)
        case "land cable":
            cables[f"chosen:{action.about}"] = site.cable(action)
            return moment.with_(cables=cables)
        case "take part":
            parts.pop(action.about, None)
            return moment.with_(parts=parts, lifted=moment.lifted - {action.about})
        case "fit part":
            part = site.chosen.by_id[action.about]
            parts[action.about] = part
            out = moment.fuses_out
            if isinstance(part, Fuse | FuseBlock):
                out = out | {part.id}
            lifted = moment.lifted | ({part.id} if isinstance(part, Bank) else set())
            return moment.with_(parts=parts, fuses_out=out, lifted=lifted)
        case _:
            return moment
