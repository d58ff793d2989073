"""Endpoints of runs, repairs, waivers, the rule book and the workshop's stock."""

from typing import Any
from uuid import UUID

from django.http import HttpRequest, HttpResponse
from ninja import Router
from strom_engine.design import SetCables

from apps.accounts.permissions import ANYONE, workshop_of, writer
from apps.jobs import actions, history, queries
from apps.jobs.documents import computed_from
from apps.jobs.downloads import CSV, attachment
from apps.jobs.schemas import FindingsOut, ProblemOut
from apps.prints.answers import LATER, answer
from apps.runs import queries as runs_queries
from apps.runs.schemas import (
    CablesIn,
    CablesOut,
    ChoiceIn,
    ChosenOut,
    ReadRunsOut,
    RepairsIn,
    RepairsOut,
    RulesOut,
    RunsOut,
    StockIn,
    StockOut,
    WaiveIn,
    WhatIfIn,
    WhatIfOut,
)

router = Router(tags=["runs"])
ERRORS: Any = {401: ProblemOut, 404: ProblemOut, 422: ProblemOut}  # Any: ninja's response map
CLASH: Any = ERRORS | {200: FindingsOut, 409: ProblemOut}
CSV_BODY = {"requestBody": {"required": True, "content": {"text/csv": {"schema": {}}}}}


@router.get("/variants/{variant_id}/runs", response=ERRORS | {200: RunsOut})
def runs(request: HttpRequest, variant_id: UUID) -> RunsOut:
    """Every cable and device."""
    return runs_queries.runs_of(queries.get_variant(workshop_of(request), variant_id))


@router.post("/variants/{variant_id}/cables", response=ERRORS | {200: CablesOut, 409: ProblemOut})
def set_cables(request: HttpRequest, variant_id: UUID, payload: CablesIn) -> CablesOut:
    """Set figures of cables."""
    variant = queries.get_variant(workshop_of(request), variant_id)
    change = SetCables(rows=tuple(payload.rows))
    history.change(variant, writer(request), payload.base_revision, change)
    return runs_queries.cables_of(variant)


@router.post(
    "/variants/{variant_id}/runs/choice",
    auth=ANYONE,
    response=ERRORS | {200: ChosenOut},
    openapi_extra=LATER,
)
def choice(request: HttpRequest, variant_id: UUID, payload: ChoiceIn) -> HttpResponse:
    """Sizes and devices chosen from stock; nothing is saved."""
    variant = queries.get_variant(workshop_of(request), variant_id)
    runs_queries.check_cables(variant, payload.cables or [])
    return answer(variant, "choice", payload.model_dump(), computed_from(variant))


@router.post("/variants/{variant_id}/runs/what-if", auth=ANYONE, response=ERRORS | {200: WhatIfOut})
def what_if(request: HttpRequest, variant_id: UUID, payload: WhatIfIn) -> WhatIfOut:
    """A run with other figures; nothing is saved."""
    variant = queries.get_variant(workshop_of(request), variant_id)
    return runs_queries.what_if(variant, payload.rows)


@router.get("/variants/{variant_id}/runs.csv", response=ERRORS | {200: Any})
def export_runs(request: HttpRequest, variant_id: UUID) -> HttpResponse:
    """Every cable as CSV."""
    text = runs_queries.runs_csv(queries.get_variant(workshop_of(request), variant_id))
    return attachment(text, CSV, "runs.csv")


@router.post(
    "/variants/{variant_id}/runs.csv",
    auth=ANYONE,
    response=ERRORS | {200: ReadRunsOut, 413: ProblemOut},
    openapi_extra=CSV_BODY,
)
def read_runs(request: HttpRequest, variant_id: UUID) -> ReadRunsOut:
    """Read a table of cables; nothing is saved."""
    variant = queries.get_variant(workshop_of(request), variant_id)
    return runs_queries.read_runs_of(variant, request.body)


@router.post(
    "/variants/{variant_id}/repairs",
    auth=ANYONE,
    response=ERRORS | {200: RepairsOut},
    openapi_extra=LATER,
)
def repairs(request: HttpRequest, variant_id: UUID, payload: RepairsIn) -> HttpResponse:
    """Repairs that are safe to make at once; nothing is saved."""
    variant = queries.get_variant(workshop_of(request), variant_id)
    return answer(variant, "repairs", payload.model_dump(), computed_from(variant))


@router.post("/variants/{variant_id}/waivers", response=CLASH)
def waive(request: HttpRequest, variant_id: UUID, payload: WaiveIn) -> FindingsOut:
    """Waive a finding with a reason."""
    variant = queries.get_variant(workshop_of(request), variant_id)
    actions.waive(variant, writer(request), payload.finding, payload.reason, payload.base_revision)
    return queries.findings_of(variant)


@router.delete("/variants/{variant_id}/waivers/{waiver_id}", response=CLASH)
def withdraw(request: HttpRequest, variant_id: UUID, waiver_id: UUID) -> FindingsOut:
    """Withdraw a waiver: the finding counts again."""
    variant = queries.get_variant(workshop_of(request), variant_id)
    actions.withdraw_waiver(variant, waiver_id)
    return queries.findings_of(variant)


@router.get("/variants/{variant_id}/rules", response=ERRORS | {200: RulesOut})
def rules(request: HttpRequest, variant_id: UUID) -> RulesOut:
    """The rule book, with what each rule found here."""
    return runs_queries.rules_of(queries.get_variant(workshop_of(request), variant_id))


@router.get("/stock", response=ERRORS | {200: StockOut})
def stock(request: HttpRequest) -> StockOut:
    """What the workshop keeps."""
    return runs_queries.stock_out(workshop_of(request))


@router.put("/stock", response=ERRORS | {200: StockOut, 409: ProblemOut})
def set_stock(request: HttpRequest, payload: StockIn) -> StockOut:
    """Keep another stock; all of it, or nothing with every reason."""
    workshop = workshop_of(request)
    actions.set_stock(workshop, writer(request), payload.base_revision, payload.stock)
    return runs_queries.stock_out(workshop)
