"""Everything that charges."""

from __future__ import annotations

from typing import Annotated, ClassVar, Literal

from pydantic import Field, model_validator

from strom_engine.design.choices import Engine
from strom_engine.design.fields import (
    Amps,
    BankId,
    Frozen,
    Hours,
    MillivoltsPerKelvin,
    Polarity,
    Rpm,
    Seconds,
    TrickleAmps,
    Volts,
    Watts,
)
from strom_engine.design.parts.base import PAIR, Part
from strom_engine.design.parts.facts import Asked, Facts, FoundAboard, asked, own, usual

__all__ = [
    "ENDS",
    "ENGINES",
    "IDLE",
    "OVER_BANK",
    "STAGES",
    "Alternator",
    "Charger",
    "CurvePoint",
    "FittedGenerator",
    "Solar",
    "Staged",
]


# An empty bank that is charged lies at about this share of its absorption voltage: 12.0 of 14.4 V.
EMPTY_SHARE = 0.833
SomeShare = Annotated[
    float, Field(ge=0.05, le=1, allow_inf_nan=False, json_schema_extra={"unit": "0–1"})
]
Ratio = Annotated[float, Field(ge=0.5, le=6, allow_inf_nan=False, json_schema_extra={"unit": "×"})]
Belt = Literal["v_10", "v_13", "two_v_10", "two_v_13", "rib_6", "rib_8"]


ENGINES = {"first": "First", "second": "Second"}
OVER_BANK = asked("over_bank", "Straight above a battery")
IDLE = own("idle_a", "Draws by itself")
# How a source goes on from absorption to float.
ENDS = (
    asked(
        "absorption_until",
        "Absorption ends by",
        {"time": "Time", "tail": "Tail current", "both": "Time, then tail current"},
    ),
    asked("absorption_h", "Absorption lasts"),
    own("tail_a", "Tail current"),
    own("rebulk_v", "Begins anew below"),
    own("bulk_v", "Bulk goes on to"),
    own("bulk_least_h", "Bulk lasts at least"),
    own("equalise_v", "Equalises at"),
    own("temperature_sensor", "Temperature sensor on"),
    own("tempco_mv_per_k", "Compensates, from 25 °C"),
)
STAGES = (own("float_v", "Float, if it has one"), *ENDS)


class Staged(Part):
    """What charges by stages: bulk and absorption at its set voltage, then float.

    Without ``float_v`` it holds its set voltage for ever. Absorption ends after ``absorption_h``
    counted on what it senses, when its own current has fallen to ``tail_a``, or when both are so;
    below ``rebulk_v`` for a minute it begins anew, half a volt under float (of 12 V) unless told.
    Bulk ends at ``bulk_v``, the set voltage unless told, and not before ``bulk_least_h``.
    ``temperature_sensor`` is the bank on which its sensor sits, ``tempco_mv_per_k`` by how much it
    then moves its voltages from what they are at 25 degC; ``equalise_v`` what it may equalise at.
    """

    set_v: Volts
    float_v: Volts | None = None
    bulk_v: Volts | None = None
    bulk_least_h: Hours | None = None
    absorption_until: Literal["time", "tail", "both"] = "time"
    absorption_h: Hours = 2.0
    tail_a: Amps | None = None
    rebulk_v: Volts | None = None
    equalise_v: Volts | None = None
    temperature_sensor: BankId | None = None
    tempco_mv_per_k: MillivoltsPerKelvin | None = None

    @model_validator(mode="after")
    def _stages(self) -> Staged:
        if self.absorption_until != "time" and self.tail_a is None:
            raise ValueError("tail_a is needed where absorption ends by the tail current")
        return self


class Alternator(Staged):
    """An engine-driven source with its regulator.

    ``belt_limit_a`` and ``field_limit`` (share of its hot output) are what an external regulator
    is set to give at most. One whose excitation comes from its ``output`` starts only with a
    bank's voltage there. ``pulley_ratio``: its turns for one of the engine. For ``start_delay_s``
    after the engine has started it gives nothing.
    """

    facts = Facts(
        word="Alternator",
        stands="engine",
        usual={"rated_a": 60, "set_v": 14.3},
        home="engine",
        counted="sources",
        paired=True,
        gives_by="engine",
        sparks=True,
        found=FoundAboard(
            "a second alternator", "Alternator 2", gauge="4 AWG", post="out", stays=True
        ),
    )
    asked: ClassVar[tuple[Asked, ...]] = (
        asked("rated_a", "Rated current"),
        asked("set_v", "Voltage it holds"),
        asked(
            "sensing", "Senses", {"machine": "At the machine", "external": "By leads of its own"}
        ),
        asked("belt_limit_a", "Limited to"),
        asked(
            "belt",
            "Belt",
            {
                "v_10": "One 10 mm V",
                "v_13": "One 13 mm V",
                "two_v_10": "Two 10 mm V",
                "two_v_13": "Two 13 mm V",
                "rib_6": "6 ribs",
                "rib_8": "8 ribs",
            },
        ),
        own("pulley_ratio", "Turns per turn of the engine"),
        own("engine_top_rpm", "Engine's top speed"),
        own("most_rpm", "The machine turns at most"),
        asked("temperature_probe", "Temperature probe"),
        asked("surge_clamp", "Surge clamp"),
        usual("hot_share", "Hot output, of its rating"),
        own("field_limit", "Field limited to, of its output"),
        own("start_delay_s", "Waits after the start"),
        usual("cut_in_rpm", "Cuts in at"),
        usual("full_rpm", "Full output at"),
        asked(
            "excitation",
            "Starts on",
            {"own": "A voltage of its own", "output": "The voltage at its output"},
        ),
        *STAGES,
        asked("engine", "Engine", ENGINES),
    )

    kind: Literal["alternator"] = "alternator"
    rated_a: Amps
    hot_share: SomeShare = 0.75
    cut_in_rpm: Rpm = 650.0
    full_rpm: Rpm = 2200.0
    sensing: Literal["machine", "external"] = "machine"
    belt_limit_a: Amps | None = None
    field_limit: SomeShare | None = None
    temperature_probe: bool | None = None
    surge_clamp: bool | None = None
    excitation: Literal["own", "output"] | None = None
    belt: Belt | None = None
    pulley_ratio: Ratio | None = None
    engine_top_rpm: Rpm | None = None
    most_rpm: Rpm | None = None
    start_delay_s: Seconds | None = None
    engine: Engine = "first"

    @model_validator(mode="after")
    def _speeds(self) -> Alternator:
        if self.full_rpm <= self.cut_in_rpm:
            raise ValueError("full_rpm must be above cut_in_rpm")
        return self

    @property
    def label_a(self) -> float:
        """The most that its label promises [A]."""
        return self.rated_a

    def posts(self) -> dict[str, Polarity]:
        machine: dict[str, Polarity] = {"out": "pos", "neg": "neg"}
        sense: dict[str, Polarity] = {"sense_pos": "pos", "sense_neg": "neg"}
        return machine | sense if self.sensing == "external" else machine

    def charging_posts(self) -> tuple[str, ...]:
        return ("out",)


class Charger(Staged):
    """A shore charger with one to three outputs that share its current.

    Outputs two and three may have set and float voltages of their own; None are the first's.
    ``over_bank``: it is mounted straight above a battery.
    """

    facts = Facts(
        word="Shore charger",
        stands="source",
        usual={"outputs": 1, "rated_a": 30, "set_v": 14.4, "float_v": 13.5},
        counted="sources",
        paired=True,
        gives_by="shore",
        sparks=True,
        heats=True,
        found=FoundAboard("a shore charger", "Shore charger", post="out1", stays=True),
    )
    asked: ClassVar[tuple[Asked, ...]] = (
        asked("rated_a", "Rated current"),
        asked("outputs", "Outputs"),
        asked("set_v", "Absorption"),
        asked("float_v", "Float"),
        *ENDS,
        own("out2_set_v", "Output 2: absorption"),
        own("out2_float_v", "Output 2: float"),
        own("out3_set_v", "Output 3: absorption"),
        own("out3_float_v", "Output 3: float"),
        OVER_BANK,
    )

    kind: Literal["charger"] = "charger"
    outputs: Annotated[int, Field(ge=1, le=3)] = 1
    rated_a: Amps
    float_v: Volts
    out2_set_v: Volts | None = None
    out2_float_v: Volts | None = None
    out3_set_v: Volts | None = None
    out3_float_v: Volts | None = None
    over_bank: bool | None = None

    def posts(self) -> dict[str, Polarity]:
        outs: dict[str, Polarity] = {f"out{i}": "pos" for i in range(1, self.outputs + 1)}
        return outs | {"neg": "neg"}

    def charging_posts(self) -> tuple[str, ...]:
        return tuple(f"out{n}" for n in range(1, self.outputs + 1))

    @property
    def label_a(self) -> float:
        """The most that its label promises, of all outputs together [A]."""
        return self.rated_a

    def output_v(self, number: int) -> tuple[float, float]:
        """Set and float voltage [V] of an output, counted from one."""
        own = {2: (self.out2_set_v, self.out2_float_v), 3: (self.out3_set_v, self.out3_float_v)}
        set_v, float_v = own.get(number, (None, None))
        return set_v or self.set_v, float_v or self.float_v


class Solar(Staged):
    """Panels with their charge controller; the posts are the controller's battery side.

    ``idle_a`` is what the controller draws, as usual unless told.
    """

    facts = Facts(
        word="Solar",
        stands="source",
        usual={"panel_w": 100, "set_v": 14.4, "float_v": 13.6},
        counted="sources",
        paired=True,
        gives_by="sun",
        sparks=True,
        found=FoundAboard("a solar panel", "Solar", stays=True),
    )
    asked: ClassVar[tuple[Asked, ...]] = (
        asked("panel_w", "Panels"),
        asked("controller", "Controller", {"mppt": "Tracking (MPPT)", "pwm": "Switching (PWM)"}),
        asked("set_v", "Absorption"),
        *STAGES,
        usual("efficiency", "Efficiency of the controller"),
        usual("panel_vmp_v", "Panel volts at full power"),
        IDLE,
    )

    kind: Literal["solar"] = "solar"
    panel_w: Watts
    controller: Literal["mppt", "pwm"] = "mppt"
    efficiency: SomeShare = 0.95
    panel_vmp_v: Volts = 18.0
    idle_a: TrickleAmps | None = None

    @property
    def label_a(self) -> float:
        """The most that comes out of the controller, in full sun into an empty bank [A].

        Switching controllers pass the panel's current at its best volts; tracking ones turn all
        of its power into amps at the volts of a bank that is charged from empty.
        """
        if self.controller == "pwm":
            return self.panel_w / self.panel_vmp_v
        return self.panel_w * self.efficiency / (EMPTY_SHARE * self.set_v)

    def posts(self) -> dict[str, Polarity]:
        return dict(PAIR)

    def charging_posts(self) -> tuple[str, ...]:
        return ("pos",)


class CurvePoint(Frozen):
    """A point of a generator's curve: speed of wind or boat [kn], amps into the bank [A]."""

    speed_kn: Annotated[
        float, Field(ge=0, le=200, allow_inf_nan=False, json_schema_extra={"unit": "kn"})
    ]
    current_a: Annotated[
        float, Field(ge=0, le=1000, allow_inf_nan=False, json_schema_extra={"unit": "A"})
    ]


class FittedGenerator(Staged):
    """A wind or towed generator; its curve gives amps at its set voltage, which it never passes."""

    facts = Facts(
        word="Generator",
        stands="source",
        usual={
            "driven_by": "wind",
            "set_v": 14.2,
            "float_v": 13.6,
            "points": [
                {"speed_kn": 6, "current_a": 0},
                {"speed_kn": 12, "current_a": 3},
                {"speed_kn": 20, "current_a": 11},
                {"speed_kn": 30, "current_a": 22},
            ],
        },
        counted="sources",
        paired=True,
        gives_by="weather",
        found=FoundAboard("a wind generator", "Wind generator", stays=True),
    )
    asked: ClassVar[tuple[Asked, ...]] = (
        asked("driven_by", "Driven by", {"wind": "Wind", "water": "Water, towed"}),
        asked("points", "Curve"),
        asked("set_v", "Voltage it holds"),
        *STAGES,
    )

    kind: Literal["generator"] = "generator"
    driven_by: Literal["wind", "water"]
    points: Annotated[tuple[CurvePoint, ...], Field(min_length=2, max_length=40)]

    @property
    def label_a(self) -> float:
        """The highest point of its curve [A]."""
        return max(point.current_a for point in self.points)

    @model_validator(mode="after")
    def _rising(self) -> FittedGenerator:
        speeds = [point.speed_kn for point in self.points]
        if speeds != sorted(set(speeds)):
            raise ValueError("the speeds of points must rise")
        return self

    def posts(self) -> dict[str, Polarity]:
        return dict(PAIR)

    def charging_posts(self) -> tuple[str, ...]:
        return ("pos",)
