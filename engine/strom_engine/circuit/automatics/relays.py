"""Combining relays."""

from __future__ import annotations

from collections.abc import Mapping

from strom_engine.circuit.automatics.judging import SolveWith, any_within, highest
from strom_engine.circuit.results import RelayNow
from strom_engine.circuit.solved import Solved
from strom_engine.design import Relay

__all__ = ["judge_relay"]


def judge_relay(solve_with: SolveWith, relay: Relay, moved: frozenset[str]) -> RelayNow:
    """Judge a combining relay by what it sees open, and what it would see closed."""
    opened = solve_with(moved - {relay.id})
    sees_open = _sees(opened, relay)
    if all(v is None for v in sees_open.values()):
        why = "its negative wire reaches no bank: it has nothing to measure against"
        return RelayNow("open", False, False, sees_open, {}, why)
    if relay.start_isolation and (opened.state.cranking or opened.state.second_cranking):
        return RelayNow("open", False, False, sees_open, {}, "held open while an engine cranks")
    cranking = opened.state.cranking or opened.state.second_cranking
    if cranking and opened.state.previous_states.get(relay.id) == "closed":
        # Its delays are longer than a start; only its lock-out answers at once.
        during = _sees(solve_with(moved | {relay.id}), relay)
        if highest(during) >= relay.lock_low_v:
            why = "was closed, and its delay outlasts a start"
            return RelayNow("closed", True, True, sees_open, during, why)
    if relay.ignition and opened.state.engine != "on":
        why = "its ignition wire is dead: the engine is stopped"
        return RelayNow("open", False, False, sees_open, {}, why)
    if highest(_both_sides(opened, relay)) < relay.cut_out_v:
        # Joining two sides lifts neither above the higher one: it would not stay closed either.
        return _left_open(relay, sees_open, {}, holds=False)
    joined = solve_with(moved | {relay.id})
    sees_closed = _sees(joined, relay)
    closes = any_within(sees_open, relay.cut_in_v, relay.lock_high_v)
    stays = any_within(sees_closed, relay.cut_out_v, relay.lock_high_v)
    remembered = opened.state.previous_states.get(relay.id) == "closed"
    open_v, closed_v = highest(sees_open), highest(sees_closed)
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
    why = f"sees {highest(sees_open):.2f} V, below its cut-in of {relay.cut_in_v:g} V"
    return RelayNow("open", False, holds, sees_open, sees_closed, why)


def _sees(solved: Solved, relay: Relay) -> dict[str, float | None]:
    """Volts [V] on the watched posts against the relay's own negative wire."""
    both = _both_sides(solved, relay)
    return both if relay.sensing == "dual" else {relay.sensing: both[relay.sensing]}


def _both_sides(solved: Solved, relay: Relay) -> dict[str, float | None]:
    return {post: solved.volts(f"{relay.id}.{post}", f"{relay.id}.neg") for post in ("a", "b")}
