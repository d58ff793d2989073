"""Boards: the gear of a place laid out to scale, with what lands on every post."""

from __future__ import annotations

from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass

from strom_engine.build.cuts import cable_labels
from strom_engine.build.drafting import depths
from strom_engine.build.stacks import Stack, stack_at
from strom_engine.design import Bank, BusBar, Component, Design, LoadGroup
from strom_engine.design.fields import PostRef
from strom_engine.design.outlines import Outline, outline

__all__ = ["Board", "BoardLead", "BoardPiece", "BoardPost", "boards"]

USUAL_WIDTH_MM = 600.0  # of a board where nobody has measured the place
GAP_MM = 25.0  # between gear: a hand and a bend of cable; own judgement


@dataclass(frozen=True)
class BoardPost:
    """A post on the board [mm], and the labels that land on it from the seat up."""

    post: str
    x_mm: float
    y_mm: float
    labels: tuple[str, ...]


@dataclass(frozen=True)
class BoardPiece:
    """Gear on the board, seen from the front [mm]; ``typed``: its size was entered, not usual."""

    part: str
    name: str
    word: str
    x_mm: float
    y_mm: float
    width_mm: float
    height_mm: float
    typed: bool
    posts: tuple[BoardPost, ...]


@dataclass(frozen=True)
class BoardLead:
    """A cable on the board, of either side of the circuit, between its posts [mm].

    ``to`` names where it goes when its other end is not on this board; then it ends at the edge.
    """

    cable: str
    label: str
    side: str
    x1_mm: float
    y1_mm: float
    x2_mm: float
    y2_mm: float
    to: str


@dataclass(frozen=True)
class Board:
    """The board of a place: its size [mm], the gear on it, its leads, what lands where.

    ``fits`` is None where nobody has measured the place.
    """

    place: str
    name: str
    width_mm: float
    height_mm: float
    fits: bool | None
    pieces: tuple[BoardPiece, ...]
    leads: tuple[BoardLead, ...]
    terminations: tuple[Stack, ...]


def boards(design: Design) -> tuple[Board, ...]:
    """A board for every place with gear, nearest to the banks first on each.

    Gear stands in rows with room for a hand between; it is a proposal to begin with, not a plan of
    holes.

    Args:
        design: the chosen one, as surveyed.
    """
    return tuple(board for place in design.places for board in _board(design, place.id))


def _board(design: Design, place_id: str) -> Iterator[Board]:
    place = next(p for p in design.places if p.id == place_id)
    near = depths(design)
    gear = [
        (part, size)
        for part in design.components
        if part.place == place_id
        and not isinstance(part, Bank | LoadGroup)
        and not (isinstance(part, BusBar) and part.engine_block)
        and (size := outline(part)) is not None
    ]
    if not gear:
        return

    def depth(part: Component) -> int:
        return min((near.get(f"{part.id}.{post}", 999) for post in part.posts()), default=999)

    gear.sort(key=lambda g: (depth(g[0]), g[0].name))
    width = max(place.width_mm or USUAL_WIDTH_MM, *(o.size.width_mm + 2 * GAP_MM for _, o in gear))
    labels = cable_labels(design)
    pieces, x, y, row = [], GAP_MM, GAP_MM, 0.0
    for part, one in gear:
        if x + one.size.width_mm + GAP_MM > width:
            x, y, row = GAP_MM, y + row + GAP_MM, 0.0
        pieces.append(_piece(design, part, one, (x, y), labels))
        x += one.size.width_mm + GAP_MM
        row = max(row, one.size.height_mm)
    height = y + row + GAP_MM
    yield Board(
        place=place.id,
        name=place.name,
        width_mm=width,
        height_mm=height,
        fits=None
        if place.inside is None
        else width <= place.inside.width_mm and height <= place.inside.height_mm,
        pieces=tuple(pieces),
        leads=tuple(_leads(design, pieces, labels, height)),
        terminations=tuple(
            stack
            for part, _ in gear
            for post in part.posts()
            if (stack := stack_at(design, f"{part.id}.{post}")) is not None
        ),
    )


def _leads(
    design: Design, pieces: Sequence[BoardPiece], labels: Mapping[str, str], height_mm: float
) -> Iterator[BoardLead]:
    """Every cable with an end on the board: to its other post, or straight down to the edge."""
    places = {p.id: p.name for p in design.places}
    at = {f"{p.part}.{post.post}": (post.x_mm, post.y_mm) for p in pieces for post in p.posts}
    for cable in design.cables:
        here, there = at.get(cable.start), at.get(cable.end)
        near, far = cable.start, cable.end
        if here is None:
            here, there, near, far = there, here, far, near
        if here is None:
            continue
        away = ""
        if there is None:
            part = design.by_id[PostRef(far).part]
            away = f"{part.name}, {places[part.place]}" if part.place else part.name
        x2, y2 = there or (here[0], height_mm)
        yield BoardLead(
            cable=cable.id,
            label=labels[cable.id],
            side=design.post_polarity[near],
            x1_mm=here[0],
            y1_mm=here[1],
            x2_mm=x2,
            y2_mm=y2,
            to=away,
        )


def _piece(
    design: Design,
    part: Component,
    one: Outline,
    at: tuple[float, float],
    labels: dict[str, str],
) -> BoardPiece:
    posts = list(part.posts())
    x, y = at
    step = one.size.width_mm / (len(posts) + 1)
    return BoardPiece(
        part=part.id,
        name=part.name,
        word=part.facts.word,
        x_mm=x,
        y_mm=y,
        width_mm=one.size.width_mm,
        height_mm=one.size.height_mm,
        typed=one.typed,
        posts=tuple(
            BoardPost(
                post=post,
                x_mm=round(x + (n + 1) * step, 1),
                y_mm=round(y + 0.7 * one.size.height_mm, 1),
                labels=tuple(labels[c] for c in design.stack_on(f"{part.id}.{post}")),
            )
            for n, post in enumerate(posts)
        ),
    )
