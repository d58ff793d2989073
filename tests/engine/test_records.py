"""Records of monitors: read from any layout, what happened in them, held against the boat."""

from __future__ import annotations

import random
from datetime import UTC, datetime
from functools import cache

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st
from strom_engine.dayrun import Day, Plan, day_run
from strom_engine.dayrun.plan import EngineSpan, LivingSpan
from strom_engine.design import Bank, Design
from strom_engine.errors import StateError, TableError
from strom_engine.faults import effects_of, fault_from_key
from strom_engine.interchange.record_layout import RecordLayout, guess_layout
from strom_engine.interchange.record_rows import RowReader, dump_records, in_order
from strom_engine.records import (
    CountableDays,
    Monitor,
    Shunted,
    Trace,
    countable_days,
    happened,
    held_against,
    recorded,
    thinned,
)
from strom_engine.survey import Survey, SurveyedDesign, surveyed

from bench.designs import Draft
from tests.engine.boats import demo_job

NOON = datetime(2025, 9, 2, 12, tzinfo=UTC).timestamp()
SHUNT = Shunted("house_bank", driven="engine")
CURVE = [{"speed_kn": 8, "current_a": 0}, {"speed_kn": 16, "current_a": 8}]


@cache
def boat() -> tuple[SurveyedDesign, Survey]:
    """The motor-sailer as found, in autumn, as the records are."""
    job = demo_job("marsh_wren.json")
    use = job.survey.use.model_copy(update={"season": "autumn"})
    survey = job.survey.model_copy(update={"use": use})
    return surveyed(job.variants[0].design, survey), survey


def bank_of(design: Design) -> Bank:
    return Shunted("house_bank").of(design)


@cache
def a_day(fault: str | None = None) -> Day:
    """A day at anchor with both banks on one switch, the engine from eight to eleven at night."""
    design, survey = boat()
    plan = Plan(
        name="At anchor",
        hours=44,
        clock_h=12,
        month=9,
        living=(LivingSpan(start_h=0, end_h=44, profile="at_anchor"),),
        engine=(EngineSpan(start_h=8, end_h=11, rpm=1800),),
        soc={"house_bank": 0.6},
    )
    effects = effects_of(design, *([fault_from_key(design, fault)] if fault else []))
    return day_run(design, survey, plan, effects)


def trace(fault: str | None = None, every_s: float = 60.0) -> Trace:
    day = a_day(fault)
    return recorded(day, bank_of(day.design), Monitor(every_s=every_s), NOON, seed=4)


def read(text: str, **changes: object) -> tuple[Trace, RowReader]:
    layout = guess_layout(text).layout.model_copy(update=changes)
    reader = RowReader(layout)
    found, _ = in_order(list(reader.pieces(text.splitlines(keepends=True))))
    return found, reader


ROWS = [(0, 12.71, -3.2, 0.98), (60, 12.7, 5.1, 0.97), (120, 13.02, 40.0, 0.98)]


def table(head: str, line: str, separator: str = ",", before: str = "") -> str:
    """Three rows in a layout; ``line`` is a format over the moment, volts, amps, charge."""
    lines = []
    for seconds, volts, amps, charge in ROWS:
        at = datetime.fromtimestamp(NOON + seconds, UTC)
        lines.append(line.format(at=at, ms=1000 * at.timestamp(), v=volts, a=amps, c=charge))
    return before + "\n".join([head, *lines]).replace("|", separator) + "\n"


LAYOUTS = {
    "plain": table("time|volts [V]|amps [A]|soc [%]", "{at:%Y-%m-%dT%H:%M:%SZ}|{v}|{a}|{c:.0%}")
    .replace("%,", ",").replace("%\n", "\n"),
    "millivolts": table("Timestamp;Battery voltage (mV);Current (mA);SOC",
                        "{at:%Y-%m-%d %H:%M:%S};{v:.3f};{a};{c}")
    .replace("12.710", "12710").replace("12.700", "12700").replace("13.020", "13020")
    .replace("-3.2", "-3200").replace("5.1", "5100").replace("40.0", "40000"),
    "date and clock": table("Date\tTime of day\tVoltage\tCurrent\tState of charge",
                            "{at:%d/%m/%Y}\t{at:%H:%M:%S}\t{v}\t{a}\t{c}", before="A logger\n\n")
    .replace("02/09", "13/09"),
    "unix": table("epoch time,V,A,SOC", "{ms:.0f},{v},{a},{c}"),
}  # fmt: skip


@pytest.mark.parametrize("name", LAYOUTS)
def test_layouts_are_guessed_by_head_unit_and_range(name: str) -> None:
    found, reader = read(LAYOUTS[name])
    assert reader.problems == [] and len(found) == 3
    shift = 11 * 86400 if name == "date and clock" else 0
    assert found.at_s - NOON - shift == pytest.approx([0, 60, 120])
    for n, quantity in enumerate(("volts_v", "amps_a", "charge")):
        assert found.columns[quantity] == pytest.approx([row[n + 1] for row in ROWS]), quantity


def test_decimal_commas_bad_rows_and_clocks() -> None:
    text = """Export;;;
Datum;Spannung [V];Strom [A];SOC
13.07.2025 00:00:00;12,71;-3,2;98
13.07.2025 00:01:00;kaputt;-3,1;98
13.07.2025 00:02:00;12,70;-3,1
01.01.1970 00:00:00;12,70;-3,1;98
26.10.2025 02:50:00;12,70;-3,1;98
26.10.2025 02:10:00;12,69;-3,1;98
30.03.2025 02:30:00;12,70;-3,1;98
13.07.2025 00:00:00;99,99;-3,2;98
"""
    found, reader = read(text, zone="Europe/Stockholm")
    # The autumn hour comes twice: 02:50 in summer time, then 02:10 in winter time.
    wanted = ["2025-07-12T22:00", "2025-10-26T00:50", "2025-10-26T01:10"]
    stamps = [datetime.fromtimestamp(at, UTC).strftime("%Y-%m-%dT%H:%M") for at in found.at_s]
    assert stamps == wanted and found.columns["volts_v"][0] == 12.71
    told = sorted(str(p).split(":")[0] for p in reader.problems)
    assert told == ["line 4", "line 5", "line 6", "line 9"], "every bad row by its line"
    assert [note.split(":")[0] for note in reader.notes] == ["line 10"]
    assert any("clocks go forward" in p.message for p in reader.problems)


def test_what_is_written_out_is_read_again_the_same() -> None:
    told = trace(every_s=600)
    again, reader = read(dump_records(told))
    assert not reader.problems and again.at_s == pytest.approx(told.at_s)
    for name, column in told.columns.items():
        assert again.columns[name] == pytest.approx(column), name
    flipped = guess_layout(dump_records(told)).layout
    columns = tuple(c.model_copy(update={"flipped": c.quantity == "amps"}) for c in flipped.columns)
    turned, _ = read(dump_records(told), columns=columns)
    assert turned.columns["amps_a"] == pytest.approx(-told.columns["amps_a"])


def test_a_thousand_malformed_files_are_refused_or_read_in_words() -> None:
    rng = random.Random(7)
    plain = dump_records(trace(every_s=600)).encode()[:6000]
    junk = [
        b"\0",
        b"NaN",
        b";",
        b"\t",
        b"\n\n",
        b"time,volts",
        b"1970-01-01",
        b"2106-02-07",
        b"\xff",
    ]
    refused = 0
    for _ in range(1000):
        data = bytearray(plain[: rng.randrange(1, len(plain))])
        for _ in range(rng.randrange(1, 12)):
            at = rng.randrange(len(data))
            data[at : at + rng.randrange(8)] = rng.choice(junk)
        text = data.decode("utf-8", errors="replace")
        try:
            found, reader = read(text)
        except TableError:
            refused += 1
        else:
            assert np.isfinite(found.at_s).all() and (np.diff(found.at_s) > 0).all()
            assert reader.bad >= len(reader.problems)
    assert 0 < refused < 500, "most of them still have rows"


@given(st.lists(st.floats(-100, 100), min_size=4, max_size=400), st.integers(4, 60))
def test_thinning_keeps_the_least_and_the_most(values: list[float], most: int) -> None:
    column = np.array(values)
    at_s, kept = thinned(np.arange(len(column), dtype=float), column, most)
    assert (kept.min(), kept.max()) == (column.min(), column.max())
    assert len(kept) <= max(most + 4, 4) or len(kept) == len(column)
    assert (np.diff(at_s) > 0).all()


def test_what_happened_agrees_with_the_day_that_was_run() -> None:
    day, told = a_day(), trace()
    found = happened(told, boat()[0], SHUNT)
    [spell] = [s for s in found.spells if s.source == "engine"]
    assert (spell.start_s - NOON) / 3600 == pytest.approx(8.0, abs=0.1)
    assert (spell.end_s - NOON) / 3600 == pytest.approx(11.0, abs=0.5)  # surface charge
    series = np.asarray(day.recording.at_s)
    inside = (series >= spell.start_s - NOON) & (series < spell.end_s - NOON)
    amps_a = np.maximum(np.asarray(day.recording.bank_a["house_bank"]), 0)[inside]
    run_ah = float(np.trapezoid(amps_a, series[inside])) / 3600
    assert spell.put_in_ah == pytest.approx(run_ah, rel=0.03)
    night = found.nights[0]
    at_night = (series >= 12 * 3600) & (series < 17 * 3600)
    drawn = -np.asarray(day.recording.bank_a["house_bank"])[at_night]
    mean_a = float(np.trapezoid(drawn, series[at_night])) / (5 * 3600)
    assert night.mean_a == pytest.approx(mean_a, rel=0.05)
    assert night.duty is not None and 0.2 < night.duty < 0.7, "the refrigerator cycles"
    coarse = happened(trace(every_s=600), boat()[0], SHUNT)
    assert any("six minutes" in line for line in coarse.unseen)
    assert not any("six minutes" in line for line in found.unseen)


def test_a_start_and_a_gap_are_seen_where_rows_are_close() -> None:
    at_s = NOON + np.arange(0.0, 1200.0)
    volts_v = np.full(1200, 12.6)
    volts_v[300:303] = (9.9, 10.4, 11.9)
    keep = np.ones(1200, bool)
    told = happened(Trace(at_s[keep], {"volts_v": volts_v[keep]}), boat()[0], SHUNT)
    assert [(c.at_s - NOON, c.least_v) for c in told.cranks] == [(300.0, 9.9)]
    later = np.concatenate((at_s[:600], at_s[600:] + 7200))
    told = happened(Trace(later, {"volts_v": volts_v}), boat()[0], SHUNT)
    assert [(g.start_s - NOON, g.end_s - NOON) for g in told.gaps] == [(599.0, 7800.0)]
    with pytest.raises(StateError, match="no bank 'x'"):
        happened(trace(), boat()[0], Shunted("x"))


CAUSES = {
    "added_resistance alt_neg end =0.03": ("added_resistance alt_neg end", "set_low alternator"),
    "standing_draw house_bank =3": ("standing_draw house_bank",),
}


@pytest.mark.parametrize("fault", [None, *CAUSES])
def test_records_are_held_against_the_boat(fault: str | None) -> None:
    design, survey = boat()
    held = held_against(design, survey, trace(fault), SHUNT)
    if fault is None:
        assert held.findings == () and held.causes == () and held.figures
        return
    assert held.findings and all(f.arithmetic for f in held.findings)
    shares = {key: c.share for c in held.causes for key in c.faults}
    assert sum(shares.get(key, 0.0) for key in CAUSES[fault]) > 0.5, held.causes
    assert abs(sum(c.share for c in held.causes) - 1) < 0.1


def test_what_cannot_be_told_is_said() -> None:
    design, survey = boat()
    told = trace()
    volts = Trace(told.at_s, {"volts_v": told.columns["volts_v"]})
    held = held_against(design, survey, volts, SHUNT)
    assert held.played is None and "Volts and amps" in held.cannot_tell[0]
    wrong = RecordLayout.model_validate(
        {"columns": [{"head": "x", "quantity": "amps", "unit": "V"}]}
    )
    assert {p.path for p in wrong.problems()} == {"columns", "columns[0].unit"}


def used_days(*amps_a: float, sun_a: float = 0.0) -> Trace:
    """Days from nine to nine, each with its own draw [A]; ``sun_a`` is given from ten to four."""
    at_s = NOON - 3 * 3600 + np.arange(0.0, 24 * 3600 * len(amps_a), 300.0)
    drawn = -np.repeat(amps_a, 24 * 12)
    hour = (at_s / 3600) % 24
    amps = drawn + np.where((hour >= 10) & (hour < 16), sun_a, 0.0)
    return Trace(at_s, {"volts_v": np.full(len(at_s), 12.5), "amps_a": amps})


def test_days_without_any_charge_count_for_the_audit() -> None:
    design, survey = boat()
    plain = design.replace_unchecked(
        components=tuple(p for p in design.components if p.kind != "solar")
    )
    told = happened(used_days(3.0, 4.5), plain, SHUNT)
    found = countable_days(told, [plain], survey, "house_bank")
    # 3 A x 24 h = 72 Ah, 4.5 A x 24 h = 108 Ah.
    assert [(d.date, d.used_ah, d.season) for d in found.days] == [
        ("2025-09-02", pytest.approx(72.0, rel=0.01), "autumn"),
        ("2025-09-03", pytest.approx(108.0, rel=0.01), "autumn"),
    ]
    assert (found.left_out, found.doubt) == (0, "")
    # (72 + 108) / 2 = 90 Ah
    assert (found.mean_ah, found.most_ah) == pytest.approx((90.0, 108.0), rel=0.01)
    south = survey.model_copy(
        update={"boat": survey.boat.model_copy(update={"latitude_deg": -35.0})}
    )
    assert countable_days(told, [plain], south, "house_bank").days[0].season == "spring"
    other = countable_days(told, [plain], survey, "engine_bank")
    assert not other.days and "house bank" in other.why
    # An engine run leaves its day out, and so does charge that no spell explains.
    charged = countable_days(happened(trace(), plain, SHUNT), [plain], survey, "house_bank")
    assert not charged.days and charged.left_out == len(happened(trace(), plain, SHUNT).days)
    leaky = used_days(3.0)
    leaky.columns["amps_a"][:8] = 5.0  # 40 min of 5 A: 3 Ah of 72
    assert not countable_days(happened(leaky, plain, SHUNT), [plain], survey, "house_bank").days


def test_a_sun_that_carries_loads_past_the_monitor_leaves_its_day_out() -> None:
    design, survey = boat()
    panel = next(p for p in demo_job("marsh_wren.json").variants[1].design.components
                 if p.kind == "solar")  # fmt: skip
    sunny = design.replace_unchecked(
        components=(*(p for p in design.components if p.kind != "solar"), panel)
    )

    def counted(sun_a: float, *designs: Design) -> CountableDays:
        told = happened(used_days(3.0, 3.0, sun_a=sun_a), designs[0], SHUNT)
        return countable_days(told, designs, survey, "house_bank")

    # 5 % of 3 A are 0.15 A: less is as good as none. What the sun gave is told by the night
    # before, so that the first day stays out.
    assert [len(counted(a, sunny).days) for a in (0.0, 0.1, 0.2, 2.0)] == [1, 1, 0, 0]
    assert panel.name in counted(0.0, sunny).doubt and "covered" in counted(0.0, sunny).doubt
    # Of a variant without a panel it is asked too, if the boat as found has one.
    bare = sunny.replace_unchecked(
        components=tuple(p for p in sunny.components if p.kind != "solar")
    )
    assert [len(counted(a, bare, sunny).days) for a in (0.0, 2.0)] == [1, 0]
    assert len(counted(0.0, bare).days) == 2 and not counted(0.0, bare).doubt
    draft = Draft()
    draft.part("generator", "wind", driven_by="wind", points=CURVE, set_v=14.2)
    [wind] = draft.design().components
    windy = bare.replace_unchecked(components=(*bare.components, wind))
    assert wind.name in counted(0.0, windy).doubt
