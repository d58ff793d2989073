"""What a report is made of: banks, relays, hazards, sentences, and the limits they are told by."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

__all__ = [
    "CHATTER_AN_HOUR",
    "FULL",
    "STUCK_H",
    "WHOLE_DAY_H",
    "BankDay",
    "Dip",
    "FloatBegan",
    "Hazard",
    "Joined",
    "Rank",
    "RelayDay",
    "Sentence",
    "Tone",
    "Unmet",
    "clock_words",
]

Tone = Literal["good", "caution", "bad"]
Rank = Literal["hazard", "stranded", "load_lost", "charge_lost", "none"]
FULL = 0.95  # float that begins with less than this in the bank begins too early; own judgement
CHATTER_AN_HOUR = 6.0
WHOLE_DAY_H = 24.0  # in so long the sun could have charged
STUCK_H = 2.0  # closed for longer than surface charge lasts under a usual load; own judgement


@dataclass(frozen=True)
class Sentence:
    """One sentence of the verdict and how grave it is; ``fix`` is what would mend it."""

    tone: Tone
    words: str
    fix: str = ""


@dataclass(frozen=True)
class BankDay:
    """A bank over the day [-], [h], [Ah]; ``was_charged`` by more than a trace."""

    bank: str
    begin_soc: float
    lowest_soc: float
    lowest_at_s: float
    end_soc: float
    in_ah: float
    out_ah: float
    was_charged: bool


@dataclass(frozen=True)
class RelayDay:
    """A relay or other gear: how often it closed, how long it stood moved [h], most in an hour.

    ``idle_h`` is how long of that no source gave anything.
    """

    relay: str
    closures: int
    closed_h: float
    idle_h: float
    most_an_hour: int


@dataclass(frozen=True)
class Joined:
    """Banks that hung together through closed contacts, and for how long [h]."""

    banks: tuple[str, ...]
    hours: float


@dataclass(frozen=True)
class FloatBegan:
    """A source went to float: when, and how full the emptiest bank that it charges was [-]."""

    source: str
    at_s: float
    bank: str
    soc: float


@dataclass(frozen=True)
class Unmet:
    """An item that was on but not served [h]; ``dead_h`` of that it reached no bank at all.

    ``always_on`` is what must never go without, such as alarms and bilge pumps.
    """

    item: str
    name: str
    hours: float
    wanted_h: float
    dead_h: float
    always_on: bool = False


@dataclass(frozen=True)
class Dip:
    """An item that an engine's start brings down to so many volts, below the least it needs [V]."""

    item: str
    name: str
    volts_v: float
    limit_v: float


@dataclass(frozen=True)
class Hazard:
    """Something that can hurt: its kind, the part, and words for it."""

    kind: str
    part: str
    at_s: float | None
    words: str


def clock_words(day_clock_h: float, at_s: float, hours: float) -> str:
    """A moment by the clock, with its day where the plan has several."""
    minutes = round((day_clock_h + at_s / 3600) * 60)
    day, left = divmod(minutes, 24 * 60)
    clock = f"{left // 60:02d}:{left % 60:02d}"
    return f"day {day + 1}, {clock}" if hours > 24 - day_clock_h else clock
