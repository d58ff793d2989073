"""Writes of the stage Build."""

from __future__ import annotations

from collections.abc import Sequence
from functools import partial
from uuid import uuid5

from django.utils import timezone
from strom_engine.build.cutting_plan import SAW_M
from strom_engine.errors import ChangeError, Problem
from strom_engine.runs import Stock

from apps.accounts.models import Workshop
from apps.accounts.permissions import Writer
from apps.build.models import BuildEntry
from apps.build.queries import book_of
from apps.build.schemas import CutIn, EntryIn, PriceIn
from apps.jobs.actions import change_stock
from apps.jobs.entries import keep_entries
from apps.jobs.models import Variant

__all__ = ["book_cut", "enter", "keep_prices"]

LEAST_OFFCUT_M = 0.2  # what nobody keeps; own judgement


def enter(variant: Variant, writer: Writer, entries: list[EntryIn]) -> None:
    """Keep entries; those that are kept already stay as they are.

    Raises ChangeError with every reason: an entry without its value, a clock far ahead, a
    photograph of another job, an order of steps that is not safe.
    """

    def further(new: Sequence[EntryIn]) -> None:
        _photographs_of(variant, new)
        for n, entry in enumerate(new):
            if entry.kind == "order":
                _safe_order(variant, n, entry)

    keep_entries(BuildEntry, variant, writer, entries, further)


def book_cut(variant: Variant, writer: Writer, told: CutIn) -> None:
    """Pieces are cut from a reel: they are ticked, and the stock has what is left of it.

    Raises ChangeError for a reel or a piece that the cutting plan does not have so. Sent twice, it
    is done once.
    """
    # While the same one is under way in another request this waits, and then finds it kept.
    Variant.objects.select_for_update().get(pk=variant.pk)
    if variant.build_entries.filter(id=told.entry).exists():
        return
    book = book_of(variant)
    cut = next((c for c in book.plan.cuts if c.reel == told.reel), None)
    if cut is None or not set(told.pieces) <= set(cut.pieces):
        text = f"the cutting plan does not cut these from {told.reel!r}: look at it anew"
        raise ChangeError(text, (Problem("reel", text),))
    lengths = {p.key: p.cut_m + SAW_M for p in book.cuts}
    used_m = sum(lengths[key] for key in told.pieces)
    change_stock(variant.job.workshop, writer, partial(_shortened, told.reel, used_m))
    ids = [told.entry, *(uuid5(told.entry, key) for key in told.pieces[1:])]
    BuildEntry.objects.bulk_create(
        BuildEntry(
            id=entry,
            variant=variant,
            kind=BuildEntry.Kind.TICK,
            target=key,
            value=True,
            revision=variant.head,
            at=timezone.now(),
            author=writer.person,
            by=writer.name,
        )
        for entry, key in zip(ids, told.pieces, strict=True)
    )


def _shortened(reel: str, used_m: float, stock: Stock) -> dict[str, object]:
    """The reels when a length is off one of them; what is too short to use is struck off."""
    left = {r.id: round(r.length_m - used_m * (r.id == reel), 3) for r in stock.reels}
    return {
        "reels": [
            r.model_dump() | {"length_m": left[r.id]}
            for r in stock.reels
            if left[r.id] >= LEAST_OFFCUT_M
        ]
    }


def keep_prices(workshop: Workshop, writer: Writer, rows: Sequence[PriceIn]) -> None:
    """Keep lines of the price list; what a row does not name stays as it is."""

    def priced(stock: Stock) -> dict[str, object]:
        lines = {line.item: line.model_dump() for line in stock.gear}
        for row in rows:
            lines[row.item] = lines.get(row.item, {}) | row.model_dump(exclude_unset=True)
        return {"gear": list(lines.values())}

    change_stock(workshop, writer, priced)


def _photographs_of(variant: Variant, entries: Sequence[EntryIn]) -> None:
    """A photograph at a step is one of the job."""
    told = [e.photo for e in entries if e.kind == "photo" and e.photo is not None]
    there = set(variant.job.photos.filter(pk__in=told).values_list("pk", flat=True))
    lost = [n for n, e in enumerate(entries) if e.kind == "photo" and e.photo not in there]
    if lost:
        text = "is no photograph of this job"
        problems = tuple(Problem(f"entries[{n}].photo", text) for n in lost)
        raise ChangeError(f"entry {lost[0] + 1} {text}", problems)


def _safe_order(variant: Variant, n: int, entry: EntryIn) -> None:
    """An order of one's own is refused where it is not safe, with every reason."""
    hazards = book_of(variant, entry.keys or []).order.hazards
    if hazards:
        problems = tuple(Problem(f"entries[{n}].keys", f"{h.words}: {h.rule}") for h in hazards)
        raise ChangeError(f"This order is not safe: {hazards[0].words}.", problems)
