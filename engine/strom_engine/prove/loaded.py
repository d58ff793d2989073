"""Tests of runs: what a load gets at its own terminals while it runs, and where the rest goes."""

from __future__ import annotations

from collections.abc import Iterator

from strom_engine.design import Bank, Design, LoadGroup, LoadItem, State
from strom_engine.prove.points import settled
from strom_engine.prove.probing import volts
from strom_engine.prove.proving import Draft, measure, unsettled

__all__ = ["loaded"]

LEAST_A = 3.0  # a load that draws less drops too little to be read; own judgement
LOAD_USEFUL_V = 0.5
DROP_USEFUL_V = 0.2
MISSES = ("thin or long cable", "a crimp, stud, fuse or contact on the way")


def loaded(design: Design) -> Iterator[Draft]:
    """Volts at the largest load of every feed while it runs, drop in plus and in minus."""
    for group in design.of_type(LoadGroup):
        item = max(group.items, key=lambda i: i.draw_a, default=None)
        if item is not None and item.draw_a >= LEAST_A:
            yield from _of(design, group, item)


def _of(design: Design, group: LoadGroup, item: LoadItem) -> Iterator[Draft]:
    state = State(running=(f"{group.id}.{item.id}",))
    point = settled(design, state)
    if point is None:
        yield unsettled(f"run:{group.id}", "runs", f"{item.name} running", group.id, state)
        return
    given = point.loads[group.id].given_by_a
    banks = [b for b in design.of_type(Bank) if given.get(b.id, 0.0) > 0]
    if not banks:
        return
    bank = max(banks, key=lambda b: given[b.id])
    scale, key = design.nominal_v(group) / 12, group.id
    yield measure(
        f"run:{key}:load", "runs", f"{item.name} at its own terminals", key,
        (state, volts(f"{key}.pos", f"{key}.neg"), LOAD_USEFUL_V * scale),
        misses=("a weak bank", "it hangs on another bank than drawn", *MISSES),
    )  # fmt: skip
    yield measure(
        f"run:{key}:plus", "runs", f"Drop in plus, {bank.name} to {group.name}", key,
        (state, volts(f"{bank.id}.pos", f"{key}.pos"), DROP_USEFUL_V * scale), misses=MISSES,
    )  # fmt: skip
    yield measure(
        f"run:{key}:minus", "runs", f"Drop in minus, {group.name} to {bank.name}", key,
        (state, volts(f"{key}.neg", f"{bank.id}.neg"), DROP_USEFUL_V * scale), misses=MISSES,
    )  # fmt: skip
