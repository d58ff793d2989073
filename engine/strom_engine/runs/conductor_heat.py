"""How warm a conductor gets with its own current in its own place."""

from __future__ import annotations

from dataclasses import dataclass

from strom_engine.runs.allowed_current import Allowed

__all__ = ["ConductorHeat", "conductor_heat"]


@dataclass(frozen=True)
class ConductorHeat:
    """Temperature of its copper [degC], and the working."""

    copper_c: float
    working: str


def conductor_heat(current_a: float, allowed: Allowed) -> ConductorHeat | None:
    """Temperature of a conductor in the long run; None where it may carry nothing there.

    ``around + (insulation - around) (I / I_allowed)^2``: heat goes with the square of the current
    and leaves in proportion to the rise; at its allowable current it has the temperature of its
    insulation. Source: IEC 60287-1-1 in its simplest form.

    Args:
        current_a: through it for long [A].
        allowed: what it may carry as it runs.
    """
    if allowed.amps <= 0:
        return None
    around = allowed.around_c
    rise = (allowed.insulation_c - around) * (current_a / allowed.amps) ** 2
    return ConductorHeat(
        copper_c=around + rise,
        working=f"Its copper: {around:g} °C + ({allowed.insulation_c} - {around:g}) K x "
        f"({current_a:.1f} A / {allowed.amps:.0f} A)² = {around + rise:.0f} °C.",
    )
