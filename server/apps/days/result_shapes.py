"""What is kept of a day, as JSON data, and the shape it has."""

from __future__ import annotations

import hashlib
import json
from typing import Any

from pydantic import TypeAdapter
from strom_engine.dayrun import DaySheet, KeptMoments, Outcome
from strom_engine.rules import Finding

__all__ = ["FINDINGS", "MOMENTS", "OUTCOME", "RESULT_SHAPE", "SHEET"]

SHEET: TypeAdapter[DaySheet] = TypeAdapter(DaySheet)
MOMENTS: TypeAdapter[KeptMoments] = TypeAdapter(KeptMoments)
OUTCOME: TypeAdapter[Outcome] = TypeAdapter(Outcome)
FINDINGS: TypeAdapter[tuple[Finding, ...]] = TypeAdapter(tuple[Finding, ...])


def _shape() -> str:
    """Sixteen letters that change with any field of what is kept."""
    kept: tuple[TypeAdapter[Any], ...] = (SHEET, MOMENTS, OUTCOME, FINDINGS)  # Any: each its own
    told = json.dumps([one.json_schema() for one in kept], sort_keys=True)
    return hashlib.sha256(told.encode()).hexdigest()[:16]


RESULT_SHAPE = _shape()
