"""Parts that have failed, as what they do to a boat."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass, field

from strom_engine.design import (
    Alternator,
    Bank,
    Cable,
    Charger,
    DcDc,
    Design,
    Fuse,
    Isolator,
    Relay,
    Solar,
)

__all__ = ["Fault", "Faulty", "faulty", "possible_faults"]

NOTHING_A = 1e-3
FADING_SHARE = 0.3  # of its hot output, what a machine gives whose diodes or belt go with the heat


@dataclass(frozen=True)
class Fault:
    """Something broken: its kind, the part, and words for it."""

    kind: str
    part: str
    words: str


@dataclass(frozen=True)
class Faulty:
    """A design with a fault, and what no design can say: what sticks, and dead cells."""

    design: Design
    stuck: dict[str, bool] = field(default_factory=dict)  # part: moved for good, or never
    dead_cells: dict[str, int] = field(default_factory=dict)


def possible_faults(design: Design) -> tuple[Fault, ...]:
    """Every single fault that the sweep tries on a design."""
    found: list[Fault] = []
    for part in design.components:
        name = part.name
        match part:
            case Relay():
                found += [
                    Fault("stuck_open", part.id, f"{name} never closes"),
                    Fault("stuck_closed", part.id, f"{name} never opens"),
                ]
            case DcDc():
                found.append(Fault("stuck_open", part.id, f"{name} does not start"))
            case Fuse():
                found.append(Fault("fuse_open", part.id, f"{name} has opened"))
            case Alternator():
                found += [
                    Fault("source_dead", part.id, f"{name} gives nothing"),
                    Fault("source_fading", part.id, f"{name} fades as it warms up"),
                ]
                if part.sensing == "external":
                    found.append(Fault("sense_off", part.id, f"a sense wire of {name} is off"))
            case Charger() | Solar():
                found.append(Fault("source_dead", part.id, f"{name} gives nothing"))
            case Isolator():
                found.append(Fault("diode_short", part.id, f"a diode of {name} is shorted"))
            case Bank():
                found += [
                    Fault("dead_cell", part.id, f"{name} has a dead cell"),
                    Fault("negative_open", part.id, f"the negative of {name} is loose"),
                ]
    return tuple(found)


def faulty(design: Design, fault: Fault) -> Faulty:
    """A design as a fault leaves it."""
    part = design.by_id[fault.part]
    match fault.kind:
        case "stuck_open":
            return Faulty(design, stuck={part.id: False})
        case "stuck_closed":
            return Faulty(design, stuck={part.id: True})
        case "dead_cell":
            return Faulty(design, dead_cells={part.id: 1})
        case "fuse_open":
            return Faulty(_without(design, lambda c: f"{part.id}.b" in (c.start, c.end)))
        case "negative_open":
            return Faulty(_without(design, lambda c: f"{part.id}.neg" in (c.start, c.end)))
        case "sense_off":
            posts = {f"{part.id}.sense_pos", f"{part.id}.sense_neg"}
            return Faulty(_without(design, lambda c: bool(posts & {c.start, c.end})))
        case "source_dead" | "source_fading":
            return Faulty(_weakened(design, part.id, dead=fault.kind == "source_dead"))
        case "diode_short":
            return Faulty(_shorted(design, part.id))
        case _:
            raise ValueError(f"there is no fault {fault.kind!r}")


def _without(design: Design, gone: Callable[[Cable], bool]) -> Design:
    return design.having(cables=tuple(c for c in design.cables if not gone(c)))


def _weakened(design: Design, name: str, *, dead: bool) -> Design:
    part = design.by_id[name]
    match part:
        case Alternator() if dead:
            weak: object = part.model_copy(update={"rated_a": NOTHING_A, "belt_limit_a": None})
        case Alternator():
            share = part.hot_share * FADING_SHARE
            weak = part.model_copy(update={"hot_share": share})
        case Charger():
            weak = part.model_copy(update={"rated_a": NOTHING_A})
        case Solar():
            weak = part.model_copy(update={"panel_w": NOTHING_A})
        case _:
            raise ValueError(f"{name!r} is no source that can fail")
    parts = tuple(weak if p.id == name else p for p in design.components)
    return design.having(components=parts)


def _shorted(design: Design, name: str) -> Design:
    short = Cable(
        id="shorted_diode", start=f"{name}.in", end=f"{name}.out1", length_m=0.01, gauge="2/0 AWG"
    )
    return design.having(cables=(*design.cables, short))
