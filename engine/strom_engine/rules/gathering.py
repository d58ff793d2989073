"""One matter, one finding: what one rule finds in the same way on several parts is told once."""

from __future__ import annotations

from collections.abc import Iterable, Iterator
from dataclasses import replace

from strom_engine.rules.finding import Finding

__all__ = ["gathered"]


def gathered(
    found: Iterable[Finding], title: str, repair: str | None = None, about: str = ""
) -> Iterator[Finding]:
    """Findings of one rule and severity as one; a single one stays as it is.

    Args:
        found: of one rule and one severity, about one matter.
        title: what it is called when there are several.
        repair: what to do when there are several; else as for the first.
        about: what tells this matter from others of the rule on the same parts.
    """
    every = list(found)
    if len(every) < 2:
        yield from every
        return
    yield replace(
        every[0],
        title=title,
        arithmetic=tuple(line for one in every for line in one.arithmetic),
        figures=tuple(dict.fromkeys(figure for one in every for figure in one.figures)),
        parts=tuple(dict.fromkeys(part for one in every for part in one.parts)),
        estimated=tuple(dict.fromkeys(cable for one in every for cable in one.estimated)),
        missing=" ".join(one.missing for one in every if one.missing) or None,
        repair=repair or every[0].repair,
        change=None,
        about=about or every[0].about,
    )
