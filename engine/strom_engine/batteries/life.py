"""How long a bank lasts at the way it is used."""

from __future__ import annotations

import math
from dataclasses import dataclass

from strom_engine.reference import chemistry, load_table

__all__ = ["Life", "expected_life"]


@dataclass(frozen=True)
class Life:
    """Years until 80 % of the capacity is left, by cycles or by the calendar."""

    years: float
    cycles: float
    cycles_a_year: float
    ended_by: str
    working: tuple[str, ...]
    source: str


def expected_life(chemistry_name: str, depth: float, cycles_a_year: float) -> Life:
    """Life of a bank at a depth of discharge [-] and a number of such cycles a year [1/a].

    The makers' two figures, at 50 and 80 % depth, are joined by a straight line in logarithms;
    below 10 % depth the figure at 10 % is kept. Source: reference tables battery_chemistry,
    battery_life.

    Args:
        chemistry_name: a chemistry of the table.
        depth: depth of each cycle [-], 0 to 1.
        cycles_a_year: how often [1/a].

    Returns:
        Cycles [-] and years [a], the calendar's limit included.

    Raises:
        ReferenceDataError: the chemistry is unknown.
    """
    figures = chemistry(chemistry_name)
    slope = math.log(figures.cycles_80_dod / figures.cycles_50_dod) / math.log(0.8 / 0.5)
    held = min(max(depth, 0.1), 1.0)
    cycles = figures.cycles_50_dod * (held / 0.5) ** slope
    by_cycles = cycles / cycles_a_year if cycles_a_year > 0 else math.inf
    years = min(by_cycles, figures.calendar_years)
    ended_by = "cycles" if by_cycles < figures.calendar_years else "calendar"
    sources = (load_table("battery_chemistry").citation, load_table("battery_life").citation)
    return Life(
        years=years,
        cycles=cycles,
        cycles_a_year=cycles_a_year,
        ended_by=ended_by,
        working=(
            f"{figures.label}: {figures.cycles_50_dod:g} cycles to 50 %, "
            f"{figures.cycles_80_dod:g} to 80 %; at {depth:.0%} about {cycles:.0f}.",
            f"{cycles:.0f} cycles / {cycles_a_year:.0f} a year = {by_cycles:.1f} years; "
            f"the calendar ends it after {figures.calendar_years:g}.",
        ),
        source="; ".join(dict.fromkeys(sources)),
    )
