"""Endpoints of the stage Log."""

from collections.abc import Iterator
from typing import Annotated, Any
from uuid import UUID

from django.http import HttpRequest, HttpResponse
from ninja import Router, Status
from pydantic import Field

from apps.accounts.permissions import ANYONE, workshop_of, writer
from apps.jobs.downloads import CSV, attachment
from apps.jobs.queries import get_job, get_variant
from apps.jobs.schemas import ProblemOut
from apps.logbook import actions, queries, record_queries
from apps.logbook.analysing import analysis_out
from apps.logbook.calendar_feed import calendar_of
from apps.logbook.importing import CHUNK, take_in
from apps.logbook.schemas import (
    AnalysisOut,
    BoatDue,
    CalendarOut,
    ChartOut,
    LogEntriesIn,
    LogOut,
    RecordOut,
    RecordsOut,
    RecordStart,
)

router = Router(tags=["log"])
ERRORS: Any = {401: ProblemOut, 404: ProblemOut, 422: ProblemOut}  # Any: ninja's response map
BINARY: Any = {
    "requestBody": {
        "required": True,
        "content": {"application/octet-stream": {"schema": {"type": "string", "format": "binary"}}},
    }
}
Name = Annotated[str, Field(max_length=120)]
Moment = Annotated[float, Field(ge=0, le=5e9, allow_inf_nan=False)]


@router.get("/variants/{variant_id}/log", response=ERRORS | {200: LogOut})
def log(request: HttpRequest, variant_id: UUID) -> LogOut:
    """Entries of the boat, trends, what is open, what is due."""
    return queries.log_of(get_variant(workshop_of(request), variant_id))


@router.post("/variants/{variant_id}/log/entries", response=ERRORS | {200: LogOut})
def enter(request: HttpRequest, variant_id: UUID, payload: LogEntriesIn) -> LogOut:
    """Keep readings, settings, faults, cures, notes, services; one may come twice."""
    variant = get_variant(workshop_of(request), variant_id)
    actions.enter(variant, writer(request), payload.entries)
    return queries.log_of(variant)


@router.get("/variants/{variant_id}/log/readings.csv", response=ERRORS | {200: Any})
def log_readings(request: HttpRequest, variant_id: UUID) -> HttpResponse:
    """Readings of the years as CSV."""
    text = queries.log_readings_csv(get_variant(workshop_of(request), variant_id))
    return attachment(text, CSV, "log-readings.csv")


@router.get("/variants/{variant_id}/records", response=ERRORS | {200: RecordsOut})
def records(request: HttpRequest, variant_id: UUID) -> RecordsOut:
    """Files of records of the boat, and what each says of this variant."""
    return record_queries.records_of(get_variant(workshop_of(request), variant_id))


@router.post(
    "/variants/{variant_id}/records",
    response=ERRORS | {200: RecordOut, 413: ProblemOut},
    openapi_extra=BINARY,
)
def take_records(
    request: HttpRequest, variant_id: UUID, record: UUID, bank: Name, name: Name = "Records"
) -> RecordOut:
    """Take a file in and guess how it is laid out: the body is the file."""
    variant = get_variant(workshop_of(request), variant_id)
    taken = take_in(variant.job, writer(request), record, (name, bank), _chunks(request))
    return record_queries.record_out(variant, taken)


def _chunks(request: HttpRequest) -> Iterator[bytes]:
    while chunk := request.read(CHUNK):
        yield chunk


@router.put("/variants/{variant_id}/records/{record_id}", response=ERRORS | {200: RecordOut})
def start_record(
    request: HttpRequest, variant_id: UUID, record_id: UUID, payload: RecordStart
) -> RecordOut:
    """Read the rows of a file as it is laid out."""
    variant = get_variant(workshop_of(request), variant_id)
    record = record_queries.record_of(variant, record_id)
    actions.start_reading(record, payload)
    return record_queries.record_out(variant, record)


@router.post("/records/{record_id}/cancel", response=ERRORS | {204: None})
def cancel_record(request: HttpRequest, record_id: UUID) -> Status[None]:
    """Stop the reading of a file."""
    actions.cancel(record_queries.get_record(workshop_of(request), record_id))
    return Status(204, None)


@router.delete("/records/{record_id}", response=ERRORS | {204: None})
def remove_record(request: HttpRequest, record_id: UUID) -> Status[None]:
    """Take a file of records out, with its rows."""
    record_queries.get_record(workshop_of(request), record_id).delete()
    return Status(204, None)


@router.get("/records/{record_id}/rows.csv", response=ERRORS | {200: Any})
def record_rows(request: HttpRequest, record_id: UUID) -> HttpResponse:
    """The rows of a file in the own format."""
    record = record_queries.get_record(workshop_of(request), record_id)
    return attachment(record_queries.records_csv(record), CSV, "records.csv")


@router.post(
    "/variants/{variant_id}/records/{record_id}/analysis",
    auth=ANYONE,
    response=ERRORS | {200: AnalysisOut},
)
def analyse_record(request: HttpRequest, variant_id: UUID, record_id: UUID) -> AnalysisOut:
    """Hold a file of records against a variant: a worker does it."""
    variant = get_variant(workshop_of(request), variant_id)
    record = record_queries.record_of(variant, record_id)
    return analysis_out(variant, record, actions.ask_analysis(variant, record))


@router.get("/jobs/{job_id}/records/chart", response=ERRORS | {200: ChartOut})
def chart(
    request: HttpRequest,
    job_id: UUID,
    bank: Name,
    start_s: Moment | None = None,
    end_s: Moment | None = None,
) -> ChartOut:
    """A window of the records of a bank in few points, no extreme lost."""
    return record_queries.chart_of(get_job(workshop_of(request), job_id), bank, start_s, end_s)


@router.get("/service/due", response=ERRORS | {200: list[BoatDue]})
def service_due(request: HttpRequest) -> list[BoatDue]:
    """What is overdue or due soon over all boats of the workshop."""
    return queries.due_over_boats(workshop_of(request))


@router.get("/service/calendar", response=ERRORS | {200: CalendarOut})
def calendar(request: HttpRequest) -> CalendarOut:
    """Whether a calendar address is out."""
    link = workshop_of(request).calendars.filter(ended=None).first()
    return CalendarOut(since=link.created if link else None)


@router.post("/service/calendar", response=ERRORS | {200: CalendarOut})
def new_calendar(request: HttpRequest) -> CalendarOut:
    """Make a new calendar address; the one before it ends."""
    writer(request)
    secret = actions.new_calendar(workshop_of(request))
    link = workshop_of(request).calendars.get(ended=None)
    address = request.build_absolute_uri(f"/api/calendar/{secret}.ics")
    return CalendarOut(since=link.created, address=address)


@router.delete("/service/calendar", response=ERRORS | {204: None})
def end_calendar(request: HttpRequest) -> Status[None]:
    """End the calendar address."""
    writer(request)
    actions.end_calendars(workshop_of(request))
    return Status(204, None)


@router.get("/calendar/{secret}.ics", auth=None, response={404: ProblemOut, 200: Any})
def calendar_file(request: HttpRequest, secret: str) -> HttpResponse:
    """The service that is due as a calendar, for whoever knows the address."""
    return HttpResponse(calendar_of(secret), content_type="text/calendar; charset=utf-8")
