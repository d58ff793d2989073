"""Repairs of findings as changes: which are safe to make at once, and making all of them."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass

from strom_engine.design import (
    AddPart,
    Change,
    Design,
    OneChange,
    SetCableGauge,
    SetCables,
    SetPart,
    Several,
    StackCables,
    apply_change,
    change_words,
    touched,
)
from strom_engine.design.edits import free_id
from strom_engine.errors import ChangeError
from strom_engine.rules.finding import Finding
from strom_engine.rules.registry import ORDER, findings
from strom_engine.runs import Stock
from strom_engine.survey import Survey

__all__ = ["Repair", "RepairPlan", "repair_plan", "safe"]

MOST_PASSES, MOST_TRIES = 120, 3
SAFE_PARTS = ("fuse", "breaker", "bus_bar")
SAFE_FIELDS = {"rating_a", "device", "branch_a", "negative_fuse_a", "terminals"}


@dataclass(frozen=True)
class Repair:
    """One repair of a plan: whose finding it heals, and what is changed, in words."""

    finding: str
    rule: str
    title: str
    words: str


@dataclass(frozen=True)
class RepairPlan:
    """Repairs in the order in which they are made, as one change; None where there is none.

    ``left`` are the findings that remain, dangers and faults first.
    """

    repairs: tuple[Repair, ...]
    change: Several | None
    left: tuple[Finding, ...]
    design: Design


def safe(change: Change | None) -> bool:
    """Whether a change only makes things stronger where they are: no lead goes elsewhere.

    Sizes, insulation and lugs of cables, overcurrent devices, bus bars and stacking are safe;
    what moves a lead to another post, or another setting, wants to be looked at first.

    Args:
        change: of a repair; None is not safe.
    """
    match change:
        case SetCables() | StackCables() | SetCableGauge():
            return True
        case AddPart():
            return change.part.kind in SAFE_PARTS
        case SetPart():
            return set(change.fields) <= SAFE_FIELDS
        case Several():
            return all(safe(one) for one in change.changes)
        case _:
            return False


def repair_plan(
    design: Design,
    survey: Survey | None = None,
    stock: Stock | None = None,
    only: frozenset[str] | None = None,
    *,
    safe_only: bool = True,
    settings_of: frozenset[str] = frozenset(),
) -> RepairPlan:
    """Make every safe repair, one after the other, until none is left.

    Args:
        design: the boat as drawn.
        survey: what is known of it.
        stock: what repairs are made from; None is every usual size.
        only: findings by their key; without it all are healed.
        safe_only: only what makes things stronger where they are; else every repair that is
            offered.
        settings_of: parts of which volts, amps and times may be set otherwise too, such as gear
            still to be bought.

    Returns:
        The change, its repairs in order, the design after them and what is left then. A repair that
        would bring about a finding graver than the one it heals is left out.

    >>> from strom_engine.survey import new_boat
    >>> survey, design = new_boat("cruising_yacht", "selector")
    >>> plan = repair_plan(design, survey)
    >>> len(plan.left) < len(plan.repairs) + len(plan.left)
    True
    """
    now, made, told = design, list[OneChange](), list[Repair]()
    skipped: set[str] = set()
    found = findings(now, survey, stock)
    for _ in range(MOST_PASSES):
        todo = [f for f in found if f.key not in skipped and (only is None or f.key in only)]
        batch = _batch(f for f in todo if _wanted(f.change, settings_of, safe_only=safe_only))
        if not batch:
            break
        after, changes, then = _healed(now, batch, survey, stock)
        if after is None or _graver(found, then, batch[0]):
            # One of them is to blame: the first alone, and where that is it, never again.
            batch = batch[:1]
            after, changes, then = _healed(now, batch, survey, stock)
            if after is None or _graver(found, then, batch[0]):
                skipped.add(batch[0].key)
                continue
        for one, (done, words) in zip(batch, changes, strict=True):
            if sum(r.finding == one.key for r in told) >= MOST_TRIES:
                skipped.add(one.key)
            told.append(Repair(one.key, one.rule, one.title, words))
            made += done
        now, found = after, then
    count = f"{len(told)} {'repair' if len(told) == 1 else 'repairs'}"
    change = Several(words=f"Made {count}", changes=tuple(made)) if made else None
    return RepairPlan(tuple(told), change, found, now)


def _batch(todo: Iterable[Finding]) -> list[Finding]:
    """Repairs of one severity, the gravest first, that touch nothing in common."""
    batch, taken = list[Finding](), set[str]()
    for one in todo:
        assert one.change is not None
        if batch and one.severity != batch[0].severity:
            break
        about = touched(one.change) - _new_ids(one.change)
        if not about & taken:
            batch.append(one)
            taken |= about
    return batch


def _new_ids(change: Change) -> frozenset[str]:
    """What a change puts in: it has no place yet that another one could disturb."""
    changes = change.changes if isinstance(change, Several) else (change,)
    parts = [one for one in changes if isinstance(one, AddPart)]
    cables = (f"cable {c.id}" for one in parts for c in one.cables)
    return frozenset({*(one.part.id for one in parts), *cables})


def _healed(
    design: Design, batch: list[Finding], survey: Survey | None, stock: Stock | None
) -> tuple[Design | None, list[tuple[list[OneChange], str]], tuple[Finding, ...]]:
    """The design with repairs made, each one's changes and words, and what is then found.

    The design is None where a repair does not fit.
    """
    made: list[tuple[list[OneChange], str]] = []
    for one in batch:
        assert one.change is not None
        changes = one.change.changes if isinstance(one.change, Several) else (one.change,)
        done, words = list[OneChange](), list[str]()
        for change in changes:
            assert not isinstance(change, Several)
            fitting = _renamed(design, change) if isinstance(change, AddPart) else change
            words.append(change_words(design, fitting))
            try:
                design = apply_change(design, fitting)
            except ChangeError:
                return None, [], ()
            done.append(fitting)
        made.append((done, one.change.words if isinstance(one.change, Several) else words[0]))
    return design, made, findings(design, survey, stock)


def _renamed(design: Design, change: AddPart) -> AddPart:
    """A part put in under a name and ids that nothing else has taken meanwhile."""
    if change.part.id not in design.by_id:
        return change
    new_id = free_id(change.part.id.rstrip("_0123456789"), design.by_id)
    names, n = {p.name for p in design.components}, 2
    base = change.part.name.rstrip(" 0123456789")
    while f"{base} {n}" in names:
        n += 1
    part = change.part.model_copy(update={"id": new_id, "name": f"{base} {n}"})
    taken = set(design.cables_by_id)
    cables = []
    for cable in change.cables:
        fresh = free_id(cable.id[:36], taken) if cable.id in taken else cable.id
        taken.add(fresh)
        ends = {e: _on(getattr(cable, e), change.part.id, new_id) for e in ("start", "end")}
        cables.append(cable.model_copy(update={"id": fresh} | ends))
    relandings = tuple(
        r.model_copy(update={"to": _on(r.to, change.part.id, new_id)}) for r in change.relandings
    )
    return AddPart(part=part, cables=tuple(cables), relandings=relandings)


def _on(ref: str, old: str, new: str) -> str:
    part, _, post = ref.partition(".")
    return f"{new}.{post}" if part == old else ref


def _wanted(change: Change | None, settings_of: frozenset[str], *, safe_only: bool) -> bool:
    if change is None or not safe_only:
        return change is not None
    return safe(change) or (
        isinstance(change, SetPart)
        and change.part in settings_of
        and all(isinstance(value, float) for value in change.fields.values())
    )


def _graver(before: tuple[Finding, ...], after: tuple[Finding, ...], healed: Finding) -> bool:
    """Whether a finding came up that is graver than the one that was healed."""
    known = {f.key for f in before}
    worse = ORDER[: ORDER.index(healed.severity)]
    return any(f.severity in worse and f.key not in known for f in after)
