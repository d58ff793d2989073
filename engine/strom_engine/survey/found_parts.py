"""Parts found aboard, landed where they usually are: a named change for each."""

from __future__ import annotations

from typing import Any

from strom_engine.design import (
    AddPart,
    Alternator,
    Bank,
    BusBar,
    DcDc,
    Design,
    FittedGenerator,
    Solar,
)
from strom_engine.design.changes import change_from
from strom_engine.design.edits import free_id
from strom_engine.design.fields import PostRef
from strom_engine.design.parts import KINDS, facts_of
from strom_engine.design.usual import usual_part
from strom_engine.design.validation import suggest
from strom_engine.errors import ChangeError, Problem
from strom_engine.reference import BLOCK_V, chemistry

__all__ = ["FOUND_KINDS", "found_part"]

FOUND_KINDS = tuple(kind for kind, part in KINDS.items() if part.facts.found is not None)
THIN = "16 AWG"  # what a relay measures against


def _usual_stages(bank: Bank) -> dict[str, float]:
    """Absorption and float [V] as usual for a bank's chemistry; source: battery_chemistry."""
    figures, blocks = chemistry(bank.chemistry), bank.nominal_v / BLOCK_V
    return {
        "set_v": round(figures.absorption_v * blocks, 2),
        "float_v": round(figures.float_v * blocks, 2),
    }


def found_part(
    design: Design, kind: str, name: str, place: str | None, bank: str | None
) -> AddPart:
    """The change that puts a found part aboard with usual, assumed figures.

    A source or a feed lands on the positive of a bank and on the negative side of that bank; a
    switch goes into the positive of a bank; a relay and a dc-dc charger go between an engine
    bank and a bank; an isolator goes between an alternator and what it charged, with a second
    output to a bank; a new bank is joined by its negative. Raises ChangeError naming what is
    not there, or that such a kind is not found so.

    Args:
        design: as drawn.
        kind: of part.
        name: as the boat calls it.
        place: where it stands; that of the bank when None.
        bank: it belongs to; the house bank when None.
    """
    if kind not in FOUND_KINDS:
        text = f"{kind!r} cannot be put in as found{suggest(kind, FOUND_KINDS)}"
        raise ChangeError(text, (Problem("kind", text),))
    banks = {b.id: b for b in design.of_type(Bank)}
    if kind == "bank":
        bank = next(iter(banks), None)
    elif bank is None:
        text = "say on which bank it is"
        raise ChangeError(text, (Problem("bank", text),))
    if bank is not None and bank not in banks:
        text = f"there is no bank {bank!r}{suggest(bank, banks)}"
        raise ChangeError(text, (Problem("bank", text),))
    part_id = free_id(kind, design.by_id)
    part = usual_part(kind, part_id, name, design.system_v, place)
    if bank is not None and isinstance(part, Solar | FittedGenerator | DcDc):
        part = part.model_copy(update=_usual_stages(banks[bank]))
    change = change_from(
        {
            "type": "add_part",
            "part": part.model_dump(mode="json"),
            "cables": _cables(design, kind, part_id, bank) if bank else [],
            "relandings": _relandings(design, kind, part_id, str(bank)),
        }
    )
    assert isinstance(change, AddPart)
    return change


def _cables(design: Design, kind: str, part_id: str, bank: str) -> list[dict[str, Any]]:
    found_aboard = facts_of(kind).found
    assert found_aboard is not None  # every found kind says how it is landed
    gauge = found_aboard.gauge
    ends: list[tuple[str, str, str]] = []
    if kind != "bank":
        ends.append((f"{part_id}.{found_aboard.post}", f"{bank}.pos", gauge))
    if kind in ("relay", "dcdc", "one_way"):
        other = next((b.id for b in design.of_type(Bank) if b.role == "engine"), None)
        if other is None or other == bank:
            text = "it stands between a bank and the engine bank: name the other bank"
            raise ChangeError(text, (Problem("bank", text),))
        side = "a" if kind == "relay" else "in"
        ends.append((f"{part_id}.{side}", f"{other}.pos", gauge))
    if kind == "isolator":
        ends.append((f"{_alternator(design)}.out", f"{part_id}.in", gauge))
    elif kind != "switch":
        ends.append((f"{part_id}.neg", _negative(design, bank), THIN if kind == "relay" else gauge))
    taken = set(design.cables_by_id)
    found = []
    for start, end, size in ends:
        name = free_id(start.replace(".", "_"), taken)
        taken.add(name)
        row = {"id": name, "start": start, "end": end, "gauge": size}
        found.append(row | {"length_m": 2.0, "estimated": True})
    return found


def _alternator(design: Design) -> str:
    """The first alternator; raises ChangeError where there is none."""
    alternators = design.of_type(Alternator)
    if not alternators:
        text = "an isolator stands behind an alternator, and there is none"
        raise ChangeError(text, (Problem("kind", text),))
    return alternators[0].id


def _relandings(design: Design, kind: str, part_id: str, bank: str) -> list[dict[str, Any]]:
    """Ends of cables that now land on the part.

    What was on the bank's positive post is behind the switch, but what charges it stays; what
    was on the alternator's output is on the isolator's first.
    """
    if kind == "isolator":
        out = f"{_alternator(design)}.out"
        return [
            {"cable": cable.id, "end": end, "to": f"{part_id}.out1"}
            for cable in design.cables
            for end in ("start", "end")
            if getattr(cable, end) == out
        ]
    if kind != "switch":
        return []
    found = []
    for cable in design.cables:
        for end, other in (("start", cable.end), ("end", cable.start)):
            landed = design.by_id[PostRef(other).part].facts.found
            if (
                getattr(cable, end) == f"{bank}.pos"
                and not (landed is not None and landed.stays)
                and cable.purpose != "sense"
            ):
                found.append({"cable": cable.id, "end": end, "to": f"{part_id}.b"})
    return found


def _negative(design: Design, bank: str) -> str:
    """A free stud of the negative bar this bank is on, else the bank's own negative post."""
    taken = {ref for c in design.cables for ref in (c.start, c.end)}
    for bar in design.of_type(BusBar):
        studs = [f"{bar.id}.{post}" for post in bar.posts()]
        on_bar = any(
            {c.start, c.end} & set(studs) and f"{bank}.neg" in (c.start, c.end)
            for c in design.cables
        )
        free = [s for s in studs if s not in taken]
        if on_bar and free and not bar.engine_block:
            return free[0]
    return f"{bank}.neg"
