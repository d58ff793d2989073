"""What faults do to a boat: a design as they leave it, and what no design can say."""

from __future__ import annotations

import math
from collections.abc import Callable, Mapping
from dataclasses import dataclass, field, replace
from typing import NamedTuple

from strom_engine.design import (
    Alternator,
    Bank,
    Cable,
    Charger,
    Component,
    DcDc,
    Design,
    FittedGenerator,
    FittedInverter,
    Isolator,
    LoadGroup,
    LoadItem,
    Solar,
)
from strom_engine.design.fields import PostRef
from strom_engine.errors import FaultError, Problem
from strom_engine.faults.fault import Fault

__all__ = ["Effects", "Failing", "effects_of"]

NOTHING_SHARE = 3e-5  # what a dead source still gives, so that it is computed like any other
OPEN_OHM = math.inf
SHORT_GAUGE, SHORT_M = "2/0 AWG", 0.01


class Failing(NamedTuple):
    """What a failing machine still gives, cold and warm, as a share of what it should [-]."""

    cold: float
    warm: float


@dataclass(frozen=True)
class Effects:
    """A design with its faults, and what no design can say.

    ``added_ohm`` is resistance [ohm] in a conductor beyond its own, by cable or by the post that
    names a contact, infinite where it is open. ``stuck`` parts stand moved for good (True) or
    never move. ``bank_ohm`` [ohm] is added inside banks; ``dead_cells`` counts cells. ``failing``
    are alternators.
    """

    design: Design
    added_ohm: Mapping[str, float] = field(default_factory=dict)
    stuck: Mapping[str, bool] = field(default_factory=dict)
    dead_cells: Mapping[str, int] = field(default_factory=dict)
    bank_ohm: Mapping[str, float] = field(default_factory=dict)
    failing: Mapping[str, Failing] = field(default_factory=dict)
    words: str = "something has failed"

    @property
    def added(self) -> tuple[tuple[str, float], ...]:
        """Added resistances [ohm] in an order of their own, to key caches by."""
        return tuple(sorted(self.added_ohm.items()))

    def at_work(self) -> Design:
        """The design with failing machines as they are when warm from work."""
        if not self.failing:
            return self.design
        parts = (
            p.model_copy(update={"field_limit": _field(p) * self.failing[p.id].warm})
            if isinstance(p, Alternator) and p.id in self.failing
            else p
            for p in self.design.components
        )
        return self.design.replace_unchecked(components=tuple(parts))


def _field(part: Alternator) -> float:
    return 1.0 if part.field_limit is None else part.field_limit


def effects_of(design: Design, *faults: Fault) -> Effects:
    """What faults make of a design, one after another.

    Args:
        design: the boat, as surveyed.
        faults: each with its magnitude, in the unit of its kind.

    Returns:
        The design as they leave it, and what no design can say: added resistance [ohm], what
        sticks,
        dead cells, failing machines.

    Raises:
        FaultError: naming each that the design cannot have.

    >>> from strom_engine.survey import new_boat
    >>> _, design = new_boat("cruising_yacht", "selector")
    >>> effects_of(design, Fault(kind="dead_cell", part="house_bank")).dead_cells
    {'house_bank': 1}
    """
    found, problems = Effects(design), []
    for i, fault in enumerate(faults):
        try:
            found = _with(found, fault)
        except _CannotHaveError as error:
            problems.append(Problem(f"faults[{i}]", str(error)))
    if problems:
        raise FaultError(problems)
    told = [fault.words or fault.key for fault in faults]
    return replace(found, words="; ".join(told) or found.words)


class _CannotHaveError(Exception):
    """A design cannot have this fault, in words."""


def _with(now: Effects, fault: Fault) -> Effects:
    return _APPLIED[fault.kind](now, fault)


def _part(now: Effects, fault: Fault) -> Component:
    part = now.design.by_id.get(fault.part)
    if part is None:
        raise _CannotHaveError(f"there is no part {fault.part!r} for {fault.kind}")
    return part


def _cable(now: Effects, fault: Fault) -> Cable:
    cable = now.design.cables_by_id.get(fault.part)
    if cable is None:
        raise _CannotHaveError(f"there is no cable {fault.part!r} for {fault.kind}")
    return cable


def _bank(now: Effects, fault: Fault) -> Bank:
    part = _part(now, fault)
    if not isinstance(part, Bank):
        raise _CannotHaveError(f"{fault.kind} is of banks, and {part.name} is none")
    return part


def _conductor(now: Effects, fault: Fault) -> str:
    """The conductor meant: a cable, or a contact, fuse or link by the post that names it."""
    if fault.part in now.design.cables_by_id:
        return fault.part
    part = _part(now, fault)
    first = part.joins()[0][0] if part.joins() else ""
    named = fault.at or first
    if named not in part.posts() or not part.joins():
        raise _CannotHaveError(f"{part.name} has no contact or link {named!r}")
    return PostRef.of(part.id, named)


def _resistance(now: Effects, fault: Fault) -> Effects:
    name = _conductor(now, fault)
    more = now.added_ohm.get(name, 0.0) + fault.amount
    return replace(now, added_ohm={**now.added_ohm, name: more})


def _contact_open(now: Effects, fault: Fault) -> Effects:
    return replace(now, added_ohm={**now.added_ohm, _conductor(now, fault): OPEN_OHM})


def _stuck(now: Effects, fault: Fault) -> Effects:
    part = _part(now, fault)
    if not part.moves_itself:
        raise _CannotHaveError(f"{part.name} does not move by itself")
    moved = (fault.kind == "stuck_closed") == part.facts.open_at_rest
    return replace(now, stuck={**now.stuck, part.id: moved})


def _dead_cell(now: Effects, fault: Fault) -> Effects:
    bank = _bank(now, fault)
    return replace(now, dead_cells={**now.dead_cells, bank.id: round(fault.amount)})


def _bank_resistance(now: Effects, fault: Fault) -> Effects:
    bank = _bank(now, fault)
    more = now.bank_ohm.get(bank.id, 0.0) + fault.amount
    return replace(now, bank_ohm={**now.bank_ohm, bank.id: more})


def _lost_capacity(now: Effects, fault: Fault) -> Effects:
    bank = _bank(now, fault)
    return _replaced(now, bank, unit_ah=bank.unit_ah * (1 - fault.amount))


def _standing_draw(now: Effects, fault: Fault) -> Effects:
    """Something that nobody listed draws from a bank's plus, whatever is switched.

    Its minus is where that of the bank leads, so that a clamp on the bank's negative shows it.
    """
    bank = _bank(now, fault)
    minus = PostRef.of(bank.id, "neg")
    lead = next(iter(now.design.cables_on(minus)), None)
    if lead is not None:
        minus = lead.end if lead.start == minus else lead.start
    item = LoadItem(
        id="unlisted", name="Unlisted", draw_a=fault.amount, law="current", always_on=True
    )
    group = LoadGroup(id=f"unlisted_{bank.id}", name="Unlisted draw", items=(item,))
    leads = tuple(
        Cable(
            id=f"{group.id}_{side}",
            start=start,
            end=PostRef.of(group.id, side),
            length_m=SHORT_M,
            gauge=SHORT_GAUGE,
        )
        for side, start in (("pos", PostRef.of(bank.id, "pos")), ("neg", minus))
    )
    design = now.design.replace_unchecked(
        components=(*now.design.components, group), cables=(*now.design.cables, *leads)
    )
    return replace(now, design=design)


def _without(now: Effects, *posts: str) -> Effects:
    """Without the cables at some posts."""
    cables = tuple(c for c in now.design.cables if not {c.start, c.end} & set(posts))
    return replace(now, design=now.design.replace_unchecked(cables=cables))


def _cable_open(now: Effects, fault: Fault) -> Effects:
    gone = _cable(now, fault)
    cables = tuple(c for c in now.design.cables if c.id != gone.id)
    return replace(now, design=now.design.replace_unchecked(cables=cables))


def _fuse_open(now: Effects, fault: Fault) -> Effects:
    part = _part(now, fault)
    if fault.at not in part.posts():
        raise _CannotHaveError(f"{part.name} has no post {fault.at!r}")
    return _without(now, PostRef.of(part.id, fault.at))


def _negative_open(now: Effects, fault: Fault) -> Effects:
    part = _part(now, fault)
    if "neg" not in part.posts():
        raise _CannotHaveError(f"{part.name} has no negative")
    return _without(now, PostRef.of(part.id, "neg"))


def _sense_off(now: Effects, fault: Fault) -> Effects:
    part = _part(now, fault)
    if "sense_pos" not in part.posts():
        raise _CannotHaveError(f"{part.name} has no sense wires")
    return _without(now, PostRef.of(part.id, "sense_pos"), PostRef.of(part.id, "sense_neg"))


def _wrong_landing(now: Effects, fault: Fault) -> Effects:
    cable = _cable(now, fault)
    if fault.at not in ("start", "end") or fault.to not in now.design.post_polarity:
        raise _CannotHaveError("a wrong landing names an end of a cable and a post that there is")
    moved = cable.model_copy(update={fault.at: fault.to})
    cables = tuple(moved if c.id == cable.id else c for c in now.design.cables)
    return replace(now, design=now.design.replace_unchecked(cables=cables))


def _fading(now: Effects, fault: Fault) -> Effects:
    part = _part(now, fault)
    if not isinstance(part, Alternator):
        raise _CannotHaveError(f"{part.name} is no alternator that could fade")
    return replace(now, failing={**now.failing, part.id: Failing(1.0, fault.amount)})


def _limited(now: Effects, fault: Fault) -> Effects:
    part = _part(now, fault)
    share = 0.0 if fault.kind == "source_dead" else fault.amount
    if isinstance(part, Alternator):
        return replace(now, failing={**now.failing, part.id: Failing(share, share)})
    left = max(share, NOTHING_SHARE)
    match part:
        case Charger():
            return _replaced(now, part, rated_a=part.rated_a * left)
        case Solar():
            return _replaced(now, part, panel_w=part.panel_w * left)
        case FittedGenerator():
            weak = tuple(
                p.model_copy(update={"current_a": p.current_a * share}) for p in part.points
            )
            return _replaced(now, part, points=weak)
        case FittedInverter() if part.charger_a is not None:
            return _replaced(now, part, charger_a=part.charger_a * left)
        case DcDc():
            return _replaced(now, part, limit_a=part.limit_a * left)
        case _:
            raise _CannotHaveError(f"{part.name} is no source that can fail")


def _replaced(now: Effects, part: Component, **fields: object) -> Effects:
    weak = part.model_copy(update=fields)
    parts = tuple(weak if p.id == part.id else p for p in now.design.components)
    return replace(now, design=now.design.replace_unchecked(components=parts))


def _way(now: Effects, fault: Fault) -> tuple[Isolator, PostRef, PostRef]:
    part = _part(now, fault)
    start, _, end = fault.at.partition("-")
    if not isinstance(part, Isolator) or (start, end) not in part.ways():
        raise _CannotHaveError(f"{part.name} has no way {fault.at!r} through it")
    return part, PostRef.of(part.id, start), PostRef.of(part.id, end)


def _diode_short(now: Effects, fault: Fault) -> Effects:
    _, start, end = _way(now, fault)
    short = Cable(id="shorted_diode", start=start, end=end, length_m=SHORT_M, gauge=SHORT_GAUGE)
    return replace(now, design=now.design.replace_unchecked(cables=(*now.design.cables, short)))


def _diode_open(now: Effects, fault: Fault) -> Effects:
    """Of an isolator with one input: what its open way led to is on no output any more."""
    _, _, end = _way(now, fault)
    return _without(now, end)


_APPLIED: dict[str, Callable[[Effects, Fault], Effects]] = {
    "added_resistance": _resistance,
    "bank_resistance": _bank_resistance,
    "cable_open": _cable_open,
    "contact_open": _contact_open,
    "dead_cell": _dead_cell,
    "diode_open": _diode_open,
    "diode_short": _diode_short,
    "fuse_open": _fuse_open,
    "lost_capacity": _lost_capacity,
    "negative_open": _negative_open,
    "sense_off": _sense_off,
    "source_dead": _limited,
    "source_fading": _fading,
    "source_limited": _limited,
    "standing_draw": _standing_draw,
    "stuck_closed": _stuck,
    "stuck_open": _stuck,
    "wrong_landing": _wrong_landing,
}
