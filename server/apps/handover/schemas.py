"""What the endpoints of the stage Handover take and give."""

from __future__ import annotations

from datetime import datetime
from typing import Annotated, Literal
from uuid import UUID

from ninja import Schema
from pydantic import Field
from strom_engine.dayrun import School, SchoolId
from strom_engine.dayrun.lines import Rank
from strom_engine.design.fields import Text
from strom_engine.handover import DrillMove, Language, SaidLine, SaidSheet
from strom_engine.handover.drill import PlayOutcome
from strom_engine.handover.line import SwitchAt
from strom_engine.handover.scene import SceneGoal

__all__ = [
    "FIELDS",
    "DrillIn",
    "DrillOut",
    "DrillResultIn",
    "HandoverEntriesIn",
    "HandoverEntryIn",
    "HandoverOut",
    "HandoverPackIn",
    "OwnerDrillIn",
    "OwnerLinkIn",
    "OwnerLinkMade",
    "OwnerLinkOut",
    "OwnerOut",
    "OwnerReadingIn",
    "OwnerResultsIn",
    "PlayIn",
    "PlayedOut",
    "PractisedIn",
    "PractisedOut",
    "ReplyOut",
    "SceneOut",
    "SheetIn",
]

Person = Annotated[Text, Field(max_length=80)]
SceneKey = Annotated[str, Field(min_length=1, max_length=120)]
# Which field of an entry its kind is told in.
FIELDS = {"drill": "drill", "practised": "practised"}


class HandoverOut(Schema):
    """The owner's sheet of a variant in words; ``why_not`` says why the handling has none here.

    ``plain_from`` is the reading ease from which on a text counts as plain.
    """

    revision: int
    variant: UUID
    school: SchoolId
    why_not: str
    schools: list[School]
    languages: dict[Language, str]
    sheet: SaidSheet
    reading_ease: float | None
    plain_from: float
    practised: list[PractisedOut]


class SheetIn(Schema):
    """A sheet on paper."""

    paper: Literal["A4", "letter", "A5"] = "A4"
    school: SchoolId
    language: Language = "en"


class HandoverPackIn(Schema):
    """The handover pack: paper, the handling and language of its sheet, who hands over to whom."""

    paper: Literal["A4", "letter"] = "A4"
    school: SchoolId
    language: Language = "en"
    handed_by: Person = ""
    received_by: Person = ""


class DrillIn(Schema):
    """Scenes for a handling."""

    school: SchoolId


class SceneOut(Schema):
    """A scene in words, and how it stands: how often it was practised, when it is due again."""

    key: str
    head: str
    text: str
    goal: SceneGoal
    grade: Rank
    times: int
    in_a_row: int
    due: datetime | None
    is_due: bool


class DrillOut(Schema):
    """Scenes in the order in which they are practised; none while they are not computed."""

    school: SchoolId
    ready: bool
    scenes: list[SceneOut]


class PlayIn(Schema):
    """A scene and the moves made in it so far."""

    scene: SceneKey
    school: SchoolId
    language: Language = "en"
    moves: Annotated[list[DrillMove], Field(max_length=60)]


class ReplyOut(Schema):
    """What follows from a move: words, volts of every bank by its name [V]."""

    line: SaidLine
    outcome: PlayOutcome
    volts_v: dict[str, float]


class PositionName(Schema):
    """A position of a switch, and what stands on it."""

    position: str
    words: str


class PlayedOut(Schema):
    """A scene after some moves; ``positions`` are where each switch can be turned to, in words."""

    engine: Literal["off", "on"]
    switches: list[SwitchAt]
    positions: dict[str, list[PositionName]]
    replies: list[ReplyOut]
    outcome: PlayOutcome
    hint: str


class DrillResultIn(Schema):
    """How a scene went, and how many moves it took."""

    outcome: Literal["right", "wrong", "harm"]
    moves: Annotated[int, Field(ge=0, le=1000)]


class PractisedIn(Schema):
    """Practice aboard with the real switches: what was done, how long it took [s], by whom."""

    items: Annotated[list[Text], Field(min_length=1, max_length=60)]
    seconds: Annotated[int, Field(ge=0, le=86_400)]
    owner: Annotated[Text, Field(min_length=1, max_length=80)]
    electrician: Person = ""


class HandoverEntryIn(Schema):
    """One entry as a device made it; only the field of its kind counts."""

    id: UUID
    kind: Literal["drill", "practised"]
    target: Annotated[str, Field(min_length=1, max_length=160)]
    at: datetime
    revision: int = Field(ge=1, le=2_000_000_000)
    drill: DrillResultIn | None = None
    practised: PractisedIn | None = None


class HandoverEntriesIn(Schema):
    """Entries in the order in which they were made; the same one may come twice."""

    entries: list[HandoverEntryIn] = Field(min_length=1, max_length=200)


class PractisedOut(Schema):
    """Practice aboard that was entered."""

    id: UUID
    at: datetime
    practised: PractisedIn


class OwnerLinkIn(Schema):
    """A link for an owner: for whom, for how many days, handled how, in which language."""

    name: Annotated[Text, Field(min_length=1, max_length=80)]
    days: Annotated[int, Field(ge=1, le=1100)] = 365
    school: SchoolId
    language: Language = "en"


class OwnerLinkOut(Schema):
    """A link that is out; ``standing`` tells whether it opens anything."""

    id: UUID
    name: str
    created: datetime
    expires: datetime
    seen: datetime | None
    standing: Literal["open", "expired", "revoked"]


class OwnerLinkMade(Schema):
    """A new link with its address, which is shown this once."""

    link: OwnerLinkOut
    address: str


class BankName(Schema):
    """A bank by its id and name."""

    id: str
    name: str


class OwnerOut(Schema):
    """What a link opens: the sheet of one boat, her banks, and scenes to practise."""

    boat: str
    revision: int
    language: Language
    languages: dict[Language, str]
    school: SchoolId
    expires: datetime
    sheet: SaidSheet
    banks: list[BankName]
    drill: DrillOut


class OwnerReadingIn(Schema):
    """Rest volts that an owner read, with hours of rest before it [h]."""

    id: UUID
    at: datetime
    bank: Annotated[str, Field(min_length=1, max_length=60)]
    volts_v: Annotated[float, Field(gt=0, le=80, allow_inf_nan=False)]
    rested_h: Annotated[float, Field(ge=0, le=5000, allow_inf_nan=False)] = 0.0


class OwnerDrillIn(Schema):
    """A scene and the moves made in it so far, in the handling and language of the link."""

    scene: SceneKey
    language: Language = "en"
    moves: Annotated[list[DrillMove], Field(max_length=60)]


class OwnerResultsIn(Schema):
    """How scenes went."""

    entries: list[HandoverEntryIn] = Field(min_length=1, max_length=60)
