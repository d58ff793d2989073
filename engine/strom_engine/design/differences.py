"""What differs between two designs, as data: parts and cables gone, new and changed."""

from __future__ import annotations

from collections.abc import Iterable, Iterator
from dataclasses import dataclass
from typing import Literal, NamedTuple

from strom_engine.design.cable_words import cable_field_words
from strom_engine.design.document import Cable, Design
from strom_engine.design.figure_words import label_of, value_words
from strom_engine.design.parts import Component
from strom_engine.design.parts.loads import AcItem, LoadItem

__all__ = ["Difference", "FieldChange", "differences"]

What = Literal["part", "cable"]
How = Literal["gone", "new", "changed"]
Value = str | float | bool | None
# Fields that are no difference of the thing itself.
UNTOLD = frozenset({"id", "kind", "assumed", "estimated", "locked"})


@dataclass(frozen=True)
class FieldChange:
    """One field that is not the same: what it was and is, as in the document and in words.

    ``field`` is ``items.ID`` for a load behind a feed; lists of other things are counted.
    """

    field: str
    label: str
    was: Value
    now: Value
    words: str


class Thing(NamedTuple):
    """What a line is about: its id, its name, and the kind of a part."""

    id: str
    name: str
    kind: str = ""


@dataclass(frozen=True)
class Difference:
    """One part or cable that is not the same in both.

    ``key`` names the line, and stays the same while the designs go on changing. ``id`` is that of
    the later design, ``was_id`` of the earlier; they differ for a cable that was known by where it
    runs. ``kind`` is the part's, or empty.
    """

    what: What
    how: How
    id: str
    key: str
    name: str
    kind: str = ""
    was_id: str | None = None
    fields: tuple[FieldChange, ...] = ()
    words: str = ""

    @classmethod
    def told(
        cls, what: What, how: How, now: Thing, was_id: str | None, fields: tuple[FieldChange, ...]
    ) -> Difference:
        """A difference with the sentence that its data makes."""
        changes = ", ".join(change.words for change in fields)
        words = f"{now.name}: {changes}" if changes else now.name
        key = f"{what} {now.id}"
        return cls(what, how, now.id, key, now.name, now.kind, was_id, fields, words)

    def changed(self, *fields: str) -> bool:
        """Whether any of some fields differs."""
        return any(change.field in fields for change in self.fields)


def differences(before: Design, after: Design) -> tuple[Difference, ...]:
    """Everything that differs, parts first.

    A part is the same when it has the same id and kind, a cable when it has the same id and an end
    in common, or joins the same posts.

    Args:
        before: the earlier design.
        after: the later one.

    Returns:
        Lines with a key that stays, what changed field by field, and a sentence.

    >>> from strom_engine.survey import new_boat
    >>> _, design = new_boat("cruising_yacht", "selector")
    >>> differences(design, design)
    ()
    """
    return (*_parts(before, after), *_cables(before, after))


def _parts(before: Design, after: Design) -> Iterator[Difference]:
    for part in before.components:
        new = after.by_id.get(part.id)
        if new is None or new.kind != part.kind:
            yield _part("gone", part)
        elif fields := tuple(_part_fields(part, new)):
            yield _part("changed", new, fields)
    for part in after.components:
        old = before.by_id.get(part.id)
        if old is None or old.kind != part.kind:
            yield _part("new", part)


def _part(how: How, part: Component, fields: tuple[FieldChange, ...] = ()) -> Difference:
    was = None if how == "new" else part.id
    return Difference.told("part", how, Thing(part.id, part.name, part.kind), was, fields)


def _part_fields(old: Component, new: Component) -> Iterator[FieldChange]:
    for name in type(new).model_fields:
        was, now = getattr(old, name), getattr(new, name)
        if was == now or name in UNTOLD:
            continue
        if name == "items":
            yield from _items(was, now)
            continue
        words = f"{value_words(new.kind, name, was)} to {value_words(new.kind, name, now)}"
        label = label_of(new.kind, name)
        yield FieldChange(name, label, _plain(was), _plain(now), f"{label} {words}")


def _items(
    was: tuple[LoadItem | AcItem, ...], now: tuple[LoadItem | AcItem, ...]
) -> Iterator[FieldChange]:
    before, after = {i.id: i for i in was}, {i.id: i for i in now}
    for name in dict.fromkeys([*before, *after]):
        old, new = before.get(name), after.get(name)
        if old == new:
            continue
        some = new or old
        assert some is not None  # it is in one of both
        how = "without" if new is None else "with" if old is None else "other figures of"
        words = f"{how} {some.name}"
        names = [None if one is None else one.name for one in (old, new)]
        yield FieldChange(f"items.{name}", some.name, names[0], names[1], words)


def _plain(value: object) -> Value:
    if value is None or isinstance(value, str | bool | float):
        return value
    if isinstance(value, int):
        return float(value)
    return f"{len(value)} entries" if isinstance(value, list | tuple) else str(value)


def _cables(before: Design, after: Design) -> Iterator[Difference]:
    kept: set[str] = set()
    by_ends = {frozenset((c.start, c.end)): c for c in after.cables}
    for cable in before.cables:
        ends = frozenset((cable.start, cable.end))
        same = after.cables_by_id.get(cable.id)
        if same is None or {same.start, same.end} != ends:
            same = by_ends.get(ends, same)
        if same is None or same.id in kept:
            yield _cable("gone", before, cable, cable.id)
            continue
        kept.add(same.id)
        if fields := tuple(_cable_fields(before, after, cable, same)):
            told = Thing(same.id, after.cable_name(same))
            yield Difference.told("cable", "changed", told, cable.id, fields)
    for cable in after.cables:
        if cable.id not in kept:
            yield _cable("new", after, cable, None)


def _cable(how: How, design: Design, cable: Cable, was: str | None) -> Difference:
    name = f"{cable.gauge}, {cable.length_m:g} m: {design.cable_name(cable)}"
    return Difference.told("cable", how, Thing(cable.id, name), was, ())


# Fields by which a cable is another than it was; how it is counted among others is no difference.
COMPARED = (
    "gauge",
    "length_m",
    "insulation_c",
    "purpose",
    "copper_mm2",
    "sheathed",
    "colour",
    "label",
    "start_lug",
    "end_lug",
)


def _cable_fields(before: Design, after: Design, old: Cable, new: Cable) -> Iterable[FieldChange]:
    if {old.start, old.end} != {new.start, new.end}:
        was, now = before.cable_name(old), after.cable_name(new)
        yield FieldChange("ends", "runs", was, now, f"was {was}")
    turned = {"start_lug": "end_lug", "end_lug": "start_lug"} if old.start == new.end else {}
    for name in COMPARED:
        earlier, later = getattr(old, turned.get(name, name)), getattr(new, name)
        if earlier != later:
            words = cable_field_words(name, earlier, later)
            yield FieldChange(name, name.replace("_", " "), _plain(earlier), _plain(later), words)
