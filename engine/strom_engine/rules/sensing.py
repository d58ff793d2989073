"""Rules about where regulators sense: CH-15."""

from __future__ import annotations

from collections.abc import Iterator

from strom_engine.circuit import OperatingPoint, estimated_cables
from strom_engine.circuit.constants import CRUISE_RPM
from strom_engine.design import Alternator, default_positions
from strom_engine.rules.context import Context, Situation
from strom_engine.rules.finding import CONFIRM, Figure, Finding, Rule

__all__ = ["RULES", "sensed_voltage"]

SENSE_CAUTION_V = 0.1  # a tenth of a volt moves the end of absorption noticeably
SENSE_FAULT_SHARE = 0.03

CH15 = Rule(
    "CH-15",
    "The regulator senses what the bank has",
    "Volts where the regulator senses against volts at the bank, engine at speed.",
    f"ABYC E-11, 3 % voltage drop for charging circuits; makers' manuals of regulators; {CONFIRM}",
)


def sensed_voltage(context: Context) -> Iterator[Finding]:
    """CH-15: a regulator that believes another voltage than its bank has.

    A bank behind a dc-dc charger is left out: that charger rules its voltage, not the alternator.
    """
    point = context.half_full(engine="on", rpm=CRUISE_RPM)
    straight = Situation(
        default_positions(context.design), point.moved().difference(point.converters)
    )
    charges = context.reach(straight, engine="on").charges
    for alternator in context.design.of_type(Alternator):
        now = point.sources[alternator.id]
        taken = {
            b: point.banks[b].given_by_a.get(alternator.id, 0.0) for b in charges[alternator.id]
        }
        bank = max(taken, key=lambda b: taken[b], default=None)
        if bank is None or now.sense_v is None or taken[bank] < 1.0:
            continue
        error_v = now.sense_v - point.banks[bank].volts_v
        if error_v > SENSE_CAUTION_V:
            yield _sense_finding(context, alternator, bank, point)


def _sense_finding(
    context: Context, alternator: Alternator, bank: str, point: OperatingPoint
) -> Finding:
    now = point.sources[alternator.id]
    limit_v = SENSE_FAULT_SHARE * alternator.set_v
    sense_v = now.sense_v or 0.0
    error_v = sense_v - point.banks[bank].volts_v
    landed = {c.start for c in context.design.cables} | {c.end for c in context.design.cables}
    leads = [p for p in ("sense_pos", "sense_neg") if f"{alternator.id}.{p}" in landed]
    where = {
        0: "at its own posts",
        1: f"by its {'positive' if leads == ['sense_pos'] else 'negative'} lead alone",
        2: "by both leads",
    }[len(leads)]
    return Finding(
        rule=CH15.id,
        severity="fault" if error_v > limit_v else "caution",
        title=f"{alternator.name} believes {context.name(bank)} {error_v:.2f} V higher than it is",
        arithmetic=(
            f"As drawn, banks half charged, engine at {CRUISE_RPM:.0f} rpm, "
            f"{now.current_a:.1f} A: it senses {where}, "
            f"{sense_v:.2f} V.",
            f"{context.name(bank)} has {sense_v - error_v:.2f} V: "
            f"{sense_v:.2f} - {sense_v - error_v:.2f} = {error_v:.2f} V.",
            f"3 % of {alternator.set_v:g} V = {limit_v:.2f} V.",
        ),
        figures=(
            Figure("Sensed", sense_v, "V"),
            Figure("At the bank", sense_v - error_v, "V"),
            Figure("Error", error_v, "V"),
        ),
        limit=f"{limit_v:.2f} V; {SENSE_CAUTION_V:g} V is worth mending",
        source=CH15.source,
        why="It ends the charge by a voltage that the bank does not have: it floats too early.",
        repair=f"Lead both sense wires of an external regulator to {context.name(bank)}, the "
        "positive one fused, and run a thicker cable on both sides.",
        parts=(alternator.id, bank),
        estimated=estimated_cables(context.design, point),
    )


RULES = ((CH15, sensed_voltage),)
