"""Slips that go on from the day as planned come to the same as when run from the beginning."""

from __future__ import annotations

from typing import Any

import pytest
from strom_engine.dayrun import (
    Day,
    Limits,
    Plan,
    SharedDay,
    day_of_case,
    outcome_of,
    possible_cases,
)
from strom_engine.dayrun.plan import EngineSpan, LivingSpan, Move, PlannedFault, ShoreSpan
from strom_engine.design import Design
from strom_engine.errors import TooLargeError
from strom_engine.survey import Survey

from bench.classics import CLASSICS
from bench.days import reference_day
from bench.designs import Draft
from tests.engine.test_twins import twin

CHATTER = next(c for c in CLASSICS if c.id == "chatter")
SELECTOR = next(c for c in CLASSICS if c.id == "left_in_both").boats["selector left in both"]


def facts(day: Day) -> dict[str, Any]:
    """Everything that a day says of itself, floats to the last bit."""
    tallies = {k: v for k, v in vars(day.tallies).items() if k.endswith(("_h", "_v", "_soc"))}
    series = [list(day.recording.at_s), day.recording.wells, day.recording.volts_v]
    return {
        "steps": day.steps, "events": day.events, "tries": day.tries, "ended": day.ended_soc,
        "tallies": tallies, "ledger": day.ledger, "series": series, "outcome": outcome_of(day),
    }  # fmt: skip


def chattering() -> tuple[Design, Survey | None, Plan]:
    """Rounds of a relay are counted on, and how many depends on what is due next."""
    boat = CHATTER.boats["charger on the engine bank"]()
    feed = next(c for c in boat.cables if c.end == "panel.pos")
    draft = Draft()
    draft.part("switch", "house_switch", position="on")
    before = feed.model_copy(update={"end": "house_switch.a"})
    behind = feed.model_copy(update={"id": "switch_panel", "start": "house_switch.b"})
    boat = boat.replace_unchecked(
        components=(*boat.components, *draft.design().components),
        cables=(*(c for c in boat.cables if c is not feed), before, behind),
    )
    turns = [Move(at_h=h, switch="house_switch", position=p) for h, p in ((5, "off"), (9, "on"))]
    plan = CHATTER.plan.model_copy(update={"moves": tuple(turns)})
    return boat, None, plan


def failing_starts() -> tuple[Design, Survey | None, Plan]:
    """A start that fails brings about tries of its own, and a fault begins on the way."""
    hours = 30.0
    plan = Plan(
        name="Empty",
        hours=hours,
        engine=(EngineSpan(start_h=20, end_h=22), EngineSpan(start_h=26, end_h=27)),
        living=(LivingSpan(start_h=0, end_h=hours, profile="living"),),
        shore=(ShoreSpan(start_h=28, end_h=29),),
        moves=tuple(
            Move(at_h=h, switch="selector", position=p)
            for h, p in ((1, "both"), (21, "1"), (25, "2"), (hours, "1"))
        ),
        emergency={"selector": "both"},
        soc={"engine_bank": 0.2},
        fault=PlannedFault(at_h=23, key="negative_open house_bank"),
    )
    return SELECTOR(), None, plan


def at_24_v() -> tuple[Design, Survey | None, Plan]:
    design, survey, plan = failing_starts()
    return twin(design), survey, plan


@pytest.mark.parametrize(
    ("of", "brief"),
    [(reference_day, True), (chattering, False), (failing_starts, False), (at_24_v, True)],
)
def test_a_slip_goes_on_from_the_planned_day_to_the_last_bit(of: Any, brief: bool) -> None:
    design, survey, plan = of()
    limits = Limits(brief=brief)
    cases = [c for c in possible_cases(design, survey, plan) if c.fault is None]
    shared = SharedDay(design, survey, plan, limits)
    some = cases if len(cases) < 13 else cases[::4]
    # In the order of the plan, and once more from the beginning.
    for case in [*some, cases[0]]:
        alone = day_of_case(design, survey, plan, case, limits)
        together = shared.of_case(case)
        assert facts(together) == facts(alone), case.key
        assert together.plan == alone.plan


def test_what_they_share_is_run_once_and_what_never_differs_not_at_all() -> None:
    design, survey, plan = failing_starts()
    told: list[float] = []
    cases = {c.key: c for c in possible_cases(design, survey, plan) if c.fault is None}
    shared = SharedDay(design, survey, plan)
    # The fourth move is at the very end: nothing comes of it, whatever becomes of it.
    first, second = (shared.of_case(cases[key]) for key in ("omitted 3", "wrong 3 off"))
    assert first.events is second.events and len(second.plan.moves) == 4
    shared.of_case(cases["omitted 2"], told.append)
    assert told[0] < 0.01
    # Both part from the plan once the engine has been stopped at 22 h of 30.
    from_there: list[float] = []
    shared.of_case(cases["through 2 off"], from_there.append)
    assert min(from_there) > 22 / 30


def test_a_sweep_that_is_stopped_goes_on_rightly_afterwards() -> None:
    design, survey, plan = failing_starts()
    case = next(c for c in possible_cases(design, survey, plan) if c.key == "omitted 2")
    shared = SharedDay(design, survey, plan)

    def stop(share: float) -> None:
        if share > 0.5:
            raise TooLargeError("stopped")

    with pytest.raises(TooLargeError):
        shared.of_case(case, stop)
    alone = day_of_case(design, survey, plan, case, Limits(brief=True))
    assert facts(shared.of_case(case)) == facts(alone)
