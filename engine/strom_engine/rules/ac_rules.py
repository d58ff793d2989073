"""The rule about the AC side and bonding, which Strom does not design: PL-5."""

from __future__ import annotations

from collections.abc import Iterator

from strom_engine.design import Charger, Design, FittedInverter
from strom_engine.reference import CONDUCTOR_SIZES, area_mm2, load_table
from strom_engine.rules.context import Context
from strom_engine.rules.finding import CONFIRM, Figure, Finding, Rule
from strom_engine.survey.ac_checklist import AcItemAsked, asked_of

__all__ = ["RULES"]

PL5 = Rule(
    "PL-5",
    "The AC side and the bonding were looked at",
    "A checklist where shore power, a charger or an inverter is aboard; a licensed electrician "
    "decides on the AC side.",
    f"{load_table('ac_checklist').source}; {CONFIRM}",
)


def looked_at(context: Context) -> Iterator[Finding]:
    """PL-5: items that are not so, each; those nobody has looked at, together."""
    seen = {} if context.survey is None else context.survey.ac_checks
    asked = asked_of(context.design)
    gear = tuple(p.id for p in _converters(context.design))
    for item in (i for i in asked if seen.get(i.id) == "no"):
        yield Finding(
            rule=PL5.id,
            severity="fault",
            title=f"Not so aboard: {item.item[:1].lower()}{item.item[1:]}",
            arithmetic=(f"Looked at: {item.item}: no.", *_sizes(context, item)),
            figures=(),
            limit="yes",
            source=PL5.source,
            why=item.why,
            repair="A licensed electrician puts it right.",
            parts=gear,
            about=item.id,
        )
    unseen = [i for i in asked if seen.get(i.id) is None]
    if unseen:
        yield Finding(
            rule=PL5.id,
            severity="cannot_tell",
            title=f"{len(unseen)} items of the AC and bonding checklist were not looked at",
            arithmetic=tuple(f"Not looked at: {i.item}." for i in unseen),
            figures=(
                Figure("Looked at", float(len(asked) - len(unseen)), ""),
                Figure("Asked", float(len(asked)), ""),
            ),
            limit="every item yes",
            source=PL5.source,
            why="What passes through water kills; the DC side alone does not make a boat safe.",
            repair="Go through the list on the stage Survey, with a licensed electrician.",
            parts=gear,
            missing="the items of the checklist: AC and bonding, stage Survey",
            about="unseen",
        )


def _converters(design: Design) -> tuple[Charger | FittedInverter, ...]:
    return (*design.of_type(Charger), *design.of_type(FittedInverter))


def _sizes(context: Context, item: AcItemAsked) -> Iterator[str]:
    """What the grounding conductor of each case must be."""
    if item.id != "case_ground":
        return
    design = context.design
    for part in _converters(design):
        posts = {f"{part.id}.{post}" for post in part.posts() if post != "neg"}
        gauges = [c.gauge for c in design.cables if posts & {c.start, c.end}]
        if gauges:
            largest = max(gauges, key=area_mm2)
            yield f"{part.name}: DC positive {largest}, so at least {one_size_under(largest)}."


def one_size_under(gauge: str) -> str:
    """The next smaller size of the same sort; the smallest is its own."""
    sort = gauge.split(" ")[-1]
    sizes = sorted((s for s in CONDUCTOR_SIZES if s.endswith(sort)), key=area_mm2)
    return sizes[max(0, sizes.index(gauge) - 1)]


RULES = ((PL5, looked_at),)
