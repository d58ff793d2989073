"""Every error the engine raises on purpose, in one tree.

StromError
 +- CollectedError     several things wrong at once, each with its path:
 |   +- DesignError        a document that is not a valid design
 |   +- SurveyError        a document that is not a valid survey
 |   +- StockError         a document that is not a valid stock list
 |   +- JobFileError       a file that is not a job file, or holds what is not sound
 |   +- TableError         rows of a table that cannot be used
 |   +- StateError         a state of the boat that names what is not there
 |   +- PlanError          a plan of a day that cannot be run with this design
 |   +- FaultError         a fault that this design cannot have
 +- DocumentError      a document that was kept once and cannot be read any more
 +- ChangeError        a named change that cannot be applied to this design
 +- ComputationError   a circuit whose equations have no solution in numbers
 +- NotSettledError    the operating point found no consistent set of modes
 +- DayRunError        a day in which the circuit finds no rest at some moment
 +- TooLargeError      more was asked for than is computed in one go, or than there was time for
 +- ReferenceDataError a table of figures is damaged or lacks an entry
"""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from contextlib import contextmanager
from dataclasses import dataclass

__all__ = [
    "ChangeError",
    "CollectedError",
    "ComputationError",
    "DayRunError",
    "DesignError",
    "DocumentError",
    "FaultError",
    "JobFileError",
    "NotSettledError",
    "PlanError",
    "Problem",
    "ReferenceDataError",
    "StateError",
    "StockError",
    "StromError",
    "SurveyError",
    "TableError",
    "TooLargeError",
    "computing",
]


@dataclass(frozen=True)
class Problem:
    """One thing that is wrong, with the path in the document where it stands."""

    path: str
    message: str

    def __str__(self) -> str:
        return f"{self.path}: {self.message}" if self.path else self.message


class StromError(Exception):
    """Base of every error raised on purpose."""

    def __init__(self, message: str, problems: tuple[Problem, ...] = ()) -> None:
        super().__init__(message)
        self.problems = problems or (Problem("", message),)


class CollectedError(StromError):
    """An error that says everything that is wrong at once."""

    def __init__(self, problems: Sequence[Problem]) -> None:
        super().__init__("; ".join(str(p) for p in problems), tuple(problems))


class DesignError(CollectedError):
    """Raised when a document is not a valid design."""


class SurveyError(CollectedError):
    """Raised when a document, or a row of one, is not a valid survey."""


class JobFileError(CollectedError):
    """Raised when a file is not a job file, or what it holds is not sound."""


class StockError(CollectedError):
    """Raised when a document is not a valid stock list of a workshop."""


class TableError(CollectedError):
    """Raised when rows read from a table of a file cannot be used."""


class FaultError(CollectedError):
    """Raised when a fault is named that a design cannot have."""


class DocumentError(StromError):
    """Raised when a document that was kept cannot be read any more."""


class ChangeError(StromError):
    """Raised when a named change does not fit the design it is applied to."""


class StateError(CollectedError):
    """Raised when a state names a switch, position, profile or bank that is not there."""


class PlanError(CollectedError):
    """Raised when a plan of a day is not sound or does not fit the design; all are collected."""


class ComputationError(StromError):
    """Raised when the equations of a circuit have no solution in numbers; names the parts."""

    def __init__(self, why: str, parts: tuple[str, ...] = ()) -> None:
        named = f"; look at {', '.join(parts)}" if parts else ""
        super().__init__(f"cannot be computed: {why}{named}")
        self.parts = parts


class TooLargeError(StromError):
    """Raised when more is asked for than is computed in one go, or than there was time for."""


class NotSettledError(StromError):
    """Raised when the active set does not settle; names the parts that keep changing mode."""

    def __init__(self, parts: tuple[str, ...]) -> None:
        super().__init__(
            "the operating point does not settle; these parts keep changing mode: "
            + ", ".join(parts)
        )
        self.parts = parts


class DayRunError(StromError):
    """Raised when a day cannot be followed further: at an hour of the clock parts find no rest."""

    def __init__(self, clock_h: float, parts: tuple[str, ...]) -> None:
        hours, minutes = divmod(round(clock_h * 60), 60)
        day = f" of day {hours // 24 + 1}" if hours >= 24 else ""
        super().__init__(
            f"at {hours % 24:02d}:{minutes:02d}{day} the circuit does not settle; these parts "
            f"keep changing: {', '.join(parts)}"
        )
        self.parts = parts


@contextmanager
def computing(what: str) -> Iterator[None]:
    """Turn what arithmetic throws in a computation into a ComputationError that says of what.

    ``what`` is a phrase such as *rule CH-1*. numpy's LinAlgError is a ValueError.

    Args:
        what: a phrase such as *rule CH-1*.

    Raises:
        ComputationError: for ArithmeticError, ValueError and the like thrown within.
    """
    try:
        yield
    except StromError:
        raise
    except (ArithmeticError, ValueError) as error:
        raise ComputationError(f"{what} gives no number ({error})") from error


class ReferenceDataError(StromError):
    """Raised when a reference table is damaged or lacks the entry asked for."""
