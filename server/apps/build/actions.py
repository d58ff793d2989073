"""Writes of the stage Build."""

from __future__ import annotations

from datetime import UTC, timedelta

from django.utils import timezone
from strom_engine.errors import ChangeError, Problem

from apps.accounts.permissions import Writer
from apps.build.models import BuildEntry
from apps.build.queries import book_of
from apps.build.schemas import EntryIn
from apps.jobs.models import Variant

__all__ = ["enter"]

MOST_ENTRIES = 20_000
FIELDS = {
    "tick": "done",
    "received": "count",
    "length": "length_m",
    "note": "text",
    "order": "keys",
}
MOST_AHEAD = timedelta(days=1)


def enter(variant: Variant, writer: Writer, entries: list[EntryIn]) -> None:
    """Keep entries; those that are kept already stay as they are.

    Raises ChangeError with every reason: an entry without its value, a clock far ahead, an order
    of steps that is not safe.
    """
    problems = [p for n, entry in enumerate(entries) for p in _problems(n, entry)]
    if problems:
        raise ChangeError(problems[0].message, tuple(problems))
    if variant.build_entries.count() + len(entries) > MOST_ENTRIES:
        text = f"a variant holds at most {MOST_ENTRIES} entries"
        raise ChangeError(text, (Problem("entries", text),))
    known = set(
        variant.build_entries.filter(id__in=[e.id for e in entries]).values_list("id", flat=True)
    )
    new = [entry for entry in entries if entry.id not in known]
    for n, entry in enumerate(new):
        if entry.kind == "order":
            _safe_order(variant, n, entry)
    BuildEntry.objects.bulk_create(
        [
            BuildEntry(
                id=entry.id,
                variant=variant,
                kind=entry.kind,
                target=entry.target,
                value=getattr(entry, FIELDS[entry.kind]),
                revision=min(entry.revision, variant.head),
                at=entry.at,
                author=writer.person,
            )
            for entry in new
        ],
        ignore_conflicts=True,
    )


def _problems(n: int, entry: EntryIn) -> list[Problem]:
    found = []
    name = FIELDS[entry.kind]
    if getattr(entry, name) is None:
        found.append(Problem(f"entries[{n}].{name}", f"is missing: a {entry.kind} needs it"))
    if entry.at.tzinfo is None:
        found.append(Problem(f"entries[{n}].at", "has no time zone"))
    elif entry.at.astimezone(UTC) > timezone.now() + MOST_AHEAD:
        found.append(Problem(f"entries[{n}].at", "lies more than a day ahead of this server"))
    return found


def _safe_order(variant: Variant, n: int, entry: EntryIn) -> None:
    """An order of one's own is refused where it is not safe, with every reason."""
    hazards = book_of(variant, keys=entry.keys or []).order.hazards
    if hazards:
        problems = tuple(Problem(f"entries[{n}].keys", f"{h.words}: {h.rule}") for h in hazards)
        raise ChangeError(f"This order is not safe: {hazards[0].words}.", problems)
