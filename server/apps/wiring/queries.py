"""What can be done with the wiring of a variant, what patterns would make of it, comparisons."""

from __future__ import annotations

from collections.abc import Iterable
from uuid import UUID

from strom_engine.advice import Wishes, advise, compare
from strom_engine.advice.measures import CRUISING_RPM
from strom_engine.circuit import operating_point
from strom_engine.design import BusBar, Design, State
from strom_engine.design.differences import differences
from strom_engine.design.edits import before_switch, insert_kinds, swap_kinds
from strom_engine.design.parts import facts_of
from strom_engine.drawing import lay_out
from strom_engine.patterns import pattern_named
from strom_engine.rules import standing
from strom_engine.rules.finding import CONFIRM
from strom_engine.survey import surveyed

from apps.build.queries import book_of
from apps.build.queries import made_from as build_made_from
from apps.jobs.documents import head_design, head_survey, proposal_of, surveyed_design
from apps.jobs.models import Variant
from apps.jobs.queries import variant_of
from apps.jobs.schemas import (
    AdviceOut,
    ChoiceOut,
    CompareOut,
    EditsOut,
    LandingChoice,
    PostOut,
    PreviewOut,
)
from apps.prints.makers import Ask

__all__ = [
    "advice_made",
    "compared_from",
    "comparison_made",
    "edits_of",
    "preview_made",
]

GATHERS_FROM = 3  # cables on a post from which a bus is offered


def advice_made(variant: Variant, ask: Ask) -> bytes:
    """Patterns ranked for the boat of a variant."""
    wishes = Wishes.model_validate(ask)
    found, refused = advise(head_design(variant), head_survey(variant), wishes)
    out = AdviceOut(
        revision=variant.head, advice=list(found), refused=list(refused), confirm=CONFIRM
    )
    return out.model_dump_json().encode()


def preview_made(variant: Variant, ask: Ask) -> bytes:
    """A variant as a pattern would rewire it. Raises ChangeError where it does not fit."""
    pattern = pattern_named(str(ask["pattern"]))
    before = surveyed_design(variant)
    proposal = proposal_of(variant, pattern.id)
    after = surveyed(proposal.design, head_survey(variant))
    out = PreviewOut(
        revision=variant.head,
        pattern=pattern.id,
        name=pattern.name,
        design=after,
        positive=lay_out(after, "pos"),
        cable_names={c.id: after.cable_name(c) for c in after.cables},
        differences=list(differences(before, after)),
        point=operating_point(after, _cruising(after)),
        standing=standing(proposal.left),
        by_nature=list(proposal.by_nature),
        decided=list(proposal.decided),
    )
    return out.model_dump_json().encode()


def compared_from(first: Variant, second: Variant) -> list[object]:
    """What a comparison is made from, its costs among it, as JSON."""
    return [build_made_from(first), build_made_from(second)]


def comparison_made(first: Variant, ask: Ask) -> bytes:
    """Two variants of one job, compared."""
    second = variant_of(first.job, UUID(str(ask["other"])))
    survey = head_survey(first)
    found = compare(head_design(first), head_design(second), survey)
    designs = (surveyed_design(first), surveyed_design(second))
    points = [operating_point(design, _cruising(design)) for design in designs]
    as_found = first.job.variants.order_by("place").first()
    costs = [None if v == as_found else book_of(v).costs for v in (first, second)]
    out = CompareOut(first=first.pk, second=second.pk, comparison=found, points=points, costs=costs)
    return out.model_dump_json().encode()


def _cruising(design: Design) -> State:
    """The moment that patterns and comparisons are drawn at: under way with the usual loads on."""
    profile = design.profiles[0].id if design.profiles else None
    return State(engine="on", rpm=CRUISING_RPM, sun=0.4, profile=profile)


def edits_of(variant: Variant, cable: str | None, part: str | None) -> EditsOut:
    """What can be done with a cable or a part of a variant; nothing where it is not there."""
    design = surveyed_design(variant)
    found = EditsOut(revision=variant.head)
    if cable in design.cables_by_id:
        found.insert = _choices(insert_kinds(design, str(cable)))
        found.before_switch = [
            LandingChoice(end=end, post=post) for end, post in before_switch(design, str(cable))
        ]
    if part in design.by_id:
        found.swap = _choices(swap_kinds(design, str(part)))
        found.posts = _posts(design, str(part))
    return found


def _choices(kinds: Iterable[str]) -> list[ChoiceOut]:
    return [ChoiceOut(kind=kind, words=facts_of(kind).word) for kind in kinds]


def _posts(design: Design, part: str) -> list[PostOut]:
    found = []
    posts = design.by_id[part].posts()
    bar = isinstance(design.by_id[part], BusBar)
    for post in posts:
        stack = design.stack_on(f"{part}.{post}")
        if stack or not bar:
            gathers = len(stack) >= GATHERS_FROM and not bar
            found.append(PostOut(post=f"{part}.{post}", stack=list(stack), gathers=gathers))
    return found
