"""A whole job as one JSON file: the boat, and its variants with their designs."""

from __future__ import annotations

import json
from collections import Counter
from collections.abc import Mapping
from typing import Annotated, Any, Literal

from pydantic import Field, ValidationError

from strom_engine.design.document import Design
from strom_engine.design.fields import Frozen, Name, Text
from strom_engine.design.validation import design_problems, problems_from_pydantic
from strom_engine.errors import DesignError, Problem

__all__ = [
    "JOB_VERSION",
    "MAX_BYTES",
    "Boat",
    "JobFile",
    "VariantFile",
    "dump_job",
    "job_schema",
    "parse_job",
    "parse_job_text",
]

JOB_VERSION = 1
MAX_BYTES = 4_000_000


class Boat(Frozen):
    """The boat in a few words."""

    kind: Name
    length_m: Annotated[float, Field(gt=0, le=200, allow_inf_nan=False)]
    notes: Text = ""


class VariantFile(Frozen):
    """One variant of a job."""

    name: Name
    chosen: bool = False
    design: Design


class JobFile(Frozen):
    """The file that a job is exported to and imported from."""

    format: Literal["strom-job"] = "strom-job"
    version: Literal[1] = 1
    name: Name
    boat: Boat
    variants: Annotated[tuple[VariantFile, ...], Field(min_length=1, max_length=20)]


def job_schema() -> dict[str, Any]:  # Any: JSON Schema is free-form JSON
    """JSON Schema of the job file."""
    return {
        "$schema": "https://json-schema.org/draft/2020-12/schema",
        **JobFile.model_json_schema(),
    }


def dump_job(job: JobFile) -> str:
    """The one way a job is written: the same job, the same bytes."""
    return json.dumps(job.model_dump(mode="json"), indent=1, ensure_ascii=False) + "\n"


def parse_job_text(text: str | bytes) -> JobFile:
    """Read a job from the text of a file; raises DesignError with all problems."""
    if len(text) > MAX_BYTES:
        limit = f"{MAX_BYTES / 1e6:.0f} MB"
        raise DesignError(
            [Problem("", f"the file is {len(text) / 1e6:.0f} MB; the limit is {limit}")]
        )
    try:
        raw = json.loads(text.decode("utf-8-sig") if isinstance(text, bytes) else text)
    except UnicodeDecodeError as error:
        raise DesignError([Problem("", f"not UTF-8 text: {error.reason}")]) from None
    except (json.JSONDecodeError, RecursionError) as error:
        raise DesignError([Problem("", f"not JSON: {error}")]) from None
    return parse_job(raw)


def parse_job(raw: object) -> JobFile:
    """Read a job from JSON data; raises DesignError with all problems at once."""
    if not isinstance(raw, Mapping):
        raise DesignError([Problem("", "a job file must hold one object")])
    version = raw.get("version", JOB_VERSION)
    if isinstance(version, int) and version > JOB_VERSION:
        text = (
            f"is {version}; this program reads versions up to {JOB_VERSION}: a later one wrote it"
        )
        raise DesignError([Problem("version", text)])
    problems = _head_problems(raw) + _variant_problems(raw)
    if problems:
        raise DesignError(problems)
    return JobFile.model_validate(raw)


def _head_problems(raw: Mapping[str, Any]) -> list[Problem]:
    """Problems outside the designs: those are looked through one by one, more closely."""
    try:
        JobFile.model_validate(raw)
    except ValidationError as error:
        found = problems_from_pydantic(error)
        return [p for p in found if ".design." not in p.path]
    return []


def _variant_problems(raw: Mapping[str, Any]) -> list[Problem]:
    variants = raw.get("variants")
    if not isinstance(variants, list | tuple):
        return []
    found = []
    names = Counter(v.get("name") for v in variants if isinstance(v, Mapping))
    for i, variant in enumerate(variants):
        if not isinstance(variant, Mapping):
            continue
        if "design" in variant:
            found += design_problems(variant["design"], f"variants[{i}].design.")
        if names[variant.get("name")] > 1:
            text = f"{variant.get('name')!r} is used more than once"
            found.append(Problem(f"variants[{i}].name", text))
    return found
