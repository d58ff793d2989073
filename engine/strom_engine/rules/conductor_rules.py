"""Rules about the conductors themselves: CO-1, CO-3, CO-4, CO-5."""

from __future__ import annotations

from collections.abc import Iterator

from strom_engine.design import Cable, CableFields, SetCables
from strom_engine.design.fields import USUAL_INSULATION_C
from strom_engine.rules.context import Context
from strom_engine.rules.finding import CONFIRM, Figure, Finding, Rule
from strom_engine.runs import in_engine_space
from strom_engine.runs.allowed_current import LEAST_IN_ENGINE_SPACE_C, SHORT_S
from strom_engine.runs.legs import legs
from strom_engine.runs.negatives import SAME_SIZE, negative_too_thin
from strom_engine.runs.repairs import resize, set_sizes
from strom_engine.runs.sizes import (
    ADIABATIC_K,
    LEAST_MM2,
    LONGEST_CRANK_S,
    cranks_a,
    least_mm2,
    overloads,
)
from strom_engine.runs.stock import StockCable
from strom_engine.runs.wiring import part_of

__all__ = ["RULES"]

CO1 = Rule(
    "CO-1",
    "A cable carries its current for long",
    "Design current against the allowable current for its size, insulation, place and bundle; what "
    "flows for minutes at a time against what it stands so long from cold.",
    f"ABYC E-11 and 33 CFR 183.425 for AWG sizes, ISO 13297 for metric ones; IEC 60364-4-43 for "
    f"cranking; {CONFIRM}",
    (Figure("Longest crank", LONGEST_CRANK_S, "s"), Figure("For minutes", SHORT_S / 60, "min")),
)
CO3 = Rule(
    "CO-3",
    "No conductor is thinner than its standard allows",
    "Copper area of every cable: 16 AWG, or 18 AWG in a sheath with others; under ISO 1 mm², or "
    "0.75 mm² within a cable of several.",
    f"ABYC E-11 and ISO 13297, minimum conductor size; {CONFIRM}",
    tuple(
        Figure(f"{words}, {name.upper()}", LEAST_MM2[name][n], "mm²")
        for name in LEAST_MM2
        for n, words in enumerate(("Least", "In a sheath"))
    ),
)
CO4 = Rule(
    "CO-4",
    "A negative carries what its positive does",
    "What a negative may carry against the device in its positive and the current; where no device "
    "is there, its copper against the positive's.",
    f"ABYC E-11, size and protection of the return conductor; {CONFIRM}",
)
CO5 = Rule(
    "CO-5",
    "Insulation stands an engine space",
    "Insulation rating of every cable that runs through an engine space.",
    f"ABYC E-11, conductors in engine spaces; ISO 13297 allows no 60 °C there; {CONFIRM}",
    tuple(Figure(f"At least, {k.upper()}", c, "°C") for k, c in LEAST_IN_ENGINE_SPACE_C.items()),
)


def amps(context: Context) -> Iterator[Finding]:
    """CO-1: for long, and while cranking."""
    yield from carries(context)
    yield from cranks(context)


def carries(context: Context) -> Iterator[Finding]:
    """CO-1: current above the allowable one."""
    for cable in context.design.cables:
        current, allowed = context.currents[cable.id], context.allowed(cable)
        if not overloads(current, allowed):
            continue
        name = context.design.cable_name(cable)
        # What is too much for hours is told first; what flows for minutes may be more.
        long = current.lasting_a > allowed.amps
        flows_a, may_a = (
            (current.lasting_a, allowed.amps) if long else (current.amps, allowed.short_a)
        )
        minutes = (
            f"For {SHORT_S / 60:g} min from cold it stands {allowed.short_share:.2f} times as "
            f"much: {allowed.short_a:.0f} A."
        )
        yield _cable_finding(
            CO1,
            cable,
            (*current.working, *allowed.working, *(() if long else (minutes,))),
            (Figure("Current", flows_a, "A"), Figure("Allowed", may_a, "A")),
            (
                f"{name}: {flows_a:.0f} A flow, {may_a:.0f} A are allowed",
                f"{may_a:.0f} A ({allowed.confidence} confidence)",
                "Hot insulation ages, softens, and lets the conductor out.",
                "A thicker cable, another insulation, or a cooler and looser way.",
            ),
            resize(context.design, cable, context.stock, context.standard),
        )


def cranks(context: Context) -> Iterator[Finding]:
    """CO-1: a long crank heats a conductor beyond what its insulation stands."""
    for cable in context.design.cables:
        brief_a, stands_a = context.currents[cable.id].brief_a, cranks_a(cable.area_mm2)
        if brief_a <= stands_a:
            continue
        name = context.design.cable_name(cable)
        yield _cable_finding(
            CO1,
            cable,
            (
                f"{cable.area_mm2:.1f} mm² x {ADIABATIC_K:g} / √{LONGEST_CRANK_S:g} s = "
                f"{stands_a:.0f} A; cranking takes {brief_a:.0f} A.",
            ),
            (Figure("Cranking", brief_a, "A"), Figure("Stands", stands_a, "A")),
            (
                f"{name}: {brief_a:.0f} A while cranking, it stands {stands_a:.0f} A",
                f"{stands_a:.0f} A for {LONGEST_CRANK_S:g} s (IEC 60364-4-43)",
                "Hot insulation ages, softens, and lets the conductor out.",
                "A thicker cable.",
            ),
            resize(context.design, cable, context.stock, context.standard),
        )


def _cable_finding(
    rule: Rule,
    cable: Cable,
    lines: tuple[str, ...],
    figures: tuple[Figure, ...],
    words: tuple[str, str, str, str],
    change: SetCables | None,
) -> Finding:
    """``words``: title, limit, why, repair."""
    title, limit, why, repair = words
    return Finding(
        rule=rule.id,
        severity="fault",
        title=title,
        arithmetic=lines,
        figures=figures,
        limit=limit,
        source=rule.source,
        why=why,
        repair=repair,
        parts=tuple(dict.fromkeys((part_of(cable.start), part_of(cable.end)))),
        change=change,
        about=cable.id,
    )


def thinnest(context: Context) -> Iterator[Finding]:
    """CO-3: cables thinner than any may be."""
    for cable in context.design.cables:
        least = least_mm2(context.standard, sheathed=cable.sheathed)
        if cable.area_mm2 >= least:
            continue
        how = "in a sheath" if cable.sheathed else "not in a sheath"
        yield _cable_finding(
            CO3,
            cable,
            (f"{cable.gauge}: {cable.area_mm2:.2f} mm², {how}; at least {least:g} mm².",),
            (Figure("Area", cable.area_mm2, "mm²"), Figure("Least", least, "mm²")),
            (
                f"{context.design.cable_name(cable)} is only {cable.gauge}",
                f"{least:g} mm²",
                "A thinner wire breaks at its terminal long before it is hot.",
                f"A conductor of {least:g} mm² or more.",
            ),
            resize(context.design, cable, context.stock, context.standard),
        )


def negatives(context: Context) -> Iterator[Finding]:
    """CO-4: negatives that their positive's device does not protect, or simply thinner ones."""
    for leg in legs(context.design):
        if leg.out is None or leg.back is None:
            continue
        out, back = leg.out, leg.back
        lines = negative_too_thin(context.design, leg, context.standard)
        if not lines:
            continue
        yield _cable_finding(
            CO4,
            back,
            (
                f"Positive {out.gauge}, {out.area_mm2:.1f} mm²; negative {back.gauge}, "
                f"{back.area_mm2:.1f} mm².",
                *lines,
            ),
            (Figure("Positive", out.area_mm2, "mm²"), Figure("Negative", back.area_mm2, "mm²")),
            (
                f"{context.design.cable_name(back)}, {back.gauge}, is thinner than its positive",
                f"{out.area_mm2:.1f} mm²",
                "All that flows out flows back: the thin half burns, or loses the volts.",
                f"A negative of {out.gauge}.",
            ),
            _as_thick(context, back, out),
        )


def _as_thick(context: Context, back: Cable, out: Cable) -> SetCables | None:
    """The negative in the thinnest stocked size that is as thick, else as the positive is."""
    if back.locked:
        return None
    fits = (
        s
        for s in context.stock.by_area
        if s.area_mm2 >= SAME_SIZE * out.area_mm2 and s.insulation_c >= back.insulation_c
    )
    same = StockCable(gauge=out.gauge, copper_mm2=out.copper_mm2, insulation_c=out.insulation_c)
    return set_sizes({back.id: next(fits, same)})


def engine_space(context: Context) -> Iterator[Finding]:
    """CO-5: insulation in engine spaces."""
    for cable in context.design.cables:
        least_c = LEAST_IN_ENGINE_SPACE_C[context.standard]
        if cable.insulation_c >= least_c:
            continue
        if not in_engine_space(context.design, cable):
            continue
        change = CableFields(cable=cable.id, fields={"insulation_c": USUAL_INSULATION_C})
        yield _cable_finding(
            CO5,
            cable,
            (f"Insulation {cable.insulation_c} °C; at least {least_c} °C there.",),
            (Figure("Insulation", cable.insulation_c, "°C"),),
            (
                f"{context.design.cable_name(cable)} has {cable.insulation_c} °C insulation in an "
                "engine space",
                f"{least_c} °C",
                "Soft insulation in a hot space wears through on the first edge.",
                f"A cable with {USUAL_INSULATION_C} °C insulation.",
            ),
            None if cable.locked else SetCables(rows=(change,)),
        )


RULES = ((CO1, amps), (CO3, thinnest), (CO4, negatives), (CO5, engine_space))
