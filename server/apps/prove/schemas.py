"""What the endpoints of the stage Prove take and give."""

from __future__ import annotations

from datetime import datetime
from typing import Annotated, Literal
from uuid import UUID

from ninja import Schema
from pydantic import Field
from strom_engine.design.fields import Text
from strom_engine.prove import Instrument, ProvingTest, Verdict

__all__ = [
    "FIELDS",
    "Answer",
    "CauseOut",
    "DiagnosisOut",
    "MeaningOut",
    "MeterIn",
    "MeterOut",
    "MetersIn",
    "MissOut",
    "ProveEntriesIn",
    "ProveEntryIn",
    "ProveEntryOut",
    "ProveOut",
    "ReadingIn",
    "ReadingOut",
    "RecordIn",
    "TodayIn",
]

ProveKind = Literal["reading", "look", "note", "waived", "today"]
Target = Annotated[str, Field(min_length=1, max_length=160)]
Answer = Literal["within", "doubtful", "outside", "impossible", "yes", "no", "waived", "open"]
# Which field of an entry its kind is told in.
FIELDS = {"reading": "reading", "look": "seen", "note": "text", "waived": "text", "today": "today"}


class TodayIn(Schema):
    """What was found today: air [degC], hours that the banks have rested [h]."""

    temperature_c: Annotated[float, Field(ge=-40, le=60, allow_inf_nan=False)] | None = None
    rested_h: Annotated[float, Field(ge=0, le=1000, allow_inf_nan=False)] = 4.0


class ReadingIn(Schema):
    """What a meter showed, in the unit of its test; ``instrument`` is its name."""

    value: Annotated[float, Field(ge=-1e6, le=1e6, allow_inf_nan=False)]
    instrument: Annotated[str, Field(max_length=60)] = ""


class ProveEntryIn(Schema):
    """One entry as a device made it; only the field of its kind counts.

    A ``reading``; ``seen``: whether it looks as it should; ``text`` of a note, or why a test is
    waived; ``today``, what was found today.
    """

    id: UUID
    kind: ProveKind
    target: Target
    at: datetime
    revision: int = Field(ge=1, le=2_000_000_000)
    reading: ReadingIn | None = None
    seen: bool | None = None
    text: Annotated[Text, Field(max_length=1000)] | None = None
    today: TodayIn | None = None


class ProveEntriesIn(Schema):
    """Entries in the order in which they were made; the same one may come twice."""

    entries: list[ProveEntryIn] = Field(min_length=1, max_length=500)


class ProveEntryOut(Schema):
    """An entry as it is kept, with what it says of its test as the boat is designed now."""

    id: UUID
    kind: ProveKind
    target: str
    at: datetime
    revision: int
    author: str | None
    outdated: bool
    reading: ReadingIn | None = None
    seen: bool | None = None
    text: str | None = None
    verdict: Verdict | None = None


class TestState(Schema):
    """How a test stands: the answer of its latest entry, and all of them, the latest first."""

    answer: Answer
    entries: list[ProveEntryOut]


class ProveOut(Schema):
    """The stage Prove of a variant, all that a phone aboard needs in one answer.

    ``not_so`` counts tests that are not as they should be; ``lost`` are entries about tests that
    the design no longer has; ``live_meter``: whether readings can be taken from a meter that is
    connected to this server.
    """

    revision: int
    variant: UUID
    tests: list[ProvingTest]
    states: dict[str, TestState]
    counts: dict[Answer, int]
    not_so: int
    next: str | None
    today: TodayIn
    lost: list[ProveEntryOut]
    meters: list[Instrument]
    usual_meters: list[Instrument]
    live_meter: bool
    groups: dict[str, str]
    confirm: str


class MetersIn(Schema):
    """The meters of the workshop, the best first."""

    meters: list[Instrument] = Field(max_length=20)


class MeterIn(Schema):
    """A test whose reading is taken from the connected meter."""

    test: Target


class MeterOut(Schema):
    """What the connected meter shows."""

    value: float
    unit: str
    instrument: str


class ReadingOut(Schema):
    """A reading that the diagnosis rests on."""

    key: str
    title: str
    value: float
    unit: str
    at: datetime


class CauseOut(Schema):
    """A cause, or causes that no reading so far can part, with its share of belief [-]."""

    keys: list[str]
    words: list[str]
    share: float
    cure: str
    parts: list[str]
    speaks: list[str]


class MeaningOut(Schema):
    """What the next reading would be with a cause [V or A]."""

    words: str
    value: float


class MissOut(Schema):
    """A test whose reading is not as it should be."""

    key: str
    title: str


class DiagnosisOut(Schema):
    """Causes by all readings, the likeliest first, and the reading that tells most next.

    ``found``: one cause is as good as sure; ``gain_bit``: how much the next reading tells [bit];
    ``odd`` are readings that no cause comes near; ``about`` is the miss that is looked into, empty
    for all readings together.
    """

    revision: int
    variant: UUID
    found: bool
    causes: list[CauseOut]
    next: ProvingTest | None
    gain_bit: float
    means: list[MeaningOut]
    odd: list[str]
    readings: list[ReadingOut]
    misses: list[MissOut]
    about: str


class RecordIn(Schema):
    """The proving record: paper, and who answers for it."""

    paper: Literal["A4", "letter"] = "A4"
    proved_by: Annotated[Text, Field(max_length=80)] = ""
    received_by: Annotated[Text, Field(max_length=80)] = ""
