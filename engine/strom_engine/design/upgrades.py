"""Designs of earlier versions, brought to the present one."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any

from strom_engine.versions import Chain, Raw

__all__ = ["DESIGN_CHAIN"]

# Version 1 held free words for the type of a fuse; those that name no one type, such as a bolt-down
# fuse, are of an unknown one until somebody has looked.
WORDS_OF_1 = {"blade fuse": "blade_regular", "class T fuse": "class_t", "ANL fuse": "anl"}


def _typed_fuses(raw: Raw) -> Raw:
    """1 to 2: a fuse's device is one of the generic types."""
    parts = raw.get("components")
    if not isinstance(parts, list | tuple):
        return raw
    return {**raw, "components": [_typed(part) for part in parts]}


def _typed(part: Any) -> Any:  # Any: JSON data, not yet looked through
    if not isinstance(part, Mapping) or part.get("kind") != "fuse":
        return part
    device = part.get("device")
    if isinstance(device, str) and (" " in device or device in WORDS_OF_1):
        return {**part, "device": WORDS_OF_1.get(device, "unknown")}
    return part


DESIGN_CHAIN = Chain(steps=(_typed_fuses,))
