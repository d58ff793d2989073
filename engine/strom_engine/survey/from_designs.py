"""A first survey of a boat of which only designs are known."""

from __future__ import annotations

from collections.abc import Iterable

from strom_engine.design import Design, Place, Profile
from strom_engine.survey.library import usual_profiles
from strom_engine.survey.survey_document import Boat, Survey

__all__ = ["survey_from_designs"]


def survey_from_designs(boat: Boat, designs: Iterable[Design]) -> Survey:
    """A survey with the places and profiles that the designs name; the first word counts.

    Loads stay where the designs have them until somebody lists them.

    Args:
        boat: the boat's own figures.
        designs: all variants, the first first.
    """
    places: dict[str, Place] = {}
    profiles: dict[str, Profile] = {}
    for design in designs:
        places = {p.id: p for p in design.places} | places
        profiles = {p.id: p for p in design.profiles} | profiles
    usual = {p.id: p for p in usual_profiles()}
    known = tuple(usual.get(p.id, p) for p in profiles.values()) or tuple(usual.values())
    return Survey(boat=boat, places=tuple(places.values()), profiles=known)
