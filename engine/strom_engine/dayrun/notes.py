"""What is written down when it begins: a load too low, an alternator too hot."""

from __future__ import annotations

from collections.abc import Iterable

from strom_engine.circuit.constants import LOAD_FOLD_SHARE
from strom_engine.dayrun.heat import LIMIT_C
from strom_engine.dayrun.kernel import Moment
from strom_engine.dayrun.watching import Deed, Reading, Watch, under
from strom_engine.design import Alternator, Design, LoadGroup, LoadItem

__all__ = ["LoadNotes", "heat_watches", "least_v"]

SHORT_DIP_S = 5.0  # a dip while an engine cranks is no lost load


def least_v(design: Design, group: LoadGroup, item: LoadItem) -> float:
    """Voltage [V] below which an item is not served: its own, else where it no longer holds."""
    return item.min_v or LOAD_FOLD_SHARE * design.nominal_v(group)


def heat_watches(design: Design) -> Iterable[Watch]:
    """Every alternator as it passes its limit."""
    for part in design.of_type(Alternator):
        deed = Deed("note", part.id, "hot", f"{part.name} passes {LIMIT_C:g} °C")
        yield Watch(f"{part.id} hot", _hotter(part.id), 0.0, deed)


def _hotter(name: str) -> Reading:
    def reading(now: Moment) -> float:
        return now.warmth_c[name] - LIMIT_C

    return reading


class LoadNotes:
    """Watches of the loads, one for each group and limit: what stops together is told together."""

    def __init__(self, design: Design) -> None:
        self._items: dict[str, tuple[LoadGroup, LoadItem, float]] = {
            f"{g.id}.{i.id}": (g, i, least_v(design, g, i))
            for g in design.of_type(LoadGroup)
            for i in g.items
        }
        self._names = {g.id: g.name for g in design.of_type(LoadGroup)}
        self._made: dict[tuple[str, float, tuple[str, ...]], Watch] = {}

    def watches(self, running: frozenset[str]) -> tuple[Watch, ...]:
        """Watches of what is switched on."""
        together: dict[tuple[str, float], list[str]] = {}
        for ref in sorted(running):
            if ref in self._items:
                group, item, limit_v = self._items[ref]
                together.setdefault((group.id, limit_v), []).append(item.name)
        return tuple(self._watch(*key, tuple(names)) for key, names in together.items())

    def _watch(self, group: str, limit_v: float, names: tuple[str, ...]) -> Watch:
        key = group, limit_v, names
        if key not in self._made:
            where = f"{', '.join(names)} on {self._names[group]}"
            deed = Deed("note", group, "low", f"{where}: below {limit_v:g} V")
            low = under(((f"{group}.pos", f"{group}.neg"),), limit_v)
            self._made[key] = Watch(f"{group} {limit_v:g}", low, SHORT_DIP_S, deed)
        return self._made[key]
