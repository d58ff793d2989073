"""A finding about a fuse or breaker, its rating and part filled in."""

from __future__ import annotations

from strom_engine.design.fields import PostRef
from strom_engine.rules.finding import Figure, Finding, Rule, Severity
from strom_engine.runs.devices import Protector

__all__ = ["device_finding"]


def device_finding(
    rule: Rule,
    one: Protector,
    severity: Severity,
    title: str,
    lines: tuple[str, ...],
    **more: object,
) -> Finding:
    """A finding of a rule about a device; ``more`` are its other fields."""
    fields: dict[str, object] = {
        "figures": (Figure("Rating", one.rating_a, "A"),),
        "parts": (one.part,),
        "about": PostRef(one.id).post,
        "source": rule.source,
    }
    return Finding(
        rule=rule.id,
        severity=severity,
        title=title,
        arithmetic=lines,
        **(fields | more),  # type: ignore[arg-type]
    )
