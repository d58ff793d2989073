"""Who makes which PDF: stages name their makers here, and those are loaded when one is made."""

from __future__ import annotations

from collections.abc import Callable
from typing import TYPE_CHECKING

from django.utils.module_loading import import_string

if TYPE_CHECKING:  # applications name their makers before any model is ready
    from apps.jobs.models import Variant

__all__ = ["Ask", "maker", "register"]

Ask = dict[str, object]
Maker = Callable[["Variant", Ask], bytes]
_makers: dict[str, str] = {}


def register(kind: str, path: str) -> None:
    """A stage says where the function stands that makes its PDF: (variant, ask) -> bytes."""
    _makers[kind] = path


def maker(kind: str) -> Maker:
    """The maker of a kind. Only a worker loads it: web processes need no PDF library."""
    made: Maker = import_string(_makers[kind])
    return made
