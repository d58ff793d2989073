"""From a design to a drawing: rows, order, places, then lines in the channels between rows.

Layered drawing after K. Sugiyama, S. Tagawa and M. Toda, *Methods for visual understanding of
hierarchical system structures*, IEEE Trans. SMC 11 (1981): rows, barycentre ordering, places;
lines run level in channels between the rows (left-edge tracks, A. Hashimoto and J. Stevens,
1971). Deterministic.
"""

from __future__ import annotations

from dataclasses import replace
from functools import lru_cache
from itertools import pairwise

from strom_engine.design import Bank, BusBar, Design
from strom_engine.design.fields import PostRef
from strom_engine.design.sides import post_sides
from strom_engine.drawing.geometry import Bay, Box, Layout, PostMark, Side, Spot, Wire
from strom_engine.drawing.labels import place_labels
from strom_engine.drawing.layers import affinities, layer_of_parts
from strom_engine.drawing.placing import Item, Placing, place_items
from strom_engine.drawing.routing import Leg, Route, route_channels
from strom_engine.drawing.shapes import SLOT_PITCH, Shape, mirror_pair, shape_of

__all__ = ["lay_out"]

MARGIN = 18.0
BAY_HEAD = 30.0
BAY_MIN = 226.0
TRACK_PITCH = 15.0
CHANNEL_MIN = 30.0
BANK_ORDER = {"engine": 0, "house": 1, "thruster": 2, "other": 3}


@lru_cache(maxsize=64)
def lay_out(design: Design, side: Side = "pos") -> Layout:
    """Draw one side of a design. The same design gives the same drawing.

    Args:
        design: the boat.
        side: the positive side or the negative.

    Returns:
        Rooms of parts, places of posts and routes of cables in units of the drawing.

    >>> from strom_engine.survey import new_boat
    >>> _, design = new_boat("cruising_yacht", "selector")
    >>> lay_out(design).width > 300
    True
    """
    return _Drawing(design, side).finished()


class _Drawing:
    """The steps of one drawing, and what they hand to each other."""

    def __init__(self, design: Design, side: Side) -> None:
        sides = post_sides(design)
        self.side = side
        self.cables = [c for c in design.cables if sides[c.start] == side or sides[c.end] == side]
        joined = {PostRef(r).part for c in self.cables for r in (c.start, c.end)}
        self.parts = {
            p.id: p
            for p in design.components
            if p.id in joined or side in p.posts().values() or "any" in p.posts().values()
        }
        if side == "neg":
            posts = {i: set(p.posts().values()) for i, p in self.parts.items()}
            self.parts = {i: p for i, p in self.parts.items() if "neg" in posts[i] or i in joined}
        self.ends = [(c.start.part, c.end.part) for c in self.cables]
        near: dict[str, set[str]] = {i: set() for i in self.parts}
        for a, b in self.ends:
            if a != b:
                near[a].add(b)
                near[b].add(a)
        self.graph = {i: frozenset(n) for i, n in near.items()}
        banks = list(design.of_type(Bank))
        self.banks = [b.id for b in sorted(banks, key=lambda b: BANK_ORDER[b.role])]
        self.rows = layer_of_parts(self.parts, self.graph)
        self.count = max(self.rows.values(), default=0) + 1
        self.shapes: dict[str, Shape] = {
            i: shape_of(p, sum(i in e for e in self.ends)) for i, p in self.parts.items()
        }
        # Filled in on the way: posts as they are placed, then the upper edge of every row.
        self.marks: dict[str, list[PostMark]] = {i: [] for i in self.parts}
        self.tops: list[float] = []

    def finished(self) -> Layout:
        """Run the steps."""
        routes = [self._route(i) for i in range(len(self.cables))]
        placing = self._placed(routes)
        legs = self._legs(routes, placing)
        lanes = route_channels(legs, self.count + 1)
        self.tops, channels, height = self._levels(lanes.count)
        boxes = tuple(self._box(i, placing) for i in self.parts)
        wires = self._wires(routes, legs, lanes.lane, channels)
        labelled = place_labels(wires, boxes)
        return Layout(
            side=self.side,
            width=placing.width + 2 * MARGIN,
            height=height,
            bays=self._bays(placing),
            boxes=boxes,
            wires=labelled,
        )

    def _edge(self, ref: str, other: str) -> str:
        """Which edge of its part a cable's end leaves from: towards its other end."""
        part, _, post = ref.partition(".")
        edge = self.shapes[part].posts[post].edge
        if edge in ("top", "bottom"):
            return edge
        up = self.rows[other] < self.rows[part]
        if edge == "either" and self.rows[part] == self.count - 1:
            return "top"
        if edge == "either" and self.rows[part] == 0:
            return "bottom"
        if edge == "either":
            return self._through_edge(part, post, up)
        return "top" if up else "bottom"

    def _through_edge(self, part: str, post: str, up: bool) -> str:
        """Edge of a post of a part in line: its two posts never share one."""
        return self._facing(part).get(post, "top" if up else "bottom")

    def _facing(self, part: str) -> dict[str, str]:
        """The upper post of a part in line is the one whose cable comes from further up."""
        reach: dict[str, float] = {}
        for cable, (a, b) in zip(self.cables, self.ends, strict=True):
            for ref, other in ((cable.start, b), (cable.end, a)):
                owner, _, post = ref.partition(".")
                if owner == part and not post.startswith("ctrl_"):
                    reach[post] = min(reach.get(post, 99.0), float(self.rows[other]))
        if len(reach) == 2:
            first, second = sorted(reach, key=lambda p: (reach[p], p))
            return {first: "top", second: "bottom"}
        return {}

    def _route(self, i: int) -> Route:
        """Channels a cable's ends open into, and the rows it must pass between them."""
        cable, (a, b) = self.cables[i], self.ends[i]
        edges = self._edge(cable.start, b), self._edge(cable.end, a)
        channels = (
            self.rows[a] + (edges[0] == "bottom"),
            self.rows[b] + (edges[1] == "bottom"),
        )
        low, high = min(channels), max(channels)
        return Route(cable.id, (a, b), (cable.start, cable.end), channels, tuple(range(low, high)))

    def _placed(self, routes: list[Route]) -> Placing:
        near = affinities(self.parts, self.graph, self.banks)
        items = [
            Item(i, self.rows[i], self.shapes[i].width, near.get(i, 0.0), fixed=i in self.banks)
            for i in self.parts
        ]
        for route in routes:
            middle = sum(near.get(p, 0.0) for p in route.parts) / 2
            items += [Item(f"{route.id}@{row}", row, SLOT_PITCH, middle) for row in route.passes]
        links = []
        for route in routes:
            chain: list[tuple[str, float]] = []
            ordered = route.passes if route.channels[0] <= route.channels[1] else route.passes[::-1]
            chain.append((route.parts[0], self._post_x(route.posts[0])))
            chain += [(f"{route.id}@{row}", SLOT_PITCH / 2) for row in ordered]
            chain.append((route.parts[1], self._post_x(route.posts[1])))
            links += list(pairwise(chain))
        return place_items(items, links, self.banks, BAY_MIN)

    def _post_x(self, ref: str) -> float:
        part, _, post = ref.partition(".")
        return self.shapes[part].posts[post].x

    def _mirrored(self, part: str, placing: Placing) -> bool:
        """Whether a part with two upper posts reads better the other way round."""
        pair = mirror_pair(self.parts[part])
        if pair is None:
            return False
        at = []
        for post in pair:
            ref = f"{part}.{post}"
            others = [
                b if c.start == ref else a
                for c, (a, b) in zip(self.cables, self.ends, strict=True)
                if ref in (c.start, c.end)
            ]
            at.append([placing.x[o] + self.shapes[o].width / 2 for o in others])
        if not at[0] or not at[1]:
            return False
        return sum(at[0]) / len(at[0]) > sum(at[1]) / len(at[1])

    def _legs(self, routes: list[Route], placing: Placing) -> list[Leg]:
        """One level piece for each channel that a cable runs in."""
        slots = self._slots(routes, placing)
        legs = []
        for route in routes:
            start, end = (slots[route.id, n] for n in (0, 1))
            first, last = route.channels
            step = 1 if last >= first else -1
            xs = [start]
            rows = range(first, last, step) if step > 0 else range(first - 1, last - 1, -1)
            xs += [placing.x[f"{route.id}@{row}"] + SLOT_PITCH / 2 for row in rows]
            xs.append(end)
            for n, channel in enumerate(range(first, last + step, step)):
                from_top = self._comes_from_top(route, channel, n, step)
                to_top = self._goes_to_top(route, channel, n, step, len(xs) - 2)
                legs.append(Leg(route.id, channel, xs[n], xs[n + 1], from_top, to_top))
        return legs

    def _comes_from_top(self, route: Route, channel: int, n: int, step: int) -> bool:
        if n == 0:
            return self.rows[route.parts[0]] < channel
        return step > 0

    def _goes_to_top(self, route: Route, channel: int, n: int, step: int, last: int) -> bool:
        if n == last:
            return self.rows[route.parts[1]] < channel
        return step < 0

    def _slots(self, routes: list[Route], placing: Placing) -> dict[tuple[str, int], float]:
        """X of every cable's end: the cables of a post stand side by side, in order of aim."""
        on: dict[tuple[str, str, int], list[tuple[float, str, int]]] = {}
        for route in routes:
            for n in (0, 1):
                part, _, post = route.posts[n].partition(".")
                bar = post if not isinstance(self.parts[part], BusBar) else "bar"
                other = route.parts[1 - n]
                aim = placing.x[other] + self._post_x(route.posts[1 - n])
                if route.passes:
                    row = route.passes[0] if route.channels[n] == min(route.channels) else None
                    row = route.passes[-1] if row is None else row
                    aim = placing.x[f"{route.id}@{row}"]
                on.setdefault((part, bar, route.channels[n]), []).append((aim, route.id, n))
        found = {}
        for (part, post, channel), aims in on.items():
            ref_post = post if post != "bar" else "s1"
            middle = self._middle(part, ref_post, placing)
            width = (len(aims) - 1) * SLOT_PITCH
            for k, (_, cable, n) in enumerate(sorted(aims)):
                found[cable, n] = middle - width / 2 + k * SLOT_PITCH
            on_top = channel == self.rows[part]
            mark = PostMark(f"{part}.{post}", middle, 0.0, width, "top" if on_top else "bottom")
            self.marks[part].append(mark)
        return found

    def _middle(self, part: str, post: str, placing: Placing) -> float:
        shape = self.shapes[part]
        at = shape.posts[post].x
        pair = mirror_pair(self.parts[part])
        if pair and not post.startswith("ctrl_") and self._mirrored(part, placing):
            at = shape.posts[pair[0]].x + shape.posts[pair[1]].x - at
        return placing.x[part] + at

    def _levels(self, tracks: list[int]) -> tuple[list[float], list[float], float]:
        """Top of every row, top of every channel's first track, and the height of it all."""
        y = BAY_HEAD
        tops, channels = [], []
        for row in range(self.count + 1):
            room = max(CHANNEL_MIN, (tracks[row] + 1) * TRACK_PITCH)
            if row in (0, self.count) and not tracks[row]:
                room = 6.0
            channels.append(y + (room - (tracks[row] - 1) * TRACK_PITCH) / 2)
            y += room
            if row < self.count:
                tops.append(y)
                heights = (s.height for i, s in self.shapes.items() if self.rows[i] == row)
                y += max(heights, default=0.0)
        return tops, channels, y + MARGIN

    def _top(self, part: str) -> float:
        """Upper edge of a part: parts hang from the top of their row, sources stand at its foot."""
        row = self.rows[part]
        top = self.tops[row]
        if row == 0 and not isinstance(self.parts[part], Bank):
            tallest = max(s.height for i, s in self.shapes.items() if self.rows[i] == row)
            top += tallest - self.shapes[part].height
        return top

    def _box(self, part: str, placing: Placing) -> Box:
        shape = self.shapes[part]
        top = self._top(part)
        marks = self.marks[part]
        missing = {
            post
            for post, polarity in self.parts[part].posts().items()
            if polarity in (self.side, "any")
            and not isinstance(self.parts[part], BusBar)
            and not any(m.ref == f"{part}.{post}" for m in marks)
        }
        marks = marks + [self._bare(part, post, placing) for post in sorted(missing)]
        if isinstance(self.parts[part], BusBar) and not marks:
            marks = [PostMark(f"{part}.bar", self._middle(part, "s1", placing), 0.0, 0.0, "top")]
        placed = tuple(
            replace(m, x=m.x + MARGIN, y=top if m.edge == "top" else top + shape.height)
            for m in marks
        )
        x = placing.x[part] + MARGIN
        return Box(part, x, top, shape.width, shape.height, self._mirrored(part, placing), placed)

    def _bare(self, part: str, post: str, placing: Placing) -> PostMark:
        """A post that no cable of this side lands on still stands where it can be picked."""
        edge = self.shapes[part].posts[post].edge
        taken = {m.edge for m in self.marks[part]}
        if edge in ("both", "either"):
            edge = "bottom" if "bottom" not in taken and self.rows[part] < self.count - 1 else "top"
        middle = self._middle(part, post, placing)
        return PostMark(f"{part}.{post}", middle, 0.0, 0.0, "top" if edge == "top" else "bottom")

    def _wires(
        self, routes: list[Route], legs: list[Leg], track: list[int | None], channels: list[float]
    ) -> tuple[Wire, ...]:
        wires = []
        for route in routes:
            points: list[Spot] = []
            own = [n for n, leg in enumerate(legs) if leg.cable == route.id]
            for n in own:
                leg, lane = legs[n], track[n]
                if not points:
                    points.append(Spot(leg.start_x + MARGIN, self._end_y(route, 0)))
                if lane is not None:
                    y = channels[leg.channel] + lane * TRACK_PITCH
                    points += [Spot(leg.start_x + MARGIN, y), Spot(leg.end_x + MARGIN, y)]
            points.append(Spot(legs[own[-1]].end_x + MARGIN, self._end_y(route, 1)))
            wires.append(Wire(route.id, tuple(_straightened(points)), 0.0, 0.0))
        return tuple(wires)

    def _end_y(self, route: Route, n: int) -> float:
        part = route.parts[n]
        top = self._top(part)
        return top if route.channels[n] == self.rows[part] else top + self.shapes[part].height

    def _bays(self, placing: Placing) -> tuple[Bay, ...]:
        if not self.banks:
            return ()
        centres = [placing.x[b] + self.shapes[b].width / 2 + MARGIN for b in self.banks]
        cuts = [0.0, *((a + b) / 2 for a, b in pairwise(centres)), placing.width + 2 * MARGIN]
        return tuple(
            Bay(bank, left, right - left)
            for bank, (left, right) in zip(self.banks, pairwise(cuts), strict=True)
        )


def _straightened(points: list[Spot]) -> list[Spot]:
    """The same line without points that it passes straight through."""
    kept: list[Spot] = []
    for point in points:
        if kept and kept[-1] == point:
            continue
        if len(kept) > 1 and (
            kept[-2].x == kept[-1].x == point.x or kept[-2].y == kept[-1].y == point.y
        ):
            kept.pop()
        kept.append(point)
    return kept
