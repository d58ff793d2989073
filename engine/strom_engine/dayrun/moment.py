"""A recorded moment of a day as the bench shows one: every volt and amp, who feeds what."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, replace

from strom_engine.batteries import BankWells
from strom_engine.circuit import BenchResult, OperatingPoint, laid_out
from strom_engine.circuit.results import ContactNow, ConverterNow, RelayNow, Verdict
from strom_engine.dayrun.discrete_state import DiscreteState
from strom_engine.dayrun.kernel import Snapshot
from strom_engine.dayrun.plan import Plan
from strom_engine.dayrun.simulation_context import SimulationContext
from strom_engine.design import DcDc, Design, OneWayCombiner, Relay
from strom_engine.faults import Effects, effects_of, fault_from_key
from strom_engine.survey import Survey, surveyed

__all__ = ["KeptMoment", "moment_of"]


@dataclass(frozen=True)
class KeptMoment:
    """What a moment [s] is made from again: what stood, wells [Ah] and warmth [degC]."""

    at_s: float
    discrete: DiscreteState
    wells: Mapping[str, BankWells]
    warmth_c: Mapping[str, float]


def moment_of(
    design: Design,
    survey: Survey | None,
    plan: Plan,
    kept: KeptMoment,
    effects: Effects | None = None,
) -> tuple[Design, BenchResult]:
    """The whole circuit at a moment of a day, with the design as it then was.

    Args:
        design: the boat, as surveyed.
        survey: its survey; None where there is none.
        plan: of the day.
        kept: the moment, as the day kept it.
        effects: of faults; none when None.

    Returns:
        The design with leads moved by then, and all that the bench shows of it.

    Raises:
        ComputationError: the state cannot be solved.
    """
    if effects is None:
        design = surveyed(design, survey)
    if plan.fault is not None and kept.at_s >= plan.fault.at_h * 3600:
        effects = effects_of(design, fault_from_key(design, plan.fault.key))
    world = SimulationContext(design, survey, plan, effects)
    world.first_moment()
    kernel = world.kernel(kept.discrete)
    kernel.follow(None)
    now = world.moment(kept.discrete, kept.at_s, kept.wells, kept.warmth_c)
    point = _with_gear(world.design, now, kept.discrete)
    soc = {n: b.soc(kept.wells[n]) for n, b in world.banks.items()}
    point = replace(point, banks={n: replace(b, soc=soc[n]) for n, b in point.banks.items()})
    sun = world.sunlight.at(kept.at_s / 3600)
    state = kept.discrete.state(sun).model_copy(update={"soc": soc})
    return kernel.design, laid_out(kernel.design, state, point)


def _with_gear(design: Design, now: Snapshot, discrete: DiscreteState) -> OperatingPoint:
    """The point with what moves by itself as it stands."""
    relays: dict[str, RelayNow] = {}
    converters: dict[str, ConverterNow] = {}
    contacts: dict[str, ContactNow] = {}
    for part in design.components:
        if not part.moves_itself:
            continue
        moved = part.id in discrete.moved
        match part:
            case Relay():
                sees = {p: now.volts(f"{part.id}.{p}", f"{part.id}.neg") for p in ("a", "b")}
                words = "stands closed" if moved else "stands open"
                verdict: Verdict = "closed" if moved else "open"
                relays[part.id] = RelayNow(
                    verdict, moved, False, {} if moved else sees, sees if moved else {}, words
                )
            case DcDc() | OneWayCombiner():
                converters[part.id] = _converter(part, now, runs=moved)
            case _:
                verdict = "open" if moved else "closed"
                words = "is open" if moved else "is closed"
                contacts[part.id] = ContactNow(verdict, not moved, None, 0.0, words)
    point = now.kernel.assembled(now.point)
    return replace(point, relays=relays, converters=converters, contacts=contacts)


def _converter(part: DcDc | OneWayCombiner, now: Snapshot, *, runs: bool) -> ConverterNow:
    minus = part.out_neg if isinstance(part, DcDc) else "neg"
    through_a = now.amps(part.id)
    i = now.kernel.index.get(part.id)
    return ConverterNow(
        verdict="closed" if runs else "open",
        closed=runs,
        in_v=now.volts(f"{part.id}.in", f"{part.id}.neg"),
        in_a=now.amps(f"{part.id}.in") if isinstance(part, DcDc) else through_a,
        out_v=now.volts(f"{part.id}.out", f"{part.id}.{minus}"),
        out_a=-through_a if isinstance(part, DcDc) else through_a,
        mode="off" if i is None else now.point.solution.modes[i],
        why="runs" if runs else "rests",
    )
