"""States to prove in, and what a hand has to set for each, in words."""

from __future__ import annotations

from collections.abc import Iterator

from strom_engine.design import Design, FittedInverter, LoadGroup, State
from strom_engine.design.state import (
    battery_switches,
    default_positions,
    position_name,
    switch_positions,
)

__all__ = ["CRUISE_RPM", "all_off", "setup_words"]

CRUISE_RPM = 2000.0


def all_off(design: Design) -> dict[str, str]:
    """Every battery switch off that can be, the others as drawn."""
    off = {s.id: "off" for s in battery_switches(design) if "off" in switch_positions(s)}
    return default_positions(design) | off


def setup_words(design: Design, state: State) -> tuple[str, ...]:
    """What is set for a state: engine, shore, sun, switches, loads.

    Args:
        design: the boat as built.
        state: to measure in.
    """
    return tuple(_words(design, state))


def _words(design: Design, state: State) -> Iterator[str]:
    if state.cranking:
        yield "Engine: turn the starter, fuel cut off"
    elif state.engine == "on":
        yield f"Engine: {state.rpm:.0f} rpm"
    else:
        yield "Engine off"
    yield "Shore lead in" if state.shore else "Shore lead out"
    yield f"Sun: {100 * state.sun:.0f} %" if state.sun else "Panels covered"
    positions = default_positions(design) | state.positions
    for switch in battery_switches(design):
        yield f"{switch.name}: {position_name(switch, positions[switch.id])}"
    on = [
        item.name
        for part in design.components
        if isinstance(part, LoadGroup | FittedInverter)
        for item in part.items
        if f"{part.id}.{item.id}" in state.running
    ]
    profile = next((p.name for p in design.profiles if p.id == state.profile), None)
    if profile:
        yield f"Loads on: those of {profile}"
    yield f"Loads on: {', '.join(on)}" if on else "Every other load off"
