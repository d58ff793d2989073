"""The drill of a variant: scenes that a worker computed, played with the real computation."""

from __future__ import annotations

from datetime import datetime
from typing import cast

from django.utils import timezone
from pydantic import TypeAdapter
from strom_engine.dayrun import SchoolId
from strom_engine.design.state import battery_switches, position_name, switch_positions
from strom_engine.errors import ChangeError, Problem
from strom_engine.handover import (
    Aboard,
    DrillMove,
    Language,
    Line,
    SaidLine,
    Scene,
    played,
    said_line,
    scenes,
    standing_of,
)

from apps.handover.models import HandoverEntry
from apps.handover.queries import made_from
from apps.handover.schemas import DrillOut, PlayedOut, PositionName, ReplyOut, SceneOut
from apps.jobs.documents import head_survey, surveyed_design
from apps.jobs.models import Variant
from apps.jobs.queue import Status
from apps.prints.actions import ask_for, made_already
from apps.prints.makers import Ask
from apps.prints.models import Print

__all__ = ["ask_scenes", "drill_of", "made", "play"]

_SCENES = TypeAdapter(tuple[Scene, ...])
KIND = "drill"


def made(variant: Variant, ask: Ask) -> bytes:
    """What a worker makes: the scenes of a variant for a handling, as JSON."""
    return _SCENES.dump_json(scenes(_aboard(variant, cast(SchoolId, ask["school"]))))


def ask_scenes(variant: Variant, school: SchoolId) -> Print:
    """The scenes that are there, or new ones in the queue."""
    return ask_for(variant, KIND, {"school": school}, made_from(variant), "scenes")


def drill_of(variant: Variant, school: SchoolId, language: Language) -> DrillOut:
    """Scenes in words, the due ones first."""
    found = _scenes(variant, school)
    by_key = {s.key: s for s in found or ()}
    kept = HandoverEntry.objects.filter(variant=variant, kind=HandoverEntry.Kind.DRILL)
    results: list[tuple[str, datetime, bool]] = [
        (e.target, e.at, e.value["outcome"] == "right") for e in kept
    ]
    standings = standing_of(list(by_key), results, timezone.now())
    return DrillOut(
        school=school,
        ready=found is not None,
        scenes=[
            SceneOut(
                key=standing.scene,
                head=(line := _said(by_key[standing.scene], language)).head,
                text=line.text,
                goal=by_key[standing.scene].goal,
                grade=by_key[standing.scene].grade,
                times=standing.times,
                in_a_row=standing.in_a_row,
                due=standing.due,
                is_due=standing.is_due,
            )
            for standing in standings
        ],
    )


def play(
    variant: Variant, school: SchoolId, language: Language, key: str, moves: list[DrillMove]
) -> PlayedOut:
    """A scene with the moves made so far. Raises ChangeError where there is no such scene."""
    scene = next((s for s in _scenes(variant, school) or () if s.key == key), None)
    if scene is None:
        text = "there is no such scene: have the scenes of this boat computed first"
        raise ChangeError(text, (Problem("scene", text),))
    aboard = _aboard(variant, school)
    now = played(aboard, scene, moves)
    return PlayedOut(
        engine=now.engine,
        switches=list(now.switches),
        positions={
            s.id: [PositionName(position=p, words=position_name(s, p)) for p in switch_positions(s)]
            for s in battery_switches(aboard.design)
        },
        replies=[
            ReplyOut(line=said_line(r.line, language), outcome=r.outcome, volts_v=dict(r.volts_v))
            for r in now.replies
        ],
        outcome=now.outcome,
        hint=scene.hint if now.outcome != "open" else "",
    )


def _said(scene: Scene, language: Language) -> SaidLine:
    return said_line(Line(f"scene.{scene.words}", {"number": float(scene.number)}), language)


def _aboard(variant: Variant, school: SchoolId) -> Aboard:
    return Aboard(surveyed_design(variant), head_survey(variant), school)


def _scenes(variant: Variant, school: SchoolId) -> tuple[Scene, ...] | None:
    """The scenes that a worker has computed of the variant as it stands."""
    kept = made_already(variant, KIND, {"school": school}, made_from(variant))
    if kept is None or kept.status != Status.DONE:
        return None
    return _SCENES.validate_json(bytes(kept.content or b"[]"))
