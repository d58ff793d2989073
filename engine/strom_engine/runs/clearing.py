"""A short at the far end of a cable: does the device before it open, and soon enough."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass
from functools import lru_cache

from strom_engine.batteries import bank_source
from strom_engine.design import Bank, Cable, Design
from strom_engine.reference import bears_s, longest_opening_s, resistivity_ohm_mm2_per_m
from strom_engine.runs.devices import Protector, protectors
from strom_engine.runs.faults import least_ohms
from strom_engine.runs.guarding import CableGuard, guarding
from strom_engine.runs.repairs import guarded_cables
from strom_engine.runs.wiring import part_of

__all__ = ["Clearing", "clearing"]

HALF = 0.5


@dataclass(frozen=True)
class Clearing:
    """A short at the end of a cable, fed by the bank nearest to it, half charged, copper hot.

    ``opens_s`` is the longest time to open, None where the device may hold for ever; ``bears_s``
    how long the thinnest copper behind the device bears it.
    """

    device: str
    cable: str
    far_post: str
    amps: float
    multiple: float
    opens_s: float | None
    bears_s: float
    working: tuple[str, ...]

    @property
    def clears(self) -> bool:
        """Whether the device opens before the cable is spoilt."""
        return self.opens_s is not None and self.opens_s <= self.bears_s


@lru_cache(maxsize=32)
def clearing(design: Design) -> tuple[Clearing, ...]:
    """The weakest short behind every device that protects a power cable.

    Args:
        design: the boat as drawn.

    Returns:
        One a device, that which it clears worst: the cable's end, amps [A] and times [s].
    """
    found = []
    for one in protectors(design).values():
        shorts = [s for c in guarded_cables(design, one.id) for s in _shorts(design, one, c)]
        if shorts:
            found.append(min(shorts, key=lambda s: (s.clears, s.multiple)))
    return tuple(found)


def _shorts(design: Design, one: Protector, cable: Cable) -> Iterator[Clearing]:
    guards = [g for g in guarding(design).guards.get(cable.id, ()) if g.device == one.id]
    shorts = [_short(design, one, cable, guard) for guard in guards]
    yield from sorted(shorts, key=lambda s: -s.amps)[:1]


def _short(design: Design, one: Protector, cable: Cable, guard: CableGuard) -> Clearing:
    far = cable.end if guard.fed_at == cable.start else cable.start
    bank = design.by_id[guard.bank]
    assert isinstance(bank, Bank)
    source = bank_source(bank, HALF)
    hot = resistivity_ohm_mm2_per_m(cable.insulation_c) / resistivity_ohm_mm2_per_m(
        design.conductor_temperature_c
    )
    out_ohm = hot * least_ohms(design, f"{bank.id}.pos")[far]
    back = least_ohms(design, f"{bank.id}.neg", "neg").get(f"{part_of(far)}.neg")
    back_ohm = out_ohm if back is None else hot * back
    amps = source.emf_v / (source.resistance_ohm + out_ohm + back_ohm)
    opens = longest_opening_s(one.type.type if one.type else "", amps / one.rating_a)
    bears = bears_s(cable.area_mm2, cable.insulation_c, amps)
    words = "as far back as out" if back is None else "back"
    time = "may never" if opens is None else f"within {opens:.1f} s"
    return Clearing(
        device=one.id,
        cable=cable.id,
        far_post=far,
        amps=amps,
        multiple=amps / one.rating_a,
        opens_s=opens,
        bears_s=bears,
        working=(
            f"{bank.name} half charged, copper at {cable.insulation_c} °C: {source.emf_v:.1f} V / "
            f"({1000 * source.resistance_ohm:.1f} mΩ inside + {1000 * out_ohm:.1f} mΩ out + "
            f"{1000 * back_ohm:.1f} mΩ {words}) = {amps:.0f} A.",
            f"{amps:.0f} A / {one.rating_a:g} A = {amps / one.rating_a:.1f} times its rating: "
            f"{one.label} opens {time}; {cable.gauge} bears it for {bears:.1f} s.",
        ),
    )
