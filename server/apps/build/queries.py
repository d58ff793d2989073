"""Reads of the stage Build: the book of the engine, and what was entered."""

from __future__ import annotations

import csv
import io
from collections.abc import Iterable, Sequence
from typing import cast

from cachetools import LRUCache, cached
from openpyxl import Workbook
from openpyxl.styles import Font
from strom_engine.build import BuildBook, Label, PartsList, build_book
from strom_engine.reference import CONFIRM

from apps.build.models import BuildEntry
from apps.build.schemas import FIELDS, BuildOut, BuildState, EntryKind, EntryOut
from apps.jobs.documents import stock_of, surveyed_design
from apps.jobs.models import Variant

__all__ = ["book_of", "build_of", "labels_csv", "parts_csv", "parts_xlsx"]

WIDTHS = {"A": 18, "B": 44, "I": 40, "J": 40, "K": 24, "L": 24, "N": 30}
Row = tuple[object, ...]
PARTS_HEAD = (
    "Group", "What", "Unit", "Needed", "In stock", "To buy", "Price each", "Cost", "For",
    "Read off the label", "If not to be had", "Supplier's note", "Received", "Item",
)  # fmt: skip


def found_of(variant: Variant) -> Variant | None:
    """The boat as found: the first variant of the job, unless that is the one to be built."""
    first = variant.job.variants.order_by("place").first()
    return None if first is None or first.pk == variant.pk else first


def book_of(variant: Variant, keys: Sequence[str] = ()) -> BuildBook:
    """The build book of a variant, with what was measured and cut, in an order of one's own."""
    return _of_entries(variant, variant.build_entries.all(), keys)


def _of_entries(variant: Variant, entries: Iterable[BuildEntry], keys: Sequence[str]) -> BuildBook:
    lengths, ticked = dict[str, float](), dict[str, bool]()
    for entry in entries:
        if entry.kind == BuildEntry.Kind.LENGTH:
            lengths[entry.target] = float(entry.value)
        elif entry.kind == BuildEntry.Kind.TICK and entry.target.startswith("cable:"):
            ticked[entry.target] = bool(entry.value)
    cut = tuple(sorted(key for key, done in ticked.items() if done))
    return _book(variant, tuple(sorted(lengths.items())), tuple(keys), cut)


def _key(variant: Variant, *entered: object) -> tuple[object, ...]:
    job, found = variant.job, found_of(variant)
    was = None if found is None else (found.pk, found.head)
    stock = job.workshop.stock_revision
    return (variant.pk, variant.head, job.survey.head, was, stock, *entered)


@cached(LRUCache(16), key=_key)
def _book(
    variant: Variant,
    lengths: tuple[tuple[str, float], ...],
    keys: tuple[str, ...],
    cut: tuple[str, ...],
) -> BuildBook:
    found = found_of(variant)
    return build_book(
        None if found is None else surveyed_design(found),
        surveyed_design(variant),
        stock_of(variant),
        dict(lengths),
        keys,
        cut,
    )


def build_of(variant: Variant) -> BuildOut:
    """The stage Build: the book, and what stands after all entries."""
    entries = list(variant.build_entries.select_related("author"))
    order = [e for e in entries if e.kind == BuildEntry.Kind.ORDER]
    keys = tuple(order[-1].value) if order else ()
    book = _of_entries(variant, entries, keys)
    if keys and book.order.hazards:
        book = _of_entries(variant, entries, ())  # the design has changed: it is no longer safe
    found = found_of(variant)
    return BuildOut.model_construct(
        revision=variant.head,
        variant=variant.pk,
        against=found.name if found else None,
        book=book,
        state=_state(variant, book, entries),
        currency=stock_of(variant).currency,
        confirm=CONFIRM,
    )


def _out(variant: Variant, entry: BuildEntry) -> EntryOut:
    return EntryOut(
        id=entry.pk,
        kind=cast(EntryKind, entry.kind),
        target=entry.target,
        at=entry.at,
        revision=entry.revision,
        author=entry.author.username if entry.author else None,
        outdated=entry.revision < variant.head,
        **{FIELDS[entry.kind]: entry.value},
    )


def _state(variant: Variant, book: BuildBook, entries: Iterable[BuildEntry]) -> BuildState:
    steps = [s.key for s in book.order.steps]
    known = {*steps, *(line.key for line in book.parts.lines), *(p.key for p in book.cuts)}
    known |= {line.key for s in book.order.steps for line in s.doing}
    known |= {c.key for c in book.work.cables} | {p.key for p in book.work.parts} | {"build"}
    latest: dict[tuple[str, str], EntryOut] = {}
    notes, lost = [], []
    for entry in entries:
        out = _out(variant, entry)
        if entry.kind == BuildEntry.Kind.NOTE:
            notes.append(out)
        if entry.target not in known:
            lost.append(out)
        latest[entry.kind, entry.target] = out
    ticks = {t: e for (kind, t), e in latest.items() if kind == "tick"}
    done = [key for key in steps if key in ticks and ticks[key].done]
    return BuildState(
        ticks=ticks,
        received={t: e for (kind, t), e in latest.items() if kind == "received"},
        lengths={t: e for (kind, t), e in latest.items() if kind == "length"},
        notes=notes,
        lost=lost,
        steps_done=len(done),
        next_step=next((key for key in steps if key not in done), None),
    )


# -- tables ------------------------------------------------------------------------------------


def _parts_rows(variant: Variant) -> tuple[PartsList, list[Row]]:
    out = build_of(variant)
    parts: PartsList = out.book.parts
    received = out.state.received
    rows: list[Row] = [
        (
            line.group, line.what, line.unit or "pcs", line.needed, line.kept, line.to_buy,
            line.price, line.cost, line.purpose, line.check, line.instead, line.note,
            received[line.key].count if line.key in received else None, line.item,
        )
        for line in parts.lines
    ]  # fmt: skip
    return parts, rows


def parts_csv(variant: Variant) -> str:
    """The parts list as CSV."""
    _, rows = _parts_rows(variant)
    text = io.StringIO()
    out = csv.writer(text)
    out.writerow(PARTS_HEAD)
    out.writerows([["" if cell is None else _plain(cell) for cell in row] for row in rows])
    return text.getvalue()


def _plain(cell: object) -> object:
    """A cell that no spreadsheet takes for a formula."""
    return f"'{cell}" if isinstance(cell, str) and cell[:1] in "=+-@" else cell


def parts_xlsx(variant: Variant) -> bytes:
    """The parts list as a workbook, with its sum."""
    parts, rows = _parts_rows(variant)
    book = Workbook()
    sheet = book.active
    assert sheet is not None  # a new workbook has one
    sheet.title = "Parts"
    sheet.append(list(PARTS_HEAD))
    for cell in sheet[1]:
        cell.font = Font(bold=True)
    for row in rows:
        sheet.append([_plain(cell) for cell in row])
    sheet.append([])
    sheet.append(["Sum", f"{parts.currency} {parts.cost:.2f}".strip()])
    sheet.append(["Without a price", parts.unpriced])
    for column, width in zip(
        "ABCDEFGHIJKLMN", (18, 44, 6, 9, 9, 9, 10, 10, 40, 40, 24, 24, 10, 30), strict=True
    ):
        sheet.column_dimensions[column].width = width
    sheet.freeze_panes = "A2"
    data = io.BytesIO()
    book.save(data)
    return data.getvalue()


def labels_csv(variant: Variant) -> str:
    """Labels as CSV for a label printer: what is large, what is small, where it goes."""
    text = io.StringIO()
    out = csv.writer(text)
    out.writerow(("sort", "large", "small", "where"))
    found: tuple[Label, ...] = book_of(variant).labels
    out.writerows([[_plain(c) for c in (x.sort, x.large, x.small, x.where)] for x in found])
    return text.getvalue()
