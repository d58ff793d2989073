"""Everything that writes but changes of documents: new jobs, imports, copies, found parts."""

from __future__ import annotations

from uuid import UUID

from django.db import transaction
from django.shortcuts import get_object_or_404
from pydantic import ValidationError
from strom_engine.design import AddPart, SwapPart
from strom_engine.design.edits import gather_on_bus, insert_part, swap_part
from strom_engine.design.validation import problems_from_pydantic
from strom_engine.errors import ChangeError, Problem
from strom_engine.interchange import JobFile, VariantFile
from strom_engine.patterns import pattern_change, pattern_design, pattern_named
from strom_engine.runs import Stock
from strom_engine.survey import FoundKind, FoundSwitching, found_part, new_boat

from apps.accounts.models import User, Workshop
from apps.jobs import history
from apps.jobs.documents import head_design, head_survey
from apps.jobs.found import all_findings
from apps.jobs.models import Job, JobSurvey, KeptRevision, Variant, Waiver

__all__ = [
    "add_found_part",
    "apply_pattern",
    "copy_variant",
    "edit",
    "import_job",
    "new_job",
    "set_stock",
    "waive",
    "withdraw_waiver",
]

MAX_VARIANTS = 20


def import_job(workshop: Workshop, author: User | None, file: JobFile) -> Job:
    """Save a job with its survey and all its variants, or nothing."""
    return _save_job(workshop, author, file, "Brought in" if author else "Loaded")


def new_job(
    workshop: Workshop, author: User, name: str, kind: str, switching: FoundSwitching
) -> Job:
    """A boat entered from nothing, with usual figures of its kind, all marked as assumed."""
    survey, design = new_boat(kind, switching)
    as_found = VariantFile(name="As found", design=design)
    file = JobFile(name=name, survey=survey, variants=(as_found,))
    return _save_job(workshop, author, file, "Entered with usual figures")


def _save_job(workshop: Workshop, author: User | None, file: JobFile, words: str) -> Job:
    with transaction.atomic():
        job = Job.objects.create(workshop=workshop, name=file.name)
        history.begin(JobSurvey.objects.create(job=job), author, words, file.survey)
        for place, item in enumerate(file.variants):
            variant = Variant.objects.create(
                job=job, name=item.name, place=place, chosen=item.chosen
            )
            history.begin(variant, author, words, item.design)
    return job


def copy_variant(variant: Variant, author: User, name: str, pattern: str | None = None) -> Variant:
    """A new variant that starts as another one stands, or rewired as a pattern.

    Raises ChangeError.
    """
    with transaction.atomic():
        Job.objects.select_for_update().get(pk=variant.job_id)
        others = list(variant.job.variants.all())
        if any(other.name == name for other in others):
            text = f"there is already a variant {name!r}"
            raise ChangeError(text, (Problem("name", text),))
        if len(others) >= MAX_VARIANTS:
            raise ChangeError(f"a job holds {MAX_VARIANTS} variants at most")
        place = max(other.place for other in others) + 1
        made = Variant.objects.create(job=variant.job, name=name, place=place)
        design, words = head_design(variant), f"Copied from {variant.name}"
        if pattern is not None:
            chosen = pattern_named(pattern)
            design = pattern_design(design, chosen, head_survey(variant))
            words = f"{variant.name} rewired as: {chosen.name}"
        history.begin(made, author, words, design)
        variant.job.save(update_fields=["changed"])
    return made


def apply_pattern(variant: Variant, author: User, base: int, pattern: str) -> KeptRevision:
    """Rewire a variant as a pattern. Raises ChangeError where that does not fit."""
    named = pattern_change(head_design(variant), pattern_named(pattern), head_survey(variant))
    return history.change(variant, author, base, named.model_dump(mode="json"))


def edit(variant: Variant, author: User, base: int, what: str, at: str, kind: str) -> KeptRevision:
    """An edit worked out by the engine: insert, swap or gather. Raises ChangeError."""
    design = head_design(variant)
    named: AddPart | SwapPart
    if what == "insert":
        named = insert_part(design, at, kind)
    elif what == "swap":
        named = swap_part(design, at, kind)
    else:
        named = gather_on_bus(design, at, kind)
    return history.change(variant, author, base, named.model_dump(mode="json"))


def add_found_part(
    variant: Variant,
    author: User,
    base: int,
    kind: FoundKind,
    found: tuple[str, str | None, str | None],
) -> KeptRevision:
    """Put a part found aboard into a variant, landed where it usually is.

    ``found``: its name, its place, and the bank it lands on.
    """
    named = found_part(head_design(variant), kind, *found)
    return history.change(variant, author, base, named.model_dump(mode="json"))


def waive(variant: Variant, author: User, finding: str, reason: str) -> Waiver:
    """Waive a finding of a variant. Raises ChangeError for one that is not found there."""
    found = all_findings(variant)
    one = next((f for f in found if f.key == finding), None)
    if one is None:
        text = "this is not found in the variant as it stands"
        raise ChangeError(text, (Problem("finding", text),))
    made, _ = Waiver.objects.update_or_create(
        variant=variant,
        finding=finding,
        defaults={
            "rule": one.rule,
            "severity": one.severity,
            "title": one.title,
            "reason": reason,
            "author": author,
        },
    )
    return made


def withdraw_waiver(variant: Variant, waiver_id: UUID) -> None:
    """Take a waiver back, or 404."""
    get_object_or_404(variant.waivers, pk=waiver_id).delete()


def set_stock(workshop: Workshop, body: bytes) -> None:
    """Keep another stock. Raises ChangeError with every problem."""
    try:
        stock = Stock.model_validate_json(body)
    except ValidationError as error:
        problems = tuple(problems_from_pydantic(error))
        raise ChangeError(str(problems[0]), problems) from None
    workshop.stock = stock.model_dump(mode="json")
    workshop.save(update_fields=["stock"])
