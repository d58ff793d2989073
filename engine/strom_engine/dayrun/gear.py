"""The conditions under which gear moves by itself: relays, dc-dc chargers, protections, others."""

from __future__ import annotations

from collections.abc import Iterable

from strom_engine.circuit.constants import PULL_IN_SHARE
from strom_engine.circuit.delays import (
    COIL_S,
    CONVERTER_S,
    INVERTER_CUT_OUT_S,
    INVERTER_RETURN_S,
    INVERTER_RETURN_V,
    ONE_WAY_S,
    PROTECTION_LOW_S,
    PROTECTION_RETRY_S,
    PROTECTION_RETURN_S,
    PROTECTION_S,
)
from strom_engine.dayrun.conditions import NEVER, Action, Condition, Reading, over, under
from strom_engine.dayrun.discrete_state import DiscreteState
from strom_engine.dayrun.kernel import Snapshot
from strom_engine.design import (
    Automatic,
    Bank,
    DcDc,
    Design,
    FittedInverter,
    OneWayCombiner,
    Protection,
    Relay,
)

__all__ = ["gear_conditions", "held_at_rest"]

# A protection that opened on high voltage closes again this far below it, one that opened on
# low voltage this far above it; of a 12 V bank.
HIGH_RETURN_V = 0.8
LOW_RETURN_V = 1.6
WAKING_V = 0.3  # what a charger's voltage must be above the bank's to wake an open protection
LOCK_S = 0.5
CHARGES_A = 0.5  # with less from its sources a boat is not being charged; own judgement


def gear_conditions(
    design: Design, part: Automatic, discrete: DiscreteState
) -> tuple[Condition, ...]:
    """The conditions under which a part moves, as it stands now."""
    moved = part.id in discrete.moved
    match part:
        case Relay():
            found = _relay(part, discrete, closed=moved)
        case DcDc() | OneWayCombiner():
            found = _converter(part, discrete, runs=moved)
        case Protection():
            found = _protection(design, part, discrete, is_open=moved)
        case FittedInverter():
            found = _inverter(design, part, out=moved)
        case _:
            found = _held(design, part.id, let_go=moved)
    return tuple(found)


def held_at_rest(part: Automatic, discrete: DiscreteState) -> bool:
    """Whether something keeps a part at rest whatever the volts are."""
    match part:
        case Relay():
            dead = part.ignition and "first" not in discrete.engines
            return dead or (part.start_isolation and bool(discrete.cranking))
        case DcDc():
            return part.ignition and "first" not in discrete.engines
        case _:
            return False


def _move(part: Automatic | str, to: str, words: str) -> Action:
    return Action("move", part if isinstance(part, str) else part.id, to, words)


def _relay(relay: Relay, discrete: DiscreteState, *, closed: bool) -> Iterable[Condition]:
    sides = ("a", "b") if relay.sensing == "dual" else (relay.sensing,)
    posts = tuple((f"{relay.id}.{side}", f"{relay.id}.neg") for side in sides)
    name = relay.name
    if not closed:
        if held_at_rest(relay, discrete):
            return
        high = over(posts, relay.lock_high_v)
        cut_in = over(posts, relay.cut_in_v)

        def within(now: Snapshot) -> float:
            return NEVER if high(now) > 0 else cut_in(now)

        words = f"{name} closes: {relay.cut_in_v:g} V for {relay.cut_in_s:g} s"
        yield Condition(f"{relay.id} in", within, relay.cut_in_s, _move(relay, "moved", words))
        if relay.cut_in_high_v is not None and relay.cut_in_high_s is not None:
            soon = over(posts, relay.cut_in_high_v)

            def well_within(now: Snapshot) -> float:
                return NEVER if high(now) > 0 else soon(now)

            words = f"{name} closes: {relay.cut_in_high_v:g} V for {relay.cut_in_high_s:g} s"
            action = _move(relay, "moved", words)
            yield Condition(f"{relay.id} in high", well_within, relay.cut_in_high_s, action)
        return
    yield from _lets_go(relay, posts)
    words = f"{name} opens: locked out above {relay.lock_high_v:g} V"
    yield Condition(
        f"{relay.id} high", over(posts, relay.lock_high_v), LOCK_S, _move(relay, "rest", words)
    )
    words = f"{name} opens: locked out below {relay.lock_low_v:g} V"
    yield Condition(
        f"{relay.id} low", under(posts, relay.lock_low_v), LOCK_S, _move(relay, "rest", words)
    )


def _lets_go(relay: Relay, posts: tuple[tuple[str, str], ...]) -> Iterable[Condition]:
    """When a relay opens: by its thresholds, or after the time that was taken aboard."""
    if relay.opens_after_s is not None:
        words = f"{relay.name} opens: {relay.opens_after_s / 60:g} min after charging, as measured"
        action = _move(relay, "rest", words)
        yield Condition(f"{relay.id} out", _nothing_charges, relay.opens_after_s, action)
        return
    words = f"{relay.name} opens: below {relay.cut_out_v:g} V for {relay.cut_out_s:g} s"
    cut_out = under(posts, relay.cut_out_v)
    yield Condition(f"{relay.id} out", cut_out, relay.cut_out_s, _move(relay, "rest", words))
    if relay.cut_out_low_v is not None and relay.cut_out_low_s is not None:
        words = f"{relay.name} opens: below {relay.cut_out_low_v:g} V for {relay.cut_out_low_s:g} s"
        action, low = _move(relay, "rest", words), under(posts, relay.cut_out_low_v)
        yield Condition(f"{relay.id} out low", low, relay.cut_out_low_s, action)


def _nothing_charges(now: Snapshot) -> float:
    return -1.0 if now.kernel.is_charging(now.point, CHARGES_A) else 1.0


def _converter(
    part: DcDc | OneWayCombiner, discrete: DiscreteState, *, runs: bool
) -> Iterable[Condition]:
    posts = ((f"{part.id}.in", f"{part.id}.neg"),)
    delay = part.delay_s or (CONVERTER_S if isinstance(part, DcDc) else ONE_WAY_S)
    if runs:
        words = f"{part.name} stops: its input is below {part.stop_v:g} V"
        yield Condition(
            f"{part.id} stop", under(posts, part.stop_v), delay, _move(part, "rest", words)
        )
        return
    if held_at_rest(part, discrete):
        return
    minus = part.out_neg if isinstance(part, DcDc) else "neg"
    out = (f"{part.id}.out", f"{part.id}.{minus}")
    start = over(posts, part.start_v)

    def both(now: Snapshot) -> float:
        # It charges a bank: without one at its output it does not start.
        return start(now) if now.kernel.span(*out) is not None else NEVER

    words = f"{part.name} starts: its input has {part.start_v:g} V"
    yield Condition(f"{part.id} start", both, delay, _move(part, "moved", words))


def _protection(
    design: Design, part: Protection, discrete: DiscreteState, *, is_open: bool
) -> Iterable[Condition]:
    bank = design.by_id[part.guards]
    assert isinstance(bank, Bank)  # checked with the design
    own = ((f"{bank.id}.pos", f"{bank.id}.neg"),)
    scale = bank.nominal_v / 12
    # It is as cold as the plan says, where that says anything.
    told_c = discrete.temperature_c
    bank_c = bank.temperature_c if told_c is None else told_c
    cold = bank_c < part.no_charge_below_c
    if is_open:
        yield from _protection_returns(part, bank, scale, cold=cold)
        return
    move = _move(part, "moved", "")

    def opens(why: str) -> Action:
        return Action(move.kind, move.part, move.to, f"{part.name} disconnects {bank.name}: {why}")

    high, low = over(own, part.high_v), under(own, part.low_v)
    yield Condition(f"{part.id} high", high, PROTECTION_S, opens(f"above {part.high_v:g} V"))
    yield Condition(f"{part.id} low", low, PROTECTION_LOW_S, opens(f"below {part.low_v:g} V"))
    if part.charge_limit_a is not None:
        why = f"more than {part.charge_limit_a:g} A of charge"
        too_much = _amps_over(bank.id, part.charge_limit_a, 1)
        yield Condition(f"{part.id} charge", too_much, PROTECTION_S, opens(why))
    if part.discharge_limit_a is not None:
        why = f"more than {part.discharge_limit_a:g} A drawn"
        too_much = _amps_over(bank.id, part.discharge_limit_a, -1)
        yield Condition(f"{part.id} draw", too_much, PROTECTION_S, opens(why))
    if cold:
        why = f"charge at {bank_c:g} °C"
        yield Condition(f"{part.id} cold", _amps_over(bank.id, 0.05, 1), PROTECTION_S, opens(why))


def _protection_returns(
    part: Protection, bank: Bank, scale: float, *, cold: bool
) -> Iterable[Condition]:
    """An open protection: it looks at the bank, and at whether something outside charges."""
    own = ((f"{bank.id}.pos", f"{bank.id}.neg"),)
    low_ok = over(own, part.low_v + LOW_RETURN_V * scale)
    high_ok = under(own, part.high_v - HIGH_RETURN_V * scale)

    def charger(now: Snapshot) -> float:
        outside = now.volts(f"{part.id}.system", f"{bank.id}.neg")
        inside = now.volts(*own[0])
        if outside is None or inside is None:
            # A source that runs with no bank of its own presses against the open contact.
            return 1.0 if now.kernel.circuit.loose_sources else NEVER
        return outside - inside - WAKING_V * scale

    def rested(now: Snapshot) -> float:
        pressed = charger(now)
        if cold and pressed > 0:
            return NEVER
        return min(low_ok(now), high_ok(now))

    def woken(now: Snapshot) -> float:
        if cold or low_ok(now) > 0:
            return NEVER
        return charger(now)

    back = f"{part.name} closes again: {bank.name} is within its limits"
    yield Condition(f"{part.id} back", rested, PROTECTION_RETRY_S, _move(part, "rest", back))
    words = f"{part.name} closes again: a charging voltage wakes it"
    yield Condition(f"{part.id} wakes", woken, PROTECTION_RETURN_S, _move(part, "rest", words))


def _amps_over(bank: str, limit_a: float, sign: int) -> Reading:
    return lambda now: sign * now.amps(bank) - limit_a


def _inverter(design: Design, part: FittedInverter, *, out: bool) -> Iterable[Condition]:
    posts = ((f"{part.id}.pos", f"{part.id}.neg"),)
    if out:
        back_v = part.return_v or part.cut_out_v + INVERTER_RETURN_V * design.system_v / 12
        words = f"{part.name} comes back: {back_v:g} V"
        action = _move(part, "rest", words)
        yield Condition(f"{part.id} back", over(posts, back_v), INVERTER_RETURN_S, action)
        return
    words = f"{part.name} cuts out: below {part.cut_out_v:g} V"
    low = under(posts, part.cut_out_v, dead=False)
    yield Condition(f"{part.id} out", low, INVERTER_CUT_OUT_S, _move(part, "moved", words))


def _held(design: Design, part: str, *, let_go: bool) -> Iterable[Condition]:
    posts = ((f"{part}.ctrl_pos", f"{part}.ctrl_neg"),)
    least = PULL_IN_SHARE * design.system_v
    name = design.by_id[part].name
    if let_go:
        action = _move(part, "rest", f"{name} pulls in")
        yield Condition(f"{part} pulls", over(posts, least), COIL_S, action)
    else:
        action = _move(part, "moved", f"{name} lets go: its coil has less than {least:g} V")
        yield Condition(f"{part} lets go", under(posts, least), COIL_S, action)
