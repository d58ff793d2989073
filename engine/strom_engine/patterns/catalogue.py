"""The patterns: complete schemes, each built over what is aboard."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from functools import partial
from typing import Literal

from strom_engine.design import Design
from strom_engine.patterns import schemes as build
from strom_engine.patterns.builder import Builder
from strom_engine.patterns.fitting import (
    Against,
    needs_alike,
    needs_charger,
    needs_lithium_house,
    needs_one_bank,
    needs_small_house,
    needs_third_bank,
    needs_two_banks,
    needs_two_engines,
    with_alternator,
)
from strom_engine.patterns.preparing import (
    as_it_is,
    lithium_regulator,
    output_each,
    outside_regulator,
)

__all__ = ["PATTERNS", "Pattern"]

Build = Callable[[Builder], None]


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
    prepare: Callable[[Design], Design] = as_it_is
    first: Literal["engine", "house", "both"] = "house"
    hands: bool = False
    usual_for: Literal["alike", "unlike"] | None = None


PATTERNS: tuple[Pattern, ...] = (
    Pattern(
        "single_on_off",
        "One bank, on and off",
        "One bank starts the engine and feeds everything behind one switch.",
        "the least gear; off when leaving",
        needs_one_bank,
        build.single,
        first="both",
    ),
    Pattern(
        "selector_only",
        "Selector only",
        "A four-position selector chooses which bank starts and feeds; both charges the house.",
        "by hand: both while the engine runs, house alone at rest",
        needs_alike,
        build.selector_only,
        first="engine",
        hands=True,
    ),
    Pattern(
        "selector_relay",
        "Selector with a dual-sensing relay",
        "The selector chooses, a relay shares the charge whichever way it stands.",
        "by hand, forgiving: the relay charges what was forgotten",
        partial(with_alternator, needs_alike),
        build.selector_relay,
    ),
    Pattern(
        "dual_relay",
        "Dual-circuit switch with a relay",
        "House and engine switched together and kept apart, combined only in an emergency.",
        "on all day, combine only in an emergency",
        partial(with_alternator, needs_alike),
        build.dual_relay,
        usual_for="alike",
    ),
    Pattern(
        "bypass_relay",
        "A switch for each bank, bypass and relay",
        "An on/off switch for each bank, a parallel switch for emergencies, a relay to share.",
        "engine bank alone for every start, the relay shares",
        partial(with_alternator, needs_alike),
        build.bypass_relay,
        usual_for="alike",
    ),
    Pattern(
        "single_sensing",
        "Single-sensing relay with bypass",
        "A retrofit: the alternator stays on the engine bank, a relay that watches it charges on.",
        "engine bank first",
        partial(with_alternator, needs_alike),
        build.single_sensing,
        first="engine",
    ),
    Pattern(
        "diode_isolator",
        "Diode isolator",
        "The alternator feeds both banks through diodes; nothing flows back.",
        "no moving part; the drop has to be made good by the regulator",
        partial(with_alternator, needs_alike),
        partial(build.isolator, "silicon"),
        first="both",
    ),
    Pattern(
        "fet_isolator",
        "Transistor isolator",
        "As with diodes, at a tenth of the drop.",
        "no moving part, new work in place of diodes",
        partial(with_alternator, needs_alike),
        partial(build.isolator, "fet"),
        first="both",
    ),
    Pattern(
        "engine_dcdc",
        "Alternator to the engine bank, dc-dc to the house",
        "The engine bank is charged first; a dc-dc charger gives the house its own profile.",
        "engine bank first; each bank its own profile",
        partial(with_alternator, needs_two_banks),
        build.engine_dcdc,
        first="engine",
        usual_for="unlike",
    ),
    Pattern(
        "house_one_way",
        "Alternator to the house, one way down to the engine bank",
        "An external regulator charges the house bank; a one-way combiner tops up the engine bank.",
        "house bank first",
        partial(with_alternator, needs_alike),
        build.house_one_way,
        outside_regulator,
    ),
    Pattern(
        "start_one_way",
        "Alternator to the engine bank, one way on to the house",
        "The alternator stays where it was delivered; a one-way combiner passes a little on.",
        "engine bank first; enough for a small house bank alone",
        needs_small_house,
        build.start_one_way,
        first="engine",
    ),
    Pattern(
        "lithium_dcdc",
        "Lithium house, lead start, dc-dc between",
        "The alternator keeps its lead bank; a dc-dc charger limits what the lithium takes.",
        "dc-dc from a lead start bank",
        needs_lithium_house,
        build.lithium_dcdc,
        first="engine",
        usual_for="unlike",
    ),
    Pattern(
        "lithium_alternator",
        "Lithium house on the alternator, with protection",
        "A regulator with probe and limit charges the lithium; a dc-dc charger the start bank.",
        "full rebuild of the charging",
        needs_lithium_house,
        build.lithium_alternator,
        lithium_regulator,
    ),
    Pattern(
        "charger_each",
        "A charger output for each bank",
        "For a boat mostly alongside: shore charges every bank by itself, the engine its own.",
        "alongside most of the time",
        needs_charger,
        build.charger_each,
        output_each,
        first="engine",
        hands=True,
    ),
    Pattern(
        "two_engines",
        "Two engines",
        "Each engine its bank, starter and alternator; a relay from each to the house.",
        "either engine charges the house, either bank can start the other",
        needs_two_engines,
        build.two_engine_scheme,
        first="engine",
    ),
    Pattern(
        "three_banks",
        "Three banks, sources on the house",
        "All sources on the house; a relay to the engine bank, a dc-dc charger to the third bank.",
        "house bank first; a long run to the bow is boosted",
        needs_third_bank,
        build.three_banks,
    ),
)
