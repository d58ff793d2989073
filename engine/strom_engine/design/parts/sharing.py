"""What shares charge between banks by itself."""

from __future__ import annotations

import math
from typing import Annotated, ClassVar, Literal

from pydantic import Field, model_validator

from strom_engine.design.choices import RelaySensing
from strom_engine.design.fields import (
    Amps,
    DropVolts,
    Polarity,
    Seconds,
    TrickleAmps,
    Volts,
)
from strom_engine.design.parts.base import THROUGH, Part
from strom_engine.design.parts.facts import Asked, Facts, FoundAboard, asked, own, usual
from strom_engine.design.parts.metal import RATING
from strom_engine.design.parts.sources import IDLE, STAGES, Staged

__all__ = [
    "DcDc",
    "Isolator",
    "OneWayCombiner",
    "Relay",
]


class Relay(Part):
    """A voltage-sensing combining relay; measures against its own negative wire.

    With ``start_isolation`` it stays open while an engine cranks; with ``ignition`` it is dead,
    and draws nothing, while the engine is stopped. ``lamp`` is a remote lamp that shows it closed.
    ``negative_fuse_a`` is the small fuse in its thin negative, its reference.

    Many have a second pair of thresholds: it also closes at ``cut_in_high_v`` held for
    ``cut_in_high_s``, and opens below ``cut_out_low_v`` held for ``cut_out_low_s``. Where somebody
    has taken the time from the end of charging until it opened, that is ``opens_after_s`` and
    stands in place of its cut-out. ``rating_a`` is for long, ``peak_a`` for seconds. ``idle_a`` is
    what it draws open and ``closed_a`` closed, as usual unless told.
    """

    facts = Facts(
        word="Combining relay",
        stands="gear",
        usual={"cut_in_v": 13.3, "cut_in_s": 60, "cut_out_v": 12.75, "cut_out_s": 30},
        counted="things that share charge",
        joins=(("a", "b"),),
        roles={"a": "first", "b": "second", "neg": "minus"},
        swaps=("dcdc", "one_way", "switch", "isolator", "selector"),
        shares=True,
        scheme=True,
        rest="open",
        moved="closed",
        open_at_rest=True,
        rated=True,
        sparks=True,
        found=FoundAboard(
            "a combining relay",
            "Combining relay",
            "between the bank and the engine bank",
            gauge="4 AWG",
            post="b",
            stays=True,
        ),
    )
    asked: ClassVar[tuple[Asked, ...]] = (
        asked("sensing", "Senses", {"dual": "Both sides", "a": "Side a", "b": "Side b"}),
        asked("cut_in_v", "Closes at"),
        asked("cut_in_s", "held for"),
        asked("cut_out_v", "Opens at"),
        asked("cut_out_s", "held for"),
        RATING,
        own("cut_in_high_v", "Closes sooner at"),
        own("cut_in_high_s", "Closes sooner after"),
        own("cut_out_low_v", "Opens sooner at"),
        own("cut_out_low_s", "Opens sooner after"),
        own("opens_after_s", "Opens after charging, as measured"),
        usual("lock_low_v", "Locked out below"),
        usual("lock_high_v", "Locked out above"),
        own("peak_a", "Rating for seconds"),
        IDLE,
        own("closed_a", "Draws by itself, closed"),
        asked("start_isolation", "While cranking", {True: "Held open", False: "As it sees"}),
        asked("ignition", "Ignition wire", {True: "Works only with the engine", False: "None"}),
        asked("lamp", "Remote lamp", {True: "Has one", False: "None"}),
        asked("negative_fuse_a", "Fuse in its thin negative"),
    )

    kind: Literal["relay"] = "relay"
    sensing: RelaySensing = "dual"
    cut_in_v: Volts
    cut_in_s: Seconds
    cut_out_v: Volts
    cut_out_s: Seconds
    lock_low_v: Volts = 9.6
    lock_high_v: Volts = 16.0
    cut_in_high_v: Volts | None = None
    cut_in_high_s: Seconds | None = None
    cut_out_low_v: Volts | None = None
    cut_out_low_s: Seconds | None = None
    opens_after_s: (
        Annotated[
            float, Field(ge=1, le=200_000, allow_inf_nan=False, json_schema_extra={"unit": "s"})
        ]
        | None
    ) = None
    rating_a: Amps = 140.0
    peak_a: Amps | None = None
    idle_a: TrickleAmps | None = None
    closed_a: TrickleAmps | None = None
    start_isolation: bool = False
    ignition: bool = False
    lamp: bool = False
    negative_fuse_a: Amps | None = None

    @model_validator(mode="after")
    def _thresholds(self) -> Relay:
        # Limits that nobody told are those of the system that the relay comes to be in.
        told = self.model_fields_set
        low_v = self.lock_low_v if "lock_low_v" in told else 0.0
        high_v = self.lock_high_v if "lock_high_v" in told else math.inf
        if not low_v < self.cut_out_v < self.cut_in_v < high_v:
            raise ValueError("thresholds must rise: lock_low_v, cut_out_v, cut_in_v, lock_high_v")
        if (self.cut_in_high_v is None) != (self.cut_in_high_s is None):
            raise ValueError("cut_in_high_v and cut_in_high_s go together")
        if (self.cut_out_low_v is None) != (self.cut_out_low_s is None):
            raise ValueError("cut_out_low_v and cut_out_low_s go together")
        if self.cut_in_high_v is not None and self.cut_in_high_v <= self.cut_in_v:
            raise ValueError("cut_in_high_v must be above cut_in_v")
        if self.cut_out_low_v is not None and self.cut_out_low_v >= self.cut_out_v:
            raise ValueError("cut_out_low_v must be below cut_out_v")
        return self

    @property
    def moves_itself(self) -> bool:
        return True

    def posts(self) -> dict[str, Polarity]:
        return THROUGH | {"neg": "neg"}


class Isolator(Part):
    """An isolator: current passes from each input to each output, and never back.

    Through ``excite``, fed from the ignition, an alternator in front of it gets the voltage it
    needs to start. ``drop_v`` is its drop at its rated current, as usual of its sort unless told.
    """

    facts = Facts(
        word="Isolator",
        stands="gear",
        usual={"sort": "silicon", "outputs": 2, "rating_a": 120},
        counted="things that share charge",
        roles={"out1": "first", "out2": "second", "out3": "third", "in": "out", "in2": "out2"},
        swaps=("selector", "bus_bar", "relay"),
        shares=True,
        scheme=True,
        rated=True,
        sparks=True,
        heats=True,
        found=FoundAboard(
            "an isolator",
            "Isolator",
            "behind the alternator: its first output to what was there, its second to the bank",
            gauge="4 AWG",
            post="out2",
        ),
    )
    asked: ClassVar[tuple[Asked, ...]] = (
        asked(
            "sort",
            "Sort",
            {
                "silicon": "Silicon diodes",
                "schottky": "Schottky diodes",
                "fet": "Transistors (FET)",
            },
        ),
        RATING,
        asked("inputs", "Inputs"),
        asked("outputs", "Outputs"),
        asked("excitation_post", "Excitation post", {True: "Has one", False: "None"}),
        own("drop_v", "Drop at its rating"),
    )

    kind: Literal["isolator"] = "isolator"
    sort: Literal["silicon", "schottky", "fet"] = "silicon"
    inputs: Annotated[int, Field(ge=1, le=2)] = 1
    outputs: Annotated[int, Field(ge=2, le=3)] = 2
    rating_a: Amps = 120.0
    drop_v: DropVolts | None = None
    excitation_post: bool = False

    def posts(self) -> dict[str, Polarity]:
        outs: dict[str, Polarity] = {f"out{i}": "pos" for i in range(1, self.outputs + 1)}
        ins: dict[str, Polarity] = {"in": "pos"}
        if self.inputs == 2:
            ins["in2"] = "pos"
        if self.excitation_post:
            ins["excite"] = "pos"
        return outs | ins

    def ways(self) -> tuple[tuple[str, str], ...]:
        """Posts of each way through it, in and out."""
        ins = ("in", "in2")[: self.inputs]
        return tuple((i, f"out{n}") for i in ins for n in range(1, self.outputs + 1))


class DcDc(Staged):
    """A dc-dc charger: takes from one bank and charges another by a profile of its own.

    It starts when its input has ``start_v`` and stops below ``stop_v``; with ``ignition`` it
    runs only while the engine does. Both sides share one negative unless it is ``isolated``.
    ``input_limit_a`` is the most that it takes, counted at ``stop_v`` where it takes most;
    ``delay_s`` for how long its input must be so before it starts or stops, ``idle_a`` what it
    draws while it rests: as usual unless told.
    """

    facts = Facts(
        word="dc-dc charger",
        stands="gear",
        usual={"limit_a": 30, "set_v": 14.2, "float_v": 13.6, "start_v": 13.3, "stop_v": 12.8},
        counted="things that share charge",
        roles={"in": "first", "out": "second", "neg": "minus", "out_neg": "minus2"},
        swaps=("relay", "one_way", "switch"),
        paired=True,
        gives_by="input",
        shares=True,
        scheme=True,
        rest="rests",
        moved="runs",
        open_at_rest=True,
        sparks=True,
        heats=True,
        found=FoundAboard(
            "a dc-dc charger",
            "Dc-dc charger",
            "from the engine bank to the bank",
            gauge="4 AWG",
            post="out",
        ),
    )
    asked: ClassVar[tuple[Asked, ...]] = (
        asked("limit_a", "Gives at most"),
        asked("set_v", "Voltage it holds"),
        asked("start_v", "Starts when its input has"),
        asked("stop_v", "Stops below"),
        own("input_limit_a", "Takes at most"),
        own("delay_s", "Start and stop held for"),
        asked("efficiency", "Efficiency"),
        IDLE,
        asked("ignition", "Ignition wire", {True: "Runs only with the engine", False: "None"}),
        asked("isolated", "Negatives", {True: "Kept apart", False: "Shared"}),
        *STAGES,
    )

    kind: Literal["dcdc"] = "dcdc"
    limit_a: Amps
    efficiency: Annotated[
        float, Field(gt=0.5, le=1, allow_inf_nan=False, json_schema_extra={"unit": "0–1"})
    ] = 0.9
    start_v: Volts = 13.3
    stop_v: Volts = 12.8
    input_limit_a: Amps | None = None
    delay_s: Seconds | None = None
    ignition: bool = False
    isolated: bool = False
    idle_a: TrickleAmps | None = None

    @model_validator(mode="after")
    def _thresholds(self) -> DcDc:
        if self.stop_v >= self.start_v:
            raise ValueError("stop_v must be below start_v")
        return self

    @property
    def moves_itself(self) -> bool:
        return True

    def posts(self) -> dict[str, Polarity]:
        ends: dict[str, Polarity] = {"in": "pos", "out": "pos", "neg": "neg"}
        return ends | {"out_neg": "neg"} if self.isolated else ends

    @property
    def output_limit_a(self) -> float:
        """Most that it gives [A], by its own limit and by that of its input."""
        if self.input_limit_a is None:
            return self.limit_a
        return min(self.limit_a, self.input_limit_a * self.efficiency * self.stop_v / self.set_v)

    @property
    def takes_a(self) -> float:
        """Most that it takes [A]: all it gives, with its input just above where it stops."""
        return self.output_limit_a * self.set_v / self.efficiency / self.stop_v

    @property
    def out_neg(self) -> str:
        """The negative post of its output."""
        return "out_neg" if self.isolated else "neg"


class OneWayCombiner(Part):
    """Passes a limited current from one bank to another while the first one is being charged.

    Current never comes back, and no voltage is changed. ``delay_s`` and ``idle_a`` as of a dc-dc
    charger.
    """

    facts = Facts(
        word="One-way combiner",
        stands="gear",
        usual={"limit_a": 15, "start_v": 13.2, "stop_v": 12.9},
        counted="things that share charge",
        roles={"in": "first", "out": "second", "neg": "minus"},
        swaps=("dcdc", "relay"),
        shares=True,
        scheme=True,
        rest="rests",
        moved="runs",
        open_at_rest=True,
        sparks=True,
        heats=True,
        found=FoundAboard(
            "a one-way combiner", "One-way combiner", "from the engine bank to the bank", post="out"
        ),
    )
    asked: ClassVar[tuple[Asked, ...]] = (
        asked("limit_a", "Passes at most"),
        asked("start_v", "Starts when its input has"),
        asked("stop_v", "Stops below"),
        own("delay_s", "Held for"),
        IDLE,
    )

    kind: Literal["one_way"] = "one_way"
    limit_a: Amps = 15.0
    start_v: Volts = 13.2
    stop_v: Volts = 12.9
    delay_s: Seconds | None = None
    idle_a: TrickleAmps | None = None

    @model_validator(mode="after")
    def _thresholds(self) -> OneWayCombiner:
        if self.stop_v >= self.start_v:
            raise ValueError("stop_v must be below start_v")
        return self

    @property
    def moves_itself(self) -> bool:
        return True

    def posts(self) -> dict[str, Polarity]:
        return {"in": "pos", "out": "pos", "neg": "neg"}
