"""A whole job as one JSON file: survey, plans, and variants with designs, waivers, entries."""

from __future__ import annotations

import json
from collections import Counter
from collections.abc import Mapping
from typing import Annotated, Any, Literal
from uuid import UUID

from pydantic import Field, JsonValue, ValidationError

from strom_engine.dayrun.plan import Plan
from strom_engine.design.document import Design
from strom_engine.design.fields import Frozen, Moment, Name, Text, Versioned
from strom_engine.design.validation import design_problems, problems_from_pydantic
from strom_engine.errors import JobFileError, Problem
from strom_engine.rules import Severity
from strom_engine.survey import Boat, Survey, survey_from_designs, survey_problems
from strom_engine.versions import Chain, Raw

__all__ = [
    "JOB_VERSION",
    "MAX_BYTES",
    "EntryFile",
    "EntryStage",
    "JobFile",
    "PlanFile",
    "VariantFile",
    "WaiverFile",
    "dump_job",
    "job_schema",
    "parse_job",
    "parse_job_text",
]

MAX_BYTES = 4_000_000


def _with_survey(raw: Raw) -> Raw:
    """1 to 2: the survey, of its boat and the places and profiles that its designs name."""
    designs, variants = [], raw.get("variants")
    for variant in variants if isinstance(variants, list | tuple) else ():
        found = variant.get("design") if isinstance(variant, Mapping) else None
        if found is not None and not design_problems(found):
            designs.append(Design.model_validate(found))
    survey = survey_from_designs(Boat(kind="Boat", length_m=1), designs).model_dump(mode="json")
    boat = raw.get("boat")
    if isinstance(boat, Mapping) and designs:
        boat = {**boat, "fuel": designs[0].fuel}
    rest = {key: value for key, value in raw.items() if key != "boat"}
    return {**rest, "survey": survey | {"boat": boat}}


def _with_entries(raw: Raw) -> Raw:
    """2 to 3: plans, entries, numbers of revisions and who waived are all left out before."""
    return raw


JOB_CHAIN = Chain(steps=(_with_survey, _with_entries), first=lambda raw: 1 if "boat" in raw else 2)
JOB_VERSION = JOB_CHAIN.version
Revision = Annotated[int, Field(ge=1, le=2_000_000_000)]
By = Annotated[str, Field(max_length=150)]


class WaiverFile(Frozen):
    """A finding that somebody answers for: which one, how grave it was then, why, by whom, when."""

    finding: Annotated[str, Field(min_length=1, max_length=600)]
    rule: Annotated[str, Field(min_length=4, max_length=10)]
    severity: Severity
    title: Text
    reason: Text
    revision: Revision = 1
    by: By = ""
    created: Moment | None = None


class EntryFile(Frozen):
    """What was entered aboard in a stage: its value is as that stage keeps entries of the kind.

    ``target`` is what it is about, ``revision`` the design's then, ``at`` the device's clock.
    """

    id: UUID
    kind: Annotated[str, Field(min_length=1, max_length=10)]
    target: Annotated[str, Field(min_length=1, max_length=160)]
    value: JsonValue
    revision: Revision
    at: Moment
    by: By = ""


class PlanFile(Frozen):
    """A plan of a day, and the school that it is handled by; ``own`` has moves of its own."""

    school: Annotated[str, Field(min_length=1, max_length=10)]
    plan: Plan


EntryStage = Literal["build", "prove", "log", "handover"]
Entries = Annotated[tuple[EntryFile, ...], Field(max_length=20_000)]


class VariantFile(Frozen):
    """One variant of a job, the waivers that stand for it, and entries by their stage.

    ``revision`` is the number of its design's revision, which prints and entries refer to.
    """

    name: Name
    chosen: bool = False
    revision: Revision = 1
    design: Design
    waivers: Annotated[tuple[WaiverFile, ...], Field(max_length=400)] = ()
    entries: dict[EntryStage, Entries] = Field(default_factory=dict)


class JobFile(Versioned):
    """The file that a job is exported to and imported from."""

    chain = JOB_CHAIN

    format: Literal["strom-job"] = "strom-job"
    version: int = JOB_CHAIN.version
    name: Name
    survey: Survey
    survey_revision: Revision = 1
    plans: Annotated[tuple[PlanFile, ...], Field(max_length=40)] = ()
    variants: Annotated[tuple[VariantFile, ...], Field(min_length=1, max_length=20)]


def job_schema() -> dict[str, Any]:  # Any: JSON Schema is free-form JSON
    """JSON Schema of the job file."""
    return {
        "$schema": "https://json-schema.org/draft/2020-12/schema",
        **JobFile.model_json_schema(),
    }


def dump_job(job: JobFile) -> str:
    """The one way a job is written: the same job, the same bytes.

    Args:
        job: the whole job.

    Returns:
        JSON text, keys in a fixed order.
    """
    return json.dumps(job.model_dump(mode="json"), indent=1, ensure_ascii=False) + "\n"


def parse_job_text(text: str | bytes, most_bytes: int = MAX_BYTES) -> JobFile:
    """Read a job from the text of a file; raises JobFileError with all problems.

    Args:
        text: JSON in UTF-8.
        most_bytes: a longer one is refused.

    Returns:
        The job in the present version.
    """
    if len(text) > most_bytes:
        limit = f"{most_bytes / 1e6:.0f} MB"
        raise JobFileError(
            [Problem("", f"the file is {len(text) / 1e6:.0f} MB; the limit is {limit}")]
        )
    try:
        raw = json.loads(text.decode("utf-8-sig") if isinstance(text, bytes) else text)
    except UnicodeDecodeError as error:
        raise JobFileError([Problem("", f"not UTF-8 text: {error.reason}")]) from None
    except (ValueError, RecursionError) as error:  # ValueError too for endless digits
        raise JobFileError([Problem("", f"not JSON: {error}")]) from None
    return parse_job(raw)


def parse_job(raw: object) -> JobFile:
    """Read a job from JSON data; raises JobFileError with all problems at once.

    A file of version 1, which had no survey, is brought up to date.

    Args:
        raw: what JSON gave.

    Returns:
        The job in the present version.
    """
    if not isinstance(raw, Mapping):
        raise JobFileError([Problem("", "a job file must hold one object")])
    if later := JOB_CHAIN.problems(raw):
        raise JobFileError(later)
    raw = JOB_CHAIN.brought_up(raw)
    problems = _head_problems(raw) + _variant_problems(raw)
    if problems:
        raise JobFileError(problems)
    return JobFile.model_validate(raw)


def _head_problems(raw: Mapping[str, Any]) -> list[Problem]:
    """Problems outside the designs: those are looked through one by one, more closely."""
    try:
        JobFile.model_validate(raw)
    except ValidationError as error:
        found = problems_from_pydantic(error)
        found = [p for p in found if ".design." not in p.path and not p.path.startswith("survey")]
        if "survey" not in raw:
            return [*found, Problem("survey", "is missing: what is known of the boat itself")]
        return found + survey_problems(raw["survey"], "survey.")
    return survey_problems(raw["survey"], "survey.")


def _variant_problems(raw: Mapping[str, Any]) -> list[Problem]:
    variants = raw.get("variants")
    if not isinstance(variants, list | tuple):
        return []
    found = []
    names = Counter(str(v.get("name")) for v in variants if isinstance(v, Mapping))
    for i, variant in enumerate(variants):
        if not isinstance(variant, Mapping):
            continue
        if "design" in variant:
            found += design_problems(variant["design"], f"variants[{i}].design.")
        if names[str(variant.get("name"))] > 1:
            text = f"{variant.get('name')!r} is used more than once"
            found.append(Problem(f"variants[{i}].name", text))
    return found
