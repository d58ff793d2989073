"""What records say of a boat: asked for, made in a worker, kept until the boat is another."""

from __future__ import annotations

import logging
from hashlib import sha256
from typing import cast

from pydantic import TypeAdapter
from strom_engine.errors import StromError
from strom_engine.records import DrivenBy, HeldAgainst, Shunted, countable_days, held_against

from apps.build.queries import found_of
from apps.days.plans import usual_school
from apps.jobs.documents import contents, head_survey, surveyed_design
from apps.jobs.models import Variant
from apps.jobs.queue import AWAY, Status
from apps.logbook.blocks import trace_of
from apps.logbook.models import Record, RecordAnalysis
from apps.logbook.schemas import AnalysisOut, State

__all__ = ["analyse", "analysis_out", "made_from"]

MOST_ROWS = 300_000
HELD = TypeAdapter(HeldAgainst)
FAILED_WORDS = "the program failed on these records, and the failure was noted"
_log = logging.getLogger(__name__)


def made_from(variant: Variant, record: Record) -> str:
    """A digest of all that an analysis is made from."""
    of_record = (record.pk, record.rows, record.driven, record.layout["zone"])
    told = (contents(variant), of_record, usual_school(variant))
    return sha256(repr(told).encode()).hexdigest()


def analyse(analysis_id: int) -> None:
    """Make one; done again at any time, it comes to the same."""
    related = RecordAnalysis.objects.select_related(
        "record__job", "variant__job__survey", "variant__job__workshop"
    )
    one = related.filter(pk=analysis_id).first()
    if one is None or one.status in (Status.DONE, Status.FAILED):
        return
    _set(one, status=Status.RUNNING)
    try:
        held = _held(one.variant, one.record)
    except AWAY:
        raise
    except StromError as error:
        _set(one, status=Status.FAILED, problem=str(error))
    except Exception:
        # Whatever it is, an analysis that cannot be made ends, and says so.
        _log.exception("analysis %s failed", one.pk)
        _set(one, status=Status.FAILED, problem=FAILED_WORDS)
    else:
        _set(one, status=Status.DONE, document=HELD.dump_python(held, mode="json"))


def _held(variant: Variant, record: Record) -> HeldAgainst:
    trace = trace_of([record])
    trace = trace.part(max(0, len(trace) - MOST_ROWS), len(trace))
    shunt = Shunted(record.bank, record.layout["zone"], driven=cast(DrivenBy, record.driven))
    return held_against(
        surveyed_design(variant), head_survey(variant), trace, shunt, usual_school(variant)
    )


def _set(one: RecordAnalysis, **fields: object) -> None:
    RecordAnalysis.objects.filter(pk=one.pk).update(**fields)


def analysis_out(variant: Variant, record: Record, one: RecordAnalysis | None) -> AnalysisOut:
    """An analysis as it is shown; one of the boat as she was is told as outdated."""
    if one is None:
        return AnalysisOut(status="none", outdated=True)
    held = None if one.document is None else HELD.validate_python(one.document)
    # Which of her variants she was while it was recorded, nobody has said.
    designs = [surveyed_design(v) for v in (variant, found_of(variant)) if v is not None]
    return AnalysisOut(
        status=cast(State, one.status),
        outdated=one.made_from != made_from(variant, record),
        problem=one.problem,
        held=held,
        counted=None
        if held is None
        else countable_days(held.told, designs, head_survey(variant), record.bank),
    )
