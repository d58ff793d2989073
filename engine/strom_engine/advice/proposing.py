"""From a pattern to a proposal that stands: wired, sized, protected, with all that was decided."""

from __future__ import annotations

from dataclasses import dataclass

from strom_engine.design import ApplyScheme, Design, apply_change
from strom_engine.patterns import Pattern, pattern_design
from strom_engine.rules import Finding, repair_plan
from strom_engine.runs import Stock, choose, default_stock
from strom_engine.survey import Practice, Survey, surveyed, with_loads

__all__ = ["Proposal", "propose"]

GRAVE = ("danger", "fault")


@dataclass(frozen=True)
class Proposal:
    """A pattern on a boat, sized and protected, as one change.

    ``decided`` says in words what was chosen beside the wiring, ``by_nature`` what a surveyor
    will not pass and no size can heal, ``left`` are all findings that remain.
    """

    change: ApplyScheme
    design: Design
    decided: tuple[str, ...]
    by_nature: tuple[str, ...]
    left: tuple[Finding, ...]


def propose(
    design: Design, pattern: Pattern, survey: Survey | None = None, stock: Stock | None = None
) -> Proposal:
    """Wire a boat as a pattern, choose every size and device, and make every safe repair.

    Args:
        design: the boat as drawn.
        pattern: one of the catalogue.
        survey: its survey; None where there is none.
        stock: what may be chosen from; None is every usual size.

    Returns:
        One change with all that was decided. What exists is kept where it is enough; settings are
        only changed on gear that the pattern brings aboard.

    Raises:
        ChangeError: the pattern does not fit, with every reason.

    >>> from strom_engine.patterns import pattern_named
    >>> from strom_engine.survey import new_boat
    >>> survey, design = new_boat("day_sailer", "on_off_each")
    >>> propose(design, pattern_named("dual_relay"), survey).by_nature
    ()
    """
    practice = survey.practice if survey else Practice()
    kept = stock or default_stock(practice.sizes)
    now = pattern_design(design, pattern, survey)
    choice = choose(surveyed(now, survey), kept, practice.standard)
    if choice.change is not None:
        now = apply_change(now, choice.change)
    new = frozenset(p.id for p in now.components if p.id not in design.by_id)
    plan = repair_plan(now, survey, kept, settings_of=new)
    parts, cables = plan.design.components, plan.design.cables
    change = ApplyScheme(pattern=pattern.name, components=parts, cables=cables)
    return Proposal(
        change=change,
        design=apply_change(with_loads(design, survey), change),
        decided=(*choice.lines, *(repair.words for repair in plan.repairs)),
        by_nature=tuple(f.title for f in plan.left if f.severity in GRAVE),
        left=plan.left,
    )
