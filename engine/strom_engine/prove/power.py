"""Tests with power on and engine off: rest volts, what is dead, what is alive, on which bank."""

from __future__ import annotations

from collections.abc import Iterator, Mapping
from itertools import islice, product

from strom_engine.circuit import OperatingPoint
from strom_engine.design import Bank, Design, LoadGroup, State
from strom_engine.design.state import (
    battery_switches,
    default_positions,
    feed_switches,
    position_name,
    switch_positions,
)
from strom_engine.prove.points import settled
from strom_engine.prove.probing import clamp, volts
from strom_engine.prove.proving import Draft, look, measure, unsettled
from strom_engine.prove.settings import all_off

__all__ = ["ALIVE_SHARE", "positions", "power_on", "rest_key"]

ALIVE_SHARE = 0.5  # of a group's rated volts: above it is alive, below it is dead
REST_USEFUL_V = 0.5  # of a 12 V bank: half of what lies between full and empty
STANDING_USEFUL_A = 1.0
MOST_COMBINATIONS = 9
MOVED_V = 0.01  # less than a meter shows
SAG_USEFUL_V = 0.4


def rest_key(bank: str) -> str:
    """The key of the test that reads a bank's rest volts."""
    return f"rest:{bank}"


def power_on(design: Design) -> Iterator[Draft]:
    """Rest volts, off is off, what is always alive, and which switch cuts what."""
    off = State(positions=all_off(design))
    scale = design.system_v / 12
    for bank in design.of_type(Bank):
        yield measure(
            rest_key(bank.id), "power on", f"{bank.name} at rest", bank.id,
            (off, volts(f"{bank.id}.pos", f"{bank.id}.neg"), REST_USEFUL_V * scale),
            misses=("not charged, or rested too short", "a dead cell", "a load left on"),
            unrested=True,
        )  # fmt: skip
        leads = design.cables_on(f"{bank.id}.neg")
        if len(leads) == 1:
            yield measure(
                f"standing:{bank.id}", "power on", f"What {bank.name} gives with all off", bank.id,
                (off, clamp(leads[0], towards=f"{bank.id}.neg"), STANDING_USEFUL_A),
                misses=("an unlisted standing draw", "a switch whose off is not off"),
            )  # fmt: skip
    for group in design.of_type(LoadGroup):
        always = any(i.always_on for i in group.items)
        title = "lives with everything off" if always else "with everything off"
        yield measure(
            f"off:{group.id}", "power on", f"{group.name} {title}", group.id,
            (off, volts(f"{group.id}.pos", f"{group.id}.neg"), _alive_v(design, group) / 2),
            misses=(
                ("its fuse", "it hangs behind a switch", "its negative")
                if always
                else ("a feed around the switch", "a switch whose off is not off")
            ),
        )  # fmt: skip
    yield from _cut(design)


def _alive_v(design: Design, group: LoadGroup) -> float:
    return ALIVE_SHARE * design.nominal_v(group)


def _cut(design: Design) -> Iterator[Draft]:
    """With each switch off alone: what is dead then, and what still lives."""
    drawn = default_positions(design)
    for switch in battery_switches(design):
        if "off" not in switch_positions(switch):
            continue
        at = State(positions=drawn | {switch.id: "off"})
        title = f"{switch.name} off, everything else as used"
        points = [settled(design, State(positions=drawn)), settled(design, at)]
        if points[0] is None or points[1] is None:
            yield unsettled(f"cut:{switch.id}", "power on", title, switch.id, at)
            continue
        before, now = (_alive(design, p) for p in points if p is not None)
        names = {g.id: g.name for g in design.of_type(LoadGroup)}
        dead = [names[g] for g in names if before[g] and not now[g]]
        lives = [names[g] for g in names if now[g]]
        expects = f"dead: {', '.join(dead) or 'nothing'}; alive: {', '.join(lives) or 'nothing'}"
        yield look(
            f"cut:{switch.id}", "power on", title, switch.id, expects, state=at,
            misses=("a load hangs on another bank than drawn", "a feed around the switch"),
        )  # fmt: skip


def _alive(design: Design, point: OperatingPoint) -> Mapping[str, bool]:
    return {
        g.id: (point.loads[g.id].volts_v or 0.0) > _alive_v(design, g)
        for g in design.of_type(LoadGroup)
    }


def positions(design: Design) -> Iterator[Draft]:
    """Volts of every bank in every position with loads on: what carries sags."""
    feeds = feed_switches(design)
    turned = [s for s in battery_switches(design) if s.id not in feeds]
    profile = design.profiles[0].id if design.profiles else None
    if profile is None or not turned:
        return
    base = default_positions(design)
    base |= {s.id: s.facts.joined for s in battery_switches(design) if s.id in feeds}
    first: dict[str, float] = {}
    for chosen in islice(product(*(switch_positions(s) for s in turned)), MOST_COMBINATIONS):
        at = dict(zip((s.id for s in turned), chosen, strict=True))
        state = State(profile=profile, positions=base | at)
        words = ", ".join(f"{s.name} at {position_name(s, at[s.id])}" for s in turned)
        key = "+".join(chosen)
        point = settled(design, state)
        if point is None:
            yield unsettled(f"sag:{key}", "positions", f"Banks with {words}", turned[0].id, state)
            continue
        volts_now = {b: now.volts_v for b, now in point.banks.items()}
        first = first or volts_now
        for bank in design.of_type(Bank):
            if volts_now is not first and abs(volts_now[bank.id] - first[bank.id]) < MOVED_V:
                continue  # these positions are nothing to this bank
            yield measure(
                f"sag:{key}:{bank.id}", "positions", f"{bank.name} with {words}", bank.id,
                (
                    state,
                    volts(f"{bank.id}.pos", f"{bank.id}.neg"),
                    SAG_USEFUL_V * design.system_v / 12,
                ),
                misses=(
                    "loads hang on another bank than drawn",
                    "contacts of the switch",
                    "a weak bank",
                ),
            )  # fmt: skip
