"""The start bank against the starter, on the coldest morning and through the real cables."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from functools import lru_cache
from itertools import product

from strom_engine.batteries import bank_model
from strom_engine.circuit import OperatingPoint, estimated_cables, operating_point, reach
from strom_engine.design import Bank, Design, Starter, State, switch_positions
from strom_engine.design.state import default_positions, feed_switches, switches
from strom_engine.errors import NotSettledError
from strom_engine.reference import load_table
from strom_engine.survey import Survey

__all__ = [
    "StartCheck",
    "cold_need",
    "cold_start",
    "coldest_start_c",
    "start_check",
    "start_positions",
    "turning_v",
]

MAX_POSITIONS = 64
WARM_C = 27.0
LABEL_C = -18.0
ASSUMED_COLDEST_C = 0.0
MOST_STARTS = 99
REST_S = 60.0  # between tries, as makers of starters ask for


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
    starts_rested: int | None
    positions: dict[str, str]
    working: tuple[str, ...]
    missing: tuple[str, ...]
    estimated: tuple[str, ...]
    source: str


def coldest_start_c(told_c: float | None) -> float:
    """The coldest morning on which the engine must start [degC]; an assumed one until told."""
    return ASSUMED_COLDEST_C if told_c is None else told_c


def cold_need(temperature_c: float) -> float:
    """How much more a cold engine takes than a warm one [-] (table cranking_cold)."""
    return load_table("cranking_cold").lookup("temperature_c", "needed", temperature_c)


def turning_v(design: Design, starter: Starter, temperature_c: float) -> float:
    """Volts [V] at a starter down to which the engine is taken to turn over and start.

    The engine's own figure where it was typed in; else the least volts of the battery load test
    at a temperature [degC], 9.6 V of 12 in the warm (reference table cranking_cold).

    Args:
        design: the boat, as surveyed.
        starter: one of the design.
        temperature_c: of the morning [degC].
    """
    if starter.min_v is not None:
        return starter.min_v
    share = load_table("cranking_cold").lookup("temperature_c", "volts_share", temperature_c)
    return round(share * design.nominal_v(starter), 3)


def cold_start(design: Design, temperature_c: float) -> Design:
    """A design as it is while an engine is cranked at a temperature [degC]: oil, banks, copper.

    Args:
        design: the boat, as surveyed.
        temperature_c: of the morning [degC], -20 to 40.
    """
    need = cold_need(temperature_c)
    parts: list[object] = []
    for part in design.components:
        if isinstance(part, Bank):
            parts.append(part.model_copy(update={"temperature_c": temperature_c}))
        elif isinstance(part, Starter):
            parts.append(part.model_copy(update={"cranking_a": part.cranking_a * need}))
        else:
            parts.append(part)
    return design.replace_unchecked(components=tuple(parts), conductor_temperature_c=temperature_c)


def start_check(design: Design, survey: Survey | None, starter: Starter) -> StartCheck:
    """Cranking need and supply at the coldest start, volts at the starter, starts in reserve.

    Need and supply: reference table cranking_cold. Volts: the operating point while cranking,
    with bank, oil and copper as cold as the morning, through the cables as they are; no other bank
    helps.

    Args:
        design: the boat, as surveyed.
        survey: its survey; None where there is none.
        starter: one of the design.

    Returns:
        CCA needed and given [A], volts [V] at the starter, starts in reserve [-].

    Raises:
        ComputationError: the state cannot be solved.
    """
    told_c = survey.boat.coldest_c if survey else None
    return _start_check(design, starter.id, told_c, survey.sizing.crank_s if survey else 4.0)


@lru_cache(maxsize=64)
def _start_check(design: Design, name: str, told_c: float | None, crank_s: float) -> StartCheck:
    starter = next(s for s in design.of_type(Starter) if s.id == name)
    table = load_table("cranking_cold")
    coldest = coldest_start_c(told_c)
    factor = cold_need(coldest)
    need_a = starter.cranking_a * factor
    bank, positions = start_positions(design, starter)
    missing = [] if told_c is not None else ["the coldest start (0 °C taken)"]
    if "cranking_a" in starter.assumed:
        missing.append("the cranking amps (a usual figure taken)")
    if bank is not None and bank.cca_a is None:
        missing.append(f"the cold cranking amps on the label of {bank.name}")
    available_a, supply = _supply(bank, coldest)
    cold = cold_start(design, coldest)
    point = None if bank is None else _cranking(cold, positions)
    volts_v = None if point is None else point.starters[starter.id].volts_v
    limit_v = turning_v(design, starter, coldest)
    starts, rested = None, None
    if bank is not None:
        starts, rested = _starts(cold, starter, bank, positions, limit_v, crank_s)
    return StartCheck(
        starter=starter.id,
        bank=bank.id if bank else None,
        coldest_c=coldest,
        need_a=need_a,
        available_a=available_a,
        volts_v=volts_v,
        limit_v=limit_v,
        starts=starts,
        starts_rested=rested,
        positions=positions,
        working=(
            f"{starter.name}: {starter.cranking_a:.0f} A warm x {factor:.2f} at {coldest:g} °C = "
            f"{need_a:.0f} A.",
            *supply,
            *_volts_words(bank, volts_v, limit_v, (starts, rested), crank_s),
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
    bank: Bank | None,
    volts_v: float | None,
    limit_v: float,
    starts: tuple[int | None, int | None],
    crank_s: float,
) -> tuple[str, ...]:
    if bank is None:
        return ("No bank reaches the starter in any position.",)
    if volts_v is None:
        return ("The cranking current does not settle: the bank is too small for it.",)
    words = f"At the starter through the cables as they are: {volts_v:.2f} V; needed {limit_v:g} V."
    if None in starts:
        return (words,)
    at_once, rested = (f"{MOST_STARTS} or more" if n == MOST_STARTS else f"{n}" for n in starts)
    more = (
        f"At {bank.soc:.0%} charge it holds {at_once} starts of {crank_s:g} s above {limit_v:g} V "
        f"without a pause, {rested} with a minute between."
    )
    return (words, more)


def start_positions(design: Design, starter: Starter) -> tuple[Bank | None, dict[str, str]]:
    """The bank that starts, and the positions in which the fewest banks do; engine banks first.

    Args:
        design: the boat, as surveyed.
        starter: one of the design.

    Returns:
        The bank (None where nothing reaches it) and position by switch.
    """
    bank, positions = _start_positions(design, starter.id)
    return bank, dict(positions)


@lru_cache(maxsize=64)
def _start_positions(design: Design, starter: str) -> tuple[Bank | None, dict[str, str]]:
    feeds = feed_switches(design)
    turning = tuple(s for s in switches(design) if s.id not in feeds)
    choices = product(*(switch_positions(s) for s in turning))
    best: tuple[tuple[int, int, int], Bank, dict[str, str]] | None = None
    drawn = default_positions(design)
    for n, chosen in enumerate(choices):
        if n >= MAX_POSITIONS * 4:
            break
        positions = dict(zip((s.id for s in turning), chosen, strict=True))
        positions = drawn | positions
        found = reach(design, State(positions=positions), frozenset()).fed_by[starter]
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
    cold: Design, positions: dict[str, str], soc: Mapping[str, float] | None = None
) -> OperatingPoint | None:
    """The operating point while it cranks, banks as full as told [-]; None if it finds no rest."""
    try:
        state = State(engine="on", cranking=True, positions=positions, soc=dict(soc or {}))
        return operating_point(cold, state)
    except NotSettledError:
        return None


def _starts(
    cold: Design,
    starter: Starter,
    bank: Bank,
    positions: dict[str, str],
    limit_v: float,
    crank_s: float,
) -> tuple[int, int]:
    """How often a bank starts its engine, without a pause and with a minute of rest between.

    Each time the wells give what the starter takes at the least head with which it has its volts.
    """

    def crank(head: float) -> tuple[float, float]:
        """Volts at the starter [V] and amps out of the bank [A] at a head of its charge [-]."""
        point = _cranking(cold, positions, {bank.id: head})
        if point is None:
            return 0.0, 0.0
        return point.starters[starter.id].volts_v or 0.0, -point.banks[bank.id].current_a

    if crank(bank.soc)[0] < limit_v:
        return 0, 0
    low, high = 0.0, bank.soc
    for _ in range(7):
        middle = (low + high) / 2
        low, high = (low, middle) if crank(middle)[0] >= limit_v else (middle, high)
    amps = crank(high)[1]
    own = next(p for p in cold.components if p.id == bank.id)
    return tuple(_cranks(own, high, amps, crank_s, rest_s) for rest_s in (0.0, REST_S))  # type: ignore[arg-type,return-value]


def _cranks(bank: Bank, least_head: float, amps: float, crank_s: float, rest_s: float) -> int:
    """How often a bank gives a current [A] for some time [s] before its head is too low."""
    model = bank_model(bank)
    wells = model.rested(bank.soc)
    for n in range(MOST_STARTS):
        wells = model.after(wells, model.flow(wells, -amps), crank_s / 3600)
        if model.head(wells) < least_head:
            return n
        wells = model.after(wells, model.flow(wells, 0.0), rest_s / 3600)
    return MOST_STARTS
