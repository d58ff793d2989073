"""The patterns: complete schemes, each built over what is aboard."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from dataclasses import dataclass
from functools import partial
from typing import Literal, TypeVar

from strom_engine.design import Alternator, Bank, Charger, Design
from strom_engine.patterns.aboard import Aboard
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

__all__ = ["PATTERNS", "Pattern"]

Build = Callable[[Builder], None]
Against = Callable[[Aboard], list[str]]
P = TypeVar("P", Alternator, Charger)
# Of its label a small-frame machine gives this much into lithium without end (trade practice:
# 50-70 % continuous).
LITHIUM_SHARE = 0.6
ON = {"position": "on"}  # how a new switch is left


def _as_it_is(design: Design) -> Design:
    return design


@dataclass(frozen=True)
class Pattern:
    """A complete scheme: what it is, what speaks against building it here, and how it is built.

    ``school`` names the way of handling or of wiring that it stands for, ``first`` the bank that
    it charges first, ``hands`` whether somebody must turn a switch for the house to be charged;
    ``prepare`` sets what the pattern asks of parts that stay, such as an external regulator;
    ``usual_for`` names the banks, alike or not, for which it is the trade's usual pick.
    """

    id: str
    name: str
    words: str
    school: str
    against: Against
    build: Build
    prepare: Callable[[Design], Design] = _as_it_is
    first: Literal["engine", "house", "both"] = "house"
    hands: bool = False
    usual_for: Literal["alike", "unlike"] | None = None


# -- what a boat must have ---------------------------------------------------------------------


def _starting(aboard: Aboard) -> list[str]:
    return [] if aboard.starters else ["no starter is entered"]


def _two_banks(aboard: Aboard) -> list[str]:
    found = _starting(aboard)
    if aboard.engine is None or aboard.house is None:
        found.append("it needs an engine bank and a house bank")
    if len(aboard.engine_banks) > 1 and len(aboard.starters) > 1:
        found.append("two engines, each with its bank, want a scheme of their own")
    return found


def _alike(aboard: Aboard) -> list[str]:
    found = _two_banks(aboard)
    if aboard.engine and aboard.house and not aboard.alike(aboard.engine, aboard.house):
        found.append("engine and house bank are of unlike chemistry: nothing may join them")
    return found


def _with_alternator(against: Against, aboard: Aboard) -> list[str]:
    return against(aboard) + ([] if aboard.alternators else ["no alternator is entered"])


def _lithium_house(aboard: Aboard) -> list[str]:
    found = _with_alternator(_two_banks, aboard)
    if aboard.house and not aboard.is_lithium(aboard.house):
        found.append("the house bank is not lithium")
    if aboard.engine and aboard.is_lithium(aboard.engine):
        found.append("the engine bank is not lead")
    return found


def _one_bank(aboard: Aboard) -> list[str]:
    found = _starting(aboard)
    return found if len(aboard.banks) == 1 else [*found, "the boat has more than one bank"]


def _two_engines(aboard: Aboard) -> list[str]:
    found = _with_alternator(_starting, aboard)
    if len(aboard.engine_banks) < 2 or len(aboard.starters) < 2:
        found.append("it needs two engine banks and two starters")
    elif aboard.house is None or not aboard.alike(*aboard.engine_banks[:2]):
        found.append("it needs a house bank, and engine banks that are alike")
    return found


def _third_bank(aboard: Aboard) -> list[str]:
    found = _with_alternator(_alike, aboard)
    return found if aboard.others else [*found, "the boat has no third bank"]


def _has_charger(aboard: Aboard) -> list[str]:
    found = _two_banks(aboard)
    if not aboard.chargers:
        found.append("no shore charger is entered")
    if len(aboard.banks) > 3:
        found.append("a charger has three outputs at most")
    return found


# -- how they are built ------------------------------------------------------------------------


def _both(b: Builder) -> tuple[Bank, Bank]:
    engine, house = b.aboard.engine, b.aboard.house
    assert engine is not None  # the pattern does not fit without
    assert house is not None
    b.join_minus(engine, house)
    return engine, house


def _small_things(b: Builder, house: Bank, engine: Bank | None) -> None:
    """Always-on circuits, small sources and chargers onto the house bank first."""
    always_on(b, house)
    small_sources(b, house)
    chargers(b, [bank for bank in (house, engine, *b.aboard.others) if bank is not None])


def _single(b: Builder) -> None:
    bank = b.aboard.banks[0]
    switch = b.gear("switch", "Main switch", {"purpose": "isolate"}, new=ON)
    b.cranking(f"{bank.id}.pos", f"{switch}.a")
    for starter in b.aboard.starters:
        start_behind(b, f"{switch}.b", starter)
    loads_behind(b, f"{switch}.b")
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
    loads_behind(b, f"{selector}.common")
    _small_things(b, house, engine)
    return engine, house


def _selector_only(b: Builder) -> None:
    engine, _ = _selector(b)
    for alternator in b.aboard.alternators:
        land_alternator(b, alternator, engine)
    join_others(b, engine)


def _selector_relay(b: Builder) -> None:
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
    loads_behind(b, f"{switch}.house_out")
    _small_things(b, house, engine)
    return engine, house


def _dual_relay(b: Builder) -> None:
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
    loads_behind(b, f"{house_switch}.b")
    if bypass:
        parallel(b, f"{engine_switch}.b", f"{house_switch}.a")
    return engine, house


def _bypass_relay(b: Builder) -> None:
    engine, house = _switches(b, bypass=True)
    _small_things(b, house, engine)
    for alternator in b.aboard.alternators:
        land_alternator(b, alternator, house)
    relay(b, engine, house, "Combining relay")
    join_others(b, house)


def _single_sensing(b: Builder) -> None:
    engine, house = _switches(b, bypass=True)
    _small_things(b, house, engine)
    for alternator in b.aboard.alternators:
        land_alternator(b, alternator, engine)
    relay(b, engine, house, "Charging relay", sensing="a")
    join_others(b, house)


def _isolator(sort: str, b: Builder) -> None:
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


def _engine_dcdc(b: Builder) -> None:
    engine, house = _both(b)
    _switches(b, bypass=b.aboard.alike(engine, house))
    _small_things(b, house, engine)
    for alternator in b.aboard.alternators:
        land_alternator(b, alternator, engine)
    dcdc(b, engine, house, "House dc-dc charger", ignition=True)
    join_others(b, house)


def _house_one_way(b: Builder) -> None:
    engine, house = _switches(b, bypass=True)
    _small_things(b, house, engine)
    for alternator in b.aboard.alternators:
        land_alternator(b, alternator, house)
    one_way(b, house, engine, "One-way combiner")
    join_others(b, house)


def _lithium_dcdc(b: Builder) -> None:
    engine, house = _guarded(b)
    for alternator in b.aboard.alternators:
        land_alternator(b, alternator, engine)
    dcdc(b, engine, house, "House dc-dc charger", ignition=True)
    join_others(b, engine)


def _lithium_alternator(b: Builder) -> None:
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


def _charger_each(b: Builder) -> None:
    engine, house = _both(b)
    if b.aboard.alike(engine, house):
        _dual(b)
    else:
        _switches(b, bypass=False)
        _small_things(b, house, engine)
    for alternator in b.aboard.alternators:
        land_alternator(b, alternator, engine)
    join_others(b, house)


def _three_banks(b: Builder) -> None:
    engine, house = _dual(b)
    for alternator in b.aboard.alternators:
        land_alternator(b, alternator, house)
    relay(b, engine, house, "Combining relay")
    join_others(b, house, by_dcdc=True)


def _outside_regulator(design: Design) -> Design:
    return _amended(design, Alternator, lambda part: {"sensing": "external"})


def _lithium_regulator(design: Design) -> Design:
    """A regulator with probe and limit, and a clamp for when the protection opens."""

    def fields(part: Alternator) -> dict[str, object]:
        limit = part.belt_limit_a or float(round(LITHIUM_SHARE * part.rated_a))
        kept = {"sensing": "external", "temperature_probe": True, "surge_clamp": True}
        return kept | {"belt_limit_a": limit}

    return _amended(design, Alternator, fields)


def _output_each(design: Design) -> Design:
    count = max(2, min(3, len(design.of_type(Bank))))
    return _amended(design, Charger, lambda part: {"outputs": max(part.outputs, count)})


def _amended(design: Design, kind: type[P], fields: Callable[[P], Mapping[str, object]]) -> Design:
    parts = tuple(
        part.model_copy(update=dict(fields(part))) if isinstance(part, kind) else part
        for part in design.components
    )
    return design.having(components=parts)


def _two_engine_scheme(b: Builder) -> None:
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
    loads_behind(b, f"{house_switch}.b")
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


PATTERNS: tuple[Pattern, ...] = (
    Pattern(
        "single_on_off",
        "One bank, on and off",
        "One bank starts the engine and feeds everything behind one switch.",
        "the least gear; off when leaving",
        _one_bank,
        _single,
        first="both",
    ),
    Pattern(
        "selector_only",
        "Selector only",
        "A four-position selector chooses which bank starts and feeds; both charges the house.",
        "by hand: both while the engine runs, house alone at rest",
        _alike,
        _selector_only,
        first="engine",
        hands=True,
    ),
    Pattern(
        "selector_relay",
        "Selector with a dual-sensing relay",
        "The selector chooses, a relay shares the charge whichever way it stands.",
        "by hand, forgiving: the relay charges what was forgotten",
        partial(_with_alternator, _alike),
        _selector_relay,
    ),
    Pattern(
        "dual_relay",
        "Dual-circuit switch with a relay",
        "House and engine switched together and kept apart, combined only in an emergency.",
        "on all day, combine only in an emergency",
        partial(_with_alternator, _alike),
        _dual_relay,
        usual_for="alike",
    ),
    Pattern(
        "bypass_relay",
        "A switch for each bank, bypass and relay",
        "An on/off switch for each bank, a parallel switch for emergencies, a relay to share.",
        "engine bank alone for every start, the relay shares",
        partial(_with_alternator, _alike),
        _bypass_relay,
        usual_for="alike",
    ),
    Pattern(
        "single_sensing",
        "Single-sensing relay with bypass",
        "A retrofit: the alternator stays on the engine bank, a relay that watches it charges on.",
        "engine bank first",
        partial(_with_alternator, _alike),
        _single_sensing,
        first="engine",
    ),
    Pattern(
        "diode_isolator",
        "Diode isolator",
        "The alternator feeds both banks through diodes; nothing flows back.",
        "no moving part; the drop has to be made good by the regulator",
        partial(_with_alternator, _alike),
        partial(_isolator, "silicon"),
        first="both",
    ),
    Pattern(
        "fet_isolator",
        "Transistor isolator",
        "As with diodes, at a tenth of the drop.",
        "no moving part, new work in place of diodes",
        partial(_with_alternator, _alike),
        partial(_isolator, "fet"),
        first="both",
    ),
    Pattern(
        "engine_dcdc",
        "Alternator to the engine bank, dc-dc to the house",
        "The engine bank is charged first; a dc-dc charger gives the house its own profile.",
        "engine bank first; each bank its own profile",
        partial(_with_alternator, _two_banks),
        _engine_dcdc,
        first="engine",
        usual_for="unlike",
    ),
    Pattern(
        "house_one_way",
        "Alternator to the house, one way down to the engine bank",
        "An external regulator charges the house bank; a one-way combiner tops up the engine bank.",
        "house bank first",
        partial(_with_alternator, _alike),
        _house_one_way,
        _outside_regulator,
    ),
    Pattern(
        "lithium_dcdc",
        "Lithium house, lead start, dc-dc between",
        "The alternator keeps its lead bank; a dc-dc charger limits what the lithium takes.",
        "dc-dc from a lead start bank",
        _lithium_house,
        _lithium_dcdc,
        first="engine",
        usual_for="unlike",
    ),
    Pattern(
        "lithium_alternator",
        "Lithium house on the alternator, with protection",
        "A regulator with probe and limit charges the lithium; a dc-dc charger the start bank.",
        "full rebuild of the charging",
        _lithium_house,
        _lithium_alternator,
        _lithium_regulator,
    ),
    Pattern(
        "charger_each",
        "A charger output for each bank",
        "For a boat mostly alongside: shore charges every bank by itself, the engine its own.",
        "alongside most of the time",
        _has_charger,
        _charger_each,
        _output_each,
        first="engine",
        hands=True,
    ),
    Pattern(
        "two_engines",
        "Two engines",
        "Each engine its bank, starter and alternator; a relay from each to the house.",
        "either engine charges the house, either bank can start the other",
        _two_engines,
        _two_engine_scheme,
        first="engine",
    ),
    Pattern(
        "three_banks",
        "Three banks, sources on the house",
        "All sources on the house; a relay to the engine bank, a dc-dc charger to the third bank.",
        "house bank first; a long run to the bow is boosted",
        _third_bank,
        _three_banks,
    ),
)
