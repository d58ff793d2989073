"""Builds a scheme on the positive side, keeping of the old one what fits.

Banks, sources, loads and the whole negative side stay. Gear of a kind that the new scheme needs
is taken over with its figures and its place; a cable between posts that it joined before stays.
"""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any

from strom_engine.design import (
    Bank,
    Breaker,
    BusBar,
    Cable,
    Component,
    Design,
    Fuse,
    LoadGroup,
    LoadItem,
    OnOffSwitch,
)
from strom_engine.design.edits import free_id
from strom_engine.design.fields import PostRef
from strom_engine.design.parts import facts_of
from strom_engine.design.sides import post_sides
from strom_engine.design.usual import usual_part
from strom_engine.patterns.aboard import Aboard
from strom_engine.patterns.first_sizes import fuse_rating_a, gauge_for, switch_size
from strom_engine.reference import (
    area_mm2,
    chemistry,
    usual_fuse,
)
from strom_engine.sizing.cranking import cold_need, coldest_start_c
from strom_engine.survey import Survey

__all__ = ["Builder"]

AT_THE_POST_M, WITHIN_M, ACROSS_M = 0.15, 0.3, 1.5
BRIEF_SHARE = 0.6  # a breaker of so much of what a motor of minutes draws stands it
MOST_LETTERS = 56  # of a name, with room for a number behind it
CRANKING_GAUGE = "1/0 AWG"
CRANKING_A = 150.0


class Builder:
    """A scheme on its way, over what a design has aboard."""

    def __init__(self, design: Design, survey: Survey | None = None) -> None:
        self.design = design
        self._survey = survey
        self.aboard = Aboard(design)
        sides = post_sides(design)
        self._old = design.cables
        minus = [c for c in design.cables if sides[c.start] == "neg" or sides[c.end] == "neg"]
        self.cables: dict[str, Cable] = {c.id: c for c in minus}
        on_minus = {ref.part for c in minus for ref in (c.start, c.end)}
        self.parts: dict[str, Component] = {}
        # Posts that others stand for, and further banks that are wired already.
        self.stand_in: dict[str, str] = {}
        self.done: set[str] = set()
        self._pool: list[Component] = []
        self._moved: set[str] = set()  # gear that stands elsewhere than it did
        for part in design.components:
            posts = [sides[f"{part.id}.{post}"] for post in part.posts()]
            if part.facts.scheme and "pos" in posts:
                self._pool.append(part)
            elif not part.facts.scheme or part.id in on_minus or "neg" in posts:
                self.parts[part.id] = part
        # What was fitted only with gear that goes: thin negatives of relays and chargers.
        gone = {p.id for p in self._pool}
        self._thin = {i: c for i, c in self.cables.items() if {c.start.part, c.end.part} & gone}
        self.cables = {i: c for i, c in self.cables.items() if i not in self._thin}

    # -- parts -------------------------------------------------------------------------------

    def gear(
        self,
        kind: str,
        name: str,
        must: Mapping[str, Any] | None = None,  # Any: fields of whichever part
        own: Mapping[str, Any] | None = None,
        new: Mapping[str, Any] | None = None,
        near: Bank | None = None,
    ) -> str:
        """A part of a kind: one that was aboard and has what it must, else a new usual one.

        ``own`` are fields set on it either way, such as where it stands; ``new`` those of one that
        has to be bought; with ``near`` it must have been nearest to that bank. Returns its id.
        """
        must, own, new = must or {}, own or {}, new or {}
        for part in self._pool:
            at = self.aboard.nearest(part.id, tuple(part.posts())) if near else None
            if near and at != near.id:
                continue
            if part.kind == kind and all(getattr(part, k) == v for k, v in must.items()):
                return self._kept_gear(part, own, near)
        return self._new_gear(kind, name, {**must, **own, **new}, near)

    def _new_gear(
        self, kind: str, name: str, figures: Mapping[str, Any], near: Bank | None = None
    ) -> str:
        new_id = free_id(kind, self._taken)
        if facts_of(kind).counted == "switches":
            figures = {**switch_size(self._cranking_a, CRANKING_A), **figures}
        by_hand = facts_of(kind).counted == "switches" or figures.get("polarity") == "pos"
        place = self._gear_place(near, by_hand=by_hand)
        made = usual_part(kind, new_id, self._free_name(name), self.design.system_v, place, figures)
        self.parts[made.id] = made
        return made.id

    def _kept_gear(self, part: Component, own: Mapping[str, Any], near: Bank | None) -> str:
        """Gear taken over; a switch out of reach is brought within reach, with new leads."""
        self._pool.remove(part)
        moved: dict[str, str | None] = {}
        if part.facts.counted == "switches" and part.place in self._out_of_reach:
            place = self._gear_place(near, by_hand=True)
            if place not in self._out_of_reach:
                moved = {"place": place}
                self._moved.add(part.id)
        self.parts[part.id] = part.model_copy(update={**own, **moved})
        return part.id

    def _gear_place(self, near: Bank | None, *, by_hand: bool) -> str | None:
        """Where new gear stands: by its bank; what is turned by hand within reach, close to it.

        Where nobody has entered how far places are apart, it stands where switches stood.
        """
        bank = near or self.aboard.house
        beside = bank.place if bank else None
        if not by_hand:
            return beside
        reach = [p.id for p in self.design.places if p.within_reach and not p.engine_space]
        if beside in reach or not reach:
            return beside
        known = self._survey.runs if self._survey else ()
        runs = {frozenset((run.start, run.end)): run.length_m for run in known}
        near_by = {p: m for p in reach if (m := runs.get(frozenset((str(beside), p)))) is not None}
        if near_by:
            return min(near_by, key=lambda p: (near_by[p], p))
        was = [
            str(part.place)
            for part in self.design.components
            if part.facts.counted == "switches" and part.place in reach
        ]
        return max(sorted(set(was)), key=was.count) if was else beside

    @property
    def _out_of_reach(self) -> set[str | None]:
        return {p.id for p in self.design.places if not p.within_reach}

    @property
    def _cranking_a(self) -> float:
        """The largest cranking current aboard [A], at the coldest start."""
        told_c = self._survey.boat.coldest_c if self._survey else None
        factor = cold_need(coldest_start_c(told_c))
        return max((factor * s.cranking_a for s in self.aboard.starters), default=0.0)

    @property
    def _taken(self) -> set[str]:
        return set(self.parts) | {p.id for p in self.design.components}

    def _free_name(self, name: str) -> str:
        taken = {p.name for p in self.parts.values()} | {p.name for p in self._pool}
        name = name[:MOST_LETTERS]
        found, n = name, 2
        while found in taken:
            found, n = f"{name} {n}", n + 1
        return found

    def split_off(
        self, group: LoadGroup, items: tuple[LoadItem, ...], name: str, part_id: str
    ) -> LoadGroup:
        """A feed of its own for some items of a group."""
        rest = tuple(item for item in group.items if item not in items)
        self.parts[group.id] = group.model_copy(update={"items": rest})
        new_id = free_id(part_id[:36], self._taken)
        own = {"items": [item.model_dump() for item in items]}
        name = self._free_name(name[:60])
        part = usual_part("loads", new_id, name, self.design.system_v, group.place, own)
        assert isinstance(part, LoadGroup)
        self.parts[new_id] = part
        return part

    # -- cables ------------------------------------------------------------------------------

    def run(
        self,
        start: str,
        end: str,
        current_a: float,
        length_m: float | None = None,
        *,
        gauge: str | None = None,
        sense: bool = False,
    ) -> None:
        """A cable between two posts; the one that joined them before stays."""
        start, end = self._behind(start, end), self._behind(end, start)
        old = self._between(start, end)
        if old is not None:
            self.cables[old.id] = old
            return
        if length_m is None:
            length_m = self._run_m(start, end) or ACROSS_M
        new_id = free_id(start.replace(".", "_")[:36], set(self.cables) | {c.id for c in self._old})
        size = gauge or gauge_for(current_a, length_m, self.design.system_v)
        self.cables[new_id] = Cable(
            id=new_id,
            start=PostRef(start),
            end=PostRef(end),
            length_m=length_m,
            estimated=True,
            gauge=size,
            purpose="sense" if sense else "power",
        )

    def _run_m(self, start: str, end: str) -> float | None:
        """The run between the places of two posts [m], with tails; None where nobody knows it."""
        places = [self.parts[PostRef(ref).part].place for ref in (start, end)]
        if self._survey is None or None in places:
            return None
        ends = frozenset(str(p) for p in places)
        runs = {frozenset((run.start, run.end)): run.length_m for run in self._survey.runs}
        run_m = WITHIN_M if len(ends) == 1 else runs.get(ends)
        tails = {p.id: p.tail_m for p in self._survey.places}
        return None if run_m is None else run_m + sum(tails.get(str(p), 0.0) for p in places)

    def _behind(self, post: str, other: str) -> str:
        """What stands for a post: what lies behind the disconnect on it."""
        instead = self.stand_in.get(post)
        return post if instead is None or PostRef(instead).part == PostRef(other).part else instead

    def _between(self, a: str, b: str) -> Cable | None:
        if {PostRef(a).part, PostRef(b).part} & self._moved:
            return None
        return next((c for c in self._old if {c.start, c.end} == {a, b}), None)

    def fused(self, start: str, end: str, current_a: float, name: str) -> None:
        """A cable with a fuse at its start, close to the post."""
        self.run_from_fuse(self.fuse_at(start, current_a, name, towards=end), end, current_a)

    def switched(self, start: str, end: str, current_a: float, name: str, *, brief: bool) -> None:
        """A circuit with a fuse close to the post and a switch: the one it had, or a new one."""
        old = next(
            (
                p
                for p in self._pool
                if isinstance(p, Breaker | OnOffSwitch)
                and p.rating_a >= BRIEF_SHARE * current_a
                and any(self._between(f"{p.id}.{post}", end) for post in p.posts())
            ),
            None,
        )
        if old is not None:
            part = self._kept_gear(old, {}, None)
        else:
            lasting_a = current_a if brief else fuse_rating_a(1.25 * current_a)
            new = switch_size(current_a, lasting_a) | {"position": "on"}
            part = self._new_gear("switch", f"{name} switch", {"purpose": "isolate", **new})
        self.fused(start, f"{part}.a", current_a, f"{name} fuse")
        self.run(f"{part}.b", end, current_a)

    def fuse_at(self, start: str, current_a: float, name: str, towards: str = "") -> str:
        """A fuse close to a post; returns its far post."""
        start = self._behind(start, "")
        old = self._old_fuse(start, towards)
        if old is not None:
            fuse, near, far = old
            self._pool.remove(fuse)
            self.parts[fuse.id] = fuse
            self.run(start, f"{fuse.id}.{near}", current_a)
            return f"{fuse.id}.{far}"
        new_id = free_id("fuse", self._taken)
        fed_by = self.parts[PostRef(start).part]
        lithium = isinstance(fed_by, Bank) and chemistry(fed_by.chemistry).family == "lithium"
        rating_a = fuse_rating_a(current_a)
        own = {"rating_a": rating_a, "device": usual_fuse(rating_a, lithium=lithium)}
        place = fed_by.place
        part = usual_part("fuse", new_id, self._free_name(name), self.design.system_v, place, own)
        self.parts[new_id] = part
        self.run(start, f"{new_id}.a", current_a, AT_THE_POST_M)
        return f"{new_id}.b"

    def cranking(self, start: str, end: str) -> None:
        """A cranking conductor: a fuse in it stays, and none is put in (ABYC E-11, exempt)."""
        old = self._old_fuse(start, end)
        if old is not None:
            self.run_from_fuse(self.fuse_at(start, CRANKING_A, old[0].name, end), end, CRANKING_A)
        else:
            self.run(start, end, CRANKING_A, gauge=CRANKING_GAUGE)

    def kept(self, start: str, end: str) -> bool:
        """Whether a cable joined two posts before; if so it stays."""
        start, end = self._behind(start, end), self._behind(end, start)
        old = self._between(start, end)
        if old is not None:
            self.cables[old.id] = old
        return old is not None

    def run_from_fuse(self, fused: str, end: str, current_a: float) -> None:
        """On from a fuse, in the gauge of the piece before it where that is new."""
        fuse = PostRef(fused).part
        before = next(c for c in self.cables.values() if fuse in (c.start.part, c.end.part))
        length_m = self._run_m(fused, end) or ACROSS_M
        thick = area_mm2(gauge_for(current_a, length_m, self.design.system_v))
        gauge = before.gauge if before.area_mm2 >= thick else None
        self.run(fused, end, current_a, gauge=gauge)
        after = self.cables[list(self.cables)[-1]]
        if before.estimated and before.area_mm2 < after.area_mm2:
            self.cables[before.id] = before.model_copy(update={"gauge": after.gauge})

    def _old_fuse(self, start: str, towards: str) -> tuple[Fuse, str, str] | None:
        """A fuse that was on a post, best of all on the way to where it is wanted again."""
        choice = []
        for fuse in self._pool:
            if not isinstance(fuse, Fuse):
                continue
            for near, far in (("a", "b"), ("b", "a")):
                if self._between(start, f"{fuse.id}.{near}"):
                    fits = bool(towards and self._between(f"{fuse.id}.{far}", towards))
                    choice.append((not fits, fuse.id, (fuse, near, far)))
        kept = [c for c in choice if not c[0] or not towards]
        return min(kept, key=lambda c: c[:2])[2] if kept else None

    def minus(self, part_id: str, beside: Bank, current_a: float, post: str = "neg") -> None:
        """A negative lead for a part that has none yet, to a free stud or to a bank."""
        ref = f"{part_id}.{post}"
        old = next((c for c in self._thin.values() if ref in (c.start, c.end)), None)
        if old is not None:
            self.cables[old.id] = old
            return
        if any(ref in (c.start, c.end) for c in self.cables.values()):
            return
        gauge = "16 AWG" if current_a < 1 else None
        self.run(ref, self._free_negative(beside), current_a, gauge=gauge)

    def _free_negative(self, bank: Bank) -> str:
        taken = {ref for c in self.cables.values() for ref in (c.start, c.end)}
        bars = [p for p in self.parts.values() if isinstance(p, BusBar) and p.polarity == "neg"]
        for bar in sorted(bars, key=lambda p: isinstance(p, BusBar) and p.engine_block):
            free = [f"{bar.id}.{s}" for s in bar.posts() if f"{bar.id}.{s}" not in taken]
            if free:
                return free[0]
        return f"{bank.id}.neg"

    def join_negatives(self, a: Bank, b: Bank) -> None:
        """A common negative for two banks that have none."""
        joins = [(c.start, c.end) for c in self.cables.values() if c.purpose == "power"]
        for part in self.parts.values():
            joins += part.links()
        joined, before = {f"{a.id}.neg"}, 0
        while len(joined) != before:
            before = len(joined)
            for ends in joins:
                if joined.intersection(ends):
                    joined.update(ends)
        if f"{b.id}.neg" not in joined:
            self.run(f"{a.id}.neg", f"{b.id}.neg", CRANKING_A, gauge=CRANKING_GAUGE)

    # -- amps --------------------------------------------------------------------------------

    def drawn_a(self, group: LoadGroup) -> float:
        """What a feed must carry [A]: all that may run for long, and the largest brief item."""
        lasting = sum(i.draw_a for i in group.items if not i.brief)
        return max(2.0, lasting + max((i.draw_a for i in group.items if i.brief), default=0.0))

    def finished(self) -> tuple[tuple[Component, ...], tuple[Cable, ...]]:
        """Parts and cables, in the order in which they were before."""
        order = {p.id: n for n, p in enumerate(self.design.components)}
        parts = sorted(self.parts.values(), key=lambda p: order.get(p.id, len(order)))
        was = {c.id: n for n, c in enumerate(self._old)}
        cables = sorted(self.cables.values(), key=lambda c: was.get(c.id, len(was)))
        return tuple(parts), tuple(cables)
