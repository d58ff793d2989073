"""Conditions under way: which hold, since when, and what is due next."""

from __future__ import annotations

import math
from collections.abc import Iterable, Mapping

from strom_engine.dayrun.conditions import Condition
from strom_engine.dayrun.kernel import Snapshot

__all__ = ["Timers"]

DONE = math.inf


class Timers:
    """The conditions of what stands now, each with its timer."""

    def __init__(self) -> None:
        self._watches: dict[str, Condition] = {}
        self._holds: dict[str, bool] = {}
        self._due: dict[str, float] = {}
        self._left: dict[str, float] = {}
        self._read: tuple[Snapshot | None, dict[str, bool]] = (None, {})

    def renew(self, conditions: Iterable[Condition], now: Snapshot, at_s: float) -> None:
        """Watch other things from now on; a timer under way of the same watch goes on."""
        before, self._watches = self._watches, {w.key: w for w in conditions}
        for key in before:
            if key not in self._watches:
                for kept in (self._holds, self._due, self._left):
                    kept.pop(key, None)
        self._read = None, {}
        self.settle(now, at_s)

    def crossed(self, now: Snapshot) -> bool:
        """Whether any condition has begun or ceased to hold."""
        return self._holding(now) != self._holds

    def _holding(self, now: Snapshot) -> dict[str, bool]:
        """Which conditions hold at a moment; each moment is read once."""
        if self._read[0] is not now:
            self._read = now, {key: w.reading(now) > 0 for key, w in self._watches.items()}
        return self._read[1]

    def soonest(self, before: Snapshot, after: Snapshot) -> float:
        """Share of a step [-] at which the first condition that changed does so, by secant."""
        found = 1.0
        for watch in self._watches.values():
            a, b = watch.reading(before), watch.reading(after)
            if (b > 0) != self._holds[watch.key] and a != b:
                found = min(found, max(0.0, a / (a - b)))
        return found

    def settle(self, now: Snapshot, at_s: float) -> None:
        """Start and stop timers by what holds at a moment [s]."""
        holding = self._holding(now)
        if holding == self._holds:
            return
        for key, watch in self._watches.items():
            holds = holding[key]
            if holds == self._holds.get(key):
                continue
            self._holds[key] = holds
            if holds:
                self._due[key] = at_s + self._left.get(key, watch.delay_s)
            elif key in self._due:
                due = self._due.pop(key)
                if watch.adds_up:
                    self._left[key] = max(0.0, due - at_s)

    def left_s(self, at_s: float) -> dict[str, float]:
        """What each timer that counts still has to run [s]."""
        running = {k: due - at_s for k, due in self._due.items() if due != DONE}
        return self._left | running

    def moved_on(self, at_s: float, left_s: Mapping[str, float]) -> None:
        """It is later: what each timer still has to run from now on [s]."""
        for key, left in left_s.items():
            if self._due.get(key, DONE) != DONE:
                self._due[key] = at_s + left
            elif key in self._left:
                self._left[key] = left

    def next_due_s(self) -> float:
        """When the next timer runs out [s]; never is infinite."""
        return min(self._due.values(), default=math.inf)

    def take(self, at_s: float) -> Condition | None:
        """A watch whose time has run out; each is taken once for every time that it holds."""
        ready = [(due, key) for key, due in self._due.items() if due <= at_s + 1e-9]
        if not ready:
            return None
        key = min(ready)[1]
        self._due[key] = DONE
        return self._watches[key]
