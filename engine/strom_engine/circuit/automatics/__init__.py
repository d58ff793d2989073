"""What moves by itself, each judged with all else left where it is."""

from __future__ import annotations

from strom_engine.circuit.automatics.contacts import (
    judge_held_switch,
    judge_inverter,
    judge_protection,
)
from strom_engine.circuit.automatics.converters import judge_dcdc, judge_one_way
from strom_engine.circuit.automatics.judging import Judgement, SolveWith
from strom_engine.circuit.automatics.relays import judge_relay
from strom_engine.design import (
    Automatic,
    DcDc,
    FittedInverter,
    OneWayCombiner,
    Protection,
    Relay,
)

__all__ = ["Judgement", "SolveWith", "judge"]


def judge(solve_with: SolveWith, part: Automatic, moved: frozenset[str]) -> Judgement:
    """Verdict on one part with the others left as ``moved`` says."""
    match part:
        case Relay():
            return judge_relay(solve_with, part, moved)
        case DcDc():
            return judge_dcdc(solve_with, part, moved)
        case OneWayCombiner():
            return judge_one_way(solve_with, part, moved)
        case Protection():
            return judge_protection(solve_with, part, moved)
        case FittedInverter():
            return judge_inverter(solve_with, part, moved)
        case _:
            return judge_held_switch(solve_with, part, moved)
