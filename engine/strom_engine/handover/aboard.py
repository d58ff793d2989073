"""What the sheet asks of a boat: her handling, switches in her own words, runs at anchor."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from functools import cached_property

from strom_engine.circuit import bench
from strom_engine.circuit.bench import BenchResult
from strom_engine.dayrun import Handling, Plan, SchoolId, day_run, handling, with_school
from strom_engine.dayrun.plan import EngineSpan, LivingSpan, Move
from strom_engine.design import Bank, LoadGroup, Starter, State
from strom_engine.design.state import battery_switches, default_positions, position_name
from strom_engine.errors import DayRunError, NotSettledError, PlanError
from strom_engine.faults import Fault
from strom_engine.handover.line import SwitchAt
from strom_engine.sizing import turning_v
from strom_engine.survey import Survey, SurveyedDesign

__all__ = ["NIGHTS", "Aboard", "morning_of"]

NIGHTS = 5
FIRST_NIGHT_H = 18.0  # of the clock; the engine is tried every morning fourteen hours later
MORNING_H = 14.0
TRY_H = 0.05  # listened to, and stopped again
FULL_SOC = 0.95  # on the first evening
WARM_C = 20.0


@dataclass(frozen=True)
class Aboard:
    """A boat with its survey and the chosen handling."""

    design: SurveyedDesign
    survey: Survey
    school: SchoolId

    @cached_property
    def way(self) -> Handling:
        """Where the switches stand by the chosen handling."""
        return handling(self.design, self.school)

    @cached_property
    def banks(self) -> tuple[Bank, ...]:
        """Every bank."""
        return self.design.of_type(Bank)

    @cached_property
    def starters(self) -> tuple[Starter, ...]:
        """Every starter."""
        return self.design.of_type(Starter)

    @property
    def together(self) -> dict[str, str]:
        """Positions that join the banks by hand; none where no switch does."""
        return dict(handling(self.design, "a").run) if self.joins else {}

    @cached_property
    def joins(self) -> bool:
        """Whether a hand can put banks together."""
        both = handling(self.design, "a")
        return both.why_not is None

    def shown(self, positions: dict[str, str]) -> tuple[SwitchAt, ...]:
        """Switches that choose what feeds what, in the boat's own words."""
        places = {p.id: p.name for p in self.design.places}
        stands = default_positions(self.design) | positions
        return tuple(
            SwitchAt(
                switch=switch.id,
                name=switch.name,
                position=stands[switch.id],
                mark=position_name(switch, stands[switch.id]),
                place=places.get(switch.place or ""),
            )
            for switch in battery_switches(self.design)
        )

    def bench(
        self, positions: Mapping[str, str], *faults: Fault, **state: object
    ) -> BenchResult | None:
        """The boat in a state, perhaps with faults; None where the circuit finds no rest in it."""
        told = State.model_validate({"positions": dict(positions), **state})
        try:
            return bench(self.design, told, *faults)
        except NotSettledError:
            return None

    def feeding(self, result: BenchResult) -> set[str]:
        """Banks that feed something which is not always on."""
        return {bank for group in self._switched for bank in result.reach.fed_by.get(group.id, ())}

    def alive(self, result: BenchResult) -> list[str]:
        """Names of what is fed and not always on."""
        return [g.name for g in self._switched if result.reach.fed_by.get(g.id)]

    @cached_property
    def _switched(self) -> list[LoadGroup]:
        groups = self.design.of_type(LoadGroup)
        return [g for g in groups if not all(item.always_on for item in g.items)]

    def turning_v(
        self,
        starter: Starter,
        positions: Mapping[str, str],
        soc: Mapping[str, float],
        *faults: Fault,
    ) -> float | None:
        """Volts at a starter that turns its engine [V]; None where no bank feeds it."""
        crank = "cranking" if starter.engine == "first" else "second_cranking"
        result = self.bench(positions, *faults, engine="off", soc=dict(soc), **{crank: True})
        if result is None:
            return None
        return result.point.volts_between(f"{starter.id}.pos", f"{starter.id}.neg")

    def needs_v(self, starter: Starter) -> float:
        """Volts at a starter below which its engine does not turn, in summer [V]."""
        return turning_v(self.design, starter, WARM_C)

    def mornings(self, count: int, run_h: float, soc: float) -> Plan:
        """Nights at anchor, the engine started every morning, with nobody's hand told yet.

        Args:
            count: of mornings.
            run_h: how long the engine runs then [h].
            soc: charge of every bank on the first evening [0 to 1].
        """
        starts = [MORNING_H + 24.0 * n for n in range(count)]
        hours = starts[-1] + 1
        afloat = [p.id for p in self.design.profiles if not p.shore]
        living = (LivingSpan(start_h=0, end_h=hours, profile=afloat[0]),) if afloat else ()
        return Plan(
            name="Mornings at anchor",
            hours=hours,
            clock_h=FIRST_NIGHT_H,
            living=living,
            engine=tuple(EngineSpan(start_h=at, end_h=at + run_h) for at in starts),
            soc={bank.id: soc for bank in self.banks},
        )

    def handled(self, plan: Plan) -> Plan:
        """A plan with the moves of the chosen handling, and nobody who helps a start that fails.

        Raises PlanError.
        """
        made = with_school(plan, self.design, self.school)
        return made.model_copy(update={"emergency": {}})

    def first_failed_night(self, positions: dict[str, str] | None) -> tuple[int | None, float]:
        """After how many nights at anchor no bank starts the engine, and its volts then [V].

        Args:
            positions: where all switches stand the whole time; as the handling has it without.

        Returns:
            None where it starts every morning; the lowest volts at the starter then.
        """
        plan = self.mornings(NIGHTS, TRY_H, FULL_SOC)
        try:
            if positions is None:
                plan = self.handled(plan)
            else:
                moves = [Move(at_h=0, switch=s, position=p) for s, p in positions.items()]
                plan = plan.model_copy(update={"moves": tuple(moves)})
            day = day_run(self.design, self.survey, plan)
        except (DayRunError, PlanError):
            return None, 0.0
        failed = [t for t in day.tries if not t.started]
        volts = [t.volts_v or 0.0 for t in (failed[:1] or day.tries)]
        night = None if not failed else morning_of(failed[0].at_s)
        return night, min(volts, default=0.0)


def morning_of(at_s: float) -> int:
    """Which morning at anchor a moment of ``mornings`` is on, from 1."""
    return int((at_s / 3600 - MORNING_H) // 24) + 1
