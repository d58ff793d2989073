"""What speaks against a pattern on a boat, in words; nothing when it fits."""

from __future__ import annotations

from collections.abc import Callable

from strom_engine.design.parts import facts_of
from strom_engine.patterns.aboard import Aboard

__all__ = [
    "Against",
    "needs_alike",
    "needs_charger",
    "needs_lithium_house",
    "needs_one_bank",
    "needs_small_house",
    "needs_third_bank",
    "needs_two_banks",
    "needs_two_engines",
    "with_alternator",
]

LEAST_CHARGE_SHARE = 0.1  # of its Ah, what lead wants at least [A] (trade practice)
Against = Callable[[Aboard], list[str]]


def _starting(aboard: Aboard) -> list[str]:
    return [] if aboard.starters else ["no starter is entered"]


def needs_two_banks(aboard: Aboard) -> list[str]:
    """An engine bank, a house bank and a starter, of one engine."""
    found = _starting(aboard)
    if aboard.engine is None or aboard.house is None:
        found.append("it needs an engine bank and a house bank")
    if len(aboard.engine_banks) > 1 and len(aboard.starters) > 1:
        found.append("two engines, each with its bank, want a scheme of their own")
    return found


def needs_alike(aboard: Aboard) -> list[str]:
    """Engine and house bank that metal may join."""
    found = needs_two_banks(aboard)
    if aboard.engine and aboard.house and not aboard.alike(aboard.engine, aboard.house):
        found.append("engine and house bank are of unlike chemistry: nothing may join them")
    return found


def with_alternator(against: Against, aboard: Aboard) -> list[str]:
    """What another check asks, and an alternator."""
    return against(aboard) + ([] if aboard.alternators else ["no alternator is entered"])


def needs_small_house(aboard: Aboard) -> list[str]:
    """Banks alike, and a house bank small enough for what a one-way combiner passes."""
    found = with_alternator(needs_alike, aboard)
    passes_a = float(str(facts_of("one_way").usual["limit_a"]))
    house = aboard.house
    if house and LEAST_CHARGE_SHARE * house.capacity_ah > passes_a:
        found.append(
            f"a one-way combiner passes {passes_a:g} A; {house.capacity_ah:g} Ah want a tenth, "
            f"{LEAST_CHARGE_SHARE * house.capacity_ah:.0f} A"
        )
    return found


def needs_lithium_house(aboard: Aboard) -> list[str]:
    """A lithium house bank beside a lead engine bank."""
    found = with_alternator(needs_two_banks, aboard)
    if aboard.house and not aboard.is_lithium(aboard.house):
        found.append("the house bank is not lithium")
    if aboard.engine and aboard.is_lithium(aboard.engine):
        found.append("the engine bank is not lead")
    return found


def needs_one_bank(aboard: Aboard) -> list[str]:
    """A single bank."""
    found = _starting(aboard)
    return found if len(aboard.banks) == 1 else [*found, "the boat has more than one bank"]


def needs_two_engines(aboard: Aboard) -> list[str]:
    """Two engines, each with its bank."""
    found = with_alternator(_starting, aboard)
    if len(aboard.engine_banks) < 2 or len(aboard.starters) < 2:
        found.append("it needs two engine banks and two starters")
    elif aboard.house is None or not aboard.alike(*aboard.engine_banks[:2]):
        found.append("it needs a house bank, and engine banks that are alike")
    return found


def needs_third_bank(aboard: Aboard) -> list[str]:
    """A bank beyond engine and house."""
    found = with_alternator(needs_alike, aboard)
    return found if aboard.others else [*found, "the boat has no third bank"]


def needs_charger(aboard: Aboard) -> list[str]:
    """A shore charger, and no more banks than it can have outputs."""
    found = needs_two_banks(aboard)
    if not aboard.chargers:
        found.append("no shore charger is entered")
    if len(aboard.banks) > 3:
        found.append("a charger has three outputs at most")
    return found
