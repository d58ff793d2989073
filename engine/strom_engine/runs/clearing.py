"""A short at the far end of a cable: does the device before it open, and soon enough."""

from __future__ import annotations

from dataclasses import dataclass
from functools import lru_cache

from strom_engine.batteries import HALF_SOC, bank_source
from strom_engine.design import Bank, Cable, Design
from strom_engine.design.fields import PostRef
from strom_engine.reference import bears_s, longest_opening_s, resistivity_ohm_mm2_per_m
from strom_engine.runs.allowed_current import allowed_current, in_engine_space
from strom_engine.runs.conductor_heat import conductor_heat
from strom_engine.runs.currents import design_currents
from strom_engine.runs.devices import Protector, protectors
from strom_engine.runs.guarding import CableGuard, guarding
from strom_engine.runs.least_ways import least_ohms

__all__ = ["Clearing", "clearing"]


@dataclass(frozen=True)
class Clearing:
    """A short at the end of a cable, fed by the bank nearest to it, half charged, copper hot.

    ``opens_s`` is the longest time to open, None where the device may hold for ever; ``bears_s``
    how long the thinnest copper behind the device bears it.
    """

    device: str
    cable: str
    far_post: PostRef
    amps: float
    multiple: float
    opens_s: float | None
    bears_s: float
    working: tuple[str, ...]

    @property
    def clears(self) -> bool:
        """Whether the device opens before the cable is spoilt."""
        return self.opens_s is not None and self.opens_s <= self.bears_s

    @property
    def margin(self) -> float:
        """Time that the copper bears it over the time to open [-]."""
        return 0.0 if self.opens_s is None else self.bears_s / self.opens_s


@lru_cache(maxsize=32)
def clearing(design: Design) -> tuple[Clearing, ...]:
    """The weakest short behind every device that protects a power cable.

    Args:
        design: the boat as drawn.

    Returns:
        One a device, that which it clears worst: the cable's end, amps [A] and times [s].
    """
    worst: dict[str, Clearing] = {}
    for cable in (c for c in design.cables if c.purpose == "power"):
        feeds = [
            (way.amps, guard, way)
            for guard in guarding(design).guards.get(cable.id, ())
            if (way := _way(design, cable, guard)) is not None
        ]
        # A lead that its nearest bank feeds past no device is for OC-1 to judge, by its length.
        _, guard, way = max(feeds, key=lambda f: f[0], default=(0.0, None, None))
        if guard is None or way is None or guard.exempt or guard.device is None:
            continue
        short = _short(design, protectors(design)[guard.device], cable, way)
        so_far = worst.get(guard.device)
        if so_far is None or (short.clears, short.margin) < (so_far.clears, so_far.margin):
            worst[guard.device] = short
    return tuple(worst[d] for d in protectors(design) if d in worst)


@dataclass(frozen=True)
class _Way:
    """From a bank to the far end of a cable and back [ohm], and the current of a short there."""

    bank: Bank
    far: PostRef
    out_ohm: float
    back_ohm: float
    back_known: bool
    emf_v: float
    inside_ohm: float

    @property
    def amps(self) -> float:
        return self.emf_v / (self.inside_ohm + self.out_ohm + self.back_ohm)


def _way(design: Design, cable: Cable, guard: CableGuard) -> _Way | None:
    far = PostRef(cable.end if guard.fed_at == cable.start else cable.start)
    bank = design.by_id[guard.bank]
    assert isinstance(bank, Bank)
    source = bank_source(bank, HALF_SOC)
    hot = resistivity_ohm_mm2_per_m(cable.insulation_c) / resistivity_ohm_mm2_per_m(
        design.conductor_temperature_c
    )
    out = least_ohms(design, f"{bank.id}.pos").get(far)
    if out is None:
        return None
    back = least_ohms(design, f"{bank.id}.neg", "neg").get(f"{far.part}.neg")
    return _Way(
        bank=bank,
        far=far,
        out_ohm=hot * out,
        back_ohm=hot * (out if back is None else back),
        back_known=back is not None,
        emf_v=source.emf_v,
        inside_ohm=source.resistance_ohm,
    )


def _before_c(design: Design, cable: Cable) -> float:
    """Temperature of a conductor as it is loaded for hours [degC]."""
    allowed = allowed_current(cable, engine_space=in_engine_space(design, cable))
    heat = conductor_heat(design_currents(design)[cable.id].lasting_a, allowed)
    return heat.copper_c if heat else float(cable.insulation_c)


def _short(design: Design, one: Protector, cable: Cable, way: _Way) -> Clearing:
    amps, warm_c = way.amps, _before_c(design, cable)
    opens = longest_opening_s(one.type.type if one.type else "", amps / one.rating_a)
    bears = bears_s(cable.area_mm2, cable.insulation_c, amps, warm_c)
    words = "back" if way.back_known else "back, taken as out"
    time = "may never" if opens is None else f"within {opens:.1f} s"
    return Clearing(
        device=one.id,
        cable=cable.id,
        far_post=way.far,
        amps=amps,
        multiple=amps / one.rating_a,
        opens_s=opens,
        bears_s=bears,
        working=(
            f"{way.bank.name} half charged, copper at {cable.insulation_c} °C: {way.emf_v:.1f} V / "
            f"({1000 * way.inside_ohm:.1f} mΩ inside + {1000 * way.out_ohm:.1f} mΩ out + "
            f"{1000 * way.back_ohm:.1f} mΩ {words}) = {amps:.0f} A.",
            f"{amps:.0f} A / {one.rating_a:g} A = {amps / one.rating_a:.1f} times its rating: "
            f"{one.label} opens {time}; {cable.gauge}, {warm_c:.0f} °C before, bears it for "
            f"{bears:.1f} s.",
        ),
    )
