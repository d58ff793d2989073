"""What loads and inverters draw in a state."""

from __future__ import annotations

from typing import TypeVar

from strom_engine.circuit.network import Network
from strom_engine.design import (
    LOAD_REFERENCE_SHARE,
    AcItem,
    FittedInverter,
    LoadItem,
    State,
)
from strom_engine.reference import load_table

__all__ = ["inverter_power_w", "inverting", "items_on", "load_reference_v"]

Item = TypeVar("Item", LoadItem, AcItem)


def items_on(
    group_id: str, items: tuple[Item, ...], state: State, *, profile: bool = True
) -> tuple[Item, ...]:
    """Items of a group that are switched on in a state.

    Args:
        group_id: of the load group.
        items: all that hangs on it.
        state: which profile and which single loads run.
        profile: whether loads of the profile count.

    Returns:
        The items that draw, in their order.
    """
    return tuple(
        i
        for i in items
        if (i.always_on and not i.brief)
        or (profile and state.profile in i.profiles)
        or f"{group_id}.{i.id}" in state.running
    )


def load_reference_v(nominal_v: float) -> float:
    """Voltage [V] at which a draw is stated."""
    return nominal_v * LOAD_REFERENCE_SHARE


def inverting(part: FittedInverter, state: State, net: Network) -> bool:
    """Whether an inverter takes from its bank: on, no shore to pass through, not cut out."""
    passing = state.shore and part.charger_a is not None
    return state.positions.get(part.id) == "on" and not passing and part.id not in net.moved


def inverter_power_w(part: FittedInverter, state: State) -> float:
    """What an inverter takes from its bank [W]: AC over its efficiency at that load, and idling.

    Source: reference table inverter_efficiency.
    """
    ac_w = sum(item.power_w for item in items_on(part.id, part.items, state))
    table = load_table("inverter_efficiency")
    return ac_w / table.lookup("load_share", "efficiency", ac_w / part.rated_w) + part.idle_w
