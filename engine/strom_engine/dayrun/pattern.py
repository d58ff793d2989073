"""When each load runs: blocks of the day and a seeded pattern of starts and stops."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass
from functools import cache
from random import Random

from strom_engine.dayrun.plan import Plan
from strom_engine.design import Design, FittedInverter, LoadGroup
from strom_engine.reference import load_table
from strom_engine.survey import AuditItem, Season, Survey

__all__ = ["OnSpan", "inverter_spans", "load_spans"]

# What draws by turns, a refrigerator say, is taken to do so about this often.
CYCLE_H = (0.6, 1.2)
Block = tuple[float, float]


@dataclass(frozen=True)
class OnSpan:
    """An item, as ``group.item``, draws between two hours of the plan [h]."""

    item: str
    start_h: float
    end_h: float


def load_spans(design: Design, survey: Survey | None, plan: Plan) -> tuple[OnSpan, ...]:
    """When every item draws in a plan.

    The hours of an item in a profile lie in its window of the day, as one block in each piece of
    the window, at a place that the plan's seed chooses; times x minutes lie scattered in it. An
    item with a duty below 1 draws by turns. All of it is masked by when people live so aboard; what
    must always run goes on when nobody is.
    An item that no survey knows runs through the whole of its profiles. One that has a lane of its
    own in the plan runs as that says.
    """
    found = [OnSpan(span.item, span.start_h, span.end_h) for span in plan.loads]
    told = {span.item for span in plan.loads}
    for part in design.components:
        if isinstance(part, LoadGroup | FittedInverter):
            for item in part.items:
                known = survey.items_by_id.get(item.id) if survey else None
                ref = f"{part.id}.{item.id}"
                if ref in told:
                    continue
                season: Season = survey.use.season if survey else "summer"
                standing = item.always_on and not item.brief
                one = _Item(
                    ref, known, item.profiles, standing, item.always_on, item.brief, season, plan
                )
                found += [OnSpan(ref, a, b) for a, b in one.spans()]
    return tuple(found)


def inverter_spans(design: Design, survey: Survey | None, plan: Plan) -> dict[str, list[Block]]:
    """When each inverter is switched on, by its hours in the survey; none where it says nothing.

    It is on, too, while something on it draws.
    """
    if survey is None or survey.inverter is None or not survey.inverter.on_h:
        return {}
    draws = load_spans(design, survey, plan)
    found = {}
    for part in design.of_type(FittedInverter):
        wanted = [(s.start_h, s.end_h) for s in draws if s.item.startswith(f"{part.id}.")]
        for span in plan.living:
            hours = survey.inverter.on_h.get(span.profile, 0.0)
            blocks = _blocks("evening", hours, Random(f"{plan.seed} {part.id}"))
            wanted += _masked(_daily(blocks, plan), span.start_h, span.end_h)
        found[part.id] = _merged(wanted)
    return found


@dataclass(frozen=True)
class _Item:
    ref: str
    known: AuditItem | None
    profiles: tuple[str, ...]
    standing: bool
    always_on: bool
    brief: bool
    season: Season
    plan: Plan

    def spans(self) -> list[Block]:
        whole = [(0.0, self.plan.hours)]
        if self.standing or (self.known is not None and self.known.standing):
            return self._by_turns(whole)
        found: list[Block] = []
        for span in self.plan.living:
            if self.known is None:
                lasting = span.profile in self.profiles and not self.brief
                found += [(span.start_h, span.end_h)] if lasting else []
                continue
            found += _masked(self._in_profile(span.profile), span.start_h, span.end_h)
        if self.always_on and self.known is not None:
            # A pump or an alarm goes on when nobody is aboard, as where it is wanted most.
            most = max(self.known.uses, key=self._hours, default=None)
            for start_h, end_h in _gaps(self.plan):
                alone = self._in_profile(most) if most is not None else []
                found += _masked(alone, start_h, end_h)
        return self._by_turns(_merged(found))

    def _hours(self, profile: str) -> float:
        assert self.known is not None
        return self.known.hours_in(profile, self.season)

    def _in_profile(self, profile: str) -> list[Block]:
        assert self.known is not None
        used = self.known.uses.get(profile)
        hours = self.known.hours_in(profile, self.season)
        if used is None or hours <= 0:
            return []
        if used.times and used.minutes:
            return self._scattered(hours, used.minutes / 60)
        return _daily(_blocks(self.known.window, hours, Random(self._seed(profile))), self.plan)

    def _scattered(self, hours: float, each_h: float) -> list[Block]:
        """So many short runs a day, each day at other moments of its window."""
        assert self.known is not None
        pieces = _pieces(self.known.window)
        found = []
        for day in range(_days(self.plan)):
            rng = Random(self._seed(str(day)))
            for _ in range(max(1, round(hours / each_h))):
                start, end = rng.choices(pieces, [b - a for a, b in pieces])[0]
                at = 24 * day - self.plan.clock_h + rng.uniform(start, max(start, end - each_h))
                found.append((at, at + each_h))
        return found

    def _by_turns(self, blocks: list[Block]) -> list[Block]:
        """What of some blocks it really draws in, by its duty."""
        duty = self.known.duty if self.known else 1.0
        if duty >= 1.0 or not blocks:
            return blocks
        if duty <= 0.0:
            return []
        rng = Random(self._seed("turns"))
        period, found = rng.uniform(*CYCLE_H), []
        phase = rng.uniform(0, period)
        for start, end in blocks:
            n = int((start + phase) // period)
            while (at := n * period - phase) < end:
                piece = max(at, start), min(at + duty * period, end)
                if piece[1] > piece[0]:
                    found.append(piece)
                n += 1
        return found

    def _seed(self, of: str) -> str:
        return f"{self.plan.seed} {self.ref} {of}"


@cache
def _pieces(window: str) -> list[Block]:
    """The pieces of a window in hours of the clock; one over midnight ends after 24."""
    rows = [r for r in load_table("day_windows").rows if r["window"] == window]
    pieces = sorted((float(r["from_h"]), float(r["to_h"])) for r in rows)
    if len(pieces) > 1 and pieces[0][0] == 0.0 and pieces[-1][1] == 24.0:
        return [(pieces[-1][0], 24.0 + pieces[0][1]), *pieces[1:-1]]
    return pieces


def _blocks(window: str, hours: float, rng: Random) -> list[Block]:
    """Blocks of the clock [h] in a window; one around it where the hours are more than it has."""
    pieces = _pieces(window)
    whole = sum(b - a for a, b in pieces)
    if hours >= whole:
        middle = (pieces[0][0] + pieces[-1][1]) / 2
        return [(middle - hours / 2, middle + hours / 2)]
    found = []
    for start, end in pieces:
        share = hours * (end - start) / whole
        at = start + rng.uniform(0, (end - start) - share)
        found.append((at, at + share))
    return found


def _days(plan: Plan) -> int:
    return int((plan.clock_h + plan.hours) // 24) + 1


def _daily(blocks: Iterable[Block], plan: Plan) -> list[Block]:
    """Blocks of the clock on every day of a plan, in its own hours."""
    blocks = list(blocks)
    return [
        (24 * day - plan.clock_h + a, 24 * day - plan.clock_h + b)
        for day in range(-1, _days(plan))
        for a, b in blocks
    ]


def _masked(blocks: Iterable[Block], start: float, end: float) -> list[Block]:
    cut = ((max(a, start), min(b, end)) for a, b in blocks)
    return [(a, b) for a, b in cut if b > a]


def _merged(blocks: Iterable[Block]) -> list[Block]:
    found: list[Block] = []
    for a, b in sorted(blocks):
        if found and a <= found[-1][1] + 1e-9:
            found[-1] = (found[-1][0], max(found[-1][1], b))
        else:
            found.append((a, b))
    return found


def _gaps(plan: Plan) -> list[Block]:
    """When nobody is aboard."""
    found, at = [], 0.0
    for start, end in _merged((s.start_h, s.end_h) for s in plan.living):
        if start > at:
            found.append((at, start))
        at = max(at, end)
    return [*found, (at, plan.hours)] if plan.hours > at else found
