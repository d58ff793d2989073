"""Allowable current of a conductor by its size, its insulation and where it runs."""

from __future__ import annotations

from functools import cache

from strom_engine.errors import ReferenceDataError
from strom_engine.reference.conductors import area_mm2
from strom_engine.reference.tables import Table, load_table

__all__ = [
    "ampacity_a",
    "ampacity_table",
    "base_ampacity_a",
    "bundling_factor",
    "engine_space_c",
    "engine_space_factor",
    "size_in_table",
]

# Ambient of the factors of table ampacity_engine_space [degC].
ENGINE_SPACE_C = {"awg": 50.0, "mm2": 60.0}


def ampacity_table(size: str) -> Table:
    """The table that a size is looked up in: one for AWG, one for metric sizes.

    Args:
        size: such as ``2/0 AWG`` or ``50 mm2``.

    Raises:
        ReferenceDataError: the size is unknown.
    """
    return load_table("ampacity_awg" if size.endswith("AWG") else "ampacity_mm2")


@cache
def ampacity_a(size: str, insulation_c: int, *, engine_space: bool = False) -> float:
    """Allowable current [A] of one conductor, not bundled with others.

    Of an insulation rating that a table has no column for, the next lower one is taken. In an
    engine space the table's factor for the higher ambient is put on. Raises ReferenceDataError
    for a size that the table does not have.
    """
    amps = base_ampacity_a(size, insulation_c)
    return amps * engine_space_factor(size, insulation_c) if engine_space else amps


@cache
def base_ampacity_a(size: str, insulation_c: int) -> float:
    """Allowable current [A] outside engine spaces, as `ampacity_a` looks it up."""
    row = next((r for r in ampacity_table(size).rows if r["size"] == size), None)
    if row is None:
        raise ReferenceDataError(f"no allowable current is published here for {size!r}")
    ratings = sorted(int(name[1:]) for name in row if name != "size")
    column = max((c for c in ratings if c <= insulation_c), default=ratings[0])
    return float(row[f"c{column}"])


@cache
def size_in_table(size: str, copper_mm2: float, standard: str) -> str:
    """The size under which a standard's table is read: its own, or the next thinner one listed.

    ABYC tables list AWG sizes, ISO tables metric ones: a size of the other sort is read as the
    largest listed one with no more copper, and the thinnest one where none has less.
    """
    awg = standard == "abyc"
    if size.endswith("AWG") == awg:
        return size
    listed = [r["size"] for r in load_table("ampacity_awg" if awg else "ampacity_mm2").rows]
    thinner = [s for s in listed if area_mm2(s) <= copper_mm2 * 1.001]
    return max(thinner, key=area_mm2) if thinner else min(listed, key=area_mm2)


def engine_space_c(size: str) -> float:
    """What is around a conductor in an engine space [degC], as its table's factors take it."""
    return ENGINE_SPACE_C["awg" if size.endswith("AWG") else "mm2"]


@cache
def engine_space_factor(size: str, insulation_c: int) -> float:
    """What an engine space leaves of the allowable current [-]; 0 where it is not allowed."""
    sizes = "awg" if size.endswith("AWG") else "mm2"
    rows = (r for r in load_table("ampacity_engine_space").rows if r["sizes"] == sizes)
    factors = {int(r["insulation_c"]): float(r["factor"]) for r in rows}
    return factors[max((c for c in factors if c <= insulation_c), default=min(factors))]


@cache
def bundling_factor(conductors: int, standard: str = "abyc") -> float:
    """What bundling leaves of the allowable current [-], by conductors that carry current."""
    rows = [r for r in load_table("bundling").rows if r["standard"] == standard]
    return float(max((r for r in rows if int(r["conductors"]) <= conductors), key=_many)["factor"])


def _many(row: dict[str, str]) -> int:
    return int(row["conductors"])
