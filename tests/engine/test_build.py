"""Build: the work between two designs, its parts and cuts, and an order that is never unsafe."""

from __future__ import annotations

import json
import subprocess
import sys
from typing import Any

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from strom_engine.build import (
    Moment,
    Order,
    Piece,
    boards,
    build_book,
    cut_length_m,
    cutting_plan,
    order_of_work,
    pieces,
    reordered,
    work,
)
from strom_engine.build.cutting_plan import SAW_M
from strom_engine.design import Design, parse_design
from strom_engine.runs import Reel, Stock, default_stock
from strom_engine.survey import surveyed

from bench.designs import Draft
from bench.generated import generated_design
from tests.engine.boats import DEMO, DEMO_FILES, demo_job

PLACES = [
    {"id": "box", "name": "Battery box"},
    {"id": "helm", "name": "Helm"},
]


def found_boat() -> Draft:
    """Two batteries on a selector, one load: what a retrofit begins with."""
    draft = Draft()
    draft.bank("engine_bank", role="engine", unit_cca_a=700, place="box")
    draft.bank("house_bank", place="box")
    draft.part("selector", "selector", make_before_break=True, position="both", place="helm")
    draft.load("panel", 5.0)
    draft.parts[-1] |= {"place": "helm"}
    draft.parts[-1]["items"][0] |= {"name": "Bilge pump", "always_on": True}
    draft.part("bus_bar", "bar", polarity="neg", studs=8, place="box")
    draft.cable("engine_bank.pos", "selector.one", "2 AWG", 3.0)
    draft.cable("house_bank.pos", "selector.two", "2 AWG", 3.0)
    draft.cable("selector.common", "panel.pos", "8 AWG", 1.0)
    draft.cable("engine_bank.neg", "bar.s1", "2 AWG", 0.5)
    draft.cable("house_bank.neg", "bar.s2", "2 AWG", 0.5)
    draft.cable("panel.neg", "bar.s3", "8 AWG", 3.5)
    draft.extra["places"] = PLACES
    return draft


def retrofit() -> Draft:
    """A relay with a fuse on either side, a bypass switch, the panel on the house bank."""
    draft = found_boat()
    draft.parts = [p for p in draft.parts if p["id"] != "selector"]
    draft.cables = [c for c in draft.cables if "selector" not in c["start"] + c["end"]]
    volts = {"cut_in_v": 13.3, "cut_in_s": 60, "cut_out_v": 12.8, "cut_out_s": 30}
    draft.part("relay", "relay", rating_a=120, negative_fuse_a=3, place="box", **volts)
    draft.part("switch", "bypass", purpose="parallel", position="off", place="box")
    for n, bank in enumerate(("engine_bank", "house_bank"), 1):
        draft.part("fuse", f"fuse_{n}", rating_a=150, device="terminal_stud", place="box")
        draft.cable(f"{bank}.pos", f"fuse_{n}.a", "2 AWG", 0.15)
    for start, end, gauge, metres in (
        ("fuse_1.b", "relay.a", "2 AWG", 0.6),
        ("relay.b", "fuse_2.b", "2 AWG", 0.6),
        ("fuse_1.b", "bypass.a", "2 AWG", 0.8),
        ("bypass.b", "fuse_2.b", "2 AWG", 0.8),
        ("fuse_2.b", "panel.pos", "8 AWG", 3.5),
        ("relay.neg", "bar.s4", "16 AWG", 0.7),
    ):
        draft.cable(start, end, gauge, metres)
    for n, cable in enumerate(draft.cables):  # ids of their own: only what stayed keeps its id
        if cable["start"] not in ("engine_bank.neg", "house_bank.neg", "panel.neg"):
            cable["id"] = f"new_{n}"
    return draft


def built() -> tuple[Design, Design]:
    return found_boat().design(), retrofit().design()


def test_the_work_of_a_two_battery_retrofit() -> None:
    found, chosen = built()
    job = work(found, chosen)
    fates = {p.part: p.fate for p in job.parts}
    assert fates == {
        "selector": "out", "engine_bank": "stays", "house_bank": "stays", "panel": "stays",
        "bar": "stays", "relay": "new", "bypass": "new", "fuse_1": "new", "fuse_2": "new",
    }  # fmt: skip
    # The two leads to the selector are long enough to be used again.
    again = job.cables_by("again")
    assert {c.was for c in again} == {"c0", "c1"} and all(c.gauge == "2 AWG" for c in again)
    assert {c.was for c in job.cables_by("stays")} == {"c3", "c4", "c5"}
    assert [c.was for c in job.cables_by("out")] == ["c2"]  # 1.0 m of 8 AWG for 3.5 m
    assert len(job.cables_by("new")) == 6
    assert work(None, chosen).parts_by("new") and not work(chosen, chosen).cables_by("new", "out")


def test_every_line_of_its_parts() -> None:
    found, chosen = built()
    book = build_book(found, chosen)
    lines = {x.item: x.needed for x in book.parts.lines}
    new = [chosen.cables_by_id[p.cable] for p in book.cuts]
    cut = {
        g: sum(cut_length_m(c.length_m) for c in new if c.gauge == g) for g in ("2 AWG", "8 AWG")
    }
    assert lines["relay 120 A"] == 1 and lines["switch 300 A"] == 1
    # two in their holders and one spare; the small one in the relay's negative and its spare
    assert lines["fuse terminal_stud 150"] == 3 and lines["holder terminal_stud"] == 2
    assert lines["fuse blade_regular 3"] == 2 and lines["black sleeve"] == 2
    assert lines["cable 2 AWG red 105"] == pytest.approx(1.05 * cut["2 AWG"], abs=0.01)
    assert lines["cable 8 AWG red 105"] == pytest.approx(1.05 * cut["8 AWG"], abs=0.01)
    assert lines["cable 16 AWG black 105"] == pytest.approx(1.05 * 0.75, abs=0.01)
    lugs = sum(n for item, n in lines.items() if item.startswith("lug "))
    moved = sum(len(c.moved) for c in book.work.cables_by("again"))
    assert lugs == 2 * len(book.cuts) + moved
    # 3.5 m of 8 AWG want ceil(3.5 / 0.455) = 8 clips; it goes from the box to the helm
    assert lines["clip 7"] == 8 and lines["grommet 7"] == 1
    assert lines["fastener"] == 4 * 4 and lines["backing plate"] == 1
    assert book.parts.unpriced == len(book.parts.lines) and book.parts.cost == 0


def test_prices_and_what_is_in_stock() -> None:
    found, chosen = built()
    reel = {"id": "r1", "gauge": "2 AWG", "length_m": 1.0}
    gear = [{"item": "relay 120 A", "price": 80.0, "kept": 1}, {"item": "cable tie", "price": 0.1}]
    gear.append({"item": "fuse terminal_stud 150", "kept": 2})  # its price is that of its type
    raw = default_stock().model_dump(mode="json") | {"reels": [reel], "gear": gear}
    next(d for d in raw["devices"] if d["device"] == "terminal_stud")["price"] = 12.0
    next(c for c in raw["cables"] if c["gauge"] == "2 AWG")["price_per_m"] = 20.0
    book = build_book(found, chosen, Stock.model_validate(raw))
    lines = {x.item: x for x in book.parts.lines}
    assert lines["relay 120 A"].to_buy == 0 and lines["relay 120 A"].cost == 80
    assert lines["cable 2 AWG red 105"].kept == 1.0
    fuse, cable = lines["fuse terminal_stud 150"], lines["cable 2 AWG red 105"]
    assert (fuse.to_buy, fuse.cost) == (1, 36.0)
    assert cable.to_buy == pytest.approx(cable.needed - 1)
    wanted = 80 + 0.1 * lines["cable tie"].needed + 36 + 20 * cable.needed
    assert book.parts.cost == pytest.approx(wanted, abs=0.02)
    assert book.costs.work is None and book.costs.total is None, "no price of the hour"
    assert build_book(found, chosen).costs.gear is None, "not one line has a price"
    told = build_book(found, chosen, Stock.model_validate(raw | {"hour_price": 90})).costs
    assert told.work == pytest.approx(told.minutes / 60 * 90, abs=0.01)
    assert told.total == pytest.approx(wanted + told.minutes * 1.5, abs=0.03)


def test_cuts_are_run_tails_and_slack_and_follow_what_is_measured() -> None:
    found, chosen = built()
    job = work(found, chosen)
    [long] = [p for p in pieces(chosen, job) if p.gauge == "8 AWG"]
    # 3.5 m + 3 % = 3.605 m, up to the next centimetre
    assert (long.cut_m, long.slack_m, long.ends[0].strip_mm) == (3.61, 0.11, 11)
    assert pieces(chosen, job)[0] == long and not long.provisional
    [other] = [p for p in pieces(chosen, job, {long.key: 4.2}) if p.gauge == "8 AWG"]
    assert other.cut_m == cut_length_m(4.2) and other.measured
    bare = [p for p in pieces(chosen, work(None, chosen)) if p.unprotected_m is not None]
    assert {p.ends[0].part for p in bare} == {"engine_bank", "house_bank"}
    assert all(p.unprotected_m == 0.15 and p.unprotected_limit_m == 0.175 for p in bare)


def test_the_whole_order_of_the_retrofit() -> None:
    found, chosen = built()
    order = build_book(found, chosen).order
    assert order.hazards == ()
    phases = list(dict.fromkeys(s.phase for s in order.steps))
    assert phases == [
        "dry fit", "workshop", "board", "long leads", "power off", "take out", "fit", "power on",
    ]  # fmt: skip
    keys = [s.key for s in order.steps]
    assert keys.index("off:loads") < keys.index("off:negatives") < keys.index("out:posts")
    assert keys.index("land:banks") < keys.index("on:neg:engine_bank") < keys.index("on:main")
    by = {s.key: s for s in order.steps}
    # 12.85 V / 3 mohm: a full AGM of 100 Ah into a dead short
    assert order.start[0].amps == pytest.approx(12.85 / 0.003, rel=0.35)
    assert by["off:negatives"].live == () and by["out:posts"].live == ()
    assert by["off:feed"].doing and [d.name for d in order.dead if d.must_run] == ["Bilge pump"]
    # With the minus on and every fuse out: the banks' own posts and the fuses' near side.
    live = {p.post for p in by["on:neg:house_bank"].live}
    assert live == {f"{b}_bank.pos" for b in ("engine", "house")} | {"fuse_1.a", "fuse_2.a"}
    assert by["on:main"].live and by[keys[-1]].stop == "alive" and by[keys[-1]].dead == ()
    assert order.off_minutes < order.minutes
    assert {s.stop for s in order.steps if s.phase in ("take out", "fit")} == {"dead"}


def test_a_line_that_says_something_else_has_another_key() -> None:
    found, chosen = built()
    before = {x.key: x.words for s in build_book(found, chosen).order.steps for x in s.doing}
    thicker = retrofit()
    next(c for c in thicker.cables if c["gauge"] == "8 AWG" and "fuse_2" in c["start"]).update(
        gauge="6 AWG"
    )
    after = build_book(found, thicker.design()).order.steps
    for line in (x for s in after for x in s.doing):
        assert before.get(line.key, line.words) == line.words, "no tick moves to another line"


def test_an_order_of_ones_own_is_told_why_not() -> None:
    found, chosen = built()
    job = work(found, chosen)
    cuts = pieces(chosen, job)
    keys = [s.key for s in order_of_work(found, chosen, job, cuts).steps]
    swapped = list(keys)
    a, b = keys.index("dry:box"), keys.index("ohm:bypass")
    swapped[a], swapped[b] = swapped[b], swapped[a]
    assert reordered(found, chosen, job, cuts, swapped).hazards == ()
    early = ["out:posts", *(k for k in keys if k != "out:posts")]
    rules = {h.rule for h in reordered(found, chosen, job, cuts, early).hazards}
    assert rules == {"positive handled with the negative on", "live loose end"}
    # A cable that ends on live metal far from any bank hangs by one end too.
    far = [next(k for k in keys if k.startswith("out:") and k != "out:posts"), *keys]
    told = reordered(found, chosen, job, cuts, list(dict.fromkeys(far))).hazards
    assert {h.rule for h in told} == {"live loose end"}
    engine = ["off:negatives", *(k for k in keys if k != "off:negatives")]
    told = reordered(found, chosen, job, cuts, engine).hazards
    assert {h.rule for h in told} == {"running source without a bank"}


def test_unlike_banks_joined_are_a_hazard() -> None:
    unlike = found_boat()
    unlike.parts[1]["chemistry"] = "lfp"
    unlike.cable("engine_bank.pos", "house_bank.pos")
    joined = Moment.of(unlike.design())
    assert list(joined.hazards()) == [], "as found it is not ours to judge"
    off = joined.with_(switches_off=True)
    assert [h.rule for h in off.hazards()] == ["unlike chemistries joined"]
    assert list(off.with_(lifted=frozenset({"house_bank"})).hazards()) == []


def safe(order: Order) -> None:
    assert order.hazards == ()
    window = [s for s in order.steps if s.phase in ("take out", "fit")]
    handled = [s for s in window if any(".pos" in h for a in s.actions for h in a.handles)]
    for step in handled:
        touched = {h.partition(".")[0] for a in step.actions for h in a.handles}
        assert not touched & {p.bank for p in step.live}, step.key


@given(st.integers(0, 400), st.integers(0, 400))
@settings(max_examples=15)
def test_no_order_between_any_two_designs_is_unsafe(a: int, b: int) -> None:
    found, chosen = generated_design(a), generated_design(b)
    job = work(found, chosen)
    cuts = pieces(chosen, job)
    order = order_of_work(found, chosen, job, cuts)
    safe(order)
    landed = [x.about for s in order.steps for x in s.actions if x.does == "land cable"]
    assert sorted(landed) == sorted(c.cable for c in job.cables_by("new", "again") if c.cable)
    taken = [x.about for s in order.steps for x in s.actions if x.does == "take cable"]
    assert sorted(taken) == sorted(c.was for c in job.cables_by("out", "again") if c.was)


@pytest.mark.parametrize("name", DEMO_FILES)
def test_the_demo_boats_can_be_built_safely(name: str) -> None:
    job = demo_job(name)
    found = surveyed(job.variants[0].design, job.survey)
    for variant in job.variants[1:]:
        book = build_book(found, surveyed(variant.design, job.survey))
        safe(book.order)
        keys = [s.key for s in book.order.steps]
        assert len(keys) == len(set(keys)) and all(s.doing for s in book.order.steps)
        lines = [x.key for s in book.order.steps for x in s.doing]
        assert len(lines) == len(set(lines))
        assert len({x.key for x in book.labels}) == len(book.labels)


def piece(n: int, cut_m: float) -> Piece:
    found, chosen = built()
    one = pieces(chosen, work(found, chosen))[0]
    fields: dict[str, Any] = {**one.__dict__, "key": f"cable:p{n}", "cut_m": cut_m}
    return Piece(**fields)


LENGTHS = st.lists(st.floats(0.2, 4.0).map(lambda x: round(x, 2)), min_size=1, max_size=9)


@given(LENGTHS, LENGTHS)
@settings(max_examples=30)
def test_a_cutting_plan_holds_and_is_never_worse_than_longest_first(
    wanted: list[float], reels: list[float]
) -> None:
    cuts = [piece(n, m) for n, m in enumerate(wanted)]
    stock = [Reel(id=f"r{n}", gauge="8 AWG", length_m=m + 0.05) for n, m in enumerate(reels)]
    plan = cutting_plan(cuts, stock)
    assert sorted(k for c in plan.cuts for k in c.pieces) == sorted(p.key for p in cuts)
    for cut in plan.cuts:
        assert cut.left_m >= -1e-9
        assert cut.used_m == pytest.approx(
            sum(p.cut_m + SAW_M for p in cuts if p.key in cut.pieces), abs=0.01
        )
    left = sorted(r.length_m for r in stock)
    bought = 0.0
    for p in sorted(cuts, key=lambda p: -p.cut_m):
        at = next((n for n, m in enumerate(left) if m >= p.cut_m + SAW_M), None)
        if at is None:
            bought += p.cut_m + SAW_M
        else:
            left[at] -= p.cut_m + SAW_M
            left.sort()
    assert plan.to_buy_m <= bought + 1e-6


def test_the_solver_finds_what_longest_first_misses() -> None:
    # 4 + 2 + 2 and 3 + 3 + 2 fill two reels of 8 m; longest first puts 4 with 3 and buys 2 m
    cuts = [piece(n, m - SAW_M) for n, m in enumerate((4, 3, 3, 2, 2, 2))]
    stock = [Reel(id=f"r{n}", gauge="8 AWG", length_m=8) for n in range(2)]
    assert cutting_plan(cuts, stock).to_buy_m == 0


@pytest.mark.parametrize("command", ["parts", "cuts", "steps"])
def test_on_the_command_line(command: str) -> None:
    path = str(DEMO / "pilot_3.json")
    run = subprocess.run(
        [sys.executable, "-m", "strom_calc", command, path, "--variant", "Relay turned round"],
        capture_output=True, text=True, check=True,
    )  # fmt: skip
    told = json.loads(run.stdout)
    assert told[{"parts": "parts", "cuts": "pieces", "steps": "steps"}[command]]


def test_a_board_is_to_scale_and_nothing_lies_on_another() -> None:
    job = demo_job("marsh_wren.json")
    chosen = next(v.design for v in job.variants if v.chosen)
    for board in boards(surveyed(chosen, job.survey)):
        for n, a in enumerate(board.pieces):
            assert a.x_mm >= 0 and a.x_mm + a.width_mm <= board.width_mm
            assert a.y_mm + a.height_mm <= board.height_mm
            for b in board.pieces[n + 1 :]:
                apart = a.x_mm + a.width_mm <= b.x_mm or b.x_mm + b.width_mm <= a.x_mm
                assert apart or a.y_mm + a.height_mm <= b.y_mm, (a.part, b.part)
    # A selector is 135 mm wide and high by its table; the place takes 600 x 200 mm inside.
    draft = found_boat()
    draft.extra["places"] = [PLACES[0], PLACES[1] | {"width_mm": 600, "depth_mm": 100}]
    [helm] = [b for b in boards(draft.design()) if b.place == "helm"]
    assert (helm.pieces[0].width_mm, helm.fits) == (135, None)
    draft.extra["places"][1]["height_mm"] = 150
    assert boards(draft.design())[-1].fits is False  # 25 + 135 + 25 mm
    common = next(t for t in helm.terminations if t.post == "Selector common")
    assert common.stud == "M10" and len(common.lugs) == 1


def test_nothing_to_do_is_nothing_to_do() -> None:
    empty = parse_design({"components": [], "cables": []})
    book = build_book(empty, empty)
    assert book.parts.lines == () and book.order.steps == () and book.plan.cuts == ()
