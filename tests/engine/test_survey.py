"""The survey: new boats, changes in words, what a design takes from it, what is to find out."""

from __future__ import annotations

import pytest
from strom_engine.design import (
    Bank,
    FittedInverter,
    LoadGroup,
    apply_change,
    change_words,
    parse_design,
)
from strom_engine.design.changes import change_from
from strom_engine.drawing import lay_out
from strom_engine.errors import ChangeError, JobFileError, StateError, SurveyError
from strom_engine.interchange import JOB_VERSION, dump_job, parse_job, parse_job_text
from strom_engine.survey import (
    FoundSwitching,
    Survey,
    apply_survey_change,
    boat_kinds,
    cable_lengths,
    found_part,
    new_boat,
    parse_survey,
    survey_change_from,
    survey_change_words,
    survey_touched,
    surveyed,
    to_find_out,
)

from tests.engine.boats import DEMO_FILES, demo_job

KINDS = [(kind.kind, way.id) for kind in boat_kinds() for way in kind.switchings]


def changed(survey: Survey, **what: object) -> Survey:
    return apply_survey_change(survey, survey_change_from(what))


@pytest.mark.parametrize(("kind", "switching"), KINDS)
def test_a_new_boat_is_whole_and_assumed(kind: str, switching: FoundSwitching) -> None:
    survey, design = new_boat(kind, switching)
    assert parse_survey(survey.model_dump(mode="json")) == survey
    assert parse_design(design.model_dump(mode="json")) == design
    lay_out(surveyed(design, survey), "pos")
    assert all(c.estimated for c in design.cables)
    rows = to_find_out(design, survey)
    assert {"Boat", "Way of use", "Runs", "Banks", "Sources", "Loads"} <= {r.section for r in rows}
    assert all(r.question and r.now for r in rows)


def test_an_unknown_kind_of_boat_suggests_one() -> None:
    with pytest.raises(StateError, match="did you mean 'day_sailer'"):
        new_boat("day_sailor", "none")
    with pytest.raises(StateError, match="not found switched so; known: on_off_each, none"):
        new_boat("day_boat", "selector")


@pytest.mark.parametrize("name", DEMO_FILES)
def test_demo_surveys_fit_their_designs(name: str) -> None:
    job = demo_job(name)
    for variant in job.variants:
        design = surveyed(variant.design, job.survey)
        assert parse_design(design.model_dump(mode="json")) == design
        assert surveyed(design, job.survey) == design  # once is enough
    assert parse_job_text(dump_job(job)) == job


def test_a_run_measured_once_reaches_every_cable_on_it() -> None:
    survey, design = new_boat("cruising_yacht", "selector")
    run = {"id": "battery_box_helm", "length_m": 4.0, "measured": True}
    measured = changed(survey, type="put_rows", list="runs", rows=[run])
    on_run = {"engine_bank.pos", "house_bank.pos"}
    now = surveyed(design, measured).cables
    cables = {c.id: c for c in now if c.start in on_run and c.end.part == "selector"}
    # 4.0 m of run and a tail of 0.3 m at each end
    assert {c.length_m for c in cables.values()} == {4.6}
    assert not any(c.estimated for c in cables.values())
    how = {row.cable: row.how for row in cable_lengths(design, measured)}
    assert {how[c] for c in cables} == {"run"}
    own = apply_change(
        design,
        change_from({"type": "set_cable_length", "cable": "c1", "length_m": 5.5}),
    )
    assert surveyed(own, measured).cables_by_id["c1"].length_m == 5.5


def test_a_listed_load_draws_what_the_survey_says_on_the_feed_of_the_variant() -> None:
    survey, design = new_boat("cruising_yacht", "on_off_each")
    pump = {"id": "bilge_pump", "draw": 5.0, "basis": "clamp"}
    lamp = {"id": "lamp", "name": "Lamp", "draw": 24.0, "unit": "W", "feed": "house_panel"}
    kettle = {"id": "kettle", "name": "Kettle", "draw": 900, "unit": "W", "current": "ac"}
    uses = {"uses": {"at_anchor": {"hours": 3}}}
    rows = [pump, lamp | uses, kettle | {"feed": "house_panel"}, {"id": "fridge", "draw": None}]
    now = surveyed(design, changed(survey, type="put_rows", list="items", rows=rows))
    items = {i.id: i for i in now.by_id["house_panel"].items}  # type: ignore[union-attr]
    assert items["bilge_pump"].draw_a == 5.0 and items["bilge_pump"].always_on
    assert items["bilge_pump"].brief and items["bilge_pump"].profiles == ()  # minutes a day
    assert items["lamp"].draw_a == pytest.approx(24 / 12.6, abs=1e-4)
    assert items["lamp"].profiles == ("at_anchor",)
    assert items["kettle"].draw_a == pytest.approx(900 / 0.9 / 12.6, abs=1e-3)
    assert "fridge" not in items  # nobody knows its draw
    # With an inverter aboard the kettle hangs on that, by its watts, and on no panel.
    fitted = apply_change(design, found_part(design, "inverter", "Inverter", None, "house_bank"))
    inverted = surveyed(fitted, changed(survey, type="put_rows", list="items", rows=rows))
    [box] = inverted.of_type(FittedInverter)
    assert [(i.id, i.power_w) for i in box.items if i.id == "kettle"] == [("kettle", 900)]
    assert "kettle" not in {i.id for p in inverted.of_type(LoadGroup) for i in p.items}


def test_a_measurement_by_difference_is_kept_and_changes_the_load() -> None:
    survey, _ = new_boat("cruising_yacht", "selector")
    measured = {"id": "m1", "item": "fridge", "method": "difference", "before": -0.8}
    measured |= {"after": -5.6, "date": "2026-05-02", "by": "Anna"}
    made = survey_change_from({"type": "record_measurement", "measurement": measured})
    words = survey_change_words(survey, made)
    assert words == "Measured Refrigerator: 4.8 A (difference, Anna)"
    after = apply_survey_change(survey, made)
    assert (after.items_by_id["fridge"].draw, after.items_by_id["fridge"].basis) == (
        pytest.approx(4.8),
        "difference",
    )
    assert after.measurements[0].date.isoformat() == "2026-05-02"
    gone = changed(after, type="remove_rows", list="items", ids=["fridge"])
    assert not gone.measurements and len(survey.items) == len(after.items)


@pytest.mark.parametrize(
    ("row", "path", "words"),
    [
        ({"draw": -3}, "items[0].draw", "equal to 0.0001"),
        ({"duty": 1.5}, "items[0].duty", "less than or equal to 1"),
        ({"uses": {"at_anchor": {"hours": 30}}}, "items[0].uses.at_anchor.hours", "24"),
        ({"uses": {"at_anchor": {"times": 40, "minutes": 60}}}, "items[0].uses.at_anchor", "day"),
        ({"uses": {"at_anker": {"hours": 2}}}, "items[0].uses", "'at_anchor'"),
    ],
)
def test_impossible_loads_are_named(row: dict[str, object], path: str, words: str) -> None:
    survey, _ = new_boat("cruising_yacht", "selector")
    with pytest.raises(ChangeError) as caught:
        changed(survey, type="put_rows", list="items", rows=[{"id": "fridge"} | row])
    [problem] = caught.value.problems
    assert problem.path == path
    assert words in problem.message and problem.message.startswith("Refrigerator: ")


def test_a_survey_that_does_not_hang_together_tells_all_of_it() -> None:
    survey, _ = new_boat("cruising_yacht", "selector")
    raw = survey.model_dump(mode="json")
    count = len(raw["runs"])
    raw["runs"] += [dict(raw["runs"][0], id="again"), dict(raw["runs"][0], id="x", end="hlem")]
    raw["sizing"]["candidates"] = [{"id": "own", "unit": "agm_12_101"}]
    raw["generators"] = [{"id": "w", "name": "W", "kind": "wind", "speed_kn": 5}]
    with pytest.raises(SurveyError) as caught:
        parse_survey(raw)
    assert {p.path for p in caught.value.problems} == {
        f"runs[{count}]",
        f"runs[{count + 1}].end",
        "sizing.candidates[0].unit",
        "generators[0].curve",
    }
    with pytest.raises(SurveyError, match="written by a later one"):
        parse_survey({"version": 9})


def test_changes_to_different_fields_do_not_clash() -> None:
    def about(**what: object) -> frozenset[str]:
        return survey_touched(survey_change_from(what))

    hull = about(type="set_section", section="boat", fields={"hull": "keel"})
    cold = about(type="set_section", section="boat", fields={"coldest_c": 2})
    assert not hull & cold
    row = about(type="put_rows", list="items", rows=[{"id": "fridge"}])
    assert row & about(type="remove_rows", list="items", ids=["fridge", "vhf"])


@pytest.mark.parametrize(
    ("kind", "ends"),
    [
        ("solar", {"solar_1.pos", "house_bank.pos", "solar_1.neg", "neg_bar.s4"}),
        ("charger", {"charger_1.out1", "house_bank.pos", "charger_1.neg", "neg_bar.s4"}),
        ("loads", {"loads_1.pos", "house_bank.pos", "loads_1.neg", "neg_bar.s4"}),
        ("switch", {"switch_1.a", "house_bank.pos"}),
        (
            "dcdc",
            {"dcdc_1.in", "engine_bank.pos", "dcdc_1.out", "house_bank.pos", "dcdc_1.neg"}
            | {"neg_bar.s4"},
        ),
        (
            "isolator",
            {"isolator_1.in", "alternator.out", "isolator_1.out2", "house_bank.pos"},
        ),
        (
            "relay",
            {"relay_1.a", "engine_bank.pos", "relay_1.b", "house_bank.pos", "relay_1.neg"}
            | {"neg_bar.s4"},
        ),
    ],
)
def test_a_found_part_lands_where_it_usually_is(kind: str, ends: set[str]) -> None:
    _, design = new_boat("day_sailer", "none")
    found = found_part(design, kind, "Found", "locker", "house_bank")
    assert {end for c in found.cables for end in (c.start, c.end)} == ends
    after = apply_change(design, found)
    assert change_words(design, found) == "Put in Found"
    assert after.by_id[f"{kind}_1"].assumed or kind == "loads"
    if kind == "isolator":  # what was on the alternator is on the first output
        assert after.cables_by_id["c3"].end == "isolator_1.out1"
    if kind == "switch":  # what the bank fed is now behind the switch
        assert after.cables_by_id["c2"].start == "switch_1.b"
    with pytest.raises(ChangeError, match="did you mean 'house_bank'"):
        found_part(design, kind, "Found", None, "house_bnak")
    with pytest.raises(ChangeError, match="'starter' cannot be put in as found"):
        found_part(design, "starter", "Found", None, "house_bank")


def test_parts_are_set_taken_out_and_scaled_to_other_volts() -> None:
    _, design = new_boat("long_distance_yacht", "selector")
    told = change_from({"type": "set_part", "part": "house_bank", "fields": {"unit_ah": 140}})
    assert change_words(design, told) == "House bank: capacity of one, 20 h 120 Ah to 140 Ah"
    bank = apply_change(design, told).by_id["house_bank"]
    assert isinstance(bank, Bank) and "unit_ah" not in bank.assumed and "soc" in bank.assumed
    fields = {"unit_ah": -1, "chemistry": "tin"}
    wrong = change_from({"type": "set_part", "part": "house_bank", "fields": fields})
    with pytest.raises(ChangeError) as caught:
        apply_change(design, wrong)
    assert {p.path for p in caught.value.problems} == {"fields.unit_ah", "fields.chemistry"}
    double = apply_change(design, change_from({"type": "set_system_volts", "system_v": 24}))
    banks = double.of_type(Bank)
    assert {b.nominal_v for b in banks} == {24.0} and {b.series for b in banks} == {2}
    assert double.by_id["alternator"].set_v == pytest.approx(28.6)  # type: ignore[union-attr]
    less = apply_change(design, change_from({"type": "remove_part", "part": "selector"}))
    assert not any("selector." in c.start + c.end for c in less.cables)


def test_a_job_without_a_survey_gets_one() -> None:
    old = demo_job("pilot_3.json").model_dump(mode="json")
    boat = {"kind": "Workboat", "length_m": 7.0, "notes": "flat by noon"}
    del old["survey"]
    job = parse_job(old | {"version": 1, "boat": boat})
    assert (job.version, job.survey.boat.kind, job.survey.boat.fuel) == (
        JOB_VERSION,
        "Workboat",
        "petrol",
    )
    assert [p.id for p in job.survey.places] == ["stern", "console"]
    with pytest.raises(JobFileError) as caught:
        parse_job(old | {"version": 1, "boat": boat | {"length_m": 0}, "name": ""})
    assert {p.path for p in caught.value.problems} == {"survey.boat.length_m", "name"}
