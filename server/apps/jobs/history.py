"""Moving a document from revision to revision: designs of variants and surveys alike.

Every write locks its document, carries the revision it was made on, and adds a revision.
What was made on an older one is rebased when it touches other things than what came since;
else it is kept aside and the person is told.
"""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from typing import Any
from uuid import UUID

from django.db import transaction
from django.db.models import Max
from strom_engine.design import Change, Design, apply_change, change_from, change_words, touched
from strom_engine.errors import ChangeError, Problem
from strom_engine.interchange import survey_harms, variant_problems
from strom_engine.survey import (
    Survey,
    SurveyChange,
    apply_survey_change,
    survey_change_from,
    survey_change_words,
    survey_touched,
)

from apps.accounts.permissions import Writer
from apps.jobs.documents import document_at, head_survey, remember
from apps.jobs.models import JobSurvey, KeptRevision, Variant
from apps.jobs.survey_rows import keep_rows, without_rows
from apps.problems import ConflictError

__all__ = ["begin", "change", "redo", "restore", "revision", "shown", "undo"]

Kind = KeptRevision.Kind
Saved = Variant | JobSurvey
Document = Design | Survey


@dataclass(frozen=True)
class _Ways:
    """How documents of one sort are changed; Any: each sort has changes of its own."""

    read_change: Callable[[object], Any]
    apply: Callable[[Any, Any], Any]
    words: Callable[[Any, Any], str]
    touched: Callable[[Any], frozenset[str]]


_WAYS: dict[type, _Ways] = {
    Variant: _Ways(change_from, apply_change, change_words, touched),
    JobSurvey: _Ways(survey_change_from, apply_survey_change, survey_change_words, survey_touched),
}


@dataclass(frozen=True)
class _Step:
    """What a new revision is: how it came about, its document, and where undo and redo lead."""

    kind: KeptRevision.Kind
    words: str
    document: Document
    undo_to: int | None = None
    redo_to: int | None = None
    change: Any = None  # Any: a change of either sort
    shows: int | None = None


def begin(
    saved: Saved, writer: Writer, words: str, document: Document, number: int = 1
) -> KeptRevision:
    """Save the first state of a new document, as a revision that prints may refer to."""
    made = _save(saved, writer, _Step(Kind.IMPORT, words, document), number)
    saved.head = made.number
    saved.save(update_fields=["head"])
    return made


def change(saved: Saved, writer: Writer, base: int, named: Change | SurveyChange) -> KeptRevision:
    """Apply a named change made on a revision. Raises ChangeError, ConflictError.

    What the same window saved before is what the person saw when making this change, and never
    clashes with it.
    """
    ways = _WAYS[type(saved)]
    with transaction.atomic():
        head = _lock(saved)
        revision(saved, base)
        mine = document_at(saved, base)
        words = ways.words(mine, named)
        if base == head.number:
            changed = ways.apply(mine, named)
        else:
            changed = _rebased(saved, base, head, named, writer.window)
        if changed is not None:
            step = _Step(Kind.CHANGE, words, changed, undo_to=head.number, change=named)
            return _append(saved, writer, step)
        aside = ways.apply(mine, named)
        step = _Step(Kind.ASIDE, f"Kept aside: {words}", aside, undo_to=head.number)
        kept = _save(saved, writer, step)
    raise _conflict(saved, base, head, kept)


def undo(saved: Saved, writer: Writer, base: int) -> KeptRevision:
    """Show again the state before the newest change."""
    with transaction.atomic():
        head = _lock_at(saved, base)
        if head.undo_to is None:
            raise ChangeError("there is nothing left to undo")
        target = revision(saved, head.undo_to)
        step = _back_to(saved, target, Kind.UNDO, f"Undid: {shown(saved, head).words}", head.number)
        return _append(saved, writer, step)


def redo(saved: Saved, writer: Writer, base: int) -> KeptRevision:
    """Bring back what the last undo took away."""
    with transaction.atomic():
        head = _lock_at(saved, base)
        if head.redo_to is None:
            raise ChangeError("there is nothing to redo")
        target = revision(saved, head.redo_to)
        words = f"Did again: {shown(saved, target).words}"
        return _append(saved, writer, _back_to(saved, target, Kind.REDO, words, target.redo_to))


def restore(saved: Saved, writer: Writer, base: int, number: int) -> KeptRevision:
    """Make an earlier or a kept-aside state the newest one."""
    with transaction.atomic():
        head = _lock_at(saved, base)
        target = revision(saved, number)
        words = f"Went back to version {number}: {target.words}"
        document = document_at(saved, number)
        return _append(saved, writer, _Step(Kind.RESTORE, words, document, undo_to=head.number))


def shown(saved: Saved, at: KeptRevision) -> KeptRevision:
    """The revision that brought about the state which a revision shows."""
    return at if at.shows == at.number else revision(saved, at.shows)


def revision(saved: Saved, number: int) -> KeptRevision:
    """A revision, its document left where it is; raises ChangeError where there is none."""
    found: KeptRevision | None = saved.revisions.defer("document").filter(number=number).first()
    if found is None:
        raise ChangeError(f"there is no version {number} of {saved.name}")
    return found


def _back_to(
    saved: Saved, target: KeptRevision, kind: KeptRevision.Kind, words: str, redo_to: int | None
) -> _Step:
    document = document_at(saved, target.number)
    return _Step(kind, words, document, target.undo_to, redo_to, shows=target.shows)


def _rebased(
    saved: Saved, base: int, head: KeptRevision, named: Any, window: UUID | None
) -> Document | None:
    """The newest document with a change applied; None when that clashes with what came since."""
    ways = _WAYS[type(saved)]
    mine = ways.touched(named)
    for since in _since(saved, base, head.number):
        if window is not None and since.window == window:
            continue
        # What was no named change may have touched anything.
        if since.kind != Kind.CHANGE:
            return None
        try:
            theirs = ways.touched(ways.read_change(since.change))
        except ChangeError:
            return None  # a change of an earlier version, which nobody can read any more
        if theirs & mine:
            return None
    try:
        changed: Document = ways.apply(document_at(saved, head.number), named)
    except ChangeError:
        return None
    return changed


def _lock(saved: Saved) -> KeptRevision:
    """The head of a document, locked until the transaction ends."""
    locked = type(saved).objects.select_for_update().get(pk=saved.pk)
    saved.head = locked.head
    return revision(saved, locked.head)


def _lock_at(saved: Saved, base: int) -> KeptRevision:
    head = _lock(saved)
    if head.number != base:
        raise _conflict(saved, base, head, None)
    return head


def _since(saved: Saved, base: int, head: int) -> list[KeptRevision]:
    between = saved.revisions.filter(number__gt=base, number__lte=head)
    return list(between.exclude(kind=Kind.ASIDE).defer("document"))


def _append(saved: Saved, writer: Writer, step: _Step) -> KeptRevision:
    _prove(saved, step.document)
    made = _save(saved, writer, step)
    type(saved).objects.filter(pk=saved.pk).update(head=made.number)
    saved.head = made.number
    saved.job.save(update_fields=["changed"])
    transaction.on_commit(lambda: remember(saved, made.number, step.document))
    return made


def _prove(saved: Saved, document: Any) -> None:
    """Refuse a document that could not be worked with, unless the one before could not be either.

    Any: of either sort. Raises ChangeError.
    """
    before = document_at(saved, saved.head)
    if isinstance(saved, Variant):
        survey = head_survey(saved)
        problems = variant_problems(document, survey, "design")
        if problems and variant_problems(before, survey, "design"):
            return
    else:
        problems = []
        for variant in saved.job.variants.all():
            design = document_at(variant, variant.head)
            why = survey_harms(design, before, document)
            if why is not None:
                problems.append(Problem(f"variant {variant.name}", why))
    if problems:
        raise ChangeError(problems[0].message, tuple(problems))


def _save(saved: Saved, writer: Writer, step: _Step, number: int = 0) -> KeptRevision:
    newest = saved.revisions.aggregate(newest=Max("number"))["newest"] or 0
    number = number or int(newest) + 1
    document = step.document.model_dump(mode="json")
    if isinstance(saved, JobSurvey):
        keep_rows(saved, number, document)
        document = without_rows(document)
    made: KeptRevision = saved.revisions.create(
        number=number,
        shows=step.shows or number,
        kind=step.kind,
        words=step.words,
        change=None if step.change is None else step.change.model_dump(mode="json"),
        document=document,
        undo_to=step.undo_to,
        redo_to=step.redo_to,
        author=writer.person,
        window=writer.window,
    )
    return made


def _conflict(
    saved: Saved, base: int, head: KeptRevision, kept: KeptRevision | None
) -> ConflictError:
    words = [r.words for r in _since(saved, base, head.number)]
    mine = f" Yours is kept as version {kept.number}." if kept else ""
    return ConflictError(
        f"{saved.name} was saved in between.{mine}",
        current_revision=head.number,
        kept_revision=kept.number if kept else None,
        saved_meanwhile=words,
    )
