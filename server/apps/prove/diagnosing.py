"""Diagnosis of a variant: all its readings together, the causes, and the next best reading."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import replace

from strom_engine.prove import ProvingTest, Reading, diagnosis, judged

from apps.jobs.documents import surveyed_design
from apps.jobs.models import Variant
from apps.prints.makers import Ask
from apps.prove.models import ProveEntry
from apps.prove.queries import search_of, tests_of, today_of
from apps.prove.schemas import CauseOut, DiagnosisOut, MeaningOut, MissOut, ReadingOut

__all__ = ["made"]


def made(variant: Variant, ask: Ask) -> bytes:
    """The diagnosis of a boat as JSON; ``ask`` says what it is about."""
    return _diagnosis_of(variant, str(ask["about"])).model_dump_json().encode()


def _diagnosis_of(variant: Variant, about: str) -> DiagnosisOut:
    """What may be wrong with a boat by every latest reading, and what to read next.

    Args:
        variant: as built.
        about: the test whose miss is looked into. Other misses are left out then, and what was
            read in a search before it: two faults at once are parted so.
    """
    search = search_of(variant)
    # What flowed for a while is no moment that a cause could be held against.
    tests = [t for t in tests_of(variant) if t.probe is not None and not t.charged]
    known = {t.key: t for t in tests} | search
    entries = variant.prove_entries.filter(kind=ProveEntry.Kind.READING)
    latest = {e.target: e for e in entries if e.target in known}
    misses = [k for k, e in latest.items() if k not in search and _misses(variant, known[k], e)]
    if about in latest:
        left_out = {k for k in misses if k != about}
        left_out |= {k for k in latest if k in search and latest[k].at < latest[about].at}
        latest = {k: e for k, e in latest.items() if k not in left_out}
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
        found=found.found,
        causes=[CauseOut(**vars(cause)) for cause in found.causes],
        next=None if found.next is None else left[found.next],
        gain_bit=found.gain_bit,
        means=[MeaningOut(words=words, value=value) for words, value in found.means],
        odd=list(found.odd),
        readings=list(_told(known, latest.values())),
        misses=[MissOut(key=k, title=known[k].title) for k in misses],
        about=about if about in latest else "",
    )


def _misses(variant: Variant, test: ProvingTest, entry: ProveEntry) -> bool:
    """Whether a reading is not as it should be."""
    system_v = float(surveyed_design(variant).system_v)
    return judged(test, float(entry.value["value"]), system_v).misses


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
