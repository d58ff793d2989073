"""Size of every part's room, and where its posts stand on its edges."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

from strom_engine.design import BusBar, Component, FittedInverter, FuseBlock, LoadGroup

__all__ = ["SLOT_PITCH", "PostPlace", "Shape", "mirror_pair", "shape_of"]

Edge = Literal["top", "bottom", "both", "either"]
SLOT_PITCH = 16.0
ROW_HEIGHT = 17.0
MAX_ROWS = 6
BRANCH_PITCH = 26.0
LABEL_WIDTH = 84.0
BAR_LABEL_WIDTH = 108.0


@dataclass(frozen=True)
class PostPlace:
    """A post's middle from the left edge, and the edge it stands on.

    ``both``: one mark on each edge, as needed. ``either``: on the edge that faces its cable.
    """

    x: float
    edge: Edge


@dataclass(frozen=True)
class Shape:
    """Width and height of a room, and its posts by name."""

    width: float
    height: float
    posts: dict[str, PostPlace]


def mirror_pair(part: Component) -> tuple[str, str] | None:
    """The outermost posts of a part that can be drawn the other way round."""
    match part.kind:
        case "selector":
            return "one", "two"
        case "relay":
            return "a", "b"
        case "dual_switch":
            return "engine_in", "house_in"
        case "dcdc" | "one_way":
            return "in", "out"
        case "isolator":
            return "out1", f"out{part.outputs}"
        case _:
            return None


def _through(x: float, width: float, height: float) -> Shape:
    return Shape(width, height, {"a": PostPlace(x, "either"), "b": PostPlace(x, "either")})


def shape_of(part: Component, cables_on: int) -> Shape:
    """Shape of a part that ``cables_on`` cables land on."""
    match part.kind:
        case "bank":
            middle = PostPlace(100.0, "both")
            return Shape(200.0, 84.0, {"pos": middle, "neg": middle})
        case "charger":
            spread = {1: (100.0,), 2: (60.0, 140.0), 3: (36.0, 100.0, 164.0)}[part.outputs]
            outs = {f"out{i + 1}": PostPlace(x, "either") for i, x in enumerate(spread)}
            return Shape(200.0, 54.0, outs | {"neg": PostPlace(100.0, "either")})
        case "solar" | "generator":
            middle = PostPlace(24.0, "either")
            return Shape(156.0, 54.0, {"pos": middle, "neg": middle})
        case "alternator":
            at = {"out": 24.0, "neg": 24.0, "sense_pos": 64.0, "sense_neg": 64.0}
            places = {k: PostPlace(at[k], "either") for k in part.posts()}
            return Shape(172.0, 74.0, places)
        case "starter":
            middle = PostPlace(20.0, "either")
            return Shape(120.0, 74.0, {"pos": middle, "neg": middle})
        case "loads" | "inverter":
            return _loads(part)
        case "selector":
            top, low = PostPlace(24.0, "top"), PostPlace(54.0, "bottom")
            return Shape(196.0, 100.0, {"one": top, "two": PostPlace(84.0, "top"), "common": low})
        case "dual_switch":
            circuits = {
                "engine_in": PostPlace(22.0, "top"),
                "house_in": PostPlace(78.0, "top"),
                "engine_out": PostPlace(22.0, "bottom"),
                "house_out": PostPlace(78.0, "bottom"),
            }
            control = PostPlace(150.0, "either")
            return Shape(188.0, 88.0, circuits | {"ctrl_pos": control, "ctrl_neg": control})
        case "relay":
            ends = {"a": PostPlace(16.0, "top"), "b": PostPlace(96.0, "top")}
            return Shape(196.0, 78.0, ends | {"neg": PostPlace(56.0, "either")})
        case "dcdc":
            ends = {"in": PostPlace(16.0, "top"), "out": PostPlace(96.0, "top")}
            ends["neg"] = PostPlace(36.0 if part.isolated else 56.0, "either")
            return Shape(206.0, 84.0, ends | {"out_neg": PostPlace(76.0, "either")})
        case "one_way":
            ends = {"in": PostPlace(16.0, "top"), "out": PostPlace(96.0, "top")}
            return Shape(196.0, 78.0, ends | {"neg": PostPlace(56.0, "either")})
        case "protection":
            ends = {"bank": PostPlace(20.0, "top"), "system": PostPlace(20.0, "bottom")}
            return Shape(46.0 + LABEL_WIDTH, 60.0, ends)
        case "fuse_block":
            return _fuse_block(part)
        case "isolator":
            spread = {2: (16.0, 96.0), 3: (16.0, 56.0, 96.0)}[part.outputs]
            outs = {f"out{i + 1}": PostPlace(x, "top") for i, x in enumerate(spread)}
            ins = {"in": PostPlace(56.0, "bottom")}
            if part.inputs == 2:
                ins = {"in": PostPlace(36.0, "bottom"), "in2": PostPlace(76.0, "bottom")}
            return Shape(196.0, 78.0, outs | ins | {"excite": PostPlace(96.0, "bottom")})
        case "switch":
            through = _through(20.0, 46.0 + LABEL_WIDTH, 50.0)
            control = PostPlace(104.0, "either")
            posts = through.posts | {"ctrl_pos": control, "ctrl_neg": control}
            return Shape(through.width, through.height, posts)
        case "shunt":
            line = PostPlace(14.0, "either")
            return Shape(26.0 + LABEL_WIDTH, 44.0, {"bank": line, "system": line})
        case "bus_bar":
            return _bus_bar(part, cables_on)
        case _:
            return _through(12.0, 28.0 + LABEL_WIDTH, 46.0)


def _fuse_block(part: FuseBlock) -> Shape:
    count = len(part.branch_a)
    bar = max(3, count) * BRANCH_PITCH
    branches = {f"b{n + 1}": PostPlace((n + 0.5) * BRANCH_PITCH, "bottom") for n in range(count)}
    return Shape(bar + LABEL_WIDTH + 6, 58.0, branches | {"in": PostPlace(bar / 2, "top")})


def _loads(part: LoadGroup | FittedInverter) -> Shape:
    rows = max(1, min(len(part.items), MAX_ROWS))
    height = 54.0 if len(part.items) == 1 else 34.0 + ROW_HEIGHT * rows
    if isinstance(part, FittedInverter):
        listed = min(len(part.items), MAX_ROWS - 1)
        middle = PostPlace(24.0, "either")
        return Shape(186.0, 54.0 + ROW_HEIGHT * listed, {"pos": middle, "neg": middle})
    if len(part.items) > MAX_ROWS:
        height += ROW_HEIGHT
    width = 150.0 if len(part.items) == 1 else 186.0
    middle = PostPlace(24.0, "either")
    return Shape(width, height, {"pos": middle, "neg": middle})


def _bus_bar(part: BusBar, cables_on: int) -> Shape:
    bar = max(4, cables_on) * SLOT_PITCH + 10
    middle = PostPlace(bar / 2, "both")
    return Shape(bar + BAR_LABEL_WIDTH, 34.0, dict.fromkeys(part.posts(), middle))
