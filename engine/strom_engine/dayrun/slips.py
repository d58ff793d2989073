"""The slip test and the fault sweep: one thing goes wrong, and what then happens."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass
from typing import Literal

from strom_engine.dayrun.day import Day, day_run
from strom_engine.dayrun.limits import Limits
from strom_engine.dayrun.lines import Rank, Unmet, clock_words
from strom_engine.dayrun.outcome import Outcome
from strom_engine.dayrun.plan import Move, Plan
from strom_engine.design import Design, Selector, switch_positions
from strom_engine.design.state import switches
from strom_engine.errors import PlanError, Problem
from strom_engine.faults import Fault, effects_of, possible_faults
from strom_engine.survey import Survey, surveyed

__all__ = [
    "Case",
    "Consequence",
    "consequence",
    "day_of_case",
    "plan_of",
    "possible_cases",
    "ranked",
]

MAX_CASES = 400
DELAY_H = 2.0
SHORTEST_DELAY_H = 0.05
ORDER: tuple[Rank, ...] = ("hazard", "stranded", "load_lost", "charge_lost", "none")
# What must differ from the day as planned to count at all; own judgement. A load that wants only
# minutes a day, such as a bilge pump, is missed when a tenth of those are.
UNMET_MORE_H = 0.25
UNMET_SHARE = 0.1
CHARGE_LESS = 0.05
WEAKER_V = 0.3


@dataclass(frozen=True)
class Case:
    """One thing that goes wrong: a switch move forgotten, late or wrong, or a part that failed.

    ``move`` is the number of the plan's move, ``to`` where a wrong one goes, ``through`` what one
    to the right place passes on its way.
    """

    key: str
    kind: Literal["omitted", "delayed", "wrong", "fault"]
    words: str
    move: int | None = None
    delay_h: float = 0.0
    to: str | None = None
    through: str | None = None
    fault: Fault | None = None


@dataclass(frozen=True)
class Consequence:
    """What a case leads to, against the day as planned: its rank, and what follows in a sentence.

    ``weight`` orders cases of one rank, the gravest first.
    """

    rank: Rank
    weight: float
    story: str


def possible_cases(design: Design, survey: Survey | None, plan: Plan) -> tuple[Case, ...]:
    """Every move of a plan omitted, delayed and made the wrong way, and every part failing.

    Raises PlanError where that is more than is computed in one sweep.

    Args:
        design: the boat, as surveyed.
        survey: its survey; None where there is none.
        plan: the day as meant.

    Returns:
        Cases in the order of the plan, then of the parts.
    """
    design = surveyed(design, survey)
    found = [c for n, move in enumerate(plan.moves) for c in _slips(design, plan, n, move)]
    found += [
        Case(f.key, "fault", f"From the beginning {f.words}.", fault=f)
        for f in possible_faults(design)
    ]
    if len(found) > MAX_CASES:
        text = (
            f"{len(plan.moves)} moves and the parts of this scheme make {len(found)} cases; one "
            f"sweep has {MAX_CASES} at most: take a shorter plan"
        )
        raise PlanError([Problem("moves", text)])
    return tuple(found)


def _slips(design: Design, plan: Plan, n: int, move: Move) -> Iterable[Case]:
    part = next(s for s in switches(design) if s.id == move.switch)
    at = clock_words(plan.clock_h, move.at_h * 3600, plan.hours)
    done = f"{part.name} to {move.position}"
    before = [m.position for m in plan.moves[:n] if m.switch == move.switch]
    was = before[-1] if before else part.position
    if was != move.position:  # where it stands already, nobody needs to turn it
        yield Case(f"omitted {n}", "omitted", f"At {at} nobody turns {done}.", n)
        following = [m.at_h for m in plan.moves if m.switch == move.switch and m.at_h > move.at_h]
        delay_h = min(DELAY_H, (min(following, default=plan.hours) - move.at_h) / 2)
        if delay_h >= SHORTEST_DELAY_H:
            late = clock_words(plan.clock_h, (move.at_h + delay_h) * 3600, plan.hours)
            words = f"{done} is turned at {late}, not at {at}."
            yield Case(f"delayed {n}", "delayed", words, n, delay_h)
    for to in switch_positions(part):
        if to not in (was, move.position):
            words = f"At {at} {part.name} is turned to {to} instead of {move.position}."
            yield Case(f"wrong {n} {to}", "wrong", words, n, to=to)
    if isinstance(part, Selector) and "off" not in (was, move.position):
        words = f"At {at} {part.name} is turned to {move.position} through off."
        yield Case(f"through {n} off", "wrong", words, n, through="off")


def plan_of(plan: Plan, case: Case) -> Plan:
    """The plan with its slip.

    Args:
        plan: the day as meant.
        case: what goes wrong; a fault leaves the plan as it is.
    """
    if case.move is None:
        return plan
    moves = list(plan.moves)
    move = moves[case.move]
    if case.kind == "omitted":
        del moves[case.move]
    elif case.kind == "delayed":
        moves[case.move] = move.model_copy(update={"at_h": move.at_h + case.delay_h})
    elif case.through is not None:
        moves[case.move] = move.model_copy(update={"through": case.through})
    else:
        moves[case.move] = move.model_copy(update={"position": case.to})
    return plan.model_copy(update={"moves": tuple(moves)})


def day_of_case(
    design: Design,
    survey: Survey | None,
    plan: Plan,
    case: Case,
    limits: Limits | None = None,
) -> Day:
    """The day in which one thing goes wrong.

    Args:
        design: the boat, as surveyed.
        survey: its survey; None where there is none.
        plan: the day as meant.
        case: what goes wrong.
        limits: of steps and events; the usual ones when None.

    Returns:
        The computed day.

    Raises:
        PlanError: the plan does not fit the design.
        ComputationError: a state cannot be solved.
    """
    broken = None if case.fault is None else effects_of(surveyed(design, survey), case.fault)
    return day_run(design, survey, plan_of(plan, case), broken, limits)


def consequence(design: Design, planned: Outcome, found: Outcome) -> Consequence:
    """What a case leads to against the day as planned.

    Args:
        design: the boat, as surveyed.
        planned: what the planned day comes to.
        found: what the day of the case comes to.

    Returns:
        Rank and words, with what is lost against the plan.
    """
    known = {(h.kind, h.part) for h in planned.hazards}
    new = [h for h in found.hazards if (h.kind, h.part) not in known]
    if new:
        return Consequence("hazard", float(len(new)), f"{new[0].words}.")
    if found.stranded and not planned.stranded:
        volts = "no bank" if found.failed_v is None else f"{found.failed_v:.1f} V"
        text = f"The engine does not start at {found.failed_at}: {volts} at the starter."
        return Consequence("stranded", 1.0 + (12 - (found.failed_v or 0.0)), text)
    more = _missed_more(planned, found)
    if more:
        (worst, hours), *others = sorted(more, key=lambda pair: (not pair[0].always_on, -pair[1]))
        also = f", {len(others)} more load{'s' if len(others) > 1 else ''} too" if others else ""
        text = f"{worst.name} goes without for {hours:.1f} h{also}."
        return Consequence("load_lost", sum(h for _, h in more), text)
    return _charge_lost(design, planned, found)


def _missed_more(planned: Outcome, found: Outcome) -> list[tuple[Unmet, float]]:
    """Loads that go without for so much longer than planned that it counts [h]."""
    before_h = {u.item: u.hours for u in planned.unmet}
    more = [(u, u.hours - before_h.get(u.item, 0.0)) for u in found.unmet]
    return [(u, h) for u, h in more if h > min(UNMET_MORE_H, UNMET_SHARE * u.wanted_h)]


def _charge_lost(design: Design, planned: Outcome, found: Outcome) -> Consequence:
    less = {
        name: max(planned.end_soc[name] - soc, planned.lowest_soc[name] - found.lowest_soc[name])
        for name, soc in found.end_soc.items()
    }
    worst = max(less, key=lambda n: less[n], default=None)
    if found.in_emergency > planned.in_emergency:
        text = (
            f"The engine starts only in an emergency, with the banks joined, at {found.failed_at}."
        )
        return Consequence("charge_lost", 2.0, text)
    if worst is not None and less[worst] > CHARGE_LESS:
        name = design.by_id[worst].name
        text = (
            f"{name} falls to {found.lowest_soc[worst]:.0%} and ends at "
            f"{found.end_soc[worst]:.0%}, planned {planned.end_soc[worst]:.0%}."
        )
        return Consequence("charge_lost", less[worst], text)
    if found.float_soc is not None and found.float_soc < (planned.float_soc or 1.0) - CHARGE_LESS:
        text = f"A charge ends at {found.float_soc:.0%}, planned {planned.float_soc or 1.0:.0%}."
        return Consequence("charge_lost", 0.05, text)
    if (
        found.weakest_v is not None
        and planned.weakest_v is not None
        and found.weakest_v < planned.weakest_v - WEAKER_V
    ):
        text = f"The weakest start has {found.weakest_v:.1f} V, planned {planned.weakest_v:.1f} V."
        return Consequence("none", 0.01, text)
    return Consequence("none", 0.0, "Nothing that matters follows from it.")


def ranked(found: Iterable[tuple[Case, Consequence]]) -> list[tuple[Case, Consequence]]:
    """Cases with their consequences, the gravest first.

    Args:
        found: cases, each with its consequence.
    """
    return sorted(found, key=lambda pair: (ORDER.index(pair[1].rank), -pair[1].weight, pair[0].key))
