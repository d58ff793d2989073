"""What sources are set to against what each bank wants: CH-10."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass

import numpy as np

from strom_engine.batteries import HALF_SOC
from strom_engine.circuit.held import compensation_v, usual_tempco_v_per_k
from strom_engine.circuit.supply import most_a
from strom_engine.design import (
    Alternator,
    Bank,
    Charger,
    DcDc,
    FittedGenerator,
    FittedInverter,
    SetPart,
    Solar,
    Source,
)
from strom_engine.reference import BLOCK_V, TABLE_C, Chemistry, chemistry
from strom_engine.rules.context import Context, Situation, is_lithium
from strom_engine.rules.finding import CONFIRM, Figure, Finding, Rule, Severity

__all__ = ["RULES"]

REST = frozenset[str]()
# Let pass per 12 V block, about what makers allow either way [V].
HIGH_V, LOW_V = 0.3, 0.5
# The air around a battery beside a running engine (ABYC E-11 takes 50 degC for conductors there).
ENGINE_SPACE_C = 45.0
MILD = 1e-6  # so much beyond a limit is rounding

CH10 = Rule(
    "CH-10",
    "Set voltages and currents suit the chemistry",
    "What every source is set to (absorption, float, equalising) against what the banks it reaches "
    "want, at their temperature and in an engine space at 45 degC, as its temperature sensor moves "
    "it; and the amps of all that charge at once against what the chemistry takes.",
    f"Reference table battery_chemistry; makers' charging voltages decide; {CONFIRM}",
    (Figure("Above, per 12 V", HIGH_V, "V"), Figure("Below, per 12 V", LOW_V, "V")),
)


@dataclass(frozen=True)
class Setting:
    """What one source holds for one bank."""

    part: Source | DcDc
    bank: Bank
    set_v: float
    float_v: float | None

    @property
    def blocks(self) -> float:
        """12 V blocks of the bank in series."""
        return self.bank.nominal_v / BLOCK_V

    @property
    def figures(self) -> Chemistry:
        """Figures of the bank's chemistry."""
        return chemistry(self.bank.chemistry)


def set_voltages(context: Context) -> Iterator[Finding]:
    """CH-10: every source and dc-dc charger against the banks it charges as drawn."""
    settings = tuple(_settings(context))
    for one in settings:
        yield from _absorption(context, one)
        yield from _float(one)
        yield from _equalising(one)
        yield from _coefficient(one)
    for bank in context.banks:
        yield from _too_much(context, bank, [s.part for s in settings if s.bank == bank])


def _settings(context: Context) -> Iterator[Setting]:
    situation = Situation(context.drawn, REST)
    charges = context.reach(situation, engine="on").charges
    net = context.network(situation)
    banks = {b.id: b for b in context.banks}
    for source in context.sources:
        outputs = source.outputs if isinstance(source, Charger) else 1
        at = {net.group(f"{source.id}.out{n}"): n for n in range(1, outputs + 1) if outputs > 1}
        for name in charges[source.id]:
            pair = (source.set_v, source.float_v)
            if isinstance(source, Charger):
                pair = source.output_v(at.get(net.group(f"{name}.pos"), 1))
            yield Setting(source, banks[name], *pair)
    for part in context.design.of_type(DcDc):
        out = net.group(f"{part.id}.out")
        for bank in context.banks:
            if net.group(f"{bank.id}.pos") == out:
                yield Setting(part, bank, part.set_v, part.float_v)


def _temperatures(context: Context, bank: Bank) -> list[float]:
    """Temperatures [degC] that a bank may have: its own, and that of a hot engine space."""
    hot = {p.id for p in context.design.places if p.engine_space}
    own = bank.temperature_c
    return [own, max(own, ENGINE_SPACE_C)] if bank.place in hot else [own]


def _absorption(context: Context, one: Setting) -> Iterator[Finding]:
    """The set voltage at 25 degC, and where that is right at the bank's own temperatures."""
    wanted = one.figures.absorption_v * one.blocks
    over = one.set_v - wanted
    if not -LOW_V * one.blocks - MILD <= over <= HIGH_V * one.blocks + MILD:
        yield _wrong_set(one, wanted)
        return
    tempco = usual_tempco_v_per_k(one.bank)
    own = getattr(one.part, "temperature_sensor", None) == one.bank.id
    for bank_c in _temperatures(context, one.bank):
        # A sensor on another bank moves the voltage by the temperature of that one.
        moved_v = compensation_v(context.design, one.part, bank_c if own else None)
        away_v = over + moved_v - tempco * (bank_c - TABLE_C)
        if not -LOW_V * one.blocks - MILD <= away_v <= HIGH_V * one.blocks + MILD:
            yield _at_temperature(one, wanted, bank_c, moved_v, away_v)
            return


def _wrong_set(one: Setting, wanted: float) -> Finding:
    part, bank, blocks = one.part, one.bank, one.blocks
    over = one.set_v - wanted
    high = over > 0
    return Finding(
        rule=CH10.id,
        severity="fault" if high else "caution",
        title=f"{part.name} is set to {one.set_v:g} V, "
        f"too {'high' if high else 'low'} for {bank.name}",
        arithmetic=(
            f"{one.figures.label}: absorption {wanted:.1f} V (typical); set {one.set_v:g} V: "
            f"{abs(over):.2f} V {'above' if high else 'below'}; "
            f"{HIGH_V * blocks:g} V above or {LOW_V * blocks:g} V below is let pass.",
        ),
        figures=(Figure("Set", one.set_v, "V"), Figure("Wanted", wanted, "V")),
        limit=f"{wanted - LOW_V * blocks:.1f} to {wanted + HIGH_V * blocks:.1f} V",
        source=CH10.source,
        why=(
            "Its protection opens on high voltage."
            if is_lithium(bank)
            else "It gasses and dries out."
        )
        if high
        else "It is never quite full, and dies of it.",
        repair=f"Set {part.name} to {wanted:.1f} V, as the maker of {bank.name} says.",
        parts=(part.id, bank.id),
    )


def _at_temperature(
    one: Setting, wanted: float, bank_c: float, moved_v: float, away_v: float
) -> Finding:
    part, bank, tempco = one.part, one.bank, usual_tempco_v_per_k(one.bank)
    there_v = wanted + tempco * (bank_c - TABLE_C)
    sensor = getattr(part, "temperature_sensor", None)
    return Finding(
        rule=CH10.id,
        severity="caution",
        title=f"{part.name} does not follow the temperature of {bank.name}",
        arithmetic=(
            f"{one.figures.label}: {wanted:.1f} V at 25 °C, {tempco * 1000:+.0f} mV a kelvin: at "
            f"{bank_c:g} °C {there_v:.2f} V.",
            f"{part.name}, {'sensor aboard' if sensor else 'no sensor on record'}: "
            f"{one.set_v + moved_v:.2f} V there, {abs(away_v):.2f} V too "
            f"{'high' if away_v > 0 else 'low'}.",
        ),
        figures=(Figure("Holds", one.set_v + moved_v, "V"), Figure("Wanted", there_v, "V")),
        limit=f"{there_v - LOW_V * one.blocks:.1f} to {there_v + HIGH_V * one.blocks:.1f} V",
        source=CH10.source,
        why="Warm it gasses and dries out; cold it is never full."
        if away_v > 0
        else "Cold, it is never full: what it takes at this voltage is less than it needs.",
        repair=f"A temperature sensor of {part.name} on {bank.name}, or the bank in a milder place."
        if sensor is None
        else f"The coefficient of {part.name}: {tempco * 1000:.0f} mV a kelvin.",
        parts=(part.id, bank.id),
        about="temperature",
        change=SetPart(part=part.id, fields={"temperature_sensor": bank.id})
        if not sensor
        else None,
    )


def _float(one: Setting) -> Iterator[Finding]:
    wanted = one.figures.float_v * one.blocks
    if one.float_v is None:
        if isinstance(one.part, Charger | FittedInverter | DcDc | Solar | FittedGenerator):
            yield _float_finding(one, one.set_v, wanted, "never goes to float", "caution")
        return
    if one.float_v > wanted + HIGH_V * one.blocks + MILD:
        yield _float_finding(one, one.float_v, wanted, "floats too high", "caution")
    elif is_lithium(one.bank):
        yield from _sinking(one, one.float_v)
    elif one.float_v < wanted - LOW_V * one.blocks - MILD:
        yield _float_finding(one, one.float_v, wanted, "floats too low", "caution")


def _float_finding(
    one: Setting, holds_v: float, wanted: float, how: str, severity: Severity
) -> Finding:
    part, bank, blocks = one.part, one.bank, one.blocks
    return Finding(
        rule=CH10.id,
        severity=severity,
        title=f"{part.name} {how} for {bank.name}",
        arithmetic=(
            f"{one.figures.label}: float {wanted:.1f} V (typical); for good it holds "
            f"{holds_v:g} V: {abs(holds_v - wanted):.2f} V "
            f"{'above' if holds_v > wanted else 'below'}.",
        ),
        figures=(Figure("Holds for good", holds_v, "V"), Figure("Wanted", wanted, "V")),
        limit=f"{wanted - LOW_V * blocks:.1f} to {wanted + HIGH_V * blocks:.1f} V",
        source=CH10.source,
        why="Held at its absorption voltage for weeks a battery dries out, or ages."
        if holds_v > wanted
        else "It runs down and sulphates while everybody believes it charged.",
        repair=f"Set the float of {part.name} to {wanted:.1f} V, as the maker of {bank.name} says.",
        parts=(part.id, bank.id),
        about="float",
        change=SetPart(part=part.id, fields={"float_v": round(wanted, 2)}),
    )


def _sinking(one: Setting, float_v: float) -> Iterator[Finding]:
    """A lithium bank floated below where it rests: where it sinks to while it is alongside."""
    figures, bank, part = one.figures, one.bank, one.part
    full_v = figures.rest_v[-1] * one.blocks
    if float_v >= full_v - MILD:
        return
    settles = float(np.interp(float_v / one.blocks, figures.rest_v, figures.heads))
    yield Finding(
        rule=CH10.id,
        severity="caution" if settles < HALF_SOC else "note",
        title=f"Afloat on {part.name}, {bank.name} sinks to about {settles:.0%}",
        arithmetic=(
            f"{bank.name} rests full at {full_v:.2f} V; {part.name} floats at {float_v:g} V, "
            f"where it rests with {settles:.0%}.",
            f"Loads take {(1 - settles) * bank.capacity_ah:.0f} Ah of it before the charger gives "
            "anything.",
        ),
        figures=(Figure("Float", float_v, "V"), Figure("Expected charge", settles * 100, "%")),
        limit=f"{full_v:.2f} V to leave the quay full",
        source=CH10.source,
        why="After a week alongside the boat leaves with less than everybody thinks; for the bank "
        "itself that is no harm.",
        repair="Charge it full before leaving, or set the float to where it shall rest.",
        parts=(part.id, bank.id),
        about="sinks",
    )


def _equalising(one: Setting) -> Iterator[Finding]:
    told = getattr(one.part, "equalise_v", None)
    usual = one.figures.equalise_v
    if told is None:
        return
    if usual is not None and told <= usual * one.blocks + HIGH_V * one.blocks + MILD:
        return
    limit_v = usual * one.blocks if usual is not None else one.figures.absorption_v * one.blocks
    yield Finding(
        rule=CH10.id,
        severity="fault",
        title=f"{one.part.name} equalises {one.bank.name} at {told:g} V",
        arithmetic=(
            f"{one.figures.label}: "
            + (
                f"equalised at {limit_v:.1f} V (typical), {told - limit_v:.2f} V less."
                if usual is not None
                else f"never equalised; {told - limit_v:.2f} V above its absorption voltage."
            ),
        ),
        figures=(Figure("Set", told, "V"), Figure("At most", limit_v, "V")),
        limit=f"{limit_v:.1f} V",
        source=CH10.source,
        why="A sealed battery cannot be topped up, and lithium is cut off by its protection.",
        repair="Switch equalising off, or set it as the maker of the batteries says.",
        parts=(one.part.id, one.bank.id),
        about="equalise",
        change=SetPart(part=one.part.id, fields={"equalise_v": None}),
    )


def _coefficient(one: Setting) -> Iterator[Finding]:
    """A lithium bank charged with a coefficient that is meant for lead."""
    own = getattr(one.part, "tempco_mv_per_k", None)
    if not own or not is_lithium(one.bank):
        return
    if getattr(one.part, "temperature_sensor", None) is None:
        return
    yield Finding(
        rule=CH10.id,
        severity="caution",
        title=f"{one.part.name} compensates temperature for {one.bank.name}, which wants none",
        arithmetic=(f"{own:g} mV a kelvin: {own * -20 / 1000:+.2f} V at 5 °C; lithium: 0 mV.",),
        figures=(Figure("Coefficient", own, "mV/K"),),
        limit="0 mV/K",
        source=CH10.source,
        why="In the cold its voltage rises until the protection opens.",
        repair=f"Set the coefficient of {one.part.name} to 0.",
        parts=(one.part.id, one.bank.id),
        about="coefficient",
        change=SetPart(part=one.part.id, fields={"tempco_mv_per_k": 0}),
    )


def _too_much(context: Context, bank: Bank, parts: list[Source | DcDc]) -> Iterator[Finding]:
    """More amps than the chemistry takes; a start battery of lead rests full and takes few."""
    if bank.role == "engine" and not is_lithium(bank):
        return
    figures = chemistry(bank.chemistry)
    limit_a = figures.max_charge_c * bank.capacity_ah
    engine: list[Source | DcDc] = [p for p in parts if isinstance(p, Alternator | DcDc)]
    shore: list[Source | DcDc] = [p for p in parts if isinstance(p, Charger | FittedInverter)]
    always = [p for p in parts if isinstance(p, Solar | FittedGenerator)]
    more = engine if sum(map(most_a, engine)) > sum(map(most_a, shore)) else shore
    at_once = [*more, *always]
    amps = sum(most_a(p) for p in at_once)
    if amps <= limit_a + MILD:
        return
    flooded = bank.chemistry.startswith("flooded")
    yield Finding(
        rule=CH10.id,
        severity="fault" if is_lithium(bank) else "note" if flooded else "caution",
        title=f"{bank.name} can be charged with {amps:.0f} A, more than it should take",
        arithmetic=(
            " + ".join(f"{p.name} {most_a(p):.0f} A" for p in at_once) + f" = {amps:.0f} A.",
            f"{figures.label}: {figures.max_charge_c:g} x {bank.capacity_ah:g} Ah = "
            f"{limit_a:.0f} A (typical).",
        ),
        figures=(Figure("Charge", amps, "A"), Figure("At most", limit_a, "A")),
        limit=f"{limit_a:.0f} A",
        source=CH10.source,
        why="Lithium ages, and its protection opens."
        if is_lithium(bank)
        else "Deeply discharged it takes it all, warms up, and loses water and life.",
        repair="Limit the current at the regulator or charger, or a larger bank; the maker's sheet "
        "decides.",
        parts=(bank.id, *(p.id for p in at_once)),
        about="charge current",
    )


RULES = ((CH10, set_voltages),)
