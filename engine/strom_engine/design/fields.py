"""Field types shared by the document: identifiers, quantities with limits, the frozen base.

The limits of a quantity are what gear aboard a boat can be: wide enough for anything that is made,
narrow enough that whatever lies within them can be computed.
"""

from __future__ import annotations

import re
from collections.abc import Mapping, Sequence
from datetime import UTC, datetime
from typing import Annotated, Any, ClassVar, Literal, Self

from pydantic import (
    AfterValidator,
    AwareDatetime,
    BaseModel,
    ConfigDict,
    Field,
    GetCoreSchemaHandler,
    StringConstraints,
    field_validator,
    model_validator,
)
from pydantic_core import CoreSchema, core_schema
from typing_extensions import TypeAliasType

from strom_engine.reference.conductors import CONDUCTOR_SIZES
from strom_engine.versions import Chain

__all__ = [
    "EARLIEST",
    "LATEST",
    "USUAL_INSULATION_C",
    "AlternatorId",
    "AmpHours",
    "Amps",
    "BankId",
    "CopperMm2",
    "DropVolts",
    "FieldValue",
    "Frozen",
    "Gauge",
    "Hours",
    "Identifier",
    "InsulationC",
    "Kilograms",
    "Kilowatts",
    "LengthM",
    "Millimetres",
    "Millivolts",
    "MillivoltsPerKelvin",
    "Moment",
    "Name",
    "Ohms",
    "Polarity",
    "PostRef",
    "Price",
    "Rpm",
    "Scalar",
    "Seconds",
    "Share",
    "Stud",
    "Temperature",
    "Text",
    "TrickleAmps",
    "Versioned",
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
# Ids of other parts, by what they must be.
BankId = Annotated[Identifier, Field(json_schema_extra={"refers_to": "bank"})]
AlternatorId = Annotated[Identifier, Field(json_schema_extra={"refers_to": "alternator"})]
Name = Annotated[
    str,
    StringConstraints(min_length=1, max_length=60, strip_whitespace=True),
    AfterValidator(_printable),
]
# What a field of a document can hold: JSON data, as deep as any field of one is.
Scalar = bool | int | float | str | None
Inner = Scalar | Sequence[Scalar] | Mapping[str, Scalar]
FieldValue = TypeAliasType(
    "FieldValue",
    Inner | Sequence[Inner | Mapping[str, Inner]] | Mapping[str, Inner],
)
POST_REF = r"^[a-z][a-z0-9_]{0,39}\.[a-z0-9_]{1,20}$"


class PostRef(str):
    """A post of a part, written ``part.post`` in documents.

    >>> PostRef.of("house_bank", "pos").post
    'pos'
    """

    __slots__ = ()

    @classmethod
    def of(cls, part: str, post: str) -> PostRef:
        """The reference to a post by its part's id and its own name."""
        return cls(f"{part}.{post}")

    @property
    def part(self) -> str:
        """Id of the part."""
        return self.partition(".")[0]

    @property
    def post(self) -> str:
        """Name of the post on its part."""
        return self.partition(".")[2]

    @classmethod
    def __get_pydantic_core_schema__(
        cls, source: object, handler: GetCoreSchemaHandler
    ) -> CoreSchema:
        return core_schema.no_info_after_validator_function(
            cls, core_schema.str_schema(pattern=POST_REF)
        )


Amps = Annotated[
    float, Field(ge=0.001, le=20_000, allow_inf_nan=False, json_schema_extra={"unit": "A"})
]
# What draws next to nothing: a memory supply, a gauge.
TrickleAmps = Annotated[
    float, Field(ge=1e-6, le=20_000, allow_inf_nan=False, json_schema_extra={"unit": "A"})
]
Volts = Annotated[
    float, Field(ge=0.5, le=100, allow_inf_nan=False, json_schema_extra={"unit": "V"})
]
Millivolts = Annotated[
    float, Field(ge=1, le=1000, allow_inf_nan=False, json_schema_extra={"unit": "mV"})
]
Ohms = Annotated[float, Field(ge=1e-5, le=1, allow_inf_nan=False, json_schema_extra={"unit": "Ω"})]
AmpHours = Annotated[
    float, Field(ge=0.5, le=5000, allow_inf_nan=False, json_schema_extra={"unit": "Ah"})
]
Watts = Annotated[
    float, Field(ge=0.1, le=100_000, allow_inf_nan=False, json_schema_extra={"unit": "W"})
]
WeakWatts = Annotated[
    float, Field(ge=1e-4, le=100_000, allow_inf_nan=False, json_schema_extra={"unit": "W"})
]
Kilowatts = Annotated[
    float, Field(ge=0.05, le=10_000, allow_inf_nan=False, json_schema_extra={"unit": "kW"})
]
Kilograms = Annotated[
    float, Field(ge=0.05, le=5000, allow_inf_nan=False, json_schema_extra={"unit": "kg"})
]
Seconds = Annotated[
    float, Field(ge=0.1, le=3600, allow_inf_nan=False, json_schema_extra={"unit": "s"})
]
DropVolts = Annotated[
    float, Field(ge=0.005, le=3, allow_inf_nan=False, json_schema_extra={"unit": "V"})
]
# Compensation of a charging voltage: of the whole system, and downwards as it gets warmer.
MillivoltsPerKelvin = Annotated[
    float, Field(ge=-200, le=0, allow_inf_nan=False, json_schema_extra={"unit": "mV/K"})
]
Hours = Annotated[
    float, Field(ge=0.01, le=100, allow_inf_nan=False, json_schema_extra={"unit": "h"})
]
Rpm = Annotated[
    float, Field(ge=50, le=20_000, allow_inf_nan=False, json_schema_extra={"unit": "rpm"})
]
LengthM = Annotated[
    float, Field(ge=0.01, le=200, allow_inf_nan=False, json_schema_extra={"unit": "m"})
]
Millimetres = Annotated[
    float, Field(ge=1, le=20_000, allow_inf_nan=False, json_schema_extra={"unit": "mm"})
]
Price = Annotated[float, Field(ge=0, le=1e6, allow_inf_nan=False)]
# Temperature ratings that conductors aboard are listed with (ABYC E-11, ISO 13297), and the one
# that good boat cable has.
InsulationC = Literal[60, 70, 75, 80, 85, 90, 105, 125, 200]
USUAL_INSULATION_C: InsulationC = 105


def _known_size(size: str) -> str:
    if size not in CONDUCTOR_SIZES:
        raise ValueError(f"is not a known size; known: {', '.join(CONDUCTOR_SIZES)}")
    return size


Gauge = Annotated[str, AfterValidator(_known_size)]
CopperMm2 = Annotated[float, Field(gt=0.1, le=1000, allow_inf_nan=False)]
Share = Annotated[float, Field(ge=0, le=1, allow_inf_nan=False, json_schema_extra={"unit": "0–1"})]
Temperature = Annotated[
    float, Field(ge=-40, le=90, allow_inf_nan=False, json_schema_extra={"unit": "°C"})
]
Polarity = Literal["pos", "neg", "any"]
Stud = Literal["M4", "M5", "M6", "M8", "M10", "M12"]


# Moments that an entry, a photograph or a record of a boat can have.
EARLIEST, LATEST = datetime(1970, 1, 1, tzinfo=UTC), datetime(2100, 1, 1, tzinfo=UTC)


def _in_our_time(moment: datetime) -> datetime:
    if not EARLIEST <= moment < LATEST:
        raise ValueError(f"lies before {EARLIEST.year} or after {LATEST.year - 1}")
    return moment


Moment = Annotated[AwareDatetime, AfterValidator(_in_our_time)]


class Frozen(BaseModel):
    """Base of everything in the document: immutable, nothing unknown let in."""

    model_config = ConfigDict(frozen=True, extra="forbid")

    def __deepcopy__(self, memo: dict[int, Any] | None = None) -> Self:
        """Itself: what cannot change needs no copy."""
        return self


class Versioned(Frozen):
    """A document with a version: one of any earlier version is read as the present one has it."""

    chain: ClassVar[Chain]

    version: int

    @model_validator(mode="before")
    @classmethod
    def _brought_up(cls, raw: Any) -> Any:  # Any: whatever somebody sends
        return cls.chain.brought_up(raw) if isinstance(raw, Mapping) else raw

    @field_validator("version")
    @classmethod
    def _of_today(cls, version: int) -> int:
        if version != cls.chain.version:
            raise ValueError(f"versions run from 1 to {cls.chain.version}")
        return version
