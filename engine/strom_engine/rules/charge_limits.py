"""The rule about how much charge a bank may take: CH-19."""

from __future__ import annotations

from collections.abc import Iterator

from strom_engine.batteries.limits import charge_limit_a
from strom_engine.circuit.results import OperatingPoint
from strom_engine.design import Bank, Protection
from strom_engine.reference import chemistry, load_table
from strom_engine.rules.context import Context, is_lithium
from strom_engine.rules.finding import CONFIRM, Figure, Finding, Rule, Severity

__all__ = ["RULES"]

CRUISE_RPM = 2000.0

CH19 = Rule(
    "CH-19",
    "A bank is charged with no more than it may take, and never below its temperature",
    "Amps into every bank, half full: engine and sun, then shore and sun, against its maker's "
    "figure, else the usual one of its chemistry; lithium against frost.",
    f"{load_table('battery_chemistry').source}; makers' manuals; {CONFIRM}",
)


def too_much(context: Context) -> Iterator[Finding]:
    """CH-19: banks that are charged with more than they may take."""
    points = {
        "Engine and sun": context.half_full(engine="on", rpm=CRUISE_RPM, sun=1.0),
        "Shore lead and sun": context.half_full(shore=True, sun=1.0),
    }
    for bank in context.banks:
        words, point = max(points.items(), key=lambda p: p[1].banks[bank.id].current_a)
        yield from _amps(bank, words, point)
        yield from _frost(context, bank)


def _amps(bank: Bank, words: str, point: OperatingPoint) -> Iterator[Finding]:
    amps = point.banks[bank.id].current_a
    limit_a, why = charge_limit_a(bank)
    if amps <= limit_a:
        return
    typed = bank.unit_charge_a is not None
    severity: Severity = "note"
    if is_lithium(bank) or typed:
        severity = "fault" if typed else "caution"
    yield Finding(
        rule=CH19.id,
        severity=severity,
        title=f"{bank.name} is charged with {amps:.0f} A; it may take {limit_a:.0f} A",
        arithmetic=(f"{words}, bank half full: {amps:.0f} A.", f"{why}."),
        figures=(Figure("Charge", amps, "A"), Figure("May take", limit_a, "A")),
        limit=f"{limit_a:.0f} A",
        source=CH19.source,
        why="It warms and ages, and a lithium bank's protection opens.",
        repair="Limit the source, or take more batteries in parallel; read the maker's figure.",
        parts=(bank.id,),
        about="amps",
    )


def _frost(context: Context, bank: Bank) -> Iterator[Finding]:
    figures = chemistry(bank.chemistry)
    coldest = None if context.survey is None else context.survey.boat.coldest_c
    guarded = any(
        p.guards == bank.id and p.no_charge_below_c >= 0 for p in context.design.of_type(Protection)
    )
    if figures.charge_below_0c or guarded or coldest is None or coldest >= 0:
        return
    yield Finding(
        rule=CH19.id,
        severity="caution",
        title=f"Nothing drawn keeps {bank.name} from being charged in frost",
        arithmetic=(
            f"Coldest morning {coldest:g} °C; {figures.label} takes no charge below 0 °C; "
            "protections that stop it: 0.",
        ),
        figures=(Figure("Coldest", coldest, "°C"), Figure("No charge below", 0.0, "°C")),
        limit="0 °C",
        source=CH19.source,
        why="Charged in frost, lithium plates out inside: the cell is spoilt, and may short.",
        repair="Draw its protection with its temperature limit, or warm the bank.",
        parts=(bank.id,),
        about="frost",
    )


RULES = ((CH19, too_much),)
