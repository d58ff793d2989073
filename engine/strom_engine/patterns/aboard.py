"""What is aboard, as a pattern looks at it: banks by role, sources, starters, feeds."""

from __future__ import annotations

from collections import deque
from dataclasses import dataclass
from functools import cached_property

from strom_engine.design import (
    Alternator,
    Bank,
    Charger,
    Design,
    FittedGenerator,
    FittedInverter,
    LoadGroup,
    Solar,
    Starter,
)
from strom_engine.design.joined import neighbours
from strom_engine.reference import chemistry

__all__ = ["Aboard"]

CRANKING_ROLE = "engine"


@dataclass(frozen=True)
class Aboard:
    """A design seen as banks, sources and loads; how it is wired now only tells what is near."""

    design: Design

    @cached_property
    def banks(self) -> tuple[Bank, ...]:
        """All banks."""
        return self.design.of_type(Bank)

    @cached_property
    def engine_banks(self) -> tuple[Bank, ...]:
        """Banks that start an engine."""
        return tuple(b for b in self.banks if b.role == CRANKING_ROLE)

    @cached_property
    def house(self) -> Bank | None:
        """The largest house bank; a boat's only bank counts as one."""
        found = [b for b in self.banks if b.role == "house"]
        if not found and len(self.banks) == 1:
            return self.banks[0]
        return max(found, key=lambda b: b.capacity_ah, default=None)

    @cached_property
    def engine(self) -> Bank | None:
        """The first engine bank that is not the house bank."""
        return next((b for b in self.engine_banks if b is not self.house), None)

    @cached_property
    def others(self) -> tuple[Bank, ...]:
        """Every bank but the house bank and the first engine bank."""
        return tuple(b for b in self.banks if b not in (self.house, self.engine))

    @cached_property
    def alternators(self) -> tuple[Alternator, ...]:
        """All alternators."""
        return self.design.of_type(Alternator)

    @cached_property
    def chargers(self) -> tuple[Charger, ...]:
        """All shore chargers."""
        return self.design.of_type(Charger)

    @cached_property
    def small_sources(self) -> tuple[Solar | FittedGenerator, ...]:
        """Panels, wind and towed generators."""
        return (*self.design.of_type(Solar), *self.design.of_type(FittedGenerator))

    @cached_property
    def starters(self) -> tuple[Starter, ...]:
        """All starters."""
        return self.design.of_type(Starter)

    @cached_property
    def inverters(self) -> tuple[FittedInverter, ...]:
        """All inverters."""
        return self.design.of_type(FittedInverter)

    def feeds_of(self, bank: Bank) -> tuple[LoadGroup, ...]:
        """Load groups that belong to a bank of neither house nor engine: those nearest to it."""
        return tuple(g for g in self.design.of_type(LoadGroup) if self._nearest[g.id] == bank.id)

    @cached_property
    def house_feeds(self) -> tuple[LoadGroup, ...]:
        """Load groups of the house."""
        own = {b.id for b in self.others}
        return tuple(g for g in self.design.of_type(LoadGroup) if self._nearest[g.id] not in own)

    def nearest(self, part_id: str, posts: tuple[str, ...]) -> str | None:
        """The bank nearest to some posts of a part, by posts passed on the way."""
        banks = {f"{b.id}.pos": b.id for b in self.banks}
        queue = deque(f"{part_id}.{post}" for post in posts)
        seen = set(queue)
        while queue and queue[0] not in banks:
            for other in self._near.get(queue.popleft(), ()):
                if other not in seen:
                    seen.add(other)
                    queue.append(other)
        return banks[queue[0]] if queue else None

    @cached_property
    def _near(self) -> dict[str, list[str]]:
        return neighbours(self.design, sense=True)

    @cached_property
    def _nearest(self) -> dict[str, str | None]:
        """The bank nearest to each load group."""
        return {g.id: self.nearest(g.id, ("pos",)) for g in self.design.of_type(LoadGroup)}

    def alike(self, a: Bank, b: Bank) -> bool:
        """Whether two banks may be joined by metal: one voltage, one family of chemistry."""
        families = {chemistry(bank.chemistry).family for bank in (a, b)}
        return a.nominal_v == b.nominal_v and len(families) == 1

    def is_lithium(self, bank: Bank) -> bool:
        """Whether a bank is of lithium."""
        return chemistry(bank.chemistry).family == "lithium"
