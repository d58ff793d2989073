"""Where a meter is held: two posts, or a clamp round a cable."""

from __future__ import annotations

from dataclasses import dataclass

from strom_engine.design import Cable, Design
from strom_engine.prove.instruments import UNITS, Measures
from strom_engine.prove.points import Shows

__all__ = ["Probe", "clamp", "volts"]


@dataclass(frozen=True)
class Probe:
    """Red probe on ``plus`` and black on ``minus``, or a clamp round ``cable``.

    A clamp's arrow points to the cable's end at ``towards``.
    """

    measures: Measures
    plus: str = ""
    minus: str = ""
    cable: str = ""
    towards: str = ""

    @property
    def unit(self) -> str:
        """The unit of its reading."""
        return UNITS[self.measures]

    def value(self, point: Shows, design: Design) -> float:
        """What it shows at an operating point [V or A]; 0 where nothing defines a voltage.

        Raises KeyError for a post that the design does not have.
        """
        if self.measures == "amps":
            try:
                amps = point.amps_in(self.cable)
            except KeyError:
                return 0.0  # the cable is off
            return amps if design.cables_by_id[self.cable].end == self.towards else -amps
        between = point.volts_between(self.plus, self.minus)
        return 0.0 if between is None else between

    def words(self, design: Design) -> str:
        """How it is held, as an instruction."""
        if self.measures == "amps":
            name = design.cable_name(design.cables_by_id[self.cable])
            return f"Clamp round {name}, arrow towards {design.post_name(self.towards)}."
        return (
            f"Red probe on {design.post_name(self.plus)}, black on {design.post_name(self.minus)}."
        )


def volts(plus: str, minus: str) -> Probe:
    """A meter between two posts."""
    return Probe("volts", plus, minus)


def clamp(cable: Cable, *, away_from: str = "", towards: str = "") -> Probe:
    """A clamp round a cable, its arrow towards one of its ends or away from the other."""
    far = cable.end if cable.start == away_from else cable.start
    return Probe("amps", cable=cable.id, towards=towards or far)
