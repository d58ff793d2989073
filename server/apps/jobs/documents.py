"""Designs and surveys by revision, read once: a revision never changes."""

from __future__ import annotations

from threading import RLock
from typing import Any, cast
from uuid import UUID

from cachetools import LRUCache, cached
from strom_engine.advice import Proposal, propose
from strom_engine.design import Design
from strom_engine.errors import DocumentError, StockError
from strom_engine.interchange import Sort, read_document
from strom_engine.patterns import pattern_named
from strom_engine.runs import Stock, default_stock, parse_stock
from strom_engine.survey import Survey, SurveyedDesign, surveyed

from apps.jobs.models import JobSurvey, Variant
from apps.jobs.survey_rows import with_rows

__all__ = [
    "computed_from",
    "contents",
    "document_at",
    "head_design",
    "head_survey",
    "proposal_of",
    "remember",
    "stock_of",
    "surveyed_design",
]

KEPT = 256
SORTS: dict[type, Sort] = {Variant: "design", JobSurvey: "survey"}


Key = tuple[UUID, int]
# Threads read beside each other: every look into one of these is under a lock.
_lock = RLock()
_documents: LRUCache[Key, Design | Survey] = LRUCache(KEPT)


def remember(saved: Variant | JobSurvey, number: int, document: Design | Survey) -> None:
    """Keep a document that was just saved, so that it need not be read again."""
    with _lock:
        _documents[saved.pk, number] = document


def document_at(saved: Variant | JobSurvey, number: int) -> Any:  # Any: of either sort
    """The document of a revision. Raises DocumentError for one that cannot be read any more."""
    with _lock:
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


def proposal_of(variant: Variant, pattern: str) -> Proposal:
    """A pattern on the boat of a variant, from the stock. Raises ChangeError where it misfits."""
    known = (head_survey(variant), stock_of(variant))
    return propose(head_design(variant), pattern_named(pattern), *known)


def _standing(variant: Variant) -> tuple[UUID, int, UUID, int]:
    """Which revisions a variant stands at, its own and its survey's."""
    survey = variant.job.survey
    return variant.pk, variant.head, survey.pk, survey.head


def computed_from(variant: Variant) -> list[object]:
    """What is computed of a variant, its survey and the stock is made from, as JSON."""
    return [variant.head, variant.job.survey.head, variant.job.workshop.stock_revision]


@cached(LRUCache(KEPT), key=_standing, lock=RLock())
def surveyed_design(variant: Variant) -> SurveyedDesign:
    """The design of a variant with what the survey knows better."""
    return surveyed(head_design(variant), head_survey(variant))


@cached(LRUCache(32), key=_standing, lock=RLock())
def contents(variant: Variant) -> str:
    """Design as surveyed and survey as one text: the same text, the same computation."""
    documents = (surveyed_design(variant), head_survey(variant))
    return "".join(document.model_dump_json() for document in documents)
