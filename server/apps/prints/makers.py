"""Who makes which file: stages name their makers here, and those are loaded when one is made."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from typing import TYPE_CHECKING

from django.utils.module_loading import import_string

if TYPE_CHECKING:  # applications name their makers before any model is ready
    from apps.jobs.models import Variant

__all__ = ["JSON", "PDF", "ZIP", "Ask", "Form", "form_of", "maker", "register"]

Ask = dict[str, object]
Maker = Callable[["Variant", Ask], bytes]


@dataclass(frozen=True)
class Form:
    """How a file is told to a browser, and how its name ends."""

    media: str
    ending: str


PDF, ZIP = Form("application/pdf", "pdf"), Form("application/zip", "zip")
JSON = Form("application/json", "json")
_makers: dict[str, tuple[str, Form]] = {}


def register(kind: str, path: str, form: Form = PDF) -> None:
    """A stage says where the function stands that makes its file: (variant, ask) -> bytes."""
    _makers[kind] = path, form


def form_of(kind: str) -> Form:
    """The form of the files of a kind."""
    return _makers[kind][1]


def maker(kind: str) -> Maker:
    """The maker of a kind. Only a worker loads it: web processes need no PDF library."""
    made: Maker = import_string(_makers[kind][0])
    return made
