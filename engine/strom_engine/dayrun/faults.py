"""Parts that have failed, as what they do to a boat."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass, field, replace

from strom_engine.circuit.network import isolator_ways
from strom_engine.dayrun.heat import Failing
from strom_engine.dayrun.standing import JOINING
from strom_engine.design import (
    Alternator,
    Bank,
    Breaker,
    Cable,
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

__all__ = ["Fault", "Faulty", "fault_named", "faulty", "possible_faults"]

NOTHING_A = 1e-3
FADING_SHARE = 0.3  # of its hot output, what a machine gives whose diodes or belt go with the heat


@dataclass(frozen=True)
class Fault:
    """Something broken: its kind, the part, words for it, and which post or way of the part."""

    kind: str
    part: str
    words: str
    at: str = ""

    @property
    def key(self) -> str:
        """What tells it from every other one of a design."""
        return " ".join(filter(None, (self.kind, self.part, self.at)))


@dataclass(frozen=True)
class Faulty:
    """A design with a fault, and what no design can say: what sticks, dead cells, machines."""

    design: Design
    stuck: dict[str, bool] = field(default_factory=dict)  # part: moved for good, or never
    dead_cells: dict[str, int] = field(default_factory=dict)
    failing: dict[str, Failing] = field(default_factory=dict)  # alternators
    words: str = "something has failed"


def possible_faults(design: Design) -> tuple[Fault, ...]:
    """Every single fault that the sweep tries on a design."""
    return tuple(
        Fault(kind, part.id, words, at)
        for part in design.components
        for kind, words, at in _faults(design, part)
    )


def fault_named(design: Design, key: str) -> Fault:
    """A fault of a design by its key. Raises KeyError."""
    return {f.key: f for f in possible_faults(design)}[key]


def _faults(design: Design, part: Component) -> Iterable[tuple[str, str, str]]:
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
            for start, end in isolator_ways(part):
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


def faulty(design: Design, fault: Fault) -> Faulty:
    """A design as a fault leaves it."""
    return replace(_faulty(design, fault), words=fault.words)


def _faulty(design: Design, fault: Fault) -> Faulty:
    part = design.by_id[fault.part]
    match fault.kind:
        case "stuck_open" | "stuck_closed":
            moved = (fault.kind == "stuck_closed") == (part.kind in JOINING)
            return Faulty(design, stuck={part.id: moved})
        case "dead_cell":
            return Faulty(design, dead_cells={part.id: 1})
        case "fuse_open":
            return Faulty(_without(design, f"{part.id}.{fault.at}"))
        case "negative_open":
            return Faulty(_without(design, f"{part.id}.neg"))
        case "sense_off":
            return Faulty(_without(design, f"{part.id}.sense_pos", f"{part.id}.sense_neg"))
        case "source_fading":
            return Faulty(design, failing={part.id: Failing(1.0, FADING_SHARE)})
        case "source_dead" if isinstance(part, Alternator):
            return Faulty(design, failing={part.id: Failing(0.0, 0.0)})
        case "source_dead":
            return Faulty(_dead(design, part.id))
        case "diode_short":
            return Faulty(_shorted(design, part.id, *fault.at.split("-")))
        case _:
            raise ValueError(f"there is no fault {fault.kind!r}")


def _without(design: Design, *posts: str) -> Design:
    """A design without the cables at some posts."""
    cables = tuple(c for c in design.cables if not {c.start, c.end} & set(posts))
    return design.having(cables=cables)


def _dead(design: Design, name: str) -> Design:
    part = design.by_id[name]
    match part:
        case Charger():
            weak: object = part.model_copy(update={"rated_a": NOTHING_A})
        case Solar():
            weak = part.model_copy(update={"panel_w": NOTHING_A})
        case FittedGenerator():
            none = tuple(p.model_copy(update={"current_a": 0.0}) for p in part.points)
            weak = part.model_copy(update={"points": none})
        case _:
            raise ValueError(f"{name!r} is no source that can fail")
    parts = tuple(weak if p.id == name else p for p in design.components)
    return design.having(components=parts)


def _shorted(design: Design, name: str, start: str, end: str) -> Design:
    short = Cable(
        id="shorted_diode",
        start=f"{name}.{start}",
        end=f"{name}.{end}",
        length_m=0.01,
        gauge="2/0 AWG",
    )
    return design.having(cables=(*design.cables, short))
