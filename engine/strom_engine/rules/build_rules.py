"""Rules about the build itself: BU-1 to BU-4, found in a build book and not in a design alone."""

from __future__ import annotations

from collections.abc import Iterator

from strom_engine.build import BuildBook
from strom_engine.build.cuts import HEAVY_MM2, cut_length_m
from strom_engine.reference import crimp_pull_n
from strom_engine.rules.finding import CONFIRM, Figure, Finding, Rule

__all__ = ["BUILD_RULES", "build_findings"]

BU1 = Rule(
    "BU-1",
    "No piece is cut to an estimated run",
    "Every piece of the cut list against how its run is known.",
    "Practice of the trade; own judgement for the slack",
)
BU2 = Rule(
    "BU-2",
    "Every stud and its torque are known",
    "Stud and torque at both ends of every new piece.",
    f"Makers' data of studs as commonly published; {CONFIRM}",
)
BU3 = Rule(
    "BU-3",
    "Every lug can be crimped and tested",
    "Size of every new piece against pull tests and against dies.",
    f"UL 486A-B, pull test of connectors; {CONFIRM}",
    (Figure("Dies of its own from", HEAVY_MM2, "mm²"),),
)
BU4 = Rule(
    "BU-4",
    "The board fits its place",
    "Each board, laid out from the sizes of its gear, against the inside of its place.",
    "Sizes as typed, or usual ones of their kind; own judgement for room between gear",
)
BUILD_RULES = (BU1, BU2, BU3, BU4)


def build_findings(book: BuildBook) -> tuple[Finding, ...]:
    """What is open or wrong before hands are laid on a boat.

    Args:
        book: of the build, with what was measured so far.
    """
    return (*_boards(book), *_provisional(book), *_studs(book), *_crimps(book))


def _boards(book: BuildBook) -> Iterator[Finding]:
    for board in book.boards:
        if board.fits is not False:
            continue
        yield Finding(
            rule=BU4.id,
            severity="fault",
            title=f"The gear does not fit on the board in {board.name}",
            arithmetic=(
                f"{len(board.pieces)} pieces of gear with room between them take "
                f"{board.width_mm:.0f} x {board.height_mm:.0f} mm, more than {board.name} has.",
            ),
            figures=(
                Figure("Wide", board.width_mm, "mm"),
                Figure("High", board.height_mm, "mm"),
            ),
            limit="the inside of the place as measured",
            source=BU4.source,
            why="Gear that does not fit is found out with the power off and the holes drilled.",
            repair="Move gear to another place, choose smaller gear, or measure the place anew.",
            parts=tuple(p.part for p in board.pieces),
            about=board.place,
        )


def _provisional(book: BuildBook) -> Iterator[Finding]:
    open_ = [p for p in book.cuts if p.provisional]
    if not open_:
        return
    longest = open_[0]
    yield Finding(
        rule=BU1.id,
        severity="cannot_tell",
        title=f"{len(open_)} of {len(book.cuts)} pieces rest on an estimated run",
        arithmetic=tuple(
            f"{p.name}: estimated {p.length_m:g} m, so {cut_length_m(p.length_m):g} m would be cut."
            for p in open_
        ),
        figures=(Figure("Longest of them", longest.cut_m, "m"),),
        limit="a measured run for every piece",
        source=BU1.source,
        why="Lengths that are guessed before the batteries stand are wrong, and copper is dear.",
        repair="Measure each run after the batteries stand, and enter it at the piece.",
        parts=tuple(sorted(p.cable for p in open_)),
        missing="the length of each of these runs: measure it after the batteries stand",
        estimated=tuple(sorted(p.cable for p in open_)),
        about="provisional",
    )


def _studs(book: BuildBook) -> Iterator[Finding]:
    open_ = [(p, e) for p in book.cuts for e in p.ends if e.assumed]
    if not open_:
        return
    yield Finding(
        rule=BU2.id,
        severity="cannot_tell",
        title=f"{len(open_)} lugs are for studs that nobody has looked at",
        arithmetic=tuple(f"{e.label} on {e.post}: {e.stud} as usual for it." for _, e in open_),
        figures=(Figure("Lugs", len(open_), "pcs"),),
        limit="stud and torque by the label or the maker's manual",
        source=BU2.source,
        why="A lug with the wrong hole is crimped anew, and a stud overtightened breaks.",
        repair="Look at each stud, and enter its size at the part.",
        parts=tuple(sorted({e.part for _, e in open_})),
        missing="the size of each of these studs: look at it, or in the maker's manual",
        about="studs",
    )


def _crimps(book: BuildBook) -> Iterator[Finding]:
    unlisted = [p for p in book.cuts if crimp_pull_n(p.gauge) is None]
    if unlisted:
        sizes = ", ".join(sorted({p.gauge for p in unlisted}))
        yield Finding(
            rule=BU3.id,
            severity="cannot_tell",
            title=f"No pull test is listed for {sizes}",
            arithmetic=(f"{len(unlisted)} pieces are of {sizes}, which the table does not have.",),
            figures=(Figure("Pieces", len(unlisted), "pcs"),),
            limit="a pull test by size",
            source=BU3.source,
            why="A crimp that slips out is an arc beside a battery.",
            repair="Ask the maker of the lugs, and test one before the others are made.",
            parts=tuple(sorted(p.cable for p in unlisted)),
            missing=f"the pull test of {sizes}: the lug's maker has it",
            about="pull test",
        )
    heavy = [p for p in book.cuts if p.area_mm2 >= HEAVY_MM2]
    if heavy:
        sizes = ", ".join(sorted({p.gauge for p in heavy}))
        yield Finding(
            rule=BU3.id,
            severity="note",
            title=f"Crimper dies wanted for {sizes}",
            arithmetic=(f"{len(heavy)} pieces are of {HEAVY_MM2:g} mm² and more.",),
            figures=(Figure("Pieces", len(heavy), "pcs"),),
            limit=f"a die of its own from {HEAVY_MM2:g} mm²",
            source=BU3.source,
            why="A hammer or pliers make a crimp that looks right and heats up.",
            repair="Bring the dies of these sizes, and pull-test one crimp of each.",
            parts=tuple(sorted(p.cable for p in heavy)),
            about="dies",
        )
