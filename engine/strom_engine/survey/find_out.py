"""What nobody knows yet, gathered for a walk round the boat."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass
from typing import Literal

from strom_engine.design import (
    Alternator,
    Bank,
    BusBar,
    Cable,
    Charger,
    Component,
    Design,
    LoadGroup,
    Selector,
    Solar,
    Starter,
)
from strom_engine.survey.survey_document import Survey
from strom_engine.survey.surveyed import run_length_m

__all__ = ["Stage", "ToFindOut", "to_find_out"]

Stage = Literal["survey", "loads"]
SECTION_ORDER = ("Boat", "Way of use", "Runs", "Banks", "Sources", "Switches", "Cables", "Loads")
FIELD_WORDS = {
    "unit_ah": ("capacity of one battery, 20 h rate", "Ah"),
    "unit_cca_a": ("cold cranking amps on the label", "A"),
    "chemistry": ("kind of battery", ""),
    "parallel": ("batteries in parallel", ""),
    "soc": ("resting voltage after 4 h", "V"),
    "rated_a": ("rated current on the plate", "A"),
    "set_v": ("voltage it holds", "V"),
    "float_v": ("float voltage", "V"),
    "panel_w": ("watts of the panels", "W"),
    "power_kw": ("power on the plate", "kW"),
    "cranking_a": ("amps while cranking", "A"),
    "rating_a": ("continuous rating", "A"),
    "role": ("what it feeds", ""),
    "make_before_break": ("does it break before it makes? ohmmeter", ""),
    "take_off": ("positive and negative off opposite ends?", ""),
    "members_alike": ("same make, size and age?", ""),
    "age_years": ("age", "years"),
    "place": ("where it stands", ""),
}


@dataclass(frozen=True)
class ToFindOut:
    """One thing to find out: where it is entered, what it is of, in which unit."""

    section: str
    stage: Stage
    subject: str
    question: str
    unit: str
    now: str


def to_find_out(design: Design, survey: Survey) -> tuple[ToFindOut, ...]:
    """Everything unknown, assumed or estimated, in the order of a walk round the boat.

    Args:
        design: the boat as drawn.
        survey: what is known of it.

    Returns:
        What to ask or measure, of what, in which unit, and what is taken until then.

    >>> from strom_engine.survey import new_boat
    >>> survey, design = new_boat("cruising_yacht", "selector")
    >>> to_find_out(design, survey)[0].question
    'latitude of the cruising ground'
    """
    found = [
        *_boat(survey),
        *_runs(design, survey),
        *(row for part in design.components for row in _part(part, survey)),
        *_cables(design, survey),
        *_loose(design),
        *_loads(survey),
    ]
    return tuple(sorted(found, key=lambda row: SECTION_ORDER.index(row.section)))


def _boat(survey: Survey) -> Iterator[ToFindOut]:
    boat, use = survey.boat, survey.use
    for section, subject, value, question, unit in (
        ("Boat", "Boat", boat.latitude_deg, "latitude of the cruising ground", "°"),
        ("Boat", "Boat", boat.coldest_c, "coldest morning on which it must start", "°C"),
        ("Boat", "Boat", boat.hull, "kind of hull", ""),
        ("Boat", "Engine", boat.engine_kw, "power of the engine", "kW"),
        ("Way of use", "Owner", use.way, "day trips, weekends or weeks at anchor", ""),
        ("Way of use", "Owner", use.shore_power, "shore power when alongside?", ""),
        ("Way of use", "Owner", use.days_a_year, "days aboard in a year", "days"),
        ("Way of use", "Owner", use.complaint or None, "what the owner complains of", ""),
    ):
        if value is None:
            yield ToFindOut(section, "survey", subject, question, unit, "unknown")


def _runs(design: Design, survey: Survey) -> Iterator[ToFindOut]:
    """Runs that cables take and nobody has measured."""
    names = {p.id: p.name for p in (*design.places, *survey.places)}
    known = {frozenset((r.start, r.end)): r for r in survey.runs}
    wanted = {pair for cable in design.cables if (pair := _pair(design, cable))}
    for pair in sorted(wanted | set(known), key=sorted):
        run = known.get(pair)
        if run is None or not run.measured:
            a, b = sorted(names.get(p, p) for p in pair)
            now = "unknown" if run is None else f"{run.length_m:g} m estimated"
            yield ToFindOut("Runs", "survey", f"{a} – {b}", "length of the run", "m", now)


def _pair(design: Design, cable: Cable) -> frozenset[str] | None:
    places = [design.by_id[ref.part].place for ref in (cable.start, cable.end)]
    pair = frozenset(p for p in places if p)
    return pair if cable.estimated and None not in places and len(pair) == 2 else None


def _part(part: Component, survey: Survey) -> Iterator[ToFindOut]:
    section = "Switches"
    if isinstance(part, Bank):
        section = "Banks"
    elif isinstance(part, Alternator | Charger | Solar | Starter):
        section = "Sources"
    unknown = [(name, "assumed") for name in part.assumed]
    if isinstance(part, Selector) and part.make_before_break is None:
        unknown.append(("make_before_break", "unknown"))
    if isinstance(part, Bank):
        unknown += _bank_unknowns(part, survey)
    if part.place is None and not isinstance(part, BusBar | LoadGroup):
        unknown.append(("place", "unknown"))
    for name, how in unknown:
        question, unit = FIELD_WORDS.get(name, (name.replace("_", " "), ""))
        value = getattr(part, name, None)
        words = f"{value:g}" if isinstance(value, float | int) else str(value).replace("_", " ")
        now = "unknown" if how == "unknown" else f"{words} {unit} assumed".replace("  ", " ")
        if name == "soc":
            now = f"{value:.0%} charge assumed"
        yield ToFindOut(section, "survey", part.name, question, unit, now)


def _bank_unknowns(bank: Bank, survey: Survey) -> list[tuple[str, str]]:
    found = []
    if bank.cca_a is None and bank.role != "house":
        found.append(("unit_cca_a", "unknown"))
    if bank.parallel > 1 and bank.take_off is None:
        found.append(("take_off", "unknown"))
    if bank.parallel * bank.series > 1 and bank.members_alike is None:
        found.append(("members_alike", "unknown"))
    if bank.age_years is None:
        found.append(("age_years", "unknown"))
    return found


def _cables(design: Design, survey: Survey) -> Iterator[ToFindOut]:
    """Cables inside one place, or between places not named, whose own length is estimated."""
    for cable in design.cables:
        if not cable.estimated or _pair(design, cable):
            continue
        if run_length_m(design, survey, cable) is None:
            now = f"{cable.length_m:g} m estimated"
            subject = design.cable_name(cable)
            yield ToFindOut("Cables", "survey", subject, "length of the cable", "m", now)


def _loose(design: Design) -> Iterator[ToFindOut]:
    """Cables that hang loose at an end, or lead nobody knows where."""
    for cable in design.parked:
        ends = [design.post_name(ref) for ref in (cable.start, cable.end) if ref]
        subject = f"{cable.gauge} on {ends[0]}" if ends else f"{cable.gauge}, loose at both ends"
        yield ToFindOut("Cables", "survey", subject, "where does it lead?", "", "end hangs loose")


def _loads(survey: Survey) -> Iterator[ToFindOut]:
    for item in survey.items:
        if item.draw is None:
            yield ToFindOut("Loads", "loads", item.name, "draw while it runs", item.unit, "unknown")
        elif item.basis == "assumed":
            now = f"{item.draw:g} {item.unit} assumed"
            yield ToFindOut("Loads", "loads", item.name, "draw while it runs", item.unit, now)
