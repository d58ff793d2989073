"""Designs and surveys by revision, read once: a revision never changes."""

from __future__ import annotations

from collections import OrderedDict
from collections.abc import Hashable
from threading import Lock
from typing import Any, Generic, TypeVar, cast

from strom_engine.design import Design
from strom_engine.errors import DocumentError, StockError
from strom_engine.interchange import Sort, read_document
from strom_engine.runs import Stock, default_stock, parse_stock
from strom_engine.survey import Survey, surveyed

from apps.jobs.models import JobSurvey, Variant
from apps.jobs.survey_rows import with_rows

__all__ = [
    "contents",
    "document_at",
    "head_design",
    "head_survey",
    "remember",
    "stock_of",
    "surveyed_design",
]

T = TypeVar("T")
KEPT = 256
SORTS: dict[type, Sort] = {Variant: "design", JobSurvey: "survey"}


class _Recent(Generic[T]):
    """What was used last, a bounded number of it; safe between threads."""

    def __init__(self, size: int) -> None:
        self._size = size
        self._kept: OrderedDict[Hashable, T] = OrderedDict()
        self._lock = Lock()

    def get(self, key: Hashable) -> T | None:
        with self._lock:
            if key in self._kept:
                self._kept.move_to_end(key)
            return self._kept.get(key)

    def put(self, key: Hashable, value: T) -> None:
        with self._lock:
            self._kept[key] = value
            if len(self._kept) > self._size:
                self._kept.popitem(last=False)


_documents: _Recent[Design | Survey] = _Recent(KEPT)


def remember(saved: Variant | JobSurvey, number: int, document: Design | Survey) -> None:
    """Keep a document that was just saved, so that it need not be read again."""
    _documents.put((saved.pk, number), document)


def document_at(saved: Variant | JobSurvey, number: int) -> Any:  # Any: of either sort
    """The document of a revision. Raises DocumentError for one that cannot be read any more."""
    found = _documents.get((saved.pk, number))
    if found is None:
        raw = saved.revisions.values_list("document", flat=True).get(number=number)
        if isinstance(saved, JobSurvey):
            raw = with_rows(saved, number, raw)
        found = cast(Design | Survey, read_document(SORTS[type(saved)], raw))
        remember(saved, number, found)
    return found


def head_design(variant: Variant) -> Design:
    """The design of a variant as it is drawn."""
    found: Design = document_at(variant, variant.head)
    return found


def head_survey(variant: Variant) -> Survey:
    """The survey of the job a variant belongs to."""
    survey = variant.job.survey
    found: Survey = document_at(survey, survey.head)
    return found


def stock_of(variant: Variant) -> Stock:
    """What the workshop of a variant has in stock; every usual size where it never said."""
    raw = variant.job.workshop.stock
    if raw is None:
        return default_stock(head_survey(variant).practice.sizes)
    try:
        return parse_stock(raw)
    except StockError as error:
        raise DocumentError(f"the stock cannot be read: {error.problems[0]}") from None


def surveyed_design(variant: Variant) -> Design:
    """The design of a variant with what the survey knows better."""
    key = (variant.pk, variant.head, variant.job.survey.pk, variant.job.survey.head)
    found = _surveyed.get(key)
    if found is None:
        found = surveyed(head_design(variant), head_survey(variant))
        _surveyed.put(key, found)
    return found


_surveyed: _Recent[Design] = _Recent(KEPT)


def contents(variant: Variant) -> str:
    """Design as surveyed and survey as one text: the same text, the same computation."""
    survey = variant.job.survey
    key = (variant.pk, variant.head, survey.pk, survey.head)
    found = _contents.get(key)
    if found is None:
        documents = (surveyed_design(variant), head_survey(variant))
        found = "".join(document.model_dump_json() for document in documents)
        _contents.put(key, found)
    return found


_contents: _Recent[str] = _Recent(32)
