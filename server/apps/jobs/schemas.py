"""What the job endpoints take and give: typed, from the engine's own types."""

from datetime import datetime
from typing import Annotated, Literal
from uuid import UUID

from ninja import Schema
from pydantic import Field, StringConstraints
from strom_engine.advice import PatternAdvice, Refusal, SchemeComparison
from strom_engine.build import Costs
from strom_engine.circuit import OperatingPoint, PositionCard, Reach
from strom_engine.circuit.bench import Cell
from strom_engine.design import Change, Design, State
from strom_engine.design.choices import CableEnd
from strom_engine.design.differences import Difference
from strom_engine.design.fields import Name, Text
from strom_engine.drawing import Layout
from strom_engine.rules import Finding, Standing
from strom_engine.survey import CableLength, SurveyChange

__all__ = [
    "AdviceOut",
    "BenchOut",
    "ChangeIn",
    "ChoiceOut",
    "CompareOut",
    "CopyIn",
    "EditIn",
    "EditsOut",
    "FindingsOut",
    "FoundIn",
    "LandingChoice",
    "LandingOut",
    "PatternIn",
    "PositionsOut",
    "PostOut",
    "PreviewOut",
    "ProblemOut",
    "RestoreIn",
    "RevisionIn",
    "RevisionOut",
    "SavedOut",
    "SchemeOut",
    "SurveyChangeIn",
    "SwitchOut",
    "WaiverOut",
]

RevisionNumber = Field(ge=1, le=2_000_000_000)
GivenName = Name
GivenWords = Annotated[
    Text, StringConstraints(strip_whitespace=True, min_length=3, max_length=1000)
]
Ref = Annotated[str, StringConstraints(max_length=100, pattern=r"^[^\x00]*$")]


class ProblemItem(Schema):
    """One field that is wrong, and why."""

    path: str
    message: str


class ProblemOut(Schema):
    """A problem document (RFC 9457)."""

    type: str
    title: str
    status: int
    detail: str
    errors: list[ProblemItem]
    current_revision: int | None = None
    kept_revision: int | None = None
    saved_meanwhile: list[str] | None = None


class CopyIn(Schema):
    """The name of a new variant, and the pattern it is rewired as, if any."""

    name: GivenName
    pattern: str | None = Field(default=None, max_length=40)


class PatternIn(Schema):
    """A pattern to rewire a variant as."""

    base_revision: int = RevisionNumber
    pattern: str = Field(max_length=40)


class AdviceOut(Schema):
    """Patterns ranked for this boat, the best first, and those that do not fit."""

    revision: int
    advice: list[PatternAdvice]
    refused: list[Refusal]
    confirm: str


class PreviewOut(Schema):
    """What a pattern would make of a variant, before it does.

    ``by_nature`` are dangers and faults that no size heals, ``decided`` what was chosen beside the
    wiring.
    """

    revision: int
    pattern: str
    name: str
    design: Design
    positive: Layout
    cable_names: dict[str, str]
    differences: list[Difference]
    point: OperatingPoint
    standing: Standing
    by_nature: list[str]
    decided: list[str]


class CompareOut(Schema):
    """Two variants of one job side by side, with what each costs to build.

    ``costs`` is None for the boat as found: nothing is to be done for it.
    """

    first: UUID
    second: UUID
    comparison: SchemeComparison
    points: list[OperatingPoint]
    costs: list[Costs | None]


class PostOut(Schema):
    """A post with the cables on it, from the seat up."""

    post: str
    stack: list[str]
    gathers: bool


class ChoiceOut(Schema):
    """Something that can be done, by its kind and in words."""

    kind: str
    words: str


class LandingChoice(Schema):
    """An end of a cable and a post that it could land on."""

    end: CableEnd
    post: str


class EditsOut(Schema):
    """What can be done with a cable or a part."""

    revision: int
    insert: list[ChoiceOut] = Field(default_factory=list)
    before_switch: list[LandingChoice] = Field(default_factory=list)
    swap: list[ChoiceOut] = Field(default_factory=list)
    posts: list[PostOut] = Field(default_factory=list)


class EditIn(Schema):
    """An edit that the engine works out into a named change.

    ``insert`` a part of a kind into the cable ``at``, ``swap`` the part ``at`` for one of a
    kind, ``gather`` the cables of the post ``at`` on a bus of a kind.
    """

    base_revision: int = RevisionNumber
    edit: Literal["insert", "swap", "gather"]
    at: Ref
    kind: Ref


class SwitchOut(Schema):
    """Something with positions, as the conditions tray shows it.

    ``marks`` is what stands on the switch itself by position; a ``control`` switch only disables
    a relay or a coil.
    """

    id: str
    name: str
    kind: str
    position: str
    positions: list[str]
    marks: dict[str, str]
    control: bool


class SavedOut(Schema):
    """A document as it is saved; ``undo_at`` and ``redo_at`` tell when that was done."""

    revision: int
    can_undo: str | None
    can_redo: str | None
    undo_at: datetime | None
    redo_at: datetime | None


class SchemeOut(SavedOut):
    """Everything of a variant, as surveyed, that stays while its conditions change."""

    variant: UUID
    job: UUID
    name: str
    survey_revision: int
    design: Design
    cable_names: dict[str, str]
    cable_lengths: list[CableLength]
    post_names: dict[str, str]
    switches: list[SwitchOut]
    positive: Layout
    negative: Layout


class WaiverOut(Schema):
    """A waiver: whose finding, why, who answers for it, since when.

    ``lapsed``: the finding has become graver since, and counts again.
    """

    id: UUID
    finding: str
    rule: str
    title: str
    reason: str
    revision: int
    author: str | None
    created: datetime
    lapsed: bool


class FindingsOut(Schema):
    """Findings of a revision, gravest first.

    ``stages`` gives the stage of each rule; ``safe`` the keys of findings whose repair is safe to
    make at once; ``waivers`` those that somebody answers for, whether they are found now or not.
    """

    revision: int
    survey_revision: int
    findings: list[Finding]
    confirm: str
    stages: dict[str, str]
    safe: list[str]
    waivers: list[WaiverOut]
    standing: Standing


class BenchOut(Schema):
    """One state, solved; ``revision`` tells which version of the variant it is of."""

    revision: int
    state: State
    point: OperatingPoint
    reach: Reach
    loads_by_bank: dict[str, dict[str, Cell]]
    sources_by_bank: dict[str, dict[str, Cell]]


class PositionsOut(Schema):
    """The position card."""

    revision: int
    card: PositionCard


class LandingOut(Schema):
    """Posts where a cable's end can land."""

    posts: list[str]


class ChangeIn(Schema):
    """A named change, and the revision it was made on."""

    base_revision: int = RevisionNumber
    change: Change


class SurveyChangeIn(Schema):
    """A named change of a survey; with ``loads_of`` the audit of that variant comes back too."""

    base_revision: int = RevisionNumber
    change: SurveyChange
    loads_of: UUID | None = None


class FoundIn(Schema):
    """A part found aboard: what it is, where it stands, the bank it lands on."""

    base_revision: int = RevisionNumber
    kind: str
    name: GivenName
    place: Ref | None = None
    bank: Ref | None = None


class RevisionIn(Schema):
    """The revision that an undo or redo was asked on."""

    base_revision: int = RevisionNumber


class RestoreIn(Schema):
    """Which version to go back to."""

    base_revision: int = RevisionNumber
    revision: int = RevisionNumber


class RevisionOut(Schema):
    """A version in the history."""

    number: int
    kind: Literal["import", "change", "undo", "redo", "restore", "aside"]
    words: str
    author: str | None
    created: datetime
    is_head: bool
