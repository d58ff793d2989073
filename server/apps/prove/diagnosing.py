"""Diagnosis of a variant: all its readings together, the causes, and the next best reading."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import replace

from cachetools import LRUCache, cached
from strom_engine.prove import ProvingTest, Reading, as_tests, diagnosis, search_drafts

from apps.jobs.documents import surveyed_design
from apps.jobs.models import Variant
from apps.prove.models import ProveEntry
from apps.prove.queries import tests_of, today_of
from apps.prove.schemas import CauseOut, DiagnosisOut, MeaningOut, ReadingOut

__all__ = ["diagnosis_of", "search_of"]


def _key(variant: Variant) -> tuple[object, ...]:
    return (variant.pk, variant.head, variant.job.survey.head)


@cached(LRUCache(16), key=_key)
def search_of(variant: Variant) -> dict[str, ProvingTest]:
    """Readings to look for a fault with, by key."""
    design = surveyed_design(variant)
    return {t.key: t for t in as_tests(design, search_drafts(design))}


def diagnosis_of(variant: Variant) -> DiagnosisOut:
    """What may be wrong with a boat by every latest reading, and what to read next."""
    search = search_of(variant)
    # What flowed for a while is no moment that a cause could be held against.
    tests = [t for t in tests_of(variant) if t.probe is not None and not t.charged]
    known = {t.key: t for t in tests} | search
    entries = variant.prove_entries.filter(kind=ProveEntry.Kind.READING)
    latest = {e.target: e for e in entries if e.target in known}
    readings = [_reading(known[key], entry) for key, entry in latest.items()]
    taken = {(r.probe, r.state.model_dump_json()) for r in readings}
    left = [
        t
        for t in search.values()
        if t.probe and t.state and (t.probe, t.state.model_dump_json()) not in taken
    ]
    found = diagnosis(
        surveyed_design(variant),
        readings,
        [(t.probe, t.state, t.minutes) for t in left if t.probe and t.state],
        replace(today_of(variant), rest_v={}),  # rest volts are readings like the others
    )
    return DiagnosisOut.model_construct(
        revision=variant.head,
        variant=variant.pk,
        causes=[CauseOut(**vars(cause)) for cause in found.causes],
        next=None if found.next is None else left[found.next],
        gain_bit=found.gain_bit,
        means=[MeaningOut(words=words, value=value) for words, value in found.means],
        odd=list(found.odd),
        readings=list(_told(known, latest.values())),
    )


def _reading(test: ProvingTest, entry: ProveEntry) -> Reading:
    assert test.probe is not None and test.state is not None  # it is measured
    return Reading(test.probe, test.state, float(entry.value["value"]))


def _told(known: dict[str, ProvingTest], entries: Iterable[ProveEntry]) -> Iterable[ReadingOut]:
    for entry in sorted(entries, key=lambda e: e.at, reverse=True):
        test = known[entry.target]
        yield ReadingOut(
            key=entry.target,
            title=test.title,
            value=float(entry.value["value"]),
            unit=test.unit,
            at=entry.at,
        )
