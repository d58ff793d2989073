"""Rules about combining relays: CH-4, CH-16."""

from __future__ import annotations

from collections.abc import Iterator, Mapping
from typing import Literal

from strom_engine.circuit.network import Network
from strom_engine.design import (
    Relay,
    SetRelaySensing,
    Source,
    default_positions,
)
from strom_engine.design.state import control_switches
from strom_engine.rules.context import Context, Situation
from strom_engine.rules.finding import CONFIRM, Figure, Finding, Rule

__all__ = ["RULES", "relay_negative", "sensing_side"]

OPEN = frozenset[str]()

CH4 = Rule(
    "CH-4",
    "A relay that watches one side watches the side where the sources land",
    "Which sources reach each side of every single-sensing relay while it is open.",
    f"Makers' manuals of combining relays as commonly published; {CONFIRM}",
)

CH16 = Rule(
    "CH-16",
    "A relay has its negative wire",
    "Whether the thin negative of every relay leads to a bank, through its own small switch too.",
    f"Makers' manuals of combining relays as commonly published; {CONFIRM}",
)


def sensing_side(context: Context) -> Iterator[Finding]:
    """CH-4: single sensing on the wrong side."""
    for relay in context.design.of_type(Relay):
        if relay.sensing == "dual":
            continue
        other: Literal["a", "b"] = "b" if relay.sensing == "a" else "a"
        blind = [
            (positions, sorted(unseen))
            for positions in context.combinations
            if (unseen := _sources_at(context, relay, other, positions))
            and not _sources_at(context, relay, relay.sensing, positions)
        ]
        if blind:
            yield _sensing_finding(context, relay, other, blind)


def _sources_at(context: Context, relay: Relay, post: str, positions: dict[str, str]) -> set[str]:
    """Sources that land on a side of a relay with the switches so and all relays open."""
    net = context.network(Situation(positions, OPEN))
    return {s.id for s in context.sources if _lands(net, s, f"{relay.id}.{post}")}


def _lands(net: Network, source: Source, ref: str) -> bool:
    return any(
        net.group(f"{source.id}.{post}") == net.group(ref) for post in source.charging_posts()
    )


def _sensing_finding(
    context: Context,
    relay: Relay,
    other: Literal["a", "b"],
    blind: list[tuple[dict[str, str], list[str]]],
) -> Finding:
    drawn = default_positions(context.design)
    positions, unseen = next((b for b in blind if b[0] == drawn), blind[0])
    point = context.point(engine="on", rpm=2000.0, shore=True, sun=0.6, positions=positions)
    sees_v, other_v = (
        _against_negative(point.post_v, relay, post) for post in (relay.sensing, other)
    )
    wrong = positions == drawn or len(blind) == len(context.combinations)
    return Finding(
        rule=CH4.id,
        severity="fault" if wrong else "caution",
        title=(
            f"{relay.name} watches the side where nothing charges"
            if wrong
            else f"{relay.name} does not see {context.names(unseen)} in every position"
        ),
        arithmetic=(
            f"{context.positions_words(positions)}, relay open: sources that reach the watched "
            f"side {relay.sensing}: 0; side {other}: {context.names(unseen)}.",
            f"All sources on, engine at 2000 rpm: side {relay.sensing} {sees_v:.2f} V, "
            f"side {other} {other_v:.2f} V, cut-in {relay.cut_in_v:g} V.",
            f"Positions in which it is blind: {len(blind)} of {len(context.combinations)}.",
        ),
        figures=(
            Figure("Watched side", sees_v, "V"),
            Figure("Other side", other_v, "V"),
            Figure("Cut-in", relay.cut_in_v, "V"),
        ),
        limit=f"the watched side reaches {relay.cut_in_v:g} V from every source",
        source=CH4.source,
        why="It never closes there, and the other bank is never charged.",
        repair=f"Turn {relay.name} round so that it watches the other side."
        if wrong
        else f"Set {relay.name} to watch both sides.",
        parts=(relay.id, *unseen),
        change=SetRelaySensing(relay=relay.id, sensing=other if wrong else "dual"),
    )


def _against_negative(post_v: Mapping[str, float | None], relay: Relay, post: str) -> float:
    plus, minus = post_v[f"{relay.id}.{post}"], post_v[f"{relay.id}.neg"]
    return 0.0 if plus is None or minus is None else plus - minus


def relay_negative(context: Context) -> Iterator[Finding]:
    """CH-16: a relay whose negative wire leads to no bank measures nothing and never closes."""
    for relay in context.design.of_type(Relay):
        if _grounded(context, relay, context.drawn):
            continue
        control = dict.fromkeys(control_switches(context.design), "on")
        if _grounded(context, relay, context.drawn | control):
            yield _disabled(context, relay, sorted(control))
        else:
            yield Finding(
                rule=CH16.id,
                severity="fault",
                title=f"{relay.name} has no negative",
                arithmetic=("Banks whose negative its thin wire leads to: 0.",),
                figures=(Figure("Banks reached", 0.0, ""),),
                limit="1 bank at least",
                source=CH16.source,
                why="Without its reference it never closes.",
                repair="Lead its negative wire, with its own small fuse, to the common negative.",
                parts=(relay.id,),
            )


def _grounded(context: Context, relay: Relay, positions: dict[str, str]) -> bool:
    net = context.network(Situation(positions, OPEN))
    return any(net.group(f"{b.id}.neg") == net.group(f"{relay.id}.neg") for b in context.banks)


def _disabled(context: Context, relay: Relay, control: list[str]) -> Finding:
    off = [name for name in control if context.drawn[name] == "off"]
    return Finding(
        rule=CH16.id,
        severity="caution",
        title=f"{relay.name} is disabled: {context.names(off)} is off",
        arithmetic=(f"Its negative leads through {context.names(off)}, drawn off.",),
        figures=(Figure("Banks reached as drawn", 0.0, ""),),
        limit="on, except for work on the banks",
        source=CH16.source,
        why="Without its reference it never closes, and the second bank is not charged.",
        repair=f"Turn {context.names(off)} on when the work is done.",
        parts=(relay.id, *off),
    )


RULES = (
    (CH4, sensing_side),
    (CH16, relay_negative),
)
