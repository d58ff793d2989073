"""The stage Banks in one: yields, needs, candidates and the start bank of a variant."""

from __future__ import annotations

from dataclasses import dataclass

from strom_engine.batteries import bank_source
from strom_engine.circuit import reach
from strom_engine.design import Bank, Design, LoadGroup, Starter, State
from strom_engine.design.state import default_positions
from strom_engine.reference import chemistry
from strom_engine.sizing.audit import Audit, audit
from strom_engine.sizing.bank_checks import BankCheck, bank_checks
from strom_engine.sizing.candidates import CandidateBank, Task, candidate_banks
from strom_engine.sizing.counted import Comparison, compare_ways
from strom_engine.sizing.cranking import StartCheck, start_check
from strom_engine.sizing.need import Need, Window, Yields, needs, usable_window, yields
from strom_engine.sizing.sources_aboard import ChargeSource, charge_sources
from strom_engine.survey import Survey, SurveyedDesign

__all__ = [
    "BankPlan",
    "EngineBankLoad",
    "LoadReport",
    "StatedVolts",
    "bank_plan",
    "house_bank",
    "load_report",
    "stated_volts",
]


@dataclass(frozen=True)
class StatedVolts:
    """The voltage at which amp-hours and watt-hours are converted, and why it."""

    volts_v: float
    words: str


@dataclass(frozen=True)
class EngineBankLoad:
    """Something that the engine bank feeds at rest, as the switches are drawn."""

    item: str
    name: str
    feed: str
    bank: str
    charge_ah: float


@dataclass(frozen=True)
class LoadReport:
    """The stage Loads in one."""

    stated: StatedVolts
    audit: Audit
    comparisons: tuple[Comparison, ...]
    on_engine_bank: tuple[EngineBankLoad, ...]
    not_wired: tuple[str, ...]


@dataclass(frozen=True)
class BankPlan:
    """The stage Banks in one; ``missing`` says why there is no need or no candidate yet."""

    stated: StatedVolts
    house: str | None
    yields: Yields
    windows: tuple[Window, ...]
    needs: tuple[Need, ...]
    counts: str | None
    sources: tuple[ChargeSource, ...]
    candidates: tuple[CandidateBank, ...]
    starts: tuple[StartCheck, ...]
    checks: tuple[BankCheck, ...]
    missing: tuple[str, ...]


def house_bank(design: Design) -> Bank | None:
    """The bank that the boat lives on: the largest house bank; None where there is none.

    Args:
        design: as drawn.
    """
    houses = [b for b in design.of_type(Bank) if b.role == "house"]
    return max(houses, key=lambda b: b.capacity_ah, default=None)


def stated_volts(design: Design, survey: Survey) -> StatedVolts:
    """The conversion voltage [V] for the whole system.

    *Computed*: the house bank half way down its window, giving the mean current of the worst
    profile; that current itself is worked out at 12.8 V for a 12 V system.

    Args:
        design: the boat, as surveyed.
        survey: which way of stating is chosen.

    Returns:
        Volts [V] with the arithmetic.
    """
    blocks = design.system_v / 12.0
    choice = survey.sizing.volts
    if choice != "computed":
        volts = (survey.sizing.own_v if choice == "own" else float(choice)) * blocks
        return StatedVolts(volts, f"at {volts:g} V, as chosen")
    bank = house_bank(design)
    if bank is None:
        return StatedVolts(12.8 * blocks, f"at {12.8 * blocks:g} V: no house bank to compute from")
    used = audit(survey, 12.8 * blocks)
    mean_a = max((d.mean_a for d in used.profiles), default=0.0)
    soc = 1 - usable_window(survey, chemistry(bank.chemistry).family).share / 2
    volts = round(bank_source(bank, soc).terminal_v(-mean_a), 2)
    return StatedVolts(volts, f"at {volts:g} V: {bank.name} at {soc:.0%}, giving {mean_a:.1f} A")


def load_report(design: SurveyedDesign, survey: Survey) -> LoadReport:
    """The audit of a variant, the counted way beside it, and what the engine bank carries.

    Args:
        design: the boat, as surveyed.
        survey: loads, days that were counted, way of use.

    Returns:
        Ampere-hours [Ah] and watt-hours [Wh] a day by profile, item and hour.

    >>> from strom_engine.survey import new_boat
    >>> survey, design = new_boat("cruising_yacht", "selector")
    >>> from strom_engine.survey import surveyed
    >>> load_report(surveyed(design, survey), survey).on_engine_bank[0].name
    'Refrigerator'
    """
    stated = stated_volts(design, survey)
    used = audit(survey, stated.volts_v)
    hung = {item.id for group in design.of_type(LoadGroup) for item in group.items}
    return LoadReport(
        stated=stated,
        audit=used,
        comparisons=compare_ways(survey, stated.volts_v),
        on_engine_bank=_on_engine_bank(design, used),
        not_wired=tuple(i.name for i in survey.items if i.id not in hung and i.draw is not None),
    )


def _on_engine_bank(design: Design, used: Audit) -> tuple[EngineBankLoad, ...]:
    """Items fed by an engine bank with the engine stopped and the switches as drawn."""
    state = State(positions=default_positions(design))
    paths = reach(design, state, frozenset())
    engine = [b for b in design.of_type(Bank) if b.role == "engine"]
    day = used.day(used.worst)
    rows = {row.item: row.charge_ah for row in day.items} if day else {}
    return tuple(
        EngineBankLoad(item.id, item.name, group.name, bank.name, rows.get(item.id, 0.0))
        for group in design.of_type(LoadGroup)
        for bank in engine
        if bank.id in paths.fed_by[group.id]
        for item in group.items
    )


def bank_plan(design: SurveyedDesign, survey: Survey, *, detail: bool = True) -> BankPlan:
    """Yields, needs, candidates and start check of a variant.

    Args:
        design: the boat, as surveyed.
        survey: loads, use, sun, latitude.
        detail: whether candidates are worked out too.

    Returns:
        Yields and needs [Ah a day], candidate banks [Ah, kg, currency], the start bank in the cold
        [V, A].

    Source: reference tables; sun by FAO-56 where nothing is given.

    >>> from strom_engine.survey import new_boat
    >>> survey, design = new_boat("cruising_yacht", "selector")
    >>> from strom_engine.survey import surveyed
    >>> bank_plan(surveyed(design, survey), survey, detail=False).house
    'house_bank'
    """
    stated = stated_volts(design, survey)
    used = audit(survey, stated.volts_v)
    found = needs(design, survey, stated.volts_v)
    house = house_bank(design)
    counting = next((n for n in found if n.way == survey.sizing.basis), None)
    counting = counting or (found[0] if found else None)
    mean_a = counting.use_ah / 24 if counting else 0.0
    sources = charge_sources(design, mean_a)
    candidates: tuple[CandidateBank, ...] = ()
    if detail and counting and house and counting.period_ah > 0:
        candidates = candidate_banks(Task(design, survey, counting, house, sources))
    return BankPlan(
        stated=stated,
        house=house.id if house else None,
        yields=yields(design, survey, used),
        windows=(usable_window(survey, "lead"), usable_window(survey, "lithium")),
        needs=found,
        counts=counting.way if counting else None,
        sources=sources,
        candidates=candidates,
        starts=tuple(start_check(design, survey, s) for s in design.of_type(Starter)),
        checks=bank_checks(design) if detail else (),
        missing=tuple(_missing(survey, counting, house)),
    )


def _missing(survey: Survey, counting: Need | None, house: Bank | None) -> list[str]:
    found = []
    if house is None:
        found.append("a bank with the role of house bank in this variant")
    if counting is None:
        found.append("loads with hours in a profile away from shore")
    elif counting.way != survey.sizing.basis:
        found.append(f"days counted by the monitor: {counting.label.lower()} is used instead")
    unknown = [item.name for item in survey.items if item.draw is None]
    if unknown:
        found.append(f"the draw of {', '.join(unknown[:4])}: they count as nothing until known")
    return found
