"""Cables as CSV: out and in, each cell held to its field."""

from __future__ import annotations

import pytest
from strom_engine.errors import TableError
from strom_engine.interchange import dump_runs, read_runs
from strom_engine.runs import (
    run_rows,
)

from bench.wired import sound_boat
from tests.engine.boats import with_cable

SOUND = sound_boat(0).design()


def test_csv_gives_back_what_it_got() -> None:
    rows = run_rows(SOUND)
    text = dump_runs(SOUND, rows)
    assert read_runs(text, SOUND).rows == ()
    other = text.replace("feed_fuse1", "x").replace(",6 AWG,", ",4 AWG,", 1)
    (row,) = read_runs(other, SOUND).rows
    assert row.fields == {"gauge": "4 AWG"}
    tabs = "cable\tlength_m\tsheathed\nc0\t2.5\tyes\nc1\t2,5\tno\nc77\t1\tno\nc2\t300\tmaybe\n"
    read = read_runs(tabs, SOUND)
    assert [r.fields for r in read.rows] == [{"length_m": 2.5, "sheathed": True}]
    assert [p.path for p in read.problems] == [
        "row 3, column length_m",
        "row 4, column cable",
        "row 5, column sheathed",
        "row 5, column length_m",
    ]
    with pytest.raises(TableError, match="is missing"):
        read_runs("length_m\n3\n", SOUND)


@pytest.mark.parametrize(
    ("column", "cell", "words"),
    [
        ("bundled", "2.5", "fractional part"),  # never cut to 2 in silence
        ("bundled", "101", "less than or equal to 100"),
        ("insulation_c", "100", "60, 70, 75, 80, 85, 90, 105"),
        ("copper_mm2", "0.1", "greater than 0.1"),
        ("drop_percent", "0.4", "greater than or equal to 0.5"),
    ],
)
def test_a_cell_is_held_to_the_limits_of_its_field(column: str, cell: str, words: str) -> None:
    read = read_runs(f"cable,{column}\nc0,{cell}\n", SOUND)
    (problem,) = read.problems
    assert problem.path == f"row 2, column {column}" and words in problem.message
    assert read.rows == ()


def test_an_empty_cell_is_the_usual_value() -> None:
    design = with_cable(SOUND, "c0", insulation_c=75, bundled=3)
    (row,) = read_runs("cable,insulation_c,bundled\nc0,,\n", design).rows
    assert row.fields == {"insulation_c": 105, "bundled": 1}
