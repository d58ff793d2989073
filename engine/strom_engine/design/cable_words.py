"""Figures of cables in words: what a field is called, and what it was and becomes."""

from __future__ import annotations

__all__ = ["cable_field_words"]

LABELS = {
    "gauge": "",
    "length_m": "length",
    "insulation_c": "insulation",
    "copper_mm2": "copper",
    "current_a": "design current",
    "drop_percent": "drop",
    "purpose": "for",
}
UNITS = {
    "length_m": " m",
    "insulation_c": " °C",
    "copper_mm2": " mm²",
    "current_a": " A",
    "drop_percent": " %",
}


def cable_field_words(field: str, was: object, now: object) -> str:
    """One figure of a cable in words: what it is, what it was, what it becomes."""
    name = LABELS.get(field, field.replace("_", " "))
    return f"{name} {_short(field, was)} to {_short(field, now)}".strip()


def _short(field: str, value: object) -> str:
    if field == "estimated":
        return "estimated" if value else "measured"
    if isinstance(value, bool):
        return "yes" if value else "no"
    if value is None or value == "":
        return "as usual"
    number = f"{value:g}" if isinstance(value, float) else str(value)[:40]
    return number + UNITS.get(field, "")
