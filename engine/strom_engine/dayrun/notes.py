"""What is written down when it begins: a load too low, an alternator too hot, a bank run flat."""

from __future__ import annotations

from collections.abc import Iterable

from strom_engine.circuit.constants import LOAD_FOLD_SHARE
from strom_engine.dayrun.heat import LIMIT_C
from strom_engine.dayrun.kernel import Moment
from strom_engine.dayrun.standing import Standing
from strom_engine.dayrun.watching import Deed, Reading, Watch, under
from strom_engine.design import Alternator, Design, LoadGroup, LoadItem

__all__ = ["least_v", "note_watches"]

SHORT_DIP_S = 5.0  # a dip while an engine cranks is no lost load


def least_v(design: Design, group: LoadGroup, item: LoadItem) -> float:
    """Voltage [V] below which an item is not served: its own, else where it no longer holds."""
    return item.min_v or LOAD_FOLD_SHARE * design.nominal_v(group)


def note_watches(design: Design, standing: Standing) -> Iterable[Watch]:
    """Watches that move nothing."""
    for part in design.components:
        if isinstance(part, Alternator):
            deed = Deed("note", part.id, "hot", f"{part.name} passes {LIMIT_C:g} °C")
            yield Watch(f"{part.id} hot", _hotter(part.id), 0.0, deed)
        elif isinstance(part, LoadGroup):
            on = [i for i in part.items if f"{part.id}.{i.id}" in standing.running]
            # One watch a group and limit: items that stop together are told of together.
            for limit_v in sorted({least_v(design, part, i) for i in on}, reverse=True):
                names = ", ".join(i.name for i in on if least_v(design, part, i) == limit_v)
                deed = Deed("note", part.id, "low", f"{names}: below {limit_v:g} V")
                posts = ((f"{part.id}.pos", f"{part.id}.neg"),)
                yield Watch(f"{part.id} {limit_v:g}", under(posts, limit_v), SHORT_DIP_S, deed)


def _hotter(name: str) -> Reading:
    def reading(now: Moment) -> float:
        return now.warmth_c[name] - LIMIT_C

    return reading
