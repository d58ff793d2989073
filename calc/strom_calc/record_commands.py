"""``calc record`` and ``calc records``: a simulated monitor, and what records say of a boat."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import datetime
from pathlib import Path

from strom_engine.dayrun import SchoolId, day_run
from strom_engine.design import Design
from strom_engine.errors import Problem, StromError, TableError
from strom_engine.faults import effects_of, fault_from_key
from strom_engine.interchange.record_layout import guess_layout
from strom_engine.interchange.record_rows import RowReader, dump_records, in_order
from strom_engine.records import Monitor, Shunted, held_against, recorded
from strom_engine.survey import Survey, surveyed

from strom_calc.day_command import DayAsked, plan_asked

__all__ = ["RecordAsked", "recorded_csv", "records_told"]

HEAD_BYTES = 200_000


@dataclass(frozen=True)
class RecordAsked:
    """Which day, on which bank the monitor is, how often it writes [s], when the day begins."""

    day: DayAsked
    bank: str
    every_s: float
    begins: str
    faults: tuple[str, ...]
    seed: int


def recorded_csv(drawn: Design, survey: Survey, asked: RecordAsked) -> str:
    """What a monitor on a bank writes of a plan, in the own format."""
    design = surveyed(drawn, survey)
    plan = plan_asked(design, asked.day)
    effects = effects_of(design, *(fault_from_key(design, key) for key in asked.faults))
    try:
        begins = datetime.fromisoformat(asked.begins)
    except ValueError:
        raise StromError(f"{asked.begins!r} is no moment, such as 2025-07-01T12:00Z") from None
    bank = Shunted(asked.bank).of(design)
    day = day_run(design, survey, plan, effects)
    monitor = Monitor(every_s=asked.every_s)
    return dump_records(recorded(day, bank, monitor, begins.timestamp(), asked.seed))


def records_told(
    drawn: Design, survey: Survey, path: Path, shunt: Shunted, school: SchoolId
) -> object:
    """What a file of records says of a boat, with what could not be read in it."""
    try:
        text = path.read_text(encoding="utf-8-sig", errors="replace")
    except OSError as error:
        raise StromError(f"{path}: {error.strerror}") from None
    guessed = guess_layout(text[:HEAD_BYTES])
    reader = RowReader(guessed.layout.model_copy(update={"zone": shunt.zone}))
    trace, doubled = in_order(list(reader.pieces(text.splitlines(keepends=True))))
    if not len(trace):
        raise TableError(reader.problems or [Problem("", "no row of it could be read")])
    return {
        "layout": guessed.layout,
        "assumed": guessed.assumed,
        "problems": reader.problems,
        "doubled": doubled,
        "held": held_against(surveyed(drawn, survey), survey, trace, shunt, school),
    }
