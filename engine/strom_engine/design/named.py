"""Parts and cables by their ids, with an error that names the place and what was perhaps meant."""

from __future__ import annotations

from strom_engine.design.document import Cable, Design
from strom_engine.design.parts import Component
from strom_engine.design.validation import suggest
from strom_engine.errors import ChangeError, Problem

__all__ = ["cable_named", "part_named"]


def cable_named(design: Design, cable_id: str) -> Cable:
    """A cable by its id. Raises ChangeError where there is none."""
    try:
        return design.cables_by_id[cable_id]
    except KeyError:
        text = f"there is no cable {cable_id!r}{suggest(cable_id, design.cables_by_id)}"
        raise ChangeError(text, (Problem("cable", text),)) from None


def part_named(design: Design, part_id: str) -> Component:
    """A part by its id. Raises ChangeError where there is none."""
    try:
        return design.by_id[part_id]
    except KeyError:
        text = f"there is no part {part_id!r}{suggest(part_id, design.by_id)}"
        raise ChangeError(text, (Problem("part", text),)) from None
