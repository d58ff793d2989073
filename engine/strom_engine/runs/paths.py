"""Whole paths from what gives to what takes: through cables, switches and fuses, both ways."""

from __future__ import annotations

from collections import defaultdict
from dataclasses import dataclass, replace
from functools import cached_property, lru_cache
from typing import Literal

from strom_engine.circuit.least_path import Edge, Reached, least_paths, path_to
from strom_engine.circuit.network import Network, network
from strom_engine.design import (
    Bank,
    DcDc,
    Design,
    FittedInverter,
    Isolator,
    LoadGroup,
    Starter,
)
from strom_engine.design.fields import PostRef
from strom_engine.runs.converters import bank_at
from strom_engine.runs.drop import FEEDER_PERCENT, allowed_percent
from strom_engine.runs.load_cases import (
    LoadCase,
    charging_strains,
    cranking_strains,
    low_strains,
)

__all__ = ["Path", "PathStep", "paths", "paths_over"]

CRANKING_DROP_V = 1.0  # both ways, 12 V; more is a fault, half of it good (trade practice)
LEAST_CHARGE_A = 1.0
SPARE_V = 1e-6
PathKind = Literal["supply", "charge", "cranking"]


GOOD_CRANKING_SHARE = 0.5  # of what a cranking path may lose (trade practice: 0.5 V of 1 V)


@dataclass(frozen=True)
class PathStep:
    """A cable, or a contact of a part, on a path: amps in its direction, volts lost [V].

    ``parts`` are those at the ends of a cable, or the one whose contact it is.
    """

    name: str
    cable: str | None
    parts: tuple[str, ...]
    side: Literal["out", "back"]
    current_a: float
    drop_v: float
    length_m: float


@dataclass(frozen=True)
class Path:
    """A path in the state where it loses most.

    ``limit_v`` is what it may lose [V], ``why`` says where that comes from; shares are those of
    ``nominal_v``, what its taker is made for [V]. ``at_end_v`` is what is left at its far end [V].
    ``kept``: it loses no more than it may.
    """

    id: str
    kind: PathKind
    giver: str
    taker: str
    name: str
    state: str
    steps: tuple[PathStep, ...]
    nominal_v: float
    drop_v: float
    drop_percent: float
    limit_v: float
    limit_percent: float
    why: str
    length_m: float
    at_end_v: float
    current_a: float
    kept: bool

    @property
    def aim_v(self) -> float:
        """What it loses when it is well made [V]: a half of what is allowed while cranking."""
        return (GOOD_CRANKING_SHARE if self.kind == "cranking" else 1.0) * self.limit_v

    @cached_property
    def cables(self) -> tuple[str, ...]:
        """Cables on it, out and back."""
        return tuple(s.cable for s in self.steps if s.cable)


@lru_cache(maxsize=32)
def paths(design: Design) -> tuple[Path, ...]:
    """The paths of every load, every source and every starter, each where it loses most."""
    worst: dict[str, Path] = {}
    for load_case in low_strains(design):
        _keep(worst, _supply(design, load_case))
    for load_case in charging_strains(design):
        _keep(worst, _charge(design, load_case))
    for load_case in cranking_strains(design):
        # By one bank alone first: a start with others counts where no other is possible.
        _keep(worst, [p for p in _cranking(design, load_case) if p.id not in worst])
    return tuple(worst.values())


@lru_cache(maxsize=32)
def paths_over(design: Design) -> dict[str, tuple[Path, ...]]:
    """The paths that lead over each cable."""
    found: dict[str, tuple[Path, ...]] = {}
    for path in paths(design):
        for cable in dict.fromkeys(path.cables):
            found[cable] = (*found.get(cable, ()), path)
    return found


def _keep(worst: dict[str, Path], found: list[Path]) -> None:
    for path in found:
        old = worst.get(path.id)
        if old is None or path.drop_v > old.drop_v:
            worst[path.id] = path


class _Map:
    """One state's metal as a graph of nodes, with volts."""

    def __init__(self, design: Design, load_case: LoadCase) -> None:
        self.design, self.point = design, load_case.point
        self.net: Network = network(design, load_case.state.positions, load_case.point.moved())
        self.volts: dict[int, float] = {}
        for ref, volts in load_case.point.post_v.items():
            if volts is not None:
                self.volts[self.net.node(ref)] = volts
        self.reached: dict[int, dict[int, Reached[int]]] = {}
        self.near: dict[int, list[Edge[int]]] = defaultdict(list)
        for one in self.net.conductors:
            self.near[one.a].append(Edge(one.b, one.resistance_ohm, one.name))
            self.near[one.b].append(Edge(one.a, one.resistance_ohm, one.name))
        for part in design.of_type(Isolator):
            for start, end in part.ways():
                a, b = self.net.node(f"{part.id}.{start}"), self.net.node(f"{part.id}.{end}")
                self.near[a].append(Edge(b, 0.0, f"{part.id}.{end}"))

    def _reached(self, start: int) -> dict[int, Reached[int]]:
        if start not in self.reached:
            self.reached[start] = least_paths(start, lambda node: self.near[node])
        return self.reached[start]

    def steps(self, start: str, end: str, side: Literal["out", "back"]) -> list[PathStep] | None:
        """The way as steps with their amps and volts."""
        a, b = self.net.node(start), self.net.node(end)
        # Both ways are looked for from the giver, of whom there are few.
        way = path_to(b, self._reached(a)) if side == "out" else path_to(a, self._reached(b))
        if way is None:
            return None
        if side == "back":
            way = [(near, far, name) for far, near, name in reversed(way)]
        found = []
        for a, b, name in way:
            cable = self.design.cables_by_id.get(name)
            part = self.design.by_id.get(PostRef(name).part)
            drop_v = self.volts.get(a, 0.0) - self.volts.get(b, 0.0)
            amps = abs(self.point.conductor_a.get(name, 0.0))
            found.append(
                PathStep(
                    name=self.design.cable_name(cable) if cable else str(part and part.name),
                    cable=cable.id if cable else None,
                    parts=(cable.start.part, cable.end.part) if cable else (PostRef(name).part,),
                    side=side,
                    current_a=amps if drop_v >= 0 else -amps,
                    drop_v=drop_v,
                    length_m=cable.length_m if cable else 0.0,
                )
            )
        return found


def _path(
    at: _Map,
    load_case: LoadCase,
    kind: PathKind,
    ends: tuple[str, str, str, str],
    limit: tuple[float, str] | None,
) -> Path | None:
    """A path; ``ends``: posts of the giver and the taker, plus and minus of each."""
    design = at.design
    plus, minus, to_plus, to_minus = ends
    out, back = at.steps(plus, to_plus, "out"), at.steps(to_minus, minus, "back")
    if out is None or back is None:
        return None
    steps = (*out, *back)
    giver, taker = PostRef(plus).part, PostRef(to_plus).part
    nominal_v = design.nominal_v(design.by_id[taker])
    drop_v = sum(s.drop_v for s in steps)
    if limit is None:
        limit_v, why = CRANKING_DROP_V * nominal_v / 12, "cranking, trade practice"
        percent = 100 * limit_v / nominal_v
    else:
        percent, why = limit
        limit_v = percent / 100 * nominal_v
    volts = at.volts.get(at.net.node(to_plus), 0.0) - at.volts.get(at.net.node(to_minus), 0.0)
    typed = [design.cables_by_id[s.cable] for s in steps if s.cable]
    own = [c.drop_percent for c in typed if c.drop_percent is not None]
    if own and kind != "cranking":
        percent, why = min(own), "typed in"
        limit_v = percent / 100 * nominal_v
    return Path(
        id=f"{kind} {giver} {taker}" if kind == "charge" else f"{kind} {taker}",
        kind=kind,
        giver=giver,
        taker=taker,
        name=f"{design.by_id[giver].name} to {design.by_id[taker].name}",
        state=load_case.words,
        steps=steps,
        nominal_v=nominal_v,
        drop_v=drop_v,
        drop_percent=100 * drop_v / nominal_v,
        limit_v=limit_v,
        limit_percent=percent,
        why=why,
        length_m=sum(s.length_m for s in steps),
        at_end_v=volts,
        current_a=abs(steps[-1].current_a) if steps else 0.0,
        kept=drop_v <= limit_v + SPARE_V,
    )


def _supply(design: Design, load_case: LoadCase) -> list[Path]:
    found, at = [], _Map(design, load_case)
    for part in design.components:
        if not isinstance(part, LoadGroup | FittedInverter):
            continue
        now = load_case.point.loads.get(part.id)
        if now is None or not now.given_by_a or now.current_a < 0.05:
            continue
        bank = max(now.given_by_a, key=lambda b: now.given_by_a[b])
        if not isinstance(design.by_id[bank], Bank):
            continue
        items = part.items if isinstance(part, LoadGroup) else ()  # an inverter is a main feeder
        limit = allowed_percent(items)
        ends = (f"{bank}.pos", f"{bank}.neg", f"{part.id}.pos", f"{part.id}.neg")
        path = _path(at, load_case, "supply", ends, limit)
        if path is not None:
            found.append(path)
    return found


def _charge(design: Design, load_case: LoadCase) -> list[Path]:
    found, at = list[Path](), _Map(design, load_case)
    limit = (FEEDER_PERCENT, "a charging circuit")
    for source in design.sources:
        for bank, now in load_case.point.banks.items():
            if now.given_by_a.get(source.id, 0.0) < LEAST_CHARGE_A:
                continue
            ways = [
                _path(
                    at,
                    load_case,
                    "charge",
                    (f"{source.id}.{out}", f"{source.id}.neg", f"{bank}.pos", f"{bank}.neg"),
                    limit,
                )
                for out in source.charging_posts()
            ]
            found += sorted((w for w in ways if w), key=lambda w: w.drop_v)[:1]
    for part in design.of_type(DcDc):
        running = load_case.point.converters[part.id]
        fed = bank_at(design, f"{part.id}.in")
        if fed is not None and running.closed and running.in_a >= LEAST_CHARGE_A:
            ends = (f"{fed.id}.pos", f"{fed.id}.neg", f"{part.id}.in", f"{part.id}.neg")
            way = _path(at, load_case, "charge", ends, limit)
            found += [way] if way else []
    return found


def _cranking(design: Design, load_case: LoadCase) -> list[Path]:
    found, at = list[Path](), _Map(design, load_case)
    for starter in design.of_type(Starter):
        now = load_case.point.starters.get(starter.id)
        if now is None or now.current_a < 1 or now.volts_v is None:
            continue
        ways = [
            path
            for bank, state in load_case.point.banks.items()
            if state.current_a < -1
            and (
                path := _path(
                    at,
                    load_case,
                    "cranking",
                    (f"{bank}.pos", f"{bank}.neg", f"{starter.id}.pos", f"{starter.id}.neg"),
                    None,
                )
            )
        ]
        most = max(ways, key=lambda w: w.current_a, default=None)
        # Where several banks give their share, the path still has to serve all of it.
        found += [replace(most, current_a=now.current_a)] if most else []
    return found
