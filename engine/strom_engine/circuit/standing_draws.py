"""What relays, converters, controllers and monitors draw by themselves."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass

from strom_engine.circuit.network import Network
from strom_engine.design import (
    Bank,
    Component,
    DcDc,
    Design,
    OneWayCombiner,
    Protection,
    Relay,
    Shunt,
    Solar,
    State,
)
from strom_engine.reference import load_table

__all__ = ["StandingDraw", "standing_draws", "usual_draw_a"]

TABLE_V = 12.0  # the system that the table's figures are of


@dataclass(frozen=True)
class StandingDraw:
    """What a part draws by itself [A], and between which posts."""

    part: str
    name: str
    amps: float
    plus: str
    minus: str


def usual_draw_a(kind: str, how: str, system_v: float) -> float:
    """A usual standing draw [A]; at another system voltage the power stays.

    Source: reference table standing_draws.
    """
    rows = load_table("standing_draws").rows
    row = next(r for r in rows if (r["kind"], r["state"]) == (kind, how))
    return float(row["amps"]) * TABLE_V / system_v


def standing_draws(design: Design, state: State, net: Network) -> Iterator[StandingDraw]:
    """Everything that draws by itself as things stand: its own figure, else a usual one."""
    for part in design.components:
        for how, own, plus, minus in _draws(design, part, state, net):
            amps = usual_draw_a(part.kind, how, design.system_v) if own is None else own
            yield StandingDraw(part.id, f"{part.id}.idle", amps, plus, minus)


def _draws(
    design: Design, part: Component, state: State, net: Network
) -> Iterator[tuple[str, float | None, str, str]]:
    moved, neg = part.id in net.moved, f"{part.id}.neg"
    match part:
        case Relay():
            if part.ignition and not state.engine_runs("first"):
                return
            how, own = ("closed", part.closed_a) if moved else ("open", part.idle_a)
            side = "a" if part.sensing == "dual" else part.sensing
            yield how, own, f"{part.id}.{side}", neg
        case DcDc() | OneWayCombiner() if not moved:
            yield "open", part.idle_a, f"{part.id}.in", neg
        case Solar():
            yield "always", part.idle_a, f"{part.id}.pos", neg
        case Protection():
            yield "always", part.idle_a, f"{part.guards}.pos", f"{part.guards}.neg"
        case Shunt():
            at = net.group(f"{part.id}.bank")
            bank = next((b for b in design.of_type(Bank) if net.group(f"{b.id}.neg") == at), None)
            if bank is not None:
                yield "always", part.idle_a, f"{bank.id}.pos", f"{part.id}.system"
        case _:
            return
