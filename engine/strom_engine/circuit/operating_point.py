"""The operating point with everything that moves by itself where its own verdict puts it."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import replace
from typing import cast

from strom_engine.circuit.assembling import assemble
from strom_engine.circuit.automatics import Judgement, judge
from strom_engine.circuit.results import ContactNow, ConverterNow, OperatingPoint, RelayNow
from strom_engine.circuit.solved import Solved, solve_state
from strom_engine.design import Automatic, Design, State, check_state
from strom_engine.errors import computing
from strom_engine.faults import Effects, Fault, effects_of
from strom_engine.interruption import may_stop

__all__ = ["operating_point"]

Judgements = dict[str, Judgement]


def operating_point(design: Design, state: State, *faults: Fault) -> OperatingPoint:
    """Solve a state, everything that moves by itself standing where its own verdict puts it.

    A relay whose volts lie between cut-out and cut-in stays as ``state.previous_states`` says, open
    when
    that says nothing. One that chatters is shown at rest, with both readings; so are all of those
    that
    drive each other round, each moving by what the others did.

    Args:
        design: the boat, as surveyed where the survey's lengths and loads are to count.
        state: what runs, where switches stand, charge of banks [0 to 1]; what it does not name is
            as drawn.
        faults: what has failed; the boat has all of them, machines that fade being warm.

    Returns:
        Every post's volts [V], every conductor's amps [A], banks, sources, loads, what moved and
        why.
        Quasi-static DC: no transients, conductors at the design's temperature, 6 to 60 V.

    Raises:
        StateError: the state names what is not there.
        FaultError: the design cannot have such a fault.
        NotSettledError: the circuit finds no rest; it names the parts.
        ComputationError: there is no solution in numbers.

    Source: nodal analysis (Ho, Ruehli and Brennan 1975) with the sources named beside each element.

    >>> from strom_engine.survey import new_boat
    >>> survey, design = new_boat("cruising_yacht", "selector")
    >>> point = operating_point(design, State(engine="on", positions={"selector": "both"}))
    >>> point.sources["alternator"].mode, round(point.banks["house_bank"].volts_v, 1)
    ('limit', 13.8)
    """
    state = check_state(design, state)
    effects = effects_of(design, *faults) if faults else None
    may_stop()
    with computing("the operating point"):
        return _found(effects.at_work() if effects else design, state, effects)


def _found(design: Design, state: State, effects: Effects | None) -> OperatingPoint:
    stuck = effects.stuck if effects else {}
    parts = [cast(Automatic, p) for p in design.components if p.moves_itself]
    restless: frozenset[str] = frozenset()
    moved = frozenset(p.id for p in parts if stuck.get(p.id, _starts_moved(p, state)))
    solve_with = _remembering(design, state, effects)
    before: list[frozenset[str]] = []
    while True:
        found: Judgements = {p.id: judge(solve_with, p, moved) for p in parts}
        found |= {name: _stuck(found[name], moved=at) for name, at in stuck.items()}
        wanted = frozenset(name for name, one in found.items() if one.moved) - restless
        if wanted == moved:
            return _at_rest(design, solve_with(moved), found, restless)
        if moved in before:
            # Round once: what changed on the way never rests. Left at rest, the others find theirs.
            ring = before[before.index(moved) :]
            moving = frozenset.union(*ring) - frozenset.intersection(*ring)
            restless, moved, before = restless | moving, moved - moving, []
            continue
        before.append(moved)
        # One at a time, in document order, so that two do not swap for ever.
        first = next(p.id for p in parts if (p.id in wanted) != (p.id in moved))
        moved = moved ^ {first}


def _starts_moved(part: Automatic, state: State) -> bool:
    """Where a part is thought to stand before it is judged: as it was, else at rest."""
    was = state.previous_states.get(part.id)
    if part.facts.open_at_rest:
        return was == "closed"
    return was == "open"


def _at_rest(
    design: Design, solved: Solved, found: Judgements, restless: frozenset[str]
) -> OperatingPoint:
    relays, converters, contacts = {}, {}, {}
    ring = " and ".join(design.by_id[n].name for n in sorted(restless))
    for name, one in found.items():
        if name in restless:
            one = _restless(one, f"{ring} drive each other round: {one.why}")
        match one:
            case RelayNow():
                relays[name] = one
            case ConverterNow():
                converters[name] = one
            case ContactNow():
                contacts[name] = one
    point = assemble(solved)
    return replace(point, relays=relays, converters=converters, contacts=contacts)


def _restless(one: Judgement, why: str) -> Judgement:
    match one:
        case RelayNow():
            return replace(one, verdict="chatters", closed=False, holds=False, why=why)
        case ConverterNow():
            return replace(
                one, verdict="chatters", closed=False, in_a=0.0, out_a=0.0, mode="off", why=why
            )
        case ContactNow():
            return replace(one, verdict="chatters", rests=True, why=why)


def _stuck(one: Judgement, *, moved: bool) -> Judgement:
    """Where a part stands that cannot move, whatever it would do."""
    match one:
        case RelayNow():
            return replace(
                one,
                verdict="closed" if moved else "open",
                closed=moved,
                holds=moved,
                why="stuck closed" if moved else "stuck open",
            )
        case ConverterNow():
            words = "does not stop" if moved else "does not start"
            return replace(one, verdict="closed" if moved else "open", closed=moved, why=words)
        case ContactNow():
            words = "stuck open" if moved else "stuck closed"
            return replace(one, verdict="open" if moved else "closed", rests=not moved, why=words)


def _remembering(
    design: Design, state: State, effects: Effects | None
) -> Callable[[frozenset[str]], Solved]:
    """Solve each set of moved parts once."""
    done: dict[frozenset[str], Solved] = {}

    def solve_with(moved: frozenset[str]) -> Solved:
        if moved not in done:
            like = next(reversed(done.values()), None)
            done[moved] = solve_state(design, state, moved, like, effects)
        return done[moved]

    return solve_with
