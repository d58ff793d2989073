"""What differs between two designs: parts and cables gone, new and changed, in words."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

from strom_engine.design.document import Cable, Design
from strom_engine.design.parts import Component

__all__ = ["Difference", "differences"]

What = Literal["part", "cable"]
How = Literal["gone", "new", "changed"]


@dataclass(frozen=True)
class Difference:
    """One part or cable that is not the same in both: its id, and what is different."""

    what: What
    how: How
    id: str
    words: str


def differences(before: Design, after: Design) -> tuple[Difference, ...]:
    """Everything that differs, parts first; a cable is the same when it joins the same posts."""
    return (*_parts(before, after), *_cables(before, after))


def _parts(before: Design, after: Design) -> list[Difference]:
    found = []
    for part in before.components:
        new = after.by_id.get(part.id)
        if new is None or new.kind != part.kind:
            found.append(Difference("part", "gone", part.id, part.name))
        elif changed := _changed_fields(part, new):
            found.append(Difference("part", "changed", part.id, f"{new.name}: {changed}"))
    for part in after.components:
        old = before.by_id.get(part.id)
        if old is None or old.kind != part.kind:
            found.append(Difference("part", "new", part.id, part.name))
    return found


def _changed_fields(old: Component, new: Component) -> str:
    """The figures that differ, in words."""
    told = []
    for name in type(new).model_fields:
        was, now = getattr(old, name), getattr(new, name)
        if was == now or name == "assumed":
            continue
        if name == "items":
            told.append(_items(was, now))
        else:
            told.append(f"{name.replace('_', ' ')} {_short(was)} to {_short(now)}")
    return ", ".join(told)


def _items(was: object, now: object) -> str:
    before = {i.id: i.name for i in was} if isinstance(was, tuple) else {}
    after = {i.id: i.name for i in now} if isinstance(now, tuple) else {}
    gone = [name for i, name in before.items() if i not in after]
    new = [name for i, name in after.items() if i not in before]
    words = [f"without {', '.join(gone)}"] if gone else []
    words += [f"with {', '.join(new)}"] if new else []
    return "; ".join(words) or "items with other figures"


def _short(value: object) -> str:
    if value is None:
        return "unknown"
    if isinstance(value, bool):
        return "yes" if value else "no"
    return f"{value:g}" if isinstance(value, float) else str(value).replace("_", " ")[:40]


def _cables(before: Design, after: Design) -> list[Difference]:
    found = []
    kept: set[str] = set()
    by_ends = {frozenset((c.start, c.end)): c for c in after.cables}
    for cable in before.cables:
        same = after.cables_by_id.get(cable.id)
        if same is None or {same.start, same.end} != {cable.start, cable.end}:
            same = by_ends.get(frozenset((cable.start, cable.end)), same)
        if same is None:
            found.append(Difference("cable", "gone", cable.id, _told(before, cable)))
            continue
        kept.add(same.id)
        if words := _cable_words(before, after, cable, same):
            found.append(Difference("cable", "changed", same.id, words))
    found += [
        Difference("cable", "new", cable.id, _told(after, cable))
        for cable in after.cables
        if cable.id not in kept
    ]
    return found


def _told(design: Design, cable: Cable) -> str:
    return f"{cable.gauge}, {cable.length_m:g} m: {design.cable_name(cable)}"


def _cable_words(before: Design, after: Design, old: Cable, new: Cable) -> str:
    told = []
    if {old.start, old.end} != {new.start, new.end}:
        told.append(f"was {before.cable_name(old)}")
    if old.gauge != new.gauge:
        told.append(f"{old.gauge} to {new.gauge}")
    if old.length_m != new.length_m:
        told.append(f"{old.length_m:g} m to {new.length_m:g} m")
    if old.insulation_c != new.insulation_c:
        told.append(f"{old.insulation_c} °C to {new.insulation_c} °C insulation")
    return f"{after.cable_name(new)}: {', '.join(told)}" if told else ""
