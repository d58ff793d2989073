"""A variant's design as the survey makes it: measured runs, places, profiles and loads put in."""

from __future__ import annotations

from dataclasses import dataclass
from functools import lru_cache
from typing import Literal, NewType

from strom_engine.design import (
    LOAD_REFERENCE_SHARE,
    AcItem,
    Cable,
    Design,
    FittedInverter,
    LoadGroup,
    LoadItem,
)
from strom_engine.survey.audit_items import AuditItem
from strom_engine.survey.survey_document import Survey

__all__ = [
    "CableLength",
    "SurveyedDesign",
    "cable_lengths",
    "load_item",
    "run_length_m",
    "surveyed",
    "with_loads",
]

# A design with what the survey knows in it: what computations of whole variants ask for.
SurveyedDesign = NewType("SurveyedDesign", Design)

# Efficiency of an inverter taken for the running amps of an AC item on the bench; the audit
# works with its curve. Source: reference table inverter_efficiency, half load.
BENCH_INVERTER_EFFICIENCY = 0.9
# What is used this long a day or less is brief: a thruster, a windlass, a kettle. It belongs to
# the audit, but is not among what runs when a profile is put on the bench.
BRIEF_H = 0.25


@lru_cache(maxsize=64)
def _surveyed(design_json: str, survey_json: str) -> Design:
    design = Design.model_validate_json(design_json)
    survey = Survey.model_validate_json(survey_json)
    places = {p.id: p for p in design.places} | {p.id: p for p in survey.places}
    profiles = {p.id: p for p in design.profiles} | {p.id: p for p in survey.profiles}
    placed = design.replace_unchecked(
        fuel=survey.boat.fuel,
        places=tuple(places.values()),
        profiles=tuple(profiles.values()),
        components=_with_loads(design, survey),
    )
    return placed.replace_unchecked(
        cables=tuple(_measured(placed, survey, c) for c in placed.cables)
    )


def surveyed(design: Design, survey: Survey | None) -> SurveyedDesign:
    """The design with what the survey knows better; the one given stays as it is.

    - places and profiles: the survey's, and those that only the design has;
    - a load item that the survey lists draws what the survey says; a listed item that hangs
      nowhere in this variant is put on the feed it was found on, if the variant has it; what
      runs on AC hangs on the inverter, if the variant has one;
    - a cable whose own length is only estimated takes the measured run between the places of
      its ends, plus the tail at each end, and is estimated no more.

    Args:
        design: the boat as drawn.
        survey: what is known of it; None leaves the design as it is.

    Returns:
        What computations of whole variants ask for.

    >>> from strom_engine.survey import new_boat
    >>> survey, design = new_boat("cruising_yacht", "selector")
    >>> surveyed(design, survey).cables[0].length_m
    2.8
    """
    if survey is None:
        return SurveyedDesign(design)
    return SurveyedDesign(_surveyed(design.model_dump_json(), survey.model_dump_json()))


def with_loads(design: Design, survey: Survey | None) -> Design:
    """The design with the survey's load items on their feeds, and its profiles, all else as is.

    Args:
        design: as drawn.
        survey: its survey; None where there is none.
    """
    if survey is None:
        return design
    profiles = {p.id: p for p in design.profiles} | {p.id: p for p in survey.profiles}
    return design.replace_unchecked(
        profiles=tuple(profiles.values()), components=_with_loads(design, survey)
    )


@dataclass(frozen=True)
class CableLength:
    """A cable's length [m] and how it is known: measured itself, by its run, or estimated."""

    cable: str
    length_m: float
    how: Literal["measured", "run", "estimated"]


def cable_lengths(design: Design, survey: Survey) -> tuple[CableLength, ...]:
    """How the length of each cable of a design, not yet surveyed, is known.

    Args:
        design: as drawn.
        survey: its measured runs.

    Returns:
        Metres [m] by cable: measured, typed or estimated.
    """
    found = []
    for cable in design.cables:
        by_run = run_length_m(design, survey, cable) if cable.estimated else None
        if by_run is not None:
            found.append(CableLength(cable.id, by_run, "run"))
        else:
            how: Literal["measured", "estimated"] = "estimated" if cable.estimated else "measured"
            found.append(CableLength(cable.id, cable.length_m, how))
    return tuple(found)


def run_length_m(design: Design, survey: Survey, cable: Cable) -> float | None:
    """Length [m] of a cable by the measured run between its places; None where there is none."""
    places = [design.by_id[ref.part].place for ref in (cable.start, cable.end)]
    measured = survey.run_lengths_m.get(frozenset(p for p in places if p))
    if None in places or measured is None:
        return None
    tails = {p.id: p.tail_m for p in survey.places}
    return round(measured + sum(tails.get(str(p), 0.0) for p in places), 3)


def _measured(design: Design, survey: Survey, cable: Cable) -> Cable:
    length_m = run_length_m(design, survey, cable) if cable.estimated else None
    if length_m is None:
        return cable
    return cable.model_copy(update={"length_m": length_m, "estimated": False})


def _with_loads(design: Design, survey: Survey) -> tuple[object, ...]:
    groups = design.of_type(LoadGroup)
    on_feed: dict[str, str] = {}  # each listed item hangs on one feed: that of the variant first
    for group in groups:
        for item in group.items:
            listed = survey.items_by_id.get(item.id)
            if listed and (item.id not in on_feed or listed.feed == group.id):
                on_feed[item.id] = group.id
    feeds = {group.id for group in groups}
    for listed in survey.items:
        if listed.feed in feeds:
            on_feed.setdefault(listed.id, str(listed.feed))
    # What runs on AC hangs on the inverter, in a variant that has one.
    inverter = next((p.id for p in design.of_type(FittedInverter)), None)
    if inverter is not None:
        on_feed |= {
            i.id: inverter for i in survey.items if i.current == "ac" and i.draw is not None
        }
    parts: list[object] = []
    for part in design.components:
        here = [item for item in survey.items if on_feed.get(item.id) == part.id]
        if isinstance(part, LoadGroup):
            volts = design.nominal_v(part)
            known = tuple(i for item in here if (i := load_item(survey, item, volts)))
            own = tuple(i for i in part.items if on_feed.get(i.id, part.id) == part.id)
            own = tuple(i for i in own if i.id not in {item.id for item in known})
            parts.append(part.model_copy(update={"items": (*known, *own)}))
        elif part.id == inverter and isinstance(part, FittedInverter):
            ac = tuple(on for item in here if (on := ac_item(survey, item)))
            kept = tuple(i for i in part.items if i.id not in {item.id for item in ac})
            parts.append(part.model_copy(update={"items": (*ac, *kept)}))
        else:
            parts.append(part)
    return tuple(parts)


def ac_item(survey: Survey, item: AuditItem) -> AcItem | None:
    """An audited AC item as an inverter knows it; None while nobody knows its draw."""
    if item.draw is None:
        return None
    mains_v = survey.inverter.mains_v if survey.inverter else 230
    ids = [p.id for p in survey.profiles]
    profiles = tuple(i for i in ids if item.hours_in(i, survey.use.season) > BRIEF_H)
    return AcItem(
        id=item.id,
        name=item.name,
        power_w=item.draw if item.unit == "W" else item.draw * mains_v,
        always_on=item.always_on,
        brief=not profiles,
        profiles=profiles,
    )


def load_item(survey: Survey, item: AuditItem, nominal_v: float) -> LoadItem | None:
    """An audited item as the bench knows it; None while nobody knows its draw.

    On the bench it runs in every profile in which it has more than a quarter of an hour a day.
    ``nominal_v`` is what its feed is made for [V]: watts become amps there.
    """
    if item.draw is None:
        return None
    draw_w = item.draw if item.unit == "W" else None
    if item.current == "ac":
        mains_v = survey.inverter.mains_v if survey.inverter else 230
        draw_w = (draw_w or item.draw * mains_v) / BENCH_INVERTER_EFFICIENCY
    draw_a = item.draw if draw_w is None else draw_w / (nominal_v * LOAD_REFERENCE_SHARE)
    ids = [p.id for p in survey.profiles]
    profiles = tuple(i for i in ids if item.hours_in(i, survey.use.season) > BRIEF_H)
    return LoadItem(
        id=item.id,
        name=item.name,
        draw_a=draw_a,
        law=item.law,
        min_v=item.min_v,
        start_a=item.start_a,
        thermal_cutout=item.thermal_cutout,
        fuse_a=item.fuse_a,
        drop=item.drop,
        always_on=item.always_on,
        brief=not profiles,
        profiles=profiles,
    )
