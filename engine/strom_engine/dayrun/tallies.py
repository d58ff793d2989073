"""What is counted while a day is run: hours joined, hot, unserved, overloaded; worst volts."""

from __future__ import annotations

import math
from collections.abc import Iterable, Mapping
from dataclasses import dataclass, field
from typing import TypeVar

from strom_engine.batteries import BankModel, BankWells
from strom_engine.dayrun.discrete_state import DiscreteState
from strom_engine.dayrun.heat import LIMIT_C
from strom_engine.dayrun.kernel import Snapshot
from strom_engine.dayrun.ledger import Book
from strom_engine.dayrun.notes import least_v
from strom_engine.dayrun.plan import LivingSpan
from strom_engine.dayrun.regulators import shown_stage
from strom_engine.dayrun.stepping import Taken
from strom_engine.design import Design, FittedInverter, LoadGroup

__all__ = ["Overload", "Tallies"]

K = TypeVar("K")
ANYTHING_V = 1e-6  # an inverter that has not cut out serves at any voltage
IDLE_A = 0.5  # with less than this from sources that hold no voltage, what is joined only drains


@dataclass
class Overload:
    """A contact or fuse above its rating: the most [A], its rating [A], for how long [s]."""

    most_a: float
    rating_a: float
    seconds: float


@dataclass(frozen=True)
class _Feed:
    """A panel or an inverter: its posts, and each item with its least volts; must it always run.

    An inverter serves what hangs on it as long as it has not cut out and anything reaches it.
    """

    part: str
    plus: str
    minus: str
    items: list[tuple[str, float, bool]]
    inverter: FittedInverter | None = None
    highest_v: float = math.inf  # what serves all of them

    def on(self, discrete: DiscreteState) -> _Feed | None:
        """The feed with what draws as things stand; nothing where the lead or a hand sees to it."""
        items = [item for item in self.items if item[0] in discrete.running]
        if self.inverter is not None:
            passing = discrete.shore and self.inverter.charger_a is not None
            if passing or dict(discrete.positions).get(self.part) == "off":
                return None
            if self.part in discrete.moved:
                items = [(ref, math.inf, always_on) for ref, _, always_on in items]
        if not items:
            return None
        highest_v = max(limit_v for _, limit_v, _ in items)
        return _Feed(self.part, self.plus, self.minus, items, self.inverter, highest_v)


def _feeds(design: Design) -> Iterable[_Feed]:
    """Every feed with all that hangs on it."""
    for g in design.of_type(LoadGroup):
        items = [(f"{g.id}.{i.id}", least_v(design, g, i), i.always_on) for i in g.items]
        yield _Feed(g.id, f"{g.id}.pos", f"{g.id}.neg", items)
    for p in design.of_type(FittedInverter):
        items = [(f"{p.id}.{i.id}", ANYTHING_V, i.always_on) for i in p.items]
        yield _Feed(p.id, f"{p.id}.pos", f"{p.id}.neg", items, p)


@dataclass
class Tallies:
    """Counts so far. Hours [h] by part, item or pair; volts [V].

    ``closed_h`` is how long a part stood moved, ``idle_h`` how long of that no source gave
    anything; ``worst_v`` the lowest at each feed while something on it is on and a bank reaches it;
    ``dead_h`` how long of ``unmet_h`` an item reached no bank at all. ``dips`` are the lowest volts
    and the least that it needs of each item that an engine's start brings below those.
    """

    design: Design
    banks: Mapping[str, BankModel]
    living: tuple[LivingSpan, ...] = ()
    book: Book = field(default_factory=Book)
    lowest_soc: dict[str, tuple[float, float]] = field(default_factory=dict)
    highest_soc: dict[str, float] = field(default_factory=dict)
    joined_h: dict[tuple[str, ...], float] = field(default_factory=dict)
    unlike_h: dict[tuple[str, ...], float] = field(default_factory=dict)
    hot_h: dict[str, float] = field(default_factory=dict)
    hottest_c: dict[str, float] = field(default_factory=dict)
    unmet_h: dict[str, float] = field(default_factory=dict)
    dead_h: dict[str, float] = field(default_factory=dict)
    on_h: dict[frozenset[str], float] = field(default_factory=dict)
    worst_v: dict[str, float] = field(default_factory=dict)
    dips: dict[str, tuple[float, float]] = field(default_factory=dict)
    stage_h: dict[tuple[str, str], float] = field(default_factory=dict)
    closed_h: dict[str, float] = field(default_factory=dict)
    idle_h: dict[str, float] = field(default_factory=dict)
    engine_h: float = 0.0
    overloads: dict[str, Overload] = field(default_factory=dict)
    _on: tuple[DiscreteState | None, list[_Feed]] = field(default=(None, []), repr=False)

    def __post_init__(self) -> None:
        self._feeds = list(_feeds(self.design))

    def add(self, taken: Taken, discrete: DiscreteState, at_s: float, times: int = 1) -> None:
        """Count a step that ends at a moment [s], so many times."""
        hours = times * taken.seconds / 3600
        moments = tuple(zip((taken.first, taken.last), taken.weights, strict=True))
        hour = (at_s - taken.seconds / 2) / 3600
        aboard = any(s.start_h <= hour < s.end_h for s in self.living)
        self.book.add(taken, self.banks, times)
        for name, bank in self.banks.items():
            self._soc(name, bank.soc(taken.last.wells[name]), at_s)
        for ids in taken.last.kernel.joined_banks:
            _count(self.joined_h, ids, hours)
        for ids in taken.last.kernel.unlike_banks:
            _count(self.unlike_h, ids, hours)
        # What is watched changes only at the end of a step: how it began, it stood throughout.
        for name, warm_c in taken.first.warmth_c.items():
            self.hottest_c[name] = max(self.hottest_c.get(name, -273.0), taken.last.warmth_c[name])
            if warm_c > LIMIT_C:
                _count(self.hot_h, name, hours)
        self._unserved(taken.first, discrete, hours, aboard=aboard)
        for name, stage in discrete.holding:
            if name in taken.last.kernel.index and name not in discrete.silent_sources:
                _count(self.stage_h, (name, shown_stage(stage)), hours)
        if discrete.moved:
            idle = sum(w for m, w in moments if not m.kernel.is_charging(m.point, IDLE_A))
            for name in discrete.moved:
                _count(self.closed_h, name, hours)
                _count(self.idle_h, name, idle * hours)
        _count(self.on_h, discrete.running, hours)
        self.engine_h += hours if discrete.engines else 0.0
        for moment, weight in moments:
            self._worst(moment, discrete)
            self._ratings(moment, times * weight * taken.seconds)

    def dip(self, moment: Snapshot, discrete: DiscreteState) -> None:
        """Count a moment that is over at once: the first instant of a start."""
        self._worst(moment, discrete)

    def _soc(self, name: str, soc: float, at_s: float) -> None:
        if soc < self.lowest_soc.get(name, (2.0, 0.0))[0]:
            self.lowest_soc[name] = soc, at_s
        self.highest_soc[name] = max(self.highest_soc.get(name, 0.0), soc)

    def _switched_on(self, discrete: DiscreteState) -> list[_Feed]:
        """Feeds with something on, and what."""
        if self._on[0] is not discrete:
            self._on = discrete, [on for f in self._feeds if (on := f.on(discrete)) is not None]
        return self._on[1]

    def _worst(self, moment: Snapshot, discrete: DiscreteState) -> None:
        for feed in self._switched_on(discrete):
            volts = moment.volts(feed.plus, feed.minus)
            if volts is None:
                continue
            self.worst_v[feed.part] = min(self.worst_v.get(feed.part, math.inf), volts)
            if discrete.cranking and volts < feed.highest_v:
                for ref, limit_v, _ in feed.items:
                    if volts < limit_v:
                        known = self.dips.get(ref, (math.inf, limit_v))[0]
                        self.dips[ref] = min(known, volts), limit_v

    def _unserved(
        self, moment: Snapshot, discrete: DiscreteState, hours: float, *, aboard: bool
    ) -> None:
        for feed in self._switched_on(discrete):
            known = moment.volts(feed.plus, feed.minus)
            if (known or 0.0) >= feed.highest_v:
                continue
            for ref, limit_v, always_on in feed.items:
                if (known or 0.0) >= limit_v:
                    continue
                if known is None and not (always_on or aboard):
                    continue  # switched off by whoever left: not missed
                _count(self.unmet_h, ref, hours)
                if known is None:
                    _count(self.dead_h, ref, hours)

    def _ratings(self, moment: Snapshot, seconds: float) -> None:
        for ref, amps, rating_a in moment.point.beyond:
            known = self.overloads.setdefault(ref, Overload(amps, rating_a, 0.0))
            known.most_a = max(known.most_a, amps)
            known.seconds += seconds

    def wanted_h(self, item: str) -> float:
        """Hours [h] in which an item, as ``group.item``, was switched on."""
        return sum(hours for running, hours in self.on_h.items() if item in running)

    def reached(self, wells: Mapping[str, BankWells], at_s: float = 0.0) -> None:
        """Count how full the banks are at a moment [s]: the beginning, or after counted rounds."""
        for name, bank in self.banks.items():
            self._soc(name, bank.soc(wells[name]), at_s)


def _count(sums: dict[K, float], key: K, hours: float) -> None:
    sums[key] = sums.get(key, 0.0) + hours
