"""All that stands still between two events of a day."""

from __future__ import annotations

from dataclasses import dataclass

from strom_engine.design import Design, State
from strom_engine.design.choices import Engine

__all__ = ["DiscreteState", "Engine", "as_it_stands"]


@dataclass(frozen=True)
class DiscreteState:
    """Switches, what has moved by itself, what turns, what is plugged in, what is switched on.

    ``broken`` names the far posts of fuses that have opened. ``holding`` gives the stage of each
    source that has stages. ``lit`` says whether the sun is up. ``silent`` are sources that give
    nothing for now, each with why; ``leads`` are ends of cables that were moved, as cable, end and
    post; ``cycling`` is gear that opens and closes all the while.
    """

    positions: tuple[tuple[str, str], ...]
    moved: frozenset[str] = frozenset()
    engines: frozenset[Engine] = frozenset()
    cranking: frozenset[Engine] = frozenset()
    rpm: float = 1400.0
    shore: bool = False
    lit: bool = False
    wind_kn: float = 0.0
    boat_kn: float = 0.0
    running: frozenset[str] = frozenset()
    broken: frozenset[str] = frozenset()
    holding: tuple[tuple[str, str], ...] = ()
    silent: frozenset[tuple[str, str]] = frozenset()
    leads: tuple[tuple[str, str, str], ...] = ()
    cycling: frozenset[str] = frozenset()
    temperature_c: float | None = None

    @property
    def silent_sources(self) -> frozenset[str]:
        """Sources that give nothing for now."""
        return frozenset(name for name, _ in self.silent)

    @property
    def circuit_key(self) -> tuple[object, ...]:
        """What decides which elements are in the circuit; all else only changes their figures."""
        return (
            self.positions,
            self.moved,
            self.engines,
            self.cranking,
            self.rpm if self.engines else 0.0,
            self.shore,
            self.lit,
            self.wind_kn,
            self.boat_kn,
            self.broken,
            self.leads,
            self.temperature_c,
        )

    def state(self, sun: float = 1.0) -> State:
        """The bench's state of this moment, under a share of full sun [-]."""
        return State(
            engine="on" if "first" in self.engines else "off",
            rpm=self.rpm,
            cranking="first" in self.cranking,
            second_engine="on" if "second" in self.engines else "off",
            second_cranking="second" in self.cranking,
            shore=self.shore,
            sun=min(1.0, sun) if self.lit else 0.0,
            wind_kn=self.wind_kn,
            boat_kn=self.boat_kn,
            running=tuple(sorted(self.running)),
            positions=dict(self.positions),
        )


def as_it_stands(design: Design, discrete: DiscreteState) -> Design:
    """The design with leads where they were moved to, without what opened fuses cut off."""
    if not discrete.broken and not discrete.leads:
        return design
    moved = {(cable, end): to for cable, end, to in discrete.leads}
    cables = (
        c.model_copy(
            update={e: to for e in ("start", "end") if (to := moved.get((c.id, e))) is not None}
        )
        for c in design.cables
    )
    kept = tuple(c for c in cables if not {c.start, c.end} & discrete.broken)
    return design.replace_unchecked(cables=kept)
