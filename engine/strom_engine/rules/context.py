"""What rules look at: design, survey, and reach in every state that hands and relays make."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass
from functools import cached_property
from itertools import product

from strom_engine.batteries import HALF_SOC
from strom_engine.circuit import Reach, operating_point, reach
from strom_engine.circuit.network import Network, network
from strom_engine.circuit.results import OperatingPoint
from strom_engine.design import (
    Bank,
    Breaker,
    Cable,
    DcDc,
    OneWayCombiner,
    Relay,
    Source,
    State,
    Switch,
    default_positions,
    switch_positions,
)
from strom_engine.design.state import feed_switches, position_name
from strom_engine.reference import chemistry
from strom_engine.runs import (
    Allowed,
    DesignCurrent,
    Standard,
    Stock,
    allowed_current,
    default_stock,
    design_currents,
    in_engine_space,
)
from strom_engine.runs.load_cases import (
    LoadCase,
    busiest_profile,
    cranking_strains,
    joined_positions,
    lasting_strains,
    turned_switches,
)
from strom_engine.sizing import BankPlan, bank_plan
from strom_engine.survey import Practice, Survey, SurveyedDesign

__all__ = ["Context", "Situation", "is_lithium"]

MAX_COMBINATIONS = 128


@dataclass(frozen=True)
class Situation:
    """Where every switch stands, and which parts have moved from where they rest."""

    positions: dict[str, str]
    moved: frozenset[str]


def is_lithium(bank: Bank) -> bool:
    """Whether a bank is of a lithium chemistry."""
    return chemistry(bank.chemistry).family == "lithium"


class Context:
    """A design as surveyed, with everything that several rules ask of it worked out once."""

    def __init__(
        self, design: SurveyedDesign, survey: Survey | None = None, stock: Stock | None = None
    ) -> None:
        self.design = design
        self.survey = survey
        practice = survey.practice if survey else Practice()
        self.standard: Standard = practice.standard
        self.stock = stock or default_stock(practice.sizes)
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
        return turned_switches(self.design)

    @cached_property
    def combinations(self) -> tuple[dict[str, str], ...]:
        """Every position of every switch that joins something, with every other.

        Switches that only cut loads are on in all of them.
        """
        feeds = feed_switches(self.design)
        base = default_positions(self.design)
        base |= {s.id: s.facts.joined for s in self.switches if s.id in feeds}
        kept, rows = [], 1
        for switch in (s for s in self.switches if s.id not in feeds):
            rows *= len(switch_positions(switch))
            if rows <= MAX_COMBINATIONS:
                kept.append(switch)
        turns = product(*(switch_positions(s) for s in kept))
        ids = [s.id for s in kept]
        return tuple(base | dict(zip(ids, chosen, strict=True)) for chosen in turns)

    def all_off(self) -> dict[str, str]:
        """Every switch off."""
        return default_positions(self.design) | {s.id: "off" for s in self.switches}

    def all_cut(self) -> dict[str, str]:
        """Every switch and every breaker off: all that a hand can cut."""
        return self.all_off() | {b.id: "off" for b in self.design.of_type(Breaker)}

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

    def half_full(self, **fields: object) -> OperatingPoint:
        """Operating point with every bank at half charge or less, where it takes what it can."""
        soc = {b.id: min(b.soc, HALF_SOC) for b in self.banks}
        return self.point(soc=soc, **fields)

    def positions_words(self, positions: dict[str, str]) -> str:
        """Positions in words, such as *Main selector on both*."""
        stands = [f"{s.name} on {position_name(s, positions[s.id])}" for s in self.switches]
        return ", ".join(stands) or "no switch in the way"

    @cached_property
    def drawn(self) -> dict[str, str]:
        """Every switch as it stands in the drawing."""
        return default_positions(self.design)

    @cached_property
    def joined(self) -> dict[str, str]:
        """Every switch where it joins most."""
        return joined_positions(self.design)

    @cached_property
    def strained(self) -> tuple[LoadCase, ...]:
        """States that load cables and contacts for long, solved."""
        return lasting_strains(self.design)

    @cached_property
    def cranking(self) -> tuple[LoadCase, ...]:
        """The start, as drawn and with everything joined."""
        return cranking_strains(self.design)

    @cached_property
    def currents(self) -> dict[str, DesignCurrent]:
        """What every cable is sized for."""
        return design_currents(self.design)

    def busiest_profile(self) -> str | None:
        """The profile in which most is drawn."""
        return busiest_profile(self.design)

    def allowed(self, cable: Cable) -> Allowed:
        """What a cable may carry by the practice of this job."""
        hot = in_engine_space(self.design, cable)
        return allowed_current(cable, engine_space=hot, standard=self.standard)

    def flat_words(self, drawn_a: float, banks: tuple[str, ...]) -> tuple[str, float]:
        """How long banks last under a draw, in words, and their capacity [Ah]."""
        capacity = sum(b.capacity_ah for b in self.banks if b.id in banks)
        words = (
            f"It can draw {drawn_a:.1f} A: {capacity:.0f} Ah / {drawn_a:.1f} A = "
            f"{capacity / drawn_a:.0f} h to flat with all of it on."
        )
        return words, capacity
