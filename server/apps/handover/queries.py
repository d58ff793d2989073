"""Reads of the stage Handover: the owner's sheet of a variant in a language."""

from __future__ import annotations

from threading import RLock

from cachetools import LRUCache, cached
from strom_engine.dayrun import SCHOOLS, SchoolId
from strom_engine.handover import (
    LANGUAGES,
    Language,
    OwnerSheet,
    owner_sheet,
    reading_ease,
    said_sheet,
)

from apps.handover.schemas import HandoverOut
from apps.jobs.documents import head_survey, surveyed_design
from apps.jobs.models import Variant

__all__ = ["handover_of"]


def _key(variant: Variant, school: SchoolId) -> tuple[object, ...]:
    return variant.pk, variant.head, variant.job.survey.head, school


@cached(LRUCache(32), key=_key, lock=RLock())
def _sheet(variant: Variant, school: SchoolId) -> OwnerSheet:
    return owner_sheet(surveyed_design(variant), head_survey(variant), school)


def handover_of(variant: Variant, school: SchoolId, language: Language) -> HandoverOut:
    """The owner's sheet of a variant as it stands."""
    sheet = _sheet(variant, school)
    said = said_sheet(sheet, language)
    return HandoverOut.model_construct(
        revision=variant.head,
        variant=variant.pk,
        school=school,
        why_not=sheet.why_not,
        schools=list(SCHOOLS),
        languages=list(LANGUAGES),
        sheet=said,
        reading_ease=reading_ease(said.text) if language == "en" else None,
    )
