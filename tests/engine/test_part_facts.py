"""What every kind of part states of itself, and the sheet of figures made from it."""

from __future__ import annotations

import pytest
from strom_engine.design import FuseBlock, parse_design
from strom_engine.design.fields import PostRef
from strom_engine.design.figures import NOT_ASKED, kind_sheets
from strom_engine.design.parts import KINDS
from strom_engine.design.usual import usual_part
from strom_engine.errors import DesignError
from strom_engine.survey import choice_words

SHEETS = {sheet.kind: sheet for sheet in kind_sheets()}
FIGURES = {(s.kind, f.name): f for s in SHEETS.values() for f in s.figures}


def usual(kind: str, system_v: int = 12):
    own = {"guards": "house"} if kind == "protection" else {}
    return usual_part(kind, "one", "One", system_v, own=own)


@pytest.mark.parametrize("kind", KINDS)
def test_everything_a_kind_has_is_asked_for_in_words(kind: str) -> None:
    asked = [figure.name for figure in SHEETS[kind].figures]
    assert sorted(asked) == sorted(set(KINDS[kind].model_fields) - NOT_ASKED)
    for figure in SHEETS[kind].figures:
        if figure.sort == "pick" and figure.name not in ("stud",):
            titles = [choice.title for choice in figure.choices]
            assert len(set(titles)) == len(titles) > 1
            assert not any("_" in title for title in titles), titles
        if figure.sort == "number" and not figure.whole:
            assert figure.unit, figure.name
            assert figure.minimum is not None and figure.maximum is not None


@pytest.mark.parametrize("kind", KINDS)
@pytest.mark.parametrize("system_v", [12, 24])
def test_what_a_kind_says_of_its_posts_is_true_of_one(kind: str, system_v: int) -> None:
    part = usual(kind, system_v)
    posts = set(part.posts())
    facts = part.facts
    assert {post for pair in part.joins() for post in pair} <= posts | {"ctrl_pos", "ctrl_neg"}
    assert set(facts.inline or ()) <= posts
    assert set(part.charging_posts()) <= posts
    assert bool(part.charging_posts()) == (facts.counted == "sources" and kind != "inverter"), (
        "an inverter charges only with a charger in it"
    )
    assert set(facts.swaps) <= set(KINDS)
    assert len(set(part.post_roles().values())) == len(part.post_roles())
    assert [ref.part for pair in part.links() for ref in pair] == ["one"] * 2 * len(part.joins())
    if facts.found is not None:
        assert facts.found.post in posts


@pytest.mark.parametrize(
    ("kind", "name", "told"),
    [
        ("relay", "cut_in_v", ("number", "V", 0.5, 100.0, False, False)),
        ("relay", "opens_after_s", ("number", "s", 1.0, 200_000.0, False, True)),
        ("bank", "unit_cca_a", ("number", "A", 0.001, 20_000.0, True, False)),
        ("bank", "series", ("number", "", 1.0, 8.0, False, False)),
        ("dcdc", "efficiency", ("number", "0–1", 0.5, 1.0, False, False)),
        ("fuse_block", "branch_a", ("numbers", "A", 0.001, 20_000.0, False, False)),
        ("generator", "points", ("curve", "", None, None, False, False)),
        ("protection", "guards", ("part", "", None, None, False, False)),
        ("relay", "lamp", ("pick", "", None, None, False, False)),
        ("alternator", "surge_clamp", ("yes_no", "", None, None, True, False)),
    ],
)
def test_a_figure_has_the_limits_of_its_field(kind: str, name: str, told: tuple) -> None:
    one = FIGURES[kind, name]
    found = (one.sort, one.unit, one.minimum, one.maximum, one.nullable, one.optional)
    assert found == told


def test_choices_come_from_the_tables_that_know_them() -> None:
    devices = {c.value: c.title for c in FIGURES["fuse", "device"].choices}
    assert devices["class_t"] == "Class T fuse" and devices["unknown"] == "Not looked at yet"
    assert FIGURES["relay", "sensing"].choices[0].title == "Both sides"
    assert FIGURES["protection", "guards"].refers_to == "bank"
    points = FIGURES["generator", "points"].columns
    assert [(c.name, c.unit) for c in points] == [("speed_kn", "kn"), ("current_a", "A")]
    assert FIGURES["selector", "field_contact_of"].refers_to == "alternator"


def test_a_reference_to_a_post_is_read_and_written_as_text() -> None:
    block = usual("fuse_block")
    assert isinstance(block, FuseBlock)
    raw = {
        "components": [
            usual("bank").model_dump(mode="json"),
            block.model_copy(update={"id": "bus", "name": "Bus"}).model_dump(mode="json"),
        ],
        "cables": [
            {"id": "c", "start": "one.pos", "end": "bus.in", "length_m": 1, "gauge": "4 AWG"}
        ],
    }
    cable = parse_design(raw).cables[0]
    assert (type(cable.end), cable.end.part, cable.end.post) == (PostRef, "bus", "in")
    assert cable.model_dump(mode="json")["end"] == "bus.in"
    with pytest.raises(DesignError, match=r"cables\[0\].end"):
        parse_design(raw | {"cables": [raw["cables"][0] | {"end": "bus"}]})


def test_a_protection_guards_a_bank_that_there_is() -> None:
    bank = usual("bank").model_copy(update={"id": "house_bank", "name": "House bank"})
    guard = usual("protection").model_copy(update={"guards": "hose_bank"})
    raw = {"components": [p.model_dump(mode="json") for p in (bank, guard)], "cables": []}
    with pytest.raises(DesignError, match="there is no bank 'hose_bank'"):
        parse_design(raw)


def test_choices_outside_the_parts_are_those_of_their_fields() -> None:
    lists = {sheet.name: sheet.choices for sheet in choice_words.choice_sheets()}
    assert [c.value for c in lists["insulation_c"]] == [60, 70, 75, 80, 85, 90, 105, 125, 200]
    assert lists["system_v"][1].title == "24 V" and lists["sizing_volts"][0].title == "12.0 V"
    for name, model, field, words, _ in choice_words.SHEETS:
        assert {c.value for c in lists[name]} >= set(words), (model, field)
        assert not any("_" in choice.title for choice in lists[name])
