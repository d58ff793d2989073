"""Figures of parts in words: what a field is called, and a value with its unit or its choice."""

from __future__ import annotations

from functools import lru_cache

from strom_engine.design.figures import Figure, kind_sheets

__all__ = ["figure_of", "label_of", "value_words"]


@lru_cache(maxsize=1)
def _figures() -> dict[tuple[str, str], Figure]:
    return {(sheet.kind, f.name): f for sheet in kind_sheets() for f in sheet.figures}


def figure_of(kind: str, field: str) -> Figure | None:
    """What is known of a field of a kind; None for one that nobody is asked for."""
    return _figures().get((kind, field))


def label_of(kind: str, field: str) -> str:
    """What a field of a kind is called, in lower case as within a sentence."""
    figure = figure_of(kind, field)
    label = field.replace("_", " ") if figure is None else figure.label
    return label if label[:2].isupper() else label[:1].lower() + label[1:]


def value_words(kind: str, field: str, value: object) -> str:
    """A value of a field in words: with its unit, or what its choice is called."""
    figure = figure_of(kind, field)
    if value is None:
        return "unknown"
    if figure is not None:
        for choice in figure.choices:
            if choice.value == value and isinstance(choice.value, bool) == isinstance(value, bool):
                return choice.title
    if isinstance(value, bool):
        return "yes" if value else "no"
    if isinstance(value, int | float):
        unit = figure.unit if figure is not None and figure.unit != "0–1" else ""
        return f"{value:g} {unit}".rstrip()
    if isinstance(value, list | tuple):
        return f"{len(value)} entries"
    return str(value).replace("_", " ")[:40]
