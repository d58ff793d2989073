"""Job endpoints: parse, permit, one action or query, schema out."""

from typing import Any
from uuid import UUID

from django.http import HttpRequest, HttpResponse
from ninja import Query, Router, Status
from pydantic import TypeAdapter
from strom_engine.circuit import bench
from strom_engine.design import State, landing_posts
from strom_engine.design.choices import CableEnd
from strom_engine.interchange import dump_job, job_schema, parse_job_text, spice_netlist

from apps.accounts.permissions import ANYONE, workshop_of, writer
from apps.jobs import actions, history, queries
from apps.jobs.documents import surveyed_design
from apps.jobs.downloads import attachment
from apps.jobs.job_files import job_file
from apps.jobs.job_schemas import JobIn, JobOut, JobsAsked, JobsOut, NewJobIn, TemplateIn
from apps.jobs.listing import jobs_asked
from apps.jobs.schemas import (
    BenchOut,
    ChangeIn,
    CopyIn,
    FindingsOut,
    FoundIn,
    LandingOut,
    PositionsOut,
    ProblemOut,
    RestoreIn,
    RevisionIn,
    RevisionOut,
    SchemeOut,
)

_LISTED = TypeAdapter(JobsOut)
router = Router(tags=["jobs"])
ERRORS: Any = {401: ProblemOut, 404: ProblemOut, 422: ProblemOut}  # Any: ninja's response map
WRITE: Any = ERRORS | {200: SchemeOut, 409: ProblemOut}
JOB_BODY = {"requestBody": {"required": True, "content": {"application/json": {"schema": {}}}}}


@router.get("/jobs", response=JobsOut)
def list_jobs(request: HttpRequest, asked: Query[JobsAsked]) -> HttpResponse:
    """A page of the workshop's jobs, of those in its archive, or of those in its bin."""
    listed = jobs_asked(workshop_of(request), asked)
    # Written as they are: they need not be looked through once more, field by field.
    return HttpResponse(_LISTED.dump_json(listed), content_type="application/json")


@router.post("/jobs", response=ERRORS | {200: JobOut})
def new_job(request: HttpRequest, payload: NewJobIn) -> JobOut:
    """Enter a boat from nothing."""
    made = actions.new_job(
        workshop_of(request), writer(request), payload.name, payload.kind, payload.switching
    )
    return queries.job_out(made)


@router.post(
    "/jobs/import", response=ERRORS | {200: JobOut, 413: ProblemOut}, openapi_extra=JOB_BODY
)
def import_job(request: HttpRequest) -> JobOut:
    """Bring in a job file; all of it, or nothing with every reason."""
    file = parse_job_text(request.body)
    return queries.job_out(actions.import_job(workshop_of(request), writer(request), file))


@router.get("/job-schema", response=dict[str, Any])
def schema(request: HttpRequest) -> dict[str, Any]:
    """JSON Schema of the job file."""
    return job_schema()


@router.get("/jobs/{job_id}", response=ERRORS | {200: JobOut})
def job(request: HttpRequest, job_id: UUID) -> JobOut:
    """One job."""
    return queries.job_out(queries.get_job(workshop_of(request), job_id))


@router.patch("/jobs/{job_id}", response=ERRORS | {200: JobOut})
def change_job(request: HttpRequest, job_id: UUID, payload: JobIn) -> JobOut:
    """Change name, state, owner or contact of a job, or put it away and take it out again."""
    found = queries.get_job(workshop_of(request), job_id)
    actions.change_job(found, payload)
    return queries.job_out(found)


@router.post("/jobs/{job_id}/template", response=ERRORS | {200: JobOut})
def template(request: HttpRequest, job_id: UUID, payload: TemplateIn) -> JobOut:
    """Another job that begins as this one stands, every figure assumed."""
    found = queries.get_job(workshop_of(request), job_id)
    return queries.job_out(actions.new_from(found, writer(request), payload.name))


@router.delete("/jobs/{job_id}", response=ERRORS | {204: None})
def bin_job(request: HttpRequest, job_id: UUID) -> Status[None]:
    """Put a job into the bin, from where it can be taken out again."""
    actions.bin_job(queries.get_job(workshop_of(request), job_id), binned=True)
    return Status(204, None)


@router.post("/jobs/{job_id}/unbin", response=ERRORS | {200: JobOut})
def unbin(request: HttpRequest, job_id: UUID) -> JobOut:
    """Take a job out of the bin."""
    found = queries.get_job(workshop_of(request), job_id, binned=True)
    actions.bin_job(found, binned=False)
    return queries.job_out(found)


@router.get("/jobs/{job_id}/export", response=ERRORS | {200: Any})
def export_job(request: HttpRequest, job_id: UUID) -> HttpResponse:
    """The job as a file."""
    found = queries.get_job(workshop_of(request), job_id)
    text = dump_job(job_file(found))
    return attachment(text, "application/json", f"{found.pk}.strom.json")


@router.get("/variants/{variant_id}/scheme", response=ERRORS | {200: SchemeOut})
def scheme(request: HttpRequest, variant_id: UUID) -> SchemeOut:
    """Design and drawings of a variant."""
    return queries.scheme_of(queries.get_variant(workshop_of(request), variant_id))


@router.get("/variants/{variant_id}/sketch.svg", response=ERRORS | {200: Any})
def sketch(request: HttpRequest, variant_id: UUID) -> HttpResponse:
    """A variant at the size of a stamp."""
    drawn = queries.sketch_of(queries.get_variant(workshop_of(request), variant_id))
    return HttpResponse(drawn, content_type="image/svg+xml")


@router.get("/variants/{variant_id}/findings", response=ERRORS | {200: FindingsOut})
def findings(request: HttpRequest, variant_id: UUID) -> FindingsOut:
    """Findings of a variant."""
    return queries.findings_of(queries.get_variant(workshop_of(request), variant_id))


@router.post("/variants/{variant_id}/bench", auth=ANYONE, response=ERRORS | {200: BenchOut})
def run_bench(request: HttpRequest, variant_id: UUID, payload: State) -> BenchOut:
    """Solve one state."""
    return queries.bench_of(queries.get_variant(workshop_of(request), variant_id), payload)


@router.post("/variants/{variant_id}/positions", auth=ANYONE, response=ERRORS | {200: PositionsOut})
def positions(request: HttpRequest, variant_id: UUID, payload: State) -> PositionsOut:
    """Every position of every switch, engine off and on."""
    return queries.positions_of(queries.get_variant(workshop_of(request), variant_id), payload)


@router.post("/variants/{variant_id}/netlist", auth=ANYONE, response=ERRORS | {200: str})
def netlist(request: HttpRequest, variant_id: UUID, payload: State) -> HttpResponse:
    """One state as a SPICE netlist, relays as their verdicts put them."""
    design = surveyed_design(queries.get_variant(workshop_of(request), variant_id))
    text = spice_netlist(design, payload, bench(design, payload).point.moved())
    return HttpResponse(text, content_type="text/plain; charset=utf-8")


@router.get("/variants/{variant_id}/landing", response=ERRORS | {200: LandingOut})
def landing(request: HttpRequest, variant_id: UUID, cable: str, end: CableEnd) -> LandingOut:
    """Posts where an end of a cable can land."""
    design = surveyed_design(queries.get_variant(workshop_of(request), variant_id))
    return LandingOut(posts=list(landing_posts(design, cable, end)))


@router.get("/variants/{variant_id}/revisions", response=ERRORS | {200: list[RevisionOut]})
def revisions(request: HttpRequest, variant_id: UUID) -> list[RevisionOut]:
    """The history of a variant."""
    return queries.history_of(queries.get_variant(workshop_of(request), variant_id))


@router.post("/variants/{variant_id}/changes", response=WRITE)
def change(request: HttpRequest, variant_id: UUID, payload: ChangeIn) -> SchemeOut:
    """Apply a named change."""
    variant = queries.get_variant(workshop_of(request), variant_id)
    history.change(variant, writer(request), payload.base_revision, payload.change)
    return queries.scheme_of(variant)


@router.post("/variants/{variant_id}/undo", response=WRITE)
def undo(request: HttpRequest, variant_id: UUID, payload: RevisionIn) -> SchemeOut:
    """Undo the newest change."""
    variant = queries.get_variant(workshop_of(request), variant_id)
    history.undo(variant, writer(request), payload.base_revision)
    return queries.scheme_of(variant)


@router.post("/variants/{variant_id}/redo", response=WRITE)
def redo(request: HttpRequest, variant_id: UUID, payload: RevisionIn) -> SchemeOut:
    """Redo what was undone."""
    variant = queries.get_variant(workshop_of(request), variant_id)
    history.redo(variant, writer(request), payload.base_revision)
    return queries.scheme_of(variant)


@router.post("/variants/{variant_id}/restore", response=WRITE)
def restore(request: HttpRequest, variant_id: UUID, payload: RestoreIn) -> SchemeOut:
    """Go back to a version."""
    variant = queries.get_variant(workshop_of(request), variant_id)
    history.restore(variant, writer(request), payload.base_revision, payload.revision)
    return queries.scheme_of(variant)


@router.post("/variants/{variant_id}/found", response=WRITE)
def found(request: HttpRequest, variant_id: UUID, payload: FoundIn) -> SchemeOut:
    """Put in a part found aboard, landed where it usually is."""
    variant = queries.get_variant(workshop_of(request), variant_id)
    actions.add_found_part(
        variant,
        writer(request),
        payload.base_revision,
        payload.kind,
        (payload.name, payload.place, payload.bank),
    )
    return queries.scheme_of(variant)


@router.post("/variants/{variant_id}/copy", response=ERRORS | {200: SchemeOut})
def copy(request: HttpRequest, variant_id: UUID, payload: CopyIn) -> SchemeOut:
    """A new variant that starts as this one stands."""
    variant = queries.get_variant(workshop_of(request), variant_id)
    made = actions.copy_variant(variant, writer(request), payload.name, payload.pattern)
    return queries.scheme_of(queries.get_variant(workshop_of(request), made.pk))
