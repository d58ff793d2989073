"""Everything that writes: importing a job, and moving a variant from revision to revision.

Every write locks its variant, carries the revision it was made on, and adds a revision.
What was made on an older one is rebased when it touches other things than what came since;
else it is kept aside and the person is told.
"""

from __future__ import annotations

from dataclasses import dataclass

from config.problems import ConflictError
from django.db import transaction
from django.db.models import Max
from strom_engine.design import (
    Change,
    Design,
    apply_change,
    change_from,
    change_words,
    touched,
)
from strom_engine.errors import ChangeError
from strom_engine.interchange import JobFile

from apps.accounts.models import User, Workshop
from apps.jobs.models import Job, Revision, Variant

__all__ = ["change_variant", "import_job", "redo", "restore", "shown_words", "undo"]

Kind = Revision.Kind


def import_job(workshop: Workshop, author: User | None, file: JobFile) -> Job:
    """Save a job with all its variants, or nothing."""
    with transaction.atomic():
        job = Job.objects.create(
            workshop=workshop, name=file.name, boat=file.boat.model_dump(mode="json")
        )
        for place, item in enumerate(file.variants):
            variant = Variant.objects.create(
                job=job, name=item.name, place=place, chosen=item.chosen, head=1
            )
            Revision.objects.create(
                variant=variant,
                number=1,
                shows=1,
                kind=Kind.IMPORT,
                words="Brought in" if author else "Loaded",
                design=item.design.model_dump(mode="json"),
                author=author,
            )
    return job


def change_variant(variant: Variant, author: User, base: int, change: Change) -> Revision:
    """Apply a named change made on a revision. Raises ChangeError, ConflictError."""
    with transaction.atomic():
        head = _lock(variant)
        mine = _design(_revision(variant, base))
        words = change_words(mine, change)
        # Made on an older one, it is rebased: applied to the newest.
        changed = _rebased(variant, base, head, change)
        if changed is not None:
            step = _Step(Kind.CHANGE, words, changed, undo_to=head.number, change=change)
            return _append(variant, author, step)
        aside = apply_change(mine, change)
        step = _Step(Kind.ASIDE, f"Kept aside: {words}", aside, undo_to=head.number)
        kept = _save(variant, author, step)
    raise _conflict(variant, base, head, kept)


def undo(variant: Variant, author: User, base: int) -> Revision:
    """Show again the state before the newest change."""
    with transaction.atomic():
        head = _lock_at(variant, base)
        if head.undo_to is None:
            raise ChangeError("there is nothing left to undo")
        target = _revision(variant, head.undo_to)
        words = f"Undid: {shown_words(variant, head)}"
        return _append(
            variant,
            author,
            _Step(
                Kind.UNDO,
                words,
                _design(target),
                target.undo_to,
                redo_to=head.number,
                shows=target.shows,
            ),
        )


def redo(variant: Variant, author: User, base: int) -> Revision:
    """Bring back what the last undo took away."""
    with transaction.atomic():
        head = _lock_at(variant, base)
        if head.redo_to is None:
            raise ChangeError("there is nothing to redo")
        target = _revision(variant, head.redo_to)
        words = f"Did again: {shown_words(variant, target)}"
        return _append(
            variant,
            author,
            _Step(
                Kind.REDO,
                words,
                _design(target),
                target.undo_to,
                target.redo_to,
                shows=target.shows,
            ),
        )


def restore(variant: Variant, author: User, base: int, number: int) -> Revision:
    """Make an earlier or a kept-aside state the newest one."""
    with transaction.atomic():
        head = _lock_at(variant, base)
        target = _revision(variant, number)
        words = f"Went back to version {number}: {target.words}"
        return _append(
            variant, author, _Step(Kind.RESTORE, words, _design(target), undo_to=head.number)
        )


def _rebased(variant: Variant, base: int, head: Revision, change: Change) -> Design | None:
    """The newest design with a change applied; None when that clashes with what came since."""
    if _clashes(variant, base, head.number, change):
        return None
    try:
        return apply_change(_design(head), change)
    except ChangeError:
        if base == head.number:
            raise
        return None


def _lock(variant: Variant) -> Revision:
    """The head of a variant, locked until the transaction ends."""
    locked = Variant.objects.select_for_update().get(pk=variant.pk)
    variant.head = locked.head
    return _revision(variant, locked.head)


def _lock_at(variant: Variant, base: int) -> Revision:
    head = _lock(variant)
    if head.number != base:
        raise _conflict(variant, base, head, None)
    return head


def _revision(variant: Variant, number: int) -> Revision:
    found = Revision.objects.filter(variant=variant, number=number).first()
    if found is None:
        raise ChangeError(f"there is no version {number} of {variant.name}")
    return found


def _design(revision: Revision) -> Design:
    return Design.model_validate(revision.design)


def _since(variant: Variant, base: int, head: int) -> list[Revision]:
    between = variant.revisions.filter(number__gt=base, number__lte=head)
    return list(between.exclude(kind=Kind.ASIDE))


def _clashes(variant: Variant, base: int, head: int, change: Change) -> bool:
    """Whether something saved since touches what this change touches, or was no change at all."""
    mine = touched(change)
    return any(
        revision.kind != Kind.CHANGE or touched(change_from(revision.change)) & mine
        for revision in _since(variant, base, head)
    )


@dataclass(frozen=True)
class _Step:
    """What a new revision is: how it came about, its design, and where undo and redo lead."""

    kind: Revision.Kind
    words: str
    design: Design
    undo_to: int | None
    redo_to: int | None = None
    change: Change | None = None
    shows: int | None = None


def _append(variant: Variant, author: User, step: _Step) -> Revision:
    revision = _save(variant, author, step)
    Variant.objects.filter(pk=variant.pk).update(head=revision.number)
    variant.head = revision.number
    variant.job.save(update_fields=["changed"])
    return revision


def _save(variant: Variant, author: User, step: _Step) -> Revision:
    number = _next_number(variant)
    return Revision.objects.create(
        variant=variant,
        number=number,
        shows=step.shows or number,
        kind=step.kind,
        words=step.words,
        change=None if step.change is None else step.change.model_dump(mode="json"),
        design=step.design.model_dump(mode="json"),
        undo_to=step.undo_to,
        redo_to=step.redo_to,
        author=author,
    )


def _next_number(variant: Variant) -> int:
    newest = variant.revisions.aggregate(newest=Max("number"))["newest"] or 0
    return int(newest) + 1


def shown_words(variant: Variant, revision: Revision) -> str:
    """What brought about the state that a revision shows."""
    return _revision(variant, revision.shows).words


def _conflict(variant: Variant, base: int, head: Revision, kept: Revision | None) -> ConflictError:
    saved = [r.words for r in _since(variant, base, head.number)]
    mine = f" Yours is kept as version {kept.number}." if kept else ""
    return ConflictError(
        f"{variant.name} was saved in between.{mine}",
        current_revision=head.number,
        kept_revision=kept.number if kept else None,
        saved_meanwhile=saved,
    )
