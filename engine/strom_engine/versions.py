"""Versions of documents: from any earlier one to the present, a step at a time.

A step never changes once documents of its version were kept. What cannot be brought up, because it
is no document of its sort at all, is left for the reader of that sort to say so.
"""

from __future__ import annotations

from collections.abc import Callable, Mapping
from dataclasses import dataclass
from typing import Any

from strom_engine.errors import Problem

__all__ = ["Chain", "Raw"]

Raw = Mapping[str, Any]  # Any: JSON data, not yet looked through
Step = Callable[[Raw], Raw]


@dataclass(frozen=True)
class Chain:
    """The steps of one sort of document; ``steps[n]`` leads from version n + 1 to n + 2.

    ``first`` tells the version of a document that names none.
    """

    steps: tuple[Step, ...] = ()
    first: Callable[[Raw], int] = lambda raw: 1

    @property
    def version(self) -> int:
        """The present version, which the steps lead to."""
        return len(self.steps) + 1

    def problems(self, raw: Raw, at: str = "") -> list[Problem]:
        """What speaks against reading a document: that a later program wrote it."""
        version = self._version_of(raw)
        if version <= self.version:
            return []
        text = (
            f"is {version}, but this program reads versions up to {self.version}: "
            "it was written by a later one"
        )
        return [Problem(f"{at}version", text)]

    def brought_up(self, raw: Raw) -> dict[str, Any]:  # Any: JSON data
        """A document as the present version has it; the one given stays as it is."""
        version = self._version_of(raw)
        if not 1 <= version <= self.version:
            return dict(raw)
        for step in self.steps[version - 1 :]:
            raw = step(raw)
        return {**raw, "version": self.version}

    def _version_of(self, raw: Raw) -> int:
        told = raw.get("version", self.first(raw))
        return told if isinstance(told, int) and not isinstance(told, bool) else 0
