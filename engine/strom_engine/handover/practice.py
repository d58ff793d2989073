"""When a scene is practised again: soon after it went wrong, ever later while it goes right.

After Leitner, *So lernt man lernen* (1972): boxes with growing intervals; one mistake leads back to
the first. The intervals are our own judgement for something that is done a few times a season.
"""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from dataclasses import dataclass
from datetime import datetime, timedelta

__all__ = ["INTERVALS_DAYS", "Standing", "standing_of"]

INTERVALS_DAYS = (0, 7, 30, 90, 180)  # after so many right in a row


@dataclass(frozen=True)
class Standing:
    """How a scene stands: how often it was practised, right in a row, and when it is due again."""

    scene: str
    times: int
    in_a_row: int
    due: datetime | None
    is_due: bool


def standing_of(
    scenes: Sequence[str], results: Iterable[tuple[str, datetime, bool]], now: datetime
) -> tuple[Standing, ...]:
    """Scenes in the order in which they are practised: due ones first, wrong ones before new ones.

    Args:
        scenes: keys, the gravest first.
        results: scene, moment, whether it went right; in any order.
        now: this moment.
    """
    by: dict[str, list[tuple[datetime, bool]]] = {key: [] for key in scenes}
    for scene, at, right in results:
        if scene in by:
            by[scene].append((at, right))
    found = [_standing(key, sorted(told), now) for key, told in by.items()]
    return tuple(sorted(found, key=lambda s: (not s.is_due, s.times == 0, s.in_a_row)))


def _standing(scene: str, told: Sequence[tuple[datetime, bool]], now: datetime) -> Standing:
    in_a_row = 0
    for _, right in told:
        in_a_row = in_a_row + 1 if right else 0
    if not told:
        return Standing(scene, 0, 0, None, is_due=True)
    days = INTERVALS_DAYS[min(in_a_row, len(INTERVALS_DAYS) - 1)]
    due = told[-1][0] + timedelta(days=days)
    return Standing(scene, len(told), in_a_row, due, is_due=due <= now)
