"""What the panels get through a plan: sunrise to sunset under the sky overhead."""

from __future__ import annotations

from bisect import bisect_right

from strom_engine.dayrun.plan import Plan
from strom_engine.reference import load_table
from strom_engine.sizing.solar import (
    DEFAULT_LATITUDE_DEG,
    PANEL_PERFORMANCE,
    STEP_H,
    clear_sky_w,
    month_of,
    panel_condition,
    sky_share,
)
from strom_engine.survey import Sun, Survey

__all__ = ["Sunlight"]


class Sunlight:
    """The share of their rated power that panels have, by the hour of a plan.

    As the computed way of the stage Banks: clear sky of the latitude and month, the mean sky,
    heat and dirt, shade, age. ``edges_h`` are sunrise and sunset and every change of sky [h].
    """

    def __init__(self, plan: Plan, survey: Survey | None) -> None:
        sun = survey.sun if survey else Sun()
        told = survey.boat.latitude_deg if survey else None
        latitude = round(DEFAULT_LATITUDE_DEG if told is None else told, 1)
        season = survey.use.season if survey else "summer"
        month = plan.month or sun.month or month_of(season, latitude)
        self._clock_h = plan.clock_h
        self._clear = [w / 1000 for w in clear_sky_w(latitude, month)]
        condition = PANEL_PERFORMANCE * panel_condition(sun)
        shares = {
            row["sky"]: condition * sky_share(float(row["sunshine"]))
            for row in load_table("skies").rows
        }
        changes = {0.0: shares[sun.sky]}
        for span in sorted(plan.sky, key=lambda s: s.start_h):
            changes[span.start_h] = shares[span.sky]
            changes.setdefault(span.end_h, shares[sun.sky])
        self._skies = sorted(changes.items())
        self._starts = [at for at, _ in self._skies]
        self.edges_h = tuple(sorted({*self._starts, *self._rises_and_sets(plan.hours)}))

    def at(self, hour: float) -> float:
        """Share of rated power [-] at an hour of the plan [h]."""
        place = ((self._clock_h + hour) % 24) / STEP_H
        i = int(place) % len(self._clear)
        after = self._clear[(i + 1) % len(self._clear)]
        clear = self._clear[i] + (place - int(place)) * (after - self._clear[i])
        return clear * self._skies[bisect_right(self._starts, hour) - 1][1] if clear > 0 else 0.0

    def _rises_and_sets(self, hours: float) -> list[float]:
        count = len(self._clear)
        lit = [w > 0 for w in self._clear]
        # The sun is there between two grid points when either of them is lit.
        edges = [(i - 1) * STEP_H for i in range(count) if lit[i] and not lit[i - 1]]
        edges += [i * STEP_H for i in range(count) if not lit[i] and lit[i - 1]]
        days = range(-1, int((self._clock_h + hours) // 24) + 1)
        found = (24 * day + edge - self._clock_h for day in days for edge in edges)
        return [at for at in found if 0 < at < hours]
