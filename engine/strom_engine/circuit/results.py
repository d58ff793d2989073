"""What an operating point tells, as plain data. Volts [V], amps [A], into a bank positive."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, field
from typing import Literal

__all__ = [
    "BankNow",
    "ContactNow",
    "ConverterNow",
    "ItemNow",
    "LoadNow",
    "OperatingPoint",
    "PassingNow",
    "RelayNow",
    "ShuntNow",
    "SourceNow",
    "StarterNow",
    "Totals",
    "Verdict",
]

Verdict = Literal["open", "closed", "chatters"]


@dataclass(frozen=True)
class BankNow:
    """A bank: terminal volts, amps in, and who gives those amps."""

    volts_v: float
    current_a: float
    soc: float
    given_by_a: Mapping[str, float]


@dataclass(frozen=True)
class SourceNow:
    """A source: its mode, what it gives, what it could give, where it holds which voltage.

    Modes: ``idle`` (nothing to give), ``unexcited`` (turning, with no voltage to start on),
    ``loose`` (running with no bank), ``off`` (kept back by
    a higher voltage), ``limit`` (giving all it has), ``voltage`` (holding its set voltage).
    """

    mode: str
    current_a: float
    limit_a: float
    set_v: float
    volts_v: float | None = None
    sense_v: float | None = None


@dataclass(frozen=True)
class ItemNow:
    """One item of a load group."""

    id: str
    on: bool
    current_a: float
    below_minimum: bool


@dataclass(frozen=True)
class LoadNow:
    """A load group at its terminals; ``volts_v`` is None where no bank reaches it."""

    volts_v: float | None
    current_a: float
    given_by_a: Mapping[str, float]
    items: tuple[ItemNow, ...]


@dataclass(frozen=True)
class ConverterNow:
    """A dc-dc charger or one-way combiner: whether it runs and why, what it takes and gives.

    ``verdict``: as for a relay, closed is running; ``mode``: at its limit or holding its volts.
    """

    verdict: Verdict
    closed: bool
    in_v: float | None
    in_a: float
    out_v: float | None
    out_a: float
    mode: str
    why: str

    @property
    def moved(self) -> bool:
        """Whether it stands otherwise than at rest."""
        return self.closed


@dataclass(frozen=True)
class ContactNow:
    """A contact that is closed at rest: a protection, a held switch, an inverter.

    ``rests``: stands as it does at rest, closed unless it was switched off by hand. ``volts_v``
    and ``current_a`` are what it decides by.
    """

    verdict: Verdict
    rests: bool
    volts_v: float | None
    current_a: float
    why: str

    @property
    def moved(self) -> bool:
        """Whether it stands otherwise than at rest."""
        return not self.rests

    @property
    def closed(self) -> bool:
        """Whether current can pass."""
        return self.verdict == "closed"


@dataclass(frozen=True)
class ShuntNow:
    """What a monitor's shunt reads, and what its bank really takes [A]; the rest goes past it."""

    reads_a: float
    bank_a: float
    bypassed_a: float


@dataclass(frozen=True)
class PassingNow:
    """An output of a one-way part: amps through it and volts lost over it."""

    current_a: float
    drop_v: float


@dataclass(frozen=True)
class StarterNow:
    """The starter at its posts."""

    volts_v: float | None
    current_a: float


@dataclass(frozen=True)
class RelayNow:
    """A relay's verdict, and the volts it sees with its contact open and closed.

    What it would see closed is left out where that cannot matter.

    ``chatters``: closes on what it sees while open, and would open again on what it sees
    once closed. ``holds``: would stay closed if it were, without closing by itself.
    """

    verdict: Verdict
    closed: bool
    holds: bool
    sees_open_v: Mapping[str, float | None]
    sees_closed_v: Mapping[str, float | None]
    why: str

    @property
    def moved(self) -> bool:
        """Whether it stands otherwise than at rest."""
        return self.closed


@dataclass(frozen=True)
class Totals:
    """The moment in sums [A], and the power lost as heat [W].

    Given = used + stored + converted: ``converted_a`` is what dc-dc chargers take at their
    inputs beyond what they give at another voltage; negative when they give more amps.
    """

    given_a: float
    used_a: float
    stored_a: float
    converted_a: float
    lost_w: float


@dataclass(frozen=True)
class OperatingPoint:
    """Every volt and amp of one state.

    ``post_v`` is counted from the ground of each island, its first bank's negative post, and
    None where no bank defines a voltage; ``post_island`` numbers the islands.
    ``conductor_a`` flows from a cable's start to its end. ``passing`` is by the post of the output.
    """

    post_v: Mapping[str, float | None]
    post_island: Mapping[str, int | None]
    conductor_a: Mapping[str, float]
    conductor_drop_v: Mapping[str, float]
    totals: Totals
    banks: Mapping[str, BankNow]
    sources: Mapping[str, SourceNow]
    loads: Mapping[str, LoadNow]
    starters: Mapping[str, StarterNow]
    dead_parts: tuple[str, ...]
    loose_sources: tuple[str, ...]
    balance_residual: float
    rounds: int
    relays: Mapping[str, RelayNow] = field(default_factory=dict)
    passing: Mapping[str, PassingNow] = field(default_factory=dict)
    converters: Mapping[str, ConverterNow] = field(default_factory=dict)
    contacts: Mapping[str, ContactNow] = field(default_factory=dict)
    shunts: Mapping[str, ShuntNow] = field(default_factory=dict)

    def volts_between(self, plus: str, minus: str) -> float | None:
        """What a meter shows between two posts [V]; None where nothing defines it.

        That is where a post has no voltage, or no metal and no bank leads from one to the other.
        Raises KeyError for a post that the design does not have.
        """
        above, below = self.post_v[plus], self.post_v[minus]
        if above is None or below is None or self.post_island[plus] != self.post_island[minus]:
            return None
        return above - below

    def amps_in(self, cable: str) -> float:
        """What a clamp shows on a cable [A], from its start to its end.

        Raises KeyError for a cable that the design does not have.
        """
        return self.conductor_a[cable]

    def verdicts(self) -> dict[str, RelayNow | ConverterNow | ContactNow]:
        """What moves by itself, by part."""
        return {**self.relays, **self.converters, **self.contacts}

    def moved(self) -> frozenset[str]:
        """The parts that stand otherwise than at rest."""
        return frozenset(name for name, now in self.verdicts().items() if now.moved)
