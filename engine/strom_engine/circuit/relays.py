"""Combining relays: what each one sees, and whether it opens, closes or chatters."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from dataclasses import replace

from strom_engine.circuit.operating_point import Solved, assemble, solve_state
from strom_engine.circuit.results import OperatingPoint, RelayNow
from strom_engine.design import Design, Relay, State, check_state
from strom_engine.errors import NotSettledError

__all__ = ["operating_point"]

MAX_ROUNDS = 12


def operating_point(design: Design, state: State) -> OperatingPoint:
    """Solve a state, every relay standing where its own verdict puts it.

    A relay whose volts lie between cut-out and cut-in stays as ``state.relays_were`` says,
    open when that says nothing. A chattering relay is shown open, with both readings.

    Raises StateError for a state that names what is not there, NotSettledError naming the
    parts when the circuit or the relays among themselves find no rest.
    """
    state = check_state(design, state)
    relays = design.of_type(Relay)
    closed = frozenset(r.id for r in relays if state.relays_were.get(r.id) == "closed")
    solve_with = _remembering(design, state)
    for _ in range(MAX_ROUNDS):
        solved = solve_with(closed)
        verdicts = {r.id: _verdict(solve_with, r, closed) for r in relays}
        wanted = frozenset(name for name, v in verdicts.items() if v.closed)
        if wanted == closed:
            return replace(assemble(solved), relays=verdicts)
        # One at a time, in document order, so that two relays cannot swap for ever.
        first = next(r.id for r in relays if (r.id in wanted) != (r.id in closed))
        closed = closed ^ {first}
    raise NotSettledError(tuple(r.id for r in relays))


def _remembering(design: Design, state: State) -> Callable[[frozenset[str]], Solved]:
    """Solve each set of closed relays once."""
    done: dict[frozenset[str], Solved] = {}

    def solve_with(closed: frozenset[str]) -> Solved:
        if closed not in done:
            like = next(reversed(done.values()), None)
            done[closed] = solve_state(design, state, closed, like)
        return done[closed]

    return solve_with


def _verdict(
    solve_with: Callable[[frozenset[str]], Solved], relay: Relay, closed: frozenset[str]
) -> RelayNow:
    """Judge one relay with the others left where they are."""
    opened = solve_with(closed - {relay.id})
    sees_open = _sees(opened, relay)
    if all(v is None for v in sees_open.values()):
        why = "its negative wire reaches no bank: it has nothing to measure against"
        return RelayNow("open", False, False, sees_open, {}, why)
    if _highest(_both_sides(opened, relay)) < relay.cut_out_v:
        # Joining two sides lifts neither above the higher one: it would not stay closed either.
        return _left_open(relay, sees_open, {}, holds=False)
    joined = solve_with(closed | {relay.id})
    sees_closed = _sees(joined, relay)
    closes = _any_within(sees_open, relay.cut_in_v, relay.lock_high_v)
    stays = _any_within(sees_closed, relay.cut_out_v, relay.lock_high_v)
    remembered = opened.state.relays_were.get(relay.id) == "closed"
    open_v, closed_v = _highest(sees_open), _highest(sees_closed)
    if closes and not stays:
        why = (
            f"sees {open_v:.2f} V open, at or above its cut-in of {relay.cut_in_v:g} V; "
            f"once closed {closed_v:.2f} V, below its cut-out of {relay.cut_out_v:g} V"
        )
        return RelayNow("chatters", False, False, sees_open, sees_closed, why)
    if closes:
        why = (
            f"sees {open_v:.2f} V open, at or above its cut-in of {relay.cut_in_v:g} V, "
            f"and {closed_v:.2f} V once closed, above its cut-out of {relay.cut_out_v:g} V"
        )
        return RelayNow("closed", True, True, sees_open, sees_closed, why)
    if stays and remembered:
        why = f"was closed and sees {closed_v:.2f} V, above its cut-out of {relay.cut_out_v:g} V"
        return RelayNow("closed", True, True, sees_open, sees_closed, why)
    return _left_open(relay, sees_open, sees_closed, holds=stays)


def _left_open(
    relay: Relay,
    sees_open: Mapping[str, float | None],
    sees_closed: Mapping[str, float | None],
    *,
    holds: bool,
) -> RelayNow:
    why = f"sees {_highest(sees_open):.2f} V, below its cut-in of {relay.cut_in_v:g} V"
    return RelayNow("open", False, holds, sees_open, sees_closed, why)


def _sees(solved: Solved, relay: Relay) -> dict[str, float | None]:
    """Volts [V] on the watched posts against the relay's own negative wire."""
    both = _both_sides(solved, relay)
    return both if relay.sensing == "dual" else {relay.sensing: both[relay.sensing]}


def _both_sides(solved: Solved, relay: Relay) -> dict[str, float | None]:
    return {post: solved.volts(f"{relay.id}.{post}", f"{relay.id}.neg") for post in ("a", "b")}


def _any_within(volts: Mapping[str, float | None], low_v: float, high_v: float) -> bool:
    known = [v for v in volts.values() if v is not None]
    return any(v >= low_v for v in known) and all(v <= high_v for v in known)


def _highest(volts: Mapping[str, float | None]) -> float:
    return max((v for v in volts.values() if v is not None), default=float("nan"))
