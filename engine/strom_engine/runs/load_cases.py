"""States that load cables, contacts and batteries most, solved once for a design."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass
from functools import lru_cache

from strom_engine.batteries import HALF_SOC
from strom_engine.circuit import operating_point
from strom_engine.circuit.constants import CRUISE_RPM
from strom_engine.circuit.results import OperatingPoint
from strom_engine.design import (
    Bank,
    Design,
    FittedInverter,
    LoadGroup,
    Selector,
    Starter,
    State,
    default_positions,
    switch_positions,
)
from strom_engine.design.state import Switch, battery_switches
from strom_engine.reference import chemistry
from strom_engine.sizing import start_positions

__all__ = [
    "LoadCase",
    "busiest_profile",
    "charging_strains",
    "cranking_strains",
    "joined_positions",
    "lasting_strains",
    "low_strains",
    "turned_switches",
]

MOST_TURNS = 6  # positions beyond as drawn and all joined
MOST_BRIEF = 4  # brief items that run one at a time on top of all others, the largest first


@dataclass(frozen=True)
class LoadCase:
    """A state that loads the gear, in words, and what it comes to; ``brief``: for minutes."""

    words: str
    state: State
    point: OperatingPoint
    brief: bool = False


def turned_switches(design: Design) -> tuple[Switch, ...]:
    """Switches that people turn; breakers and inverters stay as they stand."""
    return battery_switches(design)


def joined_positions(design: Design) -> dict[str, str]:
    """Every switch where it joins most."""
    most = {s.id: s.facts.joined for s in turned_switches(design)}
    return default_positions(design) | most


def busiest_profile(design: Design) -> str | None:
    """The profile in which most is drawn."""
    drawn = {
        p.id: sum(
            item.draw_a
            for group in design.of_type(LoadGroup)
            for item in group.items
            if p.id in item.profiles
        )
        for p in design.profiles
    }
    return max(drawn, key=lambda p: drawn[p]) if drawn else None


def _ways(design: Design) -> dict[str, dict[str, str]]:
    """Positions in words: as drawn, everything joined, and each selector turned alone.

    What switches on or off only adds paths: with everything joined they are all there.
    """
    drawn, joined = default_positions(design), joined_positions(design)
    ways = {"as drawn": drawn}
    if joined != drawn:
        ways["everything joined"] = joined
    turns = [
        (s, position)
        for s in design.of_type(Selector)
        for position in switch_positions(s)
        if position not in ("off", drawn[s.id])
    ]
    for switch, position in turns[:MOST_TURNS]:
        turned = drawn | {switch.id: position}
        if turned not in ways.values():
            ways[f"{switch.name} on {position}"] = turned
    return ways


def _strain(
    design: Design, words: str, fields: dict[str, object], *, brief: bool = False
) -> LoadCase:
    state = State.model_validate(fields)
    return LoadCase(words, state, operating_point(design, state), brief)


@lru_cache(maxsize=32)
def charging_strains(design: Design) -> tuple[LoadCase, ...]:
    """Banks half empty, all sources on and the busiest profile: as drawn and all joined first."""
    busy: dict[str, object] = {
        "engine": "on",
        "rpm": CRUISE_RPM,
        "shore": True,
        "sun": 1.0,
        "profile": busiest_profile(design),
        "soc": {b.id: HALF_SOC for b in design.of_type(Bank)},
    }
    return tuple(
        _strain(design, words, {"positions": at} | busy) for words, at in _ways(design).items()
    )


@lru_cache(maxsize=32)
def low_strains(design: Design) -> tuple[LoadCase, ...]:
    """Banks at the low end of their usable window, nothing charging, the busiest profile.

    As drawn also with each of the largest brief items on top: a windlass, a thruster.
    """
    low = {b.id: chemistry(b.chemistry).usable_low_soc for b in design.of_type(Bank)}
    resting: dict[str, object] = {"profile": busiest_profile(design), "soc": low}
    found = [
        _strain(design, f"{words}, bank at its low end", {"positions": at} | resting)
        for words, at in _ways(design).items()
    ]
    drawn = default_positions(design)
    for name, item, _ in sorted(_brief(design), key=lambda b: -b[2])[:MOST_BRIEF]:
        words = f"as drawn, bank at its low end, {item} running"
        state = {"positions": drawn, "running": (name,)} | resting
        found.append(_strain(design, words, state, brief=True))
    return tuple(found)


def _brief(design: Design) -> Iterator[tuple[str, str, float]]:
    for group in design.of_type(LoadGroup):
        for item in group.items:
            if item.brief:
                yield f"{group.id}.{item.id}", item.name, item.draw_a
    for inverter in design.of_type(FittedInverter):
        for ac in inverter.items:
            if ac.brief:
                yield f"{inverter.id}.{ac.id}", ac.name, ac.power_w / design.system_v


def lasting_strains(design: Design) -> tuple[LoadCase, ...]:
    """Everything that lasts for minutes or longer."""
    return (*charging_strains(design), *low_strains(design))


@lru_cache(maxsize=32)
def cranking_strains(design: Design) -> tuple[LoadCase, ...]:
    """The start: by as few banks as can, as drawn, all joined; empty without a starter.

    One bank alone gives the starter all that it takes: that is what its cables are held against.
    """
    found = []
    for engine, field in (("first", "cranking"), ("second", "second_cranking")):
        starter = next((s for s in design.of_type(Starter) if s.engine == engine), None)
        if starter is not None:
            bank, alone = start_positions(design, starter)
            named = {
                f"on {bank.name} alone" if bank else "alone": alone,
                "as drawn": default_positions(design),
                "everything joined": joined_positions(design),
            }
            ways: dict[str, dict[str, str]] = {}
            for words, at in named.items():
                if at not in ways.values():
                    ways[words] = at
            found += [
                _strain(design, f"cranking, {words}", {"positions": at, field: True})
                for words, at in ways.items()
            ]
    return tuple(found)
