"""Endpoints of the stage Handover."""

from typing import Any
from uuid import UUID

from django.http import HttpRequest
from ninja import Router
from strom_engine.dayrun import SchoolId
from strom_engine.handover import Language

from apps.accounts.permissions import workshop_of
from apps.days.plans import usual_school
from apps.handover import queries
from apps.handover.schemas import HandoverOut, SheetIn
from apps.jobs.queries import get_variant
from apps.jobs.schemas import ProblemOut
from apps.prints.actions import ask_for
from apps.prints.schemas import PrintOut, print_out

router = Router(tags=["handover"])
ERRORS: Any = {401: ProblemOut, 404: ProblemOut, 422: ProblemOut}  # Any: ninja's response map


@router.get("/variants/{variant_id}/handover", response=ERRORS | {200: HandoverOut})
def handover(
    request: HttpRequest,
    variant_id: UUID,
    school: SchoolId | None = None,
    language: Language = "en",
) -> HandoverOut:
    """The owner's sheet in words; handled as the first plan of the job unless told."""
    variant = get_variant(workshop_of(request), variant_id)
    return queries.handover_of(variant, school or usual_school(variant), language)


@router.post("/variants/{variant_id}/handover/sheet", response=ERRORS | {200: PrintOut})
def sheet(request: HttpRequest, variant_id: UUID, payload: SheetIn) -> PrintOut:
    """Ask for the owner's sheet as PDF: a worker makes it."""
    variant = get_variant(workshop_of(request), variant_id)
    made_from = [variant.head, variant.job.survey.head]
    return print_out(ask_for(variant, "handover", payload.model_dump(), made_from, "owners-sheet"))
