"""The position card: every position of every switch, engine off and on, and what it means."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass
from itertools import product
from typing import Literal

from strom_engine.circuit.bench import BenchResult, bench
from strom_engine.circuit.live_metal import CONTROL_POSTS
from strom_engine.circuit.network import network
from strom_engine.design import Alternator, Bank, Design, Protection, State, Switch, check_state
from strom_engine.design.parts import KINDS
from strom_engine.design.state import battery_switches, switch_positions, switches
from strom_engine.reference import chemistry

__all__ = [
    "Danger",
    "PositionCard",
    "PositionRow",
    "joined_posts",
    "position_card",
    "unlike_sets",
]

MAX_ROWS = 256


@dataclass(frozen=True)
class Danger:
    """Something that can hurt: its kind, the parts, and words for it."""

    kind: Literal["alternator_cut_off", "unlike_joined", "relay_chatters", "protection_open"]
    parts: tuple[str, ...]
    words: str


@dataclass(frozen=True)
class PositionRow:
    """One combination of positions with the engine off or on.

    ``joined`` are the posts that each turned switch joins, as an ohmmeter shows with cables off.
    """

    positions: dict[str, str]
    engine: Literal["off", "on"]
    fed_by: dict[str, tuple[str, ...]]
    charged_by: dict[str, tuple[str, ...]]
    charging_a: dict[str, float]
    dead: tuple[str, ...]
    dangers: tuple[Danger, ...]
    joined: dict[str, tuple[tuple[str, ...], ...]]


@dataclass(frozen=True)
class PositionCard:
    """All rows; ``fixed`` are switches left where they stand because the card grew too long."""

    switches: tuple[str, ...]
    fixed: tuple[str, ...]
    rows: tuple[PositionRow, ...]


def position_card(design: Design, state: State) -> PositionCard:
    """Turn every switch through every position, engine off and on, all else as in the state.

    Args:
        design: the boat, as surveyed.
        state: shore, sun, charge of banks [0 to 1] and what runs, the same in every row.

    Returns:
        A row for every combination, with what feeds and charges what and what is dangerous.
        Breakers,
        inverters and control switches stay as they stand; switches beyond 256 rows are named in
        ``fixed``.

    Raises:
        StateError: the state names what is not there.

    >>> from strom_engine.survey import new_boat
    >>> _, design = new_boat("cruising_yacht", "selector")
    >>> len(position_card(design, State()).rows)
    8
    """
    state = check_state(design, state)
    turned, fixed = _turned(design)
    rows = [
        _row(design, state, combination, engine)
        for combination in _combinations(turned)
        for engine in ("off", "on")
    ]
    return PositionCard(tuple(s.id for s in turned), tuple(s.id for s in fixed), tuple(rows))


def _turned(design: Design) -> tuple[list[Switch], list[Switch]]:
    turned: list[Switch] = []
    fixed: list[Switch] = []
    rows = 2
    # The switches that choose a bank come first: their rows stay together on the card.
    chosen = {s.id for s in battery_switches(design)}
    order = list(KINDS)
    for switch in sorted(switches(design), key=lambda s: order.index(s.kind)):
        more = len(switch_positions(switch))
        if switch.id not in chosen or rows * more > MAX_ROWS:
            fixed.append(switch)
        else:
            turned.append(switch)
            rows *= more
    return turned, fixed


def _combinations(turned: list[Switch]) -> Iterable[dict[str, str]]:
    names = [s.id for s in turned]
    for chosen in product(*(switch_positions(s) for s in turned)):
        yield dict(zip(names, chosen, strict=True))


def _row(
    design: Design, state: State, combination: dict[str, str], engine: Literal["off", "on"]
) -> PositionRow:
    now = state.model_copy(
        update={
            "engine": engine,
            "cranking": False,
            "positions": state.positions | combination,
            "previous_states": {},
        }
    )
    result = bench(design, now)
    charged: dict[str, tuple[str, ...]] = {}
    for bank in result.point.banks:
        charged[bank] = tuple(
            source
            for source, cells in result.sources_by_bank.items()
            if cells[bank].joined and result.point.sources[source].mode not in ("idle", "loose")
        )
    return PositionRow(
        positions=combination,
        engine=engine,
        fed_by=result.reach.fed_by,
        charged_by=charged,
        charging_a={name: b.current_a for name, b in result.point.banks.items()},
        dead=result.reach.dead_loads,
        dangers=tuple(_dangers(design, result)),
        joined={name: joined_posts(design, name, at) for name, at in combination.items()},
    )


def joined_posts(design: Design, switch: str, position: str) -> tuple[tuple[str, ...], ...]:
    """Sets of posts that a switch joins in a position."""
    part = design.by_id[switch]
    alone = network(
        design.replace_unchecked(components=(part,), cables=()), {switch: position}, frozenset()
    )
    groups: dict[int, list[str]] = {}
    for post in part.posts():
        if post not in CONTROL_POSTS:
            groups.setdefault(alone.group(f"{switch}.{post}"), []).append(post)
    return tuple(tuple(posts) for posts in groups.values() if len(posts) > 1)


def _dangers(design: Design, result: BenchResult) -> Iterable[Danger]:
    for name in result.point.loose_sources:
        part = design.by_id[name]
        if isinstance(part, Alternator):
            words = f"{part.name} runs with no bank on it: its voltage jumps"
            yield Danger("alternator_cut_off", (name,), words)
    for joined in unlike_sets(design, result.reach.joined_banks):
        names = " and ".join(design.by_id[b].name for b in joined)
        yield Danger("unlike_joined", joined, f"{names} are joined though their chemistries differ")
    for name, now in result.point.verdicts().items():
        part = design.by_id[name]
        if now.verdict == "chatters":
            words = f"{part.name} closes and opens again and again"
            yield Danger("relay_chatters", (name,), words)
        elif isinstance(part, Protection) and not now.closed:
            words = f"{part.name} opens: {now.why}"
            yield Danger("protection_open", (name,), words)


def unlike_sets(design: Design, joined: tuple[tuple[str, ...], ...]) -> tuple[tuple[str, ...], ...]:
    """Of the sets of joined banks those that mix lead and lithium."""
    families = {b.id: chemistry(b.chemistry).family for b in design.of_type(Bank)}
    return tuple(ids for ids in joined if len({families[b] for b in ids}) > 1)
