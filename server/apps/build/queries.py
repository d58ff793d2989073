"""Reads of the stage Build: the book of the engine, and what was entered."""

from __future__ import annotations

import csv
import io
import warnings
from collections.abc import Iterable, Sequence
from itertools import islice
from threading import RLock
from typing import cast
from zipfile import BadZipFile

from cachetools import LRUCache, cached
from openpyxl import Workbook, load_workbook
from openpyxl.styles import Font
from openpyxl.utils import get_column_letter
from openpyxl.utils.exceptions import InvalidFileException
from strom_engine.build import BuildBook, Label, PartsList, build_book
from strom_engine.errors import Problem, TableError
from strom_engine.interchange import PARTS_COLUMNS, dump_parts, parts_rows, read_parts
from strom_engine.interchange.parts_csv import MOST_LINES
from strom_engine.interchange.sheet import shielded
from strom_engine.reference import CONFIRM
from strom_engine.rules import build_findings

from apps.build.models import BuildEntry
from apps.build.schemas import (
    FIELDS,
    BuildOut,
    BuildState,
    EntryKind,
    EntryOut,
    PartsFileOut,
    PartsRowOut,
)
from apps.jobs.documents import stock_of, surveyed_design
from apps.jobs.models import Variant
from apps.jobs.schemas import ProblemItem

__all__ = [
    "book_of",
    "build_of",
    "labels_csv",
    "made_from",
    "parts_csv",
    "parts_xlsx",
    "read_parts_file",
]

ZIP = b"PK"  # how a workbook begins
WIDTHS = {
    "Group": 18, "What": 44, "For": 40, "Read off the label": 40, "If not to be had": 24,
    "Supplier's note": 24, "Item": 30,
}  # fmt: skip


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


def made_from(variant: Variant) -> list[object]:
    """All that the build of a variant is made from: when it is the same, so is the build."""
    entries = variant.build_entries
    return [*_key(variant), entries.count(), variant.name, variant.job.name]


def _key(variant: Variant, *entered: object) -> tuple[object, ...]:
    job, found = variant.job, found_of(variant)
    was = None if found is None else (found.pk, found.head)
    stock = job.workshop.stock_revision
    return (variant.pk, variant.head, job.survey.head, was, stock, *entered)


@cached(LRUCache(16), key=_key, lock=RLock())
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
    entries = list(variant.build_entries.all())
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
        findings=list(build_findings(book)),
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
        author=entry.by or None,
        outdated=entry.revision < variant.head,
        **{FIELDS[entry.kind]: entry.value},
    )


def _state(variant: Variant, book: BuildBook, entries: Iterable[BuildEntry]) -> BuildState:
    steps = [s.key for s in book.order.steps]
    design = surveyed_design(variant)
    known = {*steps, *(line.key for line in book.parts.lines), *(p.key for p in book.cuts)}
    known |= {line.key for s in book.order.steps for line in s.doing}
    known |= {c.key for c in book.work.cables} | {p.key for p in book.work.parts} | {"build"}
    known |= {*design.by_id, *design.cables_by_id}  # photographs of parts and cables
    latest: dict[tuple[str, str], EntryOut] = {}
    notes, photos, lost = [], [], []
    for entry in entries:
        out = _out(variant, entry)
        if entry.kind == BuildEntry.Kind.NOTE:
            notes.append(out)
        if entry.kind == BuildEntry.Kind.PHOTO:
            photos.append(out)
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
        photos=photos,
        lost=lost,
        steps_done=len(done),
        next_step=next((key for key in steps if key not in done), None),
    )


# -- tables ------------------------------------------------------------------------------------


def _received(out: BuildOut) -> dict[str, float]:
    return {key: e.count for key, e in out.state.received.items() if e.count is not None}


def parts_csv(variant: Variant) -> str:
    """The parts list as CSV."""
    out = build_of(variant)
    return dump_parts(out.book.parts, _received(out))


def parts_xlsx(variant: Variant) -> bytes:
    """The parts list as a workbook, with its sum."""
    out = build_of(variant)
    parts: PartsList = out.book.parts
    book = Workbook()
    sheet = book.active
    assert sheet is not None  # a new workbook has one
    sheet.title = "Parts"
    sheet.append(list(PARTS_COLUMNS))
    for cell in sheet[1]:
        cell.font = Font(bold=True)
    for row in parts_rows(parts, _received(out)):
        sheet.append([None if cell is None else shielded(cell) for cell in row.values()])
    sheet.append([])
    sheet.append([None, f"Sum: {parts.currency} {parts.cost:.2f}"])
    sheet.append([None, f"Without a price: {parts.unpriced}"])
    for n, head in enumerate(PARTS_COLUMNS, start=1):
        sheet.column_dimensions[get_column_letter(n)].width = WIDTHS.get(head, 10)
    sheet.freeze_panes = "A2"
    data = io.BytesIO()
    book.save(data)
    return data.getvalue()


def read_parts_file(variant: Variant, data: bytes) -> PartsFileOut:
    """Prices and receipts out of a table or a workbook; nothing is saved."""
    text: str | bytes = _workbook_text(data) if data.startswith(ZIP) else data
    read = read_parts(text, build_of(variant).book.parts)
    return PartsFileOut(
        rows=[PartsRowOut(**vars(row)) for row in read.rows],
        problems=[ProblemItem(path=p.path, message=p.message) for p in read.problems],
        notes=list(read.notes),
        read=read.read,
    )


def _workbook_text(data: bytes) -> str:
    """The first sheet of a workbook as tab-separated text. Raises TableError for none."""
    try:
        with warnings.catch_warnings():
            warnings.simplefilter("ignore")  # what a spreadsheet cannot be read with is no matter
            sheet = load_workbook(io.BytesIO(data), read_only=True, data_only=True).worksheets[0]
            rows = list(islice(sheet.iter_rows(values_only=True), MOST_LINES + 2))
    except (BadZipFile, InvalidFileException, KeyError, IndexError, ValueError, OSError) as error:
        raise TableError([Problem("", f"this is no workbook that can be read: {error}")]) from None
    out = io.StringIO()
    write = csv.writer(out, delimiter="\t")
    write.writerows([["" if cell is None else cell for cell in row] for row in rows])
    return out.getvalue()


def labels_csv(variant: Variant) -> str:
    """Labels as CSV for a label printer: what is large, what is small, where it goes."""
    text = io.StringIO()
    out = csv.writer(text)
    out.writerow(("sort", "large", "small", "where"))
    found: tuple[Label, ...] = book_of(variant).labels
    out.writerows([[shielded(c) for c in (x.sort, x.large, x.small, x.where)] for x in found])
    return text.getvalue()
