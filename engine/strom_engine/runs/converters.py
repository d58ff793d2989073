"""Converters between banks: which bank each end is on, and the negatives that carry it back."""

from __future__ import annotations

from strom_engine.design import Bank, DcDc, Design
from strom_engine.runs.least_ways import least_ohms, least_way

__all__ = ["bank_at", "returns_a"]


def bank_at(design: Design, post: str) -> Bank | None:
    """The bank nearest to a post over metal; None where none reaches it.

    Args:
        design: the boat as drawn.
        post: of the positive side.
    """
    ohms = {
        bank.id: ohm
        for bank in design.of_type(Bank)
        if (ohm := least_ohms(design, f"{bank.id}.pos").get(post)) is not None
    }
    return (
        None
        if not ohms
        else next(b for b in design.of_type(Bank) if b.id == min(ohms, key=lambda i: ohms[i]))
    )


def returns_a(design: Design) -> dict[str, tuple[float, str]]:
    """What every negative carries back for a dc-dc charger at its limit [A], and for which.

    Its own negative is one post: what it takes comes back to one bank, what it gives to the other,
    by the ways of least resistance, whether it runs in some state or not.

    Args:
        design: the boat as drawn.
    """
    found: dict[str, tuple[float, str]] = {}
    for part in design.of_type(DcDc):
        ends = (("in", "neg", part.takes_a), ("out", part.out_neg, part.output_limit_a))
        for post, back, amps in ends:
            bank = bank_at(design, f"{part.id}.{post}")
            if bank is None:
                continue
            for cable in least_way(design, f"{bank.id}.neg", f"{part.id}.{back}", "neg"):
                if amps > found.get(cable, (0.0, ""))[0]:
                    found[cable] = (amps, part.name)
    return found
