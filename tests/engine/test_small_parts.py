"""The small units that larger ones stand on, each by hand."""

import numpy as np
import pytest
from strom_engine.circuit.live_metal import Branch
from strom_engine.circuit.network import cable_resistance_ohm, network
from strom_engine.circuit.reach import reach
from strom_engine.circuit.trace import Injection, Passage, trace_shares
from strom_engine.circuit.widest_path import widest_path
from strom_engine.design import State, check_state, default_positions
from strom_engine.design.sides import post_sides
from strom_engine.drawing.geometry import Box, Spot, Wire
from strom_engine.drawing.labels import place_labels
from strom_engine.drawing.placing import GAP, Item, place_items
from strom_engine.drawing.routing import Leg, route_channels
from strom_engine.errors import ComputationError

from tests.engine.boats import demo_job, one_bank, relay_boat, two_banks

NONE_CLOSED = frozenset[str]()


def test_a_cable_by_hand() -> None:
    # 2 m of 6 AWG at 20 degC: 0.0177572 x 2 / 13.3 + 2 x 0.2 mohm
    design = one_bank().design()
    assert cable_resistance_ohm(design, design.cables[0]) * 1000 == pytest.approx(3.0703, abs=1e-4)


@pytest.mark.parametrize(
    ("position", "joined", "fed_by"),
    [
        ("off", (), ()),
        ("1", (), ("engine_bank",)),
        ("2", (), ("house_bank",)),
        ("both", (("engine_bank", "house_bank"),), ("engine_bank", "house_bank")),
    ],
)
def test_reach_of_a_selector(
    position: str, joined: tuple[tuple[str, ...], ...], fed_by: tuple[str, ...]
) -> None:
    design = two_banks().design()
    state = check_state(design, State(positions={"selector": position}, engine="on"))
    found = reach(design, state, NONE_CLOSED)
    assert found.joined_banks == joined
    assert found.fed_by["panel"] == found.fed_by["starter"] == fed_by
    assert found.charges["alternator"] == fed_by
    assert found.loose_sources == (() if fed_by else ("alternator",))


def test_a_closed_relay_joins_and_its_thin_negative_does_not() -> None:
    design = relay_boat().design()
    state = check_state(design, State())
    assert reach(design, state, NONE_CLOSED).joined_banks == ()
    joined = reach(design, state, frozenset({"relay"})).joined_banks
    assert joined == (("engine_bank", "house_bank"),)


def test_a_load_needs_its_way_back() -> None:
    draft = two_banks()
    draft.cables = [c for c in draft.cables if c["start"] != "panel.neg"]
    design = draft.design()
    found = reach(design, check_state(design, State()), NONE_CLOSED)
    assert found.fed_by["panel"] == ()
    assert found.fed_by["starter"] == ("engine_bank", "house_bank")


def test_switch_posts_take_the_side_of_what_is_joined_to_them() -> None:
    draft = two_banks()
    draft.part("switch", "spare")
    sides = post_sides(draft.design())
    assert sides["selector.common"] == "pos"
    assert sides["spare.a"] == "any"
    assert sides["bar.s12"] == "neg"


def test_two_givers_share_by_what_they_put_in() -> None:
    # 30 A and 10 A meet in node 2, whence 40 A go to node 3: three quarters and one
    branches = [Branch(0, 2, 30.0), Branch(1, 2, 10.0), Branch(2, 3, 40.0)]
    volts = np.array([3.0, 3.0, 2.0, 1.0])
    shares = trace_shares(branches, volts, [Injection("a", 0, 30.0), Injection("b", 1, 10.0)])
    assert shares[3] == pytest.approx({"a": 0.75, "b": 0.25})
    assert shares[0] == {"a": 1.0}
    # What goes round from nowhere has no giver: said in words, as all that has no number.
    ring = [Passage(0, 1, 5.0), Passage(1, 0, 5.0)]
    with pytest.raises(ComputationError, match="ring that nothing feeds"):
        trace_shares([], volts[:2], [], ring)
    assert trace_shares([], volts[:0], []) == {}, "nothing is live"


def test_the_widest_way_is_as_narrow_as_its_narrowest_cable() -> None:
    design = demo_job("marsh_wren.json").variants[0].design
    positions = default_positions(design) | {"selector": "both"}
    net = network(design, positions, NONE_CLOSED)
    # engine bank - block - link of 2 AWG - bar - house bank
    narrow = widest_path(design, net, "engine_bank.neg", "house_bank.neg")
    assert narrow is not None and narrow.id == "block_link"
    assert widest_path(design, net, "engine_bank.pos", "engine_bank.neg") is None


def leg(name: str, start: float, end: float, *, down: bool = True) -> Leg:
    return Leg(name, 0, start, end, start_from_top=down, end_from_top=not down)


@pytest.mark.parametrize(
    ("legs", "lanes"),
    [
        # straight down: no lane at all
        ([leg("a", 10, 10)], [None]),
        # side by side in one lane, over each other in two
        ([leg("a", 0, 40), leg("b", 60, 90)], [0, 0]),
        ([leg("a", 0, 60), leg("b", 30, 90)], [0, 1]),
        # b comes down where a goes up from below: b must leave above a
        ([leg("a", 0, 60), leg("b", 60, 100)], [1, 0]),
    ],
)
def test_lanes(legs: list[Leg], lanes: list[int | None]) -> None:
    assert route_channels(legs, 1).lane == lanes


def test_places_keep_their_gap_and_hang_under_what_they_are_tied_to() -> None:
    items = [
        Item("bank", 0, 100, 0, fixed=True),
        Item("fuse", 1, 40, 0),
        Item("other", 1, 40, 0.1),
    ]
    links = [(("bank", 50.0), ("fuse", 10.0)), (("bank", 50.0), ("other", 10.0))]
    x = place_items(items, links, ["bank"], 300).x
    assert x["bank"] == 100
    assert x["other"] - x["fuse"] == 40 + GAP
    # both want their post at 150: they stand as near to it on either side
    assert x["fuse"] + 10 < 150 < x["other"] + 10


def test_a_label_keeps_off_boxes_and_other_lines() -> None:
    box = Box("b", 80, 90, 40, 20, mirrored=False, posts=())
    long = Wire("w", (Spot(100, 0), Spot(100, 200)), 0, 0)
    across = Wire("v", (Spot(0, 40), Spot(200, 40)), 0, 0)
    found = {w.id: w for w in place_labels((long, across), (box,))}
    at = found["w"]
    assert at.label_x == 100
    assert abs(at.label_y - 100) >= 18.5
    assert abs(at.label_y - 40) >= 8.5
