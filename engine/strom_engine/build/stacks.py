"""Stacks: what lies on a stud from the seat up, with its torque."""

from __future__ import annotations

from dataclasses import dataclass

from strom_engine.build.cuts import cable_labels, end_of
from strom_engine.design import Design

__all__ = ["Stack", "stack_at"]


@dataclass(frozen=True)
class Stack:
    """Lugs on a post from the seat up, by label and size, with its stud and torque."""

    post: str
    stud: str
    torque: str
    lugs: tuple[str, ...]


def stack_at(design: Design, ref: str) -> Stack | None:
    """What lies on a post; None where nothing lands.

    Args:
        design: the chosen one, as surveyed.
        ref: a post of it.
    """
    cables = [design.cables_by_id[c] for c in design.stack_on(ref)]
    if not cables:
        return None
    labels = cable_labels(design)
    end = end_of(design, cables[0], "start" if cables[0].start == ref else "end")
    lugs = tuple(f"{labels[c.id]}  {c.gauge}" for c in cables)
    return Stack(design.post_name(ref), end.stud, end.torque, lugs)
