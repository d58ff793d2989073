"""Rules about limits, output cables and the belt: CH-9, CH-11, CH-17."""

from __future__ import annotations

from collections.abc import Iterator

from strom_engine.circuit.network import cable_resistance_ohm
from strom_engine.circuit.supply import most_a
from strom_engine.design import Alternator, Bank, Cable, Protection, Relay
from strom_engine.design.volts import nominal_of_set_v
from strom_engine.reference import ampacity_a, ampacity_table
from strom_engine.rules.context import Context, Situation, is_lithium
from strom_engine.rules.finding import CONFIRM, Figure, Finding, Rule
from strom_engine.rules.gathering import gathered
from strom_engine.sizing.alternator_drive import alternator_drive

__all__ = ["RULES"]

REST = frozenset[str]()
FOR_LONG_SHARE = 0.7  # small-frame machines give 50-70 % of the label for long (trade practice)
CHARGING_DROP = 0.03
# Belt limits at 12 V [A], lower and upper end, as commonly published; half at 24 V.
BELTS = {
    "v_10": ("one 10 mm V belt", 70, 90),
    "v_13": ("one 13 mm V belt", 100, 120),
    "two_v_10": ("two 10 mm V belts", 140, 160),
    "two_v_13": ("two 13 mm V belts", 200, 240),
    "rib_6": ("a 6-rib belt", 150, 200),
    "rib_8": ("an 8-rib belt", 220, 300),
}
ANY_BELT_A = 70.0
USUAL_MOST_RPM = 15_000.0  # of small-frame machines; makers' data as commonly published

CH9 = Rule(
    "CH-9",
    "An alternator on lithium has a probe, a limit, and somewhere to go",
    "Alternators with a path of metal to a lithium bank: probe, limit, and what happens when the "
    "bank's protection opens.",
    f"ABYC E-13 (lithium batteries), alternators; makers' manuals; {CONFIRM}",
)
CH11 = Rule(
    "CH-11",
    "The output cable carries the rated output",
    "Drop at rated output over the first cable on both sides of every alternator, and what those "
    "cables are allowed.",
    f"ABYC E-11, 3 % voltage drop for charging circuits, allowable currents; {CONFIRM}",
)
CH17 = Rule(
    "CH-17",
    "The belt carries the alternator, and its pulleys do not drive it too fast",
    "Hot output and its limits against what the belt is good for; the machine's speed over its "
    "pulleys at the engine's top speed.",
    f"Makers' belt tables and machine speeds as commonly published; {CONFIRM}",
)


def lithium_alternator(context: Context) -> Iterator[Finding]:
    """CH-9: alternators that charge a lithium bank through metal."""
    for alternator in context.design.of_type(Alternator):
        for bank in _lithium_reached(context, alternator):
            yield from _unlimited(context, alternator, bank)
            yield from _cut_by_protection(context, alternator, bank)


def _lithium_reached(context: Context, alternator: Alternator) -> list[Bank]:
    relays = frozenset(p.id for p in context.design.of_type(Relay))
    reached = {
        bank
        for positions in (context.drawn, context.joined)
        for moved in (REST, relays)
        for bank in context.reach(Situation(positions, moved), engine="on").charges[alternator.id]
    }
    return [b for b in context.banks if is_lithium(b) and b.id in reached]


def _unlimited(context: Context, alternator: Alternator, bank: Bank) -> Iterator[Finding]:
    limit_a, most = most_a(alternator), FOR_LONG_SHARE * alternator.rated_a
    probe = alternator.temperature_probe
    limited = limit_a <= most + 0.5 and (alternator.belt_limit_a or alternator.field_limit)
    if limited and probe:
        return
    words = {True: "has a temperature probe", False: "has no temperature probe"}
    unknown = probe is None and bool(limited)
    yield Finding(
        rule=CH9.id,
        severity="cannot_tell" if unknown else "caution" if limited or probe else "fault",
        title=f"{alternator.name} gives {bank.name} all it has"
        if not limited
        else f"{alternator.name}: is its heat watched?",
        arithmetic=(
            f"{alternator.rated_a:g} A on the label, hot and as limited {limit_a:.0f} A; for long "
            f"{FOR_LONG_SHARE:.0%} x {alternator.rated_a:g} A = {most:.0f} A.",
            "It " + words.get(bool(probe), "") + "."
            if probe is not None
            else "Nobody has entered whether it has a temperature probe.",
        ),
        figures=(Figure("As limited", limit_a, "A"), Figure("For long", most, "A")),
        limit=f"{most:.0f} A, and a probe that turns it back",
        source=CH9.source,
        why="Lithium takes all there is until it is full: the machine cooks within the hour.",
        repair="Fit an external regulator with a temperature probe and a belt or field limit, or "
        "charge the bank by a dc-dc charger.",
        parts=(alternator.id, bank.id),
        missing=f"Whether {alternator.name} has a temperature probe: look for its lead; enter it."
        if unknown
        else None,
    )


def _cut_by_protection(context: Context, alternator: Alternator, bank: Bank) -> Iterator[Finding]:
    guards = [p for p in context.design.of_type(Protection) if p.guards == bank.id]
    for guard in guards:
        open_now = Situation(context.drawn, frozenset({guard.id}))
        if alternator.id not in context.reach(open_now, engine="on").loose_sources:
            continue
        if alternator.surge_clamp or guard.warns in ("alternator", "all"):
            continue
        unknown = alternator.surge_clamp is None
        yield Finding(
            rule=CH9.id,
            severity="cannot_tell" if unknown else "danger",
            title=f"{guard.name} opens and leaves {alternator.name} without a bank",
            arithmetic=(
                f"{guard.name} open, engine running: banks that {alternator.name} reaches: 0; "
                f"{most_a(alternator):.0f} A have nowhere to go.",
            ),
            figures=(Figure("Current cut off", most_a(alternator), "A"),),
            limit="1 bank or a surge clamp",
            source=CH9.source,
            why="Its voltage jumps within milliseconds and kills its diodes and the electronics.",
            repair="Let the protection shut the field down first, fit a surge clamp, or leave a "
            "lead bank on the bus.",
            parts=(guard.id, alternator.id),
            missing=f"Whether {alternator.name} has a surge clamp: enter it at the alternator."
            if unknown
            else None,
        )


def output_cable(context: Context) -> Iterator[Finding]:
    """CH-11: drop over the first cables of an alternator at its rated output."""
    design = context.design
    for alternator in design.of_type(Alternator):
        rated_a = min(alternator.rated_a, alternator.belt_limit_a or alternator.rated_a)
        own = [f"{alternator.id}.out", f"{alternator.id}.neg"]
        legs = [
            [c for c in design.cables if post in (c.start, c.end) and c.purpose == "power"]
            for post in own
        ]
        drops = [
            rated_a / sum(1 / cable_resistance_ohm(design, c) for c in leg) for leg in legs if leg
        ]
        limit_v = CHARGING_DROP * alternator.set_v
        yield from _too_hot(context, alternator, rated_a, [c for leg in legs for c in leg])
        if sum(drops) > limit_v:
            names = ", ".join(f"{design.cable_name(c)} {c.gauge}" for leg in legs for c in leg)
            yield Finding(
                rule=CH11.id,
                severity="fault",
                title=f"The output cables of {alternator.name} drop {sum(drops):.2f} V",
                arithmetic=(
                    f"{rated_a:g} A through {names}: "
                    + " + ".join(f"{d:.2f} V" for d in drops)
                    + f" = {sum(drops):.2f} V.",
                    f"3 % of {alternator.set_v:g} V = {limit_v:.2f} V.",
                ),
                figures=(Figure("Drop", sum(drops), "V"), Figure("Limit", limit_v, "V")),
                limit=f"{limit_v:.2f} V",
                source=CH11.source,
                why="The cable takes what the bank should have, and heats.",
                repair="Run thicker or shorter cables on both sides.",
                parts=(alternator.id, *(c.id for leg in legs for c in leg)),
                estimated=tuple(design.cable_name(c) for leg in legs for c in leg if c.estimated),
            )


def _too_hot(
    context: Context, alternator: Alternator, rated_a: float, cables: list[Cable]
) -> Iterator[Finding]:
    """Output cables that are not allowed the rated output; beside an engine it is hot."""
    for cable in cables:
        allowed_a = ampacity_a(cable.gauge, cable.insulation_c, engine_space=True)
        if allowed_a >= rated_a or len(cables) > 2:  # several on a post share what flows
            continue
        name = context.design.cable_name(cable)
        table = ampacity_table(cable.gauge)
        yield Finding(
            rule=CH11.id,
            severity="fault",
            title=f"The output cable {name} is not allowed {rated_a:g} A",
            arithmetic=(
                f"{cable.gauge}, {cable.insulation_c} °C insulation, in an engine space: "
                f"{allowed_a:.0f} A allowed; rated output {rated_a:g} A.",
            ),
            figures=(Figure("Rated output", rated_a, "A"), Figure("Allowed", allowed_a, "A")),
            limit=f"{allowed_a:.0f} A",
            source=f"{table.citation}",
            why="It heats until its insulation gives way, beside the engine.",
            repair="Run a thicker cable, or limit the output at the regulator.",
            parts=(alternator.id, cable.id),
        )


def belt(context: Context) -> Iterator[Finding]:
    """CH-17: the belt against what the machine gives, as limited."""
    unknown = []
    for alternator in context.design.of_type(Alternator):
        yield from _machine_speed(alternator)
        scale = 12 / nominal_of_set_v(alternator.set_v)
        limit_a = most_a(alternator)
        if limit_a <= ANY_BELT_A * scale:
            continue
        if alternator.belt is None:
            unknown.append(_belt_finding(alternator, limit_a, None, scale))
            continue
        if limit_a > BELTS[alternator.belt][1] * scale:
            yield _belt_finding(alternator, limit_a, BELTS[alternator.belt], scale)
    names = context.names([f.parts[0] for f in unknown])
    yield from gathered(unknown, f"The belts of {names} have not been entered", about="unknown")


def _machine_speed(alternator: Alternator) -> Iterator[Finding]:
    """A machine that its pulleys drive faster than it may turn."""
    drive = alternator_drive(alternator)
    if drive.top_rpm is None or drive.top_rpm <= (alternator.most_rpm or USUAL_MOST_RPM):
        return
    most_rpm = alternator.most_rpm or USUAL_MOST_RPM
    whose = "by its maker" if alternator.most_rpm else "usual"
    yield Finding(
        rule=CH17.id,
        severity="fault" if alternator.most_rpm else "caution",
        title=f"{alternator.name} is driven to {drive.top_rpm:.0f} rpm",
        arithmetic=(*drive.working, f"It may turn at {most_rpm:.0f} rpm, {whose}."),
        figures=(
            Figure("Driven to", drive.top_rpm, "rpm"),
            Figure("May turn at", most_rpm, "rpm"),
        ),
        limit=f"{most_rpm:.0f} rpm",
        source=CH17.source,
        why="Its rotor and bearings come apart.",
        repair="A smaller pulley on the engine, or a larger one on the machine.",
        parts=(alternator.id,),
        about="speed",
    )


def _belt_finding(
    alternator: Alternator, limit_a: float, known: tuple[str, int, int] | None, scale: float
) -> Finding:
    words, low, high = known or ("a belt nobody has entered", 70, 70)
    return Finding(
        rule=CH17.id,
        severity="cannot_tell"
        if known is None
        else "fault"
        if limit_a > high * scale
        else "caution",
        title=f"{alternator.name} gives {limit_a:.0f} A over {words}",
        arithmetic=(
            f"Hot and as limited {limit_a:.0f} A; {words} is good for {low * scale:.0f} to "
            f"{high * scale:.0f} A."
            if known
            else f"Hot and as limited {limit_a:.0f} A; the smallest belt is good for "
            f"{low * scale:.0f} A.",
            *alternator_drive(alternator).working,
        ),
        figures=(Figure("Output", limit_a, "A"), Figure("Belt, lower end", low * scale, "A")),
        limit=f"{low * scale:.0f} A" + (f" to {high * scale:.0f} A" if known else ""),
        source=CH17.source,
        why="A belt that slips wears out within days and takes the water pump with it.",
        repair="Set a belt limit at the regulator, or fit another belt and pulleys.",
        parts=(alternator.id,),
        missing=f"The belt of {alternator.name}: count its ribs or measure its width; enter it."
        if known is None
        else None,
    )


RULES = (
    (CH9, lithium_alternator),
    (CH11, output_cable),
    (CH17, belt),
)
