"""What a layout is made of. Lengths are in drawing units, one to a screen pixel at full size."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

__all__ = ["Bay", "Box", "Layout", "PostMark", "Side", "Spot", "Wire"]

Side = Literal["pos", "neg"]


@dataclass(frozen=True)
class PostMark:
    """A post as a mark on the edge of its box; several cables on it stand side by side."""

    ref: str
    x: float
    y: float
    width: float
    edge: Literal["top", "bottom"]


@dataclass(frozen=True)
class Box:
    """The room of one part, its name included; nothing else is drawn in it."""

    id: str
    x: float
    y: float
    width: float
    height: float
    mirrored: bool
    posts: tuple[PostMark, ...]


@dataclass(frozen=True)
class Spot:
    """A point of the drawing."""

    x: float
    y: float


@dataclass(frozen=True)
class Wire:
    """A cable as a line of upright and level pieces, and the middle of its label."""

    id: str
    points: tuple[Spot, ...]
    label_x: float
    label_y: float


@dataclass(frozen=True)
class Bay:
    """The strip of the drawing that belongs to a bank."""

    bank: str
    x: float
    width: float


@dataclass(frozen=True)
class Layout:
    """The whole drawing of one side of the circuit."""

    side: Side
    width: float
    height: float
    bays: tuple[Bay, ...]
    boxes: tuple[Box, ...]
    wires: tuple[Wire, ...]
