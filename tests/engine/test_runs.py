"""Runs: currents, drops, protection and sizes, by hand and by property."""

from __future__ import annotations

import dataclasses
from itertools import pairwise
from random import Random

import pytest
from pydantic import ValidationError
from strom_engine.circuit.network import cable_resistance_ohm
from strom_engine.design import (
    CableFields,
    Design,
    LoadItem,
    SetCables,
    apply_change,
    change_words,
    touched,
)
from strom_engine.errors import ChangeError
from strom_engine.runs import (
    Stock,
    StockCable,
    allowed_current,
    choose,
    cover,
    default_stock,
    design_currents,
    detour,
    detours,
    guarding,
    ladders,
    openings,
    paths,
    run_rows,
    runs_report,
)
from strom_engine.runs.allowed_current import most_rating_a
from strom_engine.runs.currents import device_currents
from strom_engine.runs.drop import allowed_percent
from strom_engine.runs.faults import fault_currents
from strom_engine.runs.legs import legs
from strom_engine.runs.load_cases import cranking_strains
from strom_engine.survey import Survey, surveyed

from bench.wired import sound_boat, spoiled_boat
from tests.engine.boats import demo_job, one_bank, two_banks, with_cable

SOUND = sound_boat(0).design()


def cable_to(design: Design, end: str) -> str:
    return next(c.id for c in design.cables if end in (c.start, c.end))


@pytest.mark.parametrize(
    ("fields", "hot", "standard", "amps"),
    [
        ({"gauge": "6 AWG"}, False, "abyc", 120.0),
        ({"gauge": "6 AWG"}, True, "abyc", 102.0),  # 120 x 0.85
        ({"gauge": "6 AWG", "bundled": 4}, True, "abyc", 61.2),  # 120 x 0.85 x 0.60
        ({"gauge": "6 AWG", "insulation_c": 60}, True, "abyc", 46.4),  # 80 x 0.58
        ({"gauge": "16 mm2"}, False, "iso", 130.0),
        ({"gauge": "16 mm2"}, True, "iso", 111.8),  # 130 x 0.86
        ({"gauge": "16 mm2", "insulation_c": 60}, True, "iso", 0.0),  # not allowed
        ({"gauge": "16 mm2"}, False, "abyc", 120.0),  # read as 6 AWG, 13.3 mm2
    ],
)
def test_allowable_current_with_every_factor(
    fields: dict[str, object], hot: bool, standard: str, amps: float
) -> None:
    design = with_cable(one_bank().design(), "c0", **fields)
    allowed = allowed_current(design.cables[0], engine_space=hot, standard=standard)  # type: ignore[arg-type]
    assert allowed.amps == pytest.approx(amps)
    assert len(allowed.working) == 1 + hot + (allowed.bundling_factor < 1)
    assert "ABYC" in allowed.source if standard == "abyc" else "ISO" in allowed.source


@pytest.mark.parametrize(
    ("allowed_a", "most_a"),
    [(120, 120), (102, 110), (61.2, 70), (445, 450), (800, 800), (3.5, 4), (0, 0)],
)
def test_largest_device_is_the_ampacity_or_the_next_step(allowed_a: float, most_a: float) -> None:
    assert most_rating_a(allowed_a) == most_a


def test_next_step_ends_at_half_as_much_again() -> None:
    assert most_rating_a(100, (50, 150, 300)) == 150
    assert most_rating_a(99, (50, 150, 300)) == 99


def test_drop_of_a_path_is_current_times_resistance() -> None:
    """10 A through 2 m + 2 m of 6 AWG and four terminals of 0.2 mohm, 20 degC."""
    design = one_bank(load_a=10.0).design()
    (path,) = paths(design)
    ohm = sum(cable_resistance_ohm(design, c) for c in design.cables)
    assert ohm == pytest.approx(4 * 0.01724 * 1.03 / 13.3 + 4 * 0.2e-3)
    assert path.drop_v == pytest.approx(10 * ohm, rel=1e-3)
    assert path.drop_percent == pytest.approx(100 * path.drop_v / 12)
    assert path.length_m == 4.0 and path.steps[0].side == "out" and path.steps[-1].side == "back"


def test_pieces_of_a_path_hang_together_from_its_giver_to_its_taker_and_back() -> None:
    for path in paths(demo_job("marsh_wren.json").variants[-1].design):
        met = [{path.giver}, *(set(step.parts) for step in path.steps), {path.giver}]
        assert all(one & next_ for one, next_ in pairwise(met) if path.steps), path.name
        for step in path.steps:
            assert len(step.parts) == (2 if step.cable else 1)


@pytest.mark.parametrize(
    ("names", "percent", "words"),
    [
        *(
            ((name,), 3.0, "must not sag")
            for name in (
                "Anchor light", "VHF", "AIS", "Autopilot", "Chartplotter", "Instruments", "GPS",
                "Steaming light", "Masthead light", "Stern light", "Sidelights", "Radar", "Blower",
            )
        ),
        *(
            ((name,), 10.0, "assumed")
            for name in ("Windlass", "Bilge pump", "Gas alarm", "Raised deck lamp")
        ),
        (("Windlass", "Cabin light"), 3.0, "main feeder"),
        ((), 3.0, "main feeder"),
    ],
)  # fmt: skip
def test_three_or_ten_percent(names: tuple[str, ...], percent: float, words: str) -> None:
    items = tuple(LoadItem(id=f"i{n}", name=name, draw_a=1) for n, name in enumerate(names))
    found, why = allowed_percent(items)
    assert found == percent and words in why
    for drop, set_percent in (("must_not_sag", 3.0), ("other", 10.0)):
        alone = tuple(i.model_copy(update={"drop": drop}) for i in items[:1])
        assert not alone or allowed_percent(alone)[0] == set_percent


def test_design_current_is_the_largest_of_computed_and_rated_or_what_was_typed() -> None:
    design = two_banks().design()
    out = cable_to(design, "alternator.out")
    current = design_currents(design)[out]
    assert (current.origin, current.amps) == ("rated", 80.0)
    assert design_currents(with_cable(design, out, current_a=120.0))[out].origin == "typed"
    panel = design_currents(design)[cable_to(design, "panel.pos")]
    assert panel.origin == "computed" and 4.5 < panel.amps < 6.5
    starter = design_currents(design)[cable_to(design, "starter.neg")]
    assert starter.brief_a > 200 and starter.amps < 1


def test_a_device_carries_what_all_cables_behind_it_take() -> None:
    """Two feeds of 12 A and 5 A on one post of a fuse: it carries both, not the smaller."""
    draft = one_bank(load_a=12.0)
    draft.load("pump", 5.0, law="current")
    draft.part("fuse", "main", rating_a=30, device="anl")
    draft.cables[0].update(start="main.b")
    draft.cable("bank.pos", "main.a", "6 AWG", 0.15)
    draft.cable("main.b", "pump.pos", "6 AWG", 2.0)
    draft.cable("pump.neg", "bank.neg", "6 AWG", 2.0)
    for twice in (False, True):
        if twice:  # a second lead to the device, so that no post has one cable alone
            draft.cable("bank.pos", "main.a", "6 AWG", 0.15)
        current, _ = device_currents(draft.design(), "main")
        assert current is not None and current.amps == pytest.approx(17.0, rel=0.01)


def test_fault_current_adds_up_the_banks() -> None:
    """A full 100 Ah AGM bank: 12.85 V / 3 mohm, the least of its kind; less behind cable."""
    design = one_bank().design()
    faults = fault_currents(design)
    assert faults["bank.pos"].amps == pytest.approx(12.85 / 0.003, rel=1e-6)
    ohm = cable_resistance_ohm(design, design.cables[0])
    at_lamp = faults["lamp.pos"].amps
    assert at_lamp == pytest.approx(faults["bank.pos"].amps * 0.003 / (0.003 + ohm), rel=0.01)
    both = fault_currents(two_banks().design())
    assert both["selector.common"].amps > 1.5 * both["panel.pos"].amps


def test_protection_is_followed_from_every_bank() -> None:
    found = guarding(SOUND)
    behind = cable_to(SOUND, "feed1.pos")
    guard = found.worst(behind)
    assert guard is not None and (guard.device, guard.rating_a) == ("feed_fuse1", 30)
    kept = cover(SOUND, behind)
    assert kept is not None and kept.state == "kept"
    lead = cable_to(SOUND, "relay_fuse_b.a")
    near = cover(SOUND, lead)
    assert near is not None and (near.state, near.device, near.device_m) == (
        "kept", "relay_fuse_b", 0.15,
    )  # fmt: skip
    far = cover(with_cable(SOUND, lead, length_m=0.18), lead)
    assert far is not None and far.state == "far"
    crank = cover(SOUND, cable_to(SOUND, "starter.pos"))
    assert crank is not None and crank.state == "exempt"
    bare = cover(two_banks().design(), cable_to(two_banks().design(), "panel.pos"))
    assert bare is not None and bare.state == "none"


def test_sheath_lengthens_the_distance_and_only_throughout() -> None:
    first = cable_to(SOUND, "relay_fuse_b.a")
    for length, sheathed, state in ((1.83, True, "kept"), (1.84, True, "far"), (1.0, False, "far")):
        found = cover(with_cable(SOUND, first, length_m=length, sheathed=sheathed), first)
        assert found is not None and found.state == state, (length, sheathed)


def test_ladder_orders_devices_and_tells_what_opens() -> None:
    house = next(ladder for ladder in ladders(SOUND) if ladder.bank == "house_bank")
    by_name = {rung.device: rung for rung in house.rungs}
    assert by_name["house_fuse"].depth == 0 and by_name["house_fuse"].selective == "top"
    assert by_name["bus_fuse"].above == "house_fuse"
    assert by_name["bus_fuse"].selective == "likely"  # 150 A below 200 A
    assert by_name["feed_fuse1"].selective == "sure"  # 30 A below 150 A
    assert by_name["relay_fuse_a"].selective == "facing"
    opens = {o.cable: o for o in openings(SOUND)}
    assert opens[cable_to(SOUND, "feed1.pos")].opens == ("feed_fuse1",)
    assert "may open too" in opens[cable_to(SOUND, "plus.s1")].words


def test_pairs_join_what_carries_the_same_current() -> None:
    pairs = {leg.out.id: leg.back and leg.back.id for leg in legs(SOUND) if leg.out}
    assert pairs[cable_to(SOUND, "feed1.pos")] == cable_to(SOUND, "feed1.neg")
    assert pairs[cable_to(SOUND, "relay.a")] is None  # a relay's negative is a thin one
    both = [c.id for leg in legs(SOUND) for c in leg.cables]
    assert sorted(both) == sorted(c.id for c in SOUND.cables)


@pytest.mark.parametrize("seed", range(6))
def test_a_sound_boat_has_sound_rows(seed: int) -> None:
    for row in run_rows(sound_boat(seed).design()):
        assert row.verdict == "good", (row.name, row.wrong)
        assert row.working and all(w.source for w in row.working)


@pytest.mark.parametrize("seed", range(24))
def test_a_thicker_cable_never_makes_a_run_worse(seed: int) -> None:
    """Thicker: no less allowed, no more lost itself, and its paths lose no more.

    What it costs other paths is current that flows more easily: a tenth at most.
    """
    design, rng = spoiled_boat(seed), Random(seed)
    cable = rng.choice(design.cables)
    sizes = [s for s in default_stock().by_area if s.area_mm2 > cable.area_mm2]
    if not sizes:
        return
    thicker = with_cable(design, cable.id, gauge=rng.choice(sizes).gauge)
    before, after = ({r.id: r for r in run_rows(d)} for d in (design, thicker))
    for name, row in after.items():
        legs_before = {leg.cable: leg for leg in before[name].legs}
        for leg in row.legs:
            assert leg.allowed_a >= legs_before[leg.cable].allowed_a
            if leg.cable == cable.id:
                per_amp = leg.drop_v / row.current_a if row.current_a else 0.0
                was = legs_before[leg.cable].drop_v / (before[name].current_a or 1)
                assert per_amp <= was + 1e-9
    worst = {p.id: p.drop_v for p in paths(design)}
    for path in paths(thicker):
        if cable.id in path.cables and path.kind == "supply":
            assert path.drop_v <= 1.02 * worst.get(path.id, path.drop_v) + 1e-3


@pytest.mark.parametrize("seed", range(12))
@pytest.mark.parametrize("only_weak", [True, False])
def test_what_is_chosen_meets_everything(seed: int, only_weak: bool) -> None:
    design = spoiled_boat(seed)
    chosen = choose(design, only_weak=only_weak)
    assert chosen.left == ()
    assert all(row.verdict == "good" for row in run_rows(chosen.design))
    assert chosen.change is not None
    assert run_rows(apply_change(design, chosen.change)) == run_rows(chosen.design)
    again = choose(chosen.design, only_weak=True)
    assert again.change is None, again.lines
    if only_weak:
        kept = {c.id: c.area_mm2 for c in chosen.design.cables}
        assert all(kept[c.id] >= 0.999 * c.area_mm2 for c in design.cables)


def test_what_stays_is_left_alone_and_told() -> None:
    design = spoiled_boat(3)
    thin = with_cable(design, cable_to(design, "feed1.pos"), gauge="16 AWG", locked=True)
    chosen = choose(thin)
    assert chosen.design.cables_by_id[cable_to(thin, "feed1.pos")].gauge == "16 AWG"
    one = choose(thin, cables=(cable_to(thin, "feed1.pos"),))
    assert one.change is None


def test_sizes_come_from_stock_alone() -> None:
    plain = default_stock("mm2")
    kept = tuple(c for c in plain.cables if c.area_mm2 in (10, 35, 95))
    few = Stock(cables=kept, devices=plain.devices)
    design = spoiled_boat(1)
    used = {c.gauge for c in choose(design, few).design.cables}
    assert used <= {"10 mm2", "35 mm2", "95 mm2"}
    thinner = Stock(
        cables=(StockCable(gauge="95 mm2", copper_mm2=86.0, price_per_m=20.0),),
        devices=plain.devices,
    )
    made = choose(design, thinner).design
    assert {c.area_mm2 for c in made.cables} == {86.0}  # the true area of what is on the reel
    report = runs_report(made, None, thinner)
    assert report.price == pytest.approx(20 * sum(c.length_m for c in made.cables))


@pytest.mark.parametrize(
    ("raw", "match"),
    [
        ({"cables": [{"gauge": "7 AWG"}]}, "not a known size"),
        ({"cables": [{"gauge": "6 AWG", "copper_mm2": 30}]}, "far from"),
        ({"devices": [{"device": "magic", "ratings_a": [5]}]}, "not a known type"),
        ({"devices": [{"device": "anl", "ratings_a": [5]}]}, "not made for 5 A"),
        ({"cables": []}, "at least 1"),
    ],
)
def test_a_stock_that_cannot_be_is_refused(raw: dict[str, object], match: str) -> None:
    good = default_stock().model_dump()
    with pytest.raises(ValidationError, match=match):
        Stock.model_validate(good | raw)


def test_detours_compare_the_ways_or_say_what_to_measure() -> None:
    job = demo_job("marsh_wren.json")
    design = surveyed(job.variants[0].design, job.survey)
    panel = next(d for d in detours(design, job.survey) if d.path == "supply house_panel")
    kinds = [way.kind for way in panel.ways]
    assert kinds == ["as_run", "direct", "remote_switch"]
    as_run, direct, remote = panel.ways
    assert direct.length_m < as_run.length_m and direct.drop_v < as_run.drop_v
    assert remote.copper_kg > direct.copper_kg
    unmeasured = Survey.model_validate(job.survey.model_dump() | {"runs": ()})
    missing = next(d for d in detours(design, unmeasured) if d.path == "supply house_panel")
    assert missing.missing is not None and len(missing.ways) == 1


def test_a_short_detour_is_sized_by_what_it_carries() -> None:
    # A tenth of a metre loses nothing: 250 A of cranking still ask for 250 sqrt(30) / 115 =
    # 11.9 mm2 (6 AWG, 13.3), and 60 A that last for 10 AWG (60 A at 105 degC outside engines).
    design = demo_job("marsh_wren.json").variants[0].design
    found = {p.kind: p for p in paths(design) if p.kind in ("cranking", "supply")}
    for kind, amps, gauge in (("cranking", 250.0, "6 AWG"), ("supply", 60.0, "10 AWG")):
        path = dataclasses.replace(found[kind], current_a=amps, limit_v=5.0)
        way = detour._way(design, default_stock(), path, 0.1, remote=False)
        assert way is not None and way.gauge == gauge


def test_a_start_asks_one_banks_cables_for_all_of_it() -> None:
    # Joined, each bank gives a share; the cables of the one that starts alone carry the whole.
    design = demo_job("marsh_wren.json").variants[0].design
    [path] = [p for p in paths(design) if p.kind == "cranking"]
    assert path.state == "cranking, on Engine bank alone"
    joined = next(s for s in cranking_strains(design) if "joined" in s.words).point
    assert -joined.banks["engine_bank"].current_a < 0.9 * path.current_a
    assert path.current_a == pytest.approx(joined.starters["starter"].current_a, rel=0.15)


def test_figures_of_cables_are_set_together_or_not_at_all() -> None:
    change = SetCables(
        rows=(
            CableFields(cable="c0", fields={"gauge": "2 AWG", "bundled": 3}),
            CableFields(cable="c1", fields={"length_m": 3.5, "estimated": False}),
        )
    )
    design = one_bank().design()
    changed = apply_change(design, change)
    assert changed.cables[0].gauge == "2 AWG" and changed.cables[1].length_m == 3.5
    assert touched(change) == {"cable c0", "cable c1"}
    assert "6 AWG to 2 AWG" in change_words(design, change)
    wrong = SetCables(
        rows=(
            CableFields(cable="c9", fields={"gauge": "2 AWG"}),
            CableFields(cable="c0", fields={"gauge": "7 AWG"}),
            CableFields(cable="c1", fields={"start": "bank.neg"}),
        )
    )
    with pytest.raises(ChangeError) as error:
        apply_change(design, wrong)
    assert [p.path for p in error.value.problems] == [
        "rows[0].cable", "rows[1].fields.gauge", "rows[2].fields.start",
    ]  # fmt: skip


def test_practice_decides_whose_figures_are_read() -> None:
    abyc, iso = (run_rows(SOUND, standard) for standard in ("abyc", "iso"))
    assert {r.confidence for r in abyc} <= {"medium", "high"}
    assert any(a.allowed_a != i.allowed_a for a, i in zip(abyc, iso, strict=True))
    assert dataclasses.asdict(abyc[0])["name"] == iso[0].name
