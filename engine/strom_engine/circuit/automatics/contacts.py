"""Contacts that are closed at rest: protection of lithium banks, held switches, inverters."""

from __future__ import annotations

from strom_engine.circuit.automatics.judging import SolveWith, was_closed
from strom_engine.circuit.constants import PULL_IN_SHARE
from strom_engine.circuit.results import ContactNow
from strom_engine.circuit.solved import Solved
from strom_engine.design import Bank, DualSwitch, FittedInverter, OnOffSwitch, Protection

__all__ = ["judge_held_switch", "judge_inverter", "judge_protection"]


def judge_protection(solve_with: SolveWith, part: Protection, moved: frozenset[str]) -> ContactNow:
    """Judge the disconnect of a lithium bank by what the bank has with it closed."""
    closed = solve_with(moved - {part.id})
    bank = closed.design.by_id[part.guards]
    assert isinstance(bank, Bank)  # checked with the design
    volts = closed.volts(f"{bank.id}.pos", f"{bank.id}.neg") or 0.0
    amps = closed.amps(bank.id) or 0.0
    beyond = _beyond(part, bank, volts, amps)
    if beyond is not None:
        return ContactNow("open", False, volts, amps, f"closed, {bank.name} would have {beyond}")
    why = f"{bank.name} has {volts:.2f} V and {abs(amps):.1f} A, within its limits"
    return ContactNow("closed", True, volts, amps, why)


def _beyond(part: Protection, bank: Bank, volts: float, amps: float) -> str | None:
    """Which limit is passed, in words."""
    if volts > part.high_v:
        return f"{volts:.2f} V, above {part.high_v:g} V"
    if volts < part.low_v:
        return f"{volts:.2f} V, below {part.low_v:g} V"
    if part.charge_limit_a is not None and amps > part.charge_limit_a:
        return f"{amps:.1f} A of charge, above {part.charge_limit_a:g} A"
    if part.discharge_limit_a is not None and -amps > part.discharge_limit_a:
        return f"{-amps:.1f} A drawn, above {part.discharge_limit_a:g} A"
    if amps > 0.05 and bank.temperature_c < part.no_charge_below_c:
        cold = f"{bank.temperature_c:g} °C, below {part.no_charge_below_c:g} °C"
        return f"{amps:.1f} A of charge at {cold}"
    return None


def judge_held_switch(
    solve_with: SolveWith, part: OnOffSwitch | DualSwitch, moved: frozenset[str]
) -> ContactNow:
    """Judge a switch that a coil holds: let go without the coil's voltage."""
    if solve_with(moved).state.positions[part.id] == "off":
        return ContactNow("open", True, None, 0.0, "it stands on off")
    # One that was closed holds on by what it sees closed; one that was not must first pull in.
    held = was_closed(solve_with(moved), part.id) is not False
    seen = solve_with(moved - {part.id} if held else moved | {part.id})
    volts = seen.volts(f"{part.id}.ctrl_pos", f"{part.id}.ctrl_neg")
    amps = seen.amps(f"{part.id}.coil") or 0.0
    least = PULL_IN_SHARE * seen.design.system_v
    if volts is None or volts < least:
        has = "reaches no bank" if volts is None else f"has {volts:.2f} V, below {least:.1f} V"
        return ContactNow("open", False, volts, 0.0, f"its control circuit {has}: it lets go")
    return ContactNow("closed", True, volts, amps, f"its coil has {volts:.2f} V and holds it")


def judge_inverter(
    solve_with: SolveWith, part: FittedInverter, moved: frozenset[str]
) -> ContactNow:
    """Judge an inverter by its low-voltage cut-out, idle and under its load."""
    idle = solve_with(moved | {part.id})
    if idle.state.positions[part.id] == "off":
        return ContactNow("open", True, _at(idle, part), 0.0, "it is switched off")
    if idle.state.shore and part.charger_a is not None:
        return ContactNow("open", True, _at(idle, part), 0.0, "it passes the shore's AC through")
    seen = _at(idle, part)
    if seen is None:
        return ContactNow("open", True, None, 0.0, "it reaches no bank")
    running = solve_with(moved - {part.id})
    loaded = _at(running, part) or 0.0
    if seen >= part.cut_out_v and loaded < part.cut_out_v:
        why = (
            f"has {seen:.2f} V idle, under its load {loaded:.2f} V, below its cut-out at "
            f"{part.cut_out_v:g} V"
        )
        return ContactNow("open", False, loaded, 0.0, why)
    if seen < part.cut_out_v:
        why = f"has {seen:.2f} V, below its cut-out at {part.cut_out_v:g} V"
        return ContactNow("open", False, seen, 0.0, why)
    amps = running.amps(f"{part.id}.dc") or 0.0
    return ContactNow("closed", True, loaded, amps, f"has {loaded:.2f} V under its load")


def _at(solved: Solved, part: FittedInverter) -> float | None:
    return solved.volts(f"{part.id}.pos", f"{part.id}.neg")
