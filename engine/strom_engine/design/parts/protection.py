"""The disconnect of a lithium bank."""

from __future__ import annotations

from typing import ClassVar, Literal

from pydantic import model_validator

from strom_engine.design.fields import (
    Amps,
    BankId,
    Polarity,
    Temperature,
    TrickleAmps,
    Volts,
)
from strom_engine.design.parts.base import Part
from strom_engine.design.parts.facts import Asked, Facts, asked, own, usual
from strom_engine.design.parts.metal import RATING
from strom_engine.design.parts.sources import IDLE

__all__ = ["Protection"]


class Protection(Part):
    """The disconnect of a lithium bank: opens when the bank ``guards`` is beyond its limits.

    ``idle_a`` is what it draws from that bank, as usual unless told; ``peak_a`` what it passes for
    seconds; ``warns``: what its warning contact stops before it opens.
    """

    facts = Facts(
        word="Protection",
        stands="gear",
        usual={"rating_a": 250, "high_v": 14.8, "low_v": 11.2},
        counted="things that share charge",
        joins=(("bank", "system"),),
        inline=("bank", "system"),
        roles={"bank": "first", "system": "out"},
        through=True,
        scheme=True,
        rated=True,
        sparks=True,
    )
    asked: ClassVar[tuple[Asked, ...]] = (
        asked("guards", "Guards"),
        RATING,
        asked("high_v", "Opens above"),
        asked("low_v", "Opens below"),
        asked("charge_limit_a", "Charge at most"),
        asked("discharge_limit_a", "Discharge at most"),
        own("peak_a", "Discharge, for seconds"),
        asked(
            "warns",
            "Before it opens it stops",
            {
                "nothing": "Nothing",
                "alternator": "The alternator's field",
                "all": "Field and chargers",
            },
        ),
        usual("no_charge_below_c", "No charge below"),
        IDLE,
    )

    kind: Literal["protection"] = "protection"
    guards: BankId
    rating_a: Amps = 200.0
    high_v: Volts = 14.8
    low_v: Volts = 11.2
    charge_limit_a: Amps | None = None
    discharge_limit_a: Amps | None = None
    peak_a: Amps | None = None
    warns: Literal["nothing", "alternator", "all"] | None = None
    no_charge_below_c: Temperature = 0.0
    idle_a: TrickleAmps | None = None

    @model_validator(mode="after")
    def _window(self) -> Protection:
        if self.low_v >= self.high_v:
            raise ValueError("low_v must be below high_v")
        return self

    @property
    def moves_itself(self) -> bool:
        return True

    def posts(self) -> dict[str, Polarity]:
        return {"bank": "pos", "system": "pos"}
