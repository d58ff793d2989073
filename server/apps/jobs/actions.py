"""Everything that writes but changes of documents: new jobs, imports, copies, found parts."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from uuid import UUID

from django.db import transaction
from django.db.models import Max
from django.shortcuts import get_object_or_404
from django.utils import timezone
from strom_engine.design import AddPart, SwapPart
from strom_engine.design.edits import gather_on_bus, insert_part, swap_part
from strom_engine.errors import ChangeError, JobFileError, Problem
from strom_engine.interchange import (
    JobFile,
    VariantFile,
    as_template,
    job_problems,
    variant_problems,
)
from strom_engine.runs import Stock, default_stock, parse_stock
from strom_engine.survey import FoundSwitching, found_part, new_boat

from apps.accounts.models import Workshop
from apps.accounts.permissions import Writer
from apps.jobs import history
from apps.jobs.all_findings import all_findings
from apps.jobs.documents import head_design, head_survey, proposal_of
from apps.jobs.job_files import job_file, save_job
from apps.jobs.job_schemas import JobIn
from apps.jobs.models import Job, KeptRevision, Variant, Waiver
from apps.problems import ConflictError

__all__ = [
    "add_found_part",
    "apply_pattern",
    "bin_job",
    "change_job",
    "change_stock",
    "copy_variant",
    "edit",
    "import_job",
    "new_from",
    "new_job",
    "set_stock",
    "waive",
    "withdraw_waiver",
]

MAX_VARIANTS = 20


def import_job(workshop: Workshop, writer: Writer, file: JobFile) -> Job:
    """Save a job with its survey and all its variants, or nothing.

    Raises JobFileError for variants that could not be worked with.
    """
    problems = job_problems(file)
    if problems:
        raise JobFileError(problems)
    return save_job(workshop, writer, file, "Brought in" if writer.person else "Loaded")


def new_job(
    workshop: Workshop, writer: Writer, name: str, kind: str, switching: FoundSwitching
) -> Job:
    """A boat entered from nothing, with usual figures of its kind, all marked as assumed."""
    survey, design = new_boat(kind, switching)
    as_found = VariantFile(name="As found", design=design)
    file = JobFile(name=name, survey=survey, variants=(as_found,))
    return save_job(workshop, writer, file, "Entered with usual figures")


def copy_variant(
    variant: Variant, writer: Writer, name: str, pattern: str | None = None
) -> Variant:
    """A new variant that starts as another one stands, or rewired as a pattern.

    Raises ChangeError.
    """
    design, words = head_design(variant), f"Copied from {variant.name}"
    if pattern is not None:
        proposal = proposal_of(variant, pattern)
        design = proposal.design
        words = f"{variant.name} rewired as: {proposal.change.pattern}"
        problems = variant_problems(design, head_survey(variant), "pattern")
        if problems:
            raise ChangeError(problems[0].message, tuple(problems))
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
        history.begin(made, writer, words, design)
        variant.job.save(update_fields=["changed"])
    return made


def apply_pattern(variant: Variant, writer: Writer, base: int, pattern: str) -> KeptRevision:
    """Rewire a variant as a pattern, sized and protected. Raises ChangeError where it misfits."""
    return history.change(variant, writer, base, proposal_of(variant, pattern).change)


def edit(
    variant: Variant, writer: Writer, base: int, what: str, at: str, kind: str
) -> KeptRevision:
    """An edit worked out by the engine: insert, swap or gather. Raises ChangeError."""
    design = head_design(variant)
    named: AddPart | SwapPart
    if what == "insert":
        named = insert_part(design, at, kind)
    elif what == "swap":
        named = swap_part(design, at, kind)
    else:
        named = gather_on_bus(design, at, kind)
    return history.change(variant, writer, base, named)


def add_found_part(
    variant: Variant,
    writer: Writer,
    base: int,
    kind: str,
    found: tuple[str, str | None, str | None],
) -> KeptRevision:
    """Put a part found aboard into a variant, landed where it usually is.

    ``found``: its name, its place, and the bank it lands on.
    """
    named = found_part(head_design(variant), kind, *found)
    return history.change(variant, writer, base, named)


def waive(variant: Variant, writer: Writer, finding: str, reason: str, base: int = 0) -> Waiver:
    """Waive a finding of a variant, or give another reason for a waiver.

    ``base`` is the revision of the waiver that was looked at, 0 where there was none. Raises
    ChangeError for a finding that is not there, ConflictError where somebody was quicker.
    """
    found = all_findings(variant)
    one = next((f for f in found if f.key == finding), None)
    if one is None:
        text = "this is not found in the variant as it stands"
        raise ChangeError(text, (Problem("finding", text),))
    with transaction.atomic():
        Variant.objects.select_for_update().get(pk=variant.pk)
        _end_waiver(variant, finding, base)
        newest = variant.waivers.filter(finding=finding).aggregate(newest=Max("revision"))
        made: Waiver = variant.waivers.create(
            finding=finding,
            rule=one.rule,
            severity=one.severity,
            title=one.title,
            reason=reason,
            revision=(newest["newest"] or 0) + 1,
            author=writer.person,
            by=writer.name,
        )
    return made


def withdraw_waiver(variant: Variant, waiver_id: UUID) -> None:
    """Take a waiver back, or 404. Raises ConflictError for one that has ended meanwhile."""
    waiver = get_object_or_404(variant.waivers, pk=waiver_id)
    with transaction.atomic():
        Variant.objects.select_for_update().get(pk=variant.pk)
        _end_waiver(variant, waiver.finding, waiver.revision)


def _end_waiver(variant: Variant, finding: str, base: int) -> None:
    """End the waiver of a finding that stands now, which must be the one that was looked at."""
    standing = variant.waivers.filter(finding=finding, ended=None).first()
    if (standing.revision if standing else 0) != base:
        words = f"now it says: {standing.reason}" if standing else "it was withdrawn"
        raise ConflictError(f"This waiver was changed in between; {words}. Look at it first.")
    if standing is not None:
        standing.ended = timezone.now()
        standing.save(update_fields=["ended"])


def set_stock(workshop: Workshop, writer: Writer, base: int, stock: Stock | None) -> None:
    """Keep another stock; None is every usual size.

    Raises ConflictError where somebody was quicker.
    """
    document = None if stock is None else stock.model_dump(mode="json")
    with transaction.atomic():
        kept = Workshop.objects.select_for_update().get(pk=workshop.pk)
        if kept.stock_revision != base:
            raise ConflictError("The stock was changed in between: look at it, then change it.")
        if not kept.stocks.exists():
            kept.stocks.create(number=base, document=kept.stock)
        kept.stock, kept.stock_revision = document, base + 1
        kept.save(update_fields=["stock", "stock_revision"])
        kept.stocks.create(number=base + 1, document=document, author=writer.person)
    workshop.stock, workshop.stock_revision = kept.stock, kept.stock_revision


def change_stock(
    workshop: Workshop, writer: Writer, fields: Callable[[Stock], Mapping[str, object]]
) -> None:
    """Change some fields of the stock as it stands; a workshop without one begins with the usual.

    Raises StockError for what cannot be kept.
    """
    with transaction.atomic():
        kept = Workshop.objects.select_for_update().get(pk=workshop.pk)
        now = default_stock() if kept.stock is None else parse_stock(kept.stock)
        raw = now.model_dump(mode="json") | dict(fields(now))
        set_stock(kept, writer, kept.stock_revision, parse_stock(raw))
    workshop.refresh_from_db(fields=["stock", "stock_revision"])


def change_job(job: Job, told: JobIn) -> None:
    """Change what is kept of a job beside its survey; what is not told stays."""
    fields = told.model_dump(exclude_none=True, exclude={"archived"})
    for name, value in fields.items():
        setattr(job, name, value)
    if told.archived is not None:
        job.archived = timezone.now() if told.archived else None
        fields["archived"] = job.archived
    job.save(update_fields=[*fields, "changed"])


def new_from(job: Job, writer: Writer, name: str) -> Job:
    """Another job that begins as this one stands, every figure assumed until it is read aboard."""
    file = as_template(job_file(job), name)
    return save_job(job.workshop, writer, file, f"Begun as {job.name}")


def bin_job(job: Job, *, binned: bool) -> None:
    """Put a job into the bin, or take it out again."""
    job.binned = timezone.now() if binned else None
    job.save(update_fields=["binned"])
