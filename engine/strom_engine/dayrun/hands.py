"""What people do in a plan, and the clock: switches, starts, leads, shore, sun, sources."""

from __future__ import annotations

from dataclasses import replace
from typing import TYPE_CHECKING, cast

from strom_engine.dayrun.discrete_state import Engine
from strom_engine.dayrun.schedule import Entry
from strom_engine.dayrun.starting import engine_name, start_try, start_words, starter_v
from strom_engine.design import Alternator, Selector, Starter
from strom_engine.design.state import Switch, position_name

if TYPE_CHECKING:
    from strom_engine.dayrun.simulation import DaySimulation

__all__ = ["Hands"]

BREAK_S = 0.3  # a switch that breaks before it makes stands open for as long as a hand takes
RETRY_S = 20.0


class Hands:
    """Carries out the entries of a plan on the boat whose life it belongs to."""

    def __init__(self, life: DaySimulation) -> None:
        self.life = life
        self._cranked: dict[Engine, float | None] = {}
        self._tried: set[Engine] = set()

    def do(self, entry: Entry) -> None:
        match entry.kind:
            case "move":
                self._turn(entry)
            case "on":
                self.life.change(running=self.life.discrete.running | {entry.what})
            case "off":
                self.life.change(running=self.life.discrete.running - {entry.what})
            case "sky":
                self._look_at_the_sky()
            case "shore":
                self._plug(on=entry.value > 0)
            case "wind":
                self.life.change(wind_kn=entry.value)
            case "boat":
                self.life.change(boat_kn=entry.value)
            case "temperature":
                own = entry.to == "own"
                self.life.change(temperature_c=None if own else entry.value)
            case "give":
                silent = self.life.discrete.silent - {(entry.what, entry.why)}
                self.life.change(silent=silent, holding=self.life.begun_anew({entry.what}))
            case "silence":
                self.life.change(silent=self.life.discrete.silent | {(entry.what, entry.why)})
            case "lead":
                self._move_lead(entry)
            case "fault":
                self.life.break_down()
            case "living":
                pass  # a step ends where somebody comes aboard or goes
            case "try":
                self._try(entry)
            case "cranked":
                self._cranking_ends(entry)
            case "stop":
                self._stop(entry)

    def _move_lead(self, entry: Entry) -> None:
        design = self.life.now.kernel.design
        where = f"to {design.post_name(entry.to)}"
        name = self.life.world.design.cable_name(self.life.world.design.cables_by_id[entry.what])
        self.life.tell("move", "", f"The lead {name} is moved {where}", entry.to)
        kept = tuple(m for m in self.life.discrete.leads if m[:2] != (entry.what, entry.why))
        self.life.change(leads=(*kept, (entry.what, entry.why, entry.to)))

    def _look_at_the_sky(self) -> None:
        lit = self.life.world.sunlight.at((self.life.at_s + 1.0) / 3600) > 0
        if lit and not self.life.discrete.lit:
            self.life.tell("sun", "", "Sunrise", "up")
            self.life.change(lit=True, holding=self.life.begun_anew(self.life.of_kind("solar")))
        elif not lit and self.life.discrete.lit:
            self.life.tell("sun", "", "Sunset", "down")
            self.life.change(lit=False)
        else:
            now = self.life.now
            self.life.now = self.life.world.moment(
                self.life.discrete, self.life.at_s, now.wells, now.warmth_c
            )

    def _plug(self, *, on: bool) -> None:
        if on == self.life.discrete.shore:
            return
        self.life.tell(
            "shore", "", "Shore lead in" if on else "Shore lead out", "in" if on else "out"
        )
        from_shore = self.life.of_kind("charger") | self.life.of_kind("inverter")
        self.life.change(shore=on, holding=self.life.begun_anew(from_shore if on else set()))

    def _turn(self, entry: Entry) -> None:
        was = dict(self.life.discrete.positions).get(entry.what)
        if was is None or was == entry.to:
            return
        part = cast(Switch, self.life.world.design.by_id[entry.what])
        breaks = isinstance(part, Selector) and part.make_before_break is False
        if breaks and "off" not in (was, entry.to):
            self.life.change(positions=self.life.turned(entry.what, "off"))
            self.life.push(replace(entry, at_s=self.life.at_s + BREAK_S))
            return
        if entry.why != "pattern":
            self.life.tell("move", entry.what, f"to {position_name(part, entry.to)}", entry.to)
        self.life.change(positions=self.life.turned(entry.what, entry.to))

    def _try(self, entry: Entry) -> None:
        engine: Engine = "second" if entry.what == "second" else "first"
        if engine in self.life.discrete.engines:
            return
        if self.life.discrete.cranking:
            self.life.push(replace(entry, at_s=self.life.at_s + self.life.plan.crank_s + 1.0))
            return
        if not any(s.engine == engine for s in self.life.world.design.of_type(Starter)):
            self._runs(engine, entry.value)  # it starts by hand, or by what nobody drew
            return
        self.life.change(cranking=frozenset({engine}), rpm=entry.value)
        self._cranked[engine] = starter_v(self.life.world.design, self.life.now, engine)
        peak = self.life.world.first_instant(self.life.discrete, self.life.at_s, self.life.now)
        if peak is not None:
            self.life.tallies.dip(peak, self.life.discrete)
        self.life.push(replace(entry, kind="cranked", at_s=self.life.at_s + self.life.plan.crank_s))

    def _cranking_ends(self, entry: Entry) -> None:
        engine: Engine = "second" if entry.what == "second" else "first"
        tried, first_v = engine in self._tried, self._cranked.get(engine)
        one = start_try(
            self.life.world, self.life.now, self.life.at_s, engine, first_v, again=tried
        )
        if one.started and len(one.banks) > 1 and not self.life.limits.brief:
            one = replace(one, alone_v=self._alone_v(engine, one.banks))
        self.life.tries.append(one)
        words = start_words(self.life.world.design, one, engine)
        to = "started" if one.started else "failed"
        self.life.tell("start", one.starter, words, to, one.volts_v, "V")
        self.life.change(cranking=frozenset())
        if one.started:
            self._tried.discard(engine)
            self._runs(engine, entry.value)
        elif self.life.plan.emergency and not tried:
            self._tried.add(engine)
            for switch, position in self.life.plan.emergency.items():
                self.life.push(
                    Entry(self.life.at_s + RETRY_S / 2, "move", switch, position, why="emergency")
                )
            again = replace(entry, kind="try", at_s=self.life.at_s + RETRY_S, why="again")
            self.life.push(again)
        else:
            self._tried.discard(engine)

    def _alone_v(self, engine: Engine, banks: tuple[str, ...]) -> dict[str, float | None]:
        """Volts at the starter [V] with each bank by itself, the others off."""
        found = {}
        for name in banks:
            others = {f"{b}.pos" for b in self.life.world.banks if b != name}
            alone = replace(self.life.discrete, broken=self.life.discrete.broken | others)
            old = self.life.now
            now = self.life.world.moment(alone, self.life.at_s, old.wells, old.warmth_c, old.kernel)
            found[name] = starter_v(self.life.world.design, now, engine)
        return found

    def _runs(self, engine: Engine, rpm: float) -> None:
        words = f"{engine_name(self.life.world.design, engine)} runs"
        self.life.tell("engine", "", words, "on", rpm, "rpm")
        own = [p for p in self.life.world.design.of_type(Alternator) if p.engine == engine]
        late = [p for p in own if p.start_delay_s is not None]
        for part in late:
            self.life.push(
                Entry(self.life.at_s + (part.start_delay_s or 0.0), "give", part.id, why="start")
            )
        self.life.change(
            engines=self.life.discrete.engines | {engine},
            rpm=rpm,
            holding=self.life.begun_anew({p.id for p in own}),
            silent=self.life.discrete.silent | {(p.id, "start") for p in late},
        )

    def _stop(self, entry: Entry) -> None:
        engine: Engine = "second" if entry.what == "second" else "first"
        self.life.give_up(engine)
        self.life.change(cranking=self.life.discrete.cranking - {engine})
        if engine in self.life.discrete.engines:
            words = f"{engine_name(self.life.world.design, engine)} stopped"
            self.life.tell("engine", "", words, "off")
            self.life.change(engines=self.life.discrete.engines - {engine})
