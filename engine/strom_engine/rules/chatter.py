"""Rules about relays that do not rest, or never let go: CH-5, CH-13."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass
from typing import Any

import numpy as np

from strom_engine.batteries import HALF_SOC
from strom_engine.circuit import operating_point
from strom_engine.circuit.constants import CRUISE_RPM
from strom_engine.circuit.delays import (
    CONVERTER_S,
    INVERTER_CUT_OUT_S,
    INVERTER_RETURN_S,
    ONE_WAY_S,
    PROTECTION_RETRY_S,
    PROTECTION_S,
)
from strom_engine.circuit.results import ContactNow, ConverterNow, RelayNow
from strom_engine.circuit.supply import source_limit_a
from strom_engine.dayrun.cures import source_to_house
from strom_engine.design import (
    Bank,
    Charger,
    Component,
    DcDc,
    MoveCableEnd,
    OneWayCombiner,
    Protection,
    Relay,
    SetPart,
    State,
    apply_change,
    default_positions,
)
from strom_engine.errors import StromError
from strom_engine.reference import BLOCK_V, chemistry
from strom_engine.rules.context import Context, Situation
from strom_engine.rules.finding import CONFIRM, Figure, Finding, Rule
from strom_engine.rules.gathering import gathered
from strom_engine.runs.converters import bank_at

__all__ = ["RULES"]

REST = frozenset[str]()
FULL_SOCS = (1.0, 0.97, 0.94, 0.9)

CH5 = Rule(
    "CH-5",
    "No source makes gear close and open again and again",
    "Each source alone, the engine bank at 90 to 100 % and the others at half charge: what every "
    "relay, dc-dc charger, combiner, inverter and protection sees at rest and moved.",
    f"Kirchhoff's laws on this boat; makers' thresholds of relays and chargers; {CONFIRM}",
)
CH13 = Rule(
    "CH-13",
    "A relay's thresholds suit the float of the chargers and the rest of the banks",
    "Cut-out against what each bank rests at half full, and full; against the chargers' float.",
    f"Makers' manuals of combining relays; reference table battery_ocv; {CONFIRM}",
)


def chattering(context: Context) -> Iterator[Finding]:
    """CH-5: the operating point's verdict; how often is what the timers allow at most."""
    told: set[str] = set()
    for kinds, words, state in _alone(context):
        for full in FULL_SOCS:
            soc = {b.id: full if b.role == "engine" else HALF_SOC for b in context.banks}
            point = context.point(soc=soc, profile=context.busiest_profile(), **state)
            for name, now in point.verdicts().items():
                if name not in told and _restless(context, name, now):
                    told.add(name)
                    at = Still(kinds, words, full, {"soc": soc, **state})
                    yield _chatter_finding(context, name, at, now.why)


@dataclass(frozen=True)
class Still:
    """A still moment: which sources charge, in words and by kind; how full the engine bank is [-].

    ``state`` are the fields of its state.
    """

    kinds: tuple[str, ...]
    words: str
    full: float
    state: dict[str, Any]


def _restless(context: Context, name: str, now: RelayNow | ConverterNow | ContactNow) -> bool:
    """Whether a part would not stay where it goes.

    The disconnect of a lithium bank that opens on too much current or too many volts comes back by
    itself as soon as the current is gone, and opens again.
    """
    if now.verdict == "chatters":
        return True
    part = context.design.by_id[name]
    if not isinstance(part, Protection) or not isinstance(now, ContactNow) or now.closed:
        return False
    return now.volts_v is not None and now.volts_v >= part.low_v


def _alone(context: Context) -> Iterator[tuple[tuple[str, ...], str, dict[str, Any]]]:
    kinds = {s.kind for s in context.sources}
    if "charger" in kinds or "inverter" in kinds:
        yield ("charger", "inverter"), "shore lead in", {"shore": True}
    if "solar" in kinds:
        yield ("solar",), "sun at a third", {"sun": 0.33}
    if "generator" in kinds:
        yield ("generator",), "wind of 15 kn", {"wind_kn": 15.0}
    if "alternator" in kinds:
        yield ("alternator",), "engine idling at 900 rpm", {"engine": "on", "rpm": 900.0}


def _chatter_finding(context: Context, name: str, at: Still, why: str) -> Finding:
    part = context.design.by_id[name]
    round_s = _round_s(part)
    idling = isinstance(part, DcDc) and _runs_at_cruise(context, part, at)
    change: MoveCableEnd | SetPart | None = None
    if isinstance(part, Relay):
        change = source_to_house(context.design)
    if change is None and not idling:
        change = _calmed(context, part, at)
    lines = [
        f"As drawn, {at.words}, the engine bank at {at.full:.0%}, others at {HALF_SOC:.0%}: "
        f"it {why}.",
        f"A round takes its delays at least: {round_s:g} s: up to 3600 / {round_s:g} = "
        f"{3600 / round_s:.0f} times an hour.",
    ]
    return Finding(
        rule=CH5.id,
        severity="fault" if isinstance(part, Relay | DcDc) and not idling else "caution",
        title=f"{part.name} chatters with {at.words}",
        arithmetic=tuple(lines),
        figures=(
            Figure("Times an hour, at most", 3600 / round_s, "1/h"),
            Figure("Charge of the engine bank", at.full * 100, "%"),
        ),
        limit="0 closures an hour once it has settled",
        source=CH5.source,
        why="Its contact wears, and while it is open nothing is shared; a day's run counts what "
        "charge that costs each bank.",
        repair="It runs at cruising speed: let the engine turn faster, or set a longer delay."
        if idling
        else _repair_words(part, change),
        parts=(name,),
        change=change,
    )


def _round_s(part: Component) -> float:
    """The least time [s] from one closing to the next, by the part's own delays or usual ones."""
    match part:
        case Relay():
            return part.cut_in_s + part.cut_out_s
        case DcDc() | OneWayCombiner():
            usual = CONVERTER_S if isinstance(part, DcDc) else ONE_WAY_S
            return 2 * (part.delay_s or usual)
        case Protection():
            return PROTECTION_S + PROTECTION_RETRY_S
        case _:
            return INVERTER_CUT_OUT_S + INVERTER_RETURN_S


def _calmed(context: Context, part: Component, at: Still) -> SetPart | None:
    """A limit or wider thresholds with which a part rests in a still moment; None where none do."""
    scale = context.design.system_v / 12
    tries: list[dict[str, float]] = []
    match part:
        case DcDc():
            fed_a = _fed_a(context, part, at)
            # Never by a lower stop voltage: it would then live on its bank instead of the source.
            tries += [{"input_limit_a": round(share * fed_a, 1)} for share in (0.8, 0.5) if fed_a]
        case OneWayCombiner():
            tries += [{"stop_v": round(part.stop_v - less * scale, 2)} for less in (0.3, 0.6)]
        case Relay():
            tries += [{"cut_out_v": round(part.cut_out_v - less * scale, 2)} for less in (0.2, 0.4)]
    for fields in tries:
        change = SetPart(part=part.id, fields=fields)
        try:
            after = apply_change(context.design, change)
            now = operating_point(
                after, State(profile=context.busiest_profile(), **at.state)
            ).verdicts()[part.id]
        except StromError:
            continue
        if now.verdict != "chatters":
            return change
    return None


def _runs_at_cruise(context: Context, part: DcDc, at: Still) -> bool:
    """Whether a dc-dc charger that chatters at idle runs as soon as the engine turns faster."""
    if "alternator" not in at.kinds:
        return False
    state = at.state | {"rpm": CRUISE_RPM}
    now = context.point(profile=context.busiest_profile(), **state).converters[part.id]
    return now.verdict == "closed"


def _fed_a(context: Context, part: DcDc, at: Still) -> float:
    """What the sources of its bank give in a still moment [A]."""
    bank = bank_at(context.design, f"{part.id}.in")
    charges = context.reach(Situation(context.drawn, REST), engine="on").charges
    state = State(**at.state)
    return sum(
        source_limit_a(s, state)
        for s in context.sources
        if s.kind in at.kinds and bank is not None and bank.id in charges.get(s.id, ())
    )


def _repair_words(part: Component, change: MoveCableEnd | SetPart | None) -> str:
    if isinstance(change, MoveCableEnd):
        return (
            "Land the source on the house bank: when that reaches cut-in it joins an almost full "
            "start bank."
        )
    if isinstance(change, SetPart):
        (field, value) = next(iter(change.fields.items()))
        if field == "input_limit_a":
            return f"Limit what {part.name} takes to {value:g} A, less than its source gives."
        return f"Let {part.name} go at {value:g} V: wider thresholds, if it can be set so."
    return "More amps from the source, less taken from it, or a longer delay and wider thresholds."


def thresholds(context: Context) -> Iterator[Finding]:
    """CH-13: a relay that a resting bank holds closed, or that opens when float begins."""
    for relay in context.design.of_type(Relay):
        net = context.network(Situation(default_positions(context.design), REST))
        sides = {net.group(f"{relay.id}.{post}") for post in ("a", "b")}
        near = [b for b in context.banks if net.group(f"{b.id}.pos") in sides]
        held = [found for bank in near for found in _held_closed(context, relay, bank)]
        yield from (found for found in held if found.severity != "note")
        yield from gathered(
            [found for found in held if found.severity == "note"],
            f"Full banks at rest hold {relay.name} closed",
            about="full",
        )
        for charger in context.design.of_type(Charger):
            outs = {net.group(f"{charger.id}.{post}") for post in charger.charging_posts()}
            if len(outs & sides) == 1 and charger.float_v < relay.cut_out_v:
                yield _opens_at_float(context, relay, charger)


def _rest_v(bank: Bank, soc: float) -> float:
    """Rest voltage [V] of a bank at a state of charge [-]."""
    figures = chemistry(bank.chemistry)
    return float(np.interp(soc, figures.heads, figures.rest_v)) * bank.nominal_v / BLOCK_V


def _held_closed(context: Context, relay: Relay, bank: Bank) -> Iterator[Finding]:
    rest_v = _rest_v(bank, HALF_SOC)
    if rest_v < relay.cut_out_v:
        if _rest_v(bank, 1.0) >= relay.cut_out_v:
            yield _held_while_full(relay, bank)
        return
    yield Finding(
        rule=CH13.id,
        severity="fault",
        title=f"{bank.name} at rest holds {relay.name} closed",
        arithmetic=(
            f"{bank.name} rests at {rest_v:.2f} V at {HALF_SOC:.0%}; {relay.name} opens below "
            f"{relay.cut_out_v:g} V: {rest_v:.2f} - {relay.cut_out_v:g} = "
            f"{rest_v - relay.cut_out_v:.2f} V too high to let go.",
        ),
        figures=(Figure("Rest", rest_v, "V"), Figure("Cut-out", relay.cut_out_v, "V")),
        limit=f"rest at {HALF_SOC:.0%} below {relay.cut_out_v:g} V",
        source=CH13.source,
        why="Nothing separates the banks any more: loads drain both.",
        repair="Put a dc-dc charger in the relay's place: its voltage never tells when to open.",
        parts=(relay.id, bank.id),
    )


def _held_while_full(relay: Relay, bank: Bank) -> Finding:
    full_v, figures = _rest_v(bank, 1.0), chemistry(bank.chemistry)
    per_block = relay.cut_out_v * BLOCK_V / bank.nominal_v
    opens = float(np.interp(per_block, figures.rest_v, figures.heads))
    return Finding(
        rule=CH13.id,
        severity="note",
        title=f"{bank.name}, full and at rest, holds {relay.name} closed",
        arithmetic=(
            f"{bank.name} rests full at {full_v:.2f} V; {relay.name} opens below "
            f"{relay.cut_out_v:g} V, where {bank.name} rests with {opens:.0%}.",
        ),
        figures=(Figure("Rest, full", full_v, "V"), Figure("Cut-out", relay.cut_out_v, "V")),
        limit=f"rest, full, below {relay.cut_out_v:g} V",
        source=CH13.source,
        why=f"With nothing drawn it stays closed for days; with loads it opens once the banks "
        f"together are down to about {opens:.0%}: no harm, and no fault of the relay.",
        repair="Nothing to mend; a switch in the relay's negative opens it for work.",
        parts=(relay.id, bank.id),
        about="full",
    )


def _opens_at_float(context: Context, relay: Relay, charger: Charger) -> Finding:
    return Finding(
        rule=CH13.id,
        severity="caution",
        title=f"{relay.name} opens when {charger.name} goes to float",
        arithmetic=(
            f"Float {charger.float_v:g} V, below the cut-out of {relay.cut_out_v:g} V by "
            f"{relay.cut_out_v - charger.float_v:.2f} V.",
        ),
        figures=(Figure("Float", charger.float_v, "V"), Figure("Cut-out", relay.cut_out_v, "V")),
        limit=f"float at or above {relay.cut_out_v:g} V",
        source=CH13.source,
        why="From then on the other bank is charged no more, however long the lead is in.",
        repair="Raise the float, or give each bank an output of the charger.",
        parts=(relay.id, charger.id),
    )


RULES = (
    (CH5, chattering),
    (CH13, thresholds),
)
