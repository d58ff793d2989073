"""The audit and the counted way, worked out by hand; tables of loads and counts in and out."""

from __future__ import annotations

from typing import Any

import pytest
from hypothesis import given
from hypothesis import strategies as st
from strom_engine.errors import TableError
from strom_engine.interchange import dump_counted, dump_loads, read_counted, read_loads
from strom_engine.sizing import audit, compare_ways, counts, load_report
from strom_engine.survey import AuditItem, Survey, apply_survey_change, parse_survey, surveyed
from strom_engine.survey.survey_changes import PutRows

from tests.engine.boats import demo_job, two_banks

PROFILES = [
    {"id": "at_anchor", "name": "At anchor"},
    {"id": "under_way", "name": "Under way"},
    {"id": "alongside", "name": "Alongside", "shore": True},
]


def a_survey(*items: dict[str, Any], **more: Any) -> Survey:
    boat = {"kind": "Yacht", "length_m": 11, "latitude_deg": 48, "coldest_c": 0}
    raw = {"boat": boat, "profiles": PROFILES, "items": list(items)}
    return parse_survey(raw | more)


def load(name: str = "lamp", draw: float = 2.0, hours: float = 5.0, **more: Any) -> dict[str, Any]:
    uses = {"uses": {"at_anchor": {"hours": hours}}}
    return {"id": name, "name": name.capitalize(), "draw": draw} | uses | more


INVERTER = {"rated_w": 400, "idle_w": 8, "on_h": {"at_anchor": 6}}
CASES = [
    # what, the item, ampere-hours of a day at anchor at 12.8 V, the arithmetic
    ("amps", load(draw=2, hours=5), 10.0),  # 2 A x 5 h
    ("duty", load(draw=4, hours=24, duty=0.45), 43.2),  # 4 A x 24 h x 0.45
    ("watts", load(draw=25.6, unit="W", hours=5), 10.0),  # 25.6 W x 5 h / 12.8 V
    (
        "minutes",
        load(draw=6) | {"uses": {"at_anchor": {"times": 10, "minutes": 3}}},
        3.0,
    ),  # 6 A x 0.5 h
    ("standing", load(draw=0.1, hours=1, standing=True), 2.4),  # 0.1 A x 24 h
    # 100 W of 400 W is a quarter of its rating: 0.94; 100 / 0.94 x 2 h / 12.8 V, and the idle
    # draw 8 W x 6 h / 12.8 V = 3.75 Ah beside it
    ("inverter", load(draw=100, unit="W", current="ac", hours=2), 16.622 + 3.75),
    ("seasons", load(draw=2, hours=5, seasons={"winter": 2}), 10.0),
]


@pytest.mark.parametrize(("what", "item", "charge_ah"), CASES, ids=[c[0] for c in CASES])
def test_a_day_by_hand(what: str, item: dict[str, Any], charge_ah: float) -> None:
    inverter = {"inverter": INVERTER} if what == "inverter" else {}
    survey = a_survey(item, **inverter)
    day = audit(survey, 12.8).day("at_anchor")
    assert day is not None
    assert day.charge_ah == pytest.approx(charge_ah, rel=1e-3)
    assert day.energy_wh == pytest.approx(charge_ah * 12.8, rel=1e-3)
    assert sum(day.hourly_a) == pytest.approx(day.charge_ah)  # amps for an hour each
    assert sum(row.share for row in day.items) == pytest.approx(1.0)
    winter = audit(survey, 12.8, "winter").day("at_anchor")
    assert winter is not None
    assert winter.charge_ah == pytest.approx(day.charge_ah * (2 if what == "seasons" else 1))


def test_a_whole_day() -> None:
    survey = a_survey(
        load("fridge", 4, 24, duty=0.5, basis="clamp"),
        load("kettle", 1000, 0.2, unit="W", current="ac", window="meals"),
        load("tv", 50, 8, unit="W", current="ac", window="evening"),
        load("alarm", 0.1, standing=True),
        {"id": "pump", "name": "Pump"},
        inverter=INVERTER,
    )
    used = audit(survey, 12.8)
    day = used.day("at_anchor")
    assert day is not None
    assert (used.worst, day.unknown, day.busiest_hour) == ("at_anchor", ("Pump",), 18)
    assert day.standing_week_ah == pytest.approx(7 * 2.4)
    assert day.inverter is not None
    assert day.inverter.off_while_wanted  # 8 h of television, 6 h of inverter
    assert day.inverter.overload_w == 600  # a kettle of 1000 W on an inverter of 400 W
    assert 0.2 < day.assumed_share < 0.8
    # kettle 1000 W / 0.88 at full load / 12.8 V, television 50 / 0.9225, all at once
    kettle_a, tv_a = 1000 / 0.88 / 12.8, 50 / 0.923 / 12.8
    assert day.all_on_a == pytest.approx(4 + kettle_a + tv_a + 0.1 + 8 / 12.8, rel=0.01)


@given(draw=st.floats(0.05, 50), hours=st.floats(0.1, 24), more=st.floats(0.01, 20))
def test_more_draw_is_more_charge_and_units_agree(draw: float, hours: float, more: float) -> None:
    def day(**item: Any) -> float:
        found = audit(a_survey(load("x", hours=hours, **item)), 12.8).day("at_anchor")
        return found.charge_ah if found else 0.0

    assert day(draw=draw + more) > day(draw=draw)
    assert day(draw=draw * 12.8, unit="W") == pytest.approx(day(draw=draw))


def counted(*used: float, profile: str = "at_anchor", season: str = "summer") -> list[dict]:
    return [
        {"id": f"{profile}_{n}", "date": f"2026-07-{n + 1:02d}", "used_ah": ah}
        | {"profile": profile, "season": season}
        for n, ah in enumerate(used)
    ]


def test_counts_by_profile_and_season() -> None:
    rows = counted(90, 100, 110) + counted(40, profile="under_way", season="autumn")
    summer, autumn = counts(a_survey(counted=rows))
    assert (summer.mean_ah, summer.spread_ah, summer.worst_ah) == (100, pytest.approx(10), 110)
    assert (summer.days, summer.worst_date) == (3, "2026-07-03")
    assert (autumn.profile, autumn.spread_ah) == ("under_way", None)


def test_the_two_ways_differ_for_likely_reasons() -> None:
    fridge = load("fridge", 4, 24, duty=0.5)  # 48 Ah
    quiet = a_survey(fridge, counted=counted(50, 46), inverter=INVERTER)
    [agree] = compare_ways(quiet, 12.8)
    assert agree.agree and not agree.reasons
    [more] = compare_ways(a_survey(fridge, counted=counted(72), inverter=INVERTER), 12.8)
    # 72 - 48 - 3.75 of idle = 20.25 Ah, 0.84 A round the clock; duty 0.5 x (1 + 20.25 / 48)
    words = " ".join(r.words for r in more.reasons)
    assert more.difference_ah == pytest.approx(20.25)
    assert "0.84 A round the clock" in words
    assert "0.71 would explain it" in words
    assert "18 h more of idle draw" in words
    assert "Only 1 counted day" in words
    [less] = compare_ways(a_survey(fridge, counted=counted(30, 31, 32)), 12.8)
    assert "too high" in less.reasons[0].words


def test_what_the_engine_bank_carries_and_the_stated_volts() -> None:
    item = load("lamp", 2, 5, feed="panel")
    job = a_survey(item, sizing={"volts": "computed"})
    both = load_report(surveyed(two_banks().design(), job), job)
    assert ("lamp", "Engine bank", pytest.approx(10, rel=0.05)) in [
        (row.item, row.bank, row.charge_ah) for row in both.on_engine_bank
    ]
    # 100 Ah of flooded or AGM about four fifths full under half an amp: near its rest voltage
    assert 12.3 < both.stated.volts_v < 12.8 and "at 82%" in both.stated.words
    apart = two_banks(selector={"position": "2"}).design()
    assert load_report(surveyed(apart, job), job).on_engine_bank == ()


FORMULAS = st.sampled_from(["=1+1", "+4", "-x", "@sum", "'=1", "'", "''-a"])
TEXTS = FORMULAS | st.text(st.characters(exclude_categories=("C", "Z")), min_size=1, max_size=20)
HOURS = st.one_of(
    st.fixed_dictionaries({"hours": st.floats(0, 24)}),
    st.fixed_dictionaries({"times": st.floats(0, 24), "minutes": st.floats(0, 60)}),
)
ITEMS = st.fixed_dictionaries(
    {"name": TEXTS},
    optional={
        "group": TEXTS,
        "draw": st.floats(0.001, 400),
        "unit": st.sampled_from(["A", "W"]),
        "current": st.sampled_from(["dc", "ac"]),
        "duty": st.floats(0, 1),
        "standing": st.booleans(),
        "window": st.sampled_from(["night", "meals"]),
        "min_v": st.floats(1, 60),
        "feed": st.just("house_panel"),
        "basis": st.sampled_from(["clamp", "typed"]),
        "uses": st.dictionaries(st.sampled_from(["at_anchor", "alongside"]), HOURS),
        "seasons": st.dictionaries(st.sampled_from(["winter", "autumn"]), st.floats(0, 10)),
    },
)


@given(st.lists(ITEMS, max_size=6, unique_by=lambda row: row["name"].lower()))
def test_loads_leave_and_enter_without_loss(rows: list[dict[str, Any]]) -> None:
    survey = a_survey(*(row | {"id": f"row_{n}"} for n, row in enumerate(rows)))
    if not rows:
        return
    text = dump_loads(survey)
    for known in (survey, a_survey()):
        read = read_loads(text.encode(), known)
        assert read.problems == ()
        assert [AuditItem.model_validate(row) for row in read.rows] == list(survey.items)


def test_a_pasted_block_changes_only_its_columns() -> None:
    survey = a_survey(load("fridge", 4, 24, duty=0.45, window="night"))
    read = read_loads("id\tdraw\thours at_anchor\nfridge\t5.5\t\n", survey)
    [row] = read.rows
    assert (row["draw"], row["duty"], row["window"], row["uses"]) == (5.5, 0.45, "night", {})
    after = apply_survey_change(survey, PutRows(list="items", rows=read.rows))
    assert after.items_by_id["fridge"].draw == 5.5


BAD = [
    ("name,draw\nLamp,-2\n", "row 2, column draw", "not between 0"),
    ("name,at_anchor\nLamp,30\n", "row 2, column hours at_anchor", "or equal to 24"),
    ("name,factor_summer\nLamp,11\n", "row 2, column factor summer", "equal to 10"),
    ("name,duty\nLamp,1.1\n", "row 2, column duty", "less than or equal to 1"),
    ("name,start_a\nLamp,20001\n", "row 2, column start_a", "equal to 20000"),
    ("name;draw\nLamp;4,2\n", "row 2, column draw", "write a decimal point, 4.2"),
    ("name,draw\nLamp,4,2\n", "row 2", "3 cells for 2 columns; a comma for a decimal point"),
    ("name,draw\n,2\n", "row 2, column name", "missing"),
    ("name,unit\nLamp,V\n", "row 2, column unit", "'A' or 'W'"),
    ("name,standing\nLamp,maybe\n", "row 2, column standing", "yes or no"),
    ("name,draw\nLamp,2\nlamp,3\n", "row 3, column name", "stands twice"),
]


@pytest.mark.parametrize(("text", "path", "words"), BAD)
def test_bad_cells_are_named_and_good_rows_kept_apart(text: str, path: str, words: str) -> None:
    read = read_loads(text + "Good\n", a_survey())
    [problem] = read.problems
    assert problem.path == path and words in problem.message
    assert "Good" in [row["name"] for row in read.rows] and read.read > len(read.rows)


@pytest.mark.parametrize(
    ("text", "words"),
    [
        (b"", "empty"),
        (b"\n \n", "empty"),
        (b"draw\n2\n", "'name' is missing"),
        (b"name,drwa\nLamp,2\n", "did you mean 'draw'"),
        (b"name,name\nLamp,Lamp\n", "stands twice"),
        (b"name\n" + b"Lamp\n" * 501, "501 rows; at most 500"),
        (b"name\n" + b"x" * 140_000, "field larger than"),
    ],
)
def test_a_table_that_cannot_be_read_says_why(text: bytes, words: str) -> None:
    with pytest.raises(TableError, match=words):
        read_loads(text, a_survey())


def test_lines_end_as_any_program_ends_them() -> None:
    for ending in ("\n", "\r\n", "\r"):
        text = ending.join(("name,draw", "Lamp,2", "Pump,4", ""))
        assert [r["name"] for r in read_loads(text, a_survey()).rows] == ["Lamp", "Pump"]


def test_no_cell_that_leaves_is_a_formula() -> None:
    text = dump_loads(a_survey(load("lamp") | {"name": "=cmd()", "group": "-x"}))
    assert "'=cmd()" in text and "'-x" in text
    [row] = read_loads(text, a_survey()).rows
    assert (row["name"], row["group"]) == ("=cmd()", "-x")


@pytest.mark.parametrize("encoding", ["utf-8", "utf-8-sig", "utf-16", "cp1252"])
def test_usual_encodings_are_read(encoding: str) -> None:
    read = read_loads("name\nKühlschrank\n".encode(encoding), a_survey())
    assert read.rows[0]["name"] == "Kühlschrank"
    assert bool(read.notes) == (encoding in ("cp1252", "utf-16"))


def test_counted_days_in_and_out() -> None:
    survey = demo_job("marsh_wren.json").survey
    empty = survey.model_copy(update={"counted": ()})
    read = read_counted(dump_counted(survey), empty)
    assert read.problems == ()
    kept = apply_survey_change(empty, PutRows(list="counted", rows=read.rows))
    assert [d.used_ah for d in kept.counted] == [d.used_ah for d in survey.counted]
    assert read_counted("date,ah\n2026-07-01,-88\n", survey).rows[0]["used_ah"] == 88
    bad = read_counted("date,ah,profile\n1.7.26,88,at anchor\n2026-07-02,x,ancor\n", survey)
    assert [p.path for p in bad.problems] == [
        "row 2, column date",
        "row 3, column profile",
        "row 3, column used_ah",
    ]
