"""The start bank against the starter, on the coldest morning and through the real cables."""

from __future__ import annotations

from dataclasses import dataclass
from itertools import product

from strom_engine.batteries import two_well
from strom_engine.circuit import OperatingPoint, estimated_cables, operating_point, reach
from strom_engine.design import Bank, Design, Starter, State, switch_positions
from strom_engine.design.state import default_positions, switches
from strom_engine.errors import NotSettledError
from strom_engine.reference import load_table
from strom_engine.survey import Survey

__all__ = ["START_SHARE", "StartCheck", "cranking_amps", "start_check"]

# An engine starts down to 9.6 V at the starter of a 12 V system unless its maker says otherwise.
START_SHARE = 0.8
# Shaft power over electrical power of a starter while cranking, 0.5 to 0.6 (makers' curves as
# commonly published); and the voltage at which cranking amps are stated. Low confidence.
STARTER_EFFICIENCY = 0.55
CRANKING_V_SHARE = 0.875
MAX_POSITIONS = 64
WARM_C = 27.0
LABEL_C = -18.0
ASSUMED_COLDEST_C = 0.0


@dataclass(frozen=True)
class StartCheck:
    """What the start bank can do; ``missing`` names what nobody knows yet."""

    starter: str
    bank: str | None
    coldest_c: float
    need_a: float
    available_a: float | None
    volts_v: float | None
    limit_v: float
    starts: int | None
    positions: dict[str, str]
    working: tuple[str, ...]
    missing: tuple[str, ...]
    estimated: tuple[str, ...]
    source: str


def cranking_amps(power_kw: float, system_v: int) -> float:
    """Cranking amps [A] of a warm engine estimated from the starter's power [kW]."""
    return power_kw * 1000 / (STARTER_EFFICIENCY * CRANKING_V_SHARE * system_v)


def start_check(design: Design, survey: Survey | None, starter: Starter) -> StartCheck:
    """Cranking need and supply at the coldest start, volts at the starter, starts in reserve.

    Need and supply: reference table cranking_cold. Volts: the operating point while cranking,
    with the bank as cold as the morning, through the cables as they are; no other bank helps.
    """
    table = load_table("cranking_cold")
    told_c = survey.boat.coldest_c if survey else None
    coldest = ASSUMED_COLDEST_C if told_c is None else told_c
    factor = table.lookup("temperature_c", "needed", coldest)
    need_a = starter.cranking_a * factor
    bank, positions = _start_bank(design, starter)
    missing = [] if told_c is not None else ["the coldest start (0 °C taken)"]
    if "cranking_a" in starter.assumed:
        missing.append("the cranking amps (a usual figure taken)")
    if bank is not None and bank.cca_a is None:
        missing.append(f"the cold cranking amps on the label of {bank.name}")
    available_a, supply = _supply(bank, coldest)
    point = None if bank is None else _cranking(design, starter, positions, coldest, factor)
    volts_v = None if point is None else point.starters[starter.id].volts_v
    limit_v = round(START_SHARE * design.system_v, 3)
    starts, per_start_ah = _starts(design, starter, bank, positions, (coldest, factor, limit_v))
    crank_s = survey.sizing.crank_s if survey else 4.0
    starts_now = None
    if starts is not None and per_start_ah > 0:
        starts_now = int(starts / (per_start_ah * crank_s))
    return StartCheck(
        starter=starter.id,
        bank=bank.id if bank else None,
        coldest_c=coldest,
        need_a=need_a,
        available_a=available_a,
        volts_v=volts_v,
        limit_v=limit_v,
        starts=starts_now,
        positions=positions,
        working=(
            f"{starter.name}: {starter.cranking_a:.0f} A warm x {factor:.2f} at {coldest:g} °C = "
            f"{need_a:.0f} A.",
            *supply,
            *_volts_words(bank, volts_v, limit_v, starts_now, crank_s),
        ),
        missing=tuple(missing),
        estimated=() if point is None else estimated_cables(design, point),
        source=table.citation,
    )


def _supply(bank: Bank | None, coldest: float) -> tuple[float | None, tuple[str, ...]]:
    if bank is None or bank.cca_a is None:
        return None, ()
    table = load_table("cranking_cold")
    label = table.lookup("temperature_c", "available", LABEL_C)
    share = table.lookup("temperature_c", "available", coldest) / label
    amps = bank.cca_a * share
    words = f"{bank.name}: {bank.cca_a:.0f} A CCA (at {LABEL_C:g} °C) x {share:.2f} = {amps:.0f} A."
    return amps, (words,)


def _volts_words(
    bank: Bank | None, volts_v: float | None, limit_v: float, starts: int | None, crank_s: float
) -> tuple[str, ...]:
    if bank is None:
        return ("No bank reaches the starter in any position.",)
    if volts_v is None:
        return ("The cranking current does not settle: the bank is too small for it.",)
    words = f"At the starter through the cables as they are: {volts_v:.2f} V; needed {limit_v:g} V."
    more = (
        f"At {bank.soc:.0%} charge it holds {starts} starts of {crank_s:g} s above {limit_v:g} V."
    )
    return (words, more) if starts is not None else (words,)


def _start_bank(design: Design, starter: Starter) -> tuple[Bank | None, dict[str, str]]:
    """The bank that starts, and the positions in which the fewest banks do; engine banks first."""
    turning = switches(design)
    choices = product(*(switch_positions(s) for s in turning))
    best: tuple[tuple[int, int, int], Bank, dict[str, str]] | None = None
    drawn = default_positions(design)
    for n, chosen in enumerate(choices):
        if n >= MAX_POSITIONS * 4:
            break
        positions = dict(zip((s.id for s in turning), chosen, strict=True))
        found = reach(design, State(positions=positions), frozenset()).fed_by[starter.id]
        banks = [b for b in design.of_type(Bank) if b.id in found]
        if not banks:
            continue
        first = min(banks, key=lambda b: b.role != "engine")
        moved = sum(positions[k] != drawn[k] for k in positions)
        rank = (int(first.role != "engine"), len(banks), moved)
        if best is None or rank < best[0]:
            best = (rank, first, positions)
    return (best[1], best[2]) if best else (None, drawn)


def _cranking(
    design: Design, starter: Starter, positions: dict[str, str], coldest: float, factor: float
) -> OperatingPoint | None:
    """The operating point while it cranks on a cold morning; None where it does not settle."""
    parts: list[object] = []
    for part in design.components:
        if isinstance(part, Bank):
            parts.append(part.model_copy(update={"temperature_c": coldest}))
        elif part.id == starter.id and isinstance(part, Starter):
            parts.append(part.model_copy(update={"cranking_a": part.cranking_a * factor}))
        else:
            parts.append(part)
    cold = design.having(components=tuple(parts))
    try:
        return operating_point(cold, State(engine="on", cranking=True, positions=positions))
    except NotSettledError:
        return None


def _starts(
    design: Design,
    starter: Starter,
    bank: Bank | None,
    positions: dict[str, str],
    conditions: tuple[float, float, float],
) -> tuple[float | None, float]:
    """Charge [Ah] down to which the starter has its volts, and what a second of cranking takes."""
    if bank is None:
        return None, 0.0
    coldest, factor, limit_v = conditions
    per_second_ah = starter.cranking_a * factor / 3600

    def enough(soc: float) -> bool:
        other = bank.model_copy(update={"soc": soc})
        parts = tuple(other if p.id == bank.id else p for p in design.components)
        point = _cranking(design.having(components=parts), starter, positions, coldest, factor)
        volts = None if point is None else point.starters[starter.id].volts_v
        return volts is not None and volts >= limit_v

    if not enough(bank.soc):
        return 0.0, per_second_ah
    low, high = 0.0, bank.soc
    if not enough(low):
        for _ in range(7):
            middle = (low + high) / 2
            low, high = (low, middle) if enough(middle) else (middle, high)
    else:
        high = 0.0
    held_ah = (bank.soc - high) * two_well(bank.chemistry, bank.capacity_ah).total_ah
    return held_ah, per_second_ah
