"""The rule about how much charge a bank may take: CH-19."""

from __future__ import annotations

from collections.abc import Iterator

from strom_engine.batteries import HALF_SOC
from strom_engine.batteries.limits import charge_limit_a
from strom_engine.circuit.constants import CRUISE_RPM
from strom_engine.circuit.results import OperatingPoint
from strom_engine.design import Bank, DcDc, Protection, SetPart
from strom_engine.reference import chemistry, load_table
from strom_engine.rules.context import Context, is_lithium
from strom_engine.rules.finding import CONFIRM, Figure, Finding, Rule, Severity
from strom_engine.runs.converters import bank_at

__all__ = ["RULES"]

FULL = 0.95
LEAST_DRAIN_A = 2.0
SOURCE_SHARE = 0.8  # of what the source leaves that a dc-dc charger may take; own judgement

CH19 = Rule(
    "CH-19",
    "A bank is charged with no more than it may take, and never below its temperature",
    "Amps into every bank, half full: engine and sun, then shore and sun, against its maker's "
    "figure, else the usual one of its chemistry; lithium against frost.",
    f"{load_table('battery_chemistry').source}; makers' manuals; {CONFIRM}",
)


CH20 = Rule(
    "CH-20",
    "A dc-dc charger takes no more than the source of its bank gives",
    "With the engine at cruising speed, its bank full and the others half full: what it takes, and "
    "what its bank must add.",
    f"Makers' manuals of dc-dc chargers; {CONFIRM}",
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


def drained(context: Context) -> Iterator[Finding]:
    """CH-20: dc-dc chargers that take more than their source gives."""
    full = {b.id: FULL if b.role == "engine" else HALF_SOC for b in context.banks}
    state = {"engine": "on", "rpm": CRUISE_RPM, "soc": full}
    point = context.point(**state)
    for part in context.design.of_type(DcDc):
        bank, now = bank_at(context.design, f"{part.id}.in"), point.converters[part.id]
        if bank is None or not now.closed:
            continue
        into_a = point.banks[bank.id].current_a
        if into_a >= -LEAST_DRAIN_A:
            continue
        least_a = max(now.in_a + into_a, 0.0)
        fits_a = float(int(SOURCE_SHARE * least_a))
        yield Finding(
            rule=CH20.id,
            severity="fault",
            title=f"{part.name} drains {bank.name} by {-into_a:.0f} A with the engine running",
            arithmetic=(
                f"Engine at {CRUISE_RPM:.0f} rpm, {bank.name} at {full[bank.id]:.0%}, the others "
                f"at {HALF_SOC:.0%}: it takes {now.in_a:.0f} A and gives {now.out_a:.0f} A; "
                f"{bank.name} gives {-into_a:.0f} A of them.",
                f"Left for it by the sources: {now.in_a:.0f} - {-into_a:.0f} = {least_a:.0f} A; "
                f"{SOURCE_SHARE:.0%} of that is {fits_a:.0f} A.",
            ),
            figures=(
                Figure("Takes", now.in_a, "A"),
                Figure("Out of the bank", -into_a, "A"),
            ),
            limit="0 A out of its bank",
            source=CH20.source,
            why="After an hour under way the engine does not start again.",
            repair=f"Limit its input to {fits_a:.0f} A, or a smaller one."
            if fits_a
            else "A source for its bank, or none of this charger.",
            parts=(part.id, bank.id),
            change=SetPart(part=part.id, fields={"input_limit_a": fits_a}) if fits_a else None,
        )


RULES = ((CH19, too_much), (CH20, drained))
