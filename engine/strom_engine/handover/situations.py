"""Where every switch stands in every situation, why, and what would happen otherwise."""

from __future__ import annotations

from collections.abc import Iterator

from strom_engine.design import Charger
from strom_engine.design.state import battery_switches, switch_positions
from strom_engine.handover.aboard import NIGHTS, Aboard
from strom_engine.handover.line import Line

__all__ = ["nevers", "situations"]


def situations(aboard: Aboard) -> Iterator[Line]:
    """Coming aboard, starting, under way, at anchor, alongside, leaving, laying up."""
    way = aboard.way
    trip = way.trips[0] if way.trips else {}
    yield _feeding(aboard, "situation.aboard", way.rest | trip)
    if aboard.starters:
        yield _at(aboard, "situation.start", way.start | trip)
        yield _at(aboard, "situation.under_way", way.run | trip)
    yield _feeding(aboard, "situation.anchor", way.rest | trip)
    yield from _otherwise(aboard)
    if aboard.design.of_type(Charger):
        yield _at(aboard, "situation.alongside", way.rest | trip)
    yield _at(aboard, "situation.leaving", way.away)
    yield _at(aboard, "situation.laid_up", way.away)


def _at(aboard: Aboard, key: str, positions: dict[str, str]) -> Line:
    return Line(key, switches=aboard.shown(positions))


def _feeding(aboard: Aboard, key: str, positions: dict[str, str]) -> Line:
    """A situation without the engine: which banks feed what is on, and which is kept."""
    result = aboard.bench(positions)
    feeding = set() if result is None else aboard.feeding(result)
    fed = ", ".join(b.name for b in aboard.banks if b.id in feeding)
    kept = [b.name for b in aboard.banks if b.role == "engine" and b.id not in feeding]
    shown = aboard.shown(positions)
    if not fed:
        return Line(f"{key}.unknown", switches=shown)
    if not kept:
        return Line(f"{key}.shared", {"fed": fed}, "scheme", shown)
    return Line(key, {"fed": fed, "kept": ", ".join(kept)}, "scheme", shown)


def _otherwise(aboard: Aboard) -> Iterator[Line]:
    """The nights at anchor, right and with the banks together, run by the computation."""
    if not aboard.starters:
        return
    night, volts = aboard.first_failed_night(None)
    if night is None:
        values = {"nights": float(NIGHTS), "volts": volts}
        yield Line("anchor.right", values, "day")
    else:
        yield Line("anchor.fails", {"nights": float(night), "volts": volts}, "day")
    if aboard.joins:
        night, volts = aboard.first_failed_night(aboard.together)
        if night is not None:
            yield Line("anchor.together", {"nights": float(night), "volts": volts}, "day")


def nevers(aboard: Aboard) -> Iterator[Line]:
    """What breaks something on this boat: computed, never copied."""
    way = aboard.way
    seen: set[str] = set()
    for switch in battery_switches(aboard.design):
        for position in switch_positions(switch):
            if position == way.run.get(switch.id, switch.position):
                continue
            turned = way.run | {switch.id: position}
            result = aboard.bench(turned, engine="on")
            if result is None:
                continue
            for source in result.point.loose_sources:
                key = f"{switch.id} {position}"
                if key not in seen:
                    seen.add(key)
                    one = next(s for s in aboard.shown(turned) if s.switch == switch.id)
                    values: dict[str, float | str] = {
                        "switch": switch.name,
                        "position": one.mark,
                        "source": aboard.design.by_id[source].name,
                    }
                    yield Line("never.engine_off", values, "scheme", (one,))
    if aboard.joins and aboard.starters:
        night, volts = aboard.first_failed_night(aboard.together)
        if night is not None:
            shown = aboard.shown(aboard.together)
            values = {"nights": float(night), "volts": volts}
            yield Line("never.together_overnight", values, "day", shown)
    for bank in aboard.banks:
        if bank.chemistry == "lfp":
            yield Line("never.cold", {"bank": bank.name, "cold": 0.0}, "banks")
