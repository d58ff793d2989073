"""Reads of the stage Prove: tests with ranges, how each stands, the record as CSV."""

from __future__ import annotations

from collections import Counter, defaultdict
from collections.abc import Iterable, Sequence
from threading import RLock
from typing import cast

from cachetools import LRUCache, cached
from django.conf import settings
from strom_engine.design import Bank
from strom_engine.interchange.sheet import write_sheet
from strom_engine.prove import (
    GROUPS,
    USUAL_INSTRUMENTS,
    Instrument,
    ProvingTest,
    Today,
    as_tests,
    judged,
    proving_tests,
    rest_key,
    search_drafts,
)
from strom_engine.reference import CONFIRM

from apps.accounts.models import Workshop
from apps.jobs.documents import surveyed_design
from apps.jobs.models import Variant
from apps.prove.models import Meters, ProveEntry
from apps.prove.schemas import (
    FIELDS,
    Answer,
    ProveEntryOut,
    ProveKind,
    ProveOut,
    TestState,
    TodayIn,
)

__all__ = [
    "made_from",
    "meters_of",
    "prove_of",
    "readings_csv",
    "search_of",
    "tests_of",
    "today_of",
]

NOT_SO: tuple[Answer, ...] = ("outside", "impossible", "no")
CSV_HEAD = (
    "test", "title", "unit", "low", "middle", "high", "read", "instrument", "answer", "why",
    "at", "author",
)  # fmt: skip


def meters_of(workshop: Workshop) -> tuple[Instrument, ...]:
    """The meters of a workshop, the best first; none of its own where it has entered none."""
    kept = Meters.objects.filter(workshop=workshop).first()
    return tuple(Instrument.model_validate(m) for m in kept.document) if kept else ()


def tests_of(variant: Variant) -> tuple[ProvingTest, ...]:
    """The tests of a variant, with ranges from what was entered today."""
    return _tests_after(variant, variant.prove_entries.all())


def today_of(variant: Variant) -> Today:
    """What was found today, rest volts among it."""
    return _today(variant, variant.prove_entries.all())


def _tests_after(variant: Variant, entries: Iterable[ProveEntry]) -> tuple[ProvingTest, ...]:
    today = _today(variant, entries)
    return _tests(variant, today, repr(today))


def _today(variant: Variant, entries: Iterable[ProveEntry]) -> Today:
    told, rest = TodayIn(), dict[str, float]()
    banks = {rest_key(b.id): b.id for b in surveyed_design(variant).of_type(Bank)}
    for entry in entries:
        if entry.kind == ProveEntry.Kind.TODAY:
            told = TodayIn.model_validate(entry.value)
        elif entry.kind == ProveEntry.Kind.READING and entry.target in banks:
            rest[banks[entry.target]] = float(entry.value["value"])
    return Today(told.temperature_c, rest, told.rested_h, meters_of(variant.job.workshop))


def _key(variant: Variant, today: Today, words: str) -> tuple[object, ...]:
    return (*_of_design(variant), words)


@cached(LRUCache(16), key=_key, lock=RLock())
def _tests(variant: Variant, today: Today, words: str) -> tuple[ProvingTest, ...]:
    return proving_tests(surveyed_design(variant), today)


def _of_design(variant: Variant) -> tuple[object, ...]:
    return (variant.pk, variant.head, variant.job.survey.head)


@cached(LRUCache(16), key=_of_design, lock=RLock())
def search_of(variant: Variant) -> dict[str, ProvingTest]:
    """Readings to look for a fault with, by key."""
    design = surveyed_design(variant)
    return {t.key: t for t in as_tests(design, search_drafts(design))}


def made_from(variant: Variant) -> list[object]:
    """All that a proving record is made from."""
    meters = [m.model_dump(mode="json") for m in meters_of(variant.job.workshop)]
    return [variant.head, variant.job.survey.head, variant.prove_entries.count(), meters]


def prove_of(variant: Variant) -> ProveOut:
    """The stage Prove: tests, how each stands after all entries, what comes next."""
    entries = list(variant.prove_entries.all())
    tests = _tests_after(variant, entries)
    known, search = {t.key: t for t in tests}, search_of(variant)
    system_v = float(surveyed_design(variant).system_v)
    told: dict[str, list[ProveEntryOut]] = defaultdict(list)
    lost, today = [], TodayIn()
    for entry in entries:
        out = _out(variant, entry, known.get(entry.target), system_v)
        if entry.kind == ProveEntry.Kind.TODAY:
            today = TodayIn.model_validate(entry.value)
        elif entry.target in known:
            told[entry.target].insert(0, out)
        elif entry.target not in search:
            lost.append(out)
    states = {key: TestState(answer=_answer(told[key]), entries=told[key]) for key in known}
    counts = Counter(state.answer for state in states.values())
    return ProveOut.model_construct(
        revision=variant.head,
        variant=variant.pk,
        tests=list(tests),
        states=states,
        counts=dict(counts),
        not_so=sum(counts[answer] for answer in NOT_SO),
        next=next((key for key, state in states.items() if state.answer == "open"), None),
        today=today,
        lost=lost,
        meters=list(meters_of(variant.job.workshop)),
        usual_meters=list(USUAL_INSTRUMENTS),
        live_meter=bool(settings.METER_URL),
        groups=dict(GROUPS),
        confirm=CONFIRM,
    )


def _out(
    variant: Variant, entry: ProveEntry, test: ProvingTest | None, system_v: float
) -> ProveEntryOut:
    verdict = None
    if entry.kind == ProveEntry.Kind.READING and test is not None and test.wanted is not None:
        verdict = judged(test, float(entry.value["value"]), system_v)
    field = FIELDS[entry.kind]
    shown = {field: entry.value} if field in ProveEntryOut.model_fields else {}
    return ProveEntryOut(
        id=entry.pk,
        kind=cast(ProveKind, entry.kind),
        target=entry.target,
        at=entry.at,
        revision=entry.revision,
        author=entry.by or None,
        outdated=entry.revision < variant.head,
        verdict=verdict,
        **shown,
    )


def _answer(entries: Sequence[ProveEntryOut]) -> Answer:
    """How a test stands by its entries, the latest first: notes answer nothing."""
    for entry in entries:
        if entry.kind == "waived":
            return "waived"
        if entry.verdict is not None:
            return entry.verdict.word
        if entry.seen is not None:
            return "yes" if entry.seen else "no"
    return "open"


def readings_csv(variant: Variant) -> str:
    """Every reading and look with its range, deviations and the untested among them."""
    out = prove_of(variant)
    rows = []
    for test in out.tests:
        state = out.states[test.key]
        plain: dict[str, object] = {"test": test.key, "title": test.title, "unit": test.unit}
        if test.wanted is not None:
            plain |= {k: round(getattr(test.wanted, k), 3) for k in ("low", "middle", "high")}
        if not state.entries:
            rows.append(plain | {"answer": state.answer})
        for entry in reversed(state.entries):
            rows.append(plain | _row(entry))
    search = search_of(variant)
    for read in variant.prove_entries.filter(target__in=search):
        test = search[read.target]
        plain = {"test": test.key, "title": test.title, "unit": test.unit}
        rows.append(plain | _row(_out(variant, read, None, 0.0)))
    return write_sheet(CSV_HEAD, rows)


def _row(entry: ProveEntryOut) -> dict[str, object]:
    seen = "" if entry.seen is None else "yes" if entry.seen else "no"
    answer = entry.verdict.word if entry.verdict else seen or entry.kind
    return {
        "read": entry.reading.value if entry.reading else None,
        "instrument": entry.reading.instrument if entry.reading else "",
        "answer": answer,
        "why": entry.verdict.why if entry.verdict else entry.text or "",
        "at": entry.at.isoformat(),
        "author": entry.author or "",
    }
