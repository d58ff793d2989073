"""From a design and a state to conductors between nodes: cables, contacts, fuses, shunts."""

from __future__ import annotations

import math
from collections.abc import Iterable, Mapping
from dataclasses import dataclass, replace
from functools import lru_cache

from strom_engine.circuit.constants import CONTACT_DROP_V
from strom_engine.design import (
    Alternator,
    Bank,
    Breaker,
    BusBar,
    Cable,
    Component,
    DcDc,
    Design,
    DualSwitch,
    Fuse,
    FuseBlock,
    Isolator,
    OneWayCombiner,
    OnOffSwitch,
    Protection,
    Relay,
    Selector,
    Shunt,
)
from strom_engine.interruption import may_stop
from strom_engine.reference import resistivity_ohm_mm2_per_m

__all__ = [
    "AddedOhm",
    "Conductor",
    "Network",
    "Nodes",
    "Passage",
    "cable_resistance_ohm",
    "excited",
    "network",
    "nodes_of",
    "passages",
    "powered_islands",
]

SELECTOR_CONTACTS = {"off": (), "1": ("one",), "2": ("two",), "both": ("one", "two")}
AddedOhm = tuple[tuple[str, float], ...]
DUAL_CONTACTS: dict[str, tuple[tuple[str, str], ...]] = {
    "off": (),
    "on": (("house_in", "house_out"), ("engine_in", "engine_out")),
    "combine": (
        ("house_in", "house_out"),
        ("engine_in", "engine_out"),
        ("house_out", "engine_out"),
    ),
}


@dataclass(frozen=True)
class Conductor:
    """Metal between two nodes [ohm]; ``name`` is the cable or part it belongs to."""

    name: str
    a: int
    b: int
    resistance_ohm: float


@dataclass(frozen=True)
class Nodes:
    """Node number of every post; the studs of a bus bar share one."""

    of_post: Mapping[str, int]
    count: int


@dataclass(frozen=True, eq=False)
class Network:
    """The metal of one state: its nodes, its conductors, and which node hangs together.

    ``moved`` names the parts that stand otherwise than at rest: relays closed, dc-dc chargers
    and one-way combiners running, protections tripped, held switches dropped out, inverters
    cut out.
    """

    nodes: Nodes
    conductors: tuple[Conductor, ...]
    group_of_node: tuple[int, ...]
    moved: frozenset[str] = frozenset()

    def node(self, ref: str) -> int:
        """Node of a post."""
        return self.nodes.of_post[ref]

    def group(self, ref: str) -> int:
        """Number of the piece of joined metal that a post is on."""
        return self.group_of_node[self.nodes.of_post[ref]]


def cable_resistance_ohm(design: Design, cable: Cable) -> float:
    """Resistance of a cable [ohm] at the design's conductor temperature, with both terminations.

    ``R = rho(T) L / A + 2 R_termination``. Source: IEC 60028 for rho; terminations 0.1 to
    0.3 mohm each as commonly published.
    """
    return wire_ohm(cable, design.conductor_temperature_c, design.termination_mohm)


def wire_ohm(cable: Cable, temperature_c: float, termination_mohm: float) -> float:
    """Resistance of a cable [ohm] at a conductor temperature [degC], with both terminations.

    Args:
        cable: its length and copper.
        temperature_c: of the copper [degC].
        termination_mohm: of each end [mohm].
    """
    rho = resistivity_ohm_mm2_per_m(temperature_c)
    return rho * cable.length_m / cable.area_mm2 + 2 * termination_mohm / 1000


@lru_cache(maxsize=64)
def nodes_of(design: Design) -> Nodes:
    """Node numbering of a design."""
    of_post: dict[str, int] = {}
    count = 0
    for part in design.components:
        for post in part.posts():
            of_post[f"{part.id}.{post}"] = count
            count += not isinstance(part, BusBar)
        count += isinstance(part, BusBar)
    return Nodes(of_post, count)


def network(
    design: Design,
    positions: Mapping[str, str],
    moved: frozenset[str],
    added: AddedOhm = (),
) -> Network:
    """The metal of a design with its switches and what moves by itself as given.

    ``added`` is resistance [ohm] beyond its own, by conductor; infinite where that is open.
    Remembers the latest ones.
    """
    return _network(design, tuple(sorted(positions.items())), moved, added)


@lru_cache(maxsize=512)
def _network(
    design: Design,
    positions: tuple[tuple[str, str], ...],
    moved: frozenset[str],
    added: AddedOhm,
) -> Network:
    may_stop()
    nodes = nodes_of(design)
    conductors: tuple[Conductor, ...] = (
        *_cable_conductors(design),
        *_contacts(design, nodes, dict(positions), moved),
    )
    if added:
        more = dict(added)
        raised = (
            replace(c, resistance_ohm=c.resistance_ohm + more.get(c.name, 0.0)) for c in conductors
        )
        conductors = tuple(c for c in raised if math.isfinite(c.resistance_ohm))
    groups = _groups(nodes.count, ((c.a, c.b) for c in conductors))
    return Network(nodes, conductors, groups, moved)


@lru_cache(maxsize=64)
def _cable_conductors(design: Design) -> tuple[Conductor, ...]:
    nodes = nodes_of(design)
    return tuple(
        Conductor(
            cable.id,
            nodes.of_post[cable.start],
            nodes.of_post[cable.end],
            cable_resistance_ohm(design, cable),
        )
        for cable in design.cables
    )


def _contacts(
    design: Design, nodes: Nodes, positions: Mapping[str, str], moved: frozenset[str]
) -> Iterable[Conductor]:
    for part in design.components:
        for a, b, ohm in _joined(part, positions.get(part.id, ""), part.id in moved):
            yield Conductor(
                f"{part.id}.{a}",
                nodes.of_post[f"{part.id}.{a}"],
                nodes.of_post[f"{part.id}.{b}"],
                ohm,
            )


def _joined(part: Component, position: str, moved: bool) -> Iterable[tuple[str, str, float]]:
    if isinstance(part, OnOffSwitch | DualSwitch) and part.moves_itself and moved:
        return []  # its coil has let go
    match part:
        case Selector():
            ohm = CONTACT_DROP_V / part.rating_a
            return [(post, "common", ohm) for post in SELECTOR_CONTACTS[position]]
        case DualSwitch():
            ohm = CONTACT_DROP_V / part.rating_a
            return [(a, b, ohm) for a, b in DUAL_CONTACTS[position]]
        case OnOffSwitch() | Breaker():
            return [("a", "b", CONTACT_DROP_V / part.rating_a)] if position == "on" else []
        case Relay():
            return [("a", "b", CONTACT_DROP_V / part.rating_a)] if moved else []
        case Protection():
            return [] if moved else [("bank", "system", CONTACT_DROP_V / part.rating_a)]
        case Fuse():
            return [("a", "b", CONTACT_DROP_V / part.rating_a)]
        case FuseBlock():
            return [
                (f"b{n}", "in", CONTACT_DROP_V / rating_a)
                for n, rating_a in enumerate(part.branch_a, start=1)
            ]
        case Shunt():
            return [("bank", "system", part.rating_mv / 1000 / part.rating_a)]
        case _:
            return []


def _groups(count: int, joins: Iterable[tuple[int, int]]) -> tuple[int, ...]:
    parent = list(range(count))

    def root(i: int) -> int:
        while parent[i] != i:
            parent[i] = parent[parent[i]]
            i = parent[i]
        return i

    for a, b in joins:
        parent[root(a)] = root(b)
    return tuple(root(i) for i in range(count))


def powered_islands(design: Design, net: Network) -> dict[int, int]:
    """Pieces of metal that a bank gives a voltage: piece -> island, islands numbered by a piece.

    The input side of an isolator hangs on what its outputs hang on: what flows in must pass it.
    """
    banks = [(net.group(f"{b.id}.pos"), net.group(f"{b.id}.neg")) for b in design.of_type(Bank)]
    merged = _groups(net.nodes.count, banks)
    islands = {group: merged[group] for pair in banks for group in pair}
    choices: dict[int, list[int]] = {}
    for before, after in _isolated(design, net):
        if after in islands and before not in islands:
            choices.setdefault(before, []).append(islands[after])
    for before, choice in choices.items():
        # Where a bank's minus is loose the outputs differ: the one with a way back counts.
        returns = _returns(design, net, before)
        closing = [at for at in choice if any(islands.get(group) == at for group in returns)]
        islands[before] = (closing or choice)[0]
    return islands


def _returns(design: Design, net: Network, piece: int) -> set[int]:
    """Pieces of metal on the minus posts of whatever has another post on a piece."""
    return {
        net.group(f"{part.id}.neg")
        for part in design.components
        if "neg" in part.posts()
        and any(net.group(f"{part.id}.{post}") == piece for post in part.posts())
    }


@dataclass(frozen=True)
class Passage:
    """A one-way passage between pieces of metal; ``returns`` are those of its negative posts.

    ``returns`` is None for a part that current only passes through.
    """

    start: int
    end: int
    returns: tuple[int, int] | None = None


def passages(design: Design, net: Network) -> tuple[Passage, ...]:
    """One-way passages: through isolators, and through what charges one bank from another."""
    running = (p for p in design.components if isinstance(p, DcDc | OneWayCombiner))
    return (
        *(Passage(*pair) for pair in _isolated(design, net)),
        *(
            Passage(
                net.group(f"{part.id}.in"),
                net.group(f"{part.id}.out"),
                (net.group(f"{part.id}.neg"), net.group(f"{part.id}.{part.out_neg}"))
                if isinstance(part, DcDc)
                else None,
            )
            for part in running
            if part.id in net.moved
        ),
    )


def _isolated(design: Design, net: Network) -> tuple[tuple[int, int], ...]:
    return tuple(
        (net.group(f"{part.id}.{start}"), net.group(f"{part.id}.{end}"))
        for part in design.of_type(Isolator)
        for start, end in part.ways()
    )


def excited(design: Design, net: Network, part: Alternator) -> bool:
    """Whether an alternator that starts on a bank's voltage finds one.

    At its output, or through the excitation post of an isolator in front of it.
    """
    if part.excitation != "output":
        return True
    powered = {net.group(f"{bank.id}.pos") for bank in design.of_type(Bank)}
    out = net.group(f"{part.id}.out")
    return out in powered or any(
        isolator.excitation_post
        and net.group(f"{isolator.id}.excite") in powered
        and out in {net.group(f"{isolator.id}.{start}") for start, _ in isolator.ways()}
        for isolator in design.of_type(Isolator)
    )
