"""What is watched while time passes: a condition, how long it must hold, what it then does."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass

from strom_engine.dayrun.kernel import Snapshot

__all__ = ["NEVER", "Action", "Condition", "Reading", "over", "under"]

Reading = Callable[[Snapshot], float]
NEVER = -1e9  # a condition that nothing in this circuit can fulfil


@dataclass(frozen=True)
class Action:
    """What a watch does when its time has run out.

    ``kind``: ``move`` (a part moves itself: ``to`` is *moved* or *rest*), ``stage`` (a source
    goes on to stage ``to``), ``note`` (nothing moves: something began or ended). ``if_dead`` are
    the words instead where no bank reaches the part.
    """

    kind: str
    part: str
    to: str
    words: str
    if_dead: str = ""


@dataclass(frozen=True)
class Condition:
    """A condition that holds while ``reading`` is above 0, for ``delay_s`` before its action.

    Its timer starts anew each time unless it ``adds_up``; then it only rests meanwhile.
    """

    key: str
    reading: Reading
    delay_s: float
    action: Action
    adds_up: bool = False


def over(posts: tuple[tuple[str, str], ...], limit_v: float) -> Reading:
    """Whether the highest voltage between some posts is above a limit [V]."""

    def reading(now: Snapshot) -> float:
        known = [v for plus, minus in posts if (v := now.volts(plus, minus)) is not None]
        return max(known) - limit_v if known else NEVER

    return reading


def under(posts: tuple[tuple[str, str], ...], limit_v: float, *, dead: bool = True) -> Reading:
    """Whether the highest voltage between some posts is below a limit [V].

    ``dead`` says whether posts without any defined voltage count as below.
    """

    def reading(now: Snapshot) -> float:
        known = [v for plus, minus in posts if (v := now.volts(plus, minus)) is not None]
        if not known:
            return -NEVER if dead else NEVER
        return limit_v - max(known)

    return reading
