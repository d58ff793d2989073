"""Where an end of a cable can land, and where a new one can."""

from __future__ import annotations

from collections.abc import Iterable

from strom_engine.design.choices import CableEnd
from strom_engine.design.document import Design, ParkedCable
from strom_engine.design.fields import PostRef
from strom_engine.design.named import cable_named
from strom_engine.design.parts import BusBar
from strom_engine.design.sides import post_sides
from strom_engine.design.validation import suggest
from strom_engine.errors import ChangeError, Problem
from strom_engine.reference import CONDUCTOR_SIZES

__all__ = ["joinable_posts", "landing_posts"]


def landing_posts(design: Design, cable_id: str, end: CableEnd) -> tuple[str, ...]:
    """Posts where an end of a cable can land: same side, not where it is, not its own other end.

    An end of a parked cable can land too; one that hangs at both ends lands on either side.
    A power cable is not offered the thin sense posts. Of a bus bar the first free stud is
    offered, or its last one when all are taken.

    Args:
        design: the boat, as surveyed.
        cable_id: of the cable.
        end: which end of it.

    Returns:
        Posts in the design's order.

    Raises:
        ChangeError: there is no such cable.
    """
    parked = next((c for c in design.parked if c.id == cable_id), None)
    cable = parked or cable_named(design, cable_id)
    here, other = (cable.start, cable.end) if end == "start" else (cable.end, cable.start)
    rest = design.replace_unchecked(cables=tuple(c for c in design.cables if c.id != cable_id))
    sides = post_sides(rest) | {None: "any"}
    # The side of a whole cable is what its other end meets, or, on free metal, what it met here.
    side = sides[other] if sides[other] != "any" else sides[here]
    own = {PostRef(ref).part for ref in (here, other) if ref is not None}
    offered = []
    for part in design.components:
        posts: Iterable[str] = part.posts()
        if isinstance(part, BusBar):
            if part.id in own:
                continue
            posts = [_free_stud(design, part)]
        for post in posts:
            ref = f"{part.id}.{post}"
            fits = "any" in (side, sides[ref]) or sides[ref] == side
            thin = post.startswith("sense_") and cable.purpose == "power"
            if fits and not thin and ref not in (here, other):
                offered.append(ref)
    return tuple(offered)


def joinable_posts(design: Design, ref: str) -> tuple[str, ...]:
    """Posts that a new cable from a post can land on: those of its side, of other parts.

    Raises ChangeError when there is no such post.

    Args:
        design: the boat, as surveyed.
        ref: a post, as ``part.post``.

    Returns:
        Posts in the design's order.
    """
    if ref not in design.post_polarity:
        text = f"there is no post {ref!r}{suggest(ref, design.post_polarity)}"
        raise ChangeError(text, (Problem("post", text),))
    hanging = ParkedCable(
        id="new_cable", start=PostRef(ref), end=None, length_m=1.0, gauge=CONDUCTOR_SIZES[0]
    )
    return landing_posts(design.replace_unchecked(parked=(hanging,)), hanging.id, "end")


def _free_stud(design: Design, bar: BusBar) -> str:
    taken = {ref for c in design.cables for ref in (c.start, c.end)}
    free = (post for post in bar.posts() if f"{bar.id}.{post}" not in taken)
    return next(free, f"s{bar.studs}")
