"""Field types shared by the document: identifiers, quantities with limits, the frozen base.

The limits of a quantity are what gear aboard a boat can be: wide enough for anything that is made,
narrow enough that whatever lies within them can be computed.
"""

from __future__ import annotations

import re
from typing import Annotated, Literal

from pydantic import AfterValidator, BaseModel, ConfigDict, Field, StringConstraints

__all__ = [
    "AmpHours",
    "Amps",
    "DropVolts",
    "Frozen",
    "Hours",
    "Identifier",
    "Kilograms",
    "Kilowatts",
    "LengthM",
    "Millivolts",
    "MillivoltsPerKelvin",
    "Name",
    "Ohms",
    "Polarity",
    "PostRef",
    "Price",
    "Rpm",
    "Seconds",
    "Share",
    "Stud",
    "Temperature",
    "Text",
    "TrickleAmps",
    "Volts",
    "Watts",
    "WeakWatts",
]


_UNPRINTABLE = re.compile("[\x00-\x08\x0b-\x1f\x7f-\x9f\ud800-\udfff\ufffe\uffff]")


def _printable(text: str) -> str:
    """Text that can be kept and shown: no control characters, no half characters."""
    if _UNPRINTABLE.search(text):
        raise ValueError("holds control characters or broken ones")
    return text


Text = Annotated[str, AfterValidator(_printable), Field(max_length=2000)]

Identifier = Annotated[str, StringConstraints(pattern=r"^[a-z][a-z0-9_]{0,39}$")]
Name = Annotated[
    str,
    StringConstraints(min_length=1, max_length=60, strip_whitespace=True),
    AfterValidator(_printable),
]
PostRef = Annotated[str, StringConstraints(pattern=r"^[a-z][a-z0-9_]{0,39}\.[a-z0-9_]{1,20}$")]
Amps = Annotated[float, Field(ge=0.001, le=20_000, allow_inf_nan=False)]
# What draws next to nothing: a memory supply, a gauge.
TrickleAmps = Annotated[float, Field(ge=1e-6, le=20_000, allow_inf_nan=False)]
Volts = Annotated[float, Field(ge=0.5, le=100, allow_inf_nan=False)]
Millivolts = Annotated[float, Field(ge=1, le=1000, allow_inf_nan=False)]
Ohms = Annotated[float, Field(ge=1e-5, le=1, allow_inf_nan=False)]
AmpHours = Annotated[float, Field(ge=0.5, le=5000, allow_inf_nan=False)]
Watts = Annotated[float, Field(ge=0.1, le=100_000, allow_inf_nan=False)]
WeakWatts = Annotated[float, Field(ge=1e-4, le=100_000, allow_inf_nan=False)]
Kilowatts = Annotated[float, Field(ge=0.05, le=10_000, allow_inf_nan=False)]
Kilograms = Annotated[float, Field(ge=0.05, le=5000, allow_inf_nan=False)]
Seconds = Annotated[float, Field(ge=0.1, le=3600, allow_inf_nan=False)]
DropVolts = Annotated[float, Field(ge=0.005, le=3, allow_inf_nan=False)]
# Compensation of a charging voltage: of the whole system, and downwards as it gets warmer.
MillivoltsPerKelvin = Annotated[float, Field(ge=-200, le=0, allow_inf_nan=False)]
Hours = Annotated[float, Field(ge=0.01, le=100, allow_inf_nan=False)]
Rpm = Annotated[float, Field(ge=50, le=20_000, allow_inf_nan=False)]
LengthM = Annotated[float, Field(ge=0.01, le=200, allow_inf_nan=False)]
Price = Annotated[float, Field(ge=0, le=1e6, allow_inf_nan=False)]
Share = Annotated[float, Field(ge=0, le=1, allow_inf_nan=False)]
Temperature = Annotated[float, Field(ge=-40, le=90, allow_inf_nan=False)]
Polarity = Literal["pos", "neg", "any"]
Stud = Literal["M4", "M5", "M6", "M8", "M10", "M12"]


class Frozen(BaseModel):
    """Base of everything in the document: immutable, nothing unknown let in."""

    model_config = ConfigDict(frozen=True, extra="forbid")
