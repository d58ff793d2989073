"""What every device of a boat is set to, as designed: volts and delays, with their units."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass

from strom_engine.design import Bank, Design
from strom_engine.design.figures import kind_sheets

__all__ = ["DeviceSetting", "device_settings"]

SET_UNITS = ("V", "s", "V/°C")  # what is set on a device, beside what stands on its label


@dataclass(frozen=True)
class DeviceSetting:
    """A figure that a device is set to."""

    device: str
    name: str
    value: float
    unit: str


def device_settings(design: Design) -> Iterator[DeviceSetting]:
    """Volts and delays of every source and of every part that moves by itself.

    Args:
        design: the boat as built.
    """
    sheets = {sheet.kind: sheet for sheet in kind_sheets()}
    for part in design.components:
        if isinstance(part, Bank) or not (part in design.sources or part.moves_itself):
            continue
        for figure in sheets[part.kind].figures:
            value = getattr(part, figure.name)
            if figure.unit in SET_UNITS and isinstance(value, int | float):
                yield DeviceSetting(part.name, figure.label, float(value), figure.unit)
