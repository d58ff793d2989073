"""Every sort of document that is kept, read from any version it ever had."""

from __future__ import annotations

from collections.abc import Callable
from typing import Literal

from pydantic import ValidationError

from strom_engine.dayrun import Plan
from strom_engine.design import Design
from strom_engine.design.fields import Versioned
from strom_engine.design.validation import problems_from_pydantic
from strom_engine.errors import DocumentError
from strom_engine.interchange.job_file import JobFile
from strom_engine.runs import Stock
from strom_engine.survey import Survey

__all__ = ["READERS", "Sort", "read_document"]

Sort = Literal["design", "survey", "plan", "stock", "job"]
READERS: dict[Sort, Callable[[object], Versioned]] = {
    "design": Design.model_validate,
    "survey": Survey.model_validate,
    "plan": Plan.model_validate,
    "stock": Stock.model_validate,
    "job": JobFile.model_validate,
}


def read_document(sort: Sort, raw: object) -> Versioned:
    """A document that was kept once, as the present version has it.

    Raises DocumentError with what is wrong where it cannot be read any more.

    Args:
        sort: of document.
        raw: as it was kept.

    >>> read_document("plan", {"name": "A night", "hours": 12}).version
    1
    """
    try:
        return READERS[sort](raw)
    except ValidationError as error:
        problems = problems_from_pydantic(error)
        words = f"cannot be read as it was saved: {problems[0]}"
        raise DocumentError(words, tuple(problems)) from None
