"""Banks of batteries."""

from __future__ import annotations

from typing import Annotated, ClassVar, Literal

from pydantic import Field, model_validator

from strom_engine.design.choices import BatteryChemistry, UnitVolts
from strom_engine.design.fields import (
    AmpHours,
    Amps,
    Kilograms,
    Ohms,
    Polarity,
    Share,
    Temperature,
    TrickleAmps,
)
from strom_engine.design.parts.base import PAIR, Part
from strom_engine.design.parts.facts import Asked, Facts, FoundAboard, asked, own, usual
from strom_engine.reference import CHEMISTRIES, chemistry

__all__ = [
    "Bank",
]


# Above 48 V nominal (60 V when charged) other rules hold than those of extra-low voltage:
# 33 CFR 183.401 and ISO 13297 end at 50 V and 60 V.
MOST_NOMINAL_V = 48
MCA_PER_CCA = 1.23  # SAE J537 at 0 and -18 degC as commonly published, 1.2 to 1.3


class Bank(Part):
    """One or more equal batteries, series x parallel, switched and charged as one.

    ``unit_mca_a``: marine cranking amps, at 0 degC; ``unit_tested_cca_a``: cold cranking amps that
    a conductance tester made of it; ``unit_resistance_ohm``: measured, at 25 degC and full.
    ``held``: moves no more than 25 mm; ``boxed``: in a tray or box that takes spilt acid;
    ``vented``: the space lets gas out; ``boots``: the positive terminals are covered;
    ``clear_of_fuel``: under and over no fuel tank, filter or bare metal fitting.
    ``link_ohm``: a lead between two strings; ``string_fuses``: a fuse in each; ``tap_a``: mean
    current that is taken off a part of its series, as 12 V off half of 24 V. ``unit_charge_a``,
    ``unit_discharge_a``, ``unit_peak_a``: limits of one battery, of its own protection if it has
    one inside.
    """

    facts = Facts(
        word="Bank",
        stands="bank",
        usual={"chemistry": "agm", "unit_ah": 100, "soc": 0.8, "role": "other"},
        counted="banks",
        paired=True,
        found=FoundAboard("a bank", "Bank", "joined by its negative", gauge="1/0 AWG"),
    )
    asked: ClassVar[tuple[Asked, ...]] = (
        asked(
            "role",
            "What it is for",
            {
                "engine": "Starting the engine",
                "house": "House",
                "thruster": "Thruster",
                "other": "Other",
            },
        ),
        asked("chemistry", "Chemistry", {c: chemistry(c).label for c in CHEMISTRIES}),
        asked("unit_v", "Volts of one battery", {6: "6 V", 8: "8 V", 12: "12 V", 24: "24 V"}),
        asked("unit_ah", "Capacity of one, 20 h"),
        asked("unit_cca_a", "Cold cranking amps of one"),
        own("unit_mca_a", "Marine cranking amps, 0 °C"),
        own("unit_tested_cca_a", "Cranking amps, tested"),
        own("unit_resistance_ohm", "Resistance of one, measured"),
        own("unit_weight_kg", "Weight of one"),
        asked("series", "In series"),
        asked("parallel", "In parallel"),
        asked("age_years", "Age"),
        usual("soc", "Charge it starts with"),
        usual("temperature_c", "Temperature of it"),
        asked("members_alike", "All of one make, size, age"),
        asked(
            "take_off",
            "Positive and negative taken off",
            {"opposite": "At opposite ends", "one_end": "At one end"},
        ),
        asked(
            "terminals",
            "Terminals",
            {"tapered": "Tapered posts", "stud": "Studs with nuts", "wing_nut": "Wing nuts"},
        ),
        asked("held", "Held: moves 25 mm at most"),
        asked("boxed", "In a tray or box"),
        asked("vented", "Space lets gas out"),
        asked("boots", "Boots on the positives"),
        asked("clear_of_fuel", "Clear of fuel tanks and fittings"),
        own("string_fuses", "A fuse in each string"),
        own("link_ohm", "Lead between two strings"),
        own("tap_a", "Taken off half of it, in the mean"),
        own("unit_charge_a", "Charge of one at most"),
        own("unit_discharge_a", "Discharge of one at most"),
        own("unit_peak_a", "Discharge of one, for seconds"),
    )

    kind: Literal["bank"] = "bank"
    role: Literal["engine", "house", "thruster", "other"]
    chemistry: BatteryChemistry
    unit_v: UnitVolts = 12
    unit_ah: AmpHours
    unit_cca_a: Amps | None = None
    unit_mca_a: Amps | None = None
    unit_tested_cca_a: Amps | None = None
    unit_resistance_ohm: Ohms | None = None
    unit_weight_kg: Kilograms | None = None
    series: Annotated[int, Field(ge=1, le=8)] = 1
    parallel: Annotated[int, Field(ge=1, le=12)] = 1
    soc: Share
    temperature_c: Temperature = 20.0
    age_years: (
        Annotated[
            float, Field(ge=0, le=40, allow_inf_nan=False, json_schema_extra={"unit": "years"})
        ]
        | None
    ) = None
    members_alike: bool | None = None
    take_off: Literal["opposite", "one_end"] | None = None
    terminals: Literal["tapered", "stud", "wing_nut"] | None = None
    held: bool | None = None
    boxed: bool | None = None
    vented: bool | None = None
    boots: bool | None = None
    clear_of_fuel: bool | None = None
    string_fuses: bool | None = None
    link_ohm: Ohms | None = None
    tap_a: TrickleAmps | None = None
    unit_charge_a: Amps | None = None
    unit_discharge_a: Amps | None = None
    unit_peak_a: Amps | None = None

    @model_validator(mode="after")
    def _volts(self) -> Bank:
        if self.nominal_v > MOST_NOMINAL_V:
            raise ValueError(
                f"{self.series} x {self.unit_v} V in series are {self.nominal_v:g} V; "
                f"a bank aboard has {MOST_NOMINAL_V} V at most"
            )
        return self

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
        """Cold cranking amps of the bank [A], as tested or by its label; None when not known.

        Marine cranking amps are about 1.23 times as many (reference table cranking_cold).
        """
        unit = self.unit_tested_cca_a or self.unit_cca_a
        if unit is None and self.unit_mca_a is not None:
            unit = self.unit_mca_a / MCA_PER_CCA
        return None if unit is None else unit * self.parallel

    def posts(self) -> dict[str, Polarity]:
        return dict(PAIR)
