"""Build of a lithium refit, line by line and step by step; its 24 V twin, findings, tables."""

from __future__ import annotations

import pytest
from strom_engine.build import BuildBook, build_book
from strom_engine.design import Design, apply_change
from strom_engine.design.part_changes import SetSystemVolts
from strom_engine.errors import TableError
from strom_engine.interchange import dump_parts, read_parts
from strom_engine.rules import BUILD_RULES, build_findings

from bench.designs import Draft
from tests.engine.test_build import PLACES, found_boat

RUNS = (
    ("lithium.pos", "main.a", "2/0 AWG", 0.15),
    ("main.b", "panel.pos", "2 AWG", 3.2),
    ("main.b", "fuse_out.a", "8 AWG", 0.3),
    ("fuse_out.b", "dcdc.out", "8 AWG", 0.5),
    ("engine_bank.pos", "fuse_in.a", "8 AWG", 0.15),
    ("fuse_in.b", "dcdc.in", "8 AWG", 0.5),
    ("dcdc.neg", "bar.s4", "8 AWG", 0.6),
    ("lithium.neg", "bar.s2", "2/0 AWG", 0.5),
)


def refit() -> Draft:
    """The house bank becomes lithium behind a class T fuse, charged by dc-dc; no selector."""
    draft = found_boat()
    draft.parts = [p for p in draft.parts if p["id"] not in ("selector", "house_bank")]
    draft.cables = [
        c for c in draft.cables if not any(w in c["start"] for w in ("selector", "house"))
    ]
    draft.cables = [c for c in draft.cables if "selector" not in c["end"]]
    draft.bank("lithium", chemistry="lfp", place="box", unit_ah=200)
    draft.part("fuse", "main", rating_a=200, device="class_t", place="box")
    draft.part("dcdc", "dcdc", limit_a=30, set_v=14.2, place="box")
    for name in ("fuse_in", "fuse_out"):
        draft.part("fuse", name, rating_a=40, device="bolt_30mm", place="box")
    for n, (start, end, gauge, metres) in enumerate(RUNS):
        draft.cable(start, end, gauge, metres)
        draft.cables[-1]["id"] = f"new_{n}"
    return draft


def book_of(system_v: int, draft: Draft | None = None) -> BuildBook:
    found, chosen = found_boat().design(), (draft or refit()).design()
    if system_v == 24:
        found, chosen = (apply_change(d, SetSystemVolts(system_v=24)) for d in (found, chosen))
    return build_book(found, chosen)


@pytest.mark.parametrize("system_v", [12, 24])
def test_every_line_of_the_parts(system_v: int) -> None:
    """Metres are (run + slack, up to the centimetre) x 1.05, slack 50 mm or 3 %."""
    book, units = book_of(system_v), system_v // 12  # at 24 V two batteries in series
    wanted = {
        "battery lfp 12 200": units,
        "boot battery": 2 * units,
        "tray": units,
        f"dcdc 30 A {14.2 * system_v / 12:.1f} V": 1,
        "fuse bolt_30mm 40": 3,  # two and a spare
        "fuse class_t 200": 2,
        "holder bolt_30mm": 2,
        "holder class_t": 1,
        "cable 2 AWG red 105": 3.465,  # 3.2 + 0.096 -> 3.30 m
        "cable 2/0 AWG black 105": 0.578,  # 0.55 m
        "cable 2/0 AWG red 105": 0.21,  # 0.20 m
        "cable 8 AWG black 105": 0.683,  # 0.65 m
        "cable 8 AWG red 105": 1.733,  # 0.35 + 0.55 + 0.20 + 0.55 m
        "lug 2 AWG M6": 1,  # panel
        "lug 2 AWG M8": 1,  # class T holder
        "lug 2/0 AWG M8": 4,
        "lug 8 AWG M6": 3,  # three on the dc-dc charger
        "lug 8 AWG M8": 7,
        "shrink black 12": 2,
        "shrink black 30": 2,
        "shrink red 12": 8,
        "shrink red 24": 2,
        "shrink red 30": 2,
        "cable tie": 6,  # 5.9 m of new cable
        "clip 7": 8,  # 8 AWG: 1 + 2 + 1 + 2 + 2
        "clip 11": 8,  # 3.2 / 0.455
        "clip 15": 3,
        "fastener": 16,
        "grommet 11": 1,
        "sealant": 1,
        "label": 20 + units,  # both ends of 8 cables, batteries, 3 fuses, charger
    }
    if units == 2:
        wanted["link lead"] = 1
    assert {x.item: x.needed for x in book.parts.lines} == pytest.approx(wanted)


def test_every_piece_of_the_cut_list() -> None:
    told = {
        p.cable: (p.cut_m, *(e.stud for e in p.ends), p.unprotected_m) for p in book_of(12).cuts
    }
    assert told == {
        "new_0": (0.2, "M8", "M8", 0.15),
        "new_1": (3.3, "M8", "M6", None),
        "new_2": (0.35, "M8", "M8", None),
        "new_3": (0.55, "M8", "M6", None),
        "new_4": (0.2, "M8", "M8", 0.15),
        "new_5": (0.55, "M8", "M6", None),
        "new_6": (0.65, "M6", "M8", None),
        "new_7": (0.55, "M8", "M8", None),
    }


@pytest.mark.parametrize("system_v", [12, 24])
def test_the_whole_sequence(system_v: int) -> None:
    order = book_of(system_v).order
    assert order.hazards == ()
    # What is live after each step: at first both banks reach six posts through the selector.
    live = {s.key: len(s.live) for s in order.steps}
    assert list(live.items()) == [
        ("dry:box", 6), ("crimp:2 AWG:red:105", 6), ("crimp:8 AWG:black:105", 6),
        ("crimp:8 AWG:red:105", 6), ("crimp:2/0 AWG:black:105", 6), ("crimp:2/0 AWG:red:105", 6),
        ("board:box", 6), ("wire:box", 6), ("pull:box:helm", 6), ("off:feed", 6),
        ("off:loads", 4), ("off:negatives", 0), ("out:posts", 0), ("out:in:box", 0),
        ("out:in:helm", 0), ("fit:batteries", 0), ("land:neg:box", 0), ("land:pos:helm", 0),
        ("land:banks", 0), ("land:bank-negatives", 0), ("on:look", 0), ("on:neg:engine_bank", 2),
        ("on:neg:lithium", 4), ("on:fuses", 4), ("on:main", 11), ("on:switches", 11),
    ]  # fmt: skip
    strongest = order.start[0]
    assert strongest.volts_v == pytest.approx(system_v / 12 * 12.85, rel=0.02)
    window = [s.minutes for s in order.steps if s.phase in ("power off", "take out", "fit")]
    window += [s.minutes for s in order.steps if s.phase == "power on"]
    assert order.off_minutes == sum(window)
    assert order.minutes == sum(s.minutes for s in order.steps)


def found_in(draft: Draft) -> dict[str, str]:
    return {f.about: f.severity for f in build_findings(book_of(12, draft))}


def test_what_is_open_before_hands_are_laid_on() -> None:
    plain = build_findings(book_of(12))
    assert {f.rule for f in plain} <= {r.id for r in BUILD_RULES}
    dies = next(f for f in plain if f.about == "dies")
    assert dies.title == "Crimper dies wanted for 2 AWG, 2/0 AWG" and dies.severity == "note"
    guessed = refit()
    guessed.cables[-1]["estimated"] = True
    book = book_of(12, guessed)
    told = next(f for f in build_findings(book) if f.about == "provisional")
    assert told.estimated == ("new_7",) and "0.55 m would be cut" in told.arithmetic[0]
    found, chosen = found_boat().design(), guessed.design()
    measured = build_book(found, chosen, measured={"cable:new_7": 0.6})
    assert "provisional" not in {f.about for f in build_findings(measured)}
    small = refit()
    small.extra["places"] = [
        PLACES[0] | {"width_mm": 200, "depth_mm": 100, "height_mm": 60}, PLACES[1]
    ]  # fmt: skip
    assert found_in(small)["box"] == "fault" and "box" not in found_in(refit())


def leads_of(design: Design, cable: str) -> list[tuple[str, str]]:
    boards = build_book(None, design).boards
    return [
        (b.place, lead.side + lead.to) for b in boards for lead in b.leads if lead.cable == cable
    ]


def test_a_board_shows_the_leads_of_both_sides() -> None:
    chosen = refit().design()
    assert leads_of(chosen, "new_3") == [("box", "pos")], "from post to post"
    assert leads_of(chosen, "new_6") == [("box", "neg")]
    assert leads_of(chosen, "new_1") == [("box", "posPanel, Helm")], "it leaves the board"
    box = next(b for b in build_book(None, chosen).boards if b.place == "box")
    out = next(x for x in box.leads if x.cable == "new_1")
    assert (out.x1_mm, out.y2_mm) == (out.x2_mm, box.height_mm), "straight down to the edge"


def test_the_table_of_parts_comes_back_with_prices_and_receipts() -> None:
    parts = book_of(12).parts
    came = {parts.lines[0].key: 1.0}
    same = read_parts(dump_parts(parts, came), parts)
    assert [(r.key, r.received) for r in same.rows] == [(parts.lines[0].key, 1.0)]
    text = "What\tprice\tkept\tnote\nGrommet\t1\t1\tx\n{}\t2.5\t-1\t{}\n".format(
        parts.lines[1].what, "n" * 401
    )
    read = read_parts(text, parts)
    assert read.rows == () and [p.path for p in read.problems] == [
        "row 2, column what", "row 3, column kept", "row 3, column note",
    ]  # fmt: skip
    assert read_parts("What\tprice\nSum: EUR 12\t\n", parts).problems == ()
    with pytest.raises(TableError, match="is missing"):
        read_parts("price\n1\n", parts)
