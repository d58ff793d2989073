"""The drive of an alternator: what it gives at idle and at cruise, shaft power, its speed."""

from __future__ import annotations

from dataclasses import dataclass

from strom_engine.circuit.constants import CRUISE_RPM
from strom_engine.circuit.supply import source_limit_a
from strom_engine.design import Alternator, State

__all__ = ["AlternatorDrive", "alternator_drive"]

IDLE_RPM = 800.0  # of a usual diesel; own judgement
EFFICIENCY = 0.55  # hot, with its fan and belt; makers' curves as commonly published, 0.5 to 0.65
KW_PER_HP = 0.7457


@dataclass(frozen=True)
class AlternatorDrive:
    """Amps at idle and at cruise, hot; power at the shaft then [kW]; machine's top speed [rpm]."""

    idle_a: float
    cruise_a: float
    shaft_kw: float
    top_rpm: float | None
    working: tuple[str, ...]


def alternator_drive(part: Alternator) -> AlternatorDrive:
    """Output and drive of an alternator as it is limited.

    Args:
        part: its label, limits, speeds and pulleys.

    Returns:
        Hot figures; ``top_rpm`` None while pulleys or the engine's top speed are not known.

    >>> drive = alternator_drive(Alternator(id="a", name="A", rated_a=100, set_v=14.4))
    >>> round(drive.cruise_a, 1), round(drive.shaft_kw, 2)
    (73.8, 1.93)
    """
    idle_a = source_limit_a(part, State(engine="on", rpm=IDLE_RPM))
    cruise_a = source_limit_a(part, State(engine="on", rpm=CRUISE_RPM))
    shaft_kw = part.set_v * cruise_a / EFFICIENCY / 1000
    lines = [
        f"Engine at {IDLE_RPM:.0f} rpm {idle_a:.0f} A, at {CRUISE_RPM:.0f} rpm {cruise_a:.0f} A, "
        "hot and as limited.",
        f"{part.set_v:g} V x {cruise_a:.0f} A / {EFFICIENCY:g} = {shaft_kw:.1f} kW "
        f"({shaft_kw / KW_PER_HP:.1f} hp) at its shaft.",
    ]
    top = None
    if part.pulley_ratio is not None and part.engine_top_rpm is not None:
        top = part.pulley_ratio * part.engine_top_rpm
        lines.append(
            f"{part.engine_top_rpm:.0f} rpm x {part.pulley_ratio:g} = {top:.0f} rpm of the machine."
        )
    return AlternatorDrive(idle_a, cruise_a, shaft_kw, top, tuple(lines))
