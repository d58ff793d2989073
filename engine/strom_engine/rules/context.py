"""What rules look at: design, survey, and reach in every state that hands and relays make."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass
from functools import cached_property
from itertools import product

from strom_engine.circuit import Reach, operating_point, reach
from strom_engine.circuit.network import Network, network
from strom_engine.circuit.results import OperatingPoint
from strom_engine.design import (
    Bank,
    Breaker,
    Component,
    DcDc,
    Design,
    FittedInverter,
    LoadItem,
    OneWayCombiner,
    Relay,
    Source,
    State,
    Switch,
    default_positions,
    switch_positions,
)
from strom_engine.design.state import switches
from strom_engine.sizing import BankPlan, bank_plan
from strom_engine.survey import Survey

__all__ = ["Context", "Situation", "Strain"]

MAX_COMBINATIONS = 128
STRAINED_RPM = 2000.0
JOINING = {"selector": "both", "dual_switch": "combine"}


@dataclass(frozen=True)
class Situation:
    """Where every switch stands, and which parts have moved from where they rest."""

    positions: dict[str, str]
    moved: frozenset[str]


@dataclass(frozen=True)
class Strain:
    """A state that loads the gear, in words, and what it comes to."""

    words: str
    point: OperatingPoint


class Context:
    """A design as surveyed, with everything that several rules ask of it worked out once."""

    def __init__(self, design: Design, survey: Survey | None = None) -> None:
        self.design = design
        self.survey = survey
        self._reaches: dict[tuple[object, ...], Reach] = {}

    def name(self, part_id: str) -> str:
        """The name people use for a part."""
        return self.design.by_id[part_id].name

    def names(self, ids: tuple[str, ...] | list[str]) -> str:
        """Names of several parts in a phrase."""
        words = [self.name(i) for i in ids]
        return " and ".join([", ".join(words[:-1]), words[-1]] if len(words) > 1 else words)

    @cached_property
    def plan(self) -> BankPlan | None:
        """Yields, needs and start check; None without a survey."""
        return None if self.survey is None else bank_plan(self.design, self.survey, detail=False)

    @cached_property
    def banks(self) -> tuple[Bank, ...]:
        """All banks."""
        return self.design.of_type(Bank)

    @cached_property
    def sources(self) -> tuple[Source, ...]:
        """Everything that charges."""
        return self.design.sources

    @cached_property
    def switches(self) -> tuple[Switch, ...]:
        """Switches that people turn; breakers and inverters stay as they stand."""
        found = [s for s in switches(self.design) if not isinstance(s, Breaker | FittedInverter)]
        kept, rows = [], 1
        for switch in found:
            rows *= len(switch_positions(switch))
            if rows <= MAX_COMBINATIONS:
                kept.append(switch)
        return tuple(kept)

    @cached_property
    def combinations(self) -> tuple[dict[str, str], ...]:
        """Every position of every switch with every other."""
        base = default_positions(self.design)
        ids = [s.id for s in self.switches]
        turns = product(*(switch_positions(s) for s in self.switches))
        return tuple(base | dict(zip(ids, chosen, strict=True)) for chosen in turns)

    def all_off(self) -> dict[str, str]:
        """Every switch off."""
        return default_positions(self.design) | {s.id: "off" for s in self.switches}

    def situations(self) -> Iterator[Situation]:
        """Every combination with all that shares charge at rest, all of it moved, each alone."""
        sharing = (Relay, DcDc, OneWayCombiner)
        relays = [p.id for p in self.design.components if isinstance(p, sharing)]
        sets = {frozenset[str](), frozenset(relays), *(frozenset({r}) for r in relays)}
        for positions in self.combinations:
            for closed in sorted(sets, key=sorted):
                yield Situation(positions, closed)

    def reach(self, situation: Situation, *, engine: str = "off") -> Reach:
        """Reach in a situation."""
        key = (tuple(situation.positions.items()), situation.moved, engine)
        if key not in self._reaches:
            state = State(engine="on" if engine == "on" else "off", rpm=2000.0)
            state = state.with_positions(situation.positions)
            self._reaches[key] = reach(self.design, state, situation.moved)
        return self._reaches[key]

    def network(self, situation: Situation) -> Network:
        """The metal in a situation."""
        return network(self.design, situation.positions, situation.moved)

    def point(self, **fields: object) -> OperatingPoint:
        """Operating point of a state, its fields as given."""
        return operating_point(self.design, State.model_validate(fields))

    def positions_words(self, positions: dict[str, str]) -> str:
        """Positions in words, such as *Main selector on both*."""
        stands = [f"{s.name} on {positions[s.id]}" for s in self.switches]
        return ", ".join(stands) or "no switch in the way"

    @cached_property
    def drawn(self) -> dict[str, str]:
        """Every switch as it stands in the drawing."""
        return default_positions(self.design)

    @cached_property
    def joined(self) -> dict[str, str]:
        """Every switch where it joins most."""
        most = {s.id: JOINING.get(s.kind, "on") for s in self.switches}
        return self.drawn | most

    @cached_property
    def strained(self) -> tuple[Strain, ...]:
        """States that load cables and contacts most, solved: banks half empty, all sources on."""
        low = {b.id: 0.5 for b in self.banks}
        busy: dict[str, object] = {
            "engine": "on",
            "rpm": STRAINED_RPM,
            "shore": True,
            "sun": 1.0,
            "profile": self.busiest_profile(),
            "soc": low,
        }
        ways = [("as drawn", self.drawn)]
        if self.joined != self.drawn:
            ways.append(("everything joined", self.joined))
        return tuple(
            Strain(words, self.point(positions=positions, **busy)) for words, positions in ways
        )

    @cached_property
    def cranking(self) -> tuple[Strain, ...]:
        """The start, as drawn and with everything joined."""
        ways = [("as drawn", self.drawn), ("everything joined", self.joined)]
        return tuple(
            Strain(f"cranking, {words}", self.point(positions=at, cranking=True))
            for words, at in dict(ways).items()
        )

    def flat_words(self, drawn_a: float, banks: tuple[str, ...]) -> tuple[str, float]:
        """How long banks last under a draw, in words, and their capacity [Ah]."""
        capacity = sum(b.capacity_ah for b in self.banks if b.id in banks)
        words = (
            f"It can draw {drawn_a:.1f} A: {capacity:.0f} Ah / {drawn_a:.1f} A = "
            f"{capacity / drawn_a:.0f} h to flat with all of it on."
        )
        return words, capacity

    def busiest_profile(self) -> str | None:
        """The profile in which most is drawn."""
        drawn = {
            p.id: sum(
                item.draw_a
                for part in self.design.components
                for item in _items(part)
                if p.id in item.profiles
            )
            for p in self.design.profiles
        }
        return max(drawn, key=lambda p: drawn[p]) if drawn else None


def _items(part: Component) -> tuple[LoadItem, ...]:
    return part.items if part.kind == "loads" else ()
