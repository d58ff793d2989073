"""What is taken for seconds: inverters that surge, motors that start or stall, starters."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass
from functools import lru_cache

from strom_engine.circuit import operating_point
from strom_engine.design import (
    AcItem,
    Bank,
    Component,
    Design,
    FittedInverter,
    LoadGroup,
    LoadItem,
    Starter,
    State,
    default_positions,
)
from strom_engine.reference import chemistry
from strom_engine.runs.currents import full_inverter_a
from strom_engine.runs.load_cases import LoadCase, busiest_profile

__all__ = ["Surge", "surge_cases", "surge_w", "surges"]

# How long they last [s]; makers' data as commonly published.
MOTOR_S, INVERTER_S, INRUSH_S = 3.0, 5.0, 0.1
INVERTER_SURGE = 2.0  # times the rated power, where its maker's figure is not entered
MOST_CASES = 4
LEAST_SURGE_A = 15.0  # less than this moves no bank aboard; own judgement
SURGING = "surging"


@dataclass(frozen=True)
class Surge:
    """What one thing takes for seconds [A], by its plate; ``item`` of a feed, else the part."""

    part: str
    item: str | None
    name: str
    does: str
    amps: float
    lasts_s: float


def surge_w(part: FittedInverter) -> float:
    """What an inverter gives for seconds [W]: by its maker, else twice its rated power."""
    return part.surge_w or INVERTER_SURGE * part.rated_w


@lru_cache(maxsize=32)
def surges(design: Design) -> tuple[Surge, ...]:
    """Everything aboard that takes more for seconds than for minutes, the largest first.

    Args:
        design: the boat as surveyed.

    Returns:
        Amps [A] by label and plate, how long [s].
    """
    return tuple(sorted(_surges(design), key=lambda s: -s.amps))


def _surges(design: Design) -> Iterator[Surge]:
    for part in design.components:
        match part:
            case LoadGroup():
                for item in part.items:
                    if item.start_a is not None:
                        yield Surge(part.id, item.id, item.name, "starts", item.start_a, MOTOR_S)
            case FittedInverter():
                amps = full_inverter_a(part) * surge_w(part) / part.rated_w
                yield Surge(part.id, None, part.name, "surges", amps, INVERTER_S)
            case Starter(peak_a=float(peak_a)):
                yield Surge(part.id, None, part.name, "starts", peak_a, INRUSH_S)


@lru_cache(maxsize=32)
def surge_cases(design: Design) -> tuple[tuple[Surge, LoadCase], ...]:
    """The largest surges, each alone on the busiest profile, banks at their low end, as drawn.

    Nothing charges. A motor that starts is a resistance, an inverter takes its surge power.

    Args:
        design: the boat as surveyed.

    Returns:
        At most ``MOST_CASES``; starters are left to the states of cranking.
    """
    low = {b.id: chemistry(b.chemistry).usable_low_soc for b in design.of_type(Bank)}
    found = []
    for surge in surges(design):
        part = design.by_id[surge.part]
        if surge.amps < LEAST_SURGE_A or isinstance(part, Starter):
            continue
        surging, running = _surging(part, surge)
        parts = tuple(surging if p.id == part.id else p for p in design.components)
        state = State(
            positions=default_positions(design),
            soc=low,
            profile=busiest_profile(design),
            running=(running,),
        )
        point = operating_point(design.replace_unchecked(components=parts), state)
        words = f"{surge.name} {surge.does}, as drawn, bank at its low end"
        found.append((surge, LoadCase(words, state, point, brief=True)))
    return tuple(found[:MOST_CASES])


def _surging(part: Component, surge: Surge) -> tuple[Component, str]:
    """The part as it is while it surges, and the item that runs then."""
    if isinstance(part, FittedInverter):
        item = AcItem(id=SURGING, name=surge.name, power_w=surge_w(part))
        return part.model_copy(update={"items": (item,)}), f"{part.id}.{SURGING}"
    assert isinstance(part, LoadGroup)
    items: tuple[LoadItem, ...] = tuple(
        i.model_copy(update={"draw_a": surge.amps, "law": "resistance"})
        if i.id == surge.item
        else i
        for i in part.items
    )
    return part.model_copy(update={"items": items}), f"{part.id}.{surge.item}"
