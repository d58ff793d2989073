"""Reads of the stage Log: entries, trends, what is open, what is due."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Iterable, Iterator, Sequence
from datetime import date
from typing import cast

from django.utils import timezone
from strom_engine.design import Bank, Design
from strom_engine.design.parts.sources import ENGINES
from strom_engine.interchange.sheet import write_sheet
from strom_engine.reference import CONFIRM, chemistry
from strom_engine.sizing import bank_plan
from strom_engine.upkeep import (
    READING_KINDS,
    Ageing,
    Due,
    ReadingKind,
    ageing_of,
    due_of,
    judged_reading,
    service_tasks,
)

from apps.accounts.models import Workshop
from apps.jobs.documents import head_survey, surveyed_design
from apps.jobs.models import Job, Variant
from apps.logbook.models import LogEntry
from apps.logbook.schemas import (
    FIELDS,
    BoatDue,
    LogEntryOut,
    LogKind,
    LogOut,
    LogReadingIn,
    TargetOut,
    TrendOut,
    TrendPoint,
)

__all__ = ["due_on", "due_over_boats", "entries_of", "log_of", "log_readings_csv", "targets_of"]

KINDS: dict[str, ReadingKind] = {kind.id: kind for kind in READING_KINDS}
AGES = ("capacity_ah", "tested_cca_a")  # what falls with the years
CSV_HEAD = ("at", "on", "kind", "values", "unit", "rested_h", "mark", "why", "source", "author")


def entries_of(job: Job) -> list[LogEntry]:
    """Every entry of a boat, whichever variant it was made on, in order."""
    return list(LogEntry.objects.filter(variant__job=job))


def targets_of(design: Design) -> list[TargetOut]:
    """What can be read or set: banks, engines, devices."""
    found = [TargetOut(id=b.id, name=b.name, sort="bank") for b in design.of_type(Bank)]
    engines = {getattr(p, "engine", None) for p in design.components}
    found += [
        TargetOut(id=key, name=f"{words} engine" if len(engines & set(ENGINES)) > 1 else "Engine",
                  sort="engine")
        for key, words in ENGINES.items()
        if key in engines
    ]  # fmt: skip
    return found + [
        TargetOut(id=p.id, name=p.name, sort="device")
        for p in design.components
        if not isinstance(p, Bank) and (p in design.sources or p.moves_itself)
    ]


def log_of(variant: Variant) -> LogOut:
    """The log of a boat, its readings held against one variant."""
    design = surveyed_design(variant)
    targets = targets_of(design)
    names = {t.id: t.name for t in targets}
    entries = entries_of(variant.job)
    ended = {e.target: e for e in entries if e.kind == LogEntry.Kind.CURED}
    shown = [_out(design, e, names, ended.get(str(e.pk))) for e in _latest_faults(entries)]
    shown.sort(key=lambda e: e.at, reverse=True)
    return LogOut.model_construct(
        revision=variant.head,
        variant=variant.pk,
        targets=targets,
        kinds=list(READING_KINDS),
        entries=shown,
        trends=list(_trends(variant, design, shown)),
        open_settings=[e for e in shown if e.kind == "setting" and e.open],
        open_faults=[e for e in shown if e.kind == "fault" and e.open],
        engine_h=next(reversed(_engine_hours(entries)), None),
        due=list(_due(variant, entries)),
        confirm=CONFIRM,
    )


def _latest_faults(entries: Sequence[LogEntry]) -> Iterator[LogEntry]:
    """Entries, of each fault only what was said last, under the id and time of its first."""
    later = {e.target: e for e in entries if e.kind == LogEntry.Kind.FAULT}
    ids = {str(e.pk) for e in entries}
    for entry in entries:
        if entry.kind == LogEntry.Kind.FAULT and entry.target in ids:
            continue
        if entry.kind == LogEntry.Kind.FAULT and str(entry.pk) in later:
            entry.value = later[str(entry.pk)].value
        yield entry


def _out(
    design: Design, entry: LogEntry, names: dict[str, str], ended: LogEntry | None
) -> LogEntryOut:
    judgement = None
    if entry.kind == LogEntry.Kind.READING:
        told = LogReadingIn.model_validate(entry.value)
        judgement = judged_reading(design, entry.target, told.kind, told.values, told.rested_h)
    is_crutch = entry.kind == LogEntry.Kind.SETTING and entry.value.get("crutch", False)
    return LogEntryOut(
        id=entry.pk,
        kind=cast(LogKind, entry.kind),
        target=entry.target,
        target_name=names.get(entry.target, ""),
        at=entry.at,
        author=entry.by or None,
        judgement=judgement,
        open=(is_crutch or entry.kind == LogEntry.Kind.FAULT) and ended is None,
        ended=ended.at if ended else None,
        ended_words=str(ended.value) if ended else "",
        **{FIELDS[entry.kind]: entry.value},
    )


def _engine_hours(entries: Iterable[LogEntry]) -> list[float]:
    """Engine hours in the order in which they were read, beside a service too [h]."""
    found = []
    for entry in entries:
        if entry.kind == LogEntry.Kind.READING and entry.value["kind"] == "engine_h":
            found.append(float(entry.value["values"][0]))
        elif entry.kind == LogEntry.Kind.DONE and entry.value.get("engine_h") is not None:
            found.append(float(entry.value["engine_h"]))
    return found


def _trends(variant: Variant, design: Design, shown: Sequence[LogEntryOut]) -> Iterator[TrendOut]:
    by: dict[tuple[str, str], list[LogEntryOut]] = defaultdict(list)
    for entry in reversed(shown):
        if entry.reading is not None:
            by[entry.target, entry.reading.kind].append(entry)
    for (target, kind), entries in by.items():
        points = [
            TrendPoint(
                at_s=e.at.timestamp(),
                value=min(e.reading.values) if e.reading else 0.0,
                mark=e.judgement.mark if e.judgement else "unknown",
            )
            for e in entries
        ]
        latest = entries[-1].judgement
        assert latest is not None  # every reading is judged
        yield TrendOut(
            target=target,
            target_name=entries[-1].target_name,
            kind=KINDS[kind],
            points=points,
            low=latest.low,
            high=latest.high,
            latest=latest,
            ageing=_ageing(variant, design, target, KINDS[kind], points),
        )


def _ageing(
    variant: Variant, design: Design, target: str, kind: ReadingKind, points: Sequence[TrendPoint]
) -> Ageing | None:
    bank = design.by_id.get(target)
    if kind.id not in AGES or not isinstance(bank, Bank):
        return None
    need = _need_ah(variant, bank) if kind.id == "capacity_ah" else _need_a(variant, bank)
    told = [(p.at_s, p.value) for p in points]
    return ageing_of(told, timezone.now().timestamp(), need, kind.unit)


def _need_ah(variant: Variant, bank: Bank) -> float | None:
    """What the house bank must still hold [Ah]; None for another bank, or where nobody knows.

    As Banks says, but for what that adds so that the bank may age.
    """
    survey = head_survey(variant)
    plan = bank_plan(surveyed_design(variant), survey)
    if plan.house != bank.id or plan.counts is None:
        return None
    need = next((n for n in plan.needs if n.way == plan.counts), None)
    if need is None:
        return None
    return need.need_ah[chemistry(bank.chemistry).family] * (1 - survey.sizing.ageing)


def _need_a(variant: Variant, bank: Bank) -> float | None:
    """Cranking amps that a start needs on the coldest morning, of one battery [A]."""
    plan = bank_plan(surveyed_design(variant), head_survey(variant))
    check = next((s for s in plan.starts if s.bank == bank.id), None)
    return None if check is None else check.need_a / bank.parallel


def _due(variant: Variant, entries: Sequence[LogEntry]) -> tuple[Due, ...]:
    tasks = service_tasks(surveyed_design(variant))
    done = {
        e.target: (e.at.date(), e.value.get("engine_h"))
        for e in entries
        if e.kind == LogEntry.Kind.DONE
    }
    since = variant.job.created.date()
    hours = _engine_hours(entries)
    read = (hours[0], hours[-1]) if hours else (None, None)
    return due_of(tasks, done, read, timezone.localdate(), since)


def due_on(workshop: Workshop) -> Iterator[tuple[Job, Variant, Due]]:
    """Every task of every boat of a workshop, on the variant that counts."""
    jobs = Job.objects.filter(workshop=workshop, binned=None).select_related("survey", "workshop")
    entries: dict[object, list[LogEntry]] = defaultdict(list)
    for entry in LogEntry.objects.filter(variant__job__in=jobs).select_related("variant"):
        entries[entry.variant.job_id].append(entry)
    for job in jobs:
        # A boat that nobody has entered anything in the log of is not in the workshop's care.
        if not entries[job.pk]:
            continue
        variants = list(job.variants.all())
        variant = next((v for v in variants if v.chosen), variants[0])
        variant.job = job
        for due in _due(variant, entries[job.pk]):
            yield job, variant, due


def due_over_boats(workshop: Workshop) -> list[BoatDue]:
    """What is overdue or due soon over all boats, the most urgent first."""
    found = [
        BoatDue(
            job=job.pk,
            variant=variant.pk,
            boat=job.name,
            key=due.task.key,
            title=due.task.title,
            on=due.on,
            standing=due.standing,
            why=due.why,
        )
        for job, variant, due in due_on(workshop)
        if due.standing != "later"
    ]
    return sorted(found, key=lambda d: (d.standing != "overdue", d.on or date.max, d.boat))


def log_readings_csv(variant: Variant) -> str:
    """Every reading of the log as CSV."""
    rows = []
    for entry in reversed(log_of(variant).entries):
        if entry.reading is None or entry.judgement is None:
            continue
        rows.append(
            {
                "at": entry.at.isoformat(),
                "on": entry.target_name or entry.target,
                "kind": KINDS[entry.reading.kind].words,
                "values": " ".join(f"{v:g}" for v in entry.reading.values),
                "unit": KINDS[entry.reading.kind].unit,
                "rested_h": entry.reading.rested_h or None,
                "mark": entry.judgement.mark,
                "why": entry.judgement.why,
                "source": entry.reading.source,
                "author": entry.author or "",
            }
        )
    return write_sheet(CSV_HEAD, rows)
