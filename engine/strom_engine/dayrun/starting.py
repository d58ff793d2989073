"""Tries to start an engine: what the starter has, which banks give it, and whether it is enough."""

from __future__ import annotations

from strom_engine.dayrun.discrete_state import Engine
from strom_engine.dayrun.events import StartTry
from strom_engine.dayrun.kernel import Snapshot
from strom_engine.dayrun.simulation_context import SimulationContext
from strom_engine.design import Bank, Design, Starter
from strom_engine.sizing import turning_v

__all__ = ["engine_name", "start_try", "start_words", "starter_v"]

FRESH_V = 0.05  # of a 12 V bank, left over from charging: more volts than it has at rest
GIVING_SHARE = 0.05  # of what the starter takes: banks that give more are behind the start


def engine_name(design: Design, engine: Engine) -> str:
    """What an engine is called: where there are two, first and second."""
    twins = any(s.engine == "second" for s in design.of_type(Starter))
    return f"{engine.title()} engine" if twins else "Engine"


def starter_v(design: Design, now: Snapshot, engine: Engine) -> float | None:
    """Volts at an engine's starter [V]; None where no bank reaches it."""
    starter = _starter(design, engine)
    return now.volts(f"{starter.id}.pos", f"{starter.id}.neg")


def start_try(
    world: SimulationContext,
    now: Snapshot,
    at_s: float,
    engine: Engine,
    first_v: float | None,
    *,
    again: bool,
) -> StartTry:
    """A try that ends at a moment [s], by its volts as it began [V] and as it ends."""
    starter = _starter(world.design, engine)
    volts, amps = starter_v(world.design, now, engine), now.amps(starter.id)
    lowest = None if volts is None or first_v is None else min(volts, first_v)
    limit_v = turning_v(world.design, starter, world.cranked_at_c(now.kernel.aboard_c))
    giving = tuple(n for n in world.banks if now.amps(n) < -GIVING_SHARE * max(amps, 1.0))
    return StartTry(
        at_s=at_s,
        engine=engine,
        starter=starter.id,
        volts_v=lowest,
        current_a=amps,
        limit_v=limit_v,
        banks=giving,
        started=lowest is not None and lowest >= limit_v,
        in_emergency=again,
        fresh=any(_fresh(world, now, name) for name in giving),
    )


def _fresh(world: SimulationContext, now: Snapshot, bank: str) -> bool:
    """Whether a bank has more volts than at rest, left over from charging."""
    left_v = world.banks[bank].open_v(now.wells[bank]) - world.banks[bank].emf_v(now.wells[bank])
    part = world.design.by_id[bank]
    return isinstance(part, Bank) and left_v > FRESH_V * part.nominal_v / 12


def start_words(design: Design, one: StartTry, engine: Engine) -> str:
    """A try in a sentence."""
    does = "starts" if one.started else "does not start"
    has = "reaches no bank" if one.volts_v is None else f"{one.volts_v:.1f} V at the starter"
    fresh = ", fresh from charging" if one.fresh else ""
    return f"{engine_name(design, engine)} {does}: {has}{fresh}"


def _starter(design: Design, engine: Engine) -> Starter:
    return next(s for s in design.of_type(Starter) if s.engine == engine)
