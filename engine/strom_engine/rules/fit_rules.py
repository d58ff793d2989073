"""The rule about room: PL-6."""

from __future__ import annotations

from collections.abc import Iterator

from strom_engine.design import Component, Fuse, Place
from strom_engine.design.fields import PostRef
from strom_engine.design.outlines import Outline, outline
from strom_engine.reference import (
    Size,
    gear_size,
    load_table,
    lug_tongue_mm,
    stud_free_mm,
    stud_nut_mm,
    usual_stud,
)
from strom_engine.rules.context import Context
from strom_engine.rules.finding import CONFIRM, Figure, Finding, Rule, Severity
from strom_engine.runs.wiring import wiring

__all__ = ["RULES"]

FLOOR_SHARE = 0.9  # of a floor that batteries with their straps and hands can take; own judgement

PL6 = Rule(
    "PL-6",
    "What is chosen fits where it goes",
    "Parts against the inside of their place, fuses against their cover, lugs with nut and washers "
    "against the length of their stud.",
    f"{load_table('part_dimensions').citation}; {CONFIRM}",
)


def _finding(
    severity: Severity,
    title: str,
    lines: tuple[str, ...],
    figures: tuple[Figure, Figure],
    repair: str,
    part: str,
    about: str,
) -> Finding:
    return Finding(
        rule=PL6.id,
        severity=severity,
        title=title,
        arithmetic=lines,
        figures=figures,
        limit=f"{figures[1].value:.0f} {figures[1].unit}",
        source=PL6.source,
        why="It is found out with the power off and the old gear in the bin.",
        repair=repair,
        parts=(part,),
        about=about,
    )


def _words(size: Size) -> str:
    return f"{size.width_mm:.0f} x {size.depth_mm:.0f} x {size.height_mm:.0f} mm"


def in_place(context: Context) -> Iterator[Finding]:
    """PL-6: parts and batteries in the inside of their place."""
    for place in context.design.places:
        inside = place.inside
        if inside is None:
            continue
        here = [p for p in context.design.components if p.place == place.id]
        outlines = [(p, o) for p in here if (o := outline(p)) is not None]
        for part, one in outlines:
            if not _goes_in(one.size, inside, upright=part.kind == "bank"):
                yield _too_large(part, one, place, inside)
        yield from _floor(place, inside, [(p, o) for p, o in outlines if p.kind == "bank"])


def _goes_in(size: Size, inside: Size, *, upright: bool) -> bool:
    """Whether a piece goes in, turned as it may be: batteries stand, gear hangs any way."""
    if upright:
        floor = sorted((size.width_mm, size.depth_mm))
        room = sorted((inside.width_mm, inside.depth_mm))
        return size.height_mm <= inside.height_mm and floor[0] <= room[0] and floor[1] <= room[1]
    sides = sorted((size.width_mm, size.depth_mm, size.height_mm))
    room = sorted((inside.width_mm, inside.depth_mm, inside.height_mm))
    return all(a <= b for a, b in zip(sides, room, strict=True))


def _too_large(part: Component, one: Outline, place: Place, inside: Size) -> Finding:
    told = "typed" if one.typed else "usual for its kind"
    return _finding(
        "fault" if one.typed else "caution",
        f"{part.name} does not go into {place.name}",
        (f"{part.name} {_words(one.size)}, {told}; {place.name} inside {_words(inside)}.",),
        (
            Figure("Height", one.size.height_mm, "mm"),
            Figure("Inside height", inside.height_mm, "mm"),
        ),
        "Another place, another size, or measure both and enter them.",
        part.id,
        "size",
    )


def _floor(place: Place, inside: Size, banks: list[tuple[Component, Outline]]) -> Iterator[Finding]:
    taken = sum(o.pieces * o.size.width_mm * o.size.depth_mm for _, o in banks) / 100
    room = FLOOR_SHARE * inside.width_mm * inside.depth_mm / 100
    if taken <= room:
        return
    typed = all(o.typed for _, o in banks)
    yield _finding(
        "fault" if typed else "caution",
        f"The batteries do not stand side by side in {place.name}",
        (
            *(f"{p.name}: {o.pieces} x {_words(o.size)}." for p, o in banks),
            f"{taken:.0f} cm² of {FLOOR_SHARE:.0%} x {inside.width_mm * inside.depth_mm / 100:.0f} "
            f"cm² = {room:.0f} cm².",
        ),
        (Figure("Taken", taken, "cm²"), Figure("There", room, "cm²")),
        "Fewer or other batteries, or a second place for some.",
        banks[0][0].id,
        f"floor {place.id}",
    )


def under_cover(context: Context) -> Iterator[Finding]:
    """PL-6: fuses under the cover of their holder."""
    for fuse in context.design.of_type(Fuse):
        usual = gear_size("fuse", fuse.device)
        height = fuse.height_mm or (usual.height_mm if usual else None)
        if fuse.cover_mm is None or height is None or height <= fuse.cover_mm:
            continue
        yield _finding(
            "fault" if fuse.height_mm else "caution",
            f"The cover does not close over {fuse.name}",
            (f"{fuse.name} stands {height:.0f} mm high; its cover has {fuse.cover_mm:.0f} mm.",),
            (Figure("Height", height, "mm"), Figure("Under the cover", fuse.cover_mm, "mm")),
            "A holder made for this type of fuse, or a lower type that breaks the same fault.",
            fuse.id,
            "cover",
        )


def on_studs(context: Context) -> Iterator[Finding]:
    """PL-6: lugs, nut and washers on the length of a stud."""
    design, wires = context.design, wiring(context.design)
    for ref in design.post_polarity:
        cables = wires.on_post[ref]
        part = design.by_id[PostRef(ref).part]
        stud = part.stud or usual_stud(part.kind, PostRef(ref).post)
        free = part.stud_free_mm or stud_free_mm(stud)
        taken = sum(lug_tongue_mm(c.area_mm2) for c in cables) + stud_nut_mm(stud)
        if not cables or taken <= free:
            continue
        name = design.post_name(ref)
        tongues = " + ".join(f"{lug_tongue_mm(c.area_mm2):g}" for c in cables)
        told = "measured" if part.stud_free_mm else "usual"
        yield _finding(
            "fault" if part.stud_free_mm else "caution",
            f"The stack on {name} is longer than its stud",
            (
                f"Lugs {tongues} mm + nut and washers {stud_nut_mm(stud):g} mm = {taken:.1f} mm; "
                f"{stud}, free length {free:g} mm, {told}.",
            ),
            (Figure("Stack", taken, "mm"), Figure("Free length", free, "mm")),
            "Fewer lugs there, a bus bar, or gear with longer studs; measure the stud and enter "
            "its free length.",
            part.id,
            f"stud {PostRef(ref).post}",
        )


def fits(context: Context) -> Iterator[Finding]:
    """PL-6: places, covers, studs."""
    yield from in_place(context)
    yield from under_cover(context)
    yield from on_studs(context)


RULES = ((PL6, fits),)
