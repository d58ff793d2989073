"""Banks side by side: what each holds, gives, weighs, lasts, takes to charge and costs."""

from __future__ import annotations

import math
from dataclasses import dataclass
from typing import NamedTuple

from strom_engine.batteries import (
    HALF_SOC,
    ChargeRun,
    TwoWell,
    bank_source,
    charge_run,
    expected_life,
    least_resistance_ohm,
    two_well,
)
from strom_engine.design import Bank, Design
from strom_engine.reference import chemistry, load_table
from strom_engine.sizing.advice import MAX_STRINGS, Advice, advise
from strom_engine.sizing.need import Need, Window, usable_window
from strom_engine.sizing.sources_aboard import ChargeSource
from strom_engine.survey import Survey

__all__ = ["MAX_STRINGS", "CandidateBank", "ChargeTime", "Task", "candidate_banks", "cycles_a_year"]

# Days aboard in a year while nobody has said; by the way of use (own estimate, low confidence).
DAYS_A_YEAR = {"day_trips": 40.0, "weekends": 60.0, "weeks_at_anchor": 120.0, "liveaboard": 330.0}
UNKNOWN_DAYS = 80.0


@dataclass(frozen=True)
class ChargeTime:
    """From half charge to the wished charge with one way of charging; None: not within 72 h."""

    source: str
    current_a: float
    hold_v: float
    hours: float | None
    bulk_h: float
    curve: ChargeRun


@dataclass(frozen=True)
class CandidateBank:
    """One bank that could be fitted, at this use."""

    id: str
    unit: str
    label: str
    chemistry: str
    family: str
    fitted: bool
    series: int
    parallel: int
    batteries: int
    capacity_ah: float
    energy_wh: float
    usable_ah: float
    usable_wh: float
    enough: bool
    days: float | None
    depth: float
    years: float
    ended_by: str
    weight_kg: float | None
    fault_a: float
    charge: tuple[ChargeTime, ...]
    wanted_low_a: float
    wanted_high_a: float
    price: float | None
    cost_per_kwh_year: float | None
    advice: tuple[Advice, ...]
    working: tuple[str, ...]
    bank: Bank


@dataclass(frozen=True)
class Task:
    """What the candidates are held against."""

    design: Design
    survey: Survey
    need: Need
    house: Bank
    sources: tuple[ChargeSource, ...]


def candidate_banks(task: Task) -> tuple[CandidateBank, ...]:
    """The bank as fitted, one of each chemistry that meets the need, and the user's own."""
    found = [_candidate(task, task.house, "fitted", "")]
    for row in _best_units(task.design, task.need):
        found.append(_candidate(task, _bank_of(task, row, None), row["unit"], row["unit"]))
    for wish in task.survey.sizing.candidates:
        row = next(r for r in load_table("unit_batteries").rows if r["unit"] == wish.unit)
        found.append(_candidate(task, _bank_of(task, row, wish.parallel), wish.id, wish.unit))
    return tuple(found)


def _best_units(design: Design, need: Need) -> list[dict[str, str]]:
    """Of each chemistry the unit that meets the need with few strings and little to spare."""
    best: dict[str, tuple[tuple[int, float], dict[str, str]]] = {}
    for row in load_table("unit_batteries").rows:
        if design.system_v % int(row["unit_v"]):
            continue
        wanted = need.need_ah[chemistry(row["chemistry"]).family]
        strings = max(1, math.ceil(wanted / float(row["unit_ah"]) - 1e-9))
        over = strings * float(row["unit_ah"]) - wanted
        rank = (max(0, strings - MAX_STRINGS), over + 15.0 * abs(strings - 2))
        if row["chemistry"] not in best or rank < best[row["chemistry"]][0]:
            best[row["chemistry"]] = (rank, row)
    return [row for _, row in best.values()]


def _bank_of(task: Task, row: dict[str, str], parallel: int | None) -> Bank:
    """The house bank made of other batteries, as many as the need asks for unless told."""
    family = chemistry(row["chemistry"]).family
    strings = math.ceil(task.need.need_ah[family] / float(row["unit_ah"]) - 1e-9)
    return task.house.model_copy(
        update={
            "chemistry": row["chemistry"],
            "unit_v": int(row["unit_v"]),
            "unit_ah": float(row["unit_ah"]),
            "unit_cca_a": float(row["cca_a"]) if row["cca_a"] else None,
            "unit_weight_kg": float(row["weight_kg"]),
            "unit_resistance_ohm": None,
            "series": task.design.system_v // int(row["unit_v"]),
            "parallel": parallel or min(12, max(1, strings)),
            "age_years": 0.0,
            "members_alike": True,
            "assumed": (),
        }
    )


def _candidate(task: Task, bank: Bank, candidate_id: str, unit: str) -> CandidateBank:
    survey, need = task.survey, task.need
    figures = chemistry(bank.chemistry)
    window = usable_window(survey, figures.family)
    drawn_a = max(need.use_ah / 24, 0.1)
    usable = _usable(bank, window, drawn_a, survey.sizing.bank_temperature_c)
    day_ah = need.use_ah if need.dark else need.net_ah
    depth = min(1.0, need.period_ah / bank.capacity_ah) if bank.capacity_ah else 1.0
    life = expected_life(bank.chemistry, depth, cycles_a_year(survey, need))
    count = bank.series * bank.parallel
    price_each = survey.sizing.prices.get(unit) if unit else None
    price = None if price_each is None else price_each * count
    full = bank_source(bank.model_copy(update={"temperature_c": 25.0}), 1.0)
    least_ohm = least_resistance_ohm(bank)
    fault_a = full.emf_v / least_ohm
    low, high = _wanted_charge(bank)
    times = tuple(_charge_time(bank, survey, source) for source in task.sources)
    return CandidateBank(
        id=candidate_id,
        unit=unit,
        label=f"{count} × {bank.unit_v} V {bank.unit_ah:g} Ah {figures.label}",
        chemistry=bank.chemistry,
        family=figures.family,
        fitted=candidate_id == "fitted",
        series=bank.series,
        parallel=bank.parallel,
        batteries=count,
        capacity_ah=bank.capacity_ah,
        energy_wh=bank.capacity_ah * bank.nominal_v,
        usable_ah=usable.ah,
        usable_wh=usable.wh,
        enough=bank.capacity_ah >= need.need_ah[figures.family] - 1e-6,
        days=usable.ah / day_ah if day_ah > 0 else None,
        depth=depth,
        years=life.years,
        ended_by=life.ended_by,
        weight_kg=None if bank.unit_weight_kg is None else bank.unit_weight_kg * count,
        fault_a=fault_a,
        charge=times,
        wanted_low_a=low,
        wanted_high_a=high,
        price=price,
        cost_per_kwh_year=None if price is None else price / (usable.wh / 1000) / life.years,
        advice=advise(task.design, task.house, bank, need.need_ah[figures.family], task.sources),
        working=(
            f"{bank.capacity_ah:.0f} Ah x {bank.nominal_v:g} V = "
            f"{bank.capacity_ah * bank.nominal_v:.0f} Wh on the label.",
            usable.working,
            f"A cycle of {need.period_ah:.0f} Ah is {depth:.0%} deep.",
            *life.working,
            f"Fault current at its posts, by the least resistance it can have: "
            f"{full.emf_v:.2f} V / {1000 * least_ohm:.3f} mohm = {fault_a:.0f} A.",
        ),
        bank=bank,
    )


def cycles_a_year(survey: Survey, need: Need) -> float:
    """Cycles a year: days aboard over the days of one cycle [1/a]."""
    days = survey.use.days_a_year or DAYS_A_YEAR.get(survey.use.way or "", UNKNOWN_DAYS)
    return days / need.days


class _Usable(NamedTuple):
    """What a bank gives [Ah], [Wh], and how that was worked out."""

    ah: float
    wh: float
    working: str


def _usable(bank: Bank, window: Window, drawn_a: float, temperature_c: float) -> _Usable:
    """What a steady draw [A] gets out of the window: the label's share of the 20 h capacity, or
    less where the wells run dry before it at that draw."""
    family = chemistry(bank.chemistry).family
    warmth = load_table("capacity_cold").lookup("temperature_c", family, temperature_c)
    label_ah = window.share * bank.capacity_ah * warmth
    model = two_well(bank.chemistry, bank.capacity_ah * warmth)
    delivered_ah = _delivered_ah(model, drawn_a)
    usable_ah = min(label_ah, delivered_ah)
    source = bank_source(bank, 1.0 - window.share / 2)
    volts = source.terminal_v(-drawn_a)
    working = (
        f"Usable: {bank.capacity_ah:.0f} Ah x {window.share:.2f} ({window.words}) x {warmth:.3f} "
        f"(at {temperature_c:g} degC) = {label_ah:.1f} Ah"
    )
    if delivered_ah < label_ah:
        working += f"; drawn at {drawn_a:.1f} A it runs dry after {delivered_ah:.1f} Ah"
    return _Usable(usable_ah, usable_ah * volts, f"{working}.")


def _delivered_ah(model: TwoWell, drawn_a: float) -> float:
    """Ampere-hours that a steady draw [A] empties a full bank of, by bisection on the hours."""
    low, high = 0.01, 1000.0
    for _ in range(50):
        middle = (low * high) ** 0.5
        low, high = (
            (middle, high) if model.capacity_ah(middle) / middle > drawn_a else (low, middle)
        )
    return model.capacity_ah(low)


def _wanted_charge(bank: Bank) -> tuple[float, float]:
    table = load_table("charge_rate")
    row = next(r for r in table.rows if r["family"] == chemistry(bank.chemistry).family)
    return float(row["low"]) * bank.capacity_ah, float(row["high"]) * bank.capacity_ah


def _charge_time(bank: Bank, survey: Survey, source: ChargeSource) -> ChargeTime:
    """From half charge, by the two-well model, with what the source has left over the loads."""
    figures = chemistry(bank.chemistry)
    limit_a = min(source.net_a, figures.max_charge_c * bank.capacity_ah)
    half = bank.model_copy(
        update={"soc": HALF_SOC, "temperature_c": survey.sizing.bank_temperature_c}
    )
    run = charge_run(half, survey.sizing.charge_to, round(limit_a, 2), source.hold_v)
    return ChargeTime(source.name, limit_a, source.hold_v, run.reached_h, run.bulk_h, run)
