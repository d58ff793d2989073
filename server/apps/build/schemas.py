"""What the endpoints of the stage Build take and give."""

from datetime import datetime
from typing import Annotated, Literal
from uuid import UUID

from ninja import Schema
from pydantic import Field
from strom_engine.build import BuildBook
from strom_engine.design.fields import Price, Text
from strom_engine.rules import Finding

from apps.jobs.schemas import ProblemItem

__all__ = [
    "FIELDS",
    "BuildOut",
    "BuildState",
    "CutIn",
    "EntriesIn",
    "EntryIn",
    "EntryKind",
    "EntryOut",
    "PackIn",
    "PartsFileOut",
    "PartsRowOut",
    "PriceIn",
    "PricesIn",
]

EntryKind = Literal["tick", "received", "length", "note", "photo", "order"]
Paper = Literal["A4", "letter"]
Sheet = Literal["all", "work", "parts", "cuts", "labels", "boards", "steps"]
# Which field of an entry its kind is told in.
FIELDS = {
    "tick": "done",
    "received": "count",
    "length": "length_m",
    "note": "text",
    "photo": "photo",
    "order": "keys",
}
Target = Annotated[str, Field(min_length=1, max_length=160)]


class EntryIn(Schema):
    """One entry as a device made it; only the field of its kind counts.

    ``done`` of a tick; ``count`` received; ``length_m`` measured [m]; ``text`` of a note;
    ``photo``, the id of a photograph of the job; ``keys`` of steps in an order of one's own.
    """

    id: UUID
    kind: EntryKind
    target: Target
    at: datetime
    revision: int = Field(ge=1, le=2_000_000_000)
    done: bool | None = None
    count: Annotated[float, Field(ge=0, le=100_000, allow_inf_nan=False)] | None = None
    length_m: Annotated[float, Field(ge=0.05, le=200, allow_inf_nan=False)] | None = None
    text: Annotated[Text, Field(max_length=1000)] | None = None
    photo: UUID | None = None
    keys: Annotated[list[Target], Field(max_length=400)] | None = None


class EntriesIn(Schema):
    """Entries in the order in which they were made; the same one may come twice."""

    entries: list[EntryIn] = Field(min_length=1, max_length=500)


class CutIn(Schema):
    """A reel and the pieces that were cut from it: the rest goes back to the stock."""

    reel: Target
    pieces: list[Target] = Field(min_length=1, max_length=200)
    entry: UUID


class PriceIn(Schema):
    """A line of the price list by the item of a parts line; what is left out stays as it is."""

    item: Target
    price: Price | None = None
    kept: Annotated[float, Field(ge=0, le=100_000, allow_inf_nan=False)] = 0.0
    instead: Annotated[Text, Field(max_length=400)] = ""
    note: Annotated[Text, Field(max_length=400)] = ""


class PricesIn(Schema):
    """Lines of the workshop's price list."""

    rows: list[PriceIn] = Field(min_length=1, max_length=400)


class PackIn(Schema):
    """The build pack or one sheet of it; labels lie on a page in ``columns`` by ``rows``."""

    paper: Paper = "A4"
    sheet: Sheet = "all"
    columns: int = Field(default=4, ge=1, le=8)
    rows: int = Field(default=13, ge=1, le=30)


class PartsRowOut(Schema):
    """What a row of a table says about a line of the parts list; None where it says nothing."""

    key: str
    item: str
    what: str
    price: float | None
    kept: float | None
    received: float | None
    instead: str | None
    note: str | None


class PartsFileOut(Schema):
    """A table of prices and receipts as it could be read; nothing is saved."""

    rows: list[PartsRowOut]
    problems: list[ProblemItem]
    notes: list[str]
    read: int


class EntryOut(Schema):
    """An entry as it is kept; ``outdated``: made on an earlier revision of the design."""

    id: UUID
    kind: EntryKind
    target: str
    at: datetime
    revision: int
    author: str | None
    outdated: bool
    done: bool | None = None
    count: float | None = None
    length_m: float | None = None
    text: str | None = None
    photo: UUID | None = None
    keys: list[str] | None = None


class BuildState(Schema):
    """What stands after all entries: the latest of each kind about each thing.

    ``lost`` are entries about what the design no longer has: kept, and asked about.
    """

    ticks: dict[str, EntryOut]
    received: dict[str, EntryOut]
    lengths: dict[str, EntryOut]
    notes: list[EntryOut]
    photos: list[EntryOut]
    lost: list[EntryOut]
    steps_done: int
    next_step: str | None


class BuildOut(Schema):
    """The stage Build of a variant, all that a phone aboard needs in one answer."""

    revision: int
    variant: UUID
    against: str | None
    book: BuildBook
    findings: list[Finding]
    state: BuildState
    currency: str
    confirm: str
