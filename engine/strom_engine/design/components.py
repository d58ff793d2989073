"""The parts a design is made of, each with its posts and figures.

``posts()`` names a part's posts and their polarity: ``pos`` and ``neg`` posts only take
cables of that side, ``any`` takes either.
"""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import Field, model_validator

from strom_engine.design.fields import (
    Frozen,
    Identifier,
    Name,
    Polarity,
    Positive,
    Share,
    Temperature,
)

__all__ = [
    "LOAD_REFERENCE_SHARE",
    "Alternator",
    "Bank",
    "Breaker",
    "BusBar",
    "Charger",
    "Component",
    "DcDc",
    "DualSwitch",
    "Fuse",
    "Isolator",
    "LoadGroup",
    "LoadItem",
    "OnOffSwitch",
    "Relay",
    "Selector",
    "Shunt",
    "Solar",
    "Starter",
]

# The draw of a load is stated at 12.6 V in a 12 V system, a battery at rest and nearly full.
LOAD_REFERENCE_SHARE = 1.05
PAIR: dict[str, Polarity] = {"pos": "pos", "neg": "neg"}
THROUGH: dict[str, Polarity] = {"a": "pos", "b": "pos"}


class Part(Frozen):
    """What every part has: an id, the name people use, and where it is aboard.

    ``assumed`` names the fields whose figure is a usual one that nobody has read aboard yet.
    """

    id: Identifier
    name: Name
    place: Identifier | None = None
    assumed: tuple[Identifier, ...] = ()

    def posts(self) -> dict[str, Polarity]:
        """Posts of this part by name, with their polarity."""
        raise TypeError(f"{type(self).__name__} names no posts")


class Bank(Part):
    """One or more equal batteries, series x parallel, switched and charged as one."""

    kind: Literal["bank"] = "bank"
    role: Literal["engine", "house", "thruster", "other"]
    chemistry: Literal["flooded_start", "flooded_deep", "agm", "gel", "tppl", "lfp"]
    unit_v: Literal[6, 8, 12, 24] = 12
    unit_ah: Positive
    unit_cca_a: Positive | None = None
    unit_resistance_ohm: Positive | None = None
    unit_weight_kg: Positive | None = None
    series: Annotated[int, Field(ge=1, le=8)] = 1
    parallel: Annotated[int, Field(ge=1, le=12)] = 1
    soc: Share
    temperature_c: Temperature = 20.0
    age_years: Annotated[float, Field(ge=0, le=40, allow_inf_nan=False)] | None = None
    members_alike: bool | None = None
    take_off: Literal["opposite", "one_end"] | None = None

    @property
    def nominal_v(self) -> float:
        """Nominal voltage of the bank [V]."""
        return float(self.unit_v * self.series)

    @property
    def capacity_ah(self) -> float:
        """20 h capacity of the bank [Ah]."""
        return self.unit_ah * self.parallel

    @property
    def cca_a(self) -> float | None:
        """Cold cranking amps of the bank [A]; None when the label is not known."""
        return None if self.unit_cca_a is None else self.unit_cca_a * self.parallel

    def posts(self) -> dict[str, Polarity]:
        return dict(PAIR)


class Alternator(Part):
    """An engine-driven source with its regulator."""

    kind: Literal["alternator"] = "alternator"
    rated_a: Positive
    hot_share: Share = 0.75
    cut_in_rpm: Positive = 650.0
    full_rpm: Positive = 2200.0
    set_v: Positive
    sensing: Literal["machine", "external"] = "machine"

    @model_validator(mode="after")
    def _speeds(self) -> Alternator:
        if self.full_rpm <= self.cut_in_rpm:
            raise ValueError("full_rpm must be above cut_in_rpm")
        return self

    def posts(self) -> dict[str, Polarity]:
        machine: dict[str, Polarity] = {"out": "pos", "neg": "neg"}
        sense: dict[str, Polarity] = {"sense_pos": "pos", "sense_neg": "neg"}
        return machine | sense if self.sensing == "external" else machine


class Charger(Part):
    """A shore charger with one to three outputs that share its current."""

    kind: Literal["charger"] = "charger"
    outputs: Annotated[int, Field(ge=1, le=3)] = 1
    rated_a: Positive
    set_v: Positive
    float_v: Positive

    def posts(self) -> dict[str, Polarity]:
        outs: dict[str, Polarity] = {f"out{i}": "pos" for i in range(1, self.outputs + 1)}
        return outs | {"neg": "neg"}


class Solar(Part):
    """Panels with their charge controller; the posts are the controller's battery side."""

    kind: Literal["solar"] = "solar"
    panel_w: Positive
    controller: Literal["mppt", "pwm"] = "mppt"
    efficiency: Annotated[float, Field(gt=0, le=1, allow_inf_nan=False)] = 0.95
    panel_vmp_v: Positive = 18.0
    set_v: Positive

    def posts(self) -> dict[str, Polarity]:
        return dict(PAIR)


class Selector(Part):
    """A four-position selector: off, 1, both, 2; one common post, two battery posts."""

    kind: Literal["selector"] = "selector"
    make_before_break: bool | None = None
    field_contact_of: Identifier | None = None
    rating_a: Positive = 300.0
    position: Literal["off", "1", "both", "2"] = "off"

    def posts(self) -> dict[str, Polarity]:
        return {"one": "any", "two": "any", "common": "any"}


class DualSwitch(Part):
    """A dual-circuit switch: house and engine switched together, kept apart, or combined."""

    kind: Literal["dual_switch"] = "dual_switch"
    rating_a: Positive = 350.0
    position: Literal["off", "on", "combine"] = "off"

    def posts(self) -> dict[str, Polarity]:
        return {"house_in": "any", "engine_in": "any", "house_out": "any", "engine_out": "any"}


class OnOffSwitch(Part):
    """One battery, one circuit."""

    kind: Literal["switch"] = "switch"
    purpose: Literal["isolate", "parallel"] = "isolate"
    rating_a: Positive = 300.0
    position: Literal["off", "on"] = "off"

    def posts(self) -> dict[str, Polarity]:
        return {"a": "any", "b": "any"}


class Relay(Part):
    """A voltage-sensing combining relay; measures against its own negative wire."""

    kind: Literal["relay"] = "relay"
    sensing: Literal["dual", "a", "b"] = "dual"
    cut_in_v: Positive
    cut_in_s: Positive
    cut_out_v: Positive
    cut_out_s: Positive
    lock_low_v: Positive = 9.6
    lock_high_v: Positive = 16.0
    rating_a: Positive = 140.0

    @model_validator(mode="after")
    def _thresholds(self) -> Relay:
        if not self.lock_low_v < self.cut_out_v < self.cut_in_v < self.lock_high_v:
            raise ValueError("thresholds must rise: lock_low_v, cut_out_v, cut_in_v, lock_high_v")
        return self

    def posts(self) -> dict[str, Polarity]:
        return THROUGH | {"neg": "neg"}


class Isolator(Part):
    """An isolator: current passes from its input to each output, and never back."""

    kind: Literal["isolator"] = "isolator"
    sort: Literal["silicon", "schottky", "fet"] = "silicon"
    outputs: Annotated[int, Field(ge=2, le=3)] = 2
    rating_a: Positive = 120.0

    def posts(self) -> dict[str, Polarity]:
        outs: dict[str, Polarity] = {f"out{i}": "pos" for i in range(1, self.outputs + 1)}
        return outs | {"in": "pos"}


class DcDc(Part):
    """A dc-dc charger: takes from one bank and charges another by a profile of its own.

    It starts when its input has ``start_v`` and stops below ``stop_v``; with ``ignition`` it
    runs only while the engine does. Both sides share one negative.
    """

    kind: Literal["dcdc"] = "dcdc"
    limit_a: Positive
    set_v: Positive
    efficiency: Annotated[float, Field(gt=0.5, le=1, allow_inf_nan=False)] = 0.9
    start_v: Positive = 13.3
    stop_v: Positive = 12.8
    ignition: bool = False

    @model_validator(mode="after")
    def _thresholds(self) -> DcDc:
        if self.stop_v >= self.start_v:
            raise ValueError("stop_v must be below start_v")
        return self

    def posts(self) -> dict[str, Polarity]:
        return {"in": "pos", "out": "pos", "neg": "neg"}


class BusBar(Part):
    """A bar with studs, all one conductor; the engine block counts as a negative one."""

    kind: Literal["bus_bar"] = "bus_bar"
    polarity: Literal["pos", "neg"]
    studs: Annotated[int, Field(ge=2, le=24)] = 6
    engine_block: bool = False

    def posts(self) -> dict[str, Polarity]:
        return {f"s{i}": self.polarity for i in range(1, self.studs + 1)}


class Fuse(Part):
    """A fuse; ``device`` is its generic type."""

    kind: Literal["fuse"] = "fuse"
    device: Name = "bolt-down fuse"
    rating_a: Positive

    def posts(self) -> dict[str, Polarity]:
        return dict(THROUGH)


class Breaker(Part):
    """A breaker that can also be opened by hand."""

    kind: Literal["breaker"] = "breaker"
    rating_a: Positive
    position: Literal["off", "on"] = "on"

    def posts(self) -> dict[str, Polarity]:
        return dict(THROUGH)


class Shunt(Part):
    """The measuring resistor of a battery monitor, in a negative."""

    kind: Literal["shunt"] = "shunt"
    rating_a: Positive = 500.0
    rating_mv: Positive = 50.0

    def posts(self) -> dict[str, Polarity]:
        return {"bank": "neg", "system": "neg"}


class Starter(Part):
    """The starter motor, a resistance for as long as it cranks."""

    kind: Literal["starter"] = "starter"
    power_kw: Positive | None = None
    cranking_a: Positive

    def posts(self) -> dict[str, Polarity]:
        return dict(PAIR)


class LoadItem(Frozen):
    """One thing that draws: constant power, constant current or a resistance.

    A ``brief`` one runs for minutes a day: it is not among what runs when a profile is put on.
    """

    id: Identifier
    name: Name
    draw_a: Positive
    law: Literal["power", "current", "resistance"] = "power"
    min_v: Positive | None = None
    always_on: bool = False
    brief: bool = False
    profiles: tuple[Identifier, ...] = ()


class LoadGroup(Part):
    """Items behind one feed, such as a panel; one circuit of its own counts as a group too."""

    kind: Literal["loads"] = "loads"
    items: Annotated[tuple[LoadItem, ...], Field(max_length=120)]

    def posts(self) -> dict[str, Polarity]:
        return dict(PAIR)


Component = Annotated[
    Bank
    | Alternator
    | Charger
    | Solar
    | Selector
    | DualSwitch
    | OnOffSwitch
    | Relay
    | Isolator
    | DcDc
    | BusBar
    | Fuse
    | Breaker
    | Shunt
    | Starter
    | LoadGroup,
    Field(discriminator="kind"),
]
