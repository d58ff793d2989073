"""Runs, choosing, what-if, repairs and the rule book of a variant, worked out by the engine."""

from __future__ import annotations

from strom_engine.design import CableFields, SetCables, apply_change
from strom_engine.errors import ChangeError, Problem
from strom_engine.interchange import dump_runs, read_runs
from strom_engine.reference import CONDUCTOR_SIZES, DEVICES, area_mm2
from strom_engine.rules import BUILD_RULES, RULES, Rule, findings, repair_plan
from strom_engine.rules.finding import CONFIRM
from strom_engine.runs import RunRow, choose, default_stock, run_rows, runs_report
from strom_engine.survey import cable_lengths

from apps.accounts.models import Workshop
from apps.jobs import queries
from apps.jobs.documents import head_design, head_survey, stock_of, surveyed_design
from apps.jobs.models import Variant
from apps.jobs.schemas import ProblemItem
from apps.prints.makers import Ask
from apps.runs.schemas import (
    CablesOut,
    ChoiceIn,
    ChosenOut,
    ReadRunsOut,
    RepairsIn,
    RepairsOut,
    RuleOut,
    RulesOut,
    RunsOut,
    StockOut,
    WhatIfOut,
)

__all__ = [
    "cables_of",
    "check_cables",
    "choice_made",
    "read_runs_of",
    "repairs_made",
    "rules_of",
    "runs_csv",
    "runs_of",
    "stock_out",
    "what_if",
]


def runs_of(variant: Variant) -> RunsOut:
    """The stage Runs of a variant."""
    stock = stock_of(variant)
    kept = {d.device for d in stock.devices}
    return RunsOut.model_construct(
        revision=variant.head,
        survey_revision=variant.job.survey.head,
        report=runs_report(surveyed_design(variant), head_survey(variant), stock),
        gauges=list(dict.fromkeys(c.gauge for c in stock.by_area)),
        devices=[d for d in DEVICES if d.type in kept],
        currency=stock.currency,
        confirm=CONFIRM,
    )


def cables_of(variant: Variant) -> CablesOut:
    """A variant after a change of its cables' figures."""
    design = surveyed_design(variant)
    return CablesOut.model_construct(
        **queries.saved_fields(variant),
        design=design,
        cable_names={c.id: design.cable_name(c) for c in design.cables},
        cable_lengths=list(cable_lengths(head_design(variant), head_survey(variant))),
        runs=runs_of(variant),
        findings=queries.findings_of(variant),
    )


def choice_made(variant: Variant, ask: Ask) -> bytes:
    """Sizes and devices chosen for some cables or all; nothing is saved."""
    asked = ChoiceIn.model_validate(ask)
    chosen = choose(
        surveyed_design(variant),
        stock_of(variant),
        head_survey(variant).practice.standard,
        None if asked.cables is None else tuple(asked.cables),
        only_weak=asked.only_weak,
    )
    out = ChosenOut(
        revision=variant.head,
        change=chosen.change,
        lines=list(chosen.lines),
        left=list(chosen.left),
    )
    return out.model_dump_json().encode()


def check_cables(variant: Variant, cables: list[str]) -> None:
    """Raises ChangeError naming every cable that a variant does not have."""
    design = head_design(variant)
    problems = tuple(
        Problem(f"cables[{n}]", f"there is no cable {name!r}")
        for n, name in enumerate(cables)
        if name not in design.cables_by_id
    )
    if problems:
        raise ChangeError(problems[0].message, problems)


def what_if(variant: Variant, rows: list[CableFields]) -> WhatIfOut:
    """A run as it is, and as it would be with other figures of its cables; nothing is saved."""
    survey, stock = head_survey(variant), stock_of(variant)
    change = SetCables(rows=tuple(rows))
    cable = change.rows[0].cable
    now = surveyed_design(variant)
    then = apply_change(now, change)
    standard = survey.practice.standard
    before = findings(head_design(variant), survey, stock)
    after = findings(apply_change(head_design(variant), change), survey, stock)
    keys_before, keys_after = ({f.key for f in found} for found in (before, after))
    return WhatIfOut(
        revision=variant.head,
        now=_row_with(run_rows(now, standard, stock), cable),
        then=_row_with(run_rows(then, standard, stock), cable),
        gone=[f.title for f in before if f.key not in keys_after],
        come=[f.title for f in after if f.key not in keys_before],
    )


def _row_with(rows: tuple[RunRow, ...], cable: str) -> RunRow:
    return next(row for row in rows if any(leg.cable == cable for leg in row.legs))


def runs_csv(variant: Variant) -> str:
    """Every cable as CSV."""
    design, standard = surveyed_design(variant), head_survey(variant).practice.standard
    return dump_runs(design, run_rows(design, standard, stock_of(variant)))


def read_runs_of(variant: Variant, text: bytes) -> ReadRunsOut:
    """A table of cables read; nothing is saved."""
    read = read_runs(text, surveyed_design(variant))
    return ReadRunsOut(
        rows=list(read.rows),
        problems=[ProblemItem(path=p.path, message=p.message) for p in read.problems],
        notes=list(read.notes),
        read=read.read,
    )


def repairs_made(variant: Variant, ask: Ask) -> bytes:
    """Repairs that are safe to make at once; nothing is saved."""
    keys = RepairsIn.model_validate(ask).keys
    plan = repair_plan(
        head_design(variant),
        head_survey(variant),
        stock_of(variant),
        None if keys is None else frozenset(keys),
    )
    out = RepairsOut(
        revision=variant.head,
        repairs=list(plan.repairs),
        change=plan.change,
        left=list(plan.left),
    )
    return out.model_dump_json().encode()


def rules_of(variant: Variant) -> RulesOut:
    """Every rule, and what it found."""
    found = findings(head_design(variant), head_survey(variant), stock_of(variant))
    return RulesOut(
        revision=variant.head,
        variant=variant.pk,
        rules=[
            RuleOut(
                id=rule.id,
                title=rule.title,
                checks=rule.checks,
                source=rule.source,
                stage=rule.stage,
                figures=list(rule.figures),
                found=[f for f in found if f.rule == rule.id],
            )
            for rule in sorted((*(r for r, _ in RULES), *BUILD_RULES), key=_order)
        ],
        confirm=CONFIRM,
    )


def _order(rule: Rule) -> tuple[int, int]:
    family, _, number = rule.id.partition("-")
    return ("OC", "CO", "SW", "CH", "BA", "PL", "BU").index(family), int(number)


def stock_out(workshop: Workshop) -> StockOut:
    """What a workshop keeps."""
    own = workshop.stock is not None
    return StockOut.model_validate(
        {
            "stock": workshop.stock or default_stock().model_dump(),
            "revision": workshop.stock_revision,
            "own": own,
            "sizes": list(CONDUCTOR_SIZES),
            "areas_mm2": {size: area_mm2(size) for size in CONDUCTOR_SIZES},
            "devices": list(DEVICES),
        }
    )
