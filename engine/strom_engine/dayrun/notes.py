"""What is written down when it begins: a load too low, an alternator too hot."""

from __future__ import annotations

from collections.abc import Iterable

from strom_engine.circuit.constants import LOAD_FOLD_SHARE
from strom_engine.dayrun.conditions import Action, Condition, Reading, under
from strom_engine.dayrun.heat import LIMIT_C
from strom_engine.dayrun.kernel import Snapshot
from strom_engine.design import Alternator, Design, LoadGroup, LoadItem

__all__ = ["LoadNotes", "heat_conditions", "least_v"]

SHORT_DIP_S = 5.0  # a dip while an engine cranks is no lost load


def least_v(design: Design, group: LoadGroup, item: LoadItem) -> float:
    """Voltage [V] below which an item is not served: its own, else where it no longer holds."""
    return item.min_v or LOAD_FOLD_SHARE * design.nominal_v(group)


def heat_conditions(design: Design) -> Iterable[Condition]:
    """Every alternator as it passes its limit."""
    for part in design.of_type(Alternator):
        action = Action("note", part.id, "hot", f"{part.name} passes {LIMIT_C:g} °C")
        yield Condition(f"{part.id} hot", _hotter(part.id), 0.0, action)


def _hotter(name: str) -> Reading:
    def reading(now: Snapshot) -> float:
        return now.warmth_c[name] - LIMIT_C

    return reading


class LoadNotes:
    """Watches of the loads, one for each group and limit: what stops together is told together."""

    def __init__(self, design: Design) -> None:
        self._groups = [
            (g, {f"{g.id}.{i.id}": (i.name, least_v(design, g, i)) for i in g.items})
            for g in design.of_type(LoadGroup)
        ]
        self._refs = [frozenset(items) for _, items in self._groups]
        self._made: dict[frozenset[str], tuple[Condition, ...]] = {}

    def conditions(self, running: frozenset[str]) -> tuple[Condition, ...]:
        """Watches of what is switched on."""
        found: list[Condition] = []
        for (group, items), refs in zip(self._groups, self._refs, strict=True):
            on = refs & running
            if not on:
                continue
            if on not in self._made:
                self._made[on] = tuple(_load_watches(group, [items[ref] for ref in sorted(on)]))
            found += self._made[on]
        return tuple(found)


def _load_watches(group: LoadGroup, on: list[tuple[str, float]]) -> Iterable[Condition]:
    """Watches of a group's items that are on, each with its name and least voltage [V]."""
    for limit_v in dict.fromkeys(least for _, least in on):
        names = ", ".join(name for name, least in on if least == limit_v)
        where = f"{names} on {group.name}"
        action = Action(
            "note", group.id, "low", f"{where}: below {limit_v:g} V", f"{where}: nothing reaches it"
        )
        low = under(((f"{group.id}.pos", f"{group.id}.neg"),), limit_v)
        yield Condition(f"{group.id} {limit_v:g}", low, SHORT_DIP_S, action)
