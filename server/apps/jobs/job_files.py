"""A whole job as its file: gathered from every stage, and kept again with all that it carries.

Stages keep their entries as ``DeviceEntry``; plans of a day belong to an app that stands above
this one, which names itself with ``carries_plans``.
"""

from __future__ import annotations

from collections.abc import Callable, Iterator, Sequence
from dataclasses import dataclass
from typing import TypeVar
from uuid import UUID, uuid5

from django.db import transaction
from pydantic import ValidationError
from strom_engine.design.validation import problems_from_pydantic
from strom_engine.errors import JobFileError, Problem
from strom_engine.interchange import (
    EntryFile,
    EntryStage,
    JobFile,
    PlanFile,
    VariantFile,
    WaiverFile,
)

from apps.accounts.models import Workshop
from apps.accounts.permissions import Writer
from apps.jobs import history
from apps.jobs.documents import document_at, head_design
from apps.jobs.entries import MOST_ENTRIES, DeviceEntry
from apps.jobs.models import Job, JobSurvey, Photo, Variant, Waiver

Told = TypeVar("Told")

__all__ = ["Ids", "carries_plans", "entry_problems", "ids_for", "job_file", "save_job"]


MOST_JOBS = 20_000


@dataclass(frozen=True)
class _Plans:
    """How plans of a day are gathered, and kept again."""

    gather: Callable[[Job], Sequence[PlanFile]] = lambda job: ()
    keep: Callable[[Job, Sequence[PlanFile]], None] = lambda job, plans: None


_plans = _Plans()


def carries_plans(
    gather: Callable[[Job], Sequence[PlanFile]], keep: Callable[[Job, Sequence[PlanFile]], None]
) -> None:
    """The app that keeps plans says how they are gathered, and kept again."""
    global _plans  # set once, while the apps are made ready
    _plans = _Plans(gather, keep)


class Ids:
    """Ids of a file as they are kept: the same, or others where one of them is taken here."""

    def __init__(self, space: UUID | None) -> None:
        self._space = space
        self._given: set[UUID] = set()

    def take(self, old: UUID) -> UUID:
        """The id that something of the file gets here."""
        self._given.add(old)
        return old if self._space is None else uuid5(self._space, old.hex)

    def photo(self, value: object) -> UUID:
        """The id here of a photograph that an entry names."""
        return UUID(str(self.named(value)))

    def named(self, value: Told) -> Told | str:
        """A text that names something of the file by its id names it by the one here."""
        if self._space is None or not isinstance(value, str):
            return value
        try:
            old = UUID(value)
        except ValueError:
            return value
        return str(self.take(old)) if old in self._given else value


def ids_for(job: Job, file: JobFile, photos: Sequence[UUID] = ()) -> Ids:
    """Ids for what a file carries: its own, unless one of them is taken here."""
    told = {e.id for v in file.variants for entries in v.entries.values() for e in entries}
    taken = Photo.objects.filter(pk__in=photos).exists() or any(
        model._default_manager.filter(pk__in=told).exists() for model in _models().values()
    )
    ids = Ids(job.pk if taken else None)
    for old in (*told, *photos):
        ids.take(old)
    return ids


def job_file(job: Job) -> JobFile:
    """A job as the file that it is exported to."""
    return JobFile(
        name=job.name,
        survey=document_at(job.survey, job.survey.head),
        survey_revision=job.survey.head,
        plans=tuple(_plans.gather(job)),
        variants=tuple(
            VariantFile(
                name=v.name,
                chosen=v.chosen,
                revision=v.head,
                design=head_design(v),
                waivers=tuple(
                    WaiverFile(**{name: getattr(w, name) for name in WaiverFile.model_fields})
                    for w in v.waivers.filter(ended=None)
                ),
                entries={stage: told for stage, model in _models().items()
                         if (told := _entry_files(model, v))},
            )
            for v in job.variants.all()
        ),
    )  # fmt: skip


def save_job(
    workshop: Workshop,
    writer: Writer,
    file: JobFile,
    words: str,
    photos: Callable[[Job, Ids], object] | None = None,
    told: Sequence[UUID] = (),
) -> Job:
    """Save a job with all that its file carries, or nothing. Raises JobFileError.

    Args:
        workshop: whose job it becomes.
        writer: who brings it in.
        file: the job.
        words: of its first revisions.
        photos: keeps the photographs of an archive; without it entries of photographs are left out.
        told: ids of those photographs.
    """
    if problems := list(entry_problems(file)):
        raise JobFileError(problems)
    with transaction.atomic():
        if Job.objects.filter(workshop=workshop).count() >= MOST_JOBS:
            text = f"a workshop keeps {MOST_JOBS} jobs at most, its bin counted"
            raise JobFileError([Problem("", text)])
        job = Job.objects.create(workshop=workshop, name=file.name)
        survey = JobSurvey.objects.create(job=job)
        history.begin(survey, writer, words, file.survey, file.survey_revision)
        ids = ids_for(job, file, told)
        if photos is not None:
            photos(job, ids)
        for place, item in enumerate(file.variants):
            _save_variant(job, writer, words, place, item, ids)
        _plans.keep(job, file.plans)
    return job


def _save_variant(
    job: Job, writer: Writer, words: str, place: int, item: VariantFile, ids: Ids
) -> None:
    variant = Variant.objects.create(job=job, name=item.name, place=place, chosen=item.chosen)
    history.begin(variant, writer, words, item.design, item.revision)
    Waiver.objects.bulk_create(
        Waiver(
            variant=variant,
            author=None if waiver.created else writer.person,
            # Files of before version 3 do not tell: whoever brings them in answers for it.
            **waiver.model_dump(exclude_none=True)
            | ({} if waiver.created else {"by": writer.name}),
        )
        for waiver in item.waivers
    )
    pictures = set(job.photos.values_list("pk", flat=True))
    for stage, entries in item.entries.items():
        model = _models()[stage]
        kept = [e for e in entries if e.kind != "photo" or ids.photo(e.value) in pictures]
        model._default_manager.bulk_create(
            model(
                variant=variant,
                **entry.model_dump(exclude={"id", "target", "value"}),
                id=ids.take(entry.id),
                target=ids.named(entry.target),
                value=ids.named(entry.value),
            )
            for entry in kept
        )


def entry_problems(file: JobFile) -> Iterator[Problem]:
    """Entries that their stage would not have taken."""
    for n, variant in enumerate(file.variants):
        for stage, entries in variant.entries.items():
            model, at = _models()[stage], f"variants[{n}].entries.{stage}"
            if len(entries) > MOST_ENTRIES:
                yield Problem(at, f"a variant holds at most {MOST_ENTRIES} entries")
            for i, entry in enumerate(entries):
                yield from _wrong(model, entry, f"{at}[{i}].")


def _wrong(model: type[DeviceEntry], entry: EntryFile, at: str) -> Iterator[Problem]:
    field = model.fields().get(entry.kind)
    if field is None:
        yield Problem(f"{at}kind", f"{entry.kind!r} is no kind of entry of this stage")
        return
    raw = entry.model_dump(exclude={"value", "by"}) | {field: entry.value}
    try:
        taken = model.form().model_validate(raw)
    except ValidationError as error:
        for problem in problems_from_pydantic(error):
            yield Problem(f"{at}{problem.path}", problem.message)
    else:
        if getattr(taken, field) is None:
            yield Problem(f"{at}value", f"is missing: a {entry.kind} needs it")


def _models() -> dict[EntryStage, type[DeviceEntry]]:
    return {model.stage: model for model in sorted(DeviceEntry.__subclasses__(), key=_stage)}


def _stage(model: type[DeviceEntry]) -> str:
    return model.stage


def _entry_files(model: type[DeviceEntry], variant: Variant) -> tuple[EntryFile, ...]:
    kept = model._default_manager.filter(variant=variant).order_by("at", "id")
    names = EntryFile.model_fields
    return tuple(EntryFile.model_validate({n: getattr(e, n) for n in names}) for e in kept)
