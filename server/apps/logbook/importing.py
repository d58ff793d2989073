"""Files of records: taken in as they come, looked at, and read row by row in a worker."""

from __future__ import annotations

import codecs
import hashlib
import io
import logging
import zlib
from collections.abc import Iterable, Iterator
from typing import cast
from uuid import UUID

from django.db import transaction
from strom_engine.design import Bank
from strom_engine.errors import ChangeError, Problem, StromError, TableError
from strom_engine.interchange.record_layout import RecordLayout, guess_layout
from strom_engine.interchange.record_rows import Piece, RowReader, in_order

from apps.accounts.permissions import Writer
from apps.jobs.documents import head_design
from apps.jobs.models import Job
from apps.jobs.queue import AWAY, Status
from apps.logbook.blocks import keep_trace, without_known
from apps.logbook.models import Record, RecordRaw

__all__ = ["import_rows", "take_in"]

CHUNK = 1 << 20
HEAD_BYTES = 200_000
MOST_RECORDS = 400
FAILED_WORDS = "the program failed on this file, and the failure was noted"
_log = logging.getLogger(__name__)


class StoppedError(Exception):
    """Somebody cancelled the reading of a file."""


def take_in(
    job: Job, writer: Writer, record_id: UUID, told: tuple[str, str], chunks: Iterable[bytes]
) -> Record:
    """Keep a file and guess how it is laid out; the same file again is the one that is there.

    Args:
        job: of the boat.
        writer: who sends it.
        record_id: made by the sender.
        told: the name of the file, and the bank that was recorded.
        chunks: of the file.

    Raises:
        ChangeError: there is no such bank, or too many files.
        TableError: nothing in it is a table with times.
    """
    name, bank = told
    known = {b.id for v in job.variants.all() for b in head_design(v).of_type(Bank)}
    if bank not in known:
        raise ChangeError(f"there is no bank {bank!r}", (Problem("bank", "is none of this boat"),))
    if job.records.count() >= MOST_RECORDS:
        text = f"a boat holds {MOST_RECORDS} files of records at most"
        raise ChangeError(text, (Problem("", text),))
    digest, size, pieces = hashlib.sha256(), 0, []
    head = b""
    for chunk in chunks:
        digest.update(chunk)
        size += len(chunk)
        if len(head) < HEAD_BYTES:
            head += chunk[: HEAD_BYTES - len(head)]
        pieces.append(zlib.compress(chunk, 3))
    same = job.records.filter(bank=bank, digest=digest.hexdigest()).first()
    if same is not None:
        return same
    guessed = guess_layout(_text(head, whole=size <= HEAD_BYTES))
    before = job.records.filter(bank=bank, confirmed=True).order_by("-created").first()
    layout, assumed = _as_before(guessed.layout, before), list(guessed.assumed)
    record = Record.objects.create(
        id=record_id,
        job=job,
        name=name[:120] or "Records",
        bank=bank,
        digest=digest.hexdigest(),
        size=size,
        layout=layout.model_dump(mode="json"),
        sample=[list(row) for row in guessed.sample],
        assumed=assumed,
        driven=before.driven if before else "both",
        author=writer.person,
        by=writer.name,
    )
    for n, data in enumerate(pieces):
        RecordRaw.objects.create(record=record, number=n, data=data)
    return record


def _as_before(guessed: RecordLayout, before: Record | None) -> RecordLayout:
    """The layout that somebody confirmed for this boat, where the file has the same heads."""
    if before is None:
        return guessed
    kept = RecordLayout.model_validate(before.layout)
    heads = [c.head for c in guessed.columns]
    if [c.head for c in kept.columns] == heads:
        return kept.model_copy(update={"head_row": guessed.head_row})
    return guessed.model_copy(update={"zone": kept.zone})


def _encoding(head: bytes) -> str:
    if head.startswith((codecs.BOM_UTF16_LE, codecs.BOM_UTF16_BE)):
        return "utf-16"
    try:
        codecs.getincrementaldecoder("utf-8")().decode(head)
    except UnicodeDecodeError:
        return "cp1252"
    return "utf-8-sig"


def _text(head: bytes, *, whole: bool) -> str:
    text = head.decode(_encoding(head), errors="replace")
    return text if whole else text.rpartition("\n")[0]


class _Raw(io.BufferedIOBase):
    """The pieces of a file as one stream."""

    def __init__(self, record: Record) -> None:
        numbers = record.raw.order_by("number").values_list("number", flat=True)
        self._record, self._numbers, self._left = record, iter(list(numbers)), b""
        self.read_bytes = 0

    def readable(self) -> bool:
        return True

    def read(self, size: int | None = -1, /) -> bytes:
        """So many bytes at most; nothing at the end."""
        if not self._left:
            number = next(self._numbers, None)
            if number is None:
                return b""
            packed = self._record.raw.values_list("data", flat=True).get(number=number)
            self._left = zlib.decompress(bytes(packed))
        size = len(self._left) if size is None or size < 0 else size
        part, self._left = self._left[:size], self._left[size:]
        self.read_bytes += len(part)
        return part

    read1 = read


def import_rows(record_id: str) -> None:
    """Read the rows of a file and keep them; done again at any time, it comes to the same."""
    record = Record.objects.select_related("job").filter(pk=record_id).first()
    if record is None or record.status not in (Status.WAITING, Status.RUNNING):
        return
    _set(record, status=Status.RUNNING, share=0.0)
    reader = RowReader(RecordLayout.model_validate(record.layout))
    try:
        _import(record, reader)
    except StoppedError:
        return
    except AWAY:
        raise  # the database is away: the queue takes it up again
    except StromError as error:
        _set(record, status=Status.FAILED, problem=str(error))
    except Exception:
        # Whatever it is, a file that cannot be read ends, and says so.
        _log.exception("records %s failed", record.pk)
        _set(record, status=Status.FAILED, problem=FAILED_WORDS)


def _import(record: Record, reader: RowReader) -> None:
    trace, doubled = in_order(list(_pieces(record, reader)))
    trace, known = without_known(record, trace)
    if not len(trace) and not known:
        raise TableError([*reader.problems[:20], Problem("", "no row of it could be read")])
    with transaction.atomic():
        record.blocks.all().delete()
        keep_trace(record, trace)
        record.raw.all().delete()
        _set(
            record,
            status=Status.DONE,
            share=1.0,
            rows=len(trace),
            bad=reader.bad,
            doubled=doubled + known,
            problems=[str(p) for p in sorted(reader.problems, key=_line)],
            notes=reader.notes,
            start_s=float(trace.at_s[0]) if len(trace) else None,
            end_s=float(trace.at_s[-1]) if len(trace) else None,
            problem="",
        )


def _line(problem: Problem) -> int:
    return int(problem.path.removeprefix("line ") or 0)


def _pieces(record: Record, reader: RowReader) -> Iterator[Piece]:
    raw = _Raw(record)
    first = record.raw.order_by("number").first()
    encoding = _encoding(zlib.decompress(bytes(first.data))[:HEAD_BYTES]) if first else "utf-8"
    # It reads as a buffer does, without being one of its own.
    lines = io.TextIOWrapper(cast(io.BufferedReader, raw), encoding, errors="replace")
    for piece in reader.pieces(lines):
        yield piece
        _progress(record, raw.read_bytes / max(record.size, 1))


def _progress(record: Record, share: float) -> None:
    """Tell how far it is; stop where somebody cancelled."""
    if share - record.share < 0.02:
        return
    record.share = share
    if Record.objects.filter(pk=record.pk, status=Status.CANCELLED).exists():
        raise StoppedError
    Record.objects.filter(pk=record.pk).update(share=share)


def _set(record: Record, **fields: object) -> None:
    Record.objects.filter(pk=record.pk).update(**fields)
