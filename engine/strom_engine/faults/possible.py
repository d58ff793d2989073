"""Every single fault that a sweep tries on a design, and faults by their keys."""

from __future__ import annotations

from collections.abc import Iterable

from pydantic import ValidationError

from strom_engine.design import (
    Alternator,
    Bank,
    Breaker,
    Charger,
    Component,
    DcDc,
    Design,
    FittedGenerator,
    FittedInverter,
    Fuse,
    FuseBlock,
    Isolator,
    OneWayCombiner,
    OnOffSwitch,
    Protection,
    Relay,
    Solar,
)
from strom_engine.errors import FaultError, Problem
from strom_engine.faults.effects import effects_of
from strom_engine.faults.fault import Fault, FaultKind

__all__ = ["fault_from_key", "possible_faults"]


def possible_faults(design: Design) -> tuple[Fault, ...]:
    """Every single fault that the sweep tries on a design, each in its usual magnitude.

    Args:
        design: the boat, as surveyed.

    Returns:
        Faults in the order of parts and cables.
    """
    return tuple(
        Fault(kind=kind, part=part.id, words=words, at=at)
        for part in design.components
        for kind, words, at in _faults(design, part)
    )


def fault_from_key(design: Design, key: str) -> Fault:
    """A fault by its key, as ``Fault.key`` writes it: kind, part, where, ``=magnitude``.

    Args:
        design: the boat that has it.
        key: such as ``source_fading alternator =0.2``.

    Raises:
        FaultError: the design cannot have it.

    >>> from strom_engine.survey import new_boat
    >>> _, design = new_boat("cruising_yacht", "selector")
    >>> fault_from_key(design, "source_limited alternator =0.4").amount
    0.4
    """
    known = {fault.key: fault for fault in possible_faults(design)}
    if key in known:
        return known[key]
    words = key.split()
    try:
        told = _read(words)
    except (ValidationError, ValueError, IndexError):
        raise FaultError([Problem("key", f"{key!r} names no fault")]) from None
    plain = told.model_copy(update={"magnitude": None}).key
    told = told.model_copy(update={"words": known[plain].words if plain in known else key})
    effects_of(design, told)
    return told


def _read(words: list[str]) -> Fault:
    fields: dict[str, object] = {"kind": words[0], "part": words[1]}
    for word in words[2:]:
        if word.startswith("="):
            fields["magnitude"] = float(word[1:])
        elif "." in word:
            fields["to"] = word
        else:
            fields["at"] = word
    return Fault.model_validate(fields)


def _faults(design: Design, part: Component) -> Iterable[tuple[FaultKind, str, str]]:
    """Faults of a part: kind, words, and where."""
    name = part.name
    wired = {post for cable in design.cables for post in (cable.start, cable.end)}
    match part:
        case Relay():
            yield "stuck_open", f"{name} never closes", ""
            yield "stuck_closed", f"{name} never opens", ""
        case Protection():
            yield "stuck_open", f"{name} stays open", ""
            yield "stuck_closed", f"{name} never opens", ""
        case DcDc() | OneWayCombiner():
            yield "stuck_open", f"{name} does not start", ""
        case OnOffSwitch() if part.drive == "held":
            yield "stuck_open", f"the coil of {name} fails: it lets go", ""
        case FittedInverter():
            yield "stuck_open", f"{name} gives nothing", ""
        case Fuse() | Breaker():
            yield "fuse_open", f"{name} has opened", "b"
        case FuseBlock():
            for n in range(1, len(part.branch_a) + 1):
                if f"{part.id}.b{n}" in wired:
                    yield "fuse_open", f"the fuse of branch {n} of {name} has opened", f"b{n}"
        case Alternator():
            yield "source_dead", f"{name} gives nothing", ""
            yield "source_fading", f"{name} fades as it warms up", ""
            if part.sensing == "external":
                yield "sense_off", f"a sense wire of {name} is off", ""
        case Charger() | Solar() | FittedGenerator():
            yield "source_dead", f"{name} gives nothing", ""
        case Isolator():
            for start, end in part.ways():
                if {f"{part.id}.{start}", f"{part.id}.{end}"} <= wired:
                    way = f"from output {end[3:]}"
                    way += f" to input {start[2:] or '1'}" if part.inputs > 1 else ""
                    yield (
                        "diode_short",
                        f"{name} is shorted: it passes back {way}",
                        f"{start}-{end}",
                    )
        case Bank():
            yield "dead_cell", f"{name} has a dead cell", ""
            yield "negative_open", f"the negative of {name} is loose", ""
