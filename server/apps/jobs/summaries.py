"""What a list of jobs shows of each: kept beside what it was made from, so that it is never stale.

A summary counts only while everything that it was made from is as it was: the revisions of design
and survey, the stock, the waivers, what other apps found, and the edition of the engine.
"""

from __future__ import annotations

import hashlib
import logging
from collections import Counter
from collections.abc import Callable, Iterable, Mapping
from dataclasses import dataclass
from uuid import UUID

from django.db.models import QuerySet
from strom_engine.edition import engine_edition
from strom_engine.errors import StromError
from strom_engine.rules import Finding
from strom_engine.rules.registry import ORDER

from apps.jobs.all_findings import all_findings
from apps.jobs.documents import document_at, surveyed_design
from apps.jobs.models import FindingsSummary, Job, JobCard, Variant, Waiver
from apps.jobs.sketches import gear_words, sketch

__all__ = [
    "FURTHER_KEYS",
    "Summary",
    "card_of",
    "counted",
    "further_keys",
    "kept_of",
    "key_of",
    "made_from",
    "standing_words",
    "summarise",
    "summary_of",
    "waived",
]

_log = logging.getLogger(__name__)
# What findings of other apps depend on, for many variants at once.
FURTHER_KEYS: list[Callable[[QuerySet[Variant]], Mapping[UUID, str]]] = []


def waived(waiver: Waiver, finding: Finding) -> bool:
    """Whether a waiver covers a finding: the same one, and no graver than when it was waived."""
    graver = ORDER.index(finding.severity) < ORDER.index(waiver.severity)
    return finding.key == waiver.finding and not graver


def further_keys(variants: QuerySet[Variant]) -> dict[UUID, str]:
    """What findings of other apps depend on, by variant; nothing where they depend on nothing."""
    found: dict[UUID, str] = {}
    for keys in FURTHER_KEYS:
        for variant, told in keys(variants).items():
            found[variant] = f"{found.get(variant, '')} {told}"
    return found


def made_from(revisions: tuple[int, int, int], standing: Iterable[str], further: str) -> str:
    """Everything that the findings of a variant come from, as one digest.

    ``revisions`` are those of design, survey and stock, ``standing`` the waivers that stand.
    """
    parts = (engine_edition(), *map(str, revisions), *sorted(standing), further)
    return hashlib.sha256("\0".join(parts).encode()).hexdigest()


def standing_words(waiver: UUID, severity: str) -> str:
    """A standing waiver as a part of what findings come from."""
    return f"{waiver} {severity}"


def key_of(variant: Variant) -> str:
    """What the findings of one variant come from, as it stands."""
    survey, workshop = variant.job.survey, variant.job.workshop
    standing = [standing_words(w.pk, w.severity) for w in variant.waivers.filter(ended=None)]
    further = further_keys(Variant.objects.filter(pk=variant.pk)).get(variant.pk, "")
    revisions = (variant.head, survey.head, workshop.stock_revision)
    return made_from(revisions, standing, further)


def counted(found: Iterable[Finding], waivers: Iterable[Waiver]) -> dict[str, int]:
    """Findings that nobody has waived, by severity."""
    standing = [w for w in waivers if w.ended is None]
    return dict(Counter(f.severity for f in found if not any(waived(w, f) for w in standing)))


@dataclass(frozen=True)
class Summary:
    """Findings by severity; ``problem`` says why there are none to count."""

    by_severity: Mapping[str, int]
    problem: str = ""

    @property
    def worst(self) -> str | None:
        """The gravest severity found."""
        return next((s for s in ORDER if self.by_severity.get(s)), None)


def summary_of(variant: Variant, key: str) -> Summary | None:
    """The summary that was kept of a variant as it stands; None where there is none."""
    kept = kept_of(variant, key)
    return None if kept is None else Summary(kept.by_severity, kept.problem)


def kept_of(variant: Variant, key: str) -> FindingsSummary | None:
    """What is kept of a variant as it stands, its gear and small drawing too."""
    return FindingsSummary.objects.filter(variant=variant, made_from=key).first()


def summarise(variant: Variant, key: str, found: list[Finding] | None = None) -> Summary:
    """Count the findings of a variant as it stands, and keep that. Whatever fails is said."""
    gear = drawn = ""
    try:
        design = surveyed_design(variant)
        gear, drawn = gear_words(design), sketch(design)
        if found is None:
            found = all_findings(variant)
        made = Summary(counted(found, variant.waivers.all()))
    except Exception as error:  # whatever it is, the other variants and jobs are shown
        _log.exception("variant %s cannot be computed", variant.pk)
        made = Summary({}, f"This variant {why(error)}")
    FindingsSummary.objects.update_or_create(
        variant=variant,
        defaults={
            "made_from": key,
            "by_severity": dict(made.by_severity),
            "problem": made.problem,
            "gear": gear,
            "sketch": drawn,
        },
    )
    return made


def card_of(job: Job) -> JobCard:
    """What a job's card says of its boat, kept beside the revision of the survey it was read of."""
    kept: JobCard | None = getattr(job, "card", None)
    if kept is not None and kept.survey_revision == job.survey.head:
        return kept
    try:
        survey = document_at(job.survey, job.survey.head)
        boat = survey.boat
        told = {
            "kind": boat.kind,
            "length_m": boat.length_m,
            "notes": survey.use.complaint or boat.notes,
        }
    except Exception as error:  # whatever it is, the other jobs are shown
        _log.exception("the survey of job %s cannot be read", job.pk)
        return JobCard(job=job, kind=f"Its survey {why(error)}", length_m=0.0, notes="")
    card, _ = JobCard.objects.update_or_create(
        job=job, defaults={**told, "survey_revision": job.survey.head}
    )
    return card


def why(error: Exception) -> str:
    """Why something cannot be shown, in words for people."""
    if isinstance(error, StromError):
        words = str(error)
        return words if words.startswith("cannot ") else f"cannot be computed: {words}"
    return "cannot be computed: the program failed on it, and the failure was noted"
