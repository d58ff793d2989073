"""What draws: the starter, loads behind a feed, the inverter."""

from __future__ import annotations

from typing import Annotated, ClassVar, Literal

from pydantic import Field, model_validator

from strom_engine.design.choices import Engine, LoadLaw, SystemVolts
from strom_engine.design.fields import (
    Amps,
    Frozen,
    Identifier,
    Kilowatts,
    Name,
    Polarity,
    TrickleAmps,
    Volts,
    Watts,
    WeakWatts,
)
from strom_engine.design.parts.base import PAIR, Part
from strom_engine.design.parts.facts import Asked, Facts, FoundAboard, asked, own
from strom_engine.design.parts.sources import ENDS, ENGINES, OVER_BANK, Staged
from strom_engine.design.parts.switches import OFF_ON

__all__ = [
    "AcItem",
    "DropClass",
    "FittedInverter",
    "LoadGroup",
    "LoadItem",
    "Starter",
]


class Starter(Part):
    """The starter motor, a resistance for as long as it cranks.

    ``cranking_a`` is what it takes with the engine warm; ``min_v`` [V] the volts at it down to
    which the engine's maker says that it starts. ``peak_a`` is what it takes for the first instant
    and ``free_a`` what it takes running free, where its data sheet says.
    """

    facts = Facts(
        word="Starter",
        stands="engine",
        usual={"cranking_a": 250},
        home="engine",
        paired=True,
        takes=True,
        sparks=True,
    )
    asked: ClassVar[tuple[Asked, ...]] = (
        asked("cranking_a", "Cranking current"),
        own("power_kw", "Power, by its plate"),
        own("nominal_v", "Made for", {12: "12 V", 24: "24 V", 48: "48 V"}),
        own("min_v", "Least volts, by its maker"),
        own("peak_a", "In the first instant"),
        own("free_a", "Running free"),
        asked("engine", "Engine", ENGINES),
    )

    kind: Literal["starter"] = "starter"
    power_kw: Kilowatts | None = None
    cranking_a: Amps
    peak_a: Amps | None = None
    free_a: Amps | None = None
    engine: Engine = "first"
    nominal_v: SystemVolts | None = None
    min_v: Volts | None = None

    @model_validator(mode="after")
    def _amps(self) -> Starter:
        if self.peak_a is not None and self.peak_a < self.cranking_a:
            raise ValueError("peak_a must not be below cranking_a")
        if self.free_a is not None and self.free_a > self.cranking_a:
            raise ValueError("free_a must not be above cranking_a")
        return self

    def posts(self) -> dict[str, Polarity]:
        return dict(PAIR)


DropClass = Literal["must_not_sag", "other"]


class LoadItem(Frozen):
    """One thing that draws: constant power, constant current or a resistance.

    A ``brief`` one runs for minutes a day: it is not among what runs when a profile is put on.
    ``start_a`` is what it takes for seconds as it starts, as motors do, and for as long as it is
    stuck; with a ``thermal_cutout`` it then stops by itself.
    ``fuse_a`` is the fuse that its maker asks for, ``drop`` how much its circuit may lose: 3 %
    where it must not sag, or 10 %; None as its name proposes.
    """

    id: Identifier
    name: Name
    draw_a: TrickleAmps
    law: LoadLaw = "power"
    min_v: Volts | None = None
    start_a: Amps | None = None
    thermal_cutout: bool | None = None
    fuse_a: Amps | None = None
    drop: DropClass | None = None
    always_on: bool = False
    brief: bool = False
    profiles: tuple[Identifier, ...] = ()


class LoadGroup(Part):
    """Items behind one feed, such as a panel; one circuit of its own counts as a group too.

    ``nominal_v`` [V] where they are made for another voltage than the system's.
    """

    facts = Facts(
        word="Feed",
        stands="load",
        usual={"items": []},
        home="house",
        paired=True,
        takes=True,
        found=FoundAboard("a feed straight from a bank", "Feed"),
    )
    asked: ClassVar[tuple[Asked, ...]] = (
        own("nominal_v", "Made for", {12: "12 V", 24: "24 V", 48: "48 V"}),
    )

    kind: Literal["loads"] = "loads"
    nominal_v: SystemVolts | None = None
    items: Annotated[tuple[LoadItem, ...], Field(max_length=120)]

    def posts(self) -> dict[str, Polarity]:
        return dict(PAIR)


class AcItem(Frozen):
    """One thing on the inverter's AC side, by its power [W]."""

    id: Identifier
    name: Name
    power_w: WeakWatts
    always_on: bool = False
    brief: bool = False
    profiles: tuple[Identifier, ...] = ()


class FittedInverter(Staged):
    """An inverter with what hangs on it; one with ``charger_a`` charges while the shore lead is in.

    With the shore lead in, an inverter-charger passes the shore's AC through and draws nothing.
    ``surge_w`` is what it gives for seconds, twice its rated power unless told.
    """

    facts = Facts(
        word="Inverter",
        stands="load",
        usual={"rated_w": 1500, "idle_w": 12, "cut_out_v": 10.5},
        home="house",
        counted="sources",
        paired=True,
        gives_by="shore",
        takes=True,
        rest="in",
        moved="cut out",
        sparks=True,
        heats=True,
        found=FoundAboard("an inverter", "Inverter", gauge="1/0 AWG"),
    )
    asked: ClassVar[tuple[Asked, ...]] = (
        asked("rated_w", "Rated power"),
        own("surge_w", "Surge power, for seconds"),
        asked("idle_w", "Idle draw"),
        asked("cut_out_v", "Cuts out below"),
        own("return_v", "Comes back at"),
        asked("charger_a", "Charges with"),
        asked("set_v", "Absorption"),
        asked("float_v", "Float"),
        OVER_BANK,
        asked("position", "Stands on", OFF_ON),
        *ENDS,
    )

    kind: Literal["inverter"] = "inverter"
    rated_w: Watts
    surge_w: Watts | None = None
    idle_w: Annotated[
        float, Field(ge=0, le=500, allow_inf_nan=False, json_schema_extra={"unit": "W"})
    ] = 10.0
    cut_out_v: Volts = 10.5
    return_v: Volts | None = None
    charger_a: Amps | None = None
    set_v: Volts = 14.4
    float_v: Volts = 13.5
    over_bank: bool | None = None
    items: Annotated[tuple[AcItem, ...], Field(max_length=60)] = ()
    position: Literal["off", "on"] = "on"

    @property
    def label_a(self) -> float:
        """What it charges with by its label [A]; nothing where it does not charge."""
        return self.charger_a or 0.0

    @property
    def moves_itself(self) -> bool:
        return True

    def posts(self) -> dict[str, Polarity]:
        return dict(PAIR)

    def charging_posts(self) -> tuple[str, ...]:
        return () if self.charger_a is None else ("pos",)
