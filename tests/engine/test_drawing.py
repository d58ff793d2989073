"""Drawings: nothing overlaps, everything is joined where it should be, little moves."""

from itertools import combinations

import pytest
from strom_engine.design import Design, apply_change, change_from
from strom_engine.drawing import Box, Layout, Side, Wire, lay_out

from bench.designs import largest_design, reference_design, sized_design
from bench.generated import generated_design
from tests.engine.boats import demo_designs

CLEAR = 2.0
DESIGNS = [*demo_designs(), *(generated_design(seed) for seed in range(30)), reference_design()]
DESIGNS += [largest_design(), *(generated_design(seed) for seed in range(240, 260))]
SIDES: tuple[Side, ...] = ("pos", "neg")


def overlap(a: Box, b: Box) -> bool:
    return (
        a.x < b.x + b.width
        and b.x < a.x + a.width
        and a.y < b.y + b.height
        and b.y < a.y + a.height
    )


def crosses_box(wire: Wire, box: Box) -> bool:
    """Whether a wire runs through the inside of a box."""
    for p, q in zip(wire.points, wire.points[1:], strict=False):
        if (
            min(p.x, q.x) < box.x + box.width - CLEAR
            and max(p.x, q.x) > box.x + CLEAR
            and min(p.y, q.y) < box.y + box.height - CLEAR
            and max(p.y, q.y) > box.y + CLEAR
        ):
            return True
    return False


def level_pieces(layout: Layout) -> list[tuple[str, float, float, float]]:
    return [
        (w.id, p.y, min(p.x, q.x), max(p.x, q.x))
        for w in layout.wires
        for p, q in zip(w.points, w.points[1:], strict=False)
        if p.y == q.y
    ]


@pytest.mark.parametrize("side", SIDES)
@pytest.mark.parametrize("design", DESIGNS)
def test_nothing_lies_on_anything_else(design: Design, side: Side) -> None:
    layout = lay_out(design, side)
    for a, b in combinations(layout.boxes, 2):
        assert not overlap(a, b), (a.id, b.id)
    for wire in layout.wires:
        assert not [box.id for box in layout.boxes if crosses_box(wire, box)], wire.id
    for a, b in combinations(level_pieces(layout), 2):
        if a[0] != b[0] and a[1] == b[1]:
            assert a[3] <= b[2] or b[3] <= a[2], (a, b)


@pytest.mark.parametrize("side", SIDES)
@pytest.mark.parametrize("design", DESIGNS)
def test_every_wire_ends_on_its_posts_and_stays_inside(design: Design, side: Side) -> None:
    layout = lay_out(design, side)
    marks = [m for box in layout.boxes for m in box.posts]
    for wire in layout.wires:
        cable = design.cables_by_id[wire.id]
        for ref, at in ((cable.start, wire.points[0]), (cable.end, wire.points[-1])):
            part = ref.partition(".")[0]
            on = [
                m
                for m in marks
                if m.ref in (ref, f"{part}.bar")
                and m.y == at.y
                and abs(at.x - m.x) <= m.width / 2 + 0.01
            ]
            assert on, (wire.id, ref)
        for p, q in zip(wire.points, wire.points[1:], strict=False):
            assert p.x == q.x or p.y == q.y
    for box in layout.boxes:
        assert box.x >= 0 and box.x + box.width <= layout.width
        assert box.y >= 0 and box.y + box.height <= layout.height


def test_both_sides_together_draw_every_cable_once() -> None:
    for design in DESIGNS:
        drawn = [w.id for side in SIDES for w in lay_out(design, side).wires]
        assert sorted(drawn) == sorted(c.id for c in design.cables)


def test_banks_stand_in_their_bays_in_order() -> None:
    layout = lay_out(demo_designs()[0])
    assert [bay.bank for bay in layout.bays] == ["engine_bank", "house_bank", "thruster_bank"]
    boxes = {box.id: box for box in layout.boxes}
    for bay in layout.bays:
        assert bay.x <= boxes[bay.bank].x
        assert boxes[bay.bank].x + boxes[bay.bank].width <= bay.x + bay.width


def test_the_same_design_gives_the_same_drawing_and_a_small_change_moves_little() -> None:
    design = demo_designs()[1]
    before = lay_out(design)
    assert lay_out(Design.model_validate_json(design.model_dump_json())) == before
    change = {"type": "move_cable_end", "cable": "solar_house", "end": "end"}
    moved = apply_change(design, change_from(change | {"to": "engine_bank.pos"}))
    at = {box.id: box for box in before.boxes}
    kinds = {p.id: p.kind for p in design.components}
    far = [
        box.id
        for box in lay_out(moved).boxes
        if kinds[box.id] != "solar" and abs(box.x - at[box.id].x) + abs(box.y - at[box.id].y) > 60
    ]
    assert len(far) <= 2, far


def test_a_large_scheme_is_drawn_too() -> None:
    assert len(lay_out(sized_design(120)).boxes) > 40
