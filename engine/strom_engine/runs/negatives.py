"""Whether a negative that is thinner than its positive bears what that carries."""

from __future__ import annotations

from strom_engine.design import Design
from strom_engine.runs.allowed_current import (
    Standard,
    allowed_current,
    in_engine_space,
    most_rating_a,
)
from strom_engine.runs.currents import design_currents
from strom_engine.runs.devices import protectors
from strom_engine.runs.guarding import cover
from strom_engine.runs.legs import Leg
from strom_engine.runs.sizes import overloads

__all__ = ["SAME_SIZE", "negative_too_thin"]

SAME_SIZE = 0.99


def negative_too_thin(design: Design, leg: Leg, standard: Standard) -> tuple[str, ...]:
    """Why the negative of a run is too thin, line by line; nothing where it is thick enough.

    One as thick as its positive always is. A thinner one is where the device in the positive
    protects it too and it carries the current; with no device its copper decides.
    """
    out, back = leg.out, leg.back
    if out is None or back is None or out.purpose == "sense":
        return ()
    if back.area_mm2 >= SAME_SIZE * out.area_mm2:
        return ()
    by = cover(design, out.id)
    one = protectors(design).get(by.device) if by and by.device else None
    if one is None:
        return ("No device in the positive: the negative must be as thick as that.",)
    hot = in_engine_space(design, back)
    allowed = allowed_current(back, engine_space=hot, standard=standard)
    current, most_a = design_currents(design)[back.id], most_rating_a(allowed.amps)
    if one.rating_a <= most_a + 1e-9 and not overloads(current, allowed):
        return ()
    return (
        f"Negative: {allowed.amps:.0f} A allowed, a device of {most_a:.0f} A at most; "
        f"{one.name} in the positive has {one.rating_a:g} A; {current.amps:.0f} A flow.",
    )
