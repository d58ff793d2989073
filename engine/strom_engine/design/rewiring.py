"""Named changes of the wiring at large: park, land, swap, stack, and a whole scheme anew."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import Field

from strom_engine.design.choices import CableEnd
from strom_engine.design.document import Cable, Design, ParkedCable, Stack
from strom_engine.design.fields import Frozen, Identifier, Name, PostRef
from strom_engine.design.named import cable_named, part_named
from strom_engine.design.parts import Component
from strom_engine.design.validation import suggest
from strom_engine.errors import ChangeError, Problem

__all__ = [
    "ApplyScheme",
    "LandParked",
    "ParkEnd",
    "StackCables",
    "SwapPart",
    "WiringChange",
    "apply_wiring_change",
    "tidied",
    "wiring_touched",
    "wiring_words",
]


class ParkEnd(Frozen):
    """Take one end of a cable off its post and leave it hanging."""

    type: Literal["park_end"] = "park_end"
    cable: Identifier
    end: CableEnd


class LandParked(Frozen):
    """Land a hanging end of a parked cable."""

    type: Literal["land_parked"] = "land_parked"
    cable: Identifier
    end: CableEnd
    to: PostRef


class SwapPart(Frozen):
    """Put another part in a part's place; cables whose post is not in ``landings`` are parked.

    ``cables`` names the new post of single cables, before ``landings`` of their old post.
    """

    type: Literal["swap_part"] = "swap_part"
    part: Identifier
    new: Component
    landings: dict[str, str] = Field(default_factory=dict, max_length=40)
    cables: dict[str, str] = Field(default_factory=dict, max_length=40)

    def lands_on(self, cable: str, post: str) -> str | None:
        """The new part's post for a cable that was on one of the old part's."""
        return self.cables.get(cable, self.landings.get(post))


class StackCables(Frozen):
    """The order of the lugs on a post, from the seat up."""

    type: Literal["stack_cables"] = "stack_cables"
    post: PostRef
    cables: Annotated[tuple[Identifier, ...], Field(max_length=24)]


class ApplyScheme(Frozen):
    """A whole scheme in place of the one that is drawn, as a pattern built it."""

    type: Literal["apply_scheme"] = "apply_scheme"
    pattern: Name
    components: Annotated[tuple[Component, ...], Field(max_length=400)]
    cables: Annotated[tuple[Cable, ...], Field(max_length=600)]


WiringChange = ParkEnd | LandParked | SwapPart | StackCables | ApplyScheme


def wiring_touched(change: WiringChange) -> frozenset[str]:
    """Parts and cables a change is about."""
    match change:
        case ParkEnd() | LandParked():
            return frozenset({f"cable {change.cable}"})
        case SwapPart():
            return frozenset({change.part, change.new.id})
        case StackCables():
            return frozenset({f"stack {change.post}"})
        case ApplyScheme():
            cables = (f"cable {cable.id}" for cable in change.cables)
            return frozenset({*(part.id for part in change.components), *cables})


def wiring_words(design: Design, change: WiringChange) -> str:
    """A change in words; ``design`` is the one it is applied to."""
    match change:
        case ParkEnd():
            cable = cable_named(design, change.cable)
            return (
                f"Took the cable {design.cable_name(cable)} off at the {change.end} and parked it"
            )
        case LandParked():
            return f"Landed a parked cable on {design.post_name(change.to)}"
        case SwapPart():
            part = part_named(design, change.part)
            count = len(_parked_by_swap(design, change))
            left = f"; {count} {'cable' if count == 1 else 'cables'} parked" if count else ""
            return f"Swapped {part.name} for {change.new.name}{left}"
        case StackCables():
            return f"Stacked the lugs on {design.post_name(change.post)}"
        case ApplyScheme():
            return f"Rewired as: {change.pattern}"


def apply_wiring_change(design: Design, change: WiringChange) -> Design:
    """The design after a change, not yet checked as a whole."""
    match change:
        case ParkEnd():
            cable = cable_named(design, change.cable)
            parked = ParkedCable.of(cable).model_copy(update={change.end: None})
            return design.replace_unchecked(
                cables=tuple(c for c in design.cables if c.id != cable.id),
                parked=(*design.parked, parked),
            )
        case LandParked():
            return _landed(design, change)
        case SwapPart():
            return _swapped(design, change)
        case StackCables():
            others = tuple(s for s in design.stacks if s.post != change.post)
            stack = Stack(post=change.post, cables=change.cables)
            return design.replace_unchecked(stacks=(*others, stack))
        case ApplyScheme():
            return design.replace_unchecked(components=change.components, cables=change.cables)


def tidied(design: Design) -> Design:
    """The design without traces of what is gone: in stacks, and at the ends of parked cables."""
    posts = design.post_polarity
    ends = {(ref, c.id) for c in design.cables for ref in (c.start, c.end)}
    stacks = (
        stack.model_copy(
            update={"cables": tuple(i for i in stack.cables if (stack.post, i) in ends)}
        )
        for stack in design.stacks
    )
    parked = (
        cable.model_copy(
            update={end: None for end in ("start", "end") if getattr(cable, end) not in posts}
        )
        for cable in design.parked
    )
    return design.replace_unchecked(
        stacks=tuple(s for s in stacks if s.cables), parked=tuple(parked)
    )


def _landed(design: Design, change: LandParked) -> Design:
    found = next((c for c in design.parked if c.id == change.cable), None)
    if found is None:
        known = [c.id for c in design.parked]
        text = f"there is no parked cable {change.cable!r}{suggest(change.cable, known)}"
        raise ChangeError(text, (Problem("cable", text),))
    if change.to not in design.post_polarity:
        text = f"there is no post {change.to!r}{suggest(change.to, design.post_polarity)}"
        raise ChangeError(text, (Problem("to", text),))
    landed = found.model_copy(update={change.end: change.to})
    others = tuple(c for c in design.parked if c.id != found.id)
    whole = landed.landed()
    if whole is None:
        return design.replace_unchecked(parked=(*others, landed))
    return design.replace_unchecked(parked=others, cables=(*design.cables, whole))


def _parked_by_swap(design: Design, change: SwapPart) -> list[tuple[Cable, list[CableEnd]]]:
    """Cables with the ends that find no post on the new part."""
    found = []
    new_posts = change.new.posts()
    for cable in design.cables:
        loose: list[CableEnd] = []
        for end, ref in (("start", cable.start), ("end", cable.end)):
            part, _, post = ref.partition(".")
            if part == change.part and change.lands_on(cable.id, post) not in new_posts:
                loose.append("start" if end == "start" else "end")
        if loose:
            found.append((cable, loose))
    return found


def _swapped(design: Design, change: SwapPart) -> Design:
    part_named(design, change.part)
    if change.new.id != change.part and change.new.id in design.by_id:
        text = f"there is already a part {change.new.id!r}"
        raise ChangeError(text, (Problem("new.id", text),))
    loose = {cable.id: ends for cable, ends in _parked_by_swap(design, change)}

    def moved(cable: str, ref: str) -> str:
        part, _, post = ref.partition(".")
        landed = change.lands_on(cable, post)
        return ref if part != change.part or landed is None else f"{change.new.id}.{landed}"

    cables, parked = [], []
    for cable in design.cables:
        new = cable.model_copy(
            update={"start": moved(cable.id, cable.start), "end": moved(cable.id, cable.end)}
        )
        if cable.id in loose:
            hanging = ParkedCable.of(new)
            parked.append(hanging.model_copy(update=dict.fromkeys(loose[cable.id])))
        else:
            cables.append(new)
    return design.replace_unchecked(
        components=tuple(change.new if p.id == change.part else p for p in design.components),
        cables=tuple(cables),
        parked=(*design.parked, *parked),
    )
