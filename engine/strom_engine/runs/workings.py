"""The arithmetic of a run, line by line."""

from __future__ import annotations

from dataclasses import dataclass

from strom_engine.circuit.network import cable_resistance_ohm
from strom_engine.design import Design
from strom_engine.reference import CONFIRM, crimp_pull_n
from strom_engine.runs.allowed_current import (
    Allowed,
)
from strom_engine.runs.conductor_heat import conductor_heat
from strom_engine.runs.currents import DesignCurrent
from strom_engine.runs.devices import Protector
from strom_engine.runs.drop import circular_mils_for_drop, ohm_per_m
from strom_engine.runs.legs import Leg
from strom_engine.runs.paths import Path
from strom_engine.runs.picking import CONTINUOUS_SHARE

__all__ = ["Working", "workings"]


@dataclass(frozen=True)
class Working:
    """The arithmetic behind one number, line by line, and where its figures are published."""

    about: str
    lines: tuple[str, ...]
    source: str


def workings(
    design: Design,
    leg: Leg,
    current: DesignCurrent,
    allowed: dict[str, Allowed],
    path: Path | None,
    drop_v: float,
    device: Protector | None,
) -> list[Working]:
    found = [Working("Design current", current.working, "Operating points of this boat; labels")]
    for cable in leg.cables:
        about = f"Allowable current, {'back' if cable is leg.back else 'out'}"
        one = allowed[cable.id]
        source = f"{one.source}; {one.confidence} confidence; {CONFIRM}"
        heat = conductor_heat(current.lasting_a, one)
        found.append(Working(about, one.working + ((heat.working,) if heat else ()), source))
    found.append(_drop_working(design, leg, current, drop_v))
    if path is not None:
        lines = [
            f"{s.name}: {abs(s.current_a):.1f} A, {s.length_m:g} m, {1000 * s.drop_v:.0f} mV."
            for s in path.steps
        ]
        lines.append(
            f"{path.name}: {path.drop_v:.2f} V of {path.nominal_v:g} V = "
            f"{path.drop_percent:.1f} %; allowed {path.limit_percent:.1f} % ({path.why}); "
            f"{path.state}."
        )
        source = f"ABYC E-11, voltage drop 3 % and 10 %; {CONFIRM}"
        found.append(Working("Whole path", tuple(lines), source))
    found += _device_workings(device)
    pull = crimp_pull_n(leg.key.gauge)
    if pull is not None:
        line = f"A crimp on {leg.key.gauge} holds {pull:.0f} N for a minute; pull at each one."
        found.append(Working("Lugs", (line,), f"ABYC E-11, tensile test; {CONFIRM}"))
    return found


def _drop_working(design: Design, leg: Leg, current: DesignCurrent, drop_v: float) -> Working:
    lines = []
    for cable in leg.cables:
        ohm = cable_resistance_ohm(design, cable)
        per_m = 1000 * ohm_per_m(design, cable.area_mm2)
        lines.append(
            f"{cable.gauge}, {cable.area_mm2:.1f} mm²: {per_m:.3f} mΩ/m x {cable.length_m:g} m + "
            f"2 x {design.termination_mohm:g} mΩ of terminals = {1000 * ohm:.2f} mΩ; "
            f"x {current.amps:.1f} A = {current.amps * ohm:.3f} V."
        )
    length_m = sum(c.length_m for c in leg.cables)
    if drop_v > 0:
        mils = circular_mils_for_drop(current.amps, length_m, drop_v)
        lines.append(
            f"Check: 10.75 x {current.amps:.1f} A x {length_m / 0.3048:.1f} ft / {drop_v:.3f} V = "
            f"{mils:.0f} circular mils = {mils * 5.067e-4:.1f} mm², at 25 °C, no terminals."
        )
    source = (
        f"IEC 60028, copper at {design.conductor_temperature_c:g} °C, 3 % for stranding; "
        f"ABYC E-11, drop formula; {CONFIRM}"
    )
    return Working("Voltage drop", tuple(lines), source)


def _device_workings(device: Protector | None) -> list[Working]:
    if device is None:
        return []
    share = f"{CONTINUOUS_SHARE:.0%}"
    lines = [
        f"{device.name}: {device.rating_a:g} A; for long {share} = "
        f"{CONTINUOUS_SHARE * device.rating_a:.0f} A; {device.current_a:.1f} A pass "
        f"({device.current_words}).",
    ]
    found = [Working("Device", tuple(lines), f"ABYC E-11, overcurrent protection; {CONFIRM}")]
    told = "not known" if device.interrupt_a is None else f"{device.interrupt_a:.0f} A"
    fault = (*device.fault_working, f"In all {device.fault_a:.0f} A; {device.label}: {told}.")
    source = "Banks full, positive way alone; the listing of the device in hand decides"
    found.append(Working("Fault current", fault, source))
    return found
