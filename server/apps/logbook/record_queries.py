"""Reads of records: files of a boat, a window as a chart, the own format."""

from __future__ import annotations

from uuid import UUID
from zoneinfo import available_timezones

from django.shortcuts import get_object_or_404
from strom_engine.design import Bank
from strom_engine.interchange.record_layout import FACTORS, TIME_FORMATS, RecordLayout
from strom_engine.interchange.record_rows import dump_records
from strom_engine.records import QUANTITIES

from apps.accounts.models import Workshop
from apps.jobs.documents import surveyed_design
from apps.jobs.models import Job, Variant
from apps.jobs.queue import Status
from apps.logbook.analysing import analysis_out
from apps.logbook.blocks import charted, trace_of
from apps.logbook.models import Record
from apps.logbook.schemas import ChartOut, RecordOut, RecordsOut, TargetOut

__all__ = ["chart_of", "get_record", "record_of", "record_out", "records_csv", "records_of"]


def get_record(workshop: Workshop, record_id: UUID) -> Record:
    """A file of records of this workshop, or 404."""
    records = Record.objects.select_related("job", "author")
    return get_object_or_404(
        records, pk=record_id, job__workshop=workshop, job__binned__isnull=True
    )


def record_of(variant: Variant, record_id: UUID) -> Record:
    """A file of records of the boat of a variant, or 404."""
    return get_object_or_404(variant.job.records.select_related("author"), pk=record_id)


def record_out(variant: Variant, record: Record) -> RecordOut:
    """A file of records with what it says of a variant."""
    bank = surveyed_design(variant).by_id.get(record.bank)
    shown = ("id", "name", "bank", "size", "sample", "assumed", "driven", "confirmed", "status",
             "problem", "share", "rows", "bad", "doubled", "problems", "notes", "start_s", "end_s",
             "created")  # fmt: skip
    return RecordOut(
        bank_name=bank.name if isinstance(bank, Bank) else record.bank,
        layout=RecordLayout.model_validate(record.layout),
        author=record.by or None,
        analysis=analysis_out(variant, record, record.analyses.filter(variant=variant).first()),
        **{name: getattr(record, name) for name in shown},
    )


def records_of(variant: Variant) -> RecordsOut:
    """Every file of records of the boat."""
    # A monitor usually has its shunt on a house bank: the screen begins with the first one.
    banks = sorted(surveyed_design(variant).of_type(Bank), key=lambda b: b.role != "house")
    return RecordsOut(
        revision=variant.head,
        variant=variant.pk,
        records=[record_out(variant, r) for r in variant.job.records.select_related("author")],
        banks=[TargetOut(id=b.id, name=b.name, sort="bank") for b in banks],
        units={quantity: list(units) for quantity, units in FACTORS.items()},
        time_formats=list(TIME_FORMATS),
        zones=sorted(available_timezones()),
    )


def chart_of(job: Job, bank: str, start_s: float | None, end_s: float | None) -> ChartOut:
    """A window of the records of a bank; all of them without ends."""
    records = list(job.records.filter(bank=bank, status=Status.DONE, rows__gt=0))
    starts = [r.start_s for r in records if r.start_s is not None]
    ends = [r.end_s for r in records if r.end_s is not None]
    low = min(starts, default=0.0) if start_s is None else start_s
    high = max(ends, default=low + 1) + 1 if end_s is None else end_s
    return ChartOut(
        start_s=low,
        end_s=high,
        units=QUANTITIES,
        columns=charted(records, low, high) if high > low else {},
    )


def records_csv(record: Record) -> str:
    """A file of records in the own format."""
    return dump_records(trace_of([record]))
