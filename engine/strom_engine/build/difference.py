"""The work: what of a boat as found is taken out, stays, is set, used again, and what is new."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass
from typing import Literal

from strom_engine.design import Bank, BusBar, Cable, Component, Design, LoadGroup, Relay
from strom_engine.design.differences import differences
from strom_engine.design.fields import PostRef

__all__ = ["CableWork", "Fate", "PartWork", "Work", "work"]

Fate = Literal["out", "stays", "set", "again", "new"]
# Figures that another thing in the hand has, not the same one set otherwise.
OF_THE_THING = frozenset(
    {
        "chemistry", "unit_v", "unit_ah", "unit_cca_a", "series", "parallel", "rating_a", "device",
        "branch_a", "studs", "drive", "outputs", "rated_a", "rated_w", "panel_w", "limit_a",
        "purpose",
    }
)  # fmt: skip
SAME_LENGTH_M = 0.02


@dataclass(frozen=True)
class PartWork:
    """What is done with a part. ``key`` stays while the design goes on changing.

    ``set``: it stays where it is and is set otherwise, as ``words`` say.
    """

    key: str
    part: str
    name: str
    kind: str
    fate: Fate
    place: str | None
    words: str = ""


@dataclass(frozen=True)
class CableWork:
    """What is done with a cable: ``cable`` is its id in the chosen design, ``was`` in the found.

    ``moved`` are the ends of a cable used again that go to another post or get another lug.
    """

    key: str
    cable: str | None
    was: str | None
    fate: Fate
    name: str
    gauge: str
    length_m: float
    moved: tuple[Literal["start", "end"], ...] = ()
    words: str = ""


@dataclass(frozen=True)
class Work:
    """The difference of two designs as work on parts and cables."""

    parts: tuple[PartWork, ...]
    cables: tuple[CableWork, ...]

    def cables_by(self, *fates: Fate) -> tuple[CableWork, ...]:
        """Cables with one of some fates."""
        return tuple(c for c in self.cables if c.fate in fates)

    def parts_by(self, *fates: Fate) -> tuple[PartWork, ...]:
        """Parts with one of some fates."""
        return tuple(p for p in self.parts if p.fate in fates)


def work(found: Design | None, chosen: Design) -> Work:
    """What is to be done to make one design out of another.

    Args:
        found: the boat as it is, as surveyed; None for a new boat, of which all is new.
        chosen: what it shall be, as surveyed.

    Returns:
        Every part and cable of both, each with what is done with it. A cable is used again where
        its copper is the same and its length is enough; the same id or the same posts make it the
        same one, else one end in common and the shortest that does.
    """
    before = found or Design.model_validate({"components": [], "cables": []})
    return Work(tuple(_parts(before, chosen)), tuple(_Cables(before, chosen).all()))


def _parts(before: Design, after: Design) -> Iterator[PartWork]:
    told = {d.id: d for d in differences(before, after) if d.what == "part" and d.how == "changed"}
    for old in before.components:
        new = after.by_id.get(old.id)
        if new is None or new.kind != old.kind or _another(old, new):
            yield _part(f"out-part:{old.id}", old, "out")
    for new in after.components:
        before_it = before.by_id.get(new.id)
        if before_it is None or before_it.kind != new.kind or _another(before_it, new):
            yield _part(f"part:{new.id}", new, "new")
        elif new.id in told and not isinstance(new, LoadGroup | Bank | BusBar):
            words = ", ".join(f.words for f in told[new.id].fields)
            yield _part(f"part:{new.id}", new, "set", words)
        else:
            yield _part(f"part:{new.id}", new, "stays")


def _another(old: Component, new: Component) -> bool:
    """Whether a part of the same id is another thing in the hand."""
    fields = OF_THE_THING & set(type(new).model_fields)
    if isinstance(new, Relay):
        fields |= {"sensing"}
    return any(_differs(getattr(old, f), getattr(new, f)) for f in fields)


def _differs(was: object, now: object) -> bool:
    return was is not None and was != "unknown" and was != now


def _part(key: str, part: Component, fate: Fate, words: str = "") -> PartWork:
    return PartWork(key, part.id, part.name, part.kind, fate, part.place, words)


class _Cables:
    """Cables of the chosen design against those there are."""

    def __init__(self, before: Design, after: Design) -> None:
        self.before, self.after = before, after
        self.left = {c.id: c for c in before.cables}
        self.replaced = {p.part for p in _parts(before, after) if p.fate == "out"}

    def all(self) -> Iterator[CableWork]:
        same = {c.id: old for c in self.after.cables if (old := self._same(c)) is not None}
        for old in same.values():
            self.left.pop(old.id, None)
        made = [self._one(c, same.get(c.id) or self._other(c)) for c in self.after.cables]
        for cable in self.left.values():
            yield CableWork(
                key=f"out-cable:{cable.id}",
                cable=None,
                was=cable.id,
                fate="out",
                name=self.before.cable_name(cable),
                gauge=cable.gauge,
                length_m=cable.length_m,
            )
        yield from made

    def _same(self, cable: Cable) -> Cable | None:
        """The cable of the same id, or of the same posts, if it can be used again."""
        ends = {cable.start, cable.end}
        candidates = [c for c in self.before.cables if c.id == cable.id]
        candidates += [c for c in self.before.cables if {c.start, c.end} == ends]
        return next((c for c in candidates if c.id in self.left and self._does(c, cable)), None)

    def _other(self, cable: Cable) -> Cable | None:
        """Any cable left over that does and has an end in common; the shortest."""
        ends = {PostRef(cable.start).part, PostRef(cable.end).part}
        does = [
            c
            for c in self.left.values()
            if self._does(c, cable) and ends & {PostRef(c.start).part, PostRef(c.end).part}
        ]
        found = min(does, key=lambda c: c.length_m, default=None)
        if found is not None:
            del self.left[found.id]
        return found

    def _does(self, old: Cable, new: Cable) -> bool:
        sides = self.before.post_polarity.get(old.start), self.after.post_polarity.get(new.start)
        return (
            old.gauge == new.gauge
            and old.insulation_c >= new.insulation_c
            and old.length_m >= new.length_m - SAME_LENGTH_M
            and (sides[0] == sides[1] or "any" in sides)
            and (old.sheathed or not new.sheathed)
        )

    def _one(self, cable: Cable, old: Cable | None) -> CableWork:
        key, name = f"cable:{cable.id}", self.after.cable_name(cable)
        if old is None:
            return CableWork(key, cable.id, None, "new", name, cable.gauge, cable.length_m)
        moved = tuple(_moved(old, cable))
        # One that ends on a part that is exchanged comes off, and goes back on.
        off = {PostRef(cable.start).part, PostRef(cable.end).part} & self.replaced
        fate: Fate = "again" if moved or off else "stays"
        was = self.before.cable_name(old)
        words = f"was {was}" if was != name else "off and on again" if off else ""
        return CableWork(
            key, cable.id, old.id, fate, name, cable.gauge, cable.length_m, moved, words
        )


def _moved(old: Cable, new: Cable) -> Iterator[Literal["start", "end"]]:
    turned = old.start == new.end or old.end == new.start
    was = {
        "start": old.end if turned else old.start,
        "end": old.start if turned else old.end,
    }
    lugs = {
        "start": old.end_lug if turned else old.start_lug,
        "end": old.start_lug if turned else old.end_lug,
    }
    if was["start"] != new.start or lugs["start"] != new.start_lug:
        yield "start"
    if was["end"] != new.end or lugs["end"] != new.end_lug:
        yield "end"
