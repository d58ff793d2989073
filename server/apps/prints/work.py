"""One file, made in a worker."""

from __future__ import annotations

import logging
import time
from collections.abc import Callable

from strom_engine.errors import StromError, TooLargeError
from strom_engine.interruption import interrupted_by

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
        with interrupted_by(_late_after(time.monotonic() + MOST_S)):
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


def _late_after(ends: float) -> Callable[[], None]:
    def stop_when_late() -> None:
        if time.monotonic() > ends:
            raise TooLargeError(
                f"this took longer than {MOST_S:g} s and was stopped: the boat has too many parts "
                "for it, or the server too much else to do"
            )

    return stop_when_late


def _keep(one: Print, status: Status, **fields: object) -> None:
    Print.objects.filter(pk=one.pk).update(status=status, **fields)
