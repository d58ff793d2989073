"""How each pattern is built: one function a scheme, of the steps that they share."""

from __future__ import annotations

from strom_engine.design import Bank
from strom_engine.patterns.builder import Builder
from strom_engine.patterns.steps import (
    always_on,
    chargers,
    dcdc,
    house_main_a,
    join_others,
    land_alternator,
    loads_behind,
    one_way,
    parallel,
    protected,
    relay,
    sense,
    small_sources,
    start_behind,
)

__all__ = [
    "bypass_relay",
    "charger_each",
    "dual_relay",
    "engine_dcdc",
    "house_one_way",
    "isolator",
    "lithium_alternator",
    "lithium_dcdc",
    "selector_only",
    "selector_relay",
    "single",
    "single_sensing",
    "start_one_way",
    "three_banks",
    "two_engine_scheme",
]

ON = {"position": "on"}  # how a new switch is left


def _both(b: Builder) -> tuple[Bank, Bank]:
    engine, house = b.aboard.engine, b.aboard.house
    assert engine is not None  # the pattern does not fit without
    assert house is not None
    b.join_negatives(engine, house)
    return engine, house


def _small_things(b: Builder, house: Bank, engine: Bank | None) -> None:
    """Always-on circuits, small sources and chargers onto the house bank first."""
    always_on(b, house)
    small_sources(b, house)
    chargers(b, [bank for bank in (house, engine, *b.aboard.others) if bank is not None])


def single(b: Builder) -> None:
    """One bank behind one switch."""
    bank = b.aboard.banks[0]
    switch = b.gear("switch", "Main switch", {"purpose": "isolate"}, new=ON)
    b.cranking(f"{bank.id}.pos", f"{switch}.a")
    for starter in b.aboard.starters:
        start_behind(b, f"{switch}.b", starter)
    loads_behind(b, f"{switch}.b", bank)
    for alternator in b.aboard.alternators:
        land_alternator(b, alternator, bank)
    _small_things(b, bank, None)


def _selector(b: Builder) -> tuple[Bank, Bank]:
    """A selector that makes before it breaks; the alternator lands before it, never cut off."""
    engine, house = _both(b)
    selector = b.gear("selector", "Main selector", {"make_before_break": True}, {"position": "1"})
    b.cranking(f"{engine.id}.pos", f"{selector}.one")
    b.fused(f"{house.id}.pos", f"{selector}.two", max(150.0, house_main_a(b)), "House main fuse")
    for starter in b.aboard.starters:
        start_behind(b, f"{selector}.common", starter)
    loads_behind(b, f"{selector}.common", house)
    _small_things(b, house, engine)
    return engine, house


def selector_only(b: Builder) -> None:
    """A selector; the alternator on the engine bank."""
    engine, _ = _selector(b)
    for alternator in b.aboard.alternators:
        land_alternator(b, alternator, engine)
    join_others(b, engine)


def selector_relay(b: Builder) -> None:
    """A selector, and a relay that shares the charge."""
    engine, house = _selector(b)
    for alternator in b.aboard.alternators:
        land_alternator(b, alternator, house)
    relay(b, engine, house, "Combining relay")
    join_others(b, house)


def _dual(b: Builder) -> tuple[Bank, Bank]:
    engine, house = _both(b)
    switch = b.gear("dual_switch", "Main switch", new=ON)
    b.cranking(f"{engine.id}.pos", f"{switch}.engine_in")
    b.fused(f"{house.id}.pos", f"{switch}.house_in", max(150.0, house_main_a(b)), "House main fuse")
    for starter in b.aboard.starters:
        start_behind(b, f"{switch}.engine_out", starter)
    loads_behind(b, f"{switch}.house_out", house)
    _small_things(b, house, engine)
    return engine, house


def dual_relay(b: Builder) -> None:
    """A dual-circuit switch, and a relay that shares the charge."""
    engine, house = _dual(b)
    for alternator in b.aboard.alternators:
        land_alternator(b, alternator, house)
    relay(b, engine, house, "Combining relay")
    join_others(b, house)


def _switches(b: Builder, *, bypass: bool) -> tuple[Bank, Bank]:
    """An on/off switch for each bank, and a parallel switch where banks are alike."""
    engine, house = _both(b)
    isolate = {"purpose": "isolate"}
    engine_switch = b.gear("switch", "Engine switch", isolate, new=ON, near=engine)
    house_switch = b.gear("switch", "House switch", isolate, new=ON, near=house)
    b.cranking(f"{engine.id}.pos", f"{engine_switch}.a")
    b.fused(f"{house.id}.pos", f"{house_switch}.a", max(150.0, house_main_a(b)), "House main fuse")
    for starter in b.aboard.starters:
        start_behind(b, f"{engine_switch}.b", starter)
    loads_behind(b, f"{house_switch}.b", house)
    if bypass:
        parallel(b, f"{engine_switch}.b", f"{house_switch}.a")
    return engine, house


def bypass_relay(b: Builder) -> None:
    """A switch for each bank, a parallel switch, a relay."""
    engine, house = _switches(b, bypass=True)
    _small_things(b, house, engine)
    for alternator in b.aboard.alternators:
        land_alternator(b, alternator, house)
    relay(b, engine, house, "Combining relay")
    join_others(b, house)


def single_sensing(b: Builder) -> None:
    """As retrofitted: a relay that watches the engine bank."""
    engine, house = _switches(b, bypass=True)
    _small_things(b, house, engine)
    for alternator in b.aboard.alternators:
        land_alternator(b, alternator, engine)
    relay(b, engine, house, "Charging relay", sensing="a")
    join_others(b, house)


def isolator(sort: str, b: Builder) -> None:
    """The alternators behind an isolator of a sort, an output for each bank."""
    engine, house = _switches(b, bypass=True)
    _small_things(b, house, engine)
    rating = max(120.0, max(a.rated_a for a in b.aboard.alternators))
    must = {"sort": sort, "outputs": 2, "inputs": min(2, len(b.aboard.alternators))}
    own = {"rating_a": rating, "excitation_post": True}
    part = b.gear("isolator", "Isolator", must, own)
    for alternator, post in zip(b.aboard.alternators, ("in", "in2"), strict=False):
        b.run(f"{alternator.id}.out", f"{part}.{post}", alternator.rated_a)
    b.fused(f"{engine.id}.pos", f"{part}.out1", rating, f"Isolator fuse, {engine.name.lower()}")
    b.fused(f"{house.id}.pos", f"{part}.out2", rating, f"Isolator fuse, {house.name.lower()}")
    b.fused(f"{engine.id}.pos", f"{part}.excite", 1.0, "Excitation fuse")
    for alternator in b.aboard.alternators:
        sense(b, alternator, house)
    join_others(b, house)


def engine_dcdc(b: Builder) -> None:
    """The alternator on the engine bank, a dc-dc charger to the house."""
    engine, house = _both(b)
    _switches(b, bypass=b.aboard.alike(engine, house))
    _small_things(b, house, engine)
    for alternator in b.aboard.alternators:
        land_alternator(b, alternator, engine)
    dcdc(b, engine, house, "House dc-dc charger", ignition=True)
    join_others(b, house)


def house_one_way(b: Builder) -> None:
    """The alternator on the house bank, a one-way combiner to the engine bank."""
    engine, house = _switches(b, bypass=True)
    _small_things(b, house, engine)
    for alternator in b.aboard.alternators:
        land_alternator(b, alternator, house)
    one_way(b, house, engine, "One-way combiner")
    join_others(b, house)


def start_one_way(b: Builder) -> None:
    """The alternator on the engine bank, a one-way combiner on to the house bank."""
    engine, house = _switches(b, bypass=True)
    _small_things(b, house, engine)
    for alternator in b.aboard.alternators:
        land_alternator(b, alternator, engine)
    one_way(b, engine, house, "One-way combiner")
    join_others(b, house)


def lithium_dcdc(b: Builder) -> None:
    """A guarded lithium house bank behind a dc-dc charger."""
    engine, house = _guarded(b)
    for alternator in b.aboard.alternators:
        land_alternator(b, alternator, engine)
    dcdc(b, engine, house, "House dc-dc charger", ignition=True)
    join_others(b, engine)


def lithium_alternator(b: Builder) -> None:
    """The alternator on a guarded lithium house bank."""
    engine, house = _guarded(b)
    for alternator in b.aboard.alternators:
        land_alternator(b, alternator, house)
    dcdc(b, house, engine, "Engine dc-dc charger")
    join_others(b, engine)


def _guarded(b: Builder) -> tuple[Bank, Bank]:
    """The lithium house bank behind its disconnect, a switch for each bank."""
    house = b.aboard.house
    assert house is not None  # the pattern does not fit without
    protected(b, house)
    engine, house = _switches(b, bypass=False)
    _small_things(b, house, engine)
    return engine, house


def charger_each(b: Builder) -> None:
    """A charger output for each bank."""
    engine, house = _both(b)
    if b.aboard.alike(engine, house):
        _dual(b)
    else:
        _switches(b, bypass=False)
        _small_things(b, house, engine)
    for alternator in b.aboard.alternators:
        land_alternator(b, alternator, engine)
    join_others(b, house)


def three_banks(b: Builder) -> None:
    """Sources on the house; a relay to the engine bank, a dc-dc charger to the third."""
    engine, house = _dual(b)
    for alternator in b.aboard.alternators:
        land_alternator(b, alternator, house)
    relay(b, engine, house, "Combining relay")
    join_others(b, house, by_dcdc=True)


def two_engine_scheme(b: Builder) -> None:
    """Each engine its bank; a relay or dc-dc charger from each to the house."""
    engine, house = _both(b)
    second = next(bank for bank in b.aboard.engine_banks if bank.id != engine.id)
    isolate = {"purpose": "isolate"}
    posts = []
    for bank, starter in zip((engine, second), b.aboard.starters, strict=False):
        switch = b.gear("switch", f"{bank.name} switch", isolate, new=ON, near=bank)
        b.cranking(f"{bank.id}.pos", f"{switch}.a")
        start_behind(b, f"{switch}.b", starter)
        posts.append(f"{switch}.b")
    house_switch = b.gear("switch", "House switch", isolate, new=ON, near=house)
    main_a = max(150.0, house_main_a(b))
    b.fused(f"{house.id}.pos", f"{house_switch}.a", main_a, "House main fuse")
    loads_behind(b, f"{house_switch}.b", house)
    parallel(b, posts[0], posts[1])
    _small_things(b, house, engine)
    banks = (engine, second)
    for n, alternator in enumerate(b.aboard.alternators):
        land_alternator(b, alternator, banks[min(n, 1)])
    b.done.add(second.id)
    for bank in (engine, second):
        if b.aboard.alike(bank, house):
            relay(b, bank, house, f"{bank.name} relay")
        else:
            dcdc(b, bank, house, f"{bank.name} dc-dc charger", ignition=True)
    join_others(b, house)
