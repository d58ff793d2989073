"""What an endpoint is about, told before it is gone: the job, and its name within that."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from typing import Any, NamedTuple

from django.core.exceptions import ValidationError
from django.db.models import Model

from apps.accounts.models import Invitation, User
from apps.handover.models import OwnerLink
from apps.jobs.models import Job, Photo, Variant
from apps.logbook.models import Record

__all__ = ["Subject", "subject_of"]

Row = Any  # a row of one of the models below


class Subject(NamedTuple):
    """A job, if it is one's, what in it, and the person whom it is about."""

    job: Job | None = None
    words: str = ""
    person: User | None = None


class _Kind(NamedTuple):
    model: type[Model]
    related: tuple[str, ...]
    subject: Callable[[Row], Subject]


# By the name in the address; the first that an address has tells what it is about.
KINDS: dict[str, _Kind] = {
    "variant_id": _Kind(Variant, ("job",), lambda v: Subject(v.job, v.name)),
    "photo_id": _Kind(Photo, ("job",), lambda p: Subject(p.job, p.caption)),
    "record_id": _Kind(Record, ("job",), lambda r: Subject(r.job, r.name)),
    "link_id": _Kind(OwnerLink, ("variant__job",), lambda k: Subject(k.variant.job, k.name)),
    "job_id": _Kind(Job, (), Subject),
    "person_id": _Kind(User, (), lambda p: Subject(None, p.username, p)),
    "invitation_id": _Kind(Invitation, (), lambda i: Subject(words=i.name)),
}


def subject_of(address: Mapping[str, Any]) -> Subject:
    """What an address is about, by the ids in it; nothing where there is no such thing."""
    for name, kind in KINDS.items():
        if name not in address:
            continue
        try:
            rows = kind.model._default_manager.select_related(*kind.related)
            return kind.subject(rows.get(pk=address[name]))
        except (kind.model.DoesNotExist, ValidationError, ValueError):  # type: ignore[attr-defined]
            return Subject()
    return Subject()
