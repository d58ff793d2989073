"""Service of a boat: what her gear asks for, and when each is due by date and engine hours."""

from __future__ import annotations

from calendar import monthrange
from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass
from datetime import date

from strom_engine.design import (
    Alternator,
    Bank,
    Charger,
    Component,
    Design,
    LoadGroup,
    Protection,
    Relay,
    Solar,
)
from strom_engine.reference import chemistry, load_table

__all__ = ["Due", "ServiceTask", "due_of", "service_tasks"]

SOON_DAYS, SOON_H = 30, 10.0
PUMPS = ("bilge", "pump")


@dataclass(frozen=True)
class ServiceTask:
    """Something to look at again and again: every so many months, or engine hours [h].

    ``key`` stays while the boat keeps the gear it is about.
    """

    key: str
    title: str
    parts: tuple[str, ...]
    months: int | None
    engine_h: float | None
    how: str
    caution: str
    source: str


@dataclass(frozen=True)
class Due:
    """When a task is due: the date, the engine hours, and how that stands today."""

    task: ServiceTask
    last: date | None
    last_engine_h: float | None
    on: date | None
    at_engine_h: float | None
    standing: str
    why: str


def service_tasks(design: Design) -> tuple[ServiceTask, ...]:
    """Every task that the gear of a boat asks for.

    Args:
        design: the boat as built, as surveyed.
    """
    table = load_table("service_intervals")
    found = []
    for row in table.rows:
        parts = tuple(p.id for p in design.components if _applies(row["applies"], p))
        if row["applies"] == "always":
            parts = tuple(b.id for b in design.of_type(Bank))
        elif not parts:
            continue
        found.append(
            ServiceTask(
                key=row["key"],
                title=row["title"],
                parts=parts,
                months=int(row["months"]) if row["months"] else None,
                engine_h=float(row["engine_h"]) if row["engine_h"] else None,
                how=row["how"],
                caution=row["caution"],
                source=table.citation,
            )
        )
    return tuple(found)


def _applies(to: str, part: Component) -> bool:
    match part:
        case Bank():
            kinds: list[str] = [chemistry(part.chemistry).family, part.role]
            kinds += ["flooded"] if part.chemistry.startswith("flooded") else []
            return to in kinds
        case Relay():
            return to == "relay"
        case Alternator():
            return to == "alternator"
        case Solar():
            return to == "solar"
        case Charger():
            return to == "charger"
        case Protection():
            return to == "lithium"
        case LoadGroup():
            names = " ".join(item.name.lower() for item in part.items)
            return to == "pump" and any(word in names for word in PUMPS)
        case _:
            return False


def due_of(
    tasks: Sequence[ServiceTask],
    done: Mapping[str, tuple[date, float | None]],
    engine_h: tuple[float | None, float | None],
    today: date,
    since: date,
) -> tuple[Due, ...]:
    """How every task stands, the most urgent first.

    Args:
        tasks: of the boat.
        done: when each was last done, and at how many engine hours [h].
        engine_h: of the engine, as first and as last read [h].
        today: the date.
        since: from when on a task that was never done counts; engine hours do from the first read.
    """
    found = list(_due(tasks, done, engine_h, today, since))
    order = {"overdue": 0, "soon": 1, "later": 2}
    return tuple(sorted(found, key=lambda d: (order[d.standing], d.on or date.max)))


def _due(
    tasks: Sequence[ServiceTask],
    done: Mapping[str, tuple[date, float | None]],
    engine_h: tuple[float | None, float | None],
    today: date,
    since: date,
) -> Iterator[Due]:
    first_h, now_h = engine_h
    for task in tasks:
        last, last_h = done.get(task.key, (None, None))
        on = _later(last or since, task.months) if task.months else None
        from_h = first_h if last_h is None else last_h
        at_h = None if task.engine_h is None or from_h is None else from_h + task.engine_h
        left_days = (on - today).days if on else None
        left_h = at_h - now_h if at_h is not None and now_h is not None else None
        why = []
        if left_days is not None:
            side = "left" if left_days >= 0 else "over"
            why.append(f"{abs(left_days)} days {side}")
        if left_h is not None:
            why.append(
                f"{left_h:.0f} engine hours left"
                if left_h >= 0
                else f"{-left_h:.0f} engine hours over"
            )
        over = (left_days is not None and left_days < 0) or (left_h is not None and left_h < 0)
        soon = (left_days is not None and left_days <= SOON_DAYS) or (
            left_h is not None and left_h <= SOON_H
        )
        standing = "overdue" if over else "soon" if soon else "later"
        yield Due(task, last, last_h, on, at_h, standing, "; ".join(why))


def _later(day: date, months: int) -> date:
    """The same day so many months later, or the last one of a shorter month."""
    year, month = divmod(day.month - 1 + months, 12)
    year += day.year
    return date(year, month + 1, min(day.day, monthrange(year, month + 1)[1]))
