"""Every error the engine raises on purpose, in one tree.

StromError
 +- DesignError        a document that is not a valid design; carries all problems
 +- ChangeError        a named change that cannot be applied to this design
 +- StateError         a state of the boat that names what is not there
 +- NotSettledError    the operating point found no consistent set of modes
 +- ReferenceDataError a table of figures is damaged or lacks an entry
"""

from __future__ import annotations

from dataclasses import dataclass

__all__ = [
    "ChangeError",
    "DesignError",
    "NotSettledError",
    "Problem",
    "ReferenceDataError",
    "StateError",
    "StromError",
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


class DesignError(StromError):
    """Raised when a document is not a valid design; all problems are collected."""

    def __init__(self, problems: list[Problem]) -> None:
        super().__init__("; ".join(str(p) for p in problems), tuple(problems))


class ChangeError(StromError):
    """Raised when a named change does not fit the design it is applied to."""


class StateError(StromError):
    """Raised when a state names a switch, position, profile or bank that is not there."""

    def __init__(self, problems: list[Problem]) -> None:
        super().__init__("; ".join(str(p) for p in problems), tuple(problems))


class NotSettledError(StromError):
    """Raised when the active set does not settle; names the parts that keep changing mode."""

    def __init__(self, parts: tuple[str, ...]) -> None:
        super().__init__(
            "the operating point does not settle; these parts keep changing mode: "
            + ", ".join(parts)
        )
        self.parts = parts


class ReferenceDataError(StromError):
    """Raised when a reference table is damaged or lacks the entry asked for."""
