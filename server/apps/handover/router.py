"""Endpoints of the stage Handover."""

from typing import Any, cast
from uuid import UUID

from django.http import HttpRequest, HttpResponse
from django.shortcuts import get_object_or_404
from ninja import Router, Status
from strom_engine.dayrun import SchoolId
from strom_engine.handover import Language

from apps.accounts.permissions import ANYONE, Writer, workshop_of, writer
from apps.days.plans import usual_school
from apps.handover import archive as archives
from apps.handover import drilling, owners, queries
from apps.handover.models import OwnerLink
from apps.handover.schemas import (
    DrillIn,
    DrillOut,
    HandoverEntriesIn,
    HandoverOut,
    HandoverPackIn,
    OwnerDrillIn,
    OwnerLinkIn,
    OwnerLinkMade,
    OwnerLinkOut,
    OwnerOut,
    OwnerReadingIn,
    OwnerResultsIn,
    PlayedOut,
    PlayIn,
    SheetIn,
)
from apps.jobs.job_schemas import JobOut
from apps.jobs.queries import get_variant, job_out
from apps.jobs.schemas import ProblemOut
from apps.prints.actions import ask_for
from apps.prints.answers import LATER, answered
from apps.prints.makers import Ask
from apps.prints.schemas import PrintOut, print_out

router = Router(tags=["handover"])
owner_auth = owners.OwnerAuth()
_ZIP: Any = {"schema": {"type": "string", "format": "binary"}}  # Any: a piece of the document
ZIP_BODY = {"requestBody": {"required": True, "content": {"application/zip": _ZIP}}}
ERRORS: Any = {401: ProblemOut, 404: ProblemOut, 422: ProblemOut}  # Any: ninja's response map
OPEN: Any = ERRORS | {429: ProblemOut}


@router.get(
    "/variants/{variant_id}/handover", response=ERRORS | {200: HandoverOut}, openapi_extra=LATER
)
def handover(
    request: HttpRequest,
    variant_id: UUID,
    school: SchoolId | None = None,
    language: Language = "en",
) -> HttpResponse:
    """The owner's sheet in words; handled as the first plan of the job unless told."""
    variant = get_variant(workshop_of(request), variant_id)
    return answered(queries.sheet_asked(variant, school or usual_school(variant), language))


@router.post(
    "/variants/{variant_id}/handover/sheet", auth=ANYONE, response=ERRORS | {200: PrintOut}
)
def sheet(request: HttpRequest, variant_id: UUID, payload: SheetIn) -> PrintOut:
    """Ask for the owner's sheet as PDF: a worker makes it."""
    variant = get_variant(workshop_of(request), variant_id)
    ask, made_from = payload.model_dump(), queries.made_from(variant)
    return print_out(ask_for(variant, "handover", ask, made_from, "owners-sheet"))


@router.post("/variants/{variant_id}/handover/pack", auth=ANYONE, response=ERRORS | {200: PrintOut})
def pack(request: HttpRequest, variant_id: UUID, payload: HandoverPackIn) -> PrintOut:
    """Ask for the handover pack as PDF: a worker makes it."""
    variant = get_variant(workshop_of(request), variant_id)
    ask = payload.model_dump()
    made_from = queries.pack_made_from(variant)
    return print_out(ask_for(variant, "handover_pack", ask, made_from, "handover-pack"))


@router.post("/variants/{variant_id}/archive", auth=ANYONE, response=ERRORS | {200: PrintOut})
def archive(request: HttpRequest, variant_id: UUID) -> PrintOut:
    """Ask for the whole job as a zip file, with the PDFs of this variant: a worker makes it."""
    variant = get_variant(workshop_of(request), variant_id)
    ask: Ask = {"origin": request.build_absolute_uri("/").rstrip("/")}
    return print_out(ask_for(variant, "archive", ask, queries.pack_made_from(variant), "archive"))


@router.post("/archives", response=ERRORS | {200: JobOut, 413: ProblemOut}, openapi_extra=ZIP_BODY)
def bring_in(request: HttpRequest) -> JobOut:
    """Bring a job in from its archive; all of it, or nothing with every reason."""
    job = archives.bring_in(workshop_of(request), writer(request), request.body)
    return job_out(job)


@router.post("/variants/{variant_id}/drill", auth=ANYONE, response=ERRORS | {200: PrintOut})
def ask_drill(request: HttpRequest, variant_id: UUID, payload: DrillIn) -> PrintOut:
    """Ask for scenes to practise: a worker runs the slip test and the fault sweep for them."""
    variant = get_variant(workshop_of(request), variant_id)
    return print_out(drilling.ask_scenes(variant, payload.school))


@router.get("/variants/{variant_id}/drill", response=ERRORS | {200: DrillOut})
def drill(
    request: HttpRequest, variant_id: UUID, school: SchoolId, language: Language = "en"
) -> DrillOut:
    """Scenes to practise, the due ones first; none while they are not computed."""
    variant = get_variant(workshop_of(request), variant_id)
    return drilling.drill_of(variant, school, language)


@router.post("/variants/{variant_id}/drill/play", auth=ANYONE, response=ERRORS | {200: PlayedOut})
def play(request: HttpRequest, variant_id: UUID, payload: PlayIn) -> PlayedOut:
    """A scene with the moves made so far, each answered by the computation."""
    variant = get_variant(workshop_of(request), variant_id)
    told = payload
    return drilling.play(variant, told.school, told.language, told.scene, told.moves)


@router.post("/variants/{variant_id}/handover/entries", response=ERRORS | {204: None})
def enter(request: HttpRequest, variant_id: UUID, payload: HandoverEntriesIn) -> Status[None]:
    """Keep how scenes went, and practice aboard; sent twice, they are kept once."""
    variant = get_variant(workshop_of(request), variant_id)
    owners.results(variant, writer(request), payload.entries)
    return Status(204, None)


@router.get("/variants/{variant_id}/owner-links", response=ERRORS | {200: list[OwnerLinkOut]})
def owner_links(request: HttpRequest, variant_id: UUID) -> list[OwnerLinkOut]:
    """Every link that was made for owners of this boat."""
    variant = get_variant(workshop_of(request), variant_id)
    return [owners.link_out(link) for link in OwnerLink.objects.filter(variant=variant)]


@router.post("/variants/{variant_id}/owner-links", response=ERRORS | {200: OwnerLinkMade})
def new_link(request: HttpRequest, variant_id: UUID, payload: OwnerLinkIn) -> OwnerLinkMade:
    """A link for an owner; its address is told this once."""
    variant = get_variant(workshop_of(request), variant_id)
    link, secret = owners.new_link(variant, writer(request), payload)
    address = request.build_absolute_uri(f"/owner#{secret}")
    return OwnerLinkMade(link=owners.link_out(link), address=address)


@router.delete("/owner-links/{link_id}", response=ERRORS | {204: None})
def revoke_link(request: HttpRequest, link_id: UUID) -> Status[None]:
    """Revoke a link: from now on it opens nothing."""
    links = OwnerLink.objects.filter(variant__job__workshop=workshop_of(request))
    owners.revoke(get_object_or_404(links, pk=link_id))
    return Status(204, None)


@router.get("/owner", auth=owner_auth, response=OPEN | {200: OwnerOut}, openapi_extra=LATER)
def owner(request: HttpRequest, language: Language | None = None) -> OwnerOut | HttpResponse:
    """What a link opens: the sheet, banks to read, scenes to practise."""
    return owners.opened(owners.link_of(request), language)


@router.post("/owner/drill", auth=owner_auth, response=OPEN | {204: None})
def owner_drill(request: HttpRequest) -> Status[None]:
    """Have the owner's scenes computed where they are not: the boat has changed since, say."""
    link = owners.link_of(request)
    drilling.ask_scenes(link.variant, cast(SchoolId, link.school))
    return Status(204, None)


@router.post("/owner/play", auth=owner_auth, response=OPEN | {200: PlayedOut})
def owner_play(request: HttpRequest, payload: OwnerDrillIn) -> PlayedOut:
    """A scene played by the owner."""
    link = owners.link_of(request)
    school = cast(SchoolId, link.school)
    return drilling.play(link.variant, school, payload.language, payload.scene, payload.moves)


@router.post("/owner/results", auth=owner_auth, response=OPEN | {204: None})
def owner_results(request: HttpRequest, payload: OwnerResultsIn) -> Status[None]:
    """How the owner's scenes went."""
    owners.results(owners.link_of(request).variant, Writer(signed=owners.OWNER), payload.entries)
    return Status(204, None)


@router.post("/owner/readings", auth=owner_auth, response=OPEN | {204: None})
def owner_reading(request: HttpRequest, payload: OwnerReadingIn) -> Status[None]:
    """Rest volts that the owner read: they go into the log of the boat."""
    owners.read(owners.link_of(request), payload)
    return Status(204, None)
