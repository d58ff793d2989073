"""Rules about where things stand and how banks are held: BA-4, PL-1 to PL-4."""

from __future__ import annotations

from collections.abc import Iterator

from strom_engine.batteries.ventilation import GAS_SOURCE, gas_of
from strom_engine.design import Bank, Charger, Component, FittedInverter, LoadGroup, Place
from strom_engine.rules.context import Context, is_lithium
from strom_engine.rules.finding import CONFIRM, Figure, Finding, Rule, Severity
from strom_engine.rules.gathering import gathered

__all__ = ["RULES"]

SPARKING_LOADS = ("blower", "bilge")  # motors that stand in the space itself; own judgement
MOST_MOVE_MM = 25.0
HELD = {
    "held": ("is not held", "Strap it down: no more than 25 mm of movement."),
    "boxed": ("stands in no tray or box", "Set it in a tray or box that takes spilt acid."),
    "vented": ("stands where gas cannot leave", "Give the space an opening at its top."),
    "boots": ("has bare positive terminals", "Put boots on the positive terminals."),
    "clear_of_fuel": (
        "stands under or over a fuel tank, filter or fitting",
        "Move it or the fitting away, or put a barrier and a dielectric shield between them.",
    ),
}

BA4 = Rule(
    "BA-4",
    "Banks are held, boxed, vented and covered",
    "What was seen of every bank: held against moving, in a tray or box, its space vented, boots "
    "on the positive terminals, clear of fuel tanks and fittings.",
    f"ABYC E-10, installation of batteries; 33 CFR 183.420; {CONFIRM}",
    (Figure("Movement", MOST_MOVE_MM, "mm at most"),),
)
BA11 = Rule(
    "BA-11",
    "The space of lead banks has openings for the gas",
    "Hydrogen of all lead banks in one space under boost charge, and the openings that let it out.",
    f"{GAS_SOURCE}; ABYC E-10, ventilation; {CONFIRM}",
)
PL1 = Rule(
    "PL-1",
    "Gear in a space with petrol vapour is ignition-protected",
    "Everything that can spark in a place with petrol vapour, on a petrol boat.",
    f"ABYC E-11 and 33 CFR 183.410, ignition protection; {CONFIRM}",
)
PL2 = Rule(
    "PL-2",
    "No charger stands over a battery",
    "Chargers and inverter-chargers in one place with a bank.",
    f"ABYC A-31, place of chargers and inverters; {CONFIRM}",
)
PL3 = Rule(
    "PL-3",
    "What makes heat has air",
    "dc-dc chargers, isolators, combiners, chargers and inverters in an engine space.",
    f"Makers' manuals: output falls above 40 to 50 °C; {CONFIRM}",
)
PL4 = Rule(
    "PL-4",
    "No lithium bank stands in an engine space",
    "Places of lithium banks.",
    f"ABYC E-13, place and temperature; makers' manuals; {CONFIRM}",
)


def _place(context: Context, part: Component) -> Place | None:
    return next((p for p in context.design.places if p.id == part.place), None)


def _finding(
    rule: Rule,
    part: Component,
    severity: Severity,
    words: tuple[str, str, str, str, str],
    missing: str | None = None,
) -> Finding:
    """``words``: title, arithmetic, limit, why, repair."""
    title, line, limit, why, repair = words
    return Finding(
        rule=rule.id,
        severity=severity,
        title=title,
        arithmetic=(line,),
        figures=rule.figures,
        limit=limit,
        source=rule.source,
        why=why,
        repair=repair,
        parts=(part.id,),
        missing=missing,
    )


def held(context: Context) -> Iterator[Finding]:
    """BA-4: how banks stand."""
    why = "A battery that breaks loose in a sea tears its cables off, and shorts."
    unseen = []
    for bank in context.banks:
        asked = [f for f in HELD if f != "vented" or not is_lithium(bank)]
        for field in (f for f in asked if getattr(bank, f) is False):
            words, repair = HELD[field]
            yield Finding(
                rule=BA4.id,
                severity="fault",
                title=f"{bank.name} {words}",
                arithmetic=(f"Seen aboard: {bank.name} {words}.",),
                figures=BA4.figures,
                limit="held, boxed, vented, covered",
                source=BA4.source,
                why=why,
                repair=repair,
                parts=(bank.id,),
                about=field,
            )
        unknown = [f for f in asked if getattr(bank, f) is None]
        if unknown:
            unseen.append(_unseen(bank, unknown, why))
    names = context.names([f.parts[0] for f in unseen])
    yield from gathered(
        unseen, f"How {names} are held and covered has not been entered", about="unseen"
    )


def _unseen(bank: Bank, unknown: list[str], why: str) -> Finding:
    told = ", ".join(
        {"boots": "covered with boots", "clear_of_fuel": "clear of fuel fittings"}.get(f, f)
        for f in unknown
    )
    return _finding(
        BA4,
        bank,
        "cannot_tell",
        (
            f"Whether {bank.name} is {told} has not been entered",
            f"{bank.name}, not looked at yet: {told}.",
            "held, boxed, vented, covered",
            why,
            "Look, and enter it at the bank on the stage Survey.",
        ),
        f"{bank.name}: {told}? Look; enter it on the stage Survey.",
    )


def openings(context: Context) -> Iterator[Finding]:
    """BA-11: spaces whose openings are too small for the gas of their lead banks."""
    for place in context.design.places:
        here = [b for b in context.banks if b.place == place.id and not is_lithium(b)]
        gas = gas_of(here)
        if not here or place.opening_cm2 is None or place.opening_cm2 >= gas.opening_cm2:
            continue
        yield Finding(
            rule=BA11.id,
            severity="fault",
            title=f"{place.name} has {place.opening_cm2:.0f} cm² of opening for gas; it needs "
            f"{gas.opening_cm2:.0f} cm²",
            arithmetic=(*gas.working, f"{place.name}: {place.opening_cm2:.0f} cm²."),
            figures=(
                Figure("Opening", place.opening_cm2, "cm²"),
                Figure("Needed", gas.opening_cm2, "cm²"),
            ),
            limit=f"{gas.opening_cm2:.0f} cm² in and as much out",
            source=BA11.source,
            why="Hydrogen gathers under the lid, and one spark throws acid and pieces about.",
            repair="Cut a larger opening at the top and one below, or lead a fan's air through.",
            parts=tuple(b.id for b in here),
        )


def _sparks(part: Component) -> bool:
    if isinstance(part, LoadGroup):
        return any(word in item.name.lower() for item in part.items for word in SPARKING_LOADS)
    return part.facts.sparks


def ignition(context: Context) -> Iterator[Finding]:
    """PL-1: what sparks among petrol vapour."""
    if context.design.fuel != "petrol":
        return
    for place in (p for p in context.design.places if p.vapour):
        here = [p for p in context.design.components if p.place == place.id and _sparks(p)]
        yield from (_spark(p, place) for p in here if p.ignition_protected is False)
        unknown = [p for p in here if p.ignition_protected is None]
        names = context.names([p.id for p in unknown])
        yield from gathered(
            [_spark(part, place) for part in unknown],
            f"Whether {names} are ignition-protected is not known",
            "Read the listings; move out what is not listed, or fit gear that is.",
            about=f"in {place.id}",
        )


def _spark(part: Component, place: Place) -> Finding:
    unknown = part.ignition_protected is None
    return _finding(
        PL1,
        part,
        "cannot_tell" if unknown else "danger",
        (
            f"{part.name} is not ignition-protected, among petrol vapour"
            if not unknown
            else f"Whether {part.name} is ignition-protected is not known",
            f"{part.name} stands in {place.name}: petrol vapour; listing: "
            + ("not known." if unknown else "not ignition-protected."),
            "ignition-protected gear",
            "A spark in vapour blows the boat up.",
            "Move it out of the space, or fit one that is listed as ignition-protected.",
        ),
        f"The listing of {part.name}: on the part; enter it there." if unknown else None,
    )


def over_battery(context: Context) -> Iterator[Finding]:
    """PL-2: chargers above batteries."""
    for part in context.design.components:
        if not isinstance(part, Charger | FittedInverter) or part.over_bank is False:
            continue
        if isinstance(part, FittedInverter) and part.charger_a is None:
            continue
        here = [b.name for b in context.banks if b.place is not None and b.place == part.place]
        if not here:
            continue
        unknown = part.over_bank is None
        yield _finding(
            PL2,
            part,
            "cannot_tell" if unknown else "fault",
            (
                f"{part.name} is mounted over a battery"
                if not unknown
                else f"Whether {part.name} is mounted over a battery is not known",
                f"{part.name} and {', '.join(here)} stand in one place.",
                "not directly above a battery",
                "Gas and acid rise into it and eat it; its sparks fall into the gas.",
                "Mount it beside or away from the battery.",
            ),
            f"Whether {part.name} hangs straight above a battery: look; enter it at the part."
            if unknown
            else None,
        )


def heat(context: Context) -> Iterator[Finding]:
    """PL-3: what makes heat, in an engine space."""
    for part in context.design.components:
        place = _place(context, part)
        if part.facts.heats and place is not None and place.engine_space:
            yield _finding(
                PL3,
                part,
                "caution",
                (
                    f"{part.name} stands in the heat of {place.name}",
                    f"{place.name} is an engine space: 50 to 60 °C; such gear turns itself down "
                    "from 40 to 50 °C on.",
                    "about 40 °C",
                    "It gives a half of its label just when the engine runs.",
                    "Move it to a cool place with air around it.",
                ),
            )


def lithium_in_heat(context: Context) -> Iterator[Finding]:
    """PL-4: lithium in an engine space."""
    for bank in context.banks:
        place = _place(context, bank)
        if is_lithium(bank) and place is not None and place.engine_space:
            yield _finding(
                PL4,
                bank,
                "fault",
                (
                    f"{bank.name}, lithium, stands in {place.name}",
                    f"{place.name} is an engine space: 50 to 60 °C; lithium is kept below 45 °C.",
                    "outside engine spaces",
                    "Heat ages lithium within a season, and its protection then opens under load.",
                    "Move the bank out of the engine space.",
                ),
            )


RULES = (
    (BA4, held),
    (BA11, openings),
    (PL1, ignition),
    (PL2, over_battery),
    (PL3, heat),
    (PL4, lithium_in_heat),
)
