"""Steps that several patterns share: how banks, sources, loads and sharing gear are landed."""

from __future__ import annotations

import math
from typing import Any

from strom_engine.design import Alternator, Bank, LoadGroup, Starter
from strom_engine.design.edits import NEW_BAR_A
from strom_engine.patterns.builder import Builder
from strom_engine.patterns.first_sizes import fuse_rating_a, switch_size
from strom_engine.reference import chemistry
from strom_engine.runs.currents import full_inverter_a

__all__ = [
    "always_on",
    "chargers",
    "dcdc",
    "house_main_a",
    "join_others",
    "land_alternator",
    "loads_behind",
    "one_way",
    "parallel",
    "protected",
    "relay",
    "sense",
    "small_sources",
    "start_behind",
]

MOST_STUDS = 24
POST_ROOM = 2  # cables beyond this go onto a bus
HEAVY_A = 40.0  # more than a branch of a panel is made for: a windlass, a thruster
CHARGE_SHARE = 0.2  # dc-dc charger against the bank it charges, lead 10-25 % (trade practice)
TOP_UP_SHARE = 0.1  # a bank that gives for minutes only needs topping up
ALTERNATOR_SHARE = 0.35  # of the label, so that an idling engine still holds its own bank up
RELAY_SIZES_A = (120.0, 140.0, 160.0, 250.0, 500.0)
DCDC_SIZES_A = (6, 10, 15, 20, 30, 40, 60)


def house_main_a(b: Builder) -> float:
    """What the house's main cable must carry [A]."""
    feeds = (g for g in b.aboard.house_feeds if not _always(g) and not _heavy(g))
    return max(40.0, sum(b.drawn_a(g) for g in feeds))


def loads_behind(b: Builder, post: str, bank: Bank) -> None:
    """House feeds behind a post, on a bus where they are many.

    Motors of minutes and inverters have a feed of their own from the bank, each with its fuse and
    its switch: what they draw then drags down nothing else.
    """
    feeds = []
    for group in _house_groups(b):
        if _heavy(group):
            b.switched(
                f"{bank.id}.pos", f"{group.id}.pos", b.drawn_a(group), group.name, brief=True
            )
        elif not _always(group):
            feeds.append((f"{group.id}.pos", b.drawn_a(group), group.name))
    for inverter in b.aboard.inverters:
        amps = full_inverter_a(inverter)
        b.switched(f"{bank.id}.pos", f"{inverter.id}.pos", amps, inverter.name, brief=False)
    if len(feeds) <= POST_ROOM:
        for end, amps, name in feeds:
            if not b.kept(post, end):
                b.fused(post, end, amps, f"{name} fuse")
        return
    studs = min(MOST_STUDS, max(6, len(feeds) + 2))
    bar = b.gear(
        "bus_bar",
        "House bus",
        must={"polarity": "pos"},
        own={"studs": studs, "rating_a": NEW_BAR_A},
    )
    b.run(post, f"{bar}.s1", house_main_a(b))
    for n, (end, amps, name) in enumerate(feeds, start=2):
        b.fused(f"{bar}.s{min(n, studs)}", end, amps, f"{name} fuse")


def _house_groups(b: Builder) -> list[LoadGroup]:
    """Feeds of the house; what draws heavily behind a panel gets a feed of its own."""
    found: list[LoadGroup] = []
    for group in b.aboard.house_feeds:
        heavy = tuple(i for i in group.items if i.brief and i.draw_a >= HEAVY_A)
        if len(group.items) > len(heavy) > 0:
            for item in heavy:
                own = b.split_off(group, (item,), item.name, item.id)
                b.minus(own.id, b.aboard.house or b.aboard.banks[0], item.draw_a)
                found.append(own)
        now = b.parts[group.id]
        assert isinstance(now, LoadGroup)
        found.append(now)
    return found


def _heavy(group: LoadGroup) -> bool:
    """Whether a feed is that of a motor of minutes, which wants a switch of its own."""
    return any(i.brief and i.draw_a >= HEAVY_A for i in group.items)


def always_on(b: Builder, bank: Bank) -> None:
    """Circuits that no switch cuts, each with its own fuse at the bank.

    What is always on behind a panel gets a feed of its own.
    """
    for was in b.aboard.house_feeds:
        group = b.parts[was.id]
        assert isinstance(group, LoadGroup)
        kept = tuple(item for item in group.items if item.always_on)
        if kept and not _always(group):
            own = b.split_off(group, kept, f"{group.name}, always on", f"{group.id}_always")
            b.fused(f"{bank.id}.pos", f"{own.id}.pos", b.drawn_a(own), f"{own.name} fuse")
            b.minus(own.id, bank, b.drawn_a(own))
        if _always(group):
            b.fused(f"{bank.id}.pos", f"{group.id}.pos", b.drawn_a(group), f"{group.name} fuse")


def small_sources(b: Builder, bank: Bank) -> None:
    """Panels, wind and towed generators onto a bank."""
    for source in b.aboard.small_sources:
        if not b.kept(f"{source.id}.pos", f"{bank.id}.pos"):
            b.fused(f"{bank.id}.pos", f"{source.id}.pos", source.label_a, f"{source.name} fuse")


def chargers(b: Builder, banks: list[Bank]) -> None:
    """Each output of every shore charger onto a bank of its own, the first bank first."""
    for charger in b.aboard.chargers:
        outs = [f"{charger.id}.out{n}" for n in range(1, charger.outputs + 1)]
        for out, bank in zip(outs, _landed(b, outs, banks), strict=False):
            if not b.kept(out, f"{bank.id}.pos"):
                name = f"{charger.name} fuse, {bank.name.lower()}"
                b.fused(f"{bank.id}.pos", out, charger.rated_a, name)


def _landed(b: Builder, outs: list[str], banks: list[Bank]) -> list[Bank]:
    """Which bank each output goes to: the one it was on, the others in order."""
    by_post = {f"{bank.id}.pos": bank for bank in banks}
    was: dict[str, Bank] = {}
    for out in outs:
        for cable in b.design.cables:
            ends = {cable.start, cable.end}
            near = ends & set(by_post)
            if out in ends and near:
                was[out] = by_post[near.pop()]
    left = [bank for bank in banks if bank not in was.values()]
    found = []
    for out in outs:
        if out in was:
            found.append(was[out])
        elif left:
            found.append(left.pop(0))
    return found


def land_alternator(b: Builder, alternator: Alternator, bank: Bank) -> None:
    """An alternator onto a bank, fused at the bank, with its sense leads if it has any."""
    b.fused(f"{bank.id}.pos", f"{alternator.id}.out", alternator.rated_a, f"{alternator.name} fuse")
    sense(b, alternator, bank)


def sense(b: Builder, alternator: Alternator, bank: Bank) -> None:
    """Both sense leads of an external regulator onto a bank, the positive one fused."""
    if alternator.sensing == "external":
        plus, minus = f"{alternator.id}.sense_pos", f"{alternator.id}.sense_neg"
        if not b.kept(plus, f"{bank.id}.pos"):
            fused = b.fuse_at(f"{bank.id}.pos", 1.0, f"{alternator.name} sense fuse", plus)
            b.run(fused, plus, 0.1, sense=True)
        for cable in [c for c in b.cables.values() if minus in (c.start, c.end)]:
            del b.cables[cable.id]
        b.run(minus, f"{bank.id}.neg", 0.1, sense=True)


def start_behind(b: Builder, post: str, starter: Starter) -> None:
    """A starter behind a post."""
    b.cranking(post, f"{starter.id}.pos")


def parallel(b: Builder, first: str, second: str, name: str = "Parallel switch") -> None:
    """A switch that joins two posts in an emergency, off at rest."""
    switch = b.gear("switch", name, {"purpose": "parallel"}, {"position": "off"})
    b.cranking(first, f"{switch}.a")
    b.cranking(f"{switch}.b", second)


def relay(b: Builder, first: Bank, second: Bank, name: str, sensing: str = "dual") -> None:
    """A combining relay between two banks, fused at both, its thin negative landed."""
    must = {"sensing": "dual"} if sensing == "dual" else {}
    sources = sum(a.rated_a for a in b.aboard.alternators) + sum(
        c.rated_a for c in b.aboard.chargers
    )
    # The relay carries what its fuses let pass, those what all sources give together.
    wanted = fuse_rating_a(sources)
    rating = next((r for r in RELAY_SIZES_A if r >= wanted), RELAY_SIZES_A[-1])
    part = b.gear("relay", name, must, {"sensing": sensing}, {"rating_a": rating})
    for bank, post in ((first, "a"), (second, "b")):
        b.fused(f"{bank.id}.pos", f"{part}.{post}", sources, f"{name} fuse, {bank.name.lower()}")
    b.minus(part, first, 0.1)
    b.join_negatives(first, second)


def dcdc(b: Builder, first: Bank, second: Bank, name: str, *, ignition: bool = False) -> None:
    """A dc-dc charger from a bank to another, set for the second one's chemistry."""
    blocks = second.nominal_v / 12
    # Amps of its output that the machines behind its input can feed: each engine has its own.
    behind = sum(a.rated_a for a in b.aboard.alternators) or math.inf
    if first.role == "engine":
        behind /= max(1, sum(bank.role == "engine" for bank in b.aboard.banks))
    volts = first.nominal_v / second.nominal_v
    share = CHARGE_SHARE if second.role == "house" else TOP_UP_SHARE
    wanted = min(share * second.capacity_ah, ALTERNATOR_SHARE * behind * volts)
    limit = max((a for a in DCDC_SIZES_A if a <= wanted), default=DCDC_SIZES_A[0])
    # It runs only while its bank is being charged: above what a full lead bank rests at. From
    # lithium, whose rest lies higher than any such threshold, with the engine alone.
    lithium = b.aboard.is_lithium(first)
    start_v, stop_v = (13.0, 12.8) if lithium else (13.3, 12.8)
    scale = first.nominal_v / 12
    own: dict[str, Any] = {  # Any: fields of whichever part
        "limit_a": float(limit),
        "ignition": ignition or lithium,
        "set_v": round(chemistry(second.chemistry).absorption_v * blocks, 2),
        "start_v": round(start_v * scale, 2),
        "stop_v": round(stop_v * scale, 2),
    }
    part = b.gear("dcdc", name, own=own)
    for bank, post in ((first, "in"), (second, "out")):
        amps = limit * 1.25 / volts if post == "in" else limit
        b.fused(f"{bank.id}.pos", f"{part}.{post}", amps, f"{name} fuse, {bank.name.lower()}")
    b.minus(part, first, limit)
    b.join_negatives(first, second)


def one_way(b: Builder, first: Bank, second: Bank, name: str) -> None:
    """A one-way combiner from a charged bank to one that only needs topping up."""
    part = b.gear("one_way", name)
    for bank, post in ((first, "in"), (second, "out")):
        b.fused(f"{bank.id}.pos", f"{part}.{post}", 15, f"{name} fuse, {bank.name.lower()}")
    b.minus(part, first, 0.1)
    b.join_negatives(first, second)


def protected(b: Builder, bank: Bank) -> str:
    """The disconnect of a lithium bank at its positive post; returns what lies behind it."""
    scale = bank.nominal_v / 12
    own = {"guards": bank.id, "high_v": 14.8 * scale, "low_v": 11.2 * scale}
    part = b.gear("protection", f"{bank.name} protection", {"guards": bank.id}, own)
    b.run(f"{bank.id}.pos", f"{part}.bank", max(150.0, house_main_a(b)), 0.3)
    b.stand_in[f"{bank.id}.pos"] = f"{part}.system"
    return f"{part}.system"


def join_others(b: Builder, source: Bank, *, by_dcdc: bool = False) -> None:
    """Every further bank: its own switch and loads, its charge shared from a bank."""
    for bank in b.aboard.others:
        if bank.id in b.done:
            continue
        feeds = b.aboard.feeds_of(bank)
        if feeds:
            amps = max(b.drawn_a(g) for g in feeds)
            switch = b.gear(
                "switch",
                f"{bank.name} switch",
                {"purpose": "isolate"},
                new={"position": "on"} | switch_size(amps, amps),
                near=bank,
            )
            b.fused(f"{bank.id}.pos", f"{switch}.a", amps, f"{bank.name} fuse")
            for group in feeds:
                b.run(f"{switch}.b", f"{group.id}.pos", amps)
        if by_dcdc or not b.aboard.alike(source, bank):
            dcdc(b, source, bank, f"{bank.name} dc-dc charger")
        else:
            relay(b, source, bank, f"{bank.name} relay")


def _always(group: LoadGroup) -> bool:
    return bool(group.items) and all(item.always_on for item in group.items)
