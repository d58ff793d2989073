"""The widest way through metal between two posts."""

from __future__ import annotations

from strom_engine.circuit.network import Network
from strom_engine.design import Cable, Design

__all__ = ["widest_path"]


def widest_path(design: Design, net: Network, start: str, end: str) -> Cable | None:
    """The narrowest cable on the path whose narrowest cable is as wide as can be.

    None when no closed metal leads from one post to the other, or when no cable is needed.
    Adds cables from the widest down until the posts meet: the last one is the narrowest.
    """
    group = list(range(net.nodes.count))

    def root(i: int) -> int:
        while group[i] != i:
            group[i] = group[group[i]]
            i = group[i]
        return i

    areas = {c.id: c.area_mm2 for c in design.cables}
    contacts = [c for c in net.conductors if c.name not in areas]
    cables = sorted((c for c in net.conductors if c.name in areas), key=lambda c: -areas[c.name])
    for contact in contacts:
        group[root(contact.a)] = root(contact.b)
    for cable in cables:
        group[root(cable.a)] = root(cable.b)
        if root(net.node(start)) == root(net.node(end)):
            return design.cables_by_id[cable.name]
    return None
