"""Keeping a boat: what readings say, how banks age, when service is due."""

from __future__ import annotations

from datetime import date

import pytest
from strom_engine.design import Design
from strom_engine.upkeep import (
    READING_KINDS,
    ReadingKindId,
    ageing_of,
    due_of,
    judged_reading,
    reading_problem,
    service_tasks,
)

from tests.engine.boats import demo_job, relay_boat

YEAR_S = 365.25 * 86400


def boat(twin: bool = False) -> Design:
    """Engine bank 700 CCA, house bank two in parallel; of 24 V as a twin."""
    draft = relay_boat()
    if twin:
        draft.extra = {**draft.extra, "system_v": 24}
        for part in draft.parts:
            if part["kind"] == "bank":
                part["series"] = 2
            elif part["kind"] == "alternator":
                part["set_v"] = 28.8
            elif part["kind"] == "relay":
                part.update(cut_in_v=26.6, cut_out_v=25.6)
    return draft.design()


# kind, bank, value in a 12 V boat, factor for 24 V, mark, a piece of why
READINGS: list[tuple[ReadingKindId, str, float, float, str, str]] = [
    ("rest_v", "house_bank", 12.75, 2, "good", "% charged"),
    ("rest_v", "house_bank", 12.05, 2, "bad", "% charged"),
    ("rest_v", "house_bank", 9.0, 2, "bad", "outside what this chemistry rests at"),
    # 0.8 x 12 V = 9.6 V in the warm; below 1.04 x 9.6 = 9.98 V it is near.
    ("crank_v", "engine_bank", 10.4, 2, "good", "0.8 V above"),
    ("crank_v", "engine_bank", 9.8, 2, "caution", "above"),
    ("crank_v", "engine_bank", 9.2, 2, "bad", "below"),
    # 600 / 700 = 86 %; 500 / 700 = 71 %; 400 / 700 = 57 %.
    ("tested_cca_a", "engine_bank", 600, 1, "good", "86 %"),
    ("tested_cca_a", "engine_bank", 500, 1, "caution", "71 %"),
    ("tested_cca_a", "engine_bank", 400, 1, "bad", "57 %"),
]


@pytest.mark.parametrize("reading", READINGS, ids=lambda r: f"{r[0]} {r[2]}")
def test_readings_are_judged_in_12_and_24_volts(
    reading: tuple[ReadingKindId, str, float, float, str, str],
) -> None:
    kind, bank, value, factor, mark, why = reading
    for twin in (False, True):
        times = factor if twin else 1
        told = judged_reading(boat(twin), bank, kind, [value * times], rested_h=12)
        assert told.mark == mark, (twin, told)
        assert (why if times == 1 else why.replace("0.8", "1.6")) in told.why
        assert told.source or mark == "bad"


def test_cells_capacity_float_and_limits() -> None:
    design = boat()
    capacity = next(c for c in design.components if c.id == "house_bank").capacity_ah
    told = judged_reading(design, "house_bank", "capacity_ah", [0.81 * capacity])
    assert (told.mark, told.low) == ("good", pytest.approx(0.8 * capacity))
    assert judged_reading(design, "house_bank", "float_a", [0.02 * capacity]).mark == "caution"
    assert judged_reading(design, "house_bank", "cells", [1.26, 1.265, 1.22]).mark == "bad"
    assert judged_reading(design, "house_bank", "cells", [1.26, 1.265, 1.25]).mark == "good"
    assert judged_reading(design, "first", "engine_h", [1200]).mark == "unknown"
    assert "one value" in reading_problem("rest_v", [12.6, 12.7])
    for kind in READING_KINDS:
        assert reading_problem(kind.id, [kind.least]) == reading_problem(kind.id, [kind.most]) == ""
        assert reading_problem(kind.id, [kind.most * 1.01 + 1])


def test_ageing_is_a_line_with_its_doubt() -> None:
    # 200, 190, 180, 170 Ah a year apart: 10 Ah a year; 150 Ah are needed: two years from the last.
    told = ageing_of([(n * YEAR_S, 200.0 - 10 * n) for n in range(4)], 3 * YEAR_S, 150.0, "Ah")
    assert told.a_year == pytest.approx(-10) and told.now == pytest.approx(170)
    assert told.below_at_s == pytest.approx(5 * YEAR_S) and not told.below_now
    noisy = [(0.0, 200.0), (YEAR_S, 186.0), (2 * YEAR_S, 184.0), (3 * YEAR_S, 170.0)]
    told = ageing_of(noisy, 3 * YEAR_S, 150.0, "Ah")
    assert told.a_year_low is not None and told.a_year is not None
    assert told.a_year_low < told.a_year < 0
    assert told.earliest_s is not None and told.below_at_s is not None
    assert told.earliest_s < told.below_at_s
    assert ageing_of(noisy, 3 * YEAR_S, 300.0, "Ah").below_now
    assert "3 readings" in ageing_of(noisy[:2], 0.0, None, "Ah").refused
    assert "too short" in ageing_of([(n * 86400.0, 5.0) for n in range(4)], 0.0, None, "A").refused


def test_service_follows_the_gear_the_date_and_the_engine() -> None:
    keys = {t.key for t in service_tasks(boat())}
    assert {"torque", "relay", "belt", "capacity"} <= keys and not keys & {"sun", "protection"}
    lithium = demo_job("ebb_tide.json").variants[2].design
    assert {"protection", "sun", "shore"} <= {t.key for t in service_tasks(lithium)}
    today, since = date(2026, 3, 31), date(2025, 1, 1)
    done: dict[str, tuple[date, float | None]] = {
        "torque": (date(2026, 1, 31), None),
        "belt": (date(2026, 1, 1), 500.0),
    }
    due = {d.task.key: d for d in due_of(service_tasks(boat()), done, (400, 595), today, since)}
    assert (due["torque"].standing, due["torque"].on) == ("later", date(2027, 1, 31))
    # 500 + 100 = 600 h, five hours from now.
    assert (due["belt"].standing, due["belt"].at_engine_h) == ("soon", 600)
    # Never done: twelve months from the first day; 200 hours from the first 400.
    assert (due["fuses"].standing, due["fuses"].on) == ("overdue", date(2026, 1, 1))
    assert (due["output"].standing, due["output"].at_engine_h) == ("soon", 600)
    later = due_of(
        service_tasks(boat()), {"rest": (date(2025, 11, 30), None)}, (None, None), today, since
    )
    assert next(d.on for d in later if d.task.key == "rest") == date(2026, 2, 28)
    assert later[0].standing == "overdue"
