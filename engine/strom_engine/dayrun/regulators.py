"""Stages of charging: bulk, absorption, float, on what each source itself senses."""

from __future__ import annotations

from collections.abc import Iterable

from strom_engine.circuit import reach
from strom_engine.circuit.held import Held, held
from strom_engine.dayrun.conditions import NEVER, Action, Condition, Reading
from strom_engine.dayrun.discrete_state import DiscreteState
from strom_engine.dayrun.kernel import Kernel, Snapshot
from strom_engine.design import Bank, DcDc, Design, OneWayCombiner, Staged

__all__ = ["charged_banks", "first_stage", "holds", "shown_stage", "stage_conditions", "staged"]

# A regulator takes its set voltage as reached this near to it. Once it has, its timer runs on, and
# rests only when it senses this much less: a machine that warms up still is in absorption. Of a
# 12 V system; makers' manuals as commonly published, medium confidence.
REACHED_V = 0.05
TIMER_RESTS_V = 0.5
REACHED_S = 5.0
TAIL_S = 60.0
REBULK_S = 60.0
REBULK_UNDER_FLOAT_V = 0.5


def staged(design: Design) -> tuple[Staged, ...]:
    """Sources that go on to float, in document order."""
    sources = (*design.sources, *design.of_type(DcDc))
    return tuple(p for p in sources if isinstance(p, Staged) and p.float_v is not None)


def first_stage(part: Staged) -> str:
    """The stage in which a source begins: bulk, with its least time where it has one."""
    return "bulk" if part.bulk_least_h is None else "least_bulk"


def shown_stage(stage: str) -> str:
    """A stage as people name it: what only counts on within one is not told apart."""
    return {"least_bulk": "bulk", "tail": "absorption"}.get(stage, stage)


def holds(design: Design, part: Staged, stage: str, aboard_c: float | None) -> Held:
    """What a source holds in a stage [V], at a temperature aboard [degC] where that is told."""
    match shown_stage(stage):
        case "bulk":
            return held(design, part, "bulk", aboard_c)
        case "float":
            return held(design, part, "float", aboard_c)
        case _:
            return held(design, part, "absorption", aboard_c)


def charged_banks(kernel: Kernel, source: str) -> tuple[str, ...]:
    """Banks that a source itself regulates as things stand.

    What lies behind a dc-dc charger or a one-way combiner is charged by that, not by the source.
    """
    behind = {p.id for p in kernel.design.components if isinstance(p, DcDc | OneWayCombiner)}
    reached = reach(kernel.design, kernel.state, kernel.net.moved - behind).charges
    if source in reached:
        return reached[source]
    out = kernel.net.group(f"{source}.out")  # of a dc-dc charger
    banks = (b.id for b in kernel.design.of_type(Bank))
    return tuple(n for n in banks if kernel.net.group(f"{n}.pos") == out)


def stage_conditions(design: Design, part: Staged, discrete: DiscreteState) -> Iterable[Condition]:
    """The conditions under which a source leaves its stage; nothing while it stands still."""
    if part.id in discrete.silent_sources:
        return
    stage = dict(discrete.holding)[part.id]
    scale = design.system_v / 12
    assert part.float_v is not None
    set_v = holds(design, part, stage, discrete.temperature_c).volts_v
    if stage == "least_bulk":
        words = f"{part.name}: {part.bulk_least_h:g} h of bulk are over"
        action = Action("stage", part.id, "bulk", words)
        least_s = (part.bulk_least_h or 0.0) * 3600
        yield Condition(f"{part.id} least", _senses(part.id, 0.0), least_s, action, adds_up=True)
    elif stage == "bulk":
        words = f"{part.name} holds {set_v:.4g} V: absorption"
        action = Action("stage", part.id, "absorption", words)
        yield Condition(
            f"{part.id} full", _senses(part.id, set_v - REACHED_V * scale), REACHED_S, action
        )
    elif stage == "absorption":
        yield from _absorbing(part, set_v, scale)
    elif stage == "tail":
        yield _tail(part, set_v - REACHED_V * scale)
    elif stage == "float":
        least = part.rebulk_v or set_v - REBULK_UNDER_FLOAT_V * scale
        sensed = _senses(part.id, least)

        def low(now: Snapshot) -> float:
            above = sensed(now)
            return NEVER if above == NEVER else -above

        words = f"{part.name} begins anew: below {least:.4g} V"
        action = Action("stage", part.id, first_stage(part), words)
        yield Condition(f"{part.id} anew", low, REBULK_S, action)


def _absorbing(part: Staged, set_v: float, scale: float) -> Iterable[Condition]:
    """The end of absorption: its time, its tail current, or both one after the other."""
    done = "float" if part.absorption_until != "both" else "tail"
    hours = f"{part.absorption_h:g} h of absorption"
    sensed = _senses(part.id, set_v - TIMER_RESTS_V * scale)
    if part.absorption_until != "tail":
        words = f"{part.name} goes to float: {hours} are over"
        action = Action("stage", part.id, done, words)
        yield Condition(f"{part.id} timer", sensed, part.absorption_h * 3600, action, adds_up=True)
    else:
        yield _tail(part, set_v - REACHED_V * scale)


def _tail(part: Staged, reached_v: float) -> Condition:
    limit = part.tail_a or 0.0
    sensed = _senses(part.id, reached_v)

    def small(now: Snapshot) -> float:
        if sensed(now) <= 0:
            return NEVER
        return limit + now.amps(part.id)  # a source's own current counts negative

    words = f"{part.name} goes to float: its current has fallen to {limit:g} A"
    return Condition(f"{part.id} tail", small, TAIL_S, Action("stage", part.id, "float", words))


def _senses(source: str, limit_v: float) -> Reading:
    def reading(now: Snapshot) -> float:
        volts = now.control_v(source)
        return NEVER if volts is None else volts - limit_v

    return reading
