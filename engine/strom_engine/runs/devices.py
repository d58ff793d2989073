"""Overcurrent devices as they stand: type, rating, what passes them, what they must break."""

from __future__ import annotations

from dataclasses import dataclass
from functools import lru_cache

from strom_engine.design import Breaker, Design, FittedGenerator, Fuse, FuseBlock, Staged
from strom_engine.reference import DeviceType, device_type
from strom_engine.runs.currents import device_currents
from strom_engine.runs.faults import fault_currents

__all__ = ["Protector", "highest_v", "protectors"]

UNKNOWN_SHARE = 1.25  # with no source drawn: charged and equalised at up to this much of nominal


@dataclass(frozen=True)
class Protector:
    """A fuse or breaker, or a branch of a fused bus, with what passes it and what it must break."""

    id: str
    part: str
    name: str
    kind: str
    type: DeviceType | None
    rating_a: float
    current_a: float
    current_words: str
    brief_a: float
    fault_a: float
    fault_working: tuple[str, ...]
    interrupt_a: float | None
    place: str | None

    @property
    def label(self) -> str:
        """The type in words."""
        return self.type.label if self.type else "type not known"


def highest_v(design: Design) -> float:
    """The highest voltage that a device meets [V]: what the sources are set to, equalising too."""
    charging = [p for p in design.components if isinstance(p, Staged | FittedGenerator)]
    names = ("set_v", "bulk_v", "equalise_v", "out2_set_v", "out3_set_v")
    told = [volts for p in charging for n in names if (volts := getattr(p, n, None)) is not None]
    return max(told, default=design.system_v * UNKNOWN_SHARE)


@lru_cache(maxsize=32)
def protectors(design: Design) -> dict[str, Protector]:
    """Every overcurrent device of the design by its id, ``bus.b2`` for a branch."""
    found: dict[str, Protector] = {}
    for part in design.components:
        if isinstance(part, Fuse | Breaker):
            found[part.id] = _protector(
                design, part, part.id, part.name, part.rating_a, part.interrupt_a
            )
        elif isinstance(part, FuseBlock):
            for n, rating_a in enumerate(part.branch_a, start=1):
                name = f"{part.name}, branch {n}"
                found[f"{part.id}.b{n}"] = _protector(
                    design, part, f"{part.id}.b{n}", name, rating_a, None
                )
    return found


def _protector(
    design: Design,
    part: Fuse | Breaker | FuseBlock,
    name_id: str,
    name: str,
    rating_a: float,
    interrupt_a: float | None,
) -> Protector:
    faults, kind = fault_currents(design), device_type(part.device)
    posts = ["in"] if isinstance(part, FuseBlock) else ["a", "b"]
    at = [faults[f"{part.id}.{post}"] for post in posts if f"{part.id}.{post}" in faults]
    worst = max(at, key=lambda f: f.amps, default=None)
    lasting, brief_a = device_currents(design, name_id)
    listed = kind.interrupts_a(design.system_v) if kind else None
    return Protector(
        id=name_id,
        part=part.id,
        name=name,
        kind=part.kind,
        type=kind,
        rating_a=rating_a,
        current_a=lasting.amps if lasting else 0.0,
        current_words=lasting.words if lasting else "nothing is on it",
        brief_a=brief_a,
        fault_a=worst.amps if worst else 0.0,
        fault_working=worst.working if worst else (),
        interrupt_a=interrupt_a or listed,
        place=part.place,
    )
