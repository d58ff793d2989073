"""Endpoints of rewiring: edits, patterns with advice, comparison of variants."""

from typing import Any
from uuid import UUID

from django.http import HttpRequest, HttpResponse
from ninja import Query, Router
from strom_engine.advice import Wishes
from strom_engine.design import joinable_posts
from strom_engine.patterns import pattern_named

from apps.accounts.permissions import workshop_of, writer
from apps.jobs import actions, queries
from apps.jobs.documents import computed_from, surveyed_design
from apps.jobs.schemas import (
    AdviceOut,
    CompareOut,
    EditIn,
    EditsOut,
    LandingOut,
    PatternIn,
    PreviewOut,
    ProblemOut,
    SchemeOut,
)
from apps.prints.answers import LATER, answer
from apps.prints.makers import Ask
from apps.wiring import queries as wiring_queries

router = Router(tags=["wiring"])
ERRORS: Any = {401: ProblemOut, 404: ProblemOut, 422: ProblemOut}  # Any: ninja's response map
WRITE: Any = ERRORS | {200: SchemeOut, 409: ProblemOut}


@router.get("/variants/{variant_id}/edits", response=ERRORS | {200: EditsOut})
def edits(
    request: HttpRequest, variant_id: UUID, cable: str | None = None, part: str | None = None
) -> EditsOut:
    """What can be done with a cable or a part."""
    variant = queries.get_variant(workshop_of(request), variant_id)
    return wiring_queries.edits_of(variant, cable, part)


@router.get("/variants/{variant_id}/joinable", response=ERRORS | {200: LandingOut})
def joinable(request: HttpRequest, variant_id: UUID, post: str) -> LandingOut:
    """Posts that a new cable from a post can land on."""
    design = surveyed_design(queries.get_variant(workshop_of(request), variant_id))
    return LandingOut(posts=list(joinable_posts(design, post)))


@router.post("/variants/{variant_id}/edit", response=WRITE)
def edit(request: HttpRequest, variant_id: UUID, payload: EditIn) -> SchemeOut:
    """Put a part in, swap one, gather cables on a bus."""
    variant = queries.get_variant(workshop_of(request), variant_id)
    actions.edit(
        variant, writer(request), payload.base_revision, payload.edit, payload.at, payload.kind
    )
    return queries.scheme_of(variant)


@router.get(
    "/variants/{variant_id}/advice", response=ERRORS | {200: AdviceOut}, openapi_extra=LATER
)
def advice(request: HttpRequest, variant_id: UUID, wishes: Query[Wishes]) -> HttpResponse:
    """Patterns ranked for this boat, with reasons."""
    variant = queries.get_variant(workshop_of(request), variant_id)
    ask = wishes.model_dump(mode="json")
    return answer(variant, "advice", ask, computed_from(variant))


@router.get(
    "/variants/{variant_id}/patterns/{pattern}",
    response=ERRORS | {200: PreviewOut},
    openapi_extra=LATER,
)
def preview(request: HttpRequest, variant_id: UUID, pattern: str) -> HttpResponse:
    """What a pattern would make of a variant."""
    variant = queries.get_variant(workshop_of(request), variant_id)
    ask: Ask = {"pattern": pattern_named(pattern).id}
    return answer(variant, "preview", ask, computed_from(variant))


@router.post("/variants/{variant_id}/pattern", response=WRITE)
def apply_pattern(request: HttpRequest, variant_id: UUID, payload: PatternIn) -> SchemeOut:
    """Rewire a variant as a pattern."""
    variant = queries.get_variant(workshop_of(request), variant_id)
    actions.apply_pattern(variant, writer(request), payload.base_revision, payload.pattern)
    return queries.scheme_of(variant)


@router.get(
    "/variants/{variant_id}/compare/{other_id}",
    response=ERRORS | {200: CompareOut},
    openapi_extra=LATER,
)
def compare(request: HttpRequest, variant_id: UUID, other_id: UUID) -> HttpResponse:
    """Two variants of one job side by side."""
    variant = queries.get_variant(workshop_of(request), variant_id)
    other = queries.variant_of(variant.job, other_id)
    ask: Ask = {"other": str(other.pk)}
    return answer(variant, "comparison", ask, wiring_queries.compared_from(variant, other))
