"""How a day is followed: its steps, how much of it is kept, and who is told how far it is."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass

__all__ = ["Limits"]

LONGEST_STEP_S = 3600.0


@dataclass(frozen=True)
class Limits:
    """How a day is followed: the longest step [s], and who is told how far it has got [-].

    With ``fixed`` every step is the longest one, whatever its error, and crossings are taken
    at the end of the step in which they happen. A ``brief`` day comes to the same, but leaves no
    series and no account of what was lost inside banks and cables: for sweeps.
    """

    longest_step_s: float = LONGEST_STEP_S
    fixed: bool = False
    brief: bool = False
    progress: Callable[[float], None] = lambda share: None
