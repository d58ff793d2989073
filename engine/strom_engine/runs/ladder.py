"""Selectivity: devices in series below each bank, and which of them opens on a short."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass
from functools import lru_cache

from strom_engine.design import Bank, Design
from strom_engine.runs.devices import protectors
from strom_engine.runs.guarding import guarding, rungs_above

__all__ = ["Ladder", "Opening", "Rung", "ladders", "openings"]

SURE_SHARE = 2.0  # above this many times the lower rating the upper one stays; own judgement


@dataclass(frozen=True)
class Rung:
    """A device on a bank's ladder: the one above it, what hangs on it, and whether it is sure to
    open before that one.

    ``selective``: ``sure``, ``likely`` (smaller, but not by half), ``not``, ``top``, or
    ``facing``: the two protect one cable from its two ends. ``breaks``: it can break the fault
    there; None where its type is not known.
    """

    device: str
    name: str
    label: str
    rating_a: float
    above: str | None
    depth: int
    selective: str
    fault_a: float
    interrupt_a: float | None
    breaks: bool | None
    feeds: tuple[str, ...]


@dataclass(frozen=True)
class Ladder:
    """The devices in series below a bank, and what hangs on it without any."""

    bank: str
    name: str
    rungs: tuple[Rung, ...]
    unprotected: tuple[str, ...]


@dataclass(frozen=True)
class Opening:
    """What opens on a short at the far end of a cable, from each bank that can feed it."""

    cable: str
    name: str
    opens: tuple[str, ...]
    words: str


@lru_cache(maxsize=32)
def ladders(design: Design) -> tuple[Ladder, ...]:
    """Selectivity, bank by bank: every device below the one that stands above it."""
    made = []
    for bank in design.of_type(Bank):
        loose = [c for c in design.cables if _unprotected(design, c.id, bank.id)]
        made.append(
            Ladder(
                bank.id,
                bank.name,
                tuple(_rungs(design, bank.id, None, 0)),
                tuple(design.cable_name(c) for c in loose),
            )
        )
    return tuple(made)


def _rungs(design: Design, bank: str, parent: str | None, depth: int) -> Iterator[Rung]:
    """The devices right below one, each followed by those below it."""
    found, devices = guarding(design), protectors(design)
    for device, above in found.above[bank].items():
        if above != parent:
            continue
        one = devices[device]
        yield Rung(
            device=device,
            name=one.name,
            label=one.label,
            rating_a=one.rating_a,
            above=parent,
            depth=depth,
            selective="facing"
            if parent and _facing(design, device, parent)
            else selectivity(one.rating_a, devices[parent].rating_a if parent else None),
            fault_a=one.fault_a,
            interrupt_a=one.interrupt_a,
            breaks=None if one.interrupt_a is None else one.interrupt_a >= one.fault_a,
            feeds=_fed_by(design, bank, device),
        )
        yield from _rungs(design, bank, device, depth + 1)


def _facing(design: Design, device: str, parent: str) -> bool:
    """Whether two devices stand the other way round as another bank sees them."""
    found = guarding(design)
    return any(
        device in above and parent in above and device in rungs_above(found, bank, parent)
        for bank, above in found.above.items()
    )


def _fed_by(design: Design, bank: str, device: str) -> tuple[str, ...]:
    at_post = guarding(design).at_post[bank]
    takers = (p for p in design.components if p.facts.takes)
    return tuple(p.name for p in takers if at_post.get(f"{p.id}.pos", ("", 0.0))[0] == device)


def _unprotected(design: Design, cable: str, bank: str) -> bool:
    guards = guarding(design).guards.get(cable, ())
    return any(g.bank == bank and g.device is None for g in guards)


def selectivity(lower_a: float, upper_a: float | None) -> str:
    """How sure it is that the lower of two devices opens first, by their ratings [A]."""
    if upper_a is None:
        return "top"
    if upper_a >= SURE_SHARE * lower_a:
        return "sure"
    return "likely" if upper_a > lower_a else "not"


@lru_cache(maxsize=32)
def openings(design: Design) -> tuple[Opening, ...]:
    """For every cable of the positive side: which device opens on a short on it."""
    found, devices = guarding(design), protectors(design)
    made = []
    for cable in design.cables:
        told, opens = [], []
        for guard in found.guards.get(cable.id, ()):
            bank = design.by_id[guard.bank].name
            if guard.device is None:
                told.append(f"{bank} feeds it past no device")
                continue
            rungs = rungs_above(found, guard.bank, guard.device)
            first, upper = devices[rungs[0]], rungs[1] if len(rungs) > 1 else None
            opens.append(first.id)
            words = f"{first.name} ({first.rating_a:g} A) opens against {bank}"
            how = selectivity(first.rating_a, devices[upper].rating_a if upper else None)
            if upper and _facing(design, first.id, upper):
                how = "facing"
            if upper and how == "not":
                words += f"; {devices[upper].name} ({devices[upper].rating_a:g} A) may open first"
            elif upper and how == "likely":
                words += f"; {devices[upper].name} ({devices[upper].rating_a:g} A) may open too"
            told.append(words)
        if told:
            name = design.cable_name(cable)
            made.append(Opening(cable.id, name, tuple(dict.fromkeys(opens)), "; ".join(told) + "."))
    return tuple(made)
