"""The common negative of banks that can be joined: as large as the positive link."""

from __future__ import annotations

from itertools import combinations

from strom_engine.circuit.network import Network, network
from strom_engine.circuit.widest_path import widest_path
from strom_engine.design import Bank, Cable, DcDc, Design, Relay, default_positions
from strom_engine.design.state import switches

__all__ = ["with_equal_negative"]


def with_equal_negative(design: Design) -> Design:
    """The design with thin negatives between joined banks made as thick as the positive link.

    Source: ABYC E-11, common negative of paralleled batteries; confirm in the edition in force.
    """
    found = design
    while thicker := _thicker(found):
        cables = tuple(thicker if c.id == thicker.id else c for c in found.cables)
        found = found.replace_unchecked(cables=cables)
    return found


def _thicker(design: Design) -> Cable | None:
    """The first negative cable that is thinner than the positive link, as thick as that."""
    positions = default_positions(design) | {s.id: s.facts.joined for s in switches(design)}
    relays = frozenset(p.id for p in design.of_type(Relay))
    net = network(design, positions, relays)
    for a, b in combinations(design.of_type(Bank), 2):
        plus = widest_path(design, net, f"{a.id}.pos", f"{b.id}.pos")
        minus = widest_path(design, net, f"{a.id}.neg", f"{b.id}.neg")
        if plus and minus and minus.area_mm2 < plus.area_mm2:
            return minus.model_copy(update={"gauge": plus.gauge})
    return _thicker_behind_charger(design, net)


def _thicker_behind_charger(design: Design, net: Network) -> Cable | None:
    """The way back of what a dc-dc charger takes: as thick as the cable of its input."""
    for part in design.of_type(DcDc):
        taken = next((c for c in design.cables if f"{part.id}.in" in (c.start, c.end)), None)
        for bank in design.of_type(Bank):
            minus = widest_path(design, net, f"{bank.id}.neg", f"{part.id}.neg")
            if taken and minus and minus.area_mm2 < taken.area_mm2:
                return minus.model_copy(update={"gauge": taken.gauge})
    return None
