"""Writes of PDFs."""

from __future__ import annotations

import json
from functools import partial
from hashlib import sha256

from django.db import transaction
from ninja.errors import HttpError
from strom_engine.edition import engine_edition

from apps.jobs.models import Variant
from apps.jobs.queue import Status
from apps.prints.makers import Ask
from apps.prints.models import Print
from apps.prints.tasks import queue_print

__all__ = ["ask_for", "made_already"]

KEPT = 24  # of a variant: older ones are made anew when they are wanted
MOST_WAITING = 60  # of a workshop; own judgement, a boat taken aboard asks for a dozen
TOO_MANY = (
    f"{MOST_WAITING} pieces of work wait for this workshop already: let some finish, and ask again."
)


def ask_for(variant: Variant, kind: str, ask: Ask, made_from: object, name: str) -> Print:
    """A PDF: the one that was made from the same, or a new one in the queue.

    Args:
        variant: what it is of.
        kind: its maker.
        ask: what that one needs to know, as JSON.
        made_from: everything it is made from; one made from the same is the same.
        name: of the file.
    """
    digest = _digest(ask, made_from)
    with transaction.atomic():
        Print.objects.filter(variant=variant, status=Status.FAILED).delete()
        one, made = Print.objects.get_or_create(
            variant=variant,
            kind=kind,
            made_from=digest,
            defaults={"ask": ask, "name": name},
        )
        if made:
            old = Print.objects.filter(variant=variant).values_list("pk", flat=True)[KEPT:]
            Print.objects.filter(pk__in=list(old)).delete()
            waiting = Print.objects.filter(
                variant__job__workshop=variant.job.workshop_id, status=Status.WAITING
            )
            ahead = waiting.exclude(pk=one.pk).count()
            if ahead >= MOST_WAITING:
                raise HttpError(429, TOO_MANY)
            transaction.on_commit(partial(queue_print, one.pk, ahead))
    return one


def made_already(variant: Variant, kind: str, ask: Ask, made_from: object) -> Print | None:
    """The file that was made, or is in the making, from the same."""
    return Print.objects.filter(
        variant=variant, kind=kind, made_from=_digest(ask, made_from)
    ).first()


def _digest(ask: Ask, made_from: object) -> str:
    # Another edition of the engine computes anew, and may say it in another shape.
    text = json.dumps([engine_edition(), ask, made_from], sort_keys=True, default=str)
    return sha256(text.encode()).hexdigest()
