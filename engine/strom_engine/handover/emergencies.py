"""What to do when the engine does not turn, when it smokes, when water comes in."""

from __future__ import annotations

from collections.abc import Iterator

from strom_engine.design import Bank, LoadGroup, Protection, Starter
from strom_engine.handover.aboard import Aboard
from strom_engine.handover.line import Line
from strom_engine.reference import chemistry

__all__ = ["emergencies"]

FLAT_SOC, HELPING_SOC = 0.05, 0.8  # the start bank gone, the other as on a usual day
BILGE = "bilge"


def emergencies(aboard: Aboard) -> Iterator[Line]:
    """Steps for the engine that does not turn, smoke, flooding, an open protection."""
    for starter in aboard.starters:
        yield from _no_start(aboard, starter)
    yield Line("smoke.engine")
    yield Line("smoke.off", switches=aboard.shown(aboard.way.away))
    alive = tuple(living_with(aboard, aboard.way.away))
    names = ", ".join(alive)
    yield Line("smoke.alive", {"names": names}, "scheme") if alive else Line("smoke.dead")
    yield from _flooding(aboard)
    for part in aboard.design.of_type(Protection):
        values: dict[str, float | str] = {"name": part.name, "low": part.low_v, "high": part.high_v}
        yield Line("protection.opened", values, "banks")


def _no_start(aboard: Aboard, starter: Starter) -> Iterator[Line]:
    """The switch that joins another bank, where that turns the engine; else a jumper."""
    yield Line("start.wait", {"engine": starter.name})
    limit_v = aboard.needs_v(starter)
    soc = {b.id: FLAT_SOC if b.role == "engine" else HELPING_SOC for b in aboard.banks}
    for positions in (aboard.way.emergency, aboard.together):
        volts = aboard.turning_v(starter, aboard.way.start | positions, soc)
        if positions and volts is not None and volts >= limit_v:
            values: dict[str, float | str] = {"volts": volts, "limit": limit_v}
            yield Line("start.join", values, "scheme", aboard.shown(aboard.way.start | positions))
            yield Line("start.apart")
            return
    flat, helper = _flat_and_helper(aboard)
    if flat is None or helper is None:
        yield Line("start.no_other")
    else:
        yield Line("start.jumper", {"helper": helper.name, "flat": flat.name})


def _flat_and_helper(aboard: Aboard) -> tuple[Bank | None, Bank | None]:
    """The start bank, and the largest other one of lead: the protection of a lithium bank opens
    under a starter."""
    flat = next((b for b in aboard.banks if b.role == "engine"), None)
    others = [
        b
        for b in aboard.banks
        if b is not flat
        and b.nominal_v == (flat or b).nominal_v
        and chemistry(b.chemistry).family == "lead"
    ]
    return flat, max(others, key=lambda b: b.capacity_ah, default=None)


def living_with(aboard: Aboard, positions: dict[str, str]) -> Iterator[str]:
    """Names of loads that a bank feeds with the switches so."""
    result = aboard.bench(positions)
    if result is None:
        return
    for group in aboard.design.of_type(LoadGroup):
        if result.reach.fed_by.get(group.id):
            yield from (item.name for item in group.items) if group.items else (group.name,)


def _flooding(aboard: Aboard) -> Iterator[Line]:
    """Pumps that run with everything off, and for how long the bank behind them holds."""
    result = aboard.bench(aboard.way.away)
    if result is None:
        return
    for group in aboard.design.of_type(LoadGroup):
        feeding = result.reach.fed_by.get(group.id, ())
        for item in group.items:
            if BILGE not in item.name.lower() or item.draw_a <= 0:
                continue
            if not feeding:
                yield Line("flood.dead", {"name": item.name}, "scheme")
                continue
            banks = [aboard.design.by_id[name] for name in feeding]
            held_ah = sum(b.capacity_ah for b in banks if isinstance(b, Bank))
            hours = HELPING_SOC * held_ah / item.draw_a
            values: dict[str, float | str] = {
                "name": item.name,
                "bank": " + ".join(b.name for b in banks),
                "hours": hours,
                "amps": item.draw_a,
            }
            yield Line("flood.runs", values, "scheme")
