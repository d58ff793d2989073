"""What charges one bank from another: dc-dc chargers and one-way combiners."""

from __future__ import annotations

from strom_engine.circuit.automatics.judging import SolveWith, was_closed
from strom_engine.circuit.results import ConverterNow, Verdict
from strom_engine.circuit.solved import Solved
from strom_engine.design import DcDc, OneWayCombiner

__all__ = ["judge_dcdc", "judge_one_way", "resting"]

Converter = DcDc | OneWayCombiner


def judge_dcdc(solve_with: SolveWith, part: DcDc, moved: frozenset[str]) -> ConverterNow:
    """Judge a dc-dc charger: by its ignition wire, and by its input idle and running."""
    idle = solve_with(moved - {part.id})
    if part.ignition and _in_v(idle, part) is not None and idle.state.engine != "on":
        return resting(idle, part, "open", "its ignition wire is dead: the engine is stopped")
    return _by_input(solve_with, part, moved)


def judge_one_way(
    solve_with: SolveWith, part: OneWayCombiner, moved: frozenset[str]
) -> ConverterNow:
    """Judge a one-way combiner by its input idle and running."""
    return _by_input(solve_with, part, moved)


def _by_input(solve_with: SolveWith, part: Converter, moved: frozenset[str]) -> ConverterNow:
    idle = solve_with(moved - {part.id})
    seen = _in_v(idle, part)
    if seen is None:
        return resting(idle, part, "open", "its input reaches no bank")
    if _out_v(idle, part) is None:
        return resting(idle, part, "open", "its output reaches no bank")
    remembered = was_closed(idle, part.id) is True
    if seen < part.stop_v or (seen < part.start_v and not remembered):
        limit = f"start at {part.start_v:g} V" if not remembered else f"stop at {part.stop_v:g} V"
        return resting(idle, part, "open", f"its input has {seen:.2f} V, below its {limit}")
    running = solve_with(moved | {part.id})
    loaded = _in_v(running, part) or 0.0
    if loaded < part.stop_v:
        why = (
            f"its input has {seen:.2f} V idle, at or above its start; running {loaded:.2f} V, "
            f"below its stop at {part.stop_v:g} V"
        )
        return resting(idle, part, "chatters", why)
    through_a = running.amps(part.id) or 0.0
    return ConverterNow(
        verdict="closed",
        closed=True,
        in_v=loaded,
        in_a=running.amps(f"{part.id}.in") or 0.0 if isinstance(part, DcDc) else through_a,
        out_v=_out_v(running, part),
        out_a=-through_a if isinstance(part, DcDc) else through_a,
        mode=str(running.mode(part.id)),
        why=f"its input has {loaded:.2f} V while it runs, above its stop at {part.stop_v:g} V",
    )


def resting(idle: Solved, part: Converter, verdict: Verdict, why: str) -> ConverterNow:
    """One that does not run."""
    return ConverterNow(
        verdict=verdict,
        closed=False,
        in_v=_in_v(idle, part),
        in_a=0.0,
        out_v=_out_v(idle, part),
        out_a=0.0,
        mode="off",
        why=why,
    )


def _in_v(solved: Solved, part: Converter) -> float | None:
    return solved.volts(f"{part.id}.in", f"{part.id}.neg")


def _out_v(solved: Solved, part: Converter) -> float | None:
    minus = part.out_neg if isinstance(part, DcDc) else "neg"
    return solved.volts(f"{part.id}.out", f"{part.id}.{minus}")
