"""Rules about alternators cut off from their bank: SW-4."""

from __future__ import annotations

from collections.abc import Iterator
from itertools import pairwise

from strom_engine.circuit.constants import CRUISE_RPM
from strom_engine.design import (
    Alternator,
    Selector,
    SetFieldContact,
    Switch,
    switch_positions,
)
from strom_engine.rules.context import Context, Situation
from strom_engine.rules.finding import CONFIRM, Figure, Finding, Rule

__all__ = ["RULES", "loose_alternator"]

OPEN = frozenset[str]()
HALF_CHARGED = f"banks half charged, engine at {CRUISE_RPM:.0f} rpm"

SW4 = Rule(
    "SW-4",
    "No turn of a switch leaves a running alternator without a bank",
    "Every position and every move of every switch, with the engine running.",
    f"Load dump of an alternator cut off from its battery: ISO 16750-2 (transients); "
    f"makers' manuals of switches and alternators; {CONFIRM}",
)


def loose_alternator(context: Context) -> Iterator[Finding]:
    """SW-4: a position or a move that leaves a running alternator without a bank."""
    for alternator in context.design.of_type(Alternator):
        for switch in context.switches:
            moves = list(_cutting_moves(context, alternator, switch))
            if moves:
                yield _cut_finding(context, alternator, switch, moves)
            if isinstance(switch, Selector):
                yield from _break_finding(context, alternator, switch)


def _loose(context: Context, alternator: Alternator, positions: dict[str, str]) -> bool:
    # By the graph, no relay closed: the field contact has already been thought of there.
    return alternator.id in context.reach(Situation(positions, OPEN), engine="on").loose_sources


def _cutting_moves(
    context: Context, alternator: Alternator, switch: Switch
) -> Iterator[tuple[str, str, dict[str, str]]]:
    """Moves to a next position that cut the alternator off: from, to, the other switches."""
    order = switch_positions(switch)
    neighbours = [*pairwise(order), (order[-1], order[0])]
    steps = neighbours + [(b, a) for a, b in neighbours]
    for positions in context.combinations:
        for here, there in dict.fromkeys(steps):
            if positions[switch.id] != here or _loose(context, alternator, positions):
                continue
            charges = context.reach(Situation(positions, OPEN), engine="on").charges[alternator.id]
            if charges and _loose(context, alternator, positions | {switch.id: there}):
                yield here, there, positions


def _cut_finding(
    context: Context,
    alternator: Alternator,
    switch: Switch,
    moves: list[tuple[str, str, dict[str, str]]],
) -> Finding:
    here, there, positions = _plainest(context, moves)
    point = context.half_full(engine="on", rpm=CRUISE_RPM, positions=positions)
    now = point.sources[alternator.id]
    into = context.reach(Situation(positions, OPEN), engine="on").charges[alternator.id]
    selector = isinstance(switch, Selector) and switch.field_contact_of is None and there == "off"
    return Finding(
        rule=SW4.id,
        severity="danger",
        title=f"{switch.name} to {there} cuts the running alternator off",
        arithmetic=(
            f"{context.positions_words(positions)}, {HALF_CHARGED}: "
            f"{alternator.name} gives {now.current_a:.1f} A at {now.volts_v or 0:.2f} V "
            f"into {context.names(into)}.",
            f"Turned from {here} to {there}: no closed path from {alternator.name} to any bank; "
            f"{now.current_a:.1f} A have nowhere to go.",
            f"Such moves found over all positions: {len(moves)}.",
        ),
        figures=(
            Figure("Current cut off", now.current_a, "A"),
            Figure("Moves that cut it off", float(len(moves)), ""),
        ),
        limit="0 moves may do this",
        source=SW4.source,
        why="Its voltage jumps within milliseconds and kills its diodes and the electronics.",
        repair=(
            f"Lead the field of {alternator.name} through a field contact of {switch.name}, "
            "so that it shuts down first."
            if selector
            else f"Bring {alternator.name} to a bank ahead of {switch.name}."
        ),
        parts=(switch.id, alternator.id),
        change=SetFieldContact(selector=switch.id, alternator=alternator.id) if selector else None,
    )


def _plainest(
    context: Context, moves: list[tuple[str, str, dict[str, str]]]
) -> tuple[str, str, dict[str, str]]:
    """The move with the fewest switches away from where they stand as drawn."""
    drawn = {s.id: s.position for s in context.switches}
    return min(moves, key=lambda m: sum(m[2][s] != p for s, p in drawn.items()))


def _break_finding(context: Context, alternator: Alternator, switch: Selector) -> Iterator[Finding]:
    """Between two good positions a selector must not open the circuit on its way."""
    if switch.make_before_break:
        return
    # Whether this selector alone holds the alternator to a bank, its field contact left aside:
    # that acts in off only, not between 1 and both.
    held = next(
        (
            p
            for p in context.combinations
            if p[switch.id] == "1"
            and _charges(context, alternator, p)
            and _charges(context, alternator, p | {switch.id: "both"})
            and not _charges(context, alternator, p | {switch.id: "off"})
        ),
        None,
    )
    if held is None:
        return
    point = context.half_full(engine="on", rpm=CRUISE_RPM, positions=held)
    amps = point.sources[alternator.id].current_a
    unknown = switch.make_before_break is None
    yield Finding(
        rule=SW4.id,
        severity="cannot_tell" if unknown else "danger",
        title=(
            f"Does {switch.name} make before it breaks?"
            if unknown
            else f"{switch.name} opens the alternator's circuit between 1 and both"
        ),
        arithmetic=(
            f"From 1 to both, {HALF_CHARGED}: {amps:.1f} A would be cut for the moment in which "
            "neither contact is closed.",
        ),
        figures=(Figure("Current at stake", amps, "A"),),
        limit="0 A may be cut off",
        source=SW4.source,
        why="A running alternator that loses its battery even for milliseconds is damaged.",
        repair=f"Turn {switch.name} only with the engine stopped, or fit one that makes before it "
        "breaks.",
        parts=(switch.id, alternator.id),
        missing=(
            "Ohmmeter from common to 1 while turning from 1 to both, switch out of circuit: "
            "a reading that never opens means make-before-break. Enter it at the switch."
            if unknown
            else None
        ),
    )


def _charges(context: Context, alternator: Alternator, positions: dict[str, str]) -> bool:
    return bool(context.reach(Situation(positions, OPEN), engine="on").charges[alternator.id])


RULES = ((SW4, loose_alternator),)
