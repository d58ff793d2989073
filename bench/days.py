"""A day for the reference design: loads by turns, an engine run, sun and shore."""

from __future__ import annotations

from typing import Any

from strom_engine.dayrun import Plan, with_school
from strom_engine.dayrun.plan import EngineSpan, LivingSpan, Move, ShoreSpan
from strom_engine.design import Design
from strom_engine.survey import Boat, Survey

from bench.designs import reference_design

__all__ = ["reference_day", "reference_survey"]


def reference_survey(design: Design) -> Survey:
    """The audit of the reference's 25 loads: five draw by turns, the others have their hours."""
    groups = [p for p in design.components if p.kind == "loads"]
    items: list[dict[str, Any]] = []  # Any: JSON data
    windows = ("all_day", "evening", "daylight", "night", "meals")
    for n, (group, item) in enumerate((g, i) for g in groups for i in g.items):
        uses = {"living": {"hours": 24 if n % 6 == 0 else 2 + n % 5}}
        row = {
            "id": f"load_{n}",
            "name": f"Load {n}",
            "draw": item.draw_a / 4,
            "feed": group.id,
            "uses": uses,
            "window": windows[n % 5],
            "duty": 0.4 if n % 6 == 0 else 1.0,
        }
        items.append(row)
    return Survey.model_validate(
        {
            "boat": Boat(kind="Reference", length_m=12, latitude_deg=50),
            "profiles": [{"id": "living", "name": "Living"}],
            "items": items,
        }
    )


def reference_day(days: int = 1) -> tuple[Design, Survey, Plan]:
    """The reference, its audit, and days of two engine hours and an evening on shore each."""
    drawn = reference_design()
    survey = reference_survey(drawn)
    # The audit's items take the place of those that the design was made with.
    parts = tuple(
        p.model_copy(update={"items": ()}) if p.kind == "loads" else p for p in drawn.components
    )
    design = drawn.replace_unchecked(components=parts)
    starts = [24.0 * n + 2 for n in range(days)]
    plan = Plan(
        name="Reference",
        hours=24.0 * days,
        engine=tuple(EngineSpan(start_h=s, end_h=s + 2) for s in starts),
        shore=tuple(ShoreSpan(start_h=s + 9, end_h=s + 13) for s in starts),
        living=(LivingSpan(start_h=0, end_h=24.0 * days, profile="living"),),
        moves=(Move(at_h=0, switch="selector", position="2"),),
    )
    return design, survey, with_school(plan, design, "c")
