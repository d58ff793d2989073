"""Keeping a boat over the years: readings and their trends, service and when it is due."""

from strom_engine.upkeep.ageing import Ageing, ageing_of
from strom_engine.upkeep.readings import (
    READING_KINDS,
    Judgement,
    ReadingKind,
    ReadingKindId,
    judged_reading,
    reading_problem,
)
from strom_engine.upkeep.service import Due, ServiceTask, due_of, service_tasks

__all__ = [
    "READING_KINDS",
    "Ageing",
    "Due",
    "Judgement",
    "ReadingKind",
    "ReadingKindId",
    "ServiceTask",
    "ageing_of",
    "due_of",
    "judged_reading",
    "reading_problem",
    "service_tasks",
]
