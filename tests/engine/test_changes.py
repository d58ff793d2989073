"""Named changes: what they do, what they say, what they refuse."""

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from strom_engine.design import (
    apply_change,
    change_from,
    change_words,
    design_problems,
    landing_posts,
    touched,
)
from strom_engine.errors import ChangeError

from bench.generated import generated_design
from tests.engine.boats import relay_boat, two_banks

NEW_CABLE = {
    "id": "link",
    "start": "engine_bank.neg",
    "end": "house_bank.neg",
    "length_m": 1.5,
    "gauge": "2/0 AWG",
}


@pytest.mark.parametrize(
    ("raw", "words", "after"),
    [
        (
            {"type": "move_cable_end", "cable": "c3", "end": "end", "to": "engine_bank.pos"},
            "Moved the cable from Starter +: off Alternator out, onto Engine bank +",
            lambda d: d.cables_by_id["c3"].end == "engine_bank.pos",
        ),
        (
            {"type": "add_cable", "cable": NEW_CABLE},
            "Ran 2/0 AWG from Engine bank − to House bank −",
            lambda d: "link" in d.cables_by_id,
        ),
        (
            {"type": "remove_cable", "cable": "c0"},
            "Took out the cable Engine bank + to Selector one",
            lambda d: "c0" not in d.cables_by_id,
        ),
        (
            {"type": "set_cable_gauge", "cable": "c4", "gauge": "2 AWG"},
            "Selector common to Panel +: 8 AWG to 2 AWG",
            lambda d: d.cables_by_id["c4"].area_mm2 == 33.63,
        ),
        (
            {"type": "set_field_contact", "selector": "selector", "alternator": "alternator"},
            "Led the field of Alternator through the field contact of Selector",
            lambda d: d.by_id["selector"].field_contact_of == "alternator",
        ),
    ],
)
def test_changes_and_their_words(raw: dict, words: str, after: object) -> None:
    design = two_banks().design()
    change = change_from(raw)
    assert change_words(design, change) == words
    assert callable(after)
    assert after(apply_change(design, change))
    assert not after(design)  # the one given stays as it is


@pytest.mark.parametrize(
    ("raw", "words"),
    [
        ({"type": "move_cable_end", "cable": "c99", "end": "end", "to": "bar.s1"}, "no cable"),
        ({"type": "move_cable_end", "cable": "c3", "end": "end", "to": "bar.s9"}, "cannot land"),
        ({"type": "move_cable_end", "cable": "c3", "end": "both", "to": "bar.s9"}, "not a change"),
        ({"type": "add_cable", "cable": NEW_CABLE | {"id": "c0"}}, "already a cable"),
        ({"type": "add_cable", "cable": NEW_CABLE | {"end": "panel.pos"}}, "dead short"),
        ({"type": "set_cable_gauge", "cable": "c0", "gauge": "5 AWG"}, "not a known size"),
        ({"type": "set_relay_sensing", "relay": "selector", "sensing": "a"}, "no relay"),
        ({"type": "set_field_contact", "selector": "selector", "alternator": "x"}, "no alternator"),
        ({"type": "paint_it"}, "not a change"),
        ([], "not a change"),
    ],
)
def test_refusals_name_the_reason(raw: object, words: str) -> None:
    with pytest.raises(ChangeError, match=words):
        apply_change(two_banks().design(), change_from(raw))


def test_posts_offered_are_those_of_the_same_side() -> None:
    design = two_banks().design()
    offered = landing_posts(design, "c3", "end")
    assert "engine_bank.pos" in offered
    assert "selector.one" in offered
    assert not any(ref.endswith(".neg") or ref.startswith("bar") for ref in offered)
    assert {"starter.pos", "alternator.out"}.isdisjoint(offered)
    negative = landing_posts(design, "c5", "start")
    assert "panel.neg" in negative
    assert "selector.one" not in negative  # a switch in the positive stays there


def test_a_power_cable_is_not_offered_a_sense_post() -> None:
    design = relay_boat(alternator={"sensing": "external"}).design()
    assert not any("sense" in ref for ref in landing_posts(design, "c0", "start"))


def test_what_changes_touch_decides_whether_they_clash() -> None:
    move = change_from({"type": "move_cable_end", "cable": "c3", "end": "end", "to": "bar.s1"})
    gauge = change_from({"type": "set_cable_gauge", "cable": "c3", "gauge": "2 AWG"})
    other = change_from({"type": "remove_cable", "cable": "c4"})
    assert touched(move) & touched(gauge)
    assert not touched(move) & touched(other)


@given(st.integers(0, 10**6), st.data())
@settings(max_examples=60, deadline=None)
def test_every_post_offered_can_be_landed_on(seed: int, data: st.DataObject) -> None:
    design = generated_design(seed)
    cable = data.draw(st.sampled_from(design.cables))
    end = data.draw(st.sampled_from(("start", "end")))
    offered = landing_posts(design, cable.id, end)
    if not offered:
        return
    to = data.draw(st.sampled_from(offered))
    change = change_from({"type": "move_cable_end", "cable": cable.id, "end": end, "to": to})
    moved = apply_change(design, change)
    assert design_problems(moved.model_dump(mode="json")) == []
    assert getattr(moved.cables_by_id[cable.id], end) == to
