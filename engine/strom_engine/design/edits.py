"""What an electrician does at the bench, as named changes worked out for a design."""

from __future__ import annotations

from collections.abc import Container

from strom_engine.design.choices import CableEnd
from strom_engine.design.document import Cable, Design
from strom_engine.design.fields import PostRef
from strom_engine.design.joined import joined_posts
from strom_engine.design.part_changes import AddPart, Relanding
from strom_engine.design.parts import (
    KINDS,
    Bank,
    BusBar,
    DcDc,
    FuseBlock,
    OneWayCombiner,
    Relay,
    Selector,
    Switch,
    facts_of,
)
from strom_engine.design.rewiring import SwapPart
from strom_engine.design.sides import post_sides
from strom_engine.design.usual import usual_part
from strom_engine.errors import ChangeError, Problem

__all__ = [
    "before_switch",
    "free_id",
    "gather_on_bus",
    "insert_kinds",
    "insert_part",
    "put_device",
    "swap_kinds",
    "swap_part",
]

NEW_BAR_A = 600.0  # a bar of studs to be bought carries so much (makers' data)
NEW_LEAD_M = 0.15  # the lead of a device that is put in, from its source


def free_id(name: str, taken: Container[str]) -> str:
    """An id like a name that nothing has yet."""
    found, n = f"{name}_1", 1
    while found in taken:
        n += 1
        found = f"{name}_{n}"
    return found


def _free_name(design: Design, kind: str) -> str:
    taken = {p.name for p in design.components}
    word, n = facts_of(kind).word, 1
    while f"{word} {n}" in taken:
        n += 1
    return f"{word} {n}"


def _taken_cables(design: Design) -> set[str]:
    return {c.id for c in design.cables} | {c.id for c in design.parked}


def insert_part(design: Design, cable_id: str, kind: str) -> AddPart:
    """Put a part into a cable, half of it on either side. Raises ChangeError."""
    cable = design.cables_by_id.get(cable_id)
    inline = facts_of(kind).inline if kind in KINDS else None
    if cable is None or inline is None:
        what = f"there is no cable {cable_id!r}" if cable is None else f"{kind!r} goes in no cable"
        raise ChangeError(what, (Problem("cable" if cable is None else "kind", what),))
    side = post_sides(design)[cable.start]
    own: dict[str, object] = {}
    if kind == "bus_bar":
        own["polarity"] = side if side in ("pos", "neg") else "pos"
    if kind == "protection":
        own["guards"] = _bank_at(design, cable)
    part_id = free_id(kind, design.by_id)
    part = usual_part(kind, part_id, _free_name(design, kind), design.system_v, own=own)
    enter, leave = inline
    half = max(0.1, round(cable.length_m / 2, 2))
    # What guards or protects belongs at the bank's end: the long piece lies behind it.
    after = cable.model_copy(
        update={
            "id": free_id(cable.id[:36], _taken_cables(design)),
            "start": PostRef.of(part_id, leave),
            "length_m": half,
            "estimated": True,
        }
    )
    return AddPart(
        part=part,
        cables=(after,),
        relandings=(Relanding(cable=cable.id, end="end", to=PostRef.of(part_id, enter)),),
    )


def _bank_at(design: Design, cable: Cable) -> str:
    for ref in (cable.start, cable.end):
        part = design.by_id[PostRef(ref).part]
        if isinstance(part, Bank):
            return part.id
    text = "a protection goes into the cable of the bank that it guards"
    raise ChangeError(text, (Problem("cable", text),))


def insert_kinds(design: Design, cable_id: str) -> tuple[str, ...]:
    """Kinds that fit into a cable: by its side, and a protection only at a lithium bank."""
    cable = design.cables_by_id[cable_id]
    side = "neg" if post_sides(design)[cable.start] == "neg" else "pos"
    ends = [design.by_id[ref.part] for ref in (cable.start, cable.end)]
    lithium = any(isinstance(p, Bank) and p.chemistry == "lfp" for p in ends)
    return tuple(
        kind
        for kind, part in KINDS.items()
        if part.facts.inline is not None
        and part.facts.side in (side, "both")
        and (kind != "protection" or lithium)
    )


def gather_on_bus(design: Design, ref: str, kind: str) -> AddPart:
    """Bring all cables of a post but the widest onto a bus, fed from the post. Raises ChangeError.

    A post that is a bank's, or a switch's, is so left with two lugs.
    """
    if kind not in ("bus_bar", "fuse_block"):
        text = f"{kind!r} gathers nothing; known: bus_bar, fuse_block"
        raise ChangeError(text, (Problem("kind", text),))
    post = PostRef(ref)
    stacked = design.stack_on(post)
    moved = stacked[1:] if len(stacked) > 2 else stacked
    if len(moved) < 2 or post not in design.post_polarity:
        text = f"{post}: a bus gathers at least two cables"
        raise ChangeError(text, (Problem("post", text),))
    side = post_sides(design)[post]
    if kind == "fuse_block" and side == "neg":
        text = "a fused bus belongs on the positive side"
        raise ChangeError(text, (Problem("kind", text),))
    studs = min(24, len(moved) + 2)
    own: dict[str, object] = {"polarity": side, "studs": studs, "rating_a": NEW_BAR_A}
    if kind == "fuse_block":
        own = {"branch_a": [20.0] * min(16, len(moved))}
    part_id = free_id(kind, design.by_id)
    place = design.by_id[post.part].place
    part = usual_part(kind, part_id, _free_name(design, kind), design.system_v, place, own)
    assert isinstance(part, BusBar | FuseBlock)
    enter = "s1" if kind == "bus_bar" else "in"
    posts = [name for name in part.posts() if name != enter]
    widest = max((design.cables_by_id[i] for i in moved), key=lambda c: c.area_mm2)
    feeder = Cable(
        id=free_id("feeder", _taken_cables(design)),
        start=post,
        end=PostRef.of(part_id, enter),
        length_m=0.5,
        estimated=True,
        gauge=widest.gauge,
        # Between a battery and its bar of fuses it lies in a sheath (ABYC E-11, up to 1.83 m).
        sheathed=isinstance(design.by_id[post.part], Bank),
    )
    relandings = tuple(
        Relanding(
            cable=i,
            end="start" if design.cables_by_id[i].start == post else "end",
            to=PostRef.of(part_id, name),
        )
        for i, name in zip(moved, posts, strict=False)
    )
    return AddPart(part=part, cables=(feeder,), relandings=relandings)


def before_switch(design: Design, cable_id: str) -> tuple[tuple[CableEnd, str], ...]:
    """Where an end on the far side of a switch lands to be taken before it: end and post."""
    cable = design.cables_by_id.get(cable_id)
    if cable is None:
        return ()
    banks = {f"{p.id}.pos" for p in design.components if isinstance(p, Bank)}
    found: list[tuple[CableEnd, str]] = []
    for end, ref in (("start", cable.start), ("end", cable.end)):
        part = design.by_id[PostRef(ref).part]
        if not isinstance(part, Switch):
            continue
        for pair in part.joins():
            refs = [f"{part.id}.{post}" for post in pair]
            if ref not in refs:
                continue
            other = refs[1 - refs.index(ref)]
            beyond, here = (joined_posts(design, at, part.id) for at in (other, ref))
            if banks & beyond and not banks & here:
                found.append(("start" if end == "start" else "end", other))
    return tuple(dict.fromkeys(found))


def swap_kinds(design: Design, part_id: str) -> tuple[str, ...]:
    """Kinds that a part can be swapped for: those whose posts may be on the side it is on."""
    part = design.by_id.get(part_id)
    if part is None:
        return ()
    sides = post_sides(design)
    joined = {post for pair in part.joins() for post in pair}
    minus = any(sides[f"{part_id}.{post}"] == "neg" for post in joined)
    return tuple(
        kind
        for kind in part.facts.swaps
        if not minus or (facts_of(kind).side == "both" and facts_of(kind).counted == "switches")
    )


def swap_part(design: Design, part_id: str, kind: str) -> SwapPart:
    """Another kind of part in a part's place, its name and place kept. Raises ChangeError.

    Cables whose post has a part to play on the new one stay; the others will be parked.
    """
    old = design.by_id.get(part_id)
    if old is None or kind not in swap_kinds(design, part_id):
        text = f"{part_id!r} cannot be swapped for {kind!r}"
        raise ChangeError(text, (Problem("kind" if old else "part", text),))
    own: dict[str, object] = {}
    if kind == "bus_bar":
        used = [c for c in design.cables if part_id in (c.start.part, c.end.part)]
        own = {"polarity": "pos", "studs": max(6, len(used))}
    if kind == "fuse_block" and isinstance(old, BusBar):
        own = {"branch_a": [20.0] * min(16, max(1, old.studs - 1))}
    if kind == "switch" and isinstance(old, Relay | DcDc | OneWayCombiner | Selector):
        own = {"purpose": "parallel", "position": "off"}
    if hasattr(old, "rating_a") and kind in ("fuse", "breaker", "switch", "relay", "isolator"):
        own["rating_a"] = old.rating_a
    new = usual_part(
        kind,
        free_id(kind, design.by_id),
        _free_name(design, kind),
        design.system_v,
        old.place,
        own,
    )
    by_role = {role: post for post, role in new.post_roles().items()}
    landings = {post: by_role[role] for post, role in old.post_roles().items() if role in by_role}
    cables = _house_cables(design, part_id) if kind == "dual_switch" else {}
    return SwapPart(part=part_id, new=new, landings=landings, cables=cables)


def _house_cables(design: Design, part_id: str) -> dict[str, str]:
    """On a dual-circuit switch the loads hang on the house side, engine and starter do not."""
    found = {}
    for cable in design.cables:
        for own, other in ((cable.start, cable.end), (cable.end, cable.start)):
            kind = design.by_id[PostRef(other).part].kind
            on_out = own in (f"{part_id}.common", f"{part_id}.b")
            if on_out and kind in ("loads", "inverter", "bus_bar", "fuse_block"):
                found[cable.id] = "house_out"
    return found


def put_device(
    design: Design, cable_id: str, end: CableEnd, device: str, rating_a: float
) -> AddPart:
    """Put a fuse or breaker into a cable, close to one of its ends. Raises ChangeError.

    A short piece of the same cable runs from the post to the device; the rest goes on behind it.
    """
    cable = design.cables_by_id.get(cable_id)
    if cable is None:
        text = f"there is no cable {cable_id!r}"
        raise ChangeError(text, (Problem("cable", text),))
    kind = "breaker" if device.startswith("breaker") else "fuse"
    ref = cable.start if end == "start" else cable.end
    part_id = free_id(kind, design.by_id)
    name, n = f"{design.by_id[PostRef(ref).part].name} {kind}"[:56], 1
    while name in {p.name for p in design.components}:
        n += 1
        name = f"{design.by_id[PostRef(ref).part].name} {kind}"[:56] + f" {n}"
    own = {"rating_a": rating_a, "device": device}
    place = design.by_id[PostRef(ref).part].place
    part = usual_part(kind, part_id, name, design.system_v, place, own)
    short = cable.model_copy(
        update={
            "id": free_id(cable.id[:36], _taken_cables(design)),
            "start": ref,
            "end": PostRef.of(part_id, "a"),
            "length_m": min(NEW_LEAD_M, cable.length_m),
            "estimated": True,
            "label": "",
            "locked": False,
        }
    )
    return AddPart(
        part=part,
        cables=(short,),
        relandings=(Relanding(cable=cable.id, end=end, to=PostRef.of(part_id, "b")),),
    )
