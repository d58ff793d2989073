"""Voltages of parts that stand for a system voltage: which they are, and what they are at 24 V."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any, get_args

from pydantic import BaseModel

from strom_engine.design.choices import SystemVolts
from strom_engine.design.parts import Component

__all__ = ["VOLT_FIELDS", "at_system_v", "nominal_of_set_v", "with_defaults_at"]

MOST_SHARE = 1.4  # of its nominal voltage that a bank is ever charged to: 16.8 of 12 V
USUAL_SYSTEM_V = 12  # the system that the defaults of a part's fields are written for

# Figures in volts that stand for a system voltage and are scaled with it.
VOLT_FIELDS = (
    "set_v",
    "float_v",
    "out2_set_v",
    "out2_float_v",
    "out3_set_v",
    "out3_float_v",
    "bulk_v",
    "rebulk_v",
    "equalise_v",
    "cut_in_v",
    "cut_in_high_v",
    "cut_out_v",
    "cut_out_low_v",
    "return_v",
    "lock_low_v",
    "lock_high_v",
    "start_v",
    "stop_v",
    "high_v",
    "low_v",
    "panel_vmp_v",
)


def nominal_of_set_v(set_v: float) -> float:
    """Nominal voltage [V] of what charges to a voltage [V]: 12 for 14.4, 24 for 28.8.

    Args:
        set_v: absorption voltage of a source.
    """
    fits = (v for v in get_args(SystemVolts) if set_v <= MOST_SHARE * v)
    return float(next(fits, get_args(SystemVolts)[-1]))


def _defaults(kind: type[BaseModel]) -> dict[str, float]:
    fields = {name: field.default for name, field in kind.model_fields.items()}
    return {n: v for n, v in fields.items() if n in VOLT_FIELDS and isinstance(v, int | float)}


_DEFAULTS: dict[str, dict[str, float]] = {
    kind.model_fields["kind"].default: _defaults(kind) for kind in get_args(get_args(Component)[0])
}


def with_defaults_at(raw: Mapping[str, Any], system_v: float) -> dict[str, Any]:
    """A part's raw fields with the defaults of a system voltage for what was left out."""
    scale = system_v / USUAL_SYSTEM_V
    kind = raw.get("kind")
    usual = _DEFAULTS.get(kind, {}) if isinstance(kind, str) else {}
    return {name: round(volts * scale, 3) for name, volts in usual.items()} | dict(raw)


def at_system_v(part: Component, system_v: float) -> Component:
    """A part with the defaults of a system voltage for what nobody set; itself where none is."""
    scale = system_v / USUAL_SYSTEM_V
    usual = _DEFAULTS[part.kind]
    left_out = {n: round(v * scale, 3) for n, v in usual.items() if n not in part.model_fields_set}
    if scale == 1 or not left_out:
        return part
    return part.model_copy(update=left_out)
