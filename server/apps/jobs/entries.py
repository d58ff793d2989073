"""Entries made aboard: each with an id of its device, only ever added, sent twice without harm."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from datetime import UTC, datetime, timedelta
from typing import ClassVar, Protocol, TypeVar
from uuid import UUID

from django.db import models
from django.utils import timezone
from django.utils.module_loading import import_string
from pydantic import BaseModel
from strom_engine.errors import ChangeError, Problem
from strom_engine.interchange import EntryStage

from apps.accounts.models import User
from apps.accounts.permissions import Writer
from apps.jobs.models import Variant

__all__ = ["MOST_ENTRIES", "DeviceEntry", "Made", "keep_entries"]

MOST_ENTRIES = 20_000
MOST_AHEAD = timedelta(days=1)


class DeviceEntry(models.Model):
    """One entry, with an id that the device made, so that it can be sent twice.

    ``target`` is the key of what it is about, which stays while the design changes; ``revision``
    the design's when it was entered, ``at`` the device's own clock, ``by`` who entered it, also
    where that is nobody of this workshop. Rows never change: what was entered wrongly is entered
    anew. ``stage`` names it in a job file, ``taken_as`` what its endpoint takes; the module of that
    has ``FIELDS``, which field of an entry its kind is told in.
    """

    stage: ClassVar[EntryStage]
    taken_as: ClassVar[str]
    id = models.UUIDField(primary_key=True, editable=False)
    variant = models.ForeignKey(
        Variant, on_delete=models.CASCADE, related_name="%(app_label)s_entries"
    )
    target = models.CharField(max_length=160)
    value = models.JSONField()
    revision = models.PositiveIntegerField()
    at = models.DateTimeField()
    author = models.ForeignKey(User, null=True, on_delete=models.SET_NULL)
    by = models.CharField(max_length=150, blank=True)
    created = models.DateTimeField(auto_now_add=True)

    class Meta:
        abstract = True
        ordering = ("at", "created")

    @classmethod
    def form(cls) -> type[BaseModel]:
        """What an entry of the stage is taken as."""
        found: type[BaseModel] = import_string(cls.taken_as)
        return found

    @classmethod
    def fields(cls) -> dict[str, str]:
        """Which field of an entry its kind is told in."""
        found: dict[str, str] = import_string(f"{cls.taken_as.rpartition('.')[0]}.FIELDS")
        return found


class Made(Protocol):
    """An entry as a device made it."""

    @property
    def id(self) -> UUID: ...
    @property
    def kind(self) -> str: ...
    @property
    def target(self) -> str: ...
    @property
    def at(self) -> datetime: ...
    @property
    def revision(self) -> int: ...


Entry = TypeVar("Entry", bound=DeviceEntry)
MadeOne = TypeVar("MadeOne", bound=Made)


def keep_entries(
    model: type[Entry],
    variant: Variant,
    writer: Writer,
    made: Sequence[MadeOne],
    further: Callable[[Sequence[MadeOne]], None] = lambda new: None,
) -> None:
    """Keep entries; those that are kept already stay as they are.

    Args:
        model: of the stage.
        variant: what they are about.
        writer: who enters.
        made: as the device made them.
        further: what the stage checks of the new ones; it raises ChangeError.

    Raises:
        ChangeError: with every reason: an entry without its value, a clock far ahead.
    """
    fields = model.fields()
    problems = [p for n, entry in enumerate(made) for p in _problems(n, entry, fields)]
    if problems:
        raise ChangeError(problems[0].message, tuple(problems))
    if model._default_manager.filter(variant=variant).count() + len(made) > MOST_ENTRIES:
        text = f"a variant holds at most {MOST_ENTRIES} entries"
        raise ChangeError(text, (Problem("entries", text),))
    kept = model._default_manager.filter(id__in=[e.id for e in made])
    known = dict(kept.values_list("id", "variant"))
    if any(pk != variant.pk for pk in known.values()):
        text = "an id was used before, for another variant"
        raise ChangeError(text, (Problem("entries", text),))
    new = [entry for entry in made if entry.id not in known]
    further(new)
    model._default_manager.bulk_create(
        [
            model(
                id=entry.id,
                variant=variant,
                kind=entry.kind,
                target=entry.target,
                value=_plain(getattr(entry, fields[entry.kind])),
                revision=min(entry.revision, variant.head),
                at=entry.at,
                author=writer.person,
                by=writer.name,
            )
            for entry in new
        ],
        ignore_conflicts=True,
    )


def _problems(n: int, entry: Made, fields: dict[str, str]) -> list[Problem]:
    found = []
    name = fields[entry.kind]
    if getattr(entry, name) is None:
        found.append(Problem(f"entries[{n}].{name}", f"is missing: a {entry.kind} needs it"))
    if entry.at.tzinfo is None:
        found.append(Problem(f"entries[{n}].at", "has no time zone"))
    elif entry.at.astimezone(UTC) > timezone.now() + MOST_AHEAD:
        found.append(Problem(f"entries[{n}].at", "lies more than a day ahead of this server"))
    return found


def _plain(value: object) -> object:
    """A value as JSON."""
    if isinstance(value, BaseModel):
        return value.model_dump(mode="json")
    return str(value) if isinstance(value, UUID) else value
