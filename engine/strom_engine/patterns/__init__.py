"""Complete schemes for the banks and sources aboard, as changes that can be looked at first."""

from __future__ import annotations

from strom_engine.design import ApplyScheme, Design, apply_change
from strom_engine.errors import ChangeError, Problem
from strom_engine.patterns.aboard import Aboard
from strom_engine.patterns.builder import Builder
from strom_engine.patterns.catalogue import PATTERNS, Pattern
from strom_engine.patterns.common_negative import with_equal_negative
from strom_engine.survey import Survey, with_loads

__all__ = ["PATTERNS", "Aboard", "Pattern", "pattern_change", "pattern_design", "pattern_named"]


def pattern_named(pattern_id: str) -> Pattern:
    """A pattern by its id. Raises ChangeError.

    Args:
        pattern_id: such as ``relay``.
    """
    found = next((p for p in PATTERNS if p.id == pattern_id), None)
    if found is None:
        known = ", ".join(p.id for p in PATTERNS)
        text = f"there is no pattern {pattern_id!r}; known: {known}"
        raise ChangeError(text, (Problem("pattern", text),))
    return found


def pattern_change(design: Design, pattern: Pattern, survey: Survey | None = None) -> ApplyScheme:
    """The change that rewires a design as a pattern. Raises ChangeError where it does not fit.

    The survey tells which loads hang where, and which of them are always on.

    Args:
        design: as drawn.
        pattern: one of the catalogue.
        survey: its survey; None where there is none.

    Returns:
        A change that touches the whole design.
    """
    against = pattern.against(Aboard(design))
    if against:
        text = f"{pattern.name}: {'; '.join(against)}"
        raise ChangeError(text, tuple(Problem("pattern", reason) for reason in against))
    builder = Builder(pattern.prepare(with_loads(design, survey)), survey)
    pattern.build(builder)
    parts, cables = builder.finished()
    whole = with_equal_negative(design.replace_unchecked(components=parts, cables=cables))
    return ApplyScheme(pattern=pattern.name, components=parts, cables=whole.cables)


def pattern_design(design: Design, pattern: Pattern, survey: Survey | None = None) -> Design:
    """A design rewired as a pattern.

    Args:
        design: the boat as drawn.
        pattern: how it is to be switched and charged.
        survey: which loads hang where, and which are always on.

    Returns:
        The whole design: what is there is used where it fits; new figures are assumed.

    Raises:
        ChangeError: the pattern does not fit, with every reason.

    >>> from strom_engine.survey import new_boat
    >>> survey, design = new_boat("cruising_yacht", "selector")
    >>> built = pattern_design(design, pattern_named("dual_relay"), survey)
    >>> any(part.kind == "relay" for part in built.components)
    True
    """
    return apply_change(with_loads(design, survey), pattern_change(design, pattern, survey))
