"""Readings as they come from outside: probe, state and value as JSON, refused with every reason."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Annotated

from pydantic import Field, TypeAdapter, ValidationError

from strom_engine.design import Design, State
from strom_engine.design.fields import Frozen
from strom_engine.design.state import check_state
from strom_engine.design.validation import problems_from_pydantic
from strom_engine.errors import Problem, StateError
from strom_engine.prove.instruments import Measures
from strom_engine.prove.predictions import Reading
from strom_engine.prove.probing import Probe

__all__ = ["AskedReading", "read_asked", "read_readings"]

Share = Annotated[float, Field(ge=0, le=1, allow_inf_nan=False)]
Value = Annotated[float, Field(ge=-1e6, le=1e6, allow_inf_nan=False)]


class _ProbeTold(Frozen):
    measures: Measures
    plus: str = ""
    minus: str = ""
    cable: str = ""
    towards: str = ""

    @property
    def probe(self) -> Probe:
        """The same as the engine holds it."""
        return Probe(**self.model_dump())


class AskedReading(Frozen):
    """Where a meter is held and in which state; ``charged`` is charge [-] gained since by bank."""

    probe: _ProbeTold
    state: State = State()
    charged: Mapping[str, Share] = {}


class _ReadingTold(AskedReading):
    value: Value


_READINGS = TypeAdapter(tuple[_ReadingTold, ...])


def read_asked(raw: object, design: Design) -> AskedReading:
    """A reading that is asked for. Raises StateError for what is not aboard.

    Args:
        raw: JSON data.
        design: the boat.
    """
    try:
        asked = AskedReading.model_validate(raw)
    except ValidationError as error:
        raise StateError(problems_from_pydantic(error)) from None
    _known(asked, design, "")
    return asked


def read_readings(raw: object, design: Design) -> tuple[Reading, ...]:
    """Readings with their values [V or A]. Raises StateError for what is not aboard.

    Args:
        raw: a list of JSON data.
        design: the boat.
    """
    try:
        told = _READINGS.validate_python(raw)
    except ValidationError as error:
        raise StateError(problems_from_pydantic(error)) from None
    for n, one in enumerate(told):
        _known(one, design, f"[{n}].")
    return tuple(Reading(one.probe.probe, one.state, one.value) for one in told)


def _known(asked: AskedReading, design: Design, at: str) -> None:
    """Posts, cable and state are those of the boat."""
    probe, problems = asked.probe, list[Problem]()
    if probe.measures == "volts":
        problems += [
            Problem(f"{at}probe.{name}", f"there is no post {getattr(probe, name)!r}")
            for name in ("plus", "minus")
            if getattr(probe, name) not in design.post_polarity
        ]
    elif probe.cable not in design.cables_by_id:
        problems.append(Problem(f"{at}probe.cable", f"there is no cable {probe.cable!r}"))
    if problems:
        raise StateError(problems)
    check_state(design, asked.state)
