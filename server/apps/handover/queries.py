"""Reads of the stage Handover: the owner's sheet of a variant in a language."""

from __future__ import annotations

from threading import RLock
from typing import cast

from cachetools import LRUCache, cached
from django.utils import timezone
from strom_engine.dayrun import SCHOOLS, SchoolId
from strom_engine.handover import (
    LANGUAGES,
    PLAIN_FROM,
    Language,
    OwnerSheet,
    catalogue,
    owner_sheet,
    reading_ease,
    said_sheet,
)

from apps.build.queries import made_from as build_made_from
from apps.handover.models import HandoverEntry
from apps.handover.schemas import HandoverOut, PractisedOut
from apps.jobs.documents import head_survey, surveyed_design
from apps.jobs.entries import DeviceEntry
from apps.jobs.models import Variant, Waiver
from apps.prints.answers import asked
from apps.prints.makers import Ask
from apps.prints.models import Print
from apps.prove.queries import made_from as prove_made_from

LANGUAGE_NAMES = {language: catalogue(language)["language"] for language in LANGUAGES}

__all__ = [
    "LANGUAGE_NAMES",
    "handover_of",
    "made_from",
    "pack_made_from",
    "sheet_asked",
    "sheet_made",
    "sheet_of",
]


def _key(variant: Variant, school: SchoolId) -> tuple[object, ...]:
    return variant.pk, variant.head, variant.job.survey.head, school


@cached(LRUCache(32), key=_key, lock=RLock())
def sheet_of(variant: Variant, school: SchoolId) -> OwnerSheet:
    """The owner's sheet of a variant as data."""
    return owner_sheet(surveyed_design(variant), head_survey(variant), school)


def sheet_asked(variant: Variant, school: SchoolId, language: Language) -> Print:
    """What the stage shows of a variant, worked out by a worker."""
    entries = HandoverEntry.objects.filter(variant=variant).count()
    ask: Ask = {"school": school, "language": language}
    return asked(variant, "owners_sheet", ask, [*made_from(variant), entries])


def sheet_made(variant: Variant, ask: Ask) -> bytes:
    """The owner's sheet of a variant as it stands, in a school and a language."""
    school, language = cast(SchoolId, ask["school"]), cast(Language, ask["language"])
    return handover_of(variant, school, language).model_dump_json().encode()


def handover_of(variant: Variant, school: SchoolId, language: Language) -> HandoverOut:
    sheet = sheet_of(variant, school)
    said = said_sheet(sheet, language)
    return HandoverOut.model_construct(
        revision=variant.head,
        variant=variant.pk,
        school=school,
        why_not=sheet.why_not,
        schools=list(SCHOOLS),
        languages=LANGUAGE_NAMES,
        sheet=said,
        reading_ease=reading_ease(said.text) if language == "en" else None,
        plain_from=PLAIN_FROM,
        practised=[
            PractisedOut(id=e.pk, at=e.at, practised=e.value)
            for e in HandoverEntry.objects.filter(
                variant=variant, kind=HandoverEntry.Kind.PRACTISED
            ).order_by("-at")
        ],
    )


def made_from(variant: Variant) -> list[object]:
    """Everything that the sheet and the scenes of a variant are made from, as JSON."""
    return [variant.head, variant.job.survey.head]


def pack_made_from(variant: Variant) -> list[object]:
    """Everything that the pack and the archive of a variant are made from, as JSON."""
    job = variant.job
    entries = [
        [model.stage, model._default_manager.filter(variant__job=job).count()]
        for model in DeviceEntry.__subclasses__()
    ]
    kept = [
        list(job.photos.values_list("pk", "caption")),
        list(job.records.values_list("pk", "status")),
        list(job.plans.values_list("pk", "revision")),
        list(Waiver.objects.filter(variant__job=job, ended=None).values_list("pk", flat=True)),
        [(v.pk, v.head, v.name, v.chosen) for v in job.variants.all()],
    ]
    today = timezone.localdate().isoformat()
    return [build_made_from(variant), prove_made_from(variant), entries, kept, today]
