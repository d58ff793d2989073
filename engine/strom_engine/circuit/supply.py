"""What sources can give in a state, and the most that each ever does."""

from __future__ import annotations

import numpy as np

from strom_engine.circuit.network import Network, excited
from strom_engine.design import (
    Alternator,
    Charger,
    DcDc,
    Design,
    FittedGenerator,
    FittedInverter,
    Selector,
    Solar,
    Source,
    State,
)

__all__ = ["most_a", "source_limit_a", "source_running"]

MOST_RPM = 6000.0  # an alternator gives all it has well below


def source_running(design: Design, part: Source, state: State, net: Network) -> bool:
    """Whether a source has anything to give in a state: turning, plugged in, lit, blown.

    Args:
        design: the boat, as surveyed.
        part: the source.
        state: what runs and what is plugged in.
        net: the circuit, for a source with a field feed of its own.
    """
    match part:
        case Alternator():
            return (
                state.engine_runs(part.engine)
                and source_limit_a(part, state) > 0
                and not _field_open(design, part, state)
                and excited(design, net, part)
            )
        case Charger() | FittedInverter():
            return state.shore
        case Solar():
            return state.sun > 0
        case FittedGenerator():
            return source_limit_a(part, state) > 0


def _field_open(design: Design, part: Alternator, state: State) -> bool:
    """Whether a selector with a field contact has shut this alternator down."""
    return any(
        s.field_contact_of == part.id and state.positions.get(s.id) == "off"
        for s in design.of_type(Selector)
    )


def source_limit_a(part: Source, state: State) -> float:
    """Largest current of a source [A] in a state; of a panel behind a tracker, at its set voltage.

    The alternator's hot output rises with speed as ``1 - (1 - u)^2`` between cut-in and full
    speed, the shape of makers' output curves as commonly published (medium confidence).

    Args:
        part: the source.
        state: speed [rpm], sun [-], wind and boat speed [kn].

    Returns:
        The limit [A], 0 where it gives nothing.
    """
    match part:
        case Alternator():
            u = (state.rpm - part.cut_in_rpm) / (part.full_rpm - part.cut_in_rpm)
            u = min(max(u, 0.0), 1.0)
            hot_a = part.rated_a * part.hot_share
            field = 1.0 if part.field_limit is None else part.field_limit
            curve_a = hot_a * field * (1 - (1 - u) ** 2)
            return min(curve_a, part.belt_limit_a or curve_a)
        case Charger():
            return part.rated_a
        case FittedInverter():
            return part.charger_a or 0.0
        case FittedGenerator():
            speed = state.wind_kn if part.driven_by == "wind" else state.boat_kn
            speeds = [p.speed_kn for p in part.points]
            return float(np.interp(speed, speeds, [p.current_a for p in part.points], left=0.0))
        case Solar(controller="pwm"):
            return part.panel_w * state.sun / part.panel_vmp_v
        case Solar():
            return part.panel_w * state.sun * part.efficiency / part.set_v


def most_a(part: Source | DcDc) -> float:
    """The most that a source gives [A]: hot and as limited, at full speed and in full sun."""
    match part:
        case DcDc():
            return part.output_limit_a
        case FittedGenerator():
            return max(point.current_a for point in part.points)
        case _:
            return source_limit_a(part, State(engine="on", rpm=MOST_RPM, sun=1.0))
