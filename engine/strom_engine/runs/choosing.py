"""Chooses sizes and devices: the smallest in stock that meets everything, what is locked kept."""

from __future__ import annotations

from dataclasses import dataclass

from strom_engine.design import (
    AddPart,
    CableFields,
    Design,
    OneChange,
    SetCables,
    SetPart,
    Several,
    apply_change,
)
from strom_engine.design.fields import FieldValue
from strom_engine.reference import device_named
from strom_engine.runs.allowed_current import (
    Standard,
)
from strom_engine.runs.sizing_pass import SizingPass
from strom_engine.runs.stock import Stock, default_stock
from strom_engine.runs.wiring import part_of
from strom_engine.survey import SurveyedDesign

__all__ = ["Choice", "choose"]

FREE_ROUNDS, FIRM_ROUNDS = 2, 4  # sizes chosen anew; then only what has become too thin
MOST_PUT_IN = 120


@dataclass(frozen=True)
class Choice:
    """What choosing comes to: one change for it all, in words line by line, and what is left.

    ``change`` is None where nothing needs to change.
    """

    change: Several | None
    lines: tuple[str, ...]
    left: tuple[str, ...]
    design: Design


def choose(
    design: SurveyedDesign,
    stock: Stock | None = None,
    standard: Standard = "abyc",
    cables: tuple[str, ...] | None = None,
    *,
    only_weak: bool = False,
) -> Choice:
    """Sizes and devices for some cables, or for all of them.

    Args:
        design: the boat, as surveyed.
        stock: what may be chosen from; None is every usual size.
        standard: whose allowable currents count.
        cables: ids of the cables; None is all. Locked ones stay.
        only_weak: what is thicker than it need be stays.

    Returns:
        The changes, in words too, and what nothing in stock is enough for. Currents move a little
        with
        the sizes, so that it is done again until nothing changes.

    >>> from strom_engine.survey import SurveyedDesign, new_boat
    >>> survey, design = new_boat("cruising_yacht", "selector")
    >>> from strom_engine.survey import surveyed
    >>> choose(surveyed(design, survey)).lines[0]
    'Put in Main selector fuse: Post fuse, 30 A, close to Main selector common'
    """
    kept = stock or default_stock()
    now, made, unprotected = _protected(design, kept, standard, cables)
    left: list[str] = []
    for n in range(FREE_ROUNDS + FIRM_ROUNDS):
        firm = only_weak or n >= FREE_ROUNDS
        step = SizingPass(now, kept, standard, _named(design, now, cables), firm)
        changes, left = [*step.devices(), *step.sizes()], step.left
        if firm and not changes:
            break
        for change in changes:
            now = apply_change(now, change)
        made += changes
    left = [*unprotected, *left]
    merged = _merged(design, made)
    lines = tuple(_line(design, now, change) for change in merged)
    told = tuple(line for group in lines for line in group)
    several = Several(words=_title(cables, told), changes=merged) if merged else None
    return Choice(several, told, tuple(dict.fromkeys(left)), now)


def _protected(
    design: Design, stock: Stock, standard: Standard, cables: tuple[str, ...] | None
) -> tuple[Design, list[OneChange], list[str]]:
    """The design with devices where they are missing, put in one after the other."""
    now, made = design, list[OneChange]()
    for _ in range(MOST_PUT_IN):
        step = SizingPass(now, stock, standard, _named(design, now, cables), only_weak=True)
        put = step.missing()
        if put is None:
            return now, made, step.left
        now = apply_change(now, put)
        made.append(put)
    return now, made, []


def _title(cables: tuple[str, ...] | None, lines: tuple[str, ...]) -> str:
    what = "every run" if cables is None else "one run" if len(cables) <= 2 else "some runs"
    return f"Chose sizes and devices for {what}: {len(lines)} changes"


def _named(start: Design, now: Design, cables: tuple[str, ...] | None) -> frozenset[str]:
    """Cables to choose for, with the pieces that fuses have cut off them meanwhile."""
    if cables is None:
        return frozenset(now.cables_by_id)
    new = set(now.cables_by_id) - set(start.cables_by_id)
    return frozenset(cables) | new


def _merged(design: Design, made: list[OneChange]) -> tuple[OneChange, ...]:
    """Changes of several rounds as one: for each cable and part only where it ends up."""
    added: list[OneChange] = [c for c in made if isinstance(c, AddPart)]
    cables: dict[str, dict[str, FieldValue]] = {}
    parts: dict[str, dict[str, FieldValue]] = {}
    for change in made:
        if isinstance(change, SetCables):
            for row in change.rows:
                cables.setdefault(row.cable, {}).update(row.fields)
        elif isinstance(change, SetPart):
            parts.setdefault(change.part, {}).update(change.fields)
    rows = tuple(
        CableFields(cable=name, fields=fields)
        for name, fields in cables.items()
        if name not in design.cables_by_id
        or any(getattr(design.cables_by_id[name], f) != v for f, v in fields.items())
    )
    sets: list[OneChange] = [SetPart(part=p, fields=f) for p, f in parts.items()]
    return (*added, *sets, *([SetCables(rows=rows)] if rows else []))


def _line(design: Design, after: Design, change: OneChange) -> list[str]:
    """A change in words: what it was, what it becomes."""
    if isinstance(change, AddPart):
        part = after.by_id[change.part.id]
        rating = getattr(part, "rating_a", 0.0)
        label = device_named(getattr(part, "device", "anl")).label
        where = design.post_name(change.cables[0].start) if change.cables else ""
        known = part_of(change.cables[0].start) in design.by_id if change.cables else False
        at = f", close to {where}" if known else ""
        return [f"Put in {part.name}: {label}, {rating:g} A{at}"]
    if isinstance(change, SetPart):
        was, part = design.by_id.get(change.part), after.by_id[change.part]
        if was is None:
            return []
        told = f"{getattr(was, 'rating_a', 0):g} A to {getattr(part, 'rating_a', 0):g} A"
        return [f"{part.name}: {told}"]
    if not isinstance(change, SetCables):
        return []
    lines = []
    for row in change.rows:
        old, new = design.cables_by_id.get(row.cable), after.cables_by_id[row.cable]
        if old is not None and old.gauge != new.gauge:
            lines.append(f"{after.cable_name(new)}: {old.gauge} to {new.gauge}")
        if old is not None and "length_m" in row.fields and old.length_m != new.length_m:
            told = f"{old.length_m:g} m to {new.length_m:g} m"
            lines.append(f"{after.cable_name(new)}: {told}, the device moved nearer to its source")
    return lines
