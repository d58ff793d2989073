"""Where a long computation asks whether it is still wanted.

The engine has no clock. Whoever calls it may give a function that raises when the computation is
to stop; the engine calls it between its pieces of work, and lets through what it raises.
"""

from __future__ import annotations

from collections.abc import Callable, Iterator
from contextlib import contextmanager
from contextvars import ContextVar

__all__ = ["interrupted_by", "may_stop"]

_ask: ContextVar[Callable[[], None] | None] = ContextVar("ask whether to stop", default=None)


@contextmanager
def interrupted_by(ask: Callable[[], None]) -> Iterator[None]:
    """Within this, computations call ``ask`` now and then; what it raises ends them.

    Args:
        ask: called with nothing; raises to stop.
    """
    token = _ask.set(ask)
    try:
        yield
    finally:
        _ask.reset(token)


def may_stop() -> None:
    """Ask whether to go on. Called between pieces of work of milliseconds."""
    ask = _ask.get()
    if ask is not None:
        ask()
