"""What a change of contacts does at once: banks come together, alternators lose theirs."""

from __future__ import annotations

from collections.abc import Iterable
from typing import NamedTuple

from strom_engine.dayrun.discrete_state import DiscreteState
from strom_engine.dayrun.events import EventKind
from strom_engine.dayrun.kernel import Snapshot
from strom_engine.dayrun.simulation_context import SimulationContext
from strom_engine.design import Alternator

__all__ = ["News", "inrushes", "load_dumps", "unlike_joined"]

Sets = tuple[tuple[str, ...], ...]
DUMPED_A = 5.0  # below this an alternator that loses its bank does no harm


class News(NamedTuple):
    """What is to be told: see Event."""

    kind: EventKind
    part: str
    words: str
    to: str
    value: float | None = None
    unit: str = ""


def inrushes(
    world: SimulationContext, old: Snapshot, now: Snapshot, discrete: DiscreteState
) -> Iterable[News]:
    """The inrush where banks that were apart come together, at the first instant."""
    new = _newly(old.kernel.joined_banks, now.kernel.joined_banks)
    if not new or discrete.cranking:
        return
    for ids in new:
        inrush_a = max(abs(now.amps(n)) for n in ids)
        words = f"{_names(world, ids)} come together: {inrush_a:.0f} A at first"
        yield News("join", ids[0], words, "+".join(ids), inrush_a, "A")


def unlike_joined(world: SimulationContext, old: Snapshot, now: Snapshot) -> Iterable[News]:
    """Lead and lithium that hang together and did not before."""
    for ids in _newly(old.kernel.unlike_banks, now.kernel.unlike_banks):
        yield News("hazard", ids[0], f"{_names(world, ids)} are joined though unlike", "unlike")


def load_dumps(world: SimulationContext, old: Snapshot, now: Snapshot) -> Iterable[News]:
    """Alternators that lose their bank while they give."""
    for name in now.kernel.circuit.loose_sources:
        part = world.design.by_id[name]
        if not isinstance(part, Alternator) or name in old.kernel.circuit.loose_sources:
            continue
        given_a = -old.amps(name)
        if given_a > DUMPED_A:
            words = f"{part.name} loses its bank while it gives {given_a:.0f} A: load dump"
            yield News("hazard", name, words, "load_dump", given_a, "A")


def _newly(old: Sets, now: Sets) -> list[tuple[str, ...]]:
    """Sets of banks that were not together before; what is left of a larger set was."""
    return sorted(ids for ids in now if not any(set(ids) <= set(before) for before in old))


def _names(world: SimulationContext, ids: tuple[str, ...]) -> str:
    *names, last = (world.design.by_id[n].name for n in ids)
    return f"{', '.join(names)} and {last}"
