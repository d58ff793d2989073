"""Readings to look for a fault with: every bank, feed, source and conductor at work."""

from __future__ import annotations

from collections.abc import Iterator
from math import inf

from strom_engine.circuit import OperatingPoint
from strom_engine.design import Bank, Cable, Design, LoadGroup, Solar, Starter, State
from strom_engine.design.state import battery_switches, switch_positions
from strom_engine.prove.charging import CRANKING, HOT
from strom_engine.prove.points import settled
from strom_engine.prove.probing import Probe, clamp, volts
from strom_engine.prove.proving import Draft, measure
from strom_engine.prove.settings import CRUISE_RPM, all_off

__all__ = ["search_drafts"]

CARRIES_A = 3.0  # a conductor that carries less drops too little to be read
CLAMP_A = 1.0
CLOSED_V = 0.3  # across a contact that is closed: less than this as designed
SUN = 0.8


def search_drafts(design: Design) -> tuple[Draft, ...]:
    """Every reading worth taking: volts of banks, feeds, sources; drop and amps of conductors.

    What would endanger is not among them: no open charge circuits, no shorts, no lifted leads of
    a running machine.

    Args:
        design: the boat as built, as surveyed.
    """
    found: dict[str, Draft] = {}
    for name, words, state in _states(design):
        point = settled(design, state)
        if point is None:
            continue  # nothing is predicted there, so that nothing could be weighed
        for draft in _readings(design, name, words, state, point):
            found.setdefault(draft.key, draft)
    return tuple(found.values())


def _states(design: Design) -> Iterator[tuple[str, str, State]]:
    yield "rest", "everything off", State(positions=all_off(design))
    if design.of_type(Starter):
        yield "crank", "cranking", State(cranking=True)
        yield "engine", "engine running", State(engine="on", rpm=CRUISE_RPM)
    yield "shore", "shore lead in", State(shore=True)
    if design.of_type(Solar):
        yield "sun", "sun on the panels", State(sun=SUN)
    for switch in battery_switches(design):
        for position in switch_positions(switch):
            at = State(positions={switch.id: position}, running=_largest(design))
            yield f"{switch.id}_{position}", f"{switch.name} at {position}, loads on", at
    for group in design.of_type(LoadGroup):
        if group.items:
            item = max(group.items, key=lambda i: i.draw_a)
            at = State(running=(f"{group.id}.{item.id}",))
            yield f"load_{group.id}", f"{item.name} running", at


def _largest(design: Design) -> tuple[str, ...]:
    """The largest item of every feed, but for those of seconds."""
    found = []
    for group in design.of_type(LoadGroup):
        items = [i for i in group.items if not i.brief]
        if items:
            found.append(f"{group.id}.{max(items, key=lambda i: i.draw_a).id}")
    return tuple(found)


def _readings(
    design: Design, name: str, words: str, state: State, point: OperatingPoint
) -> Iterator[Draft]:
    for part in design.components:
        posts = part.posts()
        plus = next((p for p in ("pos", "out", "out1") if p in posts), None)
        if plus is None or "neg" not in posts:
            continue
        at = volts(f"{part.id}.{plus}", f"{part.id}.neg")
        yield _draft(f"{name}:{part.id}", f"{part.name}, {words}", part.id, state, at)
    for cable in design.cables:
        amps = abs(point.conductor_a[cable.id])
        if amps < CLAMP_A:
            continue
        label = design.cable_name(cable)
        around = clamp(cable, towards=cable.end)
        yield _draft(f"{name}:amps:{cable.id}", f"Amps in {label}, {words}", "", state, around)
        if amps >= CARRIES_A:
            along = _along(design, cable, point)
            yield _draft(f"{name}:drop:{cable.id}", f"Drop of {label}, {words}", "", state, along)
    for part in design.components:
        for a, b in part.joins():
            across = volts(f"{part.id}.{a}", f"{part.id}.{b}")
            passing = max(
                (abs(point.conductor_a[c.id]) for c in design.cables_on(f"{part.id}.{b}")),
                default=0.0,
            )
            between = point.volts_between(f"{part.id}.{a}", f"{part.id}.{b}")
            closed = between is not None and abs(between) < CLOSED_V * design.system_v / 12
            if passing >= CARRIES_A and closed and not isinstance(part, Bank):
                ends = f"{a} to {b}".replace("_", " ")
                title = f"Across {part.name}, {ends}, {words}"
                yield _draft(f"{name}:across:{part.id}:{a}:{b}", title, part.id, state, across)


def _along(design: Design, cable: Cable, point: OperatingPoint) -> Probe:
    """Volts along a cable, the way its current goes."""
    if point.conductor_a[cable.id] < 0:
        return volts(cable.end, cable.start)
    return volts(cable.start, cable.end)


def _draft(key: str, title: str, part: str, state: State, probe: Probe) -> Draft:
    caution = CRANKING if state.cranking else HOT if state.engine == "on" else ""
    minutes = 3.0 if state.cranking or state.engine == "on" else 1.0
    return measure(
        f"search:{key}", "power on", title, part, (state, probe, inf),
        caution=caution, minutes=minutes,
    )  # fmt: skip
