"""The sheet in words: statements from a catalogue of each language, numbers as it writes them."""

from __future__ import annotations

import json
from collections.abc import Mapping
from dataclasses import dataclass
from functools import cache
from importlib.resources import files
from string import Formatter
from typing import Any, Literal, get_args

from strom_engine.handover.line import Line, Link, SwitchAt
from strom_engine.handover.owner_sheet import OwnerSheet

__all__ = [
    "LANGUAGES",
    "Language",
    "SaidLine",
    "SaidSection",
    "SaidSheet",
    "catalogue",
    "said_line",
    "said_sheet",
]

Language = Literal["en", "de"]
LANGUAGES: tuple[Language, ...] = get_args(Language)


@dataclass(frozen=True)
class SaidLine:
    """A statement in words: what it is about, how it goes on, switches beside it, its link."""

    key: str
    head: str
    text: str
    switches: tuple[SwitchAt, ...]
    link: Link


@dataclass(frozen=True)
class SaidSection:
    """A section with its title and statements in words."""

    id: str
    title: str
    lines: tuple[SaidLine, ...]


@dataclass(frozen=True)
class SaidSheet:
    """The owner's sheet in a language."""

    language: Language
    title: str
    cautions: tuple[str, ...]
    sections: tuple[SaidSection, ...]

    @property
    def text(self) -> str:
        """All of its words in sentences."""
        parts = [f"{line.head}. {line.text}" for s in self.sections for line in s.lines]
        return " ".join(parts)


@cache
def catalogue(language: Language) -> Mapping[str, str]:
    """Every text of a language by its key; another language is another file, no code."""
    path = files("strom_engine.handover") / "texts" / f"{language}.json"
    found: Mapping[str, str] = json.loads(path.read_text(encoding="utf-8"))
    return found


class _Writer(Formatter):
    """Numbers with the decimal sign of a language."""

    def __init__(self, decimal: str) -> None:
        self._decimal = decimal

    def format_field(self, value: Any, format_spec: str) -> str:  # Any: as the base has it
        text = str(super().format_field(value, format_spec))
        return text.replace(".", self._decimal) if isinstance(value, float) else text


def said_line(line: Line, language: Language) -> SaidLine:
    """One statement in the words of a language."""
    texts = catalogue(language)
    writer = _Writer(texts["decimal"])
    return SaidLine(
        key=line.key,
        head=writer.format(texts[f"{line.key}.head"], **line.values),
        text=writer.format(texts[line.key], **line.values),
        switches=line.switches,
        link=line.link,
    )


def said_sheet(sheet: OwnerSheet, language: Language) -> SaidSheet:
    """The sheet in the words of a language.

    Args:
        sheet: as data.
        language: one that has a catalogue.
    """
    texts = catalogue(language)
    return SaidSheet(
        language=language,
        title=texts["title"],
        cautions=tuple(texts[key] for key in sorted(texts) if key.startswith("caution.")),
        sections=tuple(
            SaidSection(
                id=section.id,
                title=texts[f"section.{section.id}"],
                lines=tuple(said_line(line, language) for line in section.lines),
            )
            for section in sheet.sections
        ),
    )
