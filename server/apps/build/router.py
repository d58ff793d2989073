"""Endpoints of the stage Build."""

from typing import Any
from uuid import UUID

from django.http import HttpRequest, HttpResponse
from ninja import Router

from apps.accounts.permissions import ANYONE, workshop_of, writer
from apps.build import actions, queries
from apps.build.schemas import BuildOut, CutIn, EntriesIn, PackIn, PartsFileOut, PricesIn
from apps.jobs.downloads import CSV, attachment
from apps.jobs.queries import get_variant
from apps.jobs.schemas import ProblemOut
from apps.prints.actions import ask_for
from apps.prints.makers import Ask
from apps.prints.schemas import PrintOut, print_out

router = Router(tags=["build"])
ERRORS: Any = {401: ProblemOut, 404: ProblemOut, 422: ProblemOut}  # Any: ninja's response map
FILE_BODY = {
    "requestBody": {
        "required": True,
        "content": {"text/csv": {"schema": {"type": "string", "format": "binary"}}},
    }
}
XLSX = "application/vnd.openxmlformats-officedocument.spreadsheetml.sheet"


@router.get("/variants/{variant_id}/build", response=ERRORS | {200: BuildOut})
def build(request: HttpRequest, variant_id: UUID) -> BuildOut:
    """Work, parts, cuts, labels, steps with live maps, and what was entered."""
    return queries.build_of(get_variant(workshop_of(request), variant_id))


@router.post("/variants/{variant_id}/build/entries", response=ERRORS | {200: BuildOut})
def enter(request: HttpRequest, variant_id: UUID, payload: EntriesIn) -> BuildOut:
    """Keep ticks, receipts, lengths, notes or an order of steps; the same entry may come twice."""
    variant = get_variant(workshop_of(request), variant_id)
    actions.enter(variant, writer(request), payload.entries)
    return queries.build_of(variant)


@router.post("/variants/{variant_id}/build/cut", response=ERRORS | {200: BuildOut})
def cut(request: HttpRequest, variant_id: UUID, payload: CutIn) -> BuildOut:
    """Pieces are cut from a reel; what is left of it goes back to the stock."""
    workshop = workshop_of(request)
    actions.book_cut(get_variant(workshop, variant_id), writer(request), payload)
    return queries.build_of(get_variant(workshop, variant_id))


@router.post("/variants/{variant_id}/build/prices", response=ERRORS | {200: BuildOut})
def prices(request: HttpRequest, variant_id: UUID, payload: PricesIn) -> BuildOut:
    """Keep prices, what is in stock and notes of parts in the workshop's own list."""
    workshop = workshop_of(request)
    variant = get_variant(workshop, variant_id)
    actions.keep_prices(workshop, writer(request), payload.rows)
    return queries.build_of(get_variant(workshop, variant.pk))


@router.get("/variants/{variant_id}/build/parts.csv", response=ERRORS | {200: Any})
def parts_csv(request: HttpRequest, variant_id: UUID) -> HttpResponse:
    """The parts list as CSV."""
    text = queries.parts_csv(get_variant(workshop_of(request), variant_id))
    return attachment(text, CSV, "parts.csv")


@router.post(
    "/variants/{variant_id}/build/parts.csv",
    auth=ANYONE,
    response=ERRORS | {200: PartsFileOut, 413: ProblemOut},
    openapi_extra=FILE_BODY,
)
def read_parts(request: HttpRequest, variant_id: UUID) -> PartsFileOut:
    """Read prices and receipts from CSV or a workbook; nothing is saved."""
    return queries.read_parts_file(get_variant(workshop_of(request), variant_id), request.body)


@router.get("/variants/{variant_id}/build/parts.xlsx", response=ERRORS | {200: Any})
def parts_xlsx(request: HttpRequest, variant_id: UUID) -> HttpResponse:
    """The parts list as a workbook."""
    data = queries.parts_xlsx(get_variant(workshop_of(request), variant_id))
    return attachment(data, XLSX, "parts.xlsx")


@router.get("/variants/{variant_id}/build/labels.csv", response=ERRORS | {200: Any})
def labels_csv(request: HttpRequest, variant_id: UUID) -> HttpResponse:
    """Labels as CSV for a label printer."""
    text = queries.labels_csv(get_variant(workshop_of(request), variant_id))
    return attachment(text, CSV, "labels.csv")


@router.post("/variants/{variant_id}/build/pack", auth=ANYONE, response=ERRORS | {200: PrintOut})
def pack(request: HttpRequest, variant_id: UUID, payload: PackIn) -> PrintOut:
    """Ask for the build pack, or one sheet of it, as PDF: a worker makes it."""
    variant = get_variant(workshop_of(request), variant_id)
    ask: Ask = {"pack": payload.model_dump(), "origin": request.build_absolute_uri("/").rstrip("/")}
    name = f"build-{payload.sheet}"
    return print_out(ask_for(variant, "build", ask, queries.made_from(variant), name))
