"""One file, made in a worker."""

from __future__ import annotations

import logging

from strom_engine.errors import StromError

from apps.deadline import ends_within
from apps.jobs.queue import AWAY, MOST_S, Status
from apps.prints.makers import maker
from apps.prints.models import Print

__all__ = ["make_print"]

FAILED_WORDS = "the program failed on this file, and the failure was noted"
_log = logging.getLogger(__name__)


def make_print(print_id: str) -> None:
    """Make a file and keep it; done again at any time, it is the same."""
    prints = Print.objects.select_related("variant__job__survey", "variant__job__workshop")
    one = prints.filter(pk=print_id).first()
    if one is None or one.status in (Status.DONE, Status.FAILED):
        return
    Print.objects.filter(pk=one.pk).update(status=Status.RUNNING)
    try:
        with ends_within(MOST_S):
            content = maker(one.kind)(one.variant, one.ask)
    except StromError as error:
        _keep(one, Status.FAILED, problem=str(error))
    except AWAY:
        raise  # the database is away: the queue takes it up again
    except Exception:
        # Whatever it is, a file that cannot be made ends, and says so.
        _log.exception("print %s failed", one.pk)
        _keep(one, Status.FAILED, problem=FAILED_WORDS)
    else:
        _keep(one, Status.DONE, content=content)


def _keep(one: Print, status: Status, **fields: object) -> None:
    Print.objects.filter(pk=one.pk).update(status=status, **fields)
