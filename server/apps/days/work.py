"""One piece of a study: run in a worker, told how far it is, cancelled on the way."""

from __future__ import annotations

import logging
import time
from typing import Any

from django.db import transaction
from strom_engine.dayrun import (
    Day,
    Limits,
    Plan,
    day_of_case,
    day_run,
    day_sheet,
    kept_moments,
    outcome_of,
)
from strom_engine.errors import StromError, TooLargeError
from strom_engine.rules import DayRun, day_findings
from strom_engine.survey import Survey, surveyed

from apps.days.models import Piece, Study
from apps.days.plans import case_named
from apps.days.result_shapes import FINDINGS, MOMENTS, OUTCOME, SHEET
from apps.days.sweeps import day_of_sweep
from apps.jobs.documents import document_at
from apps.jobs.models import Variant
from apps.jobs.queue import AWAY, MOST_S, Status

__all__ = ["run_piece"]

TELL_EVERY_S = 0.4
FAILED_WORDS = "the program failed on this day, and the failure was noted"
_log = logging.getLogger(__name__)


class CancelledError(Exception):
    """The study was cancelled while a piece of it was run."""


def run_piece(piece_id: int) -> None:
    """Compute a piece and keep what comes of it; done or cancelled ones are left alone.

    It can be done again at any time: what a worker had of it when it died is thrown away.
    """
    piece = Piece.objects.select_related("study__job").filter(pk=piece_id).first()
    if piece is None or piece.status in (Status.DONE, Status.FAILED, Status.CANCELLED):
        return
    Piece.objects.filter(pk=piece.pk).update(status=Status.RUNNING, progress=0.0)
    Study.objects.filter(pk=piece.study_id, status=Status.WAITING).update(status=Status.RUNNING)
    try:
        outcome, result = _run(piece)
        _keep(piece, Status.DONE, outcome=outcome, result=result, progress=1.0)
    except CancelledError:
        _keep(piece, Status.CANCELLED)
    except StromError as error:
        _keep(piece, Status.FAILED, problem=str(error))
    except AWAY:
        raise  # the database is away: the queue takes the piece up again
    except Exception:
        # Whatever it is, a piece that cannot be done ends, and says so.
        _log.exception("piece %s of study %s failed", piece.pk, piece.study_id)
        _keep(piece, Status.FAILED, problem=FAILED_WORDS)


def _run(piece: Piece) -> tuple[Any, Any]:
    """The outcome of a piece, and its sheet where the study is of one day. JSON data."""
    task = piece.task
    tell = _Telling(piece).tell
    if piece.study.kind == Study.Kind.SWEEP and task["case"] is not None:
        return _outcome(day_of_sweep(piece.study_id, task, tell)), None
    variant = Variant.objects.select_related("job__survey").get(pk=task["variant"])
    design = document_at(variant, task["revision"])
    survey: Survey = document_at(variant.job.survey, task["survey_revision"])
    plan = Plan.model_validate(task["plan"])
    limits = Limits(brief=piece.study.kind != Study.Kind.DAY, progress=tell)
    if task["case"] is None:
        day = day_run(design, survey, plan, None, limits)
    else:
        case = case_named(design, survey, plan, task["case"])
        day = day_of_case(design, survey, plan, case, limits)
    if piece.study.kind != Study.Kind.DAY:
        return _outcome(day), None
    sheet = day_sheet(day)
    ran = DayRun(surveyed(design, survey), survey, plan, sheet.report)
    found = day_findings(ran) if task["case"] is None else ()
    return _outcome(day), {
        "sheet": SHEET.dump_python(sheet, mode="json"),
        "moments": MOMENTS.dump_python(kept_moments(day), mode="json"),
        "findings": FINDINGS.dump_python(found, mode="json"),
    }


def _outcome(day: Day) -> Any:
    return OUTCOME.dump_python(outcome_of(day), mode="json")


class _Telling:
    """Writes the progress of a piece down now and then, and looks whether it is still wanted."""

    def __init__(self, piece: Piece) -> None:
        self._piece = piece
        self._next = 0.0
        self._ends = time.monotonic() + MOST_S

    def tell(self, share: float) -> None:
        now = time.monotonic()
        if now < self._next:
            return
        self._next = now + TELL_EVERY_S
        if now > self._ends:
            raise TooLargeError(
                f"stopped after {MOST_S:g} s, when {share:.0%} of this plan was computed: make it "
                "shorter, or look for gear that opens and closes without end"
            )
        wanted = Study.objects.filter(pk=self._piece.study_id).exclude(status=Status.CANCELLED)
        if not wanted.exists():
            raise CancelledError
        Piece.objects.filter(pk=self._piece.pk).update(progress=share)


def _keep(piece: Piece, status: Status, **fields: Any) -> None:
    """Keep the end of a piece, and of its study when it was the last one."""
    with transaction.atomic():
        study = Study.objects.select_for_update().get(pk=piece.study_id)
        Piece.objects.filter(pk=piece.pk).update(status=status, **fields)
        left = study.pieces.filter(status__in=(Status.WAITING, Status.RUNNING))
        if study.status != Status.CANCELLED and not left.exists():
            alone = study.kind == Study.Kind.DAY and status == Status.FAILED
            study.status = Status.FAILED if alone else Status.DONE
            study.save(update_fields=["status"])
