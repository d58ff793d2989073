"""A job as one zip file: its job file, photographs, rows of records, and PDFs to be read.

``job.json`` is the job file; ``archive.json`` names photographs and records with what is known of
them; their bytes stand in ``photographs/`` and ``records/``. PDFs are made from the rest, and are
not read when the archive is brought in.
"""

from __future__ import annotations

import csv
import io
import json
import math
import zipfile
import zlib
from collections.abc import Iterator
from typing import Annotated, Any, Literal
from uuid import UUID, uuid4

import numpy as np
from django.conf import settings
from django.db import transaction
from ninja import Schema
from PIL import Image
from pydantic import Field, ValidationError
from strom_engine.design import Bank
from strom_engine.design.fields import EARLIEST, LATEST, Moment, Text
from strom_engine.design.validation import problems_from_pydantic
from strom_engine.errors import JobFileError, Problem
from strom_engine.interchange import dump_job, job_problems, parse_job_text
from strom_engine.interchange.record_layout import RecordLayout
from strom_engine.records import QUANTITIES, DrivenBy, Trace

from apps.accounts.models import Workshop
from apps.accounts.permissions import Writer
from apps.build.schemas import PackIn
from apps.days.plans import usual_school
from apps.handover.schemas import HandoverPackIn, SheetIn
from apps.jobs.job_files import Ids, job_file, save_job
from apps.jobs.models import Job, Variant
from apps.jobs.queue import Status
from apps.logbook.blocks import keep_trace, trace_of
from apps.logbook.importing import MOST_RECORDS
from apps.logbook.models import Record
from apps.prints.makers import Ask, maker
from apps.prove.schemas import RecordIn
from apps.surveys.photos import LONG_SIDE, MAX_PHOTOS

__all__ = ["bring_in", "documents", "made"]

MOST_JOB_BYTES, MOST_RECORD_BYTES = 40_000_000, 400_000_000
MOST_ROWS = 5_000_000
# Nothing in an archive but PDFs has a date of its own: the same job, the same bytes.
NO_DATE = (1980, 1, 1, 0, 0, 0)
FileName = Annotated[str, Field(pattern=r"^(photographs|records)/[A-Za-z0-9_.-]{1,80}$")]
Count = Annotated[int, Field(ge=0, le=1_000_000_000)]


class PhotoFile(Schema):
    """A photograph of the archive, and who took it in when."""

    id: UUID
    file: FileName
    caption: Annotated[str, Field(max_length=200)]
    by: Annotated[str, Field(max_length=150)]
    created: Moment


class RecordFile(Schema):
    """Rows of records of a bank; ``layout`` is how the file they came in was read."""

    file: FileName
    name: Annotated[str, Field(min_length=1, max_length=120)]
    bank: Annotated[str, Field(min_length=1, max_length=60)]
    digest: Annotated[str, Field(pattern=r"^[0-9a-f]{64}$")]
    size: Count
    layout: RecordLayout
    driven: DrivenBy
    bad: Count
    doubled: Count
    problems: Annotated[list[Text], Field(max_length=400)]
    notes: Annotated[list[Text], Field(max_length=400)]
    by: Annotated[str, Field(max_length=150)]
    created: Moment


class Contents(Schema):
    """What an archive holds beside the job file."""

    format: Literal["strom-archive"]
    version: Literal[1]
    photographs: Annotated[list[PhotoFile], Field(max_length=MAX_PHOTOS)]
    records: Annotated[list[RecordFile], Field(max_length=MOST_RECORDS)]


def made(variant: Variant, ask: Ask) -> bytes:
    """What a worker makes: the archive of a variant's job, with the pack of that variant."""
    out = io.BytesIO()
    with zipfile.ZipFile(out, "w", zipfile.ZIP_DEFLATED) as archive:
        for name, data in documents(variant.job):
            archive.writestr(zipfile.ZipInfo(name, NO_DATE), data, zipfile.ZIP_DEFLATED)
        for kind, name, told in _pdfs(variant, str(ask["origin"])):
            archive.writestr(f"pdf/{name}.pdf", maker(kind)(variant, told))
    return out.getvalue()


def _pdfs(variant: Variant, origin: str) -> Iterator[tuple[str, str, Ask]]:
    """Kind, name and what is asked for of every PDF in an archive."""
    sheet = SheetIn(school=usual_school(variant)).model_dump()
    yield "handover_pack", "handover-pack", HandoverPackIn(school=sheet["school"]).model_dump()
    yield "handover", "owners-sheet", sheet
    yield "build", "build-pack", {"pack": PackIn().model_dump(), "origin": origin}
    yield "proving", "proving-record", RecordIn().model_dump()


def documents(job: Job) -> Iterator[tuple[str, bytes]]:
    """Everything of a job that an archive brings back: names and bytes."""
    photos = list(job.photos.order_by("created", "pk"))
    records = list(job.records.filter(status=Status.DONE).order_by("created", "digest"))
    yield "job.json", dump_job(job_file(job)).encode()
    contents = Contents(
        format="strom-archive",
        version=1,
        photographs=[
            PhotoFile(id=p.pk, file=f"photographs/{p.pk}.jpg", caption=p.caption, by=p.by,
                      created=p.created)
            for p in photos
        ],
        records=[
            RecordFile.model_validate(
                {name: getattr(r, name) for name in RecordFile.model_fields if name != "file"}
                | {"file": f"records/{n:02}.csv"}
            )
            for n, r in enumerate(records, 1)
        ],
    )  # fmt: skip
    told = contents.model_dump(mode="json")
    yield "archive.json", json.dumps(told, indent=1, ensure_ascii=False).encode()
    for photo in photos:
        yield f"photographs/{photo.pk}.jpg", bytes(photo.image)
    for n, record in enumerate(records, 1):
        yield f"records/{n:02}.csv", _rows(trace_of([record]))


def _rows(trace: Trace) -> bytes:
    out = io.StringIO()
    names = [name for name in QUANTITIES if trace.has(name)]
    print("at_s", *names, sep=",", file=out)
    columns = [trace.at_s.tolist(), *(trace.columns[name].tolist() for name in names)]
    for row in zip(*columns, strict=True):
        print(*("" if math.isnan(v) else repr(v) for v in row), sep=",", file=out)
    return out.getvalue().encode()


def bring_in(workshop: Workshop, writer: Writer, data: bytes) -> Job:
    """Save a job with everything that its archive carries, or nothing.

    Raises JobFileError with what is wrong, by the file in the archive that it is wrong in.
    """
    try:
        archive = zipfile.ZipFile(io.BytesIO(data))
    except zipfile.BadZipFile as error:
        raise JobFileError([Problem("", f"not an archive that can be read: {error}")]) from None
    with archive:
        return _brought_in(workshop, writer, archive)


def _brought_in(workshop: Workshop, writer: Writer, archive: zipfile.ZipFile) -> Job:
    contents = _contents(archive)
    file = parse_job_text(_read(archive, "job.json", MOST_JOB_BYTES), MOST_JOB_BYTES)
    if wrong := job_problems(file):
        raise JobFileError(wrong)
    banks = {b.id for v in file.variants for b in v.design.of_type(Bank)}
    lost = [
        Problem(f"archive.json records[{n}].bank", f"there is no bank {r.bank!r}")
        for n, r in enumerate(contents.records)
        if r.bank not in banks
    ]
    if lost:
        raise JobFileError(lost)
    pictures = [_picture(archive, told.file) for told in contents.photographs]
    traces = [_trace(archive, told.file) for told in contents.records]

    def photographs(job: Job, ids: Ids) -> None:
        for told, (image, width, height) in zip(contents.photographs, pictures, strict=True):
            job.photos.create(
                id=ids.take(told.id), caption=told.caption, by=told.by, created=told.created,
                width=width, height=height, image=image,
            )  # fmt: skip

    told_ids = [p.id for p in contents.photographs]
    with transaction.atomic():
        job = save_job(workshop, writer, file, "Brought in from an archive", photographs, told_ids)
        for told_record, trace in zip(contents.records, traces, strict=True):
            _keep_record(job, told_record, trace)
    return job


def _keep_record(job: Job, told: RecordFile, trace: Trace) -> None:
    fields: dict[str, Any] = told.model_dump(mode="json", exclude={"file", "created"})  # Any: rows
    record = Record.objects.create(
        job=job, id=uuid4(),
        confirmed=True, status=Status.DONE, share=1.0, rows=len(trace), created=told.created,
        start_s=float(trace.at_s[0]), end_s=float(trace.at_s[-1]), **fields,
    )  # fmt: skip
    keep_trace(record, trace)


def _contents(archive: zipfile.ZipFile) -> Contents:
    try:
        return Contents.model_validate_json(_read(archive, "archive.json", MOST_JOB_BYTES))
    except ValidationError as error:
        found = problems_from_pydantic(error)
        wrong = [Problem(f"archive.json {p.path}".strip(), p.message) for p in found]
        raise JobFileError(wrong) from None


# Damaged, packed in a way that is not known here, or locked with a password.
_UNREADABLE = (zipfile.BadZipFile, zlib.error, EOFError, OSError, RuntimeError)


def _read(archive: zipfile.ZipFile, name: str, most: int) -> bytes:
    """A file of the archive; one that is longer than told, or not there, is refused."""
    try:
        with archive.open(name) as file:
            data = file.read(most + 1)
    except KeyError:
        raise JobFileError([Problem(name, "is missing in the archive")]) from None
    except _UNREADABLE as error:
        raise JobFileError([Problem(name, f"cannot be read: {error}")]) from None
    if len(data) > most:
        raise JobFileError([Problem(name, f"is larger than {most // 1_000_000} MB")])
    return data


def _picture(archive: zipfile.ZipFile, name: str) -> tuple[bytes, int, int]:
    """A photograph as it was kept: scaled, and with nothing of a camera in it."""
    data = _read(archive, name, settings.MAX_PHOTO_BYTES)
    try:
        with Image.open(io.BytesIO(data), formats=("JPEG",)) as picture:
            known = set(picture.info) <= {"jfif", "jfif_version", "jfif_unit", "jfif_density"}
            picture.load()
            size = picture.size
    except (OSError, SyntaxError, ValueError, Image.DecompressionBombError) as error:
        raise JobFileError([Problem(name, f"is no photograph: {error}")]) from None
    if not known or max(size) > LONG_SIDE:
        raise JobFileError([Problem(name, "is no photograph as an archive keeps them")])
    return data, *size


def _trace(archive: zipfile.ZipFile, name: str) -> Trace:
    text = io.StringIO(_read(archive, name, MOST_RECORD_BYTES).decode("utf-8", "replace"))
    reader = csv.reader(text)
    try:
        head = next(reader, [])
        known = head[:1] == ["at_s"] and set(head[1:]) <= set(QUANTITIES)
        if not known or len(set(head)) < len(head):
            raise JobFileError([Problem(name, "its first line names no columns of records")])
        rows = list(_numbers(name, reader, len(head)))
    except csv.Error as error:
        raise JobFileError([Problem(f"{name} line {reader.line_num}", str(error))]) from None
    table = np.array(rows, dtype=float).reshape(-1, len(head))
    at_s = table[:, 0]
    if not len(at_s) or not _in_order(at_s):
        raise JobFileError([Problem(name, "its moments are missing, or out of order")])
    return Trace(at_s, {column: table[:, n] for n, column in enumerate(head) if n})


def _in_order(at_s: Any) -> bool:  # Any: a column
    rising = np.isfinite(at_s).all() and (np.diff(at_s) > 0).all()
    return bool(rising and EARLIEST.timestamp() <= at_s[0] and at_s[-1] <= LATEST.timestamp())


def _numbers(name: str, reader: Iterator[list[str]], wide: int) -> Iterator[list[float]]:
    for line, row in enumerate(reader, 2):
        try:
            numbers = [float(cell) if cell else math.nan for cell in row]
        except ValueError:
            numbers = []
        if len(numbers) != wide or line > MOST_ROWS or any(map(math.isinf, numbers)):
            raise JobFileError([Problem(f"{name} line {line}", "is no row of numbers")])
        yield numbers
