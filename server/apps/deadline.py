"""A computation that takes too long ends, in words."""

from __future__ import annotations

import time
from contextlib import AbstractContextManager

from strom_engine.errors import TooLargeError
from strom_engine.interruption import interrupted_by

__all__ = ["ends_within"]


def ends_within(seconds: float, more: str = "") -> AbstractContextManager[None]:
    """Within this, the engine's computations end after so many seconds.

    Args:
        seconds: from now on [s].
        more: a sentence after the reason, without its full stop.

    Raises:
        TooLargeError: where one would go on.
    """
    ends = time.monotonic() + seconds

    def stop_when_late() -> None:
        if time.monotonic() > ends:
            raise TooLargeError(
                f"this took longer than {seconds:g} s and was stopped: the boat has too many parts "
                f"for it, or the server too much else to do{more and f'. {more}'}"
            )

    return interrupted_by(stop_when_late)
