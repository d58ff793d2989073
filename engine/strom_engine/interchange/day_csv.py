"""The series of a day as CSV: one row a moment, one column a quantity with its unit."""

from __future__ import annotations

import csv
import io
from collections.abc import Sequence

from strom_engine.dayrun import Plan, Series
from strom_engine.design import Design
from strom_engine.interchange.sheet import shielded

__all__ = ["dump_day"]


def dump_day(design: Design, plan: Plan, series: Series) -> str:
    """Every kept moment of a day: hours of the plan, clock, and all columns.

    Args:
        design: the boat, as surveyed.
        plan: of the day.
        series: of the day, at every kept moment [s].

    Returns:
        CSV with a unit in every heading.
    """
    columns: list[tuple[str, Sequence[float | None]]] = []
    for unit, what, table in (
        ("[-]", "state of charge", series.soc),
        ("[V]", "volts", series.volts_v),
        ("[A]", "amps in", series.bank_a),
        ("[A]", "amps given", series.source_a),
        ("[degC]", "temperature", series.warmth_c),
        ("[V]", "volts at its posts", series.source_v),
    ):
        columns += [
            (f"{design.by_id[name].name}: {what} {unit}", column) for name, column in table.items()
        ]
    columns.append(("All loads: amps [A]", series.loads_a))
    out = io.StringIO()
    writer = csv.writer(out, lineterminator="\n")
    writer.writerow(["time [h]", "clock", *(shielded(title) for title, _ in columns)])
    for i, at_s in enumerate(series.at_s):
        minutes = round((plan.clock_h + at_s / 3600) * 60)
        clock = f"{minutes // 60 % 24:02d}:{minutes % 60:02d}"
        values = (column[i] for _, column in columns)
        writer.writerow(
            [f"{at_s / 3600:.4f}", clock, *("" if v is None else f"{v:g}" for v in values)]
        )
    return out.getvalue()
