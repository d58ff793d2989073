"""Rules about relays that do not rest, or never let go: CH-5, CH-13."""

from __future__ import annotations

from collections.abc import Iterator
from typing import Any, Literal

import numpy as np

from strom_engine.design import (
    Bank,
    Charger,
    MoveCableEnd,
    Relay,
    default_positions,
    source_outputs,
)
from strom_engine.reference import BLOCK_V, chemistry
from strom_engine.rules.context import Context, Situation
from strom_engine.rules.finding import CONFIRM, Figure, Finding, Rule

__all__ = ["RULES", "source_to_house"]

REST = frozenset[str]()
HALF = 0.5  # state of charge at which a bank is drawn upon and must not hold a relay closed

CH5 = Rule(
    "CH-5",
    "No source makes a relay close and open again and again",
    "Each source alone, the engine bank full and the others at half charge: what every relay sees "
    "open and closed.",
    f"Kirchhoff's laws on this boat; makers' thresholds of relays; {CONFIRM}",
)
CH13 = Rule(
    "CH-13",
    "A relay's thresholds suit the float of the chargers and the rest of the banks",
    "Cut-out against what each bank rests at half full, and full; against the chargers' float.",
    f"Makers' manuals of combining relays; reference table battery_ocv; {CONFIRM}",
)


def chattering(context: Context) -> Iterator[Finding]:
    """CH-5: the operating point's verdict; how often is what the timers allow at most."""
    soc = {b.id: 1.0 if b.role == "engine" else HALF for b in context.banks}
    told: set[str] = set()
    for words, state in _alone(context):
        point = context.point(soc=soc, profile=context.busiest_profile(), **state)
        for name, now in point.verdicts().items():
            if now.verdict == "chatters" and name not in told:
                told.add(name)
                yield _chatter_finding(context, name, words, now.why)


def _alone(context: Context) -> Iterator[tuple[str, dict[str, Any]]]:  # Any: fields of a state
    kinds = {s.kind for s in context.sources}
    if "charger" in kinds or "inverter" in kinds:
        yield "shore lead in", {"shore": True}
    if "solar" in kinds:
        yield "sun at a third", {"sun": 0.33}
    if "generator" in kinds:
        yield "wind of 15 kn", {"wind_kn": 15.0}
    if "alternator" in kinds:
        yield "engine idling at 900 rpm", {"engine": "on", "rpm": 900.0}


def _chatter_finding(context: Context, name: str, words: str, why: str) -> Finding:
    part = context.design.by_id[name]
    cycle_s = part.cut_in_s + part.cut_out_s if isinstance(part, Relay) else None
    lines = [f"As drawn, {words}: it {why}."]
    figures: tuple[Figure, ...] = (Figure("Charge of the other banks", HALF * 100, "%"),)
    if cycle_s and isinstance(part, Relay):
        lines.append(
            f"A round takes its timers at least: {part.cut_in_s:g} s + {part.cut_out_s:g} s = "
            f"{cycle_s:g} s: up to 3600 / {cycle_s:g} = {3600 / cycle_s:.0f} closures an hour."
        )
        figures = (Figure("Closures an hour, at most", 3600 / cycle_s, "1/h"), *figures)
    change = source_to_house(context) if isinstance(part, Relay) else None
    return Finding(
        rule=CH5.id,
        severity="fault" if isinstance(part, Relay) else "caution",
        title=f"{part.name} chatters with {words}",
        arithmetic=tuple(lines),
        figures=figures,
        limit="0 closures an hour once it has settled",
        source=CH5.source,
        why="The house bank gets almost nothing all night, and the contact wears out.",
        repair="Land the source on the house bank: when that reaches cut-in it joins an almost "
        "full start bank."
        if isinstance(part, Relay)
        else "Raise the source, lower its limit, or widen the gap between start and stop.",
        parts=(name,),
        change=change,
    )


def source_to_house(context: Context) -> MoveCableEnd | None:
    """Move the lead of a charger that lands on the engine bank alone to the house bank."""
    house = next((b for b in context.banks if b.role == "house"), None)
    small = {f"{b.id}.pos" for b in context.banks if b.role == "engine"}
    for source in context.sources:
        outs = [f"{source.id}.{post}" for post in source_outputs(source)]
        if source.kind == "alternator" or len(outs) > 1 or house is None:
            continue
        for cable in context.design.cables:
            ends: tuple[tuple[str, Literal["start", "end"]], ...]
            ends = ((cable.start, "end"), (cable.end, "start"))
            for own, side in ends:
                if own in outs and getattr(cable, side) in small:
                    return MoveCableEnd(cable=cable.id, end=side, to=f"{house.id}.pos")
    return None


def thresholds(context: Context) -> Iterator[Finding]:
    """CH-13: a relay that a resting bank holds closed, or that opens when float begins."""
    for relay in context.design.of_type(Relay):
        net = context.network(Situation(default_positions(context.design), REST))
        sides = {net.group(f"{relay.id}.{post}") for post in ("a", "b")}
        for bank in context.banks:
            if net.group(f"{bank.id}.pos") in sides:
                yield from _held_closed(context, relay, bank)
        for charger in context.design.of_type(Charger):
            outs = {net.group(f"{charger.id}.{post}") for post in source_outputs(charger)}
            if len(outs & sides) == 1 and charger.float_v < relay.cut_out_v:
                yield _opens_at_float(context, relay, charger)


def _rest_v(bank: Bank, soc: float) -> float:
    """Rest voltage [V] of a bank at a state of charge [-]."""
    figures = chemistry(bank.chemistry)
    return float(np.interp(soc, figures.heads, figures.rest_v)) * bank.nominal_v / BLOCK_V


def _held_closed(context: Context, relay: Relay, bank: Bank) -> Iterator[Finding]:
    rest_v = _rest_v(bank, HALF)
    if rest_v < relay.cut_out_v:
        if _rest_v(bank, 1.0) >= relay.cut_out_v:
            yield _held_while_full(relay, bank)
        return
    yield Finding(
        rule=CH13.id,
        severity="fault",
        title=f"{bank.name} at rest holds {relay.name} closed",
        arithmetic=(
            f"{bank.name} rests at {rest_v:.2f} V at {HALF:.0%}; {relay.name} opens below "
            f"{relay.cut_out_v:g} V: {rest_v:.2f} - {relay.cut_out_v:g} = "
            f"{rest_v - relay.cut_out_v:.2f} V too high to let go.",
        ),
        figures=(Figure("Rest", rest_v, "V"), Figure("Cut-out", relay.cut_out_v, "V")),
        limit=f"rest at {HALF:.0%} below {relay.cut_out_v:g} V",
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
