"""What closes by itself: combining relays and dc-dc chargers, each by what it sees."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from dataclasses import replace

from strom_engine.circuit.operating_point import Solved, assemble, solve_state
from strom_engine.circuit.results import ConverterNow, OperatingPoint, RelayNow, Verdict
from strom_engine.design import DcDc, Design, Relay, State, check_state

__all__ = ["operating_point"]

Verdicts = dict[str, RelayNow | ConverterNow]


def operating_point(design: Design, state: State) -> OperatingPoint:
    """Solve a state, every relay and dc-dc charger standing where its own verdict puts it.

    One whose volts lie between cut-out and cut-in stays as ``state.relays_were`` says,
    open when that says nothing. One that chatters is shown open, with both readings; so are
    all of those that drive each other round, each closing or opening by what the others did.

    Raises StateError for a state that names what is not there, NotSettledError naming the
    parts when the circuit finds no rest.
    """
    state = check_state(design, state)
    relays = [p for p in design.components if isinstance(p, Relay | DcDc)]
    restless: frozenset[str] = frozenset()
    closed = frozenset(r.id for r in relays if state.relays_were.get(r.id) == "closed")
    solve_with = _remembering(design, state)
    before: list[frozenset[str]] = []
    while True:
        verdicts: Verdicts = {
            r.id: _verdict(solve_with, r, closed)
            if isinstance(r, Relay)
            else _converter(solve_with, r, closed)
            for r in relays
        }
        wanted = frozenset(name for name, v in verdicts.items() if v.closed) - restless
        if wanted == closed:
            return _at_rest(design, solve_with(closed), verdicts, restless)
        if closed in before:
            # Round once: what changed on the way never rests. Held open, the others find theirs.
            ring = before[before.index(closed) :]
            moving = frozenset.union(*ring) - frozenset.intersection(*ring)
            restless, closed, before = restless | moving, closed - moving, []
            continue
        before.append(closed)
        # One at a time, in document order, so that two relays do not swap for ever.
        first = next(r.id for r in relays if (r.id in wanted) != (r.id in closed))
        closed = closed ^ {first}


def _at_rest(
    design: Design, solved: Solved, verdicts: Verdicts, restless: frozenset[str]
) -> OperatingPoint:
    relays, converters = {}, {}
    for name, verdict in verdicts.items():
        ring = " and ".join(design.by_id[n].name for n in sorted(restless))
        why = f"{ring} drive each other round: {verdict.why}"
        match verdict:
            case RelayNow() if name in restless:
                relays[name] = replace(
                    verdict, verdict="chatters", closed=False, holds=False, why=why
                )
            case RelayNow():
                relays[name] = verdict
            case _ if name in restless:
                part = design.by_id[name]
                assert isinstance(part, DcDc)
                converters[name] = _resting(solved, part, "chatters", why)
            case _:
                converters[name] = verdict
    return replace(assemble(solved), relays=relays, converters=converters)


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


def _converter(
    solve_with: Callable[[frozenset[str]], Solved], part: DcDc, closed: frozenset[str]
) -> ConverterNow:
    """Judge one dc-dc charger with all else left where it is."""
    idle = solve_with(closed - {part.id})
    seen = idle.volts(f"{part.id}.in", f"{part.id}.neg")
    if seen is None:
        return _resting(idle, part, "open", "its input reaches no bank")
    if idle.volts(f"{part.id}.out", f"{part.id}.neg") is None:
        return _resting(idle, part, "open", "its output reaches no bank")
    if part.ignition and idle.state.engine != "on":
        return _resting(idle, part, "open", "its ignition wire is dead: the engine is stopped")
    remembered = idle.state.relays_were.get(part.id) == "closed"
    if seen < part.stop_v or (seen < part.start_v and not remembered):
        limit = f"start at {part.start_v:g} V" if not remembered else f"stop at {part.stop_v:g} V"
        return _resting(idle, part, "open", f"its input has {seen:.2f} V, below its {limit}")
    running = solve_with(closed | {part.id})
    loaded = running.volts(f"{part.id}.in", f"{part.id}.neg") or 0.0
    if loaded < part.stop_v:
        why = (
            f"its input has {seen:.2f} V idle, at or above its start; running {loaded:.2f} V, "
            f"below its stop at {part.stop_v:g} V"
        )
        return _resting(idle, part, "chatters", why)
    return ConverterNow(
        verdict="closed",
        closed=True,
        in_v=loaded,
        in_a=running.amps(f"{part.id}.in") or 0.0,
        out_v=running.volts(f"{part.id}.out", f"{part.id}.neg"),
        out_a=-(running.amps(part.id) or 0.0),
        mode=str(running.mode(part.id)),
        why=f"its input has {loaded:.2f} V while it runs, above its stop at {part.stop_v:g} V",
    )


def _resting(idle: Solved, part: DcDc, verdict: Verdict, why: str) -> ConverterNow:
    return ConverterNow(
        verdict=verdict,
        closed=False,
        in_v=idle.volts(f"{part.id}.in", f"{part.id}.neg"),
        in_a=0.0,
        out_v=idle.volts(f"{part.id}.out", f"{part.id}.neg"),
        out_a=0.0,
        mode="off",
        why=why,
    )


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
