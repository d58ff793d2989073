"""Writes of the stage Prove."""

from __future__ import annotations

from collections.abc import Sequence

from strom_engine.errors import ChangeError, Problem

from apps.accounts.models import Workshop
from apps.accounts.permissions import Writer
from apps.jobs.entries import keep_entries
from apps.jobs.models import Variant
from apps.prove.models import Meters, ProveEntry
from apps.prove.queries import tests_of
from apps.prove.schemas import MetersIn, ProveEntryIn

__all__ = ["enter", "keep_meters"]


def enter(variant: Variant, writer: Writer, entries: list[ProveEntryIn]) -> None:
    """Keep entries; those that are kept already stay as they are.

    Raises ChangeError with every reason: an entry without its value, a clock far ahead, a reading
    of what is looked at.
    """
    known = {t.key: t for t in tests_of(variant)}

    def further(new: Sequence[ProveEntryIn]) -> None:
        wrong = [
            Problem(f"entries[{n}].kind", f"{e.target} is looked at, and has no reading")
            for n, e in enumerate(new)
            if e.kind == "reading" and e.target in known and known[e.target].wanted is None
        ]
        if wrong:
            raise ChangeError(wrong[0].message, tuple(wrong))

    keep_entries(ProveEntry, variant, writer, entries, further)


def keep_meters(workshop: Workshop, told: MetersIn) -> None:
    """Keep the meters of a workshop."""
    document = [m.model_dump(mode="json") for m in told.meters]
    Meters.objects.update_or_create(workshop=workshop, defaults={"document": document})
