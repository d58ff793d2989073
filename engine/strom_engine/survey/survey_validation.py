"""Reading a survey from outside: every problem is collected, with its path."""

from __future__ import annotations

from collections import Counter
from collections.abc import Iterable, Mapping

from pydantic import ValidationError

from strom_engine.design.validation import problems_from_pydantic, suggest
from strom_engine.errors import Problem, SurveyError
from strom_engine.reference import load_table
from strom_engine.survey.ac_checklist import AC_ITEMS
from strom_engine.survey.survey_document import SURVEY_CHAIN, Survey

__all__ = ["parse_survey", "survey_problems"]

LISTS = ("places", "runs", "resting", "profiles", "items", "measurements", "counted", "generators")


def parse_survey(raw: object) -> Survey:
    """Read a survey from JSON data; raises SurveyError with all problems at once.

    Args:
        raw: what JSON gave.

    Returns:
        The survey.
    """
    found, survey = _read(raw, "")
    if survey is None or found:
        raise SurveyError(found)
    return survey


def survey_problems(raw: object, at: str = "") -> list[Problem]:
    """All problems of a would-be survey; ``at`` is put before every path.

    Args:
        raw: what JSON gave.
        at: put before every path.

    Returns:
        Problems, each with its path; empty when it is a survey.
    """
    return _read(raw, at)[0]


def _read(raw: object, at: str) -> tuple[list[Problem], Survey | None]:
    """A survey and what is wrong with it; None where it cannot be read at all."""
    if not isinstance(raw, Mapping):
        return [Problem(at.rstrip("."), "must be an object")], None
    if later := SURVEY_CHAIN.problems(raw, at):
        return later, None
    try:
        survey = Survey.model_validate(raw)
    except ValidationError as error:
        return problems_from_pydantic(error, at), None
    return [Problem(at + p.path, p.message) for p in _agreement(survey)], survey


def _agreement(survey: Survey) -> Iterable[Problem]:
    """What must agree across the survey."""
    for key in LISTS:
        counts = Counter(row.id for row in getattr(survey, key))
        for i, row in enumerate(getattr(survey, key)):
            if counts[row.id] > 1:
                yield Problem(f"{key}[{i}].id", f"{row.id!r} is used {counts[row.id]} times")
    places = [p.id for p in survey.places]
    joined: set[frozenset[str]] = set()
    for i, run in enumerate(survey.runs):
        for end in ("start", "end"):
            yield from _known(f"runs[{i}].{end}", "place", getattr(run, end), places)
        pair = frozenset((run.start, run.end))
        if pair in joined:
            yield Problem(f"runs[{i}]", "there is already a run between these places")
        if run.start == run.end:
            yield Problem(f"runs[{i}]", "has both ends in one place")
        joined.add(pair)
    yield from _profiles(survey)
    items = list(survey.items_by_id)
    for i, measurement in enumerate(survey.measurements):
        yield from _known(f"measurements[{i}].item", "load", measurement.item, items)
    yield from _units(survey)


def _profiles(survey: Survey) -> Iterable[Problem]:
    known = [p.id for p in survey.profiles]
    named: list[tuple[str, Iterable[str]]] = [
        (f"items[{i}].uses", item.uses) for i, item in enumerate(survey.items)
    ]
    named += [(f"counted[{i}].profile", [day.profile]) for i, day in enumerate(survey.counted)]
    named += [(f"generators[{i}].hours", g.hours) for i, g in enumerate(survey.generators)]
    named += [("sizing.engine_h", survey.sizing.engine_h)]
    named += [("inverter.on_h", survey.inverter.on_h)] if survey.inverter else []
    for path, profiles in named:
        for profile in profiles:
            yield from _known(path, "profile", profile, known)


def _units(survey: Survey) -> Iterable[Problem]:
    for name in survey.ac_checks:
        yield from _known(f"ac_checks.{name}", "item of the checklist", name, [*AC_ITEMS])
    units = [row["unit"] for row in load_table("unit_batteries").rows]
    for i, candidate in enumerate(survey.sizing.candidates):
        yield from _known(f"sizing.candidates[{i}].unit", "unit battery", candidate.unit, units)
    curves = sorted({row["curve"] for row in load_table("generator_curves").rows})
    for i, generator in enumerate(survey.generators):
        at = f"generators[{i}].curve"
        if generator.curve is not None:
            yield from _known(at, "curve", generator.curve, curves)
        elif len(generator.points) < 2:
            yield Problem(at, "pick a curve, or type one in with two points or more")


def _known(path: str, what: str, name: str, known: list[str]) -> Iterable[Problem]:
    if name not in known:
        yield Problem(path, f"there is no {what} {name!r}{suggest(name, known)}")
