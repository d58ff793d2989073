"""Endpoints of the stage Prove."""

from typing import Any
from uuid import UUID

from django.http import Http404, HttpRequest, HttpResponse
from ninja import Router
from strom_engine.prove import Instrument

from apps.accounts.permissions import ANYONE, workshop_of, writer
from apps.jobs.downloads import CSV, attachment
from apps.jobs.queries import get_variant
from apps.jobs.schemas import ProblemOut
from apps.prints.actions import ask_for
from apps.prints.answers import LATER, answer
from apps.prints.makers import Ask
from apps.prints.schemas import PrintOut, print_out
from apps.prove import actions, queries
from apps.prove.meter import read_meter
from apps.prove.schemas import (
    DiagnosisOut,
    MeterIn,
    MeterOut,
    MetersIn,
    ProveEntriesIn,
    ProveOut,
    RecordIn,
)

router = Router(tags=["prove"])
ERRORS: Any = {401: ProblemOut, 404: ProblemOut, 422: ProblemOut}  # Any: ninja's response map


@router.get("/variants/{variant_id}/prove", response=ERRORS | {200: ProveOut})
def prove(request: HttpRequest, variant_id: UUID) -> ProveOut:
    """Tests with ranges in working order, and how each stands."""
    return queries.prove_of(get_variant(workshop_of(request), variant_id))


@router.post("/variants/{variant_id}/prove/entries", response=ERRORS | {200: ProveOut})
def enter(request: HttpRequest, variant_id: UUID, payload: ProveEntriesIn) -> ProveOut:
    """Keep readings, looks, notes, waivers, what was found today; one may come twice."""
    variant = get_variant(workshop_of(request), variant_id)
    actions.enter(variant, writer(request), payload.entries)
    return queries.prove_of(variant)


@router.get(
    "/variants/{variant_id}/prove/diagnosis",
    response=ERRORS | {200: DiagnosisOut},
    openapi_extra=LATER,
)
def diagnosis(request: HttpRequest, variant_id: UUID, about: str = "") -> HttpResponse:
    """What may be wrong, by all readings or about one miss, and which reading tells most next."""
    variant = get_variant(workshop_of(request), variant_id)
    return answer(variant, "diagnosis", {"about": about[:80]}, queries.made_from(variant))


@router.post("/variants/{variant_id}/prove/meter", response=ERRORS | {200: MeterOut})
def meter(request: HttpRequest, variant_id: UUID, payload: MeterIn) -> MeterOut:
    """What the connected meter shows for a test; nothing is kept."""
    variant = get_variant(workshop_of(request), variant_id)
    known = {t.key: t for t in queries.tests_of(variant)} | queries.search_of(variant)
    test = known.get(payload.test)
    if test is None:
        raise Http404
    return read_meter(test)


@router.get("/variants/{variant_id}/prove/readings.csv", response=ERRORS | {200: Any})
def readings_csv(request: HttpRequest, variant_id: UUID) -> HttpResponse:
    """Readings as CSV."""
    text = queries.readings_csv(get_variant(workshop_of(request), variant_id))
    return attachment(text, CSV, "readings.csv")


@router.post("/variants/{variant_id}/prove/record", auth=ANYONE, response=ERRORS | {200: PrintOut})
def record(request: HttpRequest, variant_id: UUID, payload: RecordIn) -> PrintOut:
    """Ask for the proving record as PDF: a worker makes it."""
    variant = get_variant(workshop_of(request), variant_id)
    ask: Ask = payload.model_dump()
    return print_out(ask_for(variant, "proving", ask, queries.made_from(variant), "proving-record"))


@router.put("/meters", response=ERRORS | {200: list[Instrument]})
def meters(request: HttpRequest, payload: MetersIn) -> list[Instrument]:
    """Keep the meters of the workshop with their classes."""
    writer(request)
    workshop = workshop_of(request)
    actions.keep_meters(workshop, payload)
    return list(queries.meters_of(workshop))
