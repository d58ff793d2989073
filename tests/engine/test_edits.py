"""Rewiring as an electrician does it: put in, swap, park, land, stack, gather, compare."""

from __future__ import annotations

import pytest
from strom_engine.design import (
    Design,
    LandParked,
    ParkEnd,
    RemoveCable,
    StackCables,
    apply_change,
    change_from,
    change_words,
    joinable_posts,
    landing_posts,
    parse_design,
    touched,
)
from strom_engine.design.differences import differences
from strom_engine.design.edits import (
    before_switch,
    gather_on_bus,
    insert_part,
    swap_kinds,
    swap_part,
)
from strom_engine.design.opening import opened
from strom_engine.design.parts import KINDS
from strom_engine.errors import ChangeError, DesignError
from strom_engine.patterns import PATTERNS, Aboard, pattern_change

from bench.generated import generated_design
from tests.engine.boats import DEMO_FILES, demo_job, relay_boat, two_banks

SELECTOR = two_banks().design()
INLINE = {k: part.facts.inline for k, part in KINDS.items() if part.facts.inline is not None}


def cable(design: Design, start: str, end: str) -> str:
    return next(c.id for c in design.cables if (c.start, c.end) == (start, end))


@pytest.mark.parametrize("kind", [k for k in INLINE if k not in ("protection", "shunt")])
def test_a_part_put_into_a_cable_leaves_the_rest_alone(kind: str) -> None:
    fed = cable(SELECTOR, "selector.common", "panel.pos")
    change = insert_part(SELECTOR, fed, kind)
    after = apply_change(SELECTOR, change)
    enter, leave = INLINE[kind]
    part = change.part.id
    first = after.cables_by_id[fed]
    [second] = [c for c in after.cables if c.id not in SELECTOR.cables_by_id]
    assert (first.start, first.end) == ("selector.common", f"{part}.{enter}")
    assert (second.start, second.end) == (f"{part}.{leave}", "panel.pos")
    assert second.gauge == first.gauge and second.estimated
    assert after.by_id[part].assumed or "bus" in change.part.name  # nobody has read its figures
    assert len(after.components) == len(SELECTOR.components) + 1
    assert change_words(SELECTOR, change).startswith("Put in ")


def test_a_protection_goes_in_at_its_bank_and_a_shunt_in_a_negative() -> None:
    lithium = two_banks(house_bank={"chemistry": "lfp"}).design()
    guard = insert_part(lithium, cable(lithium, "house_bank.pos", "selector.two"), "protection")
    assert guard.part.kind == "protection" and guard.part.guards == "house_bank"
    minus = cable(lithium, "house_bank.neg", "bar.s2")
    assert apply_change(lithium, insert_part(lithium, minus, "shunt")).by_id["shunt_1"]
    with pytest.raises(ChangeError, match="cable of the bank that it guards"):
        insert_part(lithium, cable(lithium, "selector.common", "panel.pos"), "protection")
    for cable_id, kind in (("c99", "fuse"), ("c0", "starter")):
        with pytest.raises(ChangeError):
            insert_part(lithium, cable_id, kind)


def test_swapping_keeps_what_fits_and_parks_the_rest() -> None:
    change = swap_part(SELECTOR, "selector", "relay")
    after = apply_change(SELECTOR, change)
    new = change.new.id
    assert "selector" not in after.by_id and after.by_id[new].kind == "relay"
    kept = {(c.start, c.end) for c in after.cables if new in c.start + c.end}
    assert kept == {("engine_bank.pos", f"{new}.a"), ("house_bank.pos", f"{new}.b")}
    # A relay has no common post: its two cables hang, with their other ends still landed.
    hanging = {(c.start, c.end) for c in after.parked}
    assert hanging == {(None, "starter.pos"), (None, "panel.pos")}
    assert change_words(SELECTOR, change).endswith("; 2 cables parked")
    again = change_from(change.model_dump(mode="json"))
    assert apply_change(SELECTOR, again) == after


def test_on_a_dual_circuit_switch_loads_go_to_the_house_side() -> None:
    after = apply_change(SELECTOR, swap_part(SELECTOR, "selector", "dual_switch"))
    ends = {(c.start.partition(".")[2], c.end) for c in after.cables if "dual" in c.start}
    assert ends == {("engine_out", "starter.pos"), ("house_out", "panel.pos")}
    assert after.parked == ()


@pytest.mark.parametrize("seed", range(0, 60, 3))
def test_any_offered_swap_keeps_every_cable_somewhere(seed: int) -> None:
    design = generated_design(seed)
    for part in design.components:
        for kind in swap_kinds(design, part.id):
            after = apply_change(design, swap_part(design, part.id, kind))
            cables = {c.id for c in after.cables} | {c.id for c in after.parked}
            assert cables == set(design.cables_by_id)


def test_parking_landing_and_taking_out() -> None:
    fed = cable(SELECTOR, "selector.common", "panel.pos")
    park = ParkEnd(cable=fed, end="start")
    parked = apply_change(SELECTOR, park)
    assert fed not in parked.cables_by_id
    assert [(c.id, c.start, c.end) for c in parked.parked] == [(fed, None, "panel.pos")]
    posts = landing_posts(parked, fed, "start")
    assert "house_bank.pos" in posts and "bar.s9" not in posts  # its other end is positive
    landed = apply_change(parked, LandParked(cable=fed, end="start", to="house_bank.pos"))
    assert landed.parked == ()
    assert landed.cables_by_id[fed].start == "house_bank.pos"
    gone = apply_change(parked, RemoveCable(cable=fed))
    assert gone.parked == () and fed not in gone.cables_by_id
    # Both ends may hang; then it lands on either side.
    loose = apply_change(SELECTOR, ParkEnd(cable=fed, end="end"))
    assert landing_posts(loose, fed, "end")
    with pytest.raises(ChangeError, match="no parked cable"):
        apply_change(SELECTOR, LandParked(cable=fed, end="start", to="house_bank.pos"))
    with pytest.raises(ChangeError, match="dead short"):
        apply_change(parked, LandParked(cable=fed, end="start", to="bar.s9"))


def test_a_new_cable_lands_on_its_own_side() -> None:
    posts = joinable_posts(SELECTOR, "house_bank.pos")
    assert "selector.common" in posts and "panel.pos" in posts
    assert not {p for p in posts if p.endswith(".neg") or p.startswith("house_bank")}
    minus = joinable_posts(SELECTOR, "panel.neg")
    assert "bar.s6" in minus and "selector.common" not in minus
    with pytest.raises(ChangeError, match=r"did you mean 'panel\.neg'"):
        joinable_posts(SELECTOR, "panel.nge")


def test_a_parked_end_is_let_go_when_its_part_goes() -> None:
    fed = cable(SELECTOR, "selector.common", "panel.pos")
    parked = apply_change(SELECTOR, ParkEnd(cable=fed, end="start"))
    after = apply_change(parked, change_from({"type": "remove_part", "part": "panel"}))
    assert [(c.start, c.end) for c in after.parked] == [(None, None)]


def test_documents_with_wrong_parked_cables_are_refused() -> None:
    raw = SELECTOR.model_dump(mode="json")
    spare = raw["cables"][0] | {"id": "spare", "start": None}
    raw["parked"] = [spare | {"end": "nowhere.pos"}, raw["cables"][1]]
    with pytest.raises(DesignError) as caught:
        parse_design(raw)
    told = [str(p) for p in caught.value.problems]
    assert any("parked[0]" in t and "no post 'nowhere.pos'" in t for t in told)
    assert any("parked[1]" in t and "both ends landed" in t for t in told)
    assert any("also a cable in use" in t for t in told)


def test_the_stack_on_a_post_is_widest_first_until_somebody_says_otherwise() -> None:
    ref = "selector.common"
    starter, panel = (cable(SELECTOR, ref, f"{p}.pos") for p in ("starter", "panel"))
    assert SELECTOR.stack_on(ref) == (starter, panel)  # 1/0 AWG before 8 AWG
    told = StackCables(post=ref, cables=(panel, starter))
    turned = apply_change(SELECTOR, told)
    assert turned.stack_on(ref) == (panel, starter)
    assert change_words(SELECTOR, told) == "Stacked the lugs on Selector common"
    # What leaves the post leaves the stack.
    moved = apply_change(turned, ParkEnd(cable=panel, end="start"))
    assert moved.stack_on(ref) == (starter,)
    assert moved.stacks[0].cables == (starter,)


def test_a_crowded_post_is_split_onto_a_bus() -> None:
    draft = two_banks()
    for name in ("stereo", "plotter", "pump"):
        draft.load(name, 2.0)
        draft.cable("selector.common", f"{name}.pos", "12 AWG")
        draft.cable(f"{name}.neg", f"bar.s{len(draft.cables) % 12 + 1}", "12 AWG")
    design = draft.design()
    for kind in ("bus_bar", "fuse_block"):
        after = apply_change(design, gather_on_bus(design, "selector.common", kind))
        # The engine's cable stays on the post; everything else hangs on the bus, by one feeder.
        assert len(after.stack_on("selector.common")) == 2
        on_bus = [c for c in after.cables if f"{kind}_1." in c.start + c.end]
        assert len(on_bus) == 5
    with pytest.raises(ChangeError, match="at least two"):
        gather_on_bus(design, "panel.pos", "bus_bar")
    with pytest.raises(ChangeError, match="positive side"):
        gather_on_bus(design_with_crowded_minus(), "house_bank.neg", "fuse_block")
    with pytest.raises(ChangeError, match="gathers nothing"):
        gather_on_bus(design, "selector.common", "relay")


def design_with_crowded_minus() -> Design:
    draft = two_banks()
    for name in ("stereo", "plotter", "pump"):
        draft.load(name, 2.0)
        draft.cable(f"{name}.neg", "house_bank.neg", "12 AWG")
    return draft.design()


def test_a_load_is_taken_before_its_switch() -> None:
    design = relay_boat().design()
    fed = cable(design, "house_switch.b", "panel.pos")
    assert before_switch(design, fed) == (("start", "house_switch.a"),)
    assert before_switch(design, cable(design, "house_bank.pos", "house_switch.a")) == ()
    assert before_switch(design, "nothing") == ()
    both = before_switch(SELECTOR, cable(SELECTOR, "selector.common", "panel.pos"))
    assert both == (("start", "selector.one"), ("start", "selector.two"))


def test_changes_that_share_nothing_do_not_clash() -> None:
    fed = cable(SELECTOR, "selector.common", "panel.pos")
    assert touched(ParkEnd(cable=fed, end="start")) == {f"cable {fed}"}
    swap = swap_part(SELECTOR, "selector", "switch")
    assert touched(swap) == {"selector", swap.new.id}
    stack = StackCables(post="selector.common", cables=())
    assert not touched(stack) & touched(swap)


def test_differences_of_the_demo_proposals() -> None:
    found, after = (v.design for v in demo_job("marsh_wren.json").variants[:2])
    rows = differences(found, after)
    told = {(d.what, d.how, d.id) for d in rows}
    assert ("part", "gone", "selector") in told and ("part", "new", "relay") in told
    assert not {d for d in rows if d.id == "solar_house"}
    assert differences(found, found) == ()
    # Turned round, what was new goes and what went is new.
    back = {(d.what, d.how, d.id) for d in differences(after, found)}
    turn = {"gone": "new", "new": "gone", "changed": "changed"}
    assert {(w, turn[h], i) for w, h, i in told if h != "changed"} == {
        b for b in back if b[1] != "changed"
    }


def test_a_changed_figure_is_told_in_words() -> None:
    raw = SELECTOR.model_dump(mode="json")
    raw["components"][3]["rated_a"] = 120
    raw["cables"][0] |= {"gauge": "4 AWG", "length_m": 2.5}
    alternator, lead = differences(SELECTOR, parse_design(raw))
    assert alternator.words == "Alternator: rated current 80 A to 120 A"
    assert (alternator.key, alternator.kind) == ("part alternator", "alternator")
    [rated] = alternator.fields
    assert (rated.field, rated.was, rated.now) == ("rated_a", 80.0, 120.0)
    assert lead.words.endswith(": 1/0 AWG to 4 AWG, length 1 m to 2.5 m")
    assert lead.changed("gauge") and not lead.changed("ends")
    # The same line goes on under the same key while the figure changes on.
    raw["cables"][0] |= {
        "gauge": "6 AWG",
        "start": SELECTOR.cables[0].end,
        "end": SELECTOR.cables[0].start,
    }
    assert differences(SELECTOR, parse_design(raw))[1].key == lead.key


@pytest.mark.parametrize("demo", DEMO_FILES)
def test_a_whole_scheme_opens_up_into_its_named_changes(demo: str) -> None:
    job = demo_job(demo)
    found = job.variants[0].design
    fits = [p for p in PATTERNS if not p.against(Aboard(found))]
    assert fits
    for pattern in fits:
        scheme = pattern_change(found, pattern, job.survey)
        changes = opened(found, scheme)
        assert changes is not None
        after = apply_change(found, changes)
        assert differences(apply_change(found, scheme), after) == ()
        assert opened(after, scheme) is None
        assert {c.type for c in changes.changes} - {"add_cable", "remove_cable"}
