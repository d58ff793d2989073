"""Rows found by the words that somebody types: each must stand somewhere."""

from __future__ import annotations

from collections.abc import Iterable

from django.db.models import Q

__all__ = ["said_in", "words_of"]

MOST_WORDS = 8


def words_of(typed: str) -> list[str]:
    """The words that are looked for."""
    return typed.split()[:MOST_WORDS]


def said_in(columns: Iterable[str], word: str) -> Q:
    """A word in any of these columns."""
    found = Q()
    for column in columns:
        found |= Q(**{f"{column}__icontains": word})
    return found
