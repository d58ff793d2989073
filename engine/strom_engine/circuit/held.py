"""What a source holds: its voltages of a stage, moved by its temperature sensor, by output."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from typing import Literal

from strom_engine.design import Bank, Charger, Design, Source, Staged
from strom_engine.reference import TABLE_C, chemistry

__all__ = ["Held", "compensation_v", "held", "usual_tempco_v_per_k"]

Step = Literal["bulk", "absorption", "float"]


@dataclass(frozen=True)
class Held:
    """Voltage [V] that a source holds, and how much lower outputs of a charger lie [V]."""

    volts_v: float
    lower_v: Mapping[str, float]


def compensation_v(design: Design, part: Source | Staged, aboard_c: float | None = None) -> float:
    """What a source adds to its voltages [V] for the temperature of its sensor's bank.

    Its own coefficient, else that of the bank's chemistry, times the kelvins from 25 degC, at which
    charging voltages are stated (makers' data sheets of batteries). ``aboard_c`` overrides the
    bank's own temperature. Nothing without a sensor.
    """
    sensor = getattr(part, "temperature_sensor", None)
    if sensor is None:
        return 0.0
    bank = design.by_id[sensor]
    assert isinstance(bank, Bank)  # checked with the design
    own = getattr(part, "tempco_mv_per_k", None)
    volts_per_k = own / 1000 if own is not None else usual_tempco_v_per_k(bank)
    return volts_per_k * ((bank.temperature_c if aboard_c is None else aboard_c) - TABLE_C)


def usual_tempco_v_per_k(bank: Bank) -> float:
    """Compensation [V/K] that a bank's chemistry asks for; source: table battery_chemistry."""
    return chemistry(bank.chemistry).tempco_v_per_k * bank.nominal_v / 12


def held(
    design: Design, part: Source | Staged, step: Step = "absorption", aboard_c: float | None = None
) -> Held:
    """What a source holds in a stage; a charger's inside lies as high as its highest output."""
    more_v = compensation_v(design, part, aboard_c)
    float_v = getattr(part, "float_v", None)
    if isinstance(part, Charger):
        pairs = [part.output_v(n) for n in range(1, part.outputs + 1)]
        outs = [low if step == "float" else high for high, low in pairs]
        if step == "bulk" and part.bulk_v is not None:
            outs = [volts + part.bulk_v - part.set_v for volts in outs]
        top = max(outs)
        return Held(top + more_v, {f"out{n}": top - v for n, v in enumerate(outs, start=1)})
    if step == "float" and float_v is not None:
        return Held(float_v + more_v, {})
    bulk_v = getattr(part, "bulk_v", None) if step == "bulk" else None
    return Held((bulk_v or part.set_v) + more_v, {})
