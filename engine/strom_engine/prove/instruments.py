"""Meters and how far they may be off."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import Field

from strom_engine.design.fields import Frozen, Identifier, Name

__all__ = ["USUAL_INSTRUMENTS", "Instrument", "Measures", "doubt_of", "instrument_for"]

Measures = Literal["volts", "amps"]
UNITS: dict[Measures, str] = {"volts": "V", "amps": "A"}


class Instrument(Frozen):
    """A meter of the workshop and its class, as its maker states it.

    It may be off by ``percent`` of the reading and ``digits`` of its last place, which counts
    ``resolution`` [V or A].
    """

    id: Identifier
    name: Name
    measures: Measures
    percent: Annotated[float, Field(ge=0, le=20, allow_inf_nan=False)]
    digits: Annotated[int, Field(ge=0, le=100)]
    resolution: Annotated[float, Field(ge=0.0001, le=10, allow_inf_nan=False)]

    def error(self, value: float) -> float:
        """How far it may be off at a reading, either way, in the unit of the reading."""
        return self.percent / 100 * abs(value) + self.digits * self.resolution


# Hand meters and clamps as makers commonly state them; medium confidence. The workshop's own
# class replaces these.
USUAL_INSTRUMENTS = (
    Instrument(
        id="multimeter", name="Multimeter", measures="volts", percent=0.5, digits=2, resolution=0.01
    ),
    Instrument(
        id="clamp", name="Clamp meter", measures="amps", percent=2.0, digits=5, resolution=0.1
    ),
)


def instrument_for(measures: Measures, known: tuple[Instrument, ...]) -> Instrument:
    """The first of the known meters that measures this, else the usual one.

    Args:
        measures: volts or amps.
        known: those of the workshop, the best first.
    """
    return next(i for i in (*known, *USUAL_INSTRUMENTS) if i.measures == measures)


def doubt_of(instrument: Instrument, value: float) -> float:
    """Standard deviation of a meter within its class, all of it equally likely: error / sqrt(3).

    Source: JCGM 100 (GUM), 4.3.7, rectangular distribution.

    Args:
        instrument: the meter.
        value: what it shows.
    """
    return instrument.error(value) / 3**0.5
