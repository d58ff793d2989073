"""Endpoints of Survey, Loads and Banks: parse, permit, one action or query, schema out."""

from typing import Annotated, Any, Literal
from uuid import UUID

from django.http import HttpRequest, HttpResponse
from django.utils.cache import get_conditional_response
from ninja import Router, Schema, Status
from pydantic import Field
from strom_engine.design.choices import SystemVolts
from strom_engine.sizing import Choices, GaugeReading, choices, read_gauge

from apps.accounts.permissions import ANYONE, member, workshop_of, writer
from apps.jobs import history, queries
from apps.jobs.downloads import CSV, attachment
from apps.jobs.schemas import ProblemOut, RestoreIn, RevisionIn, RevisionOut, SurveyChangeIn
from apps.surveys import photos
from apps.surveys import queries as survey_queries
from apps.surveys.schemas import (
    BanksOut,
    Caption,
    CaptionIn,
    CrankingOut,
    GaugeIn,
    LoadsOut,
    PhotoOut,
    RowsOut,
    SurveyedOut,
    SurveyOut,
)

router = Router(tags=["survey"])
ERRORS: Any = {401: ProblemOut, 404: ProblemOut, 422: ProblemOut}  # Any: ninja's response map
WRITE: Any = ERRORS | {200: SurveyOut, 409: ProblemOut}
LARGE: Any = ERRORS | {413: ProblemOut}
Rows = Literal["items", "counted"]


def _body(kind: str) -> dict[str, Any]:  # Any: a piece of the OpenAPI document
    content = {kind: {"schema": {"type": "string", "format": "binary"}}}
    return {"requestBody": {"required": True, "content": content}}


def _as_it_is(out: Schema) -> HttpResponse:
    """An answer that is of its schema already, sent without being checked a second time."""
    return HttpResponse(out.model_dump_json(), content_type="application/json")


@router.get("/choices", response=Choices)
def what_can_be_picked(request: HttpRequest) -> Choices:
    """Kinds of boats, typical loads, batteries, curves, sizes: what can be picked."""
    return choices()


@router.post("/gauge-reading", auth=ANYONE, response=ERRORS | {200: GaugeReading})
def gauge_reading(request: HttpRequest, payload: GaugeIn) -> GaugeReading:
    """The size of a cable whose print has faded."""
    return read_gauge(**payload.model_dump())


@router.get("/cranking", response=ERRORS | {200: CrankingOut})
def cranking(
    request: HttpRequest,
    power_kw: Annotated[float, Field(gt=0, le=1000, allow_inf_nan=False)],
    system_v: SystemVolts = 12,
) -> CrankingOut:
    """Cranking amps from the power on the starter's plate."""
    return survey_queries.cranking(power_kw, system_v)


@router.get("/jobs/{job_id}/survey", response=ERRORS | {200: SurveyOut})
def survey(request: HttpRequest, job_id: UUID) -> SurveyOut:
    """The survey of a job."""
    return survey_queries.survey_of(queries.get_job(workshop_of(request), job_id))


@router.get("/jobs/{job_id}/survey/revisions", response=ERRORS | {200: list[RevisionOut]})
def revisions(request: HttpRequest, job_id: UUID) -> list[RevisionOut]:
    """The history of a survey."""
    return queries.history_of(queries.get_job(workshop_of(request), job_id).survey)


@router.post("/jobs/{job_id}/survey/changes", response=WRITE)
def change(request: HttpRequest, job_id: UUID, payload: SurveyChangeIn) -> HttpResponse:
    """Apply a named change to the survey."""
    job = queries.get_job(workshop_of(request), job_id)
    variant = queries.variant_of(job, payload.loads_of) if payload.loads_of else None
    history.change(job.survey, writer(request), payload.base_revision, payload.change)
    return _as_it_is(survey_queries.survey_of(job, variant))


@router.post("/jobs/{job_id}/survey/undo", response=WRITE)
def undo(request: HttpRequest, job_id: UUID, payload: RevisionIn) -> SurveyOut:
    """Undo the newest change of the survey."""
    job = queries.get_job(workshop_of(request), job_id)
    history.undo(job.survey, writer(request), payload.base_revision)
    return survey_queries.survey_of(job)


@router.post("/jobs/{job_id}/survey/redo", response=WRITE)
def redo(request: HttpRequest, job_id: UUID, payload: RevisionIn) -> SurveyOut:
    """Redo what was undone."""
    job = queries.get_job(workshop_of(request), job_id)
    history.redo(job.survey, writer(request), payload.base_revision)
    return survey_queries.survey_of(job)


@router.post("/jobs/{job_id}/survey/restore", response=WRITE)
def restore(request: HttpRequest, job_id: UUID, payload: RestoreIn) -> SurveyOut:
    """Go back to a version of the survey."""
    job = queries.get_job(workshop_of(request), job_id)
    history.restore(job.survey, writer(request), payload.base_revision, payload.revision)
    return survey_queries.survey_of(job)


@router.post(
    "/jobs/{job_id}/rows/{which}",
    auth=ANYONE,
    response=LARGE | {200: RowsOut},
    openapi_extra=_body("text/csv"),
)
def read_rows(request: HttpRequest, job_id: UUID, which: Rows) -> RowsOut:
    """Read a table of loads or counted days; nothing is saved."""
    job = queries.get_job(workshop_of(request), job_id)
    return survey_queries.rows_from(job, which, request.body)


@router.get("/jobs/{job_id}/rows/{which}", response=ERRORS | {200: Any})
def export_rows(request: HttpRequest, job_id: UUID, which: Rows) -> HttpResponse:
    """Loads or counted days as CSV."""
    text = survey_queries.rows_csv(queries.get_job(workshop_of(request), job_id), which)
    name = "loads" if which == "items" else "counted-days"
    return attachment(text, CSV, f"{name}.csv")


@router.get("/variants/{variant_id}/surveyed", response=ERRORS | {200: SurveyedOut})
def surveyed(request: HttpRequest, variant_id: UUID) -> SurveyedOut:
    """What to find out, and charge from resting volts."""
    return survey_queries.surveyed_of(queries.get_variant(workshop_of(request), variant_id))


@router.get("/variants/{variant_id}/loads", response=ERRORS | {200: LoadsOut})
def loads(request: HttpRequest, variant_id: UUID) -> HttpResponse:
    """The audit and the counted way."""
    found = survey_queries.loads_of(queries.get_variant(workshop_of(request), variant_id))
    return _as_it_is(found)


@router.get("/variants/{variant_id}/banks", response=ERRORS | {200: BanksOut})
def banks(request: HttpRequest, variant_id: UUID) -> BanksOut:
    """Yields, needs, candidates and the start bank."""
    return survey_queries.banks_of(queries.get_variant(workshop_of(request), variant_id))


@router.get("/jobs/{job_id}/photos", response=ERRORS | {200: list[PhotoOut]})
def list_photos(request: HttpRequest, job_id: UUID) -> list[PhotoOut]:
    """Photographs of a job."""
    return photos.photos_of(queries.get_job(workshop_of(request), job_id))


@router.post(
    "/jobs/{job_id}/photos",
    response=LARGE | {200: PhotoOut},
    openapi_extra=_body("application/octet-stream"),
)
def add_photo(
    request: HttpRequest,
    job_id: UUID,
    caption: Caption = "",
    photo: UUID | None = None,
) -> PhotoOut:
    """Keep a photograph: the body is the picture; with an id of its device it may come twice."""
    job = queries.get_job(workshop_of(request), job_id)
    made = photos.add_photo(job, member(request), request.body, caption, photo)
    return photos.photo_out(made)


@router.get("/photos/{photo_id}", response=ERRORS | {200: Any})
def photo(request: HttpRequest, photo_id: UUID) -> HttpResponse:
    """A photograph's picture."""
    found = photos.get_photo(workshop_of(request), photo_id)
    # A picture never changes, but who may see it does: it is asked for anew each time.
    tag = f'"{found.pk}"'
    picture = HttpResponse(bytes(found.image), content_type="image/jpeg")
    response = get_conditional_response(request, etag=tag, response=picture) or picture
    response["ETag"], response["Cache-Control"] = tag, "private, no-cache"
    return response


@router.put("/photos/{photo_id}", response=ERRORS | {200: PhotoOut})
def caption_photo(request: HttpRequest, photo_id: UUID, payload: CaptionIn) -> PhotoOut:
    """Put other words under a photograph."""
    found = photos.get_photo(workshop_of(request), photo_id)
    found.caption = payload.caption
    found.save(update_fields=["caption"])
    return photos.photo_out(found)


@router.delete("/photos/{photo_id}", response=ERRORS | {204: None})
def remove_photo(request: HttpRequest, photo_id: UUID) -> Status[None]:
    """Take a photograph out."""
    photos.get_photo(workshop_of(request), photo_id).delete()
    return Status(204, None)
