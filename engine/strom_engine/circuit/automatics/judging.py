"""What a judge is given and what it gives."""

from __future__ import annotations

from collections.abc import Callable, Mapping

from strom_engine.circuit.results import ContactNow, ConverterNow, RelayNow
from strom_engine.circuit.solved import Solved

__all__ = ["Judgement", "SolveWith", "any_within", "highest", "was_closed"]

Judgement = RelayNow | ConverterNow | ContactNow
SolveWith = Callable[[frozenset[str]], Solved]


def was_closed(solved: Solved, name: str) -> bool | None:
    """Whether a part was closed, or ran, before; None where nothing is known."""
    known = solved.state.previous_states.get(name)
    return None if known is None else known == "closed"


def any_within(volts: Mapping[str, float | None], low_v: float, high_v: float) -> bool:
    """Whether some voltage reaches the lower limit and none passes the upper."""
    known = [v for v in volts.values() if v is not None]
    return any(v >= low_v for v in known) and all(v <= high_v for v in known)


def highest(volts: Mapping[str, float | None]) -> float:
    """The highest known voltage [V]."""
    return max((v for v in volts.values() if v is not None), default=float("nan"))
