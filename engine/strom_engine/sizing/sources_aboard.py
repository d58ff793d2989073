"""What charges a bank aboard, by engine and by shore, with the loads taken off."""

from __future__ import annotations

from dataclasses import dataclass

from strom_engine.design import Alternator, Charger, Design

__all__ = ["ChargeSource", "charge_sources"]


@dataclass(frozen=True)
class ChargeSource:
    """One way of charging: its current after the loads [A], and the voltage it holds [V]."""

    name: str
    kind: str
    gross_a: float
    loads_a: float
    hold_v: float

    @property
    def net_a(self) -> float:
        """What is left for the bank [A]."""
        return max(0.0, self.gross_a - self.loads_a)


def charge_sources(design: Design, loads_a: float) -> tuple[ChargeSource, ...]:
    """Engine (alternators hot) and shore (chargers), each against the same mean load [A]."""
    found = []
    alternators = design.of_type(Alternator)
    if alternators:
        hot_a = sum(a.rated_a * a.hot_share for a in alternators)
        hold_v = max(a.set_v for a in alternators)
        found.append(ChargeSource("Engine, alternator hot", "engine", hot_a, loads_a, hold_v))
    chargers = design.of_type(Charger)
    if chargers:
        rated_a = sum(c.rated_a for c in chargers)
        hold_v = max(c.set_v for c in chargers)
        found.append(ChargeSource("Shore charger", "shore", rated_a, loads_a, hold_v))
    return tuple(found)
