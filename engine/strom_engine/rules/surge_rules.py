"""Rules about what is taken for seconds: BA-9, and devices that meet it, OC-14."""

from __future__ import annotations

from collections.abc import Iterator

from strom_engine.circuit.results import OperatingPoint
from strom_engine.design import FittedInverter, LoadGroup
from strom_engine.reference import opening_s
from strom_engine.rules.context import Context
from strom_engine.rules.device_finding import device_finding
from strom_engine.rules.finding import CONFIRM, Figure, Finding, Rule
from strom_engine.runs.devices import protectors
from strom_engine.runs.guarding import devices_before
from strom_engine.runs.repairs import rate
from strom_engine.runs.surges import Surge, surge_cases, surges

__all__ = ["RULES"]

BA9 = Rule(
    "BA-9",
    "What surges or starts leaves the others enough volts",
    "Every large surge solved in the circuit, banks at their low end, nothing charging: volts at "
    "the inverter against its cut-out, and at every load against its own least volts.",
    f"Makers' manuals: surge power, starting and stall currents, least volts; {CONFIRM}",
)
OC14 = Rule(
    "OC-14",
    "A device holds while what it feeds starts or surges",
    "What a motor takes as it starts, an inverter as it surges and a starter in its first instant, "
    "and for how long, against the shortest time in which a slow device opens.",
    f"Makers' time-current curves and manuals; {CONFIRM}",
)


def sags(context: Context) -> Iterator[Finding]:
    """BA-9: loads that drop out while something surges."""
    for surge, case in surge_cases(context.design):
        short = list(_short(context, surge, case.point))
        if not short:
            continue
        bank, now = max(case.point.banks.items(), key=lambda b: -b[1].current_a)
        yield Finding(
            rule=BA9.id,
            severity="caution",
            title=f"{surge.name} {surge.does} and {short[0][0]} drops out",
            arithmetic=(
                f"{case.words}: {context.name(bank)} gives {-now.current_a:.0f} A at "
                f"{now.volts_v:.2f} V.",
                *(f"{name}: {volts:.2f} V; needs {least:g} V." for name, volts, least in short),
            ),
            figures=(
                Figure("For seconds", -now.current_a, "A"),
                Figure(f"At {short[0][0]}", short[0][1], "V"),
                Figure("Needs", short[0][2], "V"),
            ),
            limit=f"{short[0][2]:g} V at {short[0][0]}",
            source=BA9.source,
            why="Plotters start anew, an inverter shuts down, just when the hands are full.",
            repair="A larger bank, thicker and shorter cables, the engine running, or another bank "
            "for what must not drop out.",
            parts=(surge.part, bank),
            about=surge.item or "surge",
        )


def _short(
    context: Context, surge: Surge, point: OperatingPoint
) -> Iterator[tuple[str, float, float]]:
    """What gets too few volts: its name, its volts, what it needs [V]."""
    for part in context.design.components:
        if not isinstance(part, LoadGroup | FittedInverter) or part.id not in point.loads:
            continue
        volts = point.loads[part.id].volts_v
        if isinstance(part, FittedInverter):
            # One that has cut out shows the volts at which it rests: its contact tells.
            contact = point.contacts.get(part.id)
            if contact is not None and contact.verdict != "closed" and part.position == "on":
                seen = contact.volts_v if contact.volts_v is not None else part.cut_out_v
                yield part.name, min(seen, part.cut_out_v), part.cut_out_v
            continue
        for item in part.items:
            surging = (part.id, item.id) == (surge.part, surge.item)
            if not surging and volts is not None and item.min_v is not None and volts < item.min_v:
                yield item.name, volts, item.min_v


def holds(context: Context) -> Iterator[Finding]:
    """OC-14: devices that may open while nothing is wrong."""
    devices = protectors(context.design)
    for surge in surges(context.design):
        for device in devices_before(context.design, f"{surge.part}.pos"):
            one = devices[device]
            multiple = surge.amps / one.rating_a
            seconds = opening_s(multiple)
            if seconds is None or seconds >= surge.lasts_s:
                continue
            yield device_finding(
                OC14,
                one,
                "caution",
                f"{one.name}, {one.rating_a:g} A, may open as {surge.name} {surge.does}",
                (
                    f"{surge.amps:.0f} A / {one.rating_a:g} A = {multiple:.1f} times its rating; "
                    f"a slow one opens from {seconds:.1f} s on; it lasts {surge.lasts_s:g} s.",
                ),
                figures=(
                    Figure("For seconds", surge.amps, "A"),
                    Figure("Opens from", seconds, "s"),
                ),
                limit=f"{surge.lasts_s:g} s",
                parts=(one.part, surge.part),
                why="It opens while nothing is wrong, and takes its circuit with it.",
                repair="The fuse that its maker asks for, slow, with cables that bear it.",
                change=rate(context.design, one, context.stock, context.standard)
                if isinstance(context.design.by_id[surge.part], FittedInverter)
                else None,
                about=f"{device} {surge.item or surge.part}",
            )


RULES = ((BA9, sags), (OC14, holds))
