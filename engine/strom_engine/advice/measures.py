"""What a scheme comes to on this boat, in numbers that schemes are compared by."""

from __future__ import annotations

from dataclasses import dataclass
from functools import lru_cache
from typing import Any

from strom_engine.circuit.results import OperatingPoint
from strom_engine.design import Alternator, Design, Starter
from strom_engine.design.parts.facts import GivesBy
from strom_engine.rules import findings
from strom_engine.rules.context import Context, Situation
from strom_engine.runs.run_rows import COPPER_KG_PER_M_MM2
from strom_engine.survey import Survey, surveyed

__all__ = ["Charge", "Measures", "measures"]

CRUISING_RPM = 1600.0
HOUSE_SOC, OTHER_SOC = 0.6, 0.9
REST = frozenset[str]()
# What has a measure of its own, or is the boat's doing whatever the scheme: place, belt, size.
TOLD_APART = ("SW-3", "SW-4", "SW-6", "SW-9", "CH-1", "CH-5", "CH-8", "CH-15", "CH-17")
# How a source is brought to give what it has.
ALONE: dict[GivesBy | None, dict[str, Any]] = {  # Any: fields of a state
    "engine": {"engine": "on", "rpm": CRUISING_RPM},
    "shore": {"shore": True},
    "sun": {"sun": 1.0},
    "weather": {"wind_kn": 18.0, "boat_kn": 6.0},
}


@dataclass(frozen=True)
class Charge:
    """Amps a source puts into a bank when it alone runs, and whether a path leads there."""

    source: str
    bank: str
    current_a: float
    joined: bool


@dataclass(frozen=True)
class Measures:
    """A scheme in numbers.

    ``coverage`` is the share of source-bank pairs with a path; ``error_v`` by how much the
    regulator believes the house bank higher than it is at cruising speed; ``unlike_joined`` the
    severity of banks of unlike chemistry that can be joined; ``by_severity`` counts the other
    findings about switching and charging; ``draining`` the share of positions, engine
    stopped, in which loads drain an engine bank; ``cutting`` the moves that cut a running
    alternator off; ``spare_start`` whether a second bank can start the engine.
    """

    charges: tuple[Charge, ...]
    coverage: float
    house_a: float
    engine_a: float
    error_v: float | None
    draining: float
    cutting: int
    spare_start: bool
    unlike_joined: str | None
    chattering: tuple[str, ...]
    gear: int
    cables: int
    copper_kg: float
    by_severity: dict[str, int]


def measures(design: Design, survey: Survey | None) -> Measures:
    """What a design comes to in the numbers that variants are compared by.

    Args:
        design: the boat as drawn.
        survey: what is known of it.

    Returns:
        Amps [A] that reach each bank, volts sensed wrongly [V], copper [kg], findings by severity.
        The same design and survey, the same numbers.

    >>> from strom_engine.survey import new_boat
    >>> survey, design = new_boat("cruising_yacht", "selector")
    >>> measures(design, survey).gear
    4
    """
    return _measures(design.model_dump_json(), survey.model_dump_json() if survey else None)


@lru_cache(maxsize=64)
def _measures(design_text: str, survey_text: str | None) -> Measures:
    raw = Design.model_validate_json(design_text)
    survey = None if survey_text is None else Survey.model_validate_json(survey_text)
    design, found = surveyed(raw, survey), findings(raw, survey)
    context = Context(design, survey)
    charges = _charges(context)
    house = next((b.id for b in context.banks if b.role == "house"), None)
    house = house or next((b.id for b in context.banks), "")
    own = {b.id for b in context.banks if b.role == "engine" and b.id != house}
    machines = {a.id for a in design.of_type(Alternator)}
    draining = sum(_drains(context, own, positions) for positions in context.combinations)
    counted: dict[str, int] = {}
    for finding in found:
        if finding.rule.startswith(("SW", "CH")) and finding.rule not in TOLD_APART:
            counted[finding.severity] = counted.get(finding.severity, 0) + 1
    return Measures(
        charges=charges,
        coverage=sum(c.joined for c in charges) / len(charges) if charges else 0.0,
        house_a=sum(c.current_a for c in charges if c.bank == house and c.source in machines),
        engine_a=sum(c.current_a for c in charges if c.bank in own and c.source in machines),
        error_v=_error_v(context, house),
        draining=draining / len(context.combinations),
        cutting=sum(f.rule == "SW-4" and f.severity == "danger" for f in found),
        spare_start=not any(f.rule == "SW-6" and f.severity != "cannot_tell" for f in found),
        unlike_joined=next((f.severity for f in found if f.rule == "CH-1"), None),
        chattering=tuple(f.parts[0] for f in found if f.rule == "CH-5"),
        gear=sum(p.facts.scheme for p in design.components),
        cables=len(design.cables),
        copper_kg=sum(c.area_mm2 * c.length_m for c in design.cables) * COPPER_KG_PER_M_MM2,
        by_severity=counted,
    )


def _drains(context: Context, own: set[str], positions: dict[str, str]) -> bool:
    """Whether loads hang on an engine bank in a position, all that moves by itself at rest."""
    fed_by = context.reach(Situation(positions, REST)).fed_by
    return any(
        own & set(by)
        for name, by in fed_by.items()
        if not isinstance(context.design.by_id[name], Starter)
    )


def _charges(context: Context) -> tuple[Charge, ...]:
    """Every source alone, as drawn and with everything joined that hands join while under way."""
    soc = {b.id: HOUSE_SOC if b.role == "house" else OTHER_SOC for b in context.banks}
    found = []
    for source in context.sources:
        point = context.point(soc=soc, **ALONE[source.facts.gives_by])
        reached = _reached(context, point, source.id)
        for bank in context.banks:
            given = point.banks[bank.id].given_by_a.get(source.id, 0.0)
            found.append(Charge(source.id, bank.id, given, bank.id in reached))
    return tuple(found)


def _reached(context: Context, point: OperatingPoint, source: str) -> set[str]:
    """Banks with a path from a source, where all that shares charge stands as the point says."""
    situation = Situation(context.drawn, point.moved())
    return set(context.reach(situation, engine="on").charges[source])


def _error_v(context: Context, house: str) -> float | None:
    """What the regulator senses above the house bank [V]; None behind a dc-dc charger."""
    soc = {b.id: HOUSE_SOC if b.role == "house" else OTHER_SOC for b in context.banks}
    point = context.point(soc=soc, **ALONE["engine"])
    straight = Situation(context.drawn, point.moved().difference(point.converters))
    charges = context.reach(straight, engine="on").charges
    volts = [
        now.sense_v - point.banks[house].volts_v
        for a in context.design.of_type(Alternator)
        if (now := point.sources[a.id]).sense_v is not None
        and house in charges[a.id]
        and point.banks[house].given_by_a.get(a.id, 0.0) > 0.5
    ]
    return max(volts, default=None)
