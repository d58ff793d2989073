"""Records of a survey that only ever grow: kept once, not again with every revision.

A revision's document is kept without these lists. A row of one is kept with the first revision
that has it, and with the last one once it is gone: so every revision is read as it was saved.
"""

from __future__ import annotations

from collections.abc import Iterable
from typing import Any

from django.db.models import Q

from apps.jobs.models import JobSurvey, SurveyRow

__all__ = ["ROW_LISTS", "keep_rows", "with_rows", "without_rows"]

# Readings of resting volts, days counted by a monitor, measurements of loads.
ROW_LISTS = ("resting", "counted", "measurements")
Document = dict[str, Any]  # Any: JSON data


def without_rows(document: Document) -> Document:
    """A survey as a revision keeps it."""
    return {name: value for name, value in document.items() if name not in ROW_LISTS}


def with_rows(survey: JobSurvey, number: int, document: Document) -> Document:
    """A revision's document with the rows that it has."""
    found: dict[str, list[Document]] = {name: [] for name in ROW_LISTS}
    standing = Q(last=None) | Q(last__gte=number)
    rows = survey.rows.filter(standing, first__lte=number).order_by("list", "place")
    for name, data in rows.values_list("list", "data"):
        found[name].append(data)
    return {**document, **found}


def keep_rows(survey: JobSurvey, number: int, document: Document) -> None:
    """Keep the rows of a revision that is being saved, and end those that it no longer has."""
    standing: dict[tuple[str, str], SurveyRow] = {
        (row.list, str(row.data.get("id"))): row for row in survey.rows.filter(last=None)
    }
    new: list[SurveyRow] = []
    for name in ROW_LISTS:
        new += _new_rows(survey, number, name, document.get(name) or (), standing)
    gone = [row.pk for row in standing.values()]
    survey.rows.filter(pk__in=gone).update(last=number - 1)
    SurveyRow.objects.bulk_create(new, batch_size=500)


def _new_rows(
    survey: JobSurvey,
    number: int,
    name: str,
    rows: Iterable[Document],
    standing: dict[tuple[str, str], SurveyRow],
) -> list[SurveyRow]:
    """Rows of a list that no row kept says; those that one says are taken out of ``standing``."""
    found: list[SurveyRow] = []
    most = max((row.place for row in standing.values() if row.list == name), default=0)
    before = 0
    for data in rows:
        key = (name, str(data.get("id")))
        kept = standing.get(key)
        stays = kept is not None and kept.place > before
        if kept is not None and stays and kept.data == data:
            del standing[key]
            before = kept.place
            continue
        # What takes the place of a row stands where that stood; all else goes to the end.
        if kept is not None and stays:
            before = kept.place
        else:
            most = before = most + 1
        found.append(SurveyRow(survey=survey, list=name, data=data, place=before, first=number))
    return found
