"""Rules about isolators: CH-6."""

from __future__ import annotations

from collections.abc import Iterator

from strom_engine.circuit import OperatingPoint
from strom_engine.circuit.constants import CRUISE_RPM
from strom_engine.design import Alternator, Isolator, SetPart
from strom_engine.reference import load_table
from strom_engine.rules.context import Context
from strom_engine.rules.finding import CONFIRM, Figure, Finding, Rule

__all__ = ["RULES", "drop_compensated"]

FAULT_SHARE = 0.03
CAUTION_V = 0.1  # a tenth of a volt moves the end of absorption noticeably

CH6 = Rule(
    "CH-6",
    "The drop of an isolator is compensated, and its heat has air",
    "Volts over each output that passes, engine at speed, against where the regulator senses.",
    f"{load_table('isolator_drops').source}; ABYC E-11, 3 % for charging circuits; {CONFIRM}",
)


def drop_compensated(context: Context) -> Iterator[Finding]:
    """CH-6: an isolator between an alternator and banks that its regulator does not see past."""
    isolators = context.design.of_type(Isolator)
    if not isolators:
        return
    point = context.point(engine="on", rpm=CRUISE_RPM)
    for isolator in isolators:
        passing = [
            now
            for ref, now in point.passing.items()
            if ref.startswith(f"{isolator.id}.") and now.current_a > 0
        ]
        for alternator in context.design.of_type(Alternator):
            error_v = _believed_v(point, alternator, isolator)
            drop_v = max((now.drop_v for now in passing), default=0.0)
            if error_v is not None and error_v > CAUTION_V and drop_v > CAUTION_V:
                heat_w = sum(now.current_a * now.drop_v for now in passing)
                yield _finding(context, isolator, alternator, drop_v, heat_w)


def _believed_v(point: OperatingPoint, alternator: Alternator, isolator: Isolator) -> float | None:
    """How much more the regulator senses than the best-charged output has [V]."""
    now = point.sources[alternator.id]
    feeds = point.post_v.get(f"{isolator.id}.in")
    outs = [
        volts
        for n in range(isolator.outputs)
        if (volts := point.post_v.get(f"{isolator.id}.out{n + 1}")) is not None
    ]
    if now.sense_v is None or feeds is None or not outs or now.current_a <= 0:
        return None
    return now.sense_v - max(outs)


def _finding(
    context: Context, isolator: Isolator, alternator: Alternator, drop_v: float, heat_w: float
) -> Finding:
    limit_v = FAULT_SHARE * alternator.set_v
    label = next(
        row["label"].lower()
        for row in load_table("isolator_drops").rows
        if row["sort"] == isolator.sort
    )
    return Finding(
        rule=CH6.id,
        severity="fault" if drop_v > limit_v else "caution",
        title=f"{isolator.name} drops {drop_v:.2f} V that {alternator.name} does not see",
        arithmetic=(
            f"Engine at {CRUISE_RPM:.0f} rpm, {label} of {isolator.rating_a:g} A: {drop_v:.2f} V "
            "over its busiest output.",
            f"{alternator.name} holds {alternator.set_v:g} V before it; the banks get "
            f"{alternator.set_v - drop_v:.2f} V at best.",
            f"3 % of {alternator.set_v:g} V = {limit_v:.2f} V. Heat in it: {heat_w:.0f} W.",
        ),
        figures=(Figure("Drop", drop_v, "V"), Figure("Heat", heat_w, "W")),
        limit=f"{limit_v:.2f} V; {CAUTION_V:g} V is worth mending",
        source=CH6.source,
        why="The batteries behind it never fill: the regulator believes them full too early.",
        repair=f"Lead the sense wire of {alternator.name} behind it, fused; or fit one with "
        "transistors. Give it air: it is hot at full output.",
        parts=(isolator.id, alternator.id),
        change=None
        if isolator.sort == "fet"
        else SetPart(part=isolator.id, fields={"sort": "fet"}),
    )


RULES = ((CH6, drop_compensated),)
