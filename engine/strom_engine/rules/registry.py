"""The one list of rules, and the run over all of them."""

from __future__ import annotations

from collections.abc import Callable, Iterable
from functools import lru_cache

from strom_engine.design import Design
from strom_engine.rules import charging, load_dump, relays, sensing, switching
from strom_engine.rules.context import Context
from strom_engine.rules.finding import Finding, Rule

__all__ = ["RULES", "findings"]

Check = Callable[[Context], Iterable[Finding]]
RULES: tuple[tuple[Rule, Check], ...] = (
    *load_dump.RULES,
    *switching.RULES,
    *charging.RULES,
    *relays.RULES,
    *sensing.RULES,
)
ORDER = ("danger", "fault", "caution", "cannot_tell", "note")


@lru_cache(maxsize=64)
def _found(text: str) -> tuple[Finding, ...]:
    context = Context(Design.model_validate_json(text))
    found = [finding for _, check in RULES for finding in check(context)]
    return tuple(sorted(found, key=lambda f: ORDER.index(f.severity)))


def findings(design: Design) -> tuple[Finding, ...]:
    """Findings of every rule on a design, the gravest first. The same design, the same list."""
    return _found(design.model_dump_json())
