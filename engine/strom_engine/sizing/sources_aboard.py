"""What charges a bank aboard, by engine and by shore, with the loads taken off."""

from __future__ import annotations

from dataclasses import dataclass

from strom_engine.design import Alternator, Charger, Design, FittedInverter

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
    """Alternators, hot, and shore chargers of all kinds, each against the same mean load [A]."""
    found = []
    alternators = design.of_type(Alternator)
    if alternators:
        hot_a = sum(a.rated_a * a.hot_share for a in alternators)
        hold_v = max(a.set_v for a in alternators)
        found.append(ChargeSource("Engine, alternator hot", "engine", hot_a, loads_a, hold_v))
    chargers: list[Charger | FittedInverter] = [*design.of_type(Charger)]
    chargers += [i for i in design.of_type(FittedInverter) if i.charger_a is not None]
    if chargers:
        rated_a = sum(_charges_a(c) for c in chargers)
        hold_v = max(c.set_v for c in chargers)
        found.append(ChargeSource("Shore charger", "shore", rated_a, loads_a, hold_v))
    return tuple(found)


def _charges_a(part: Charger | FittedInverter) -> float:
    """What a shore charger gives by its label [A]."""
    return part.rated_a if isinstance(part, Charger) else part.charger_a or 0.0
