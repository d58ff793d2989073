"""Allowable current of a conductor by its size, its insulation and where it runs."""

from __future__ import annotations

from functools import cache

from strom_engine.errors import ReferenceDataError
from strom_engine.reference.tables import Table, load_table

__all__ = ["ampacity_a", "ampacity_table"]


def ampacity_table(size: str) -> Table:
    """The table that a size is looked up in: one for AWG, one for metric sizes."""
    return load_table("ampacity_awg" if size.endswith("AWG") else "ampacity_mm2")


@cache
def ampacity_a(size: str, insulation_c: int, *, engine_space: bool = False) -> float:
    """Allowable current [A] of one conductor, not bundled with others.

    Of an insulation rating that a table has no column for, the next lower one is taken. In an
    engine space the table's factor for the higher ambient is put on. Raises ReferenceDataError
    for a size that the table does not have.
    """
    table = ampacity_table(size)
    row = next((r for r in table.rows if r["size"] == size), None)
    if row is None:
        raise ReferenceDataError(f"no allowable current is published here for {size!r}")
    ratings = sorted(int(name[1:]) for name in row if name != "size")
    column = max((c for c in ratings if c <= insulation_c), default=ratings[0])
    amps = float(row[f"c{column}"])
    return amps * _left_in_engine_space(size, insulation_c) if engine_space else amps


def _left_in_engine_space(size: str, insulation_c: int) -> float:
    sizes = "awg" if size.endswith("AWG") else "mm2"
    rows = (r for r in load_table("ampacity_engine_space").rows if r["sizes"] == sizes)
    factors = {int(r["insulation_c"]): float(r["factor"]) for r in rows}
    return factors[max((c for c in factors if c <= insulation_c), default=min(factors))]
